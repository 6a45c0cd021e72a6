"""The goals of naming on virtual plants, two fresh seeds together: consistency, not truth
(docs/naming.md).
"""

from __future__ import annotations

from functools import cache

from django.test import SimpleTestCase, tag

from jubark_core.flora.load import shipped_flora
from jubark_core.naming.calibration import SEASONS
from jubark_core.naming.simulator import Trial, mean_looks, report, run_trial

SEEDS = (101, 202)  # of no fit
# Where a goal is not reached yet, what is held is two standard errors under what these trials show, and the
# goal stands beside it (docs/naming.md tells the figures).
IN_LEAF = 0.83  # goal 0.93; 0.87 with the calendars by region, 0.90 for the plants drawn before
WINTER_TWIG = 0.66  # goal 0.80
WRONG_SPECIES = 0.22  # goal 0.08
HELD_ABOVE = 0.46  # goal 0.60
OF_RANDOM = 0.50  # goal 0.42
PLANTS, TWIGS, HIDDEN, ORDERED = 300, 90, 60, 40  # for each seed
TRIALS = {
    "as met": (PLANTS, None, 0.05),
    "winter twig": (TWIGS, [("winter", "winter twig")], 0.0),
    "withheld": (HIDDEN, [("summer", "all"), ("summer", "leaf"), ("winter", "all")], 1.0),
}


def drawn(name: str, seed: int) -> Trial:
    """The trial with what was stated after every look."""
    trial = run_trial(shipped_flora(), TRIALS[name][0], seed, *TRIALS[name][1:])
    _ = trial.steps
    return trial


@cache
def trial(name: str) -> Trial:
    """Both seeds as one. One after the other: a worker of the test runner may start no process of its own."""
    one, two = (drawn(name, seed) for seed in SEEDS)
    both = Trial(one.flora, one.given, [*one.plants, *two.plants])
    both.__dict__["steps"] = [*one.steps, *two.steps]
    return both


@tag("slow")
class Goals(SimpleTestCase):
    def test_stated_probabilities_hold_overall_and_in_every_season(self) -> None:
        rows = {row.name: row for row in report(trial("as met"))}
        self.assertLessEqual(rows["all looks"].error, max(0.03, rows["all looks"].floor))
        for season in SEASONS:
            self.assertLessEqual(rows[season].error, max(0.06, rows[season].floor), season)

    def test_leaves_and_winter_twigs_name_and_bark_alone_is_not_wrong_above_nine_tenths(self) -> None:
        rows = {row.name: row for row in report(trial("as met"))}
        twigs = next(row for row in report(trial("winter twig")) if row.name == "winter twig")
        self.assertGreaterEqual(rows["in leaf"].top1, IN_LEAF)
        self.assertGreaterEqual(twigs.plants, 150)
        self.assertGreaterEqual(twigs.top1, WINTER_TWIG)
        self.assertLess(rows["bark"].wrong_above, 0.01)

    def test_a_species_the_flora_lacks_is_not_named_as_another(self) -> None:
        row = next(row for row in report(trial("withheld")) if row.name == "withheld")
        self.assertLess(row.wrong_above, WRONG_SPECIES)
        self.assertGreaterEqual(row.holds_above, HELD_ABOVE)

    def test_next_observations_settle_sooner_than_a_random_order(self) -> None:
        looks = [self.settled(seed) for seed in SEEDS]
        self.assertLessEqual(sum(n for n, _ in looks), OF_RANDOM * sum(r for _, r in looks))

    @staticmethod
    def settled(seed: int) -> tuple[float, float]:
        means = mean_looks(run_trial(shipped_flora(), 4 * ORDERED, seed), ORDERED, seed)
        return means["next look"][0], means["random"][0]
