"""Prior plus weighted looks: the posterior over every hypothesis, in log space."""

from __future__ import annotations

import datetime
import math
from dataclasses import dataclass
from functools import cached_property

from jubark_core.flora.model import Flora
from jubark_core.naming.case import Case, Look
from jubark_core.naming.likelihood import Evidence
from jubark_core.naming.pooling import pooled
from jubark_core.naming.prior import Prior, prior_of

LN2 = math.log(2)
# Organs whose being there on the date is evidence in itself, once per date; leaves in winter may have come
# from the ground.
SEEN_IN_SEASON = ("needle", "spray", "flower", "fruit", "cone")


@dataclass(frozen=True)
class Weighed:
    """The state of belief about one case.

    probability: by hypothesis, sums to 1. looks: the items of evidence by index of their first look. logs: by
    the same index, log P' by hypothesis (untempered). weight: by the same index, the w_g it entered with.
    """

    case: Case
    flora: Flora
    prior: Prior
    evidence: Evidence
    probability: dict[str, float]
    looks: dict[int, Look]
    logs: dict[int, dict[str, float]]
    weight: dict[int, float]

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
        """Whether the character has been looked at with weight."""
        return any(look.character == character for look in self.looks.values())

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
    looks: dict[int, Look] = {}
    logs: dict[int, dict[str, float]] = {}
    seen: set[tuple[str, datetime.date]] = set()
    for look in pooled(case, flora):
        kept = before is not None and before.looks.get(look.index) == look
        found = before.logs[look.index] if before is not None and kept else evidence.log_likelihoods(look)
        organ = flora.characters[look.character]["organ"]
        if (
            found
            and not kept
            and look.seen == "plant"
            and look.shows_organ
            and organ in SEEN_IN_SEASON
            and (organ, look.on) not in seen
        ):
            dated = evidence.organ_seen(organ, look.on)
            found = {h: value + dated[h] for h, value in found.items()}
        if look.seen == "plant" and look.shows_organ:
            seen.add((organ, look.on))
        if found:
            looks[look.index], logs[look.index] = look, found
    weight = {i: flora.weight_of_group(look.character) for i, look in looks.items()}
    return Weighed(case, flora, prior, evidence, _posterior(prior, logs, weight), looks, logs, weight)


def _posterior(prior: Prior, logs: dict[int, dict[str, float]], weight: dict[int, float]) -> dict[str, float]:
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
