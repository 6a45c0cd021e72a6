"""Sick and sound trees drawn with a model that is not the engine's: a latent severity, descriptions with
errors, causes nobody holds, observers who miss and mistake. It measures consistency, not truth.

Draws from a `Random` passed in.
"""

from __future__ import annotations

import datetime
import math
from collections.abc import Sequence
from dataclasses import dataclass
from random import Random
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.scores import calibration_error
from jubark_core.season.calendars import HOME, calendars
from jubark_core.season.days import day_of_year
from jubark_core.signs.case import HealthCase, read_health_case
from jubark_core.signs.diagnose import shares_of
from jubark_core.signs.hosts import is_among
from jubark_core.signs.hypotheses import NORMAL_ID, NOTHING_ID, UNKNOWN_ID, normals_here, worst
from jubark_core.signs.likelihood import COUNTED, can_be_seen, in_time, shown
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause, CauseSign
from jubark_core.signs.prior import prior_weight
from jubark_core.signs.weigh import weigh

HARMLESS_TOO = 0.5  # half of the trees have something harmless besides
SOUND, SICK_UNKNOWN = 0.45, 0.06  # trees with nothing else; ill by what nobody holds here
MISSING_SIGNS = 0.10  # of a description's signs, those the real cause does not make
FINDS, LOOKED_FOR = 0.75, 4
MISTAKEN = 0.15  # chance of a sign reported that nothing made; of another one again
MONTH_DAYS = ((1, 20), (3, 20), (5, 20), (6, 25), (7, 20), (8, 20), (10, 5), (11, 20))
# Trees of streets, parks and woods about the reference place.
HOSTS = (
    *(
        "fraxinus-americana",
        "acer-saccharum",
        "acer-rubrum",
        "quercus-rubra",
        "quercus-alba",
        "quercus-palustris",
    ),
    *(
        "fagus-grandifolia",
        "ulmus-americana",
        "tsuga-canadensis",
        "pinus-strobus",
        "pinus-nigra",
        "picea-pungens",
    ),
    *(
        "betula-pendula",
        "malus-domestica",
        "prunus-serotina",
        "buxus-sempervirens",
        "celtis-occidentalis",
    ),
    *("juglans-nigra", "tilia-cordata", "platanus-occidentalis", "cornus-florida", "larix-decidua"),
    *("rhododendron-maximum", "thuja-occidentalis"),
)
GRAVE = ("serious", "kills")
CALM = ("harmless",)
SUSPECTED, REASSURED, ALARMED = 0.2, 0.5, 0.5


@dataclass(frozen=True)
class SickTree:
    """A virtual tree as an observer reports it. truth: the worst of what made a reported sign."""

    raw: dict[str, Any]
    truth: str
    has: frozenset[str]


@dataclass(frozen=True)
class HealthReport:
    """What a trial found. error: calibration error of the leader, 10 bins; missed: of trees with a grave
    cause that showed, those where the answer reassures; alarmed: of the others, those called grave.
    """

    trees: int
    with_signs: int
    right: float
    error: float
    missed: float
    grave: int
    alarmed: float
    calm: int


def draw_tree(flora: Flora, rng: Random, hosts: Sequence[str]) -> SickTree:
    """One tree of the hosts, on a day of the year, with what it has and what is reported of it."""
    taxon = rng.choice(hosts)
    month, day = rng.choice(MONTH_DAYS)
    on = datetime.date(2026, month, day)
    raw: dict[str, Any] = {
        "on": on.isoformat(),
        "lat": calendars().anchors[HOME].at.lat,
        "lon": calendars().anchors[HOME].at.lon,
        "areas": ["PEN"],
        "host": [{"taxon": taxon, "probability": 1.0}],
        "signs": [],
    }
    case = read_health_case(raw, flora)
    has = _what_it_has(taxon, case, flora, rng)
    made = _signs_of(has, taxon, case, flora, rng)
    signs: list[dict[str, Any]] = []
    by: dict[str, list[str]] = {}
    for sign, makers in sorted(made.items()):
        if rng.random() < FINDS * can_be_seen(sign, taxon, case, flora):
            signs.append({"sign": sign, **_detail(rng)})
            by[sign] = makers
    words = [s for s in sorted(health().signs) if s not in COUNTED and s not in made]
    weights = [health().signs[s].noise for s in words]
    while rng.random() < MISTAKEN:
        sign = rng.choices(words, weights)[0]
        if sign not in by and can_be_seen(sign, taxon, case, flora) > rng.random():
            signs.append({"sign": sign})
            by[sign] = [NOTHING_ID]
    signs += _looked_for(taxon, case, flora, set(by), made, rng)
    raw["signs"] = signs
    truth = _truth({maker for row in by.values() for maker in row} or {NOTHING_ID})
    return SickTree(raw, truth, frozenset(has))


def _truth(makers: set[str]) -> str:
    causes = tuple(sorted(m for m in makers if m in health().causes))
    if UNKNOWN_ID in makers and not any(health().causes[c].harm in GRAVE for c in causes):
        return UNKNOWN_ID
    if causes:
        return worst(causes)
    return NORMAL_ID if NORMAL_ID in makers else NOTHING_ID


