"""Prior plus weighted looks: the posterior over every hypothesis, in log space."""

from __future__ import annotations

import math
from dataclasses import dataclass

from jubark_core.flora.model import Flora
from jubark_core.naming.absence import none_is_a_state
from jubark_core.naming.case import Case, Look
from jubark_core.naming.likelihood import Evidence
from jubark_core.naming.prior import Prior, hypotheses, prior_of

LN2 = math.log(2)


@dataclass(frozen=True)
class Weighed:
    """The state of belief about one case.

    probability: by hypothesis, sums to 1. logs: by look index, log P' by hypothesis (untempered).
    weight: by look index, the w_g it entered with.
    """

    case: Case
    flora: Flora
    prior: Prior
    evidence: Evidence
    probability: dict[str, float]
    logs: dict[int, dict[str, float]]
    weight: dict[int, float]

    def ranked(self) -> list[str]:
        """Hypotheses, most probable first, ties by id."""
        return sorted(self.probability, key=lambda t: (-self.probability[t], t))

    def bits(self, look: int, taxon: str, rival: str) -> float:
        """Bits the look gives for taxon against rival."""
        logs = self.logs[look]
        return self.weight[look] * (logs[taxon] - logs[rival]) / LN2

    def looks_at(self, character: str) -> bool:
        """Whether the character has been looked at with weight."""
        return any(self.case.looks[i].character == character for i in self.logs)


def weigh(case: Case, flora: Flora) -> Weighed:
    """Posterior of the case. The order of looks never matters; the same reading counts once."""
    leaves = hypotheses(flora)
    prior = prior_of(case, flora)
    evidence = Evidence(case, flora, leaves)
    logs: dict[int, dict[str, float]] = {}
    weight: dict[int, float] = {}
    for look in counted_once(case, flora):
        found = evidence.log_likelihoods(look)
        if found:
            logs[look.index] = found
            weight[look.index] = flora.weight_of_group(look.character)
    total = {t: math.fsum([prior.log[t], *(weight[i] * logs[i][t] for i in sorted(logs))]) for t in leaves}
    return Weighed(case, flora, prior, evidence, normalised(total), logs, weight)


def counted_once(case: Case, flora: Flora) -> list[Look]:
    """Looks without repeats: the same reading by one observer on one specimen, and several absences of one organ on one date."""
    kept: list[Look] = []
    seen: set[tuple[object, ...]] = set()
    for look in case.looks:
        key: tuple[object, ...] = look.reading
        if look.none and not none_is_a_state(look, flora):
            key = ("absent organ", flora.characters[look.character]["organ"], look.on)
        if key not in seen:
            seen.add(key)
            kept.append(look)
    return kept


def normalised(logs: dict[str, float]) -> dict[str, float]:
    """exp and divide by the sum, safely."""
    top = max(logs.values())
    raised = {t: math.exp(v - top) for t, v in logs.items()}
    total = math.fsum(raised.values())
    return {t: v / total for t, v in raised.items()}


def entropy_bits(probabilities: list[float]) -> float:
    """Shannon entropy in bits; zeros count nothing."""
    return -math.fsum(p * math.log2(p) for p in probabilities if p > 0)
