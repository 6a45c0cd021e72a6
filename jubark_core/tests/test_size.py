"""Diameters and heights against worked values: plane trigonometry, plane geometry, BS 5837:2012 clause 4.6,
and a municipal rule.
"""

from __future__ import annotations

import doctest
import math
import random
import statistics
import unittest
from collections.abc import Callable, Sequence

from jubark_core.errors import EmptySampleError, InputError, OutOfRangeError
from jubark_core.plates.measuring import measuring_drawings
from jubark_core.size import height as height_module
from jubark_core.size.compute import compute
from jubark_core.size.crown import (
    crown_area,
    crown_spread,
    live_crown_ratio,
    overlap_share,
    percent_class,
    spread_from_radii,
)
from jubark_core.size.diameter import (
    COMBINE,
    basal_area_m2,
    combined_by_mean,
    combined_by_squares,
    diameter_from_callipers,
    diameter_from_girth,
    largest_plus_half,
)
from jubark_core.size.height import (
    Height,
    angle_in_degrees,
    height_by_sine,
    height_by_stick,
    height_from_angles,
    height_with_pole,
)
from jubark_core.size.plausibility import plausibility
from jubark_core.size.where import sentence, stem_forms, where_to_measure
from jubark_core.units import cm_to_inches, feet_to_m, inches_to_cm


class Diameters(unittest.TestCase):
    def test_published_values(self) -> None:
        self.assertAlmostEqual(diameter_from_girth(100), 31.83099, delta=3e-5)
        self.assertAlmostEqual(combined_by_squares([15, 20, 25]), 35.35534, delta=3e-5)
        self.assertAlmostEqual(largest_plus_half([10, 8, 6]), 17)
        self.assertAlmostEqual(basal_area_m2(30), 0.07068583, delta=1e-8)

    def test_no_stem_and_a_bad_stem_are_told_apart(self) -> None:
        with self.assertRaises(EmptySampleError):
            combined_by_squares([])
        with self.assertRaises(OutOfRangeError) as caught:
            combined_by_squares([12, 9999])
        self.assertEqual(caught.exception.place, "dbh_cm[1]")

    def test_inches_and_feet_are_exact(self) -> None:
        self.assertEqual(inches_to_cm(1), 2.54)
        self.assertAlmostEqual(cm_to_inches(inches_to_cm(12.3)), 12.3)
        self.assertAlmostEqual(feet_to_m(4.5), 1.3716)


class Heights(unittest.TestCase):
    def test_published_values(self) -> None:
        for given, expected in (
            ((20, 45, -5), 21.74977),
            ((20, 45, 5), 18.25023),
            ((25, 38, -12, True), 24.30311),
        ):
            self.assertAlmostEqual(height_from_angles(*given).height_m, expected, delta=expected * 1e-6)

    def test_standing_too_near_is_warned_with_the_error(self) -> None:
        near, far = height_from_angles(4, 78.06, -15), height_from_angles(25, 37, -4)  # the same tree of 20 m
        self.assertTrue(near.too_near)
        self.assertFalse(far.too_near)
        self.assertGreater(near.error_m, 1.5 * far.error_m)

    def test_a_top_below_the_base_is_refused(self) -> None:
        with self.assertRaises(OutOfRangeError):
            height_from_angles(20, -6, -5)

    def test_the_examples_in_the_docstrings_hold(self) -> None:
        self.assertEqual(doctest.testmod(height_module).failed, 0)


