"""Posteriors and expected gains worked by hand or published, against the engine with weight 1 and the floor
off.

Values were computed by two independent scripts from Bayes' theorem, Wald (1947) and
Lindley (1956).
"""

from __future__ import annotations

import math
import unittest
from unittest.mock import patch

from jubark_core.flora.model import Flora
from jubark_core.naming import answers, likelihood
from jubark_core.naming.case import read_case
from jubark_core.naming.engine import name_plant
from jubark_core.naming.samples import leaves_to_settle, log_counts, log_measures
from jubark_core.naming.states import beta_binomial
from jubark_core.naming.weigh import entropy_bits, weigh
from jubark_core.tests.small_flora import character, small_flora


def without_floor(test: unittest.TestCase) -> None:
    """Switch the floor off for one test: hand values are of the bare likelihood."""
    for module, constant in ((likelihood, "FLOOR"), (answers, "FLOOR"), (likelihood, "OUTLIER_SHARE")):
        patcher = patch.object(module, constant, 0.0)
        patcher.start()
        test.addCleanup(patcher.stop)


def look(character_id: str, state: str, **more: object) -> dict[str, object]:
    return {"character": character_id, "state": state, "slip": 0, **more}


class PosteriorByHand(unittest.TestCase):
    def setUp(self) -> None:
        without_floor(self)

    def test_four_looks_give_the_published_posterior(self) -> None:  # 8.10-11
        chances = [(0.9, 0.2, 0.6), (0.3, 0.8, 0.5), (0.7, 0.4, 0.05), (0.6, 0.7, 0.9)]
        characters = {f"leaf.c{i}": character("one", states=["seen", "other"]) for i in range(4)}
        states = {
            t: {f"leaf.c{i}": {"seen": p[j], "other": 1 - p[j]} for i, p in enumerate(chances)}
            for j, t in enumerate("abc")
        }
        flora = small_flora(characters, states)
        prior = {"a": 0.5, "b": 0.3, "c": 0.2}
        case = {"on": "2026-07-01", "observations": [look(f"leaf.c{i}", "seen") for i in range(4)]}
        self.assert_posterior(flora, case, prior, (0.7784185, 0.184514, 0.03706755))
        case["observations"] = case["observations"][:2]
        self.assert_posterior(flora, case, prior, (0.5555556, 0.1975309, 0.2469136))

    def assert_posterior(
        self, flora: Flora, case: dict[str, object], prior: dict[str, float], expected: tuple[float, ...]
    ) -> None:
        w = weigh(read_case({**case, "prior": "flat"}, flora), flora)
        raw = {
            t: prior[t] * w.probability[t] for t in prior
        }  # flat prior, so the posterior is the likelihood
        total = math.fsum(raw.values())
        for value, wanted in zip((raw[t] / total for t in "abc"), expected, strict=True):
            self.assertAlmostEqual(value, wanted, delta=wanted * 1e-6)

    def test_a_confused_reading_is_shared_between_the_states(self) -> None:  # 8.12: 0.7 entire, 0.3 serrate
        c = character(
            "one",
            states=["entire", "serrate", "lobed"],
            confusions={"serrate": {"entire": 0.3}, "entire": {"lobed": 0.3}},
        )
        weights = {"a": (0.8, 0.15, 0.05), "b": (0.1, 0.2, 0.7)}
        flora = small_flora(
            {"leaf.edge": c},
            {t: {"leaf.edge": dict(zip(c["states"], w, strict=True))} for t, w in weights.items()},
        )
        case = read_case(
            {"on": "2026-07-01", "prior": "flat", "observations": [look("leaf.edge", "entire")]}, flora
        )
        w = weigh(case, flora)
        self.assertAlmostEqual(math.exp(w.logs[0]["a"]), 0.7 * 0.8 + 0.3 * 0.15, places=9)
        self.assertAlmostEqual(math.exp(w.logs[0]["b"]), 0.7 * 0.1 + 0.3 * 0.2, places=9)

    def test_two_published_gains_and_their_order(
        self,
    ) -> None:  # 8.16 and the mutual information of 8.13 with a flat prior
        halving = character("one", states=["yes", "no"])
        nothing = character("one", states=["yes", "no"])
        sure, half = {"yes": 1.0, "no": 0.0}, {"yes": 0.5, "no": 0.5}
        own = {
            t: {"leaf.halving": sure if t in "ab" else {"yes": 0.0, "no": 1.0}, "leaf.nothing": half}
            for t in "abcd"
        }
        with patch.object(answers, "SLIP_NEXT", 0.0):
            answer = name_plant(
                {"on": "2026-07-01", "prior": "flat", "observations": []},
                small_flora({"leaf.halving": halving, "leaf.nothing": nothing}, own),
            )
        self.assertEqual([n["character"] for n in answer["next_looks"]], ["leaf.halving"])
        self.assertAlmostEqual(answer["next_looks"][0]["gain_bits"], 1.0, places=6)

    def test_the_floor_lets_no_look_cost_much_more_than_ten_bits(self) -> None:
        patch.stopall()
        c = character("one", states=["yes", "no"])
        flora = small_flora(
            {"leaf.hard": c},
            {"a": {"leaf.hard": {"yes": 1.0, "no": 0.0}}, "b": {"leaf.hard": {"yes": 0.0, "no": 1.0}}},
        )
        w = weigh(
            read_case(
                {"on": "2026-07-01", "prior": "flat", "observations": [look("leaf.hard", "yes")]}, flora
            ),
            flora,
        )
        self.assertLess(w.bits(0, "b", "a"), -8)
        self.assertGreater(w.bits(0, "b", "a"), -11.1)


