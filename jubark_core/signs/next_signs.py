"""What to look for next: the signs by the information they are expected to give, wounding ones withheld where
they harm.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from jubark_core.flora.vector_season import in_vector_season
from jubark_core.naming.weigh import entropy_bits
from jubark_core.signs.case import SeenSign
from jubark_core.signs.contract import NextSign, OutcomeOfLook, WithheldSign
from jubark_core.signs.hosts import REST, chain
from jubark_core.signs.hypotheses import NORMAL_ID, OTHERS, normals_here
from jubark_core.signs.likelihood import (
    COUNTED,
    can_be_seen,
    chance_of_cause,
    chance_of_normal,
    chance_unknown,
    reported,
)
from jubark_core.signs.load import health
from jubark_core.signs.model import SignWord
from jubark_core.signs.prior import prior_weight
from jubark_core.signs.weigh import Belief

LEAST_BITS = 0.004
MOST_LOOKS = 8
LEAST_HYPOTHESIS, MOST_HOSTS = 1e-4, 6
LEAST_VISIBLE = 0.3
EFFORT_S = {"bark": 20, "crown": 10, "leaf": 15, "fruit": 15, "base": 20, "around": 20}
WOUND_EFFORT_S = 90
TYPICAL = 0.4
HARM_WEIGHT = {"kills": 1.0, "serious": 0.8, "minor": 0.4, "harmless": 0.15}
WOUND_HOSTS = {"quercus": "oaks", "ulmus": "elms"}
WOUND_SHARE = 0.01
HOST_LEAST_BITS = 0.02


@dataclass(frozen=True)
class _Live:
    """A hypothesis that is still alive, as far as next looks need it."""

    taxon: str
    what: tuple[str, ...]
    main: str
    p: float


def ranked_signs(belief: Belief) -> list[NextSign]:
    """Every sign worth a look, the most telling for its effort first; none that was looked at."""
    live = _live(belief)
    asked = {s.sign for s in belief.case.signs}
    made = _made_by(live)
    found = []
    for sid, word in health().signs.items():
        if sid in asked or sid in COUNTED or withheld_because(belief, word):
            continue
        if sid not in made or _visible(belief, sid) < LEAST_VISIBLE:
            continue
        look = _look(belief, word, live)
        if look["gain_bits"] >= LEAST_BITS:
            found.append(look)
    worth = {n["sign"]: _harm_behind(n["sign"], live) * n["gain_bits"] / n["effort_s"] ** 0.5 for n in found}
    return sorted(found, key=lambda n: (-worth[n["sign"]], n["sign"]))


def _harm_behind(sign: str, live: list[_Live]) -> float:
    """What the worst of the causes that the sign is typical of weighs: a harmless thing is asked for last."""
    causes = health().causes
    behind = [
        HARM_WEIGHT[causes[what].harm]
        for h in live
        for what in h.what
        if what in causes and any(s.often >= TYPICAL for s in causes[what].signs.get(sign, ()))
    ]
    return max(behind, default=HARM_WEIGHT["minor"])


def next_signs(belief: Belief) -> list[NextSign]:
    """The best of them, a question of the host first where it tells more."""
    host = _host_look(belief)
    return sorted([*host, *ranked_signs(belief)[:MOST_LOOKS]], key=lambda n: (not n.get("host"), 0))[
        :MOST_LOOKS
    ]


def withheld_signs(belief: Belief) -> list[WithheldSign]:
    """Looks that some cause here would ask for and that would harm."""
    possible = _made_by(_live(belief))
    return [
        {"sign": sid, "why": why}
        for sid, word in sorted(health().signs.items())
        if sid in possible and (why := withheld_because(belief, word))
    ]


def _made_by(live: list[_Live]) -> set[str]:
    """Signs that something still possible makes."""
    causes = health().causes
    of_causes = {sid for h in live for what in h.what if what in causes for sid in causes[what].signs}
    normal = any(NORMAL_ID in h.what for h in live)
    return of_causes | ({sid for n in health().normals for sid in n.signs} if normal else set())


def withheld_because(belief: Belief, word: SignWord) -> str:
    """Why the look is withheld; empty where it is not."""
    if not word.wounds:
        return ""
    case = belief.case
    if case.stage == "veteran":
        return "It wounds the plant, and this is a veteran."
    if case.status:
        return f"It wounds the plant, and this one is {' and '.join(case.status)}."
    if "knife" not in case.tools:
        return "It needs a knife, and none is at hand."
    if not in_vector_season(belief.flora, case.areas, case.place, case.on):
        return ""
    for genus, plural in WOUND_HOSTS.items():
        share = math.fsum(p for t, p in belief.taxon_now.items() if genus in chain(t, belief.flora))
        if share > WOUND_SHARE:
            return f"It wounds the plant; {plural} draw beetles to fresh wounds in this season, with disease."
    return ""


def _live(belief: Belief) -> list[_Live]:
    taxa = set(belief.taxa[:MOST_HOSTS])
    found = [
        _Live(h.host.taxon, h.what, h.main, p)
        for h, p in zip(belief.hypotheses, belief.probability, strict=True)
        if p > LEAST_HYPOTHESIS and h.host.taxon in taxa
    ]
    total = math.fsum(h.p for h in found)
    return [_Live(h.taxon, h.what, h.main, h.p / total) for h in found]


def _visible(belief: Belief, sign: str) -> float:
    return can_be_seen(sign, belief.taxa[0], belief.case, belief.flora)


def _look(belief: Belief, word: SignWord, live: list[_Live]) -> NextSign:
    seen = SeenSign(index=-1, sign=word.id, none=False, on=belief.case.on)
    absent = SeenSign(index=-1, sign=word.id, none=True, on=belief.case.on)
    chances: dict[tuple[str, str], float] = {}
    joint_yes: dict[str, list[float]] = {}
    joint_no: dict[str, list[float]] = {}
    now: dict[str, list[float]] = {}
    for h in live:
        made = 1 - math.prod(1 - _chance(belief, what, seen, h.taxon, chances) for what in h.what)
        visible = can_be_seen(word.id, h.taxon, belief.case, belief.flora)
        # of a look that is made, "seen" is what is not "looked for and absent"
        no = reported(made, absent, word, visible)
        joint_yes.setdefault(h.main, []).append(h.p * (1 - no))
        joint_no.setdefault(h.main, []).append(h.p * no)
        now.setdefault(h.main, []).append(h.p)
    before = {main: math.fsum(ps) for main, ps in now.items()}
    yes = {main: math.fsum(ps) for main, ps in joint_yes.items()}
    no_ = {main: math.fsum(ps) for main, ps in joint_no.items()}
    p_yes, p_no = math.fsum(yes.values()), math.fsum(no_.values())
    after = math.fsum(
        total * entropy_bits([p / total for p in part.values()])
        for total, part in ((p_yes, yes), (p_no, no_))
        if total > 0
    )
    outcomes: list[OutcomeOfLook] = [
        {"seen": is_seen, "probability": round(total, 6), "leader": _leader(part)}
        for is_seen, total, part in ((True, p_yes, yes), (False, p_no, no_))
    ]
    return {
        "sign": word.id,
        "label": word.label,
        "part": word.part,
        "gain_bits": max(0.0, entropy_bits(list(before.values())) - after),
        "effort_s": WOUND_EFFORT_S if word.wounds else EFFORT_S[word.part],
        "how": word.how,
        "mistake": word.mistake,
        "wounds": word.wounds,
        "outcomes": outcomes,
    }


def _leader(part: dict[str, float]) -> str:
    return min(part, key=lambda m: (-part[m], m)) if part else ""


def _chance(
    belief: Belief, what: str, seen: SeenSign, taxon: str, found: dict[tuple[str, str], float]
) -> float:
    key = (what, taxon)
    if key not in found:
        word = health().signs[seen.sign]
        if what == "unknown":
            found[key] = chance_unknown(word) / 2
        elif what == "normal":
            normals = normals_here(taxon, belief.case, belief.flora)
            found[key] = max(
                (chance_of_normal(n, seen, taxon, belief.case, belief.flora) for n in normals), default=0.0
            )
        elif what in OTHERS:
            found[key] = 0.0
        else:
            found[key] = chance_of_cause(health().causes[what], seen, taxon, belief.case, belief.flora)
    return found[key]


def _host_look(belief: Belief) -> list[NextSign]:
    """Which plant it is, where that would move the leader: as the leader's own question says."""
    leader = next((m for m in belief.ranked if m in health().causes), None)
    if leader is None or belief.mains[leader] < 0.02:
        return []
    ask = health().causes[leader].ask_host
    if not ask or not any(ask["node"] in chain(t, belief.flora) for t in belief.taxa[:1]):
        return []
    sections: dict[str, float] = {}
    weight: dict[str, float] = {}
    for taxon, p in belief.taxon_now.items():
        if ask["node"] not in chain(taxon, belief.flora):
            continue
        section = chain(taxon, belief.flora)[1] if taxon in belief.flora.taxa else taxon
        sections[section] = sections.get(section, 0.0) + p
        weight[section] = weight.get(section, 0.0) + p * prior_weight(
            health().causes[leader], taxon, belief.case, belief.flora
        )
    live = {s: p for s, p in sections.items() if p > 0.01}
    if len(live) < 2 or REST in live:
        return []
    gain = entropy_bits([p / math.fsum(live.values()) for p in live.values()])
    if gain < HOST_LEAST_BITS:
        return []
    outcomes: list[OutcomeOfLook] = [
        {"seen": True, "probability": round(p, 6), "leader": leader if weight[s] > 0 else "unknown"}
        for s, p in sorted(live.items(), key=lambda pair: (-pair[1], pair[0]))
    ]
    return [
        {
            "sign": "",
            "label": ask["how"].split("?")[0] + "?",
            "part": "leaf",
            "gain_bits": gain,
            "effort_s": 15,
            "how": ask["how"],
            "mistake": "",
            "wounds": False,
            "outcomes": outcomes,
            "host": ask["node"],
            "character": ask["character"],
        }
    ]
