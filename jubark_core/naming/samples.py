"""Counts and measures: several values of one plant are correlated, so ten leaves are not ten witnesses.

A value of taxon t is its mean + a plant effect (share ρ of the variance) + a leaf effect (the rest).
Counts are integrated over the plant effect by Gauss-Hermite quadrature centred on its posterior mode;
measures have a closed form (compound symmetry). Everything in log space.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Sequence

COUNT_SD_FLOOR, LOG_SD_FLOOR = 0.3, 0.03
TINY_LOG = -700.0
LOG_TWO_PI = math.log(2 * math.pi)
MISREAD_LENGTH = 0.1  # a length that is misread is a tenth off

Sample = list[tuple[float, float]]  # (value, chance of a slip)

# Gauss-Hermite nodes and weights for exp(-x^2), n = 9 (Abramowitz & Stegun 1972, table 25.10; symmetric).
_HERMITE = (
    (0.0, 0.7202352156060510),
    (0.7235510187528376, 0.4326515590025558),
    (1.468553289216668, 0.08847452739437657),
    (2.266580584531843, 0.004943624275536947),
    (3.190993201781528, 3.960697726326438e-05),
)
NODES = tuple((sign * x, w) for x, w in _HERMITE for sign in ((1,) if x == 0 else (1, -1)))


def log_normal_cdf_between(a: float, b: float) -> float:
    """log(Φ(b) − Φ(a)) for a < b, safe in both tails."""
    if a > 0:
        a, b = -b, -a
    wide = 0.5 * (math.erfc(-b / math.sqrt(2)) - math.erfc(-a / math.sqrt(2)))
    if wide > 1e-300:
        return math.log(wide)
    # far in the tail: the density at the nearer edge over its distance (Mills' ratio)
    return max(TINY_LOG, -0.5 * b * b - math.log(-b * math.sqrt(2 * math.pi))) if b < 0 else TINY_LOG


def split_variance(sd: float, between: float, kind: str, log: bool, mean: float) -> tuple[float, float]:
    """(sd between plants, sd within a plant); the within part has a floor so that it cannot vanish."""
    floor = COUNT_SD_FLOOR if kind == "count" else LOG_SD_FLOOR if log else LOG_SD_FLOOR * abs(mean)
    return sd * math.sqrt(between), max(sd * math.sqrt(1 - between), floor)


def log_counts(
    sample: Sample,
    mean: float,
    sd: float,
    between: float,
    odd_share: float | None = None,
    span: float = 61.0,
) -> float:
    """log-probability of whole numbers sampled from one plant of a taxon with that mean and sd.

    sample: (value, chance of a slip): one more or less nine times in ten, else any number of the span.
    odd_share: where the counts are mostly odd or mostly even (leaflets with or without an end leaflet), the
    share of odd ones.
    """
    plant_sd, leaf_sd = split_variance(sd, between, "count", False, mean)
    n = len(sample)
    counts = Counter(sample)
    average = math.fsum(v for v, _ in sample) / n
    precision = n / leaf_sd**2 + (1 / plant_sd**2 if plant_sd > 0 else 1e12)
    centre = (
        (average - mean) * n / leaf_sd**2 / precision
    )  # posterior mode of the plant effect (normal approximation)
    width = math.sqrt(1 / precision)

    def log_all(middle: float) -> float:
        return math.fsum(
            k * _log_misread(v, slip, middle, leaf_sd, odd_share, span) for (v, slip), k in counts.items()
        )

    if plant_sd == 0:
        return max(TINY_LOG, log_all(mean))
    terms = []
    for x, w in NODES:
        effect = centre + math.sqrt(2) * width * x
        log_f = log_all(mean + effect)
        log_f += -0.5 * (effect / plant_sd) ** 2 - math.log(plant_sd * math.sqrt(2 * math.pi))
        terms.append(math.log(w) + x * x + log_f)
    top = max(terms)
    return max(
        TINY_LOG, math.log(math.sqrt(2) * width) + top + math.log(math.fsum(math.exp(t - top) for t in terms))
    )


def _log_misread(
    value: float, slip: float, mean: float, sd: float, odd_share: float | None, span: float
) -> float:
    """log-probability that a number is reported: itself, one off by a slip, or any of the span by a wild
    one.
    """
    if slip == 0:
        return _log_count(value, mean, sd, odd_share)
    own, less, more = (math.exp(_log_count(v, mean, sd, odd_share)) for v in (value, value - 1, value + 1))
    return math.log((1 - slip) * own + 0.45 * slip * (less + more) + 0.1 * slip / span)


def _log_count(value: float, mean: float, sd: float, odd_share: float | None) -> float:
    if odd_share is None:
        return log_normal_cdf_between((value - 0.5 - mean) / sd, (value + 0.5 - mean) / sd)
    share = odd_share if value % 2 else 1 - odd_share
    return log_normal_cdf_between((value - 1 - mean) / sd, (value + 1 - mean) / sd) + math.log(share)


def log_measures(values: Sequence[float], mean: float, sd: float, between: float, log: bool) -> float:
    """log-density of measurements sampled from one plant; values and moments on the character's own scale."""
    return measures(values, between, log)(mean, sd)


