"""Virtual plants, looked at by fallible people, to see whether stated probabilities hold.

The simulator is not the engine's own model: slips of one observer come in groups of looks (one latent slip
per group, shared by half of its looks), observers differ in skill, the description the engine works with has
lost a tenth of its states and has its ranges moved by up to 15 %, and a twentieth of the plants belong to
taxa withheld from the engine. It measures consistency, not truth: nothing here knows a real tree.

The one module that draws random numbers, from a `Random` passed in.
"""

from __future__ import annotations

import copy
import datetime
import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from random import Random
from typing import Any

from jubark_core.flora.areas import WORLD
from jubark_core.flora.model import Flora
from jubark_core.flora.shows import Shows
from jubark_core.flora.views import days_of, shows
from jubark_core.naming.absence import SEASONAL, chance_seen
from jubark_core.naming.case import Case, read_case
from jubark_core.naming.prior import prior_of
from jubark_core.season.days import day_of_year
from jubark_core.season.showing import visible

WITHHELD_PLANTS, WITHHELD_TAXA = 0.05, 0.1
LOST_STATES, MOVED_RANGES = 0.1, 0.15
SHARED_SLIP = 0.5
CERTAINTIES = (("sure", 0.4, 0.02, 0.3), ("likely", 0.45, 0.06, 1.0), ("unsure", 0.15, 0.25, 2.0))
SKILL = (0.5, 1.5)
SEASONS = {"winter": (1, 85), "spring": (105, 150), "summer": (160, 240), "autumn": (250, 300)}
ORGAN_SETS = {
    "bark": ("bark",),
    "winter twig": ("twig", "bud", "leaf.arrangement"),
    "leaf": ("leaf", "needle", "spray"),
    "all": ("habit", "bark", "twig", "bud", "leaf", "needle", "spray", "flower", "fruit", "cone", "sap"),
}
SITES = (
    ("woodland", "wild", 0.4),
    ("floodplain", "wild", 0.1),
    ("hedgerow", "unknown", 0.1),
    ("street", "planted", 0.2),
    ("park", "unknown", 0.2),
)
STAGES = (("mature", 0.8), ("young", 0.15), ("sapling", 0.05))
PLACE = {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]}
MOST_LOOKS = 40


@dataclass(frozen=True)
class Plant:
    """A virtual plant: what it is, whether the engine knows its kind, and what was reported of it, as cases
    of the naming contract. lineage: the truth and the nodes above it.
    """

    truth: str
    withheld: bool
    season: str
    organs: str
    case: dict[str, Any]
    looks: list[dict[str, Any]] = field(default_factory=list)
    lineage: tuple[str, ...] = ()


def withhold(flora: Flora, rng: Random) -> list[str]:
    """A tenth of the taxa, at least one, to be kept from the engine."""
    return sorted(rng.sample(flora.leaves, max(1, round(WITHHELD_TAXA * len(flora.leaves)))))


def worsened(flora: Flora, withheld: Sequence[str], rng: Random) -> Flora:
    """The flora as the engine gets it: without the withheld taxa, a tenth of its states lost, its ranges
    moved.
    """
    taxa = {t: node for t, node in flora.taxa.items() if t not in withheld}
    for t in flora.leaves:
        if t in taxa:
            taxa[t] = {**taxa[t], "states": _worse_states(taxa[t]["states"], rng)}
    for t in (
        withheld
    ):  # what is missing is known to be missing: one species more that the genus has and the flora has not
        genus = flora.genus_of[t]
        if genus is not None:
            taxa[genus] = {**taxa[genus], "missing": _one_more(taxa[genus].get("missing", {}))}
    return Flora({**flora.compiled, "taxa": taxa})


def _one_more(missing: dict[str, dict[str, int]]) -> dict[str, dict[str, int]]:
    return {
        side: {area: n + 1 for area, n in {WORLD: 0, **missing.get(side, {})}.items()}
        for side in ("wild", "planted")
    }


def _worse_states(states: dict[str, list[dict[str, Any]]], rng: Random) -> dict[str, list[dict[str, Any]]]:
    worse = {}
    for cid, variants in states.items():
        kept = []
        for v in copy.deepcopy(variants):
            if "weights" in v:
                v["weights"] = {s: p for s, p in v["weights"].items() if rng.random() >= LOST_STATES}
                if v["weights"]:
                    kept.append(v)
            elif "low" not in v:
                kept.append(v)  # what makes no sense on the taxon is not forgotten
            else:
                low, high = (v[k] * (1 + rng.uniform(-MOVED_RANGES, MOVED_RANGES)) for k in ("low", "high"))
                kept.append({**v, "low": min(low, high), "high": max(low, high) + 1e-9})
        if kept:
            worse[cid] = kept
    return worse


