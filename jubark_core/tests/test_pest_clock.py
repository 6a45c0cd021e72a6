"""Degree days by each method, both clocks, and when to look for what.

The week and its sums are the worked example of the design (48/31 to 90/61 °F, base 50 °F): 47 by the daily
average, 57 floored at the base and cut at 86 °F, 53.10 by the single sine. By hand besides: one day of 60 to
70 °F gives 15 by every method.
"""

from __future__ import annotations

import datetime
import math
import unittest
from random import Random
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.signs.clock import clock, degree_days, is_smoothed
from jubark_core.tests.profiles import examples

FLORA = shipped_flora()
EXAMPLES = examples(50)
WEEK_F = ((48, 31), (55, 36), (62, 40), (68, 44), (71, 52), (59, 47), (90, 61))
PLACE = {"lat": 40.5, "lon": -79.3, "elevation_m": 310}


def celsius(fahrenheit: float) -> float:
    return (fahrenheit - 32) / 1.8


def record(days: Any, start: str = "2026-05-01") -> dict[str, Any]:
    """A record of (highest, lowest) in °F."""
    return {
        "start": start,
        "min_c": [None if d is None else celsius(d[1]) for d in days],
        "max_c": [None if d is None else celsius(d[0]) for d in days],
    }


def summed(days: Any, method: str, **more: Any) -> Any:
    return degree_days({"record": record(days), "base": 50, "unit": "F", "method": method, **more})


def station(first_year: int, last: datetime.date, seed: int = 7, warmer: float = 0.0) -> dict[str, Any]:
    """Years of daily readings with day-to-day swings about a yearly wave of a place like the reference."""
    rng = Random(seed)
    start = datetime.date(first_year, 1, 1)
    lows, highs = [], []
    swing = 0.0
    for i in range((last - start).days + 1):
        day = start + datetime.timedelta(days=i)
        mean = 10.5 - 12.5 * math.cos(2 * math.pi * (day.timetuple().tm_yday - 20) / 365.25) + warmer
        swing = 0.6 * swing + rng.gauss(0, 3.2)
        lows.append(round(mean + swing - 5.5, 1))
        highs.append(round(mean + swing + 5.5, 1))
    return {"start": start.isoformat(), "min_c": lows, "max_c": highs}


class Methods(unittest.TestCase):
    def test_the_worked_week_by_each_method(self) -> None:
        self.assertAlmostEqual(summed(WEEK_F, "average")["value"], 47)
        self.assertAlmostEqual(summed(WEEK_F, "floored average", cutoff=86)["value"], 57)
        self.assertAlmostEqual(summed(WEEK_F, "single sine")["value"], 53.10, places=2)

    def test_one_warm_day_is_the_same_by_every_method(self) -> None:
        for method in ("average", "floored average", "single sine"):
            self.assertAlmostEqual(summed([(70, 60)], method)["value"], 15)

    def test_celsius_and_fahrenheit_agree(self) -> None:
        of_c = degree_days({"record": record(WEEK_F), "base": 10, "method": "single sine"})["value"]
        self.assertAlmostEqual(of_c * 1.8, summed(WEEK_F, "single sine")["value"])

    def test_a_threshold_is_compared_only_with_its_own_unit_base_method_and_start(self) -> None:
        own = {"value": 50.0, "unit": "F", "base": 50, "method": "single sine", "start": "05-01"}
        for change, said in (
            ({}, "reached"),
            ({"value": 54.0}, "not reached"),
            ({"method": "average"}, "not comparable"),
            ({"base": 41}, "not comparable"),
            ({"unit": "C"}, "not comparable"),
            ({"start": "01-01"}, "not comparable"),
        ):
            with self.subTest(said, change=change):
                self.assertEqual(summed(WEEK_F, "single sine", threshold=own | change)["threshold"], said)
        gap = [*WEEK_F[:3], None, *WEEK_F[4:]]
        self.assertEqual(summed(gap, "single sine", threshold=own)["threshold"], "perhaps reached")
        self.assertEqual(summed(WEEK_F, "single sine")["threshold"], "")

    def test_missing_days_give_a_range_about_the_value(self) -> None:
        whole = summed(WEEK_F, "single sine")
        self.assertEqual((whole["missing"], whole["low"], whole["high"]), (0, whole["value"], whole["value"]))
        gap = summed([*WEEK_F[:3], None, *WEEK_F[4:]], "single sine")
        self.assertEqual(gap["missing"], 1)
        self.assertLess(gap["low"], whole["value"])
        self.assertGreater(gap["high"], whole["value"])
        self.assertAlmostEqual(gap["value"], (gap["low"] + gap["high"]) / 2)

    @EXAMPLES
    @given(
        st.lists(st.tuples(st.floats(-30, 35), st.floats(0, 20)), min_size=1, max_size=40), st.floats(-5, 15)
    )
    def test_sums_never_fall_and_a_lower_base_gives_more(
        self, days: list[tuple[float, float]], base: float
    ) -> None:
        rows = {
            "start": "2026-01-01",
            "min_c": [low for low, _ in days],
            "max_c": [low + more for low, more in days],
        }
        one = degree_days({"record": rows, "base": base, "method": "single sine"})["value"]
        lower = degree_days({"record": rows, "base": base - 1, "method": "single sine"})["value"]
        shorter = degree_days({"record": rows, "base": base, "method": "single sine", "to": "2026-01-01"})[
            "value"
        ]
        self.assertGreaterEqual(lower, one - 1e-9)
        self.assertLessEqual(shorter, one + 1e-9)
        self.assertGreaterEqual(one, 0)

    def test_bad_records_name_the_day(self) -> None:
        for rows, place in (
            ({"start": "2026-01-01", "min_c": [5.0], "max_c": [4.0]}, "record.min_c[0]"),
            ({"start": "2026-01-01", "min_c": [5.0], "max_c": []}, "record.max_c"),
            ({"start": "tomorrow", "min_c": [], "max_c": []}, "record.start"),
        ):
            with self.assertRaises(InputError) as caught:
                degree_days({"record": rows, "base": 10, "method": "average"})
            self.assertEqual(caught.exception.place, place)