def measures(
    values: Sequence[float], between: float, log: bool, slip: float = 0.0, steps: float = 0.0
) -> Callable[[float, float], float]:
    """(mean, sd of a taxon) -> log-density of the measurements (compound symmetry: one plant effect, one per
    leaf).

    slip: chance that a length is read a tenth off; steps: that a count is one off. Both widen the spread
    within a plant. What depends on the values alone is worked out once, as the same sample is judged for
    every taxon.
    """
    n = len(values)
    average = math.fsum(values) / n
    scatter = math.fsum((v - average) ** 2 for v in values)

    def log_density(mean: float, sd: float) -> float:
        plant_sd, leaf_sd = split_variance(sd, between, "measure", log, mean)
        off = MISREAD_LENGTH if log else MISREAD_LENGTH * mean
        leaf_var = leaf_sd * leaf_sd + slip * off * off + steps
        mean_var = leaf_var + n * plant_sd * plant_sd
        log_det = (n - 1) * math.log(leaf_var) + math.log(mean_var)
        quad = scatter / leaf_var + n * (average - mean) ** 2 / mean_var
        return max(TINY_LOG, -0.5 * (n * LOG_TWO_PI + log_det + quad))

    return log_density


def log_at_least(value: float, mean: float, sd: float) -> float:
    """log-probability that what may still grow reaches `value`: only too large counts against."""
    return max(TINY_LOG, math.log(max(1e-300, 0.5 * math.erfc((value - mean) / (sd * math.sqrt(2))))))


def log_at_most(value: float, mean: float, sd: float) -> float:
    """log-probability that the usual size stays under that of an overgrown leaf: only too small counts
    against.
    """
    return log_at_least(-value, -mean, sd)


def leaves_to_settle(
    mean_a: float,
    mean_b: float,
    sd: float,
    between: float,
    log_odds: float,
    average: float,
    n: int,
    bound: float = 2.944439,
) -> int | None:
    """How many more leaves of this plant would bring the log odds between two taxa past Wald's bound.

    log_odds: present natural log odds of A to B from n leaves with that average. Default bound: α = β = 0.05
    (Wald 1945). None where even endless leaves of this one plant stay under the bound: the plant effect
    remains.
    """
    plant, leaf = sd * math.sqrt(between), sd * math.sqrt(1 - between)
    step = (mean_a - mean_b) * (average - (mean_a + mean_b) / 2)
    if n > 0 and abs(log_odds) >= bound:
        return 0

    def odds_at(count: int) -> float:
        return abs(step) / (plant**2 + leaf**2 / count)

    if plant > 0 and abs(step) / plant**2 < bound:
        return None
    if step == 0:
        return None
    for count in range(n + 1, n + 201):
        if odds_at(count) >= bound:
            return count - n
    return None
