"""What to look at next: characters that can be seen now, by expected fall in entropy per effort; harm is
withheld.
"""

from __future__ import annotations

import math
from operator import mul
from typing import Any

from jubark_core.flora.views import shows
from jubark_core.naming.answers import NO_SENSE, Answers, answers
from jubark_core.naming.harm import harm
from jubark_core.naming.likelihood import NEIGHBOUR_SHARE
from jubark_core.naming.weigh import LN2, Weighed, entropy_bits
from jubark_core.season.windows import visible

LIVE_MASS, MOST_LIVE = 0.999, 60
MOST_LOOKS = 8
LEAST_GAIN = 0.005  # bits under which a look is not worth naming
LEAST_SENSELESS = 0.005  # 'does not apply' is told as an answer from this chance on
SEEN_BY_HALF = 0.5  # a look is offered when it shows on the plant with at least this chance


def live_candidates(w: Weighed) -> tuple[dict[str, float], float]:
    """The smallest set holding 99.9 %, at most 60, renormalised; and the probability left out."""
    live: dict[str, float] = {}
    mass = 0.0
    for taxon in w.ranked:
        if mass >= LIVE_MASS or len(live) >= MOST_LIVE:
            break
        live[taxon] = w.probability[taxon]
        mass = math.fsum(live.values())
    return {t: p / mass for t, p in live.items()}, max(0.0, 1 - mass)


def next_looks(w: Weighed) -> tuple[list[dict[str, Any]], list[dict[str, Any]], float]:
    """(looks best first, withheld looks with their reason, probability pruned)."""
    live, pruned = live_candidates(w)
    offered, withheld = rank_looks(w, live)
    looks = [_told(w, cid, gain, found, live) for cid, gain, found in offered[:MOST_LOOKS]]
    return looks, [{"character": cid, "why": reason} for cid, reason in withheld], pruned


def rank_looks(
    w: Weighed, live: dict[str, float]
) -> tuple[list[tuple[str, float, Answers]], list[tuple[str, str]]]:
    """(every look worth making: character, gain in bits, answers, by gain per effort; looks withheld:
    character, reason).
    """
    odds = list(live.values())
    before = entropy_bits(odds)
    offered: list[tuple[float, str, float, Answers]] = []
    withheld: list[tuple[float, str, str]] = []
    shown: dict[tuple[str, ...], float] = {}
    view = shows(w.flora, w.case.stage, w.case.planted)
    keyed = [(t, w.evidence.season(t, w.case.on)) for t in live]
    own = [p * math.log(p) if p > 0 else 0.0 for p in odds]
    for cid, c in w.flora.characters.items():
        if before < 1e-9 or w.looks_at(cid) or not _within_reach(w, c):
            continue
        kinds = tuple(k for k in c.get("visible", ("always",)) if k != "litter" or "litter" in w.case.reach)
        if kinds not in shown:
            shown[kinds] = _chance_visible(w, kinds, live)
        if shown[kinds] < SEEN_BY_HALF or (found := answers(view, cid, keyed, odds)) is None:
            continue
        gain = shown[kinds] * (before - entropy_after(found, odds, own))
        if gain < LEAST_GAIN:
            continue
        if reason := harm(w, c):
            withheld.append((-gain, cid, reason))
        else:
            offered.append((-gain / c.get("effort_s", 15), cid, gain, found))
    offered.sort(key=lambda item: item[:2])
    return [(cid, gain, found) for _, cid, gain, found in offered], [
        (cid, reason) for _, cid, reason in sorted(withheld)
    ]


def _within_reach(w: Weighed, c: dict[str, Any]) -> bool:
    case = w.case
    return (
        case.stage in c.get("stages", (case.stage,))
        and not set(case.reach).isdisjoint(c.get("reach", case.reach))
        and set(c.get("tools", ())) <= {"eye", *case.tools}
    )


def _chance_visible(w: Weighed, kinds: tuple[str, ...], live: dict[str, float]) -> float:
    """Posterior-weighted chance that what shows in those classes can be seen on the case's date; what lies on
    the ground counts for less.
    """
    on_plant = tuple(k for k in kinds if k != "litter")
    fallen = visible("litter", {}, 0, False) * (1 - NEIGHBOUR_SHARE["litter"]) if "litter" in kinds else 0.0
    listed = [(p, max(fallen, w.evidence.shows(t, on_plant))) for t, p in live.items() if t in w.flora.taxa]
    total = math.fsum(p for p, _ in listed)
    return math.fsum(p * chance for p, chance in listed) / total if total else 0.0


def entropy_after(found: Answers, odds: list[float], own: list[float]) -> float:
    """Expected entropy in bits after the look: chances of the answers untempered, the update tempered. own:
    p·log p of the odds.

    Lindley (1956): the expected information of a look is the entropy before less this.
    """
    expected, scale = [], []
    for chances, tempered, surprise in zip(found.chances, found.tempered, found.surprise, strict=True):
        chance, total = (
            sum(map(mul, odds, chances)),
            sum(map(mul, odds, tempered)),
        )  # a few dozen positive terms: fsum would cost a fifth of a naming
        if chance <= 1e-12 or total <= 0:
            continue
        # Σ r·log r of r = p·q^w, split so that no logarithm is taken here
        spent = sum(map(mul, own, tempered)) + sum(map(mul, odds, surprise))
        expected.append(chance * (math.log(total) - spent / total))
        scale.append(chance)
    return math.fsum(expected) / math.fsum(scale) / LN2


def _told(w: Weighed, cid: str, gain: float, found: Answers, live: dict[str, float]) -> dict[str, Any]:
    """A look as the answer shows it, each of its outcomes with its chance and who would lead after it."""
    c = w.flora.characters[cid]
    taxa, odds = list(live), list(live.values())
    outcomes = []
    for name, chances, tempered in zip(found.names, found.chances, found.tempered, strict=True):
        chance = math.fsum(map(mul, odds, chances))
        after = list(map(mul, odds, tempered))
        total = math.fsum(after)
        if total <= 0 or chance < (LEAST_SENSELESS if name == NO_SENSE else 1e-9):
            continue
        best = min(range(len(taxa)), key=lambda i: (-after[i], taxa[i]))
        outcomes.append(
            {
                "state": name,
                "probability": chance,
                "leader": taxa[best],
                "leader_probability": after[best] / total,
            }
        )
    scale = math.fsum(o["probability"] for o in outcomes)
    outcomes = [{**o, "probability": o["probability"] / scale} for o in outcomes]
    return {
        "character": cid,
        "gain_bits": gain,
        "effort_s": c.get("effort_s", 15),
        "how": c.get("how", ""),
        "outcomes": outcomes,
    }
