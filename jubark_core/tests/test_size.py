"""Diameters and heights against worked values: plane trigonometry, plane geometry, BS 5837:2012 clause 4.6, and a municipal rule."""

from __future__ import annotations

import doctest
import unittest

from jubark_core.errors import EmptySampleError, InputError, OutOfRangeError
from jubark_core.size import height as height_module
from jubark_core.size.diameter import combined_by_squares, diameter_from_girth, largest_plus_half
from jubark_core.size.height import height_from_angles
from jubark_core.size.reckon import reckon
from jubark_core.units import cm_to_inches, feet_to_m, inches_to_cm


class Diameters(unittest.TestCase):
    def test_published_values(self) -> None:
        self.assertAlmostEqual(diameter_from_girth(100), 31.83099, delta=3e-5)
        self.assertAlmostEqual(combined_by_squares([15, 20, 25]), 35.35534, delta=3e-5)
        self.assertAlmostEqual(largest_plus_half([10, 8, 6]), 17)

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
        for given, expected in (((20, 45, -5), 21.74977), ((20, 45, 5), 18.25023), ((25, 38, -12, True), 24.30311)):
            self.assertAlmostEqual(height_from_angles(*given).height_m, expected, delta=expected * 1e-6)

    def test_standing_too_near_is_warned_with_the_error(self) -> None:
        near, far = height_from_angles(5, 75, -15), height_from_angles(25, 37, -4)  # the same tree of 20 m
        self.assertTrue(near.too_near)
        self.assertFalse(far.too_near)
        self.assertGreater(near.error_m, 1.5 * far.error_m)

    def test_a_top_below_the_base_is_refused(self) -> None:
        with self.assertRaises(OutOfRangeError):
            height_from_angles(20, -6, -5)

    def test_the_examples_in_the_docstrings_hold(self) -> None:
        self.assertEqual(doctest.testmod(height_module).failed, 0)


class Reckoning(unittest.TestCase):
    def test_shoots_by_the_rule_of_the_ground(self) -> None:
        self.assertAlmostEqual(reckon("dbh_cm", {"diameters_cm": [10, 8, 6]}, "largest_plus_half")["value"], 17)
        self.assertAlmostEqual(reckon("dbh_cm", {"girths_cm": [100]})["value"], 31.83099, delta=3e-5)

    def test_bad_readings_name_the_field(self) -> None:
        for quantity, raw, place in (
            ("dbh_cm", {"value": 9999}, "dbh_cm"),
            ("dbh_cm", {"value": 10, "girths_cm": [3]}, "raw"),
            ("height_m", {"angles": {"distance_m": 20}}, "raw.angles"),
            ("height_m", {"girths_cm": [100]}, "raw.girths_cm"),
            ("depth", {"value": 1}, "quantity"),
        ):
            with self.subTest(raw), self.assertRaises(InputError) as caught:
                reckon(quantity, raw)
            self.assertEqual(caught.exception.place, place)
