"""Diameters and heights against worked values: plane trigonometry, plane geometry, BS 5837:2012 clause 4.6,
and a municipal rule.
"""

from __future__ import annotations

import datetime
import doctest
import math
import random
import statistics
import unittest
from collections.abc import Callable, Sequence

from jubark_core.errors import EmptySampleError, InputError, OutOfRangeError
from jubark_core.flora.load import shipped_flora
from jubark_core.size import height as height_module
from jubark_core.size.biomass import biomass_kg, carbon_of, groups
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
from jubark_core.size.growth import diameter_growth_from_rings, growth
from jubark_core.size.height import (
    Height,
    angle_in_degrees,
    height_by_sine,
    height_by_stick,
    height_from_angles,
    height_with_pole,
)
from jubark_core.size.plausibility import plausibility
from jubark_core.size.protect import protection_zone, structural_root_radius
from jubark_core.size.space import space_check
from jubark_core.size.where import axis_height_m, stem_forms, stems_at_fork, where_to_measure
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


class FromSize(unittest.TestCase):
    def test_protection_zones_of_the_published_standards(self) -> None:
        for standard, dbh, radius, area in (
            ("as4970", 45, 5.4, 91.60884),
            ("as4970", 10, 2, 12.56637),
            ("as4970", 160, 15, 706.8583),
            ("bs5837", 60, 7.2, 162.8602),
            ("bs5837", 140, 15, 706.8583),
            ("foot_per_inch", 20 * 2.54, 20 * 0.3048, None),
            ("foot_and_half_per_inch", 20 * 2.54, 30 * 0.3048, None),
        ):
            zone = protection_zone(standard, dbh)
            self.assertAlmostEqual(zone.radius_m, radius, delta=radius * 1e-6)
            self.assertAlmostEqual(zone.area_m2, area or math.pi * radius**2, delta=1e-3)
        self.assertAlmostEqual(
            protection_zone("bs5837", combined_by_squares([15, 20, 25])).radius_m, 4.242641, delta=5e-6
        )
        self.assertEqual(protection_zone("bs5837", 140, veteran=True).radius_m, 21.0)

    def test_structural_root_radius_above_the_buttress(self) -> None:  # AS 4970-2009
        for above_cm, radius in ((50, 2.473516), (100, 3.309386), (14, 1.5), (15, 1.5)):
            self.assertAlmostEqual(structural_root_radius(above_cm).radius_m, radius, delta=radius * 1e-6)

    def test_more_than_five_stems_take_the_mean(self) -> None:  # BS 5837:2012, clause 4.6
        six = [10, 12, 14, 16, 18, 20]
        self.assertAlmostEqual(combined_by_mean(six), 36.74235, delta=4e-5)
        self.assertAlmostEqual(combined_by_squares(six), 37.68289, delta=4e-5)

    def test_biomass_of_thirty_centimetres_by_group(self) -> None:  # Jenkins et al. 2003, table 4
        for group, kg in (
            ("aspen_alder_cottonwood_willow", 368.057),
            ("soft_maple_birch", 460.297),
            ("mixed_hardwood", 390.2836),
            ("hard_maple_oak_hickory_beech", 526.6281),
            ("cedar_larch", 284.401),
            ("douglas_fir", 437.2153),
            ("true_fir_hemlock", 365.5237),
            ("pine", 312.9287),
            ("spruce", 349.084),
        ):
            self.assertAlmostEqual(biomass_kg(group, 30), kg, delta=kg * 1e-6)
        self.assertAlmostEqual(biomass_kg("mixed_hardwood", 2.5), 0.8151428, delta=1e-6)

    def test_carbon_is_told_with_its_range_and_refused_where_it_was_never_made_for(self) -> None:
        flora = shipped_flora()
        oak = carbon_of(flora, "quercus-alba", 30)
        self.assertAlmostEqual(oak["co2e_kg"], 965.4849, delta=1e-3)
        self.assertEqual(oak["outside"], "")
        self.assertIn("Outside the range", carbon_of(flora, "quercus-alba", 120)["outside"])
        self.assertEqual(carbon_of(flora, "acer-rubrum", 30)["group"], "soft maple and birch")
        self.assertEqual(
            carbon_of(flora, "acer-saccharum", 30)["group"], "hard maple, oak, hickory and beech"
        )
        for taxon, more in (
            ("buxus-sempervirens", {"form": "shrub"}),
            ("quercus-alba", {"broken_top": True}),
            ("quercus-alba", {"pollard": True}),
            ("ginkgo-biloba", {}),
            ("", {}),
        ):
            with self.subTest(taxon, **more), self.assertRaises(InputError):
                carbon_of(flora, taxon, 30, **more)
        for g in groups().values():
            self.assertFalse(
                [t for t in g.get("taxa", ()) if t not in flora.taxa], "every taxon named is in the flora"
            )

    def test_growth_across_conventions_is_flagged_not_computed_away(self) -> None:
        day = datetime.date
        plain = growth(30.0, day(2022, 5, 1), 32.0, day(2026, 5, 1), 1.37, 1.37)
        self.assertAlmostEqual(plain.cm_a_year, 0.5, delta=0.001)
        self.assertEqual(plain.doubt, "")
        self.assertIn(
            "two conventions", growth(30.0, day(2022, 5, 1), 29.4, day(2026, 5, 1), 1.30, 1.50).doubt
        )
        self.assertIn("two heights", growth(30.0, day(2022, 5, 1), 29.4, day(2026, 5, 1), 1.37, 1.9).doubt)
        self.assertAlmostEqual(
            diameter_growth_from_rings(20, 5), 0.5
        )  # 20 rings on 5 cm of radius: 10 cm of diameter in 20 years
        with self.assertRaises(OutOfRangeError):
            growth(30.0, day(2026, 5, 1), 32.0, day(2026, 5, 1), None, None)


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

    def test_a_fork_decides_one_stem_or_two(self) -> None:
        self.assertEqual([stems_at_fork(h, 1.37) for h in (0.4, 1.36, 1.37, 2.0)], [2, 2, 1, 1])
        self.assertAlmostEqual(axis_height_m(1.37, 60), 2.74)


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
            ("neighbours", {"quantity": "dbh_cm", "value": 240.0, "neighbours": [22, 25, 28, 24, 30, 26]}),
            ("more than 2.0 m a year", {"quantity": "height_m", "value": 30.0, "before": 15.0, "years": 1.0}),
        ):
            with self.subTest(said):
                self.assertIn(said, " ".join(plausibility(**call)["warnings"]))


class Space(unittest.TestCase):
    def test_the_grown_plant_against_what_stands_round_it(self) -> None:
        things = [
            {"kind": "wall", "distance_m": 9},
            {"kind": "wire", "distance_m": 2, "height_m": 9},
            {"kind": "neighbour", "distance_m": 30, "spread_m": 10},
        ]
        self.assertEqual(
            [r["fits"] for r in space_check((15, 25), (12, 20), things)], ["only if small", "no", "yes"]
        )
        self.assertEqual(
            space_check((2, 4), (2, 3), [{"kind": "wire", "distance_m": 0, "height_m": 9}])[0]["fits"], "yes"
        )
        with self.assertRaises(InputError) as caught:
            space_check((2, 4), (2, 3), [{"kind": "moat", "distance_m": 1}])
        self.assertEqual(caught.exception.place, "things[0].kind")