class SampledValues(unittest.TestCase):
    def test_sequential_ratios_of_side_veins(
        self,
    ) -> None:  # 8.03-8.07: 9 against 12 veins, step 3(x - 10.5) at sd 1
        for values, sd, expected in (
            ([9], 1, -4.5),
            ([10, 10, 9], 1, -7.5),
            ([11, 10, 11, 11], 1, 3.0),
            ([10, 11, 10, 11, 10], 1, -1.5),
            ([12, 11, 12, 10, 12], 2, 3.375),
        ):
            with self.subTest(values=values):
                ratio = log_measures(values, 12, sd, 0, False) - log_measures(values, 9, sd, 0, False)
                self.assertAlmostEqual(ratio, expected, places=9)

    def test_two_correlated_leaves_are_a_bivariate_normal(self) -> None:
        mean, sd, rho, (x, y) = 10.0, 2.0, 0.4, (11.0, 8.5)
        u, v = (x - mean) / sd, (y - mean) / sd
        density = math.exp(-(u * u - 2 * rho * u * v + v * v) / (2 * (1 - rho * rho))) / (
            2 * math.pi * sd * sd * math.sqrt(1 - rho * rho)
        )
        self.assertAlmostEqual(log_measures([x, y], mean, sd, rho, False), math.log(density), places=9)

    def test_counts_agree_with_a_fine_sum_over_the_plant_effect(self) -> None:
        values, mean, sd, between = [9, 10, 9, 11], 11.5, 1.6, 0.35
        plant, leaf = sd * math.sqrt(between), sd * math.sqrt(1 - between)

        def cell(k: int, m: float) -> float:
            return 0.5 * (
                math.erf((k + 0.5 - m) / leaf / math.sqrt(2)) - math.erf((k - 0.5 - m) / leaf / math.sqrt(2))
            )

        step = plant / 200
        total = math.fsum(
            math.prod(cell(k, mean + i * step) for k in values) * math.exp(-0.5 * (i * step / plant) ** 2)
            for i in range(-1600, 1601)
        )
        self.assertAlmostEqual(
            log_counts([(v, 0.0) for v in values], mean, sd, between),
            math.log(total * step / plant / math.sqrt(2 * math.pi)),
            places=4,
        )

    def test_ten_leaves_of_one_twig_are_not_ten_witnesses(self) -> None:
        nine = (9, 0.0)
        one = log_counts([nine], 9, 1.5, 0.5) - log_counts([nine], 12, 1.5, 0.5)
        ten = log_counts([nine] * 10, 9, 1.5, 0.5) - log_counts([nine] * 10, 12, 1.5, 0.5)
        self.assertLess(one, ten)
        self.assertLess(ten, 3 * one)

    def test_more_leaves_settle_or_it_is_said_that_they_will_not(self) -> None:
        self.assertEqual(leaves_to_settle(9, 12, 1.5, 0.0, 0.0, 9.5, 0), 3)
        self.assertIsNone(leaves_to_settle(9, 10, 2.0, 0.6, 0.0, 9.4, 3))

    def test_k_of_n_is_a_distribution_with_the_mean_of_one_leaf(self) -> None:
        chances = [beta_binomial(k, 8, 0.3, 0.3) for k in range(9)]
        self.assertAlmostEqual(math.fsum(chances), 1, places=9)
        self.assertAlmostEqual(math.fsum(k * p for k, p in enumerate(chances)), 8 * 0.3, places=6)

    def test_entropy_of_four_equal_taxa_is_two_bits(self) -> None:
        self.assertAlmostEqual(entropy_bits([0.25] * 4), 2)
