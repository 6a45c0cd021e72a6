"""What to look at next: characters that can be seen now, by expected fall in entropy per effort; harm is
withheld.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from operator import mul
from typing import Any

from jubark_core.flora.views import shows
from jubark_core.naming.answers import NO_SENSE, Answers, answers, class_sums
from jubark_core.naming.harm import harm, touch_hazards
from jubark_core.naming.likelihood import NEIGHBOUR_SHARE
from jubark_core.naming.weigh import LN2, Weighed, entropy_bits
from jubark_core.season.showing import visible

LIVE_MASS, MOST_LIVE = 0.999, 60
MOST_LOOKS = 8
LEAST_GAIN = 0.005  # bits under which a look is not worth naming
LEAST_SENSELESS = 0.005  # 'does not apply' is told as an answer from this chance on
SEEN_BY_HALF = 0.5  # a look is offered when it shows on the plant, and makes sense, with at least this chance
TURN_TO_S = 10.0  # to read a question and give its answer, whatever the look itself takes (common practice)
FORKS, DEPENDANTS, LIKELY_ANSWER = 6, 8, 0.05  # forks looked behind, looks behind each, answers followed

Looks = list[tuple[str, float, Answers]]


@dataclass(frozen=True)
class Live:
    """The live hypotheses: their ids, places in `flora.hypotheses`, seasons on the day, and probabilities."""

    w: Weighed
    taxa: list[str]
    odds: list[float]

    @cached_property
    def keyed(self) -> list[tuple[int, str]]:
        """Place in `flora.hypotheses` and season, as naming.answers wants them."""
        place = {h: i for i, h in enumerate(self.w.flora.hypotheses)}
        return [(place[t], self.w.evidence.season(t, self.w.case.on)) for t in self.taxa]

    @cached_property
    def places(self) -> list[int]:
        """Places in `flora.hypotheses`."""
        return [h for h, _ in self.keyed]

    @cached_property
    def surprise(self) -> list[float]:
        """p·log p."""
        return [p * math.log(p) if p > 0 else 0.0 for p in self.odds]

    @cached_property
    def entropy(self) -> float:
        """In bits."""
        return entropy_bits(self.odds)

    def after(self, found: Answers, answer: int) -> Live:
        """What is live once that answer is given."""
        weighed = [p * found.rows[i][1][answer] for p, i in zip(self.odds, found.of, strict=True)]
        total = math.fsum(weighed)
        later = Live(self.w, self.taxa, [p / total for p in weighed])
        later.__dict__.update(keyed=self.keyed, places=self.places)
        return later


def live_candidates(w: Weighed) -> tuple[Live, float]:
    """The smallest set holding 99.9 %, at most 60, renormalised; and the probability left out."""
    taxa: list[str] = []
    mass = 0.0
    for taxon in w.ranked:
        if mass >= LIVE_MASS or len(taxa) >= MOST_LIVE:
            break
        taxa.append(taxon)
        mass += w.probability[taxon]
    return Live(w, taxa, [w.probability[t] / mass for t in taxa]), max(0.0, 1 - mass)


def next_looks(w: Weighed) -> tuple[list[dict[str, Any]], list[dict[str, Any]], float]:
    """(looks best first, withheld looks with their reason, probability pruned)."""
    live, pruned = live_candidates(w)
    offered, withheld = rank_looks(w, live)
    looks = [_told(cid, gain, found, live) for cid, gain, found in offered[:MOST_LOOKS]]
    return looks, [{"character": cid, "why": reason} for cid, reason in withheld], pruned


def rank_looks(w: Weighed, live: Live) -> tuple[Looks, list[tuple[str, str]]]:
    """(every look worth making: character, gain in bits, answers, by value; looks withheld: character,
    reason).

    Value is the gain per effort; of a fork, a look on which others rest, also with what it opens. While the
    sap of a live candidate burns skin, the look by eye that parts it best comes first.
    """
    found = _worth_making(w, live)
    value = {cid: gain / effort(w, cid) for cid, (gain, _) in found.items()}
    forks = [cid for cid in sorted(found, key=lambda c: (-value[c], c)) if w.flora.rests_on.get(cid)]
    for cid in forks[:FORKS]:
        value[cid] = max(value[cid], _with_what_it_opens(w, live, cid, *found[cid]))
    ordered = sorted(found, key=lambda cid: (-value[cid], cid))
    withheld = {cid: reason for cid in ordered if (reason := harm(w, w.flora.characters[cid]))}
    offered = [cid for cid in ordered if cid not in withheld]
    if first := _parts_hazards(w, live, found, offered):
        offered = [first, *[cid for cid in offered if cid != first]]
    return [(cid, *found[cid]) for cid in offered], sorted(withheld.items())


def effort(w: Weighed, character: str) -> float:
    """Seconds a look costs: the looking, and turning to it."""
    return TURN_TO_S + float(w.flora.characters[character].get("effort_s", 15))


def _worth_making(w: Weighed, live: Live) -> dict[str, tuple[float, Answers]]:
    """Character -> (gain in bits, answers) of every look that can be made now and says something."""
    found: dict[str, tuple[float, Answers]] = {}
    if live.entropy < 1e-9:
        return found
    shown: dict[tuple[str, ...], float] = {}
    for cid, c in w.flora.characters.items():
        if w.looks_at(cid) or not _within_reach(w, c) or is_excluded(w, cid):
            continue
        kinds = tuple(k for k in c.get("visible", ("always",)) if k != "litter" or w.case.fallen_at_hand)
        if kinds not in shown:
            shown[kinds] = _chance_visible(w, kinds, live)
        if shown[kinds] < SEEN_BY_HALF:
            continue
        told = _gain(live, cid, require_sense=True)
        if told is not None and (gain := shown[kinds] * told[0]) >= LEAST_GAIN:
            found[cid] = (gain, told[1])
    return found


def _gain(live: Live, character: str, require_sense: bool = False) -> tuple[float, Answers] | None:
    """(expected fall in entropy in bits, answers); None where nothing is known of it or it makes too little
    sense.
    """
    w = live.w
    view = shows(w.flora, w.case.stage, w.case.planted)
    if require_sense and _sense(live, character) < SEEN_BY_HALF:
        return None
    weight = 1 / (1 + w.looks_in_group(character) * w.flora.correlation_of_group(character))
    told = answers(view, character, live.keyed, live.odds, weight)
    if told is None:
        return None
    return live.entropy - entropy_after(told, live.odds, live.surprise), told


def _sense(live: Live, character: str) -> float:
    """Chance that the character makes sense on the plant."""
    w = live.w
    if not w.flora.characters[character].get("requires"):
        return 1.0
    view = shows(w.flora, w.case.stage, w.case.planted)
    if character not in w.flora.by_season:
        sense = view.sense(character, "summer")
        return math.fsum(map(mul, live.odds, [sense[h] for h in live.places]))
    by_season = {season: view.sense(character, season) for season in {season for _, season in live.keyed}}
    return math.fsum(p * by_season[season][h] for p, (h, season) in zip(live.odds, live.keyed, strict=True))


def is_excluded(w: Weighed, character: str) -> bool:
    """Whether what the character rests on was read as none of the states in which it makes sense."""
    for other, inside in w.flora.characters[character].get("requires", {}).items():
        for item in w.items.values():
            if item.character != other or item.kind not in ("state", "many"):
                continue
            if item.states and not set(item.states) & set(inside):
                return True
            if any(r.senseless for r in item.readings) and not item.states:
                return True
        if is_excluded(w, other):
            return True
    return False


def _within_reach(w: Weighed, c: dict[str, Any]) -> bool:
    case = w.case
    return (
        case.stage in c.get("stages", (case.stage,))
        and not set(case.reach).isdisjoint(c.get("reach", case.reach))
        and set(c.get("tools", ())) <= {"eye", *case.tools}
    )


def _chance_visible(w: Weighed, kinds: tuple[str, ...], live: Live) -> float:
    """Posterior-weighted chance that what shows in those classes can be seen on the case's date; what lies on
    the ground counts for less.
    """
    on_plant = tuple(k for k in kinds if k != "litter")
    fallen = visible("litter", {}, 0, False) * (1 - NEIGHBOUR_SHARE["litter"]) if "litter" in kinds else 0.0
    listed = [
        (p, max(fallen, w.evidence.shows(t, on_plant)))
        for t, p in zip(live.taxa, live.odds, strict=True)
        if t in w.flora.taxa
    ]
    total = math.fsum(p for p, _ in listed)
    return math.fsum(p * chance for p, chance in listed) / total if total else 0.0


def entropy_after(found: Answers, odds: list[float], surprise: list[float]) -> float:
    """Expected entropy in bits after the look: chances of the answers untempered, the update tempered.
    surprise: p·log p of the odds.

    Lindley (1956): the expected information of a look is the entropy before less this.
    """
    classes = len(found.rows)
    shares, own = class_sums(found.of, odds, classes), class_sums(found.of, surprise, classes)
    chances, tempered, twisted = (list(zip(*part, strict=True)) for part in zip(*found.rows, strict=True))
    expected, scale = 0.0, 0.0
    for q, r, s in zip(chances, tempered, twisted, strict=True):
        # a few dozen positive terms: fsum would cost a fifth of a naming
        chance, total = sum(map(mul, shares, q)), sum(map(mul, shares, r))
        if chance <= 1e-12 or total <= 0:
            continue
        # Σ r·log r of r = p·q^w, split so that no logarithm is taken here
        spent = sum(map(mul, own, r)) + sum(map(mul, shares, s))
        expected += chance * (math.log(total) - spent / total)
        scale += chance
    return expected / scale / LN2


def _with_what_it_opens(w: Weighed, live: Live, fork: str, gain: float, found: Answers) -> float:
    """Gain per second of the fork and of the best look it opens after each likely answer."""
    behind = [
        cid
        for cid in w.flora.rests_on[fork]
        if not w.looks_at(cid) and _within_reach(w, w.flora.characters[cid])
    ]
    more, seconds = 0.0, 0.0
    for answer, chance in enumerate(_chances(found, live.odds)):
        if chance < LIKELY_ANSWER:
            continue
        later = live.after(found, answer)
        best: tuple[float, float] | None = None
        for cid in behind[:DEPENDANTS]:
            told = _gain(later, cid, require_sense=True)
            if told is not None and (best is None or told[0] > best[0]):
                best = (told[0], effort(w, cid))
        if best is not None and best[0] > LEAST_GAIN:
            more += chance * best[0]
            seconds += chance * best[1]
    return (gain + more) / (effort(w, fork) + seconds)


def _chances(found: Answers, odds: list[float]) -> list[float]:
    shares = class_sums(found.of, odds, len(found.rows))
    return [sum(map(mul, shares, column)) for column in zip(*[row[0] for row in found.rows], strict=True)]


def _parts_hazards(
    w: Weighed, live: Live, found: dict[str, tuple[float, Answers]], offered: list[str]
) -> str | None:
    """The look offered that says most, per effort, whether a plant that burns skin is among it; None where
    none is live.
    """
    burning = set(touch_hazards(w))
    share = math.fsum(p for t, p in zip(live.taxa, live.odds, strict=True) if t in burning)
    if not burning or not 0 < share < 1:
        return None
    before = entropy_bits([share, 1 - share])

    def told(cid: str) -> float:
        answered = found[cid][1]
        of_burning = [p if t in burning else 0.0 for t, p in zip(live.taxa, live.odds, strict=True)]
        expected = 0.0
        for here, all_ in zip(_chances(answered, of_burning), _chances(answered, live.odds), strict=True):
            if all_ > 1e-12:
                part = min(1.0, here / all_)
                expected += all_ * entropy_bits([part, 1 - part])
        return (before - expected) / effort(w, cid)

    best = max(offered, key=lambda cid: (told(cid), cid), default=None)
    return best if best is not None and told(best) > 0 else None


def _told(cid: str, gain: float, found: Answers, live: Live) -> dict[str, Any]:
    """A look as the answer shows it, each of its outcomes with its chance and who would lead after it."""
    c = live.w.flora.characters[cid]
    outcomes: list[dict[str, Any]] = []
    for answer, (name, chance) in enumerate(zip(found.names, _chances(found, live.odds), strict=True)):
        after = [p * found.rows[i][1][answer] for p, i in zip(live.odds, found.of, strict=True)]
        total = math.fsum(after)
        if total <= 0 or chance < (LEAST_SENSELESS if name == NO_SENSE else 1e-9):
            continue
        best = min(range(len(after)), key=lambda i: (-after[i], live.taxa[i]))
        outcomes.append(
            {
                "state": name,
                "probability": chance,
                "leader": live.taxa[best],
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
