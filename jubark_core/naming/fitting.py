"""Weights of groups of correlated looks, fitted on virtual plants so that stated probabilities hold."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from jubark_core.naming.calibration import Plant
from jubark_core.naming.case import read_case
from jubark_core.naming.simulator import Trial, expected
from jubark_core.naming.weigh import weigh

STEPS = (0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
START = 0.8
SWEEPS = 2
LIVE = 1e-5  # hypotheses that never reach this are left out of the fit
FEWEST = 40  # looks of a group under which its weight stays at the start
# sd of a weight about the start before any plant is seen: a small group's weight does not follow its noise
SPREAD = 0.1


@dataclass(frozen=True)
class _Path:
    """One plant: log prior and, look by look, group and log-likelihoods over its live hypotheses; the truth's
    place.
    """

    prior: list[float]
    looks: list[tuple[str, list[float]]]
    truth: int


def fitted_weights(trials: Sequence[Trial]) -> dict[str, float]:
    """Group -> weight that gives the truth the most probability, after every look (log score), by coordinate
    descent.

    Several trials, each with taxa of its own withheld and a description worsened in its own way, so that no
    one of them rules.
    """
    paths = [_path(plant, trial) for trial in trials for plant in trial.plants if plant.looks]
    counted: dict[str, int] = {}
    for path in paths:
        for group, _ in path.looks:
            counted[group] = counted.get(group, 0) + 1
    groups = sorted({c.get("group", "") for c in trials[0].flora.characters.values()})
    weights = dict.fromkeys(groups, START)
    for _ in range(SWEEPS):
        for group in sorted(
            (g for g in groups if counted.get(g, 0) >= FEWEST), key=lambda g: (-counted[g], g)
        ):
            weights[group] = min(STEPS, key=lambda step: (_loss(paths, {**weights, group: step}), -step))
    return weights


def _path(plant: Plant, trial: Trial) -> _Path:
    flora = trial.given
    w = weigh(read_case({**plant.case, "observations": plant.looks}, flora), flora)
    truth = expected(plant, flora)
    reached = dict.fromkeys([truth])
    belief = dict(w.prior.log)
    for i in sorted(w.logs):
        belief = {h: value + START * w.logs[i][h] for h, value in belief.items()}
        top = max(belief.values())
        reached |= dict.fromkeys(h for h, value in belief.items() if value > top + math.log(LIVE))
    hypotheses = list(reached)
    looks = [
        (flora.characters[w.looks[i].character].get("group", ""), [w.logs[i][h] for h in hypotheses])
        for i in sorted(w.logs)
    ]
    return _Path([w.prior.log[h] for h in hypotheses], looks, 0)


def _loss(paths: list[_Path], weights: dict[str, float]) -> float:
    """Mean of −ln P(truth) over plants and looks, and the pull of the start as its spread gives it."""
    losses = []
    for path in paths:
        belief = path.prior
        for group, logs in path.looks:
            weight = weights[group]
            belief = [b + weight * x for b, x in zip(belief, logs, strict=True)]
            top = max(belief)
            losses.append(top + math.log(math.fsum(math.exp(b - top) for b in belief)) - belief[path.truth])
    pull = math.fsum(((w - START) / SPREAD) ** 2 / 2 for w in weights.values())
    return math.fsum(losses) / len(losses) + pull / len(paths)