def draw_plant(
    flora: Flora,
    withheld: Sequence[str],
    rng: Random,
    season: str,
    organs: str,
    hidden_share: float = WITHHELD_PLANTS,
) -> Plant:
    """A plant drawn as it would be met on such a site, and the looks a person makes at those organs, in
    random order. hidden_share: of plants of a withheld taxon.
    """
    first, last = SEASONS[season]
    on = datetime.date(2026, 1, 1) + datetime.timedelta(days=rng.randint(first, last) - 1)
    setting, origin = rng.choices([s[:2] for s in SITES], [s[2] for s in SITES])[0]
    stage = rng.choices([s for s, _ in STAGES], [w for _, w in STAGES])[0]
    raw = {
        **PLACE,
        "on": on.isoformat(),
        "setting": setting,
        "origin": origin,
        "stage": stage,
        "observations": [],
    }
    case = read_case(raw, flora)
    prior = prior_of(case, flora)
    hidden = rng.random() < hidden_share
    among = [t for t in flora.leaves if (t in withheld) == hidden]
    truth = rng.choices(among, [math.exp(prior.log[t]) for t in among])[0]
    looks = _Onlooker(flora, case, truth, rng).looks(ORGAN_SETS[organs])
    rng.shuffle(looks)
    made = looks if organs == "all" else looks[:MOST_LOOKS]
    return Plant(truth, hidden, season, organs, raw, made, tuple(flora.ancestors(truth)))


class _Onlooker:
    """One observer at one plant: what the plant is like, what can be seen of it, and what is reported."""

    def __init__(self, flora: Flora, case: Case, truth: str, rng: Random) -> None:
        self.flora, self.case, self.truth, self.rng = flora, case, truth, rng
        self.view: Shows = shows(flora, case.stage, case.planted)
        self.skill = rng.uniform(*SKILL)
        self.latent: dict[str, float] = {}
        self.states: dict[str, list[str]] = {}
        days = days_of(flora, truth, case.place)
        self.day = day_of_year(case.on)
        self.days = days
        bare = (
            "fall" in days
            and not flora.evergreen[truth]
            and visible("leaf_fall", days, self.day, False) > 0.5
        )
        self.season = "winter" if bare else "summer"

    def looks(self, organs: Sequence[str]) -> list[dict[str, Any]]:
        made = []
        for cid in self.flora.taxa[self.truth]["states"]:
            self._draw_state(cid)
        there: dict[str, bool] = {}
        for cid, c in self.flora.characters.items():
            organ = c["organ"]
            if (
                (organ not in organs and cid not in organs)
                or self.case.stage not in c["stages"]
                or c["wounds"]
            ):
                continue
            if organ in SEASONAL and organ not in there:
                there[organ] = self.rng.random() < chance_seen(
                    self.truth, cid, self.case, self.flora, self.case.on, self.case.stage, self.days
                )
            if organ in ("flower", "fruit") and not there[organ]:
                if cid in ("flower.form", "fruit.kind") and self.rng.random() < 0.5:
                    made.append({"character": cid, "none": True, "certainty": "likely"})
                continue
            if self._shows(c) and (look := self._report(cid, c)):
                made.append(look)
        return made

    def _shows(self, c: dict[str, Any]) -> bool:
        kinds = [k for k in c["visible"] if k != "litter"]
        chance = max(
            (visible(k, self.days, self.day, self.flora.evergreen[self.truth]) for k in kinds), default=0.0
        )
        needs = c.get("requires", {})
        return chance > 0.5 and all(
            set(self.states.get(other, states)) & set(states) for other, states in needs.items()
        )

    def _draw_state(self, cid: str) -> None:
        """The plant's own states, once for all looks at it."""
        weights = self.view.weights(self.truth, cid, self.season)
        if weights is None:
            return
        if self.flora.characters[cid]["kind"] == "many":
            self.states[cid] = [s for s, p in weights.items() if self.rng.random() < p]
        else:
            self.states[cid] = self.rng.choices(list(weights), list(weights.values()))

    def _report(self, cid: str, c: dict[str, Any]) -> dict[str, Any] | None:
        certainty, _, rate, confused = self.rng.choices(CERTAINTIES, [c[1] for c in CERTAINTIES])[0]
        shared = self.latent.setdefault(c["group"], self.rng.random())
        slips = (shared if self.rng.random() < SHARED_SLIP else self.rng.random()) < rate * self.skill
        if c["kind"] in ("count", "measure"):
            values = self._values(cid, c, slips)
            return {"character": cid, "values": values, "certainty": certainty} if values else None
        true = self.states.get(cid)
        if not true:
            return None
        if c["kind"] == "many":
            named = [s for s in true if self.rng.random() < c["report_rate"]] or [self.rng.choice(true)]
            if slips:
                named[0] = self.rng.choice(c["states"])
            return {"character": cid, "states": sorted(set(named)), "certainty": certainty}
        state = true[0]
        row: dict[str, float] = c.get("confusions", {}).get(state, {})
        for other, p in row.items():
            if self.rng.random() < p * self.skill * confused:
                state = other
        if slips:
            state = self.rng.choice(c["states"])
        return {"character": cid, "state": state, "certainty": certainty}

    def _values(self, cid: str, c: dict[str, Any], slips: bool) -> list[float]:
        spread = self.view.spread(self.truth, cid)
        if spread is None:
            return []
        mean, sd = spread
        log = c.get("scale") == "log"
        between = float(c["between"])
        own = self.rng.gauss(mean, sd * math.sqrt(between))
        if slips:
            own += self.rng.choice((-1, 1)) * 1.5 * sd
        low, high = c["range"]
        values = [self.rng.gauss(own, sd * math.sqrt(1 - between)) for _ in range(self.rng.choice((1, 3, 5)))]
        values = [min(high, max(low, math.exp(v) if log else v)) for v in values]
        return (
            [float(round(v)) for v in values]
            if c["kind"] == "count"
            else [max(low, round(v, 2)) for v in values]
        )
