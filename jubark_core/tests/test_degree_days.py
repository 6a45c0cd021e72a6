"""Degree days against worked examples (McMaster & Wilhelm 1997; Baskerville & Emin 1969; Allen 1976), and the
dates they set.
"""

from __future__ import annotations

import unittest
from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import name_plant
from jubark_core.season.degree_days import (
    NORMAL_MAX_C,
    NORMAL_MIN_C,
    _between_months,
    average,
    average_floored,
    single_sine,
    spring_dates,
)

WEEK = (
    (31, 48),
    (36, 55),
    (40, 62),
    (44, 68),
    (47, 59),
    (52, 71),
    (61, 90),
)  # °F, minimum and maximum (6.14-16)
NORMAL = [[_between_months(values, day) for day in range(1, 151)] for values in (NORMAL_MIN_C, NORMAL_MAX_C)]


class DegreeDays(unittest.TestCase):
    def test_daily_averages(self) -> None:
        self.assertEqual((average(40, 62, 50), average(36, 55, 50)), (1, 0))
        self.assertEqual((average_floored(40, 62, 50, 86), average_floored(60, 95, 50, 86)), (6, 23))

    def test_single_sine(self) -> None:
        for low, high, base, cutoff, expected in (
            (40, 62, 50, None, 4.015887),
            (36, 55, 50, None, 1.120014),
            (52, 71, 50, None, 11.5),
            (45, 95, 50, 86, 19.02641),
            (4, 16, 10, None, 1.909859),
        ):
            self.assertAlmostEqual(single_sine(low, high, base, cutoff), expected, delta=expected * 1e-6)
        with self.assertRaises(ValueError):
            single_sine(20, 10, 5)

    def test_a_week_three_ways(self) -> None:
        self.assertEqual(sum(average(low, high, 50) for low, high in WEEK), 47)
        self.assertEqual(sum(average_floored(low, high, 50, 86) for low, high in WEEK), 57)
        self.assertAlmostEqual(sum(single_sine(low, high, 50) for low, high in WEEK), 53.09786, places=4)


class SpringByTemperature(unittest.TestCase):
    def test_the_normal_year_keeps_the_flora_s_dates_and_a_warm_one_comes_earlier(self) -> None:
        normal = spring_dates(*NORMAL)
        warm = spring_dates(*[[t + 3 for t in row] for row in NORMAL])
        for day in (110, 120, 135):
            self.assertAlmostEqual(normal(day), day, delta=1)
            self.assertLess(warm(day), day - 5)

    def test_after_the_record_ends_its_lead_is_kept(self) -> None:
        warm = [[t + 3 for t in row] for row in NORMAL]
        whole, cut = spring_dates(*warm), spring_dates(warm[0][:100], warm[1][:100])
        self.assertAlmostEqual(cut(130) - 130, whole(105) - 105, delta=4)

    def test_a_case_with_a_record_says_so_and_opens_leaves_earlier(self) -> None:
        case: dict[str, Any] = {
            "on": "2026-04-10",
            "lat": 40.5,
            "lon": -79.3,
            "elevation_m": 310,
            "observations": [],
        }
        warm = {"min_c": [t + 5 for t in NORMAL[0][:99]], "max_c": [t + 5 for t in NORMAL[1][:99]]}
        plain, early = (
            name_plant(case, shipped_flora()),
            name_plant({**case, "temperatures": warm}, shipped_flora()),
        )
        self.assertEqual((plain["season"]["rule"], early["season"]["rule"]), ("calendar", "degree_days"))
        mild = {key: [t + 16 for t in days] for key, days in warm.items()}
        unrested = name_plant({**case, "temperatures": mild}, shipped_flora())
        self.assertEqual(unrested["season"]["rule"], "calendar", "a winter without cold dates no spring")
        leafy = [
            sum(n["character"].startswith("leaf.") for n in answer["next_looks"]) for answer in (plain, early)
        ]
        self.assertGreaterEqual(leafy[1], leafy[0])
        far = name_plant({**case, "lat": 60.0}, shipped_flora())
        self.assertIn("wider", far["season"]["note"])
