"""How near to the best a year plan comes in so many seconds: 2,000 invented jobs over 52 weeks."""

from __future__ import annotations

import time
from typing import Any

from django.core.management.base import BaseCommand

from apps.work.year_plan.solve import SECONDS, Limits, solve
from jubark_core.cli.bench import yardstick_ms
from jubark_core.work.year_plan.broken import broken_by
from jubark_core.work.year_plan.first_plan import first_plan
from jubark_core.work.year_plan.random_year import random_year
from jubark_core.work.year_plan.score import points_of

CASES = ((200, 2, 20.0), (2000, 4, 40.0), (2000, 4, 60.0))  # jobs, crews, hours of a crew in a week
SEED = 3


class Command(BaseCommand):
    """The command."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Prints one line a case."""
        stick = yardstick_ms()
        self.stdout.write(f"yardstick (200,000 squares summed): {stick:.1f} ms")
        for jobs, crews, hours in CASES:
            problem = random_year(SEED, jobs, weeks=52, crews=crews, hours=hours)
            began = time.perf_counter()
            first = first_plan(problem)
            ms = (time.perf_counter() - began) * 1000
            began = time.perf_counter()
            solved = solve(problem, Limits(seconds=SECONDS))
            took = time.perf_counter() - began
            assert not broken_by(problem, solved.plan)
            points = points_of(problem, first)
            worse = (points - solved.bound) / max(1, points - solved.hopeless)
            self.stdout.write(
                f"{jobs} jobs, {crews} crews of {hours:g} h: first plan {ms:.0f} ms, {ms / stick:.0f} x, "
                f"within {worse:.1%}; after {took:.1f} s {len(solved.plan)} planned, within {solved.gap:.2%}"
            )
