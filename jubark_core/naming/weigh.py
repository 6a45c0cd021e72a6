"""Prior plus weighted looks: the posterior over every hypothesis, in log space."""

from __future__ import annotations

import datetime
import math
from dataclasses import dataclass
from functools import cached_property

from jubark_core.flora.model import Flora
from jubark_core.flora.words import CONFUSED
from jubark_core.naming.case import Case, Look
from jubark_core.naming.likelihood import Evidence, Logs
from jubark_core.naming.pooling import Item, pooled
from jubark_core.naming.prior import Prior, prior_of

LN2 = math.log(2)
# Organs whose being there on the date is evidence in itself, once per date; leaves in winter may have come
# from the ground.
ALL_WRONG = 1 / 16  # chance that an observer's unsure looks at one organ are all wrong for one reason
SEEN_IN_SEASON = ("needle", "spray", "flower", "fruit", "cone")


@dataclass(frozen=True)
class Weighed:
    """The state of belief about one case.

    probability: by hypothesis, sums to 1. items: what weighs, numbered in the order of their first looks.
    logs: by the same number, log P' by hypothesis (untempered). weight: by the same number, what it entered
    with.
    """

    case: Case
    flora: Flora
    prior: Prior
    evidence: Evidence
    probability: dict[str, float]
    items: dict[int, Item]
    logs: dict[int, Logs]
    weight: dict[int, float]

    def called(self, i: int) -> str | int:
        """What the answer calls the first look of an item."""
        return self.case.called(self.items[i].index)

    @cached_property
    def ranked(self) -> list[str]:
        """Hypotheses, most probable first, ties by id."""
        return sorted(self.probability, key=lambda t: (-self.probability[t], t))

    @cached_property
    def ranked_taxa(self) -> list[str]:
        """The listed taxa among them."""
        return [t for t in self.ranked if t in self.flora.taxa]

    def bits(self, look: int, taxon: str, rival: str) -> float:
        """Bits the look gives for taxon against rival."""
        logs = self.logs[look]
        return self.weight[look] * (logs[taxon] - logs[rival]) / LN2

    def looks_at(self, character: str) -> bool:
        """Whether the character has been looked at with weight, or was said not to apply."""
        return character in self._looked_at

    @cached_property
    def _looked_at(self) -> frozenset[str]:
        said = {look.character for look in self.case.looks if not look.applies}
        return frozenset(said | {item.character for item in self.items.values()})

    def looks_in_group(self, character: str) -> int:
        """How many items of evidence the character's group has."""
        group = self.flora.group_of(character)
        return sum(self.flora.group_of(item.character) == group for item in self.items.values())

    def node(self, node: str) -> float:
        """Probability of a node of the tree of taxa: the sum over the hypotheses below it."""
        return self.nodes.get(node, 0.0)

    @cached_property
    def nodes(self) -> dict[str, float]:
        """Probability of every node of the tree."""
        below: dict[str, list[float]] = {}
        for hypothesis, p in self.probability.items():
            for node in self.flora.ancestors(self.flora.genus_of_unlisted.get(hypothesis, hypothesis)):
                below.setdefault(node, []).append(p)
        return {node: math.fsum(ps) for node, ps in below.items()}

    def if_planted(self, planted: float) -> dict[str, float]:
        """The belief had the plant been known as planted (1) or wild (0): same looks, other prior."""
        return _posterior(prior_of(self.case, self.flora, planted), self.logs, self.weight)


def weigh(case: Case, flora: Flora, before: Weighed | None = None) -> Weighed:
    """Posterior of the case. The order of looks never matters; the same reading counts once.

    before: the same case with fewer looks; what it has worked out already is taken over.
    """
    prior = before.prior if before else prior_of(case, flora)
    evidence = before.evidence if before else Evidence(case, flora)
    found = dict(enumerate(pooled(case, flora, evidence.season_of)))
    logs = {
        i: said
        for i, item in found.items()
        if (said := evidence.log_likelihoods(item, _fork_of(item, found, flora)))
    }
    items = {i: found[i] for i in logs}
    for (organ, on), i in _first_of_organ(case, flora, items).items():
        dated = evidence.organ_seen(organ, on)
        logs[i] = {h: value + dated[h] for h, value in logs[i].items()}
    weight = weights_of(items, logs, prior, flora)
    logs |= unsure_together(items, logs, weight, flora)
    return Weighed(case, flora, prior, evidence, _posterior(prior, logs, weight), items, logs, weight)


def _fork_of(item: Item, items: dict[int, Item], flora: Flora) -> Item | None:
    """What was read of the character an item rests on, of the same specimen and stage where there is a
    choice; None where nothing was.
    """
    requires = flora.characters[item.character].get("requires", {})
    read = [
        other
        for other in items.values()
        if other.character in requires and other.kind in ("state", "many") and other.states
    ]

    def unlike(other: Item) -> tuple[object, ...]:
        one, two = other.look, item.look
        return (
            one.specimen != two.specimen,
            one.stage != two.stage,
            one.seen != two.seen,
            other.on,
            str((one.specimen, one.stage, one.seen, one.where, one.shoot)),
        )

    return min(read, key=unlike, default=None)


