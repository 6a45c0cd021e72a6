"""Virtual plants: the engine's stated probabilities hold on plants that its own model did not make, and
scores are right.
"""

from __future__ import annotations

import unittest
from random import Random

from jubark_core.flora.load import shipped_flora
from jubark_core.naming.calibration import ORGAN_SETS, draw_plant, withhold, worsened
from jubark_core.naming.scores import brier, calibration_error, calibration_floor
from jubark_core.naming.simulator import mean_looks, report, run_trial

PLANTS, SEED = 200, 2
OVERALL, A_SEASON = 0.05, 0.08  # goals of calibration error, held by the sample as they stand
# Right first: the goals are 0.92 in leaf and 0.80 by winter twig, which is not reached in every run
# (docs/naming.md gives the figures). What holds here is two standard errors of this sample (70 plants in
# leaf, 17 winter twigs) under what full runs show.
IN_LEAF, WINTER_TWIG = 0.80, 0.55


class Scores(unittest.TestCase):
    def test_published_values(self) -> None:  # worked by hand; the binning of Naeini et al. (2015)
        self.assertAlmostEqual(brier([0.9, 0.2, 0.6], [True, False, False]), 0.1366667, places=6)
        stated = [0.95, 0.91, 0.85, 0.83, 0.72, 0.65, 0.62, 0.55, 0.45, 0.33]
        right = [bool(k) for k in (1, 1, 1, 0, 1, 1, 0, 0, 1, 0)]
        self.assertAlmostEqual(calibration_error(stated, right, 5), 0.088)
        self.assertAlmostEqual(calibration_error(stated, right, 10), 0.28)

    def test_the_floor_is_what_a_perfect_model_shows(self) -> None:
        rng = Random(3)
        stated = [rng.random() for _ in range(400)]
        floor = calibration_floor(stated, Random(1))
        below = sum(
            calibration_error(stated, [rng.random() < p for p in stated]) <= floor for _ in range(100)
        )
        self.assertGreater(below, 85)


class VirtualPlants(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.trial = run_trial(shipped_flora(), PLANTS, SEED)
        cls.rows = {row.name: row for row in report(cls.trial)}

    def test_a_seed_gives_the_same_plant_and_the_engine_lacks_what_is_withheld(self) -> None:
        flora = shipped_flora()
        one, two = (draw_plant(flora, [], Random(9), "summer", "leaf") for _ in range(2))
        self.assertEqual(one, two)
        withheld = withhold(flora, Random(9))
        self.assertFalse(set(withheld) & set(worsened(flora, withheld, Random(9)).leaves))

    def test_stated_probabilities_hold_overall_and_in_every_season(self) -> None:
        self.assertLessEqual(self.rows["all looks"].error, max(OVERALL, self.rows["all looks"].floor))
        for season in ("winter", "spring", "summer", "autumn"):
            self.assertLessEqual(self.rows[season].error, max(A_SEASON, self.rows[season].floor), season)

    def test_leaves_and_winter_twigs_name_and_bark_alone_stays_honest(self) -> None:
        self.assertGreaterEqual(self.rows["in leaf"].top1, IN_LEAF)
        self.assertGreaterEqual(self.rows["winter twig"].top1, WINTER_TWIG)
        self.assertLess(self.rows["bark"].wrong_above, 0.02)
        self.assertEqual(set(ORGAN_SETS) & {"bark", "winter twig", "leaf"}, {"bark", "winter twig", "leaf"})

    def test_the_next_look_settles_in_half_the_looks_of_a_random_order(self) -> None:
        means = mean_looks(self.trial, 24, SEED)
        self.assertLessEqual(means["next look"][0], 0.5 * means["random"][0] + 1)
        self.assertLess(means["next look"][1], means["fixed"][1])