class LookFor(unittest.TestCase):
    ON = datetime.date(2026, 4, 20)
    COUNTS = {"fraxinus-americana": 12, "fagus-grandifolia": 3}

    def rows(self, **more: Any) -> dict[tuple[str, str], Any]:
        given_ = {"on": self.ON.isoformat(), "place": PLACE, "counts": self.COUNTS, **more}
        found = clock(given_, FLORA)
        return {(r["agent"], r["event"]): r for r in found["look_for"]}

    def test_without_a_station_the_dates_of_the_table_are_given_with_their_error(self) -> None:
        row = self.rows()["emerald-ash-borer", "season"]
        self.assertEqual((row["by"], row["on"], row["plus_minus_days"]), ("table", "2026-05-20", 10))
        self.assertEqual(row["plants"], 12)

    def test_years_of_a_station_date_the_borers_flight_within_ten_days_or_their_own_spread(self) -> None:
        rows = self.rows(record=station(2020, self.ON))
        row = rows["emerald-ash-borer", "first adults"]
        self.assertEqual((row["by"], row["reached"], row["threshold_f"]), ("warmth", False, [450, 550]))
        self.assertGreaterEqual(row["plus_minus_days"], 10)
        day = datetime.date.fromisoformat(row["on"])
        self.assertTrue(datetime.date(2026, 5, 10) <= day <= datetime.date(2026, 6, 20), day)
        later = rows["emerald-ash-borer", "most adults"]
        self.assertGreater(later["on"], row["on"])

    def test_what_was_predicted_is_what_the_record_then_reaches(self) -> None:
        """The same station, read to July: the day it reached the threshold lies within the stated error."""
        predicted = self.rows(record=station(2020, self.ON))["emerald-ash-borer", "first adults"]
        later = clock(
            {
                "on": "2026-07-15",
                "place": PLACE,
                "counts": self.COUNTS,
                "record": station(2020, datetime.date(2026, 7, 15)),
            },
            FLORA,
        )
        reached = next(
            r for r in later["look_for"] if (r["agent"], r["event"]) == ("emerald-ash-borer", "first adults")
        )
        self.assertTrue(reached["reached"])
        apart = abs(
            (datetime.date.fromisoformat(reached["on"]) - datetime.date.fromisoformat(predicted["on"])).days
        )
        self.assertLessEqual(apart, predicted["plus_minus_days"])

    def test_a_smoothed_year_gives_no_date(self) -> None:
        days = [(60 + 0.1 * i, 40 + 0.1 * i) for i in range(110)]
        smooth = record(days, "2026-01-01")
        self.assertTrue(is_smoothed(list(zip(smooth["min_c"], smooth["max_c"], strict=True))))
        self.assertEqual(self.rows(record=smooth)["emerald-ash-borer", "season"]["by"], "table")

    def test_both_clocks_run_and_the_one_of_five_degrees_is_ahead(self) -> None:
        found = clock(
            {"on": "2026-04-20", "place": PLACE, "counts": {}, "record": station(2025, self.ON)}, FLORA
        )
        self.assertEqual((found["phenology"]["base"], found["pests"]["base"]), (5.0, 10.0))
        self.assertGreater(found["phenology"]["value"], found["pests"]["value"])
        self.assertEqual(found["look_for"], [])

    def test_at_38_south_the_year_begins_on_the_first_of_july(self) -> None:
        south = {"lat": -38.0, "lon": 145.0}
        rows = station(2024, datetime.date(2026, 10, 20))
        found = clock(
            {"on": "2026-10-20", "place": south, "counts": {"eucalyptus-leucoxylon": 2}, "record": rows},
            FLORA,
        )
        self.assertEqual((found["pests"]["start"], found["pests"]["days"]), ("2026-07-01", 112))

    def test_an_unknown_taxon_is_refused_by_name(self) -> None:
        with self.assertRaises(InputError) as caught:
            clock({"on": "2026-04-20", "place": PLACE, "counts": {"nix": 1}}, FLORA)
        self.assertEqual(caught.exception.place, "counts.nix")
