"""Correlations of groups of looks, fitted on virtual plants so that stated probabilities hold."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from jubark_core.naming.calibration import Plant
from jubark_core.naming.case import read_case
from jubark_core.naming.simulator import Trial, expected
from jubark_core.naming.weigh import spread_of, weigh

STEPS = (0.0, 0.1, 0.2, 0.3, 0.45, 0.6, 0.8, 1.0)
START = 0.3
SWEEPS = 2
LIVE = 1e-5  # hypotheses that never reach this are left out of the fit
FEWEST = 40  # looks of a group under which its correlation stays at the start
# sd of a correlation about the start before any plant is seen: a small group's does not follow its noise
SPREAD = 0.25
AFTER = (1, 2, 3, 4, 6, 9, 13, 20, 30)  # looks after which the belief is scored, and after the last

Vector = list[float]


@dataclass(frozen=True)
class _Look:
    """group, how much it tells (spread of its log-likelihoods under the prior), log-likelihoods of the
    live.
    """

    group: str
    told: float
    logs: Vector


@dataclass(frozen=True)
class _Path:
    """One plant: log prior and, look by look, what was told; the truth stands first among the live."""

    prior: Vector
    looks: list[_Look]

    @property
    def scored(self) -> list[int]:
        """Numbers of looks after which the belief is scored."""
        return sorted({n for n in (*AFTER, len(self.looks)) if n <= len(self.looks)})


def fitted_correlations(trials: Sequence[Trial]) -> dict[str, float]:
    """Group -> correlation that gives the truth the most probability, after few looks and after many (log
    score), by coordinate descent.

    Several trials, each with taxa of its own withheld and a description worsened in its own way, so that no
    one of them rules.
    """
    paths = [_path(plant, trial) for trial in trials for plant in trial.plants if plant.looks]
    counted: dict[str, int] = {}
    for path in paths:
        for look in path.looks:
            counted[look.group] = counted.get(look.group, 0) + 1
    groups = sorted({c.get("group", "") for c in trials[0].flora.characters.values()})
    fitted = dict.fromkeys(groups, START)
    parts = {group: [_share_of(path, group, START) for path in paths] for group in counted}
    for _ in range(SWEEPS):
        for group in sorted(
            (g for g in groups if counted.get(g, 0) >= FEWEST), key=lambda g: (-counted[g], g)
        ):
            concerned = [i for i, path in enumerate(paths) if any(look.group == group for look in path.looks)]
            rest = {i: _sums(paths[i], [parts[g][i] for g in parts if g != group]) for i in concerned}
            tried = {}
            for step in STEPS:
                own = {i: _share_of(paths[i], group, step) for i in concerned}
                loss = math.fsum(_loss(rest[i], own[i]) for i in concerned)
                tried[step] = (loss + ((step - START) / SPREAD) ** 2 / 2, own)
            best = min(STEPS, key=lambda step: (tried[step][0], step))
            fitted[group] = best
            for i, chosen in tried[best][1].items():
                parts[group][i] = chosen
    return fitted


def _path(plant: Plant, trial: Trial) -> _Path:
    flora = trial.given
    w = weigh(read_case({**plant.case, "observations": plant.looks}, flora), flora)
    reached = dict.fromkeys([expected(plant, flora)])
    belief = dict(w.prior.log)
    for i in sorted(w.logs):
        belief = {h: value + 0.8 * w.logs[i][h] for h, value in belief.items()}
        top = max(belief.values())
        reached |= dict.fromkeys(h for h, value in belief.items() if value > top + math.log(LIVE))
    looks = [
        _Look(
            flora.group_of(w.items[i].character),
            spread_of(w.logs[i], w.prior),
            [w.logs[i][h] for h in reached],
        )
        for i in sorted(w.logs)
    ]
    return _Path([w.prior.log[h] for h in reached], looks)


def _share_of(path: _Path, group: str, correlation: float) -> list[Vector]:
    """What the group adds to the log of the belief after each scored number of looks."""
    found = []
    for n in path.scored:
        members = [look for look in path.looks[:n] if look.group == group]
        total = [0.0] * len(path.prior)
        for look in members:
            others = [
                min(1.0, other.told / look.told) for other in members if other is not look and look.told > 0
            ]
            weight = 1 / (1 + correlation * math.fsum(others))
            total = [t + weight * x for t, x in zip(total, look.logs, strict=True)]
        found.append(total)
    return found


def _sums(path: _Path, parts: list[list[Vector]]) -> list[Vector]:
    return [
        [math.fsum(column) for column in zip(path.prior, *[part[k] for part in parts], strict=True)]
        for k in range(len(path.scored))
    ]


def _loss(rest: list[Vector], own: list[Vector]) -> float:
    """−ln P(truth), mean over the scored numbers of looks."""
    losses = []
    for a, b in zip(rest, own, strict=True):
        belief = [x + y for x, y in zip(a, b, strict=True)]
        top = max(belief)
        losses.append(top + math.log(sum(math.exp(x - top) for x in belief)) - belief[0])
    return math.fsum(losses) / len(losses)
