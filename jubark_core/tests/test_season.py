"""Hopkins' rule against worked examples (Hopkins 1918), and windows over New Year and the equator."""

from __future__ import annotations

import datetime
import unittest

from jubark_core.flora.load import shipped_flora
from jubark_core.season.windows import (
    Place,
    date_on_or_after,
    day_of_year,
    event_days,
    hopkins_days,
    shift_days,
    visible,
    within,
)
from jubark_core.species.calendar import organ_calendar

FOLD = Place(40.5, -79.3, 310)


class Hopkins(unittest.TestCase):
    def test_published_shifts(self) -> None:
        self.assertAlmostEqual(hopkins_days(2, 5, 400), 16)  # 8 + 4 + 4
        self.assertAlmostEqual(hopkins_days(-1.5, -2.5, 1000), 2)
        self.assertAlmostEqual(hopkins_days(2, 5, 400, autumn=True), -16)

    def test_at_its_reference_a_taxon_keeps_its_dates(self) -> None:
        days = event_days(shipped_flora().taxa["cercis-canadensis"], FOLD)
        self.assertEqual(days["flower_from"], day_of_year(datetime.date(2026, 4, 15)))

    def test_spring_comes_later_and_autumn_earlier_up_north(self) -> None:
        taxon = shipped_flora().taxa["acer-saccharum"]
        here, north = event_days(taxon, FOLD), event_days(taxon, Place(43.5, -79.3, 310))
        self.assertAlmostEqual(north["bud_burst"] - here["bud_burst"], 12)
        self.assertAlmostEqual(north["fall"] - here["fall"], -12)

    def test_beyond_its_reach_the_rule_says_so_and_in_the_south_the_year_turns(self) -> None:
        reference = {"lat": 40.5, "lon": -79.3, "elevation_m": 310}
        self.assertTrue(shift_days("flower", reference, Place(52, -79.3, 310))[1])
        self.assertFalse(shift_days("flower", reference, Place(43, -79.3, 310))[1])
        south = event_days(shipped_flora().taxa["cercis-canadensis"], Place(-40.5, 175, 310))
        self.assertAlmostEqual((south["flower_from"] - 105) % 365, 182.5)


class Windows(unittest.TestCase):
    def test_a_window_over_new_year(self) -> None:
        self.assertEqual(within(5, 330, 60), 1.0)
        self.assertEqual(within(180, 330, 60), 0.0)
        self.assertAlmostEqual(within(330, 330, 60), 0.5)

    def test_leaf_scars_show_in_winter_and_hemlock_needles_always(self) -> None:
        flora, january = shipped_flora(), 20
        for taxon, kind, shows in (
            ("acer-rubrum", "leaf_fall", True),
            ("acer-rubrum", "leaf_on", False),
            ("tsuga-canadensis", "leaf_on", True),
        ):
            t = flora.taxa[taxon]
            self.assertEqual(
                visible(kind, event_days(t, FOLD), january, flora.evergreen[taxon]) > 0.5,
                shows,
                (taxon, kind),
            )

    def test_leap_days_and_coming_dates(self) -> None:
        self.assertEqual(day_of_year(datetime.date(2028, 2, 29)), 59)
        self.assertEqual(day_of_year(datetime.date(2028, 12, 31)), 365)
        self.assertEqual(date_on_or_after(datetime.date(2026, 11, 20), 105), datetime.date(2027, 4, 15))

    def test_the_ring_shows_bark_always_and_says_when_leaves_open(self) -> None:
        rows = {
            r["organ"]: r
            for r in organ_calendar(shipped_flora(), FOLD, datetime.date(2026, 11, 20), {"acer-rubrum": 3})
        }
        self.assertEqual(rows["bark"]["now"], 1.0)
        self.assertLess(rows["leaf"]["now"], 0.5)
        self.assertRegex(rows["leaf"]["opens"], r"^2027-0[45]-")
        self.assertEqual(len(rows["leaf"]["year"]), 24)