class Computing(unittest.TestCase):
    def test_shoots_by_the_rule_of_the_ground(self) -> None:
        self.assertAlmostEqual(
            compute("dbh_cm", {"diameters_cm": [10, 8, 6]}, "largest_plus_half")["value"], 17
        )
        self.assertAlmostEqual(compute("dbh_cm", {"circumferences_cm": [100]})["value"], 31.83099, delta=3e-5)
        found = compute("dbh_cm", {"diameters_cm": [15, 20, 25, 4, 3]}, least_cm=5)
        self.assertAlmostEqual(found["value"], 35.35534, delta=3e-5)
        self.assertEqual((found["stems"], found["thinner"]), (3, 2))

    def test_shoots_under_the_least_are_counted_and_never_passed_off_as_measured(self) -> None:
        for raw in ({"diameters_cm": [4, 3, 2.5]}, {"value": 4}, {"circumferences_cm": [12.5]}):
            found = compute("dbh_cm", raw, least_cm=5)
            self.assertEqual((found["value"], found["stems"]), (0.0, 0), raw)
            self.assertEqual(found["thinner"], len(raw.get("diameters_cm", "1")))

    def test_a_height_read_off_as_one_figure_has_the_error_of_its_method(self) -> None:
        for method, error in (("estimated", 3.0), ("instrument", 0.6), ("taped", None), ("", None)):
            found = compute("height_m", {"value": 20}, method=method)
            self.assertEqual(found.get("error_m"), error and round(error, 9))
        angles = {"angles": {"distance_m": 20, "top": 45, "base": -5}}
        self.assertEqual(
            compute("height_m", angles, method="estimated"), compute("height_m", angles)
        )  # readings speak for themselves

    def test_length_of_a_leaning_stem_by_the_offset_of_its_tip(self) -> None:
        found = compute("stem_length_m", {"leaning": {"height_m": 18, "offset_m": 5}})  # check value 2.11
        self.assertAlmostEqual(found["value"], 18.68154, delta=1e-5)
        with self.assertRaises(InputError):
            compute("height_m", {"leaning": {"height_m": 18, "offset_m": 5}})

    def test_every_way_to_a_height_gives_the_published_value(self) -> None:
        for raw, expected in (
            ({"angles": {"distance_m": 30.48, "top": 72, "base": -8, "angle_unit": "percent"}}, 80 * 0.3048),
            (
                {"angles": {"distance_m": 99 * 0.3048, "top": 60, "base": -4, "angle_unit": "topo"}},
                96 * 0.3048,
            ),
            ({"angles": {"distance_m": 25, "top": 50, "base": -4, "toward_m": 3}}, 27.96675),
            ({"angles": {"distance_m": 25, "top": 50, "base": -4}}, 31.54201),
            ({"sine": {"top_distance_m": 32, "top": 50, "base_distance_m": 20.5, "base": -6}}, 26.65626),
            (
                {
                    "two_stations": {
                        "apart_m": 12,
                        "near_top": 48,
                        "near_base": -4,
                        "far_top": 33,
                        "far_base": -2.5,
                    }
                },
                20.14138,  # check value 2.12
            ),
            ({"pole": {"pole_m": 4, "top": 42, "pole": 7, "base": -5}}, 18.79255),
            ({"stick": {"distance_m": 20, "stick_cm": 60, "arm_cm": 60}}, 20.0),
        ):
            with self.subTest(raw):
                self.assertAlmostEqual(compute("height_m", raw)["value"], expected, delta=expected * 1e-6)

    def test_bad_readings_name_the_field(self) -> None:
        for quantity, raw, place in (
            ("dbh_cm", {"value": 9999}, "dbh_cm"),
            ("dbh_cm", {"value": 10, "circumferences_cm": [3]}, "raw"),
            ("dbh_cm", {"callipers_cm": [10, 12]}, "raw.callipers_cm[0]"),
            ("height_m", {"angles": {"distance_m": 20}}, "raw.angles.top"),
            (
                "height_m",
                {"sine": {"top_distance_m": 20, "top": 30, "base_distance_m": 9, "base": 31}},
                "top_deg",
            ),
            ("height_m", {"circumferences_cm": [100]}, "raw.circumferences_cm"),
            ("height_m", {"pole": {"pole_m": 4, "top": 40, "pole": 41, "base": -3}}, "pole_deg"),
            ("crown_spread_m", {"radii_m": [3]}, "radii_m"),
            ("transparency_pct", {"value": 101}, "transparency_pct"),
            ("depth", {"value": 1}, "quantity"),
        ):
            with self.subTest(raw), self.assertRaises(InputError) as caught:
                compute(quantity, raw)
            self.assertEqual(caught.exception.place, place)


