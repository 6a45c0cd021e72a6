"""What to do with so much money: the most risk taken away for it, and the list it leaves undone."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

# How much a rating weighs against the others. The ratings are words in an order, not measures: these weights
# are this tool's choice and are shown wherever a sum is made of them.
RISK_POINTS = {"extreme": 100, "high": 30, "moderate": 8, "low": 1}


@dataclass(frozen=True)
class Priced:
    """A job with its cost, and the rating of its tree before and after it ('' where none is on record)."""

    job: str
    cost: float
    rating: str
    residual: str = "low"
    priority: int = 4

    @property
    def taken_away(self) -> int:
        """Risk points the job takes away; 0 where no risk is rated."""
        return max(0, RISK_POINTS.get(self.rating, 0) - RISK_POINTS.get(self.residual, 0))


@dataclass(frozen=True)
class Spending:
    """What is done with the money, what is left undone, and how near to the best it must be.

    taken_away, at_most: risk points it takes away, and a figure that no choice for this money exceeds. then,
    unrated: jobs whose trees have no rating, done with what is left by urgency, and left undone.
    """

    done: tuple[Priced, ...]
    undone: tuple[Priced, ...]
    then: tuple[Priced, ...]
    unrated: tuple[Priced, ...]
    spent: float
    taken_away: int
    at_most: float


def spend(jobs: Sequence[Priced], money: float) -> Spending:
    """Job after job by risk taken away per cost, as long as the money lasts; or the best single job first,
    where that takes more away (so that the choice is at least half of the best there is). What is left of the
    money goes to jobs without a rating, the most urgent first.
    """
    rated = sorted((j for j in jobs if j.taken_away > 0), key=lambda j: (-_ratio(j), -j.taken_away, j.job))
    done, spent = _as_long_as_it_lasts(rated, money)
    alone = max((j for j in rated if j.cost <= money), key=lambda j: (j.taken_away, j.job), default=None)
    if alone is not None and alone.taken_away > sum(j.taken_away for j in done):
        rest, more = _as_long_as_it_lasts([j for j in rated if j is not alone], money - alone.cost)
        done, spent = [alone, *rest], alone.cost + more
    chosen = {j.job for j in done}
    others = sorted((j for j in jobs if j.taken_away == 0), key=lambda j: (j.priority, j.cost, j.job))
    then, more_spent = _as_long_as_it_lasts(others, money - spent)
    chosen |= {j.job for j in then}
    return Spending(
        tuple(done),
        tuple(j for j in rated if j.job not in chosen),
        tuple(then),
        tuple(j for j in others if j.job not in chosen),
        spent + more_spent,
        sum(j.taken_away for j in done),
        _at_most(rated, money),
    )


def _ratio(job: Priced) -> float:
    return job.taken_away / job.cost if job.cost else math.inf


def _as_long_as_it_lasts(jobs: Sequence[Priced], money: float) -> tuple[list[Priced], float]:
    done = []
    spent = 0.0
    for job in jobs:
        if spent + job.cost <= money:
            done.append(job)
            spent += job.cost
    return done, spent


def _at_most(rated: Sequence[Priced], money: float) -> float:
    """What could be taken away if the last job could be done in part (Dantzig's bound, 1957)."""
    points = 0.0
    for job in rated:
        if job.cost <= money:
            points += job.taken_away
            money -= job.cost
        else:
            return points + job.taken_away * money / job.cost
    return points
