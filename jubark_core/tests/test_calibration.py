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
from jubark_core.tests.profiles import slow

PLANTS, SEED = 96, 2
# calibration is held on 600 plants by server/tests/naming: this sample is too small to tell it


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


@slow
class VirtualPlants(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.trial = run_trial(shipped_flora(), PLANTS, SEED)

    def test_a_seed_gives_the_same_plant_and_the_engine_lacks_what_is_withheld(self) -> None:
        flora = shipped_flora()
        one, two = (draw_plant(flora, [], Random(9), "summer", "leaf") for _ in range(2))
        self.assertEqual(one, two)
        withheld = withhold(flora, Random(9))
        self.assertFalse(set(withheld) & set(worsened(flora, withheld, Random(9)).leaves))

    def test_bark_alone_stays_honest(self) -> None:
        rows = {row.name: row for row in report(self.trial)}
        self.assertEqual(rows["bark"].wrong_above, 0)
        self.assertEqual(sum(rows[organs].plants for organs in ORGAN_SETS), rows["all looks"].plants)

    def test_next_observations_settle_sooner_than_any_order(self) -> None:
        means = mean_looks(self.trial, 12, SEED)
        self.assertLess(means["next look"][0], 0.7 * means["random"][0])
        self.assertLess(means["next look"][1], means["fixed"][1])