class Errors(unittest.TestCase):
    """First-order errors against brute force: the same readings, each off by a normal deviate of its own
    error.
    """

    ROUNDS = 4000

    def spread(self, method: Callable[..., Height], read: Sequence[float], errors: Sequence[float]) -> float:
        rng = random.Random(20260501)
        return statistics.stdev(
            method(*(rng.gauss(v, e) for v, e in zip(read, errors, strict=True))).height_m
            for _ in range(self.ROUNDS)
        )

    def test_the_error_told_is_the_error_simulated(self) -> None:
        for method, read, errors in (
            (height_from_angles, (20, 45, -5), (0.2, 0.5, 0.5)),
            (height_from_angles, (12, 60, -8), (0.12, 0.5, 0.5)),
            (height_by_sine, (32, 50, 20.5, -6), (0.32, 0.5, 0.205, 0.5)),
            (height_by_stick, (25, 50, 62), (0.25, 1.0, 1.24)),
        ):
            with self.subTest(method.__name__, read=read):
                told = method(*read).error_m
                self.assertAlmostEqual(told, self.spread(method, read, errors), delta=0.06 * told)
        told = height_with_pole(4, 42, 7, -5).error_m
        shaken = self.spread(
            lambda top, pole, base: height_with_pole(4, top, pole, base), (42, 7, -5), (0.5, 0.5, 0.5)
        )
        self.assertAlmostEqual(told, shaken, delta=0.06 * told)


class Properties(unittest.TestCase):
    """What must hold for any stem, tried on many."""

    def stems(self) -> list[list[float]]:
        rng = random.Random(7)
        return [[rng.uniform(1, 90) for _ in range(rng.randint(1, 12))] for _ in range(300)]

    def test_several_shoots_are_never_less_than_the_largest_nor_more_than_their_sum(self) -> None:
        for rule in COMBINE.values():
            for shoots in self.stems():
                self.assertGreaterEqual(
                    rule(shoots), max(shoots) * (1 - 1e-12) if rule is not combined_by_mean else 0
                )
                self.assertLessEqual(rule(shoots), math.fsum(shoots) * (1 + 1e-12))
        for shoots in self.stems():
            self.assertLessEqual(combined_by_mean(shoots), combined_by_squares(shoots) + 1e-9)
            self.assertAlmostEqual(combined_by_squares(shoots), combined_by_squares(shoots[::-1]))

    def test_units_come_back_and_callipers_lie_between_their_readings(self) -> None:
        for a, b, *_ in (s for s in self.stems() if len(s) > 1):
            self.assertAlmostEqual(diameter_from_girth(a * math.pi), a)
            low, high = diameter_from_callipers(a, b), diameter_from_callipers(a, b, "arithmetic")
            self.assertTrue(min(a, b) - 1e-9 <= low <= high <= max(a, b) + 1e-9)

    def test_a_higher_top_and_a_longer_way_give_a_higher_stem(self) -> None:
        heights = [height_from_angles(20, top, -5).height_m for top in range(0, 75, 5)]
        self.assertEqual(heights, sorted(heights))
        self.assertLess(height_from_angles(20, 30, -5).height_m, height_from_angles(25, 30, -5).height_m)
        self.assertAlmostEqual(angle_in_degrees(57.73503, "percent"), 30, delta=1e-5)
        self.assertAlmostEqual(angle_in_degrees(38.10512, "topo"), 30, delta=1e-5)


