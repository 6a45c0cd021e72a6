"""How good stated probabilities are: accuracy, Brier score, calibration error and the error that chance alone
would show.

Brier (1950), Monthly Weather Review 78:1-3 (binary, of the leader). Expected calibration error: Naeini et al.
(2015), Guo et al. (2017): ten bins (lo, hi] of the leader's stated probability. Checked against worked
examples of both.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from random import Random

BINS = 10


def calibration_error(stated: Sequence[float], right: Sequence[bool], bins: int = BINS) -> float:
    """Mean gap between stated probability and share right, over bins (lo, hi], weighted by their size; 0 for
    no cases.
    """
    sums: dict[int, list[float]] = {}
    for p, hit in zip(stated, right, strict=True):
        box = sums.setdefault(max(0, math.ceil(p * bins - 1e-12) - 1), [])
        box.append(p - hit)
    return math.fsum(abs(math.fsum(box)) for box in sums.values()) / max(1, len(stated))


def calibration_floor(
    stated: Sequence[float], rng: Random, draws: int = 200, percentile: float = 0.95
) -> float:
    """The calibration error that a perfectly calibrated model shows at this sample size, at the percentile
    given.

    Outcomes are drawn from the stated probabilities themselves.
    """
    errors = sorted(calibration_error(stated, [rng.random() < p for p in stated]) for _ in range(draws))
    return errors[min(len(errors) - 1, math.ceil(percentile * len(errors)) - 1)] if stated else 0.0


def brier(stated: Sequence[float], right: Sequence[bool]) -> float:
    """Mean squared difference between the leader's probability and whether it was right."""
    return math.fsum((p - hit) ** 2 for p, hit in zip(stated, right, strict=True)) / max(1, len(stated))


def log_loss(probability_of_truth: Sequence[float]) -> float:
    """Mean of −ln P(truth), in nats."""
    return -math.fsum(math.log(max(p, 1e-300)) for p in probability_of_truth) / max(
        1, len(probability_of_truth)
    )