def _first_of_organ(case: Case, flora: Flora, items: dict[int, Item]) -> dict[tuple[str, datetime.date], int]:
    """(organ, date) on which it was seen on the plant -> the item that carries it: the first by name,
    whatever the order of the looks.
    """
    by_character: dict[str, int] = {}
    for i, item in sorted(items.items(), key=lambda pair: (pair[1].look.specimen, pair[1].on, pair[1].kind)):
        if item.kind != "absent" and item.look.seen == "plant":
            by_character.setdefault(item.character, i)
            by_character.setdefault(item.look.character, i)  # other than the item's where a state is retired
    seen: dict[tuple[str, datetime.date], str] = {}
    for look in case.looks:
        organ = flora.characters[look.character]["organ"]
        if organ in SEEN_IN_SEASON and _shows_organ(look) and look.character in by_character:
            key = (organ, look.on)
            seen[key] = min(seen.get(key, look.character), look.character)
    return {key: by_character[character] for key, character in seen.items()}


def _shows_organ(look: Look) -> bool:
    return look.seen == "plant" and look.shows_organ


def weights_of(items: dict[int, Item], logs: dict[int, Logs], prior: Prior, flora: Flora) -> dict[int, float]:
    """What each item enters with: looks of one group share their weight, the less the less the other ones
    say.

    w_i = 1 / (1 + r_g Σ_{j≠i} min(1, h_j / h_i)), h the prior-weighted standard deviation of log P' over the
    hypotheses: equal looks come to n / (1 + (n − 1)·r_g), a lone look and one beside empty ones count whole.
    """
    told = {i: spread_of(logs[i], prior) for i in items}
    groups: dict[str, list[int]] = {}
    for i, item in items.items():
        groups.setdefault(flora.group_of(item.character), []).append(i)
    weight = {}
    for members in groups.values():
        r = flora.correlation_of_group(items[members[0]].character)
        for i in members:
            others = [min(1.0, told[j] / told[i]) for j in members if j != i] if told[i] > 0 else []
            weight[i] = 1 / (1 + r * math.fsum(others))
    return weight


def unsure_together(
    items: dict[int, Item], logs: dict[int, Logs], weight: dict[int, float], flora: Flora
) -> dict[int, Logs]:
    """The looks of which one observer was unsure, at one organ, softened: they may all be wrong for one
    reason. A look that two observers share ties their looks together.

    Several unsure looks at one organ are taken as 15/16·Π P' + 1/16 of the best of it, so that together
    they part no two taxa by more than 4 bits: five of them never outvote one sure fork. What each keeps is
    in proportion to what it said.
    """
    softened: dict[int, Logs] = {}
    for members in _unsure_groups(items, flora):
        if len(members) < 2:
            continue
        together = {h: math.fsum(weight[i] * logs[i][h] for i in members) for h in flora.hypotheses}
        best = min(together, key=lambda h: (-together[h], h))
        kept = {}
        for h, value in together.items():
            behind = value - together[best]
            soft = math.log((1 - ALL_WRONG) * math.exp(behind) + ALL_WRONG)
            kept[h] = soft / behind if behind < -1e-9 else 1.0
        for i in members:
            base = logs[i][best]
            softened[i] = {h: base + kept[h] * (value - base) for h, value in logs[i].items()}
    return softened


def _unsure_groups(items: dict[int, Item], flora: Flora) -> list[list[int]]:
    """Items read unsurely by all, by organ, joined where they have an observer in common."""
    groups: list[tuple[str, frozenset[str], list[int]]] = []
    for i, item in items.items():
        if item.kind == "absent" or any(r.confused < CONFUSED["unsure"] for r in item.readings):
            continue
        organ = str(flora.characters[item.character]["organ"])
        near = [g for g in groups if g[0] == organ and g[1] & item.observers]
        joined = (organ, item.observers.union(*(g[1] for g in near)), [j for g in near for j in g[2]] + [i])
        groups = [*(g for g in groups if g not in near), joined]
    return [members for _, _, members in groups]


def spread_of(logs: Logs, prior: Prior) -> float:
    """How much a look tells: prior-weighted standard deviation of its log-likelihoods, 0 where all are
    alike.
    """
    shares = {h: math.exp(p) for h, p in prior.log.items()}
    mean = math.fsum(share * logs[h] for h, share in shares.items())
    variance = math.fsum(share * (logs[h] - mean) ** 2 for h, share in shares.items())
    return math.sqrt(variance) if variance > 1e-18 else 0.0


def _posterior(prior: Prior, logs: dict[int, Logs], weight: dict[int, float]) -> dict[str, float]:
    rows = [(weight[i], logs[i]) for i in sorted(logs)]
    return normalised({t: math.fsum([p, *[w * row[t] for w, row in rows]]) for t, p in prior.log.items()})


def normalised(logs: dict[str, float]) -> dict[str, float]:
    """exp and divide by the sum, safely."""
    top = max(logs.values())
    raised = {t: math.exp(v - top) for t, v in logs.items()}
    total = math.fsum(raised.values())
    return {t: v / total for t, v in raised.items()}


def entropy_bits(probabilities: list[float]) -> float:
    """Shannon entropy in bits; zeros count nothing."""
    return -math.fsum(p * math.log2(p) for p in probabilities if p > 0)