class Crowns(unittest.TestCase):
    def test_a_round_crown_by_radii_and_by_diameters(self) -> None:
        self.assertAlmostEqual(spread_from_radii([4, 4, 4, 4]), crown_spread([8, 8]))
        self.assertAlmostEqual(spread_from_radii([3, 0, 3, 0]), 2 * math.sqrt(4.5))
        self.assertAlmostEqual(crown_area(8), 50.26548, delta=1e-4)
        self.assertAlmostEqual(live_crown_ratio(20, 8), 0.6)
        self.assertEqual([percent_class(p) for p in (0, 1, 5, 5.1, 62, 100)], [0, 5, 5, 10, 65, 100])

    def test_overlap_runs_from_none_to_whole_and_agrees_with_counting_points(self) -> None:
        self.assertEqual(overlap_share(10, 8, 8), 0)
        self.assertEqual(overlap_share(1, 12, 4), 1)
        rng, inside, n = random.Random(5), 0, 40_000
        # points even over the smaller crown, at (6, 0) with radius 4;
        # the larger stands at (0, 0) with radius 5
        for _ in range(n):
            r, a = 4 * math.sqrt(rng.random()), rng.uniform(0, 2 * math.pi)
            inside += math.hypot(6 + r * math.cos(a), r * math.sin(a)) <= 5
        self.assertAlmostEqual(overlap_share(6, 10, 8), inside / n, delta=0.01)


class Where(unittest.TestCase):
    def test_one_sentence_for_every_form_with_the_convention_of_the_ground(self) -> None:
        for form in stem_forms():
            for height in (1.30, 1.37, 1.40, 1.50):
                told = where_to_measure(form, height)
                self.assertNotRegex(told["says"], r"\bH\b")
                self.assertNotRegex(
                    told["says"],
                    r"m[a-z]*alf|\d m[a-z]",
                    "only the letter that stands alone is breast height",
                )
                self.assertIn(told["height_m"], (height, None))
        self.assertEqual(where_to_measure("irritant_climber", 1.37)["method"], "estimated")
        self.assertEqual(where_to_measure("root_collar", 1.37)["quantity"], "drc_cm")
        self.assertEqual(where_to_measure("swelling", 1.37, painted_m=1.62)["height_m"], 1.62)

    def test_where_schools_differ_the_site_chooses_and_each_choice_has_its_sentence(self) -> None:
        for form, rules, said in (
            ("slope", {}, "on the uphill side"),
            ("slope", {"slope_from": "average"}, "the average of the ground"),
            ("swelling", {}, "just above the swelling"),
            ("swelling", {"swelling": "below"}, "just below the swelling"),
            ("fork_below", {}, "1.07 m above the fork"),
            ("fork_below", {"low_fork": "narrowest_below"}, "narrowest place below the fork"),
            ("fork_below", {"fork_by": "pith"}, "The fork (where the piths meet) is below 1.37 m"),
            ("fork_at", {}, "The fork (where the bark parts, the crotch) is at or above 1.37 m"),
            ("fork_below", {"limbs_as": "own_stems"}, "The limbs are each a stem of its own."),
            ("leaning", {}, "along the axis of the stem"),
            ("broken", {}, "there is no diameter at breast height"),
        ):
            with self.subTest(form, **rules):
                self.assertIn(said, where_to_measure(form, 1.37, rules=rules)["says"])
        feet = sentence("fork_below", "4.5 ft", units="us_customary")
        self.assertIn("Between 1.00 ft and 4.5 ft, measure each limb 3.50 ft above the fork", feet)
        self.assertTrue(where_to_measure("fork_below", 1.37)["several"])
        self.assertFalse(where_to_measure("fork_below", 1.37, rules={"limbs_as": "own_stems"})["several"])
        for rules, place in (({"moon": "full"}, "rules"), ({"swelling": "beside"}, "rules.swelling")):
            with self.assertRaises(InputError) as caught:
                where_to_measure("slope", 1.37, rules=rules)
            self.assertEqual(caught.exception.place, place)

    def test_no_sentence_leaves_a_setting_open_and_each_choice_has_a_drawing_of_its_own(self) -> None:
        drawn = measuring_drawings()
        self.assertEqual(len(set(drawn.values())), len(drawn))
        for form, guide in stem_forms().items():
            for word in guide.get("rules", {"": ""}):
                self.assertIn(f"{form} {word}".strip(), drawn)
                rules = {guide["by"]: word} if word else {}
                self.assertNotRegex(where_to_measure(form, 1.37, rules=rules)["says"], r"[{}]|\bH\b")