def _what_it_has(taxon: str, case: HealthCase, flora: Flora, rng: Random) -> set[str]:
    shares = {c.id: w for c in health().causes.values() if (w := prior_weight(c, taxon, case, flora)) > 0}
    has: set[str] = {NORMAL_ID}
    draw = rng.random()
    graver = {c: w for c, w in shares.items() if health().causes[c].harm not in CALM}
    harmless = {c: w for c, w in shares.items() if c not in graver}
    if draw < SICK_UNKNOWN:
        has.add(UNKNOWN_ID)
    elif draw > SICK_UNKNOWN + SOUND and graver:
        has.add(rng.choices(sorted(graver), [graver[c] for c in sorted(graver)])[0])
    if rng.random() < HARMLESS_TOO and harmless:
        has.add(rng.choices(sorted(harmless), [harmless[c] for c in sorted(harmless)])[0])
    return has


def _signs_of(has: set[str], taxon: str, case: HealthCase, flora: Flora, rng: Random) -> dict[str, list[str]]:
    """Sign -> what makes it. One latent severity for each cause; a tenth of a description is wrong."""
    found: dict[str, list[str]] = {}
    day = day_of_year(case.on)
    for what in sorted(has):
        if what == NORMAL_ID:
            for normal in normals_here(taxon, case, flora):
                for sign, share in normal.signs.items():
                    # people report what is normal only now and then
                    if rng.random() < share * 0.25:
                        found.setdefault(sign, []).append(NORMAL_ID)
            continue
        source: Cause | None = health().causes.get(what)
        if source is None:
            strange = sorted(
                c.id for c in health().causes.values() if not is_among(taxon, frozenset(c.hosts), flora)
            )
            source = health().causes[rng.choice(strange)]
        severity = rng.random()
        for sign in sorted(source.signs):
            rows = [s for s in source.signs[sign] if source.id != what or shown(s, taxon, flora)]
            if sign in COUNTED or not rows or rng.random() < MISSING_SIGNS:
                continue
            if rng.random() < _at_severity(rows[0], severity) * in_time(rows[0], case, day):
                found.setdefault(sign, []).append(what)
    return found


def _at_severity(sign: CauseSign, severity: float) -> float:
    """A light attack shows less, a heavy one more, the same on average."""
    return min(0.98, max(0.0, sign.often * (0.5 + severity)))


def _detail(rng: Random) -> dict[str, Any]:
    extent = rng.choice(("", "", "few", "some", "many"))
    return ({"extent": extent} if extent else {}) | {
        "certainty": rng.choice(("sure", "likely", "likely", "unsure"))
    }


def _looked_for(
    taxon: str, case: HealthCase, flora: Flora, seen: set[str], made: dict[str, list[str]], rng: Random
) -> list[dict[str, Any]]:
    """Signs of this host that were looked for and not found, by an observer who misses a quarter."""
    likely = sorted(
        {
            sid
            for c in health().causes.values()
            if prior_weight(c, taxon, case, flora) > 0.01
            for sid in c.signs
            if sid not in COUNTED and sid not in seen and not health().signs[sid].wounds
        }
    )
    picked = rng.sample(likely, min(LOOKED_FOR, len(likely)))
    return [{"sign": sid, "none": True} for sid in picked if sid not in made]


def trial(flora: Flora, trees: int, seed: int, hosts: Sequence[str]) -> HealthReport:
    """Draws trees and weighs them."""
    rng = Random(seed)
    drawn = [draw_tree(flora, rng, hosts) for _ in range(trees)]
    stated: list[float] = []
    right: list[bool] = []
    missed = grave = alarmed = calm = with_signs = 0
    for tree in drawn:
        shares = shares_of(weigh(read_health_case(tree.raw, flora), flora))
        leader = min(shares, key=lambda w: (-shares[w], w))
        if any("none" not in s for s in tree.raw["signs"]):
            with_signs += 1
            stated.append(shares[leader])
            right.append(leader == tree.truth)
        harm = health().causes[tree.truth].harm if tree.truth in health().causes else ""
        leads = health().causes[leader].harm if leader in health().causes else ""
        if harm in GRAVE:
            grave += 1
            missed += _reassuring(shares) >= REASSURED and shares.get(tree.truth, 0.0) < SUSPECTED
        elif tree.truth != UNKNOWN_ID:
            calm += 1
            alarmed += leads in GRAVE and shares[leader] >= ALARMED
    return HealthReport(
        trees,
        with_signs,
        sum(right) / max(1, len(right)),
        calibration_error(stated, right),
        missed / max(1, grave),
        grave,
        alarmed / max(1, calm),
        calm,
    )


def _reassuring(shares: dict[str, float]) -> float:
    """How much of the answer says that nothing needs doing."""
    causes = health().causes
    return math.fsum(
        p
        for what, p in shares.items()
        if what in (NORMAL_ID, NOTHING_ID) or (what in causes and causes[what].harm in CALM)
    )