class Slips(unittest.TestCase):
    def test_the_slip_is_named_and_the_figure_meant_is_offered(self) -> None:
        for value, why, meant in (
            (325.0, "decimal point", 32.5),
            (3.3, "decimal point", 33.0),
            (12.6, "inches", 32.0),
            (102.0, "girth typed as diameter", 32.5),
        ):
            with self.subTest(value):
                found = plausibility("dbh_cm", value, before=31.8, years=1.0, before_at_m=1.37, now_at_m=1.37)
                self.assertTrue(found["warnings"])
                self.assertIn(why, found["meant"][0]["why"])
                self.assertAlmostEqual(found["meant"][0]["value"], meant, delta=0.1)

    def test_an_honest_figure_passes_without_a_word(self) -> None:
        for value in (31.4, 31.8, 32.6, 34.0):
            self.assertEqual(
                plausibility("dbh_cm", value, before=31.8, years=1.0, height_m=18)["warnings"], []
            )

    def test_what_no_stem_does_is_doubted_with_its_reason(self) -> None:
        for said, call in (
            ("shrink", {"quantity": "dbh_cm", "value": 30.0, "before": 31.8}),
            ("faster than fast growers", {"quantity": "dbh_cm", "value": 45.0, "before": 31.8, "years": 1.0}),
            (
                "two conventions",
                {"quantity": "dbh_cm", "value": 30.0, "before": 31.8, "before_at_m": 1.30, "now_at_m": 1.50},
            ),
            ("shrink", {"quantity": "drc_cm", "value": 30.0, "before": 31.8}),
            ("well above", {"quantity": "height_m", "value": 62.0, "grown_height_m": (15, 25)}),
            ("thinner than stems that stand", {"quantity": "height_m", "value": 25.0, "dbh_cm": 10.0}),
            ("stouter", {"quantity": "dbh_cm", "value": 318.0, "height_m": 12.0}),
            ("thinner", {"quantity": "height_m", "value": 8.5, "dbh_cm": 4.0, "stage": "young"}),
            ("neighbours", {"quantity": "dbh_cm", "value": 240.0, "neighbours": [22, 25, 28, 24, 30, 26]}),
            ("more than 2.0 m a year", {"quantity": "height_m", "value": 30.0, "before": 15.0, "years": 1.0}),
        ):
            with self.subTest(said):
                self.assertIn(said, " ".join(plausibility(**call)["warnings"]))

    def test_whips_bamboo_veterans_and_what_is_cut_back_are_no_slips(self) -> None:
        for call in (
            {"quantity": "height_m", "value": 4.0, "dbh_cm": 2.0, "stage": "sapling"},
            {"quantity": "height_m", "value": 3.5, "dbh_cm": 2.0, "stage": "young"},
            {"quantity": "height_m", "value": 12.0, "dbh_cm": 5.0, "form": "woody_grass"},
            {"quantity": "height_m", "value": 20.0, "dbh_cm": 4.0, "form": "climber"},
            {"quantity": "dbh_cm", "value": 318.0, "height_m": 12.0, "stage": "veteran"},
            {"quantity": "dbh_cm", "value": 60.0, "height_m": 3.5, "stage": "clipped"},
            {"quantity": "dbh_cm", "value": 60.0, "height_m": 4.0, "stage": "resprout"},
        ):
            with self.subTest(call):
                self.assertEqual(plausibility(**call)["warnings"], [])
