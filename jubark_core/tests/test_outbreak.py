"""How far a pest has gone: egg masses on plots, second years, old losses, fungi out of season."""

from __future__ import annotations

import datetime
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.records.ailing import Sign
from jubark_core.season.place import Place
from jubark_core.tests.profiles import examples
from jubark_core.tests.work_cases import case, fired, held
from jubark_core.units import HA_PER_ACRE
from jubark_core.work.outbreak import egg_masses_per_ha

HOME = Place(40.5, -79.3, 310)
SOUTH = Place(-40.5, 145.0, 310)
M2_PER_ACRE = 4046.8564224  # by definition of the international acre
BORER = {"emerald-ash-borer": 8.0}


def plot(on: str, masses: int, over_m2: float) -> dict[str, Any]:
    return {"on": on, "masses": masses, "over_m2": over_m2}


def per_ha(on: str, *plots: dict[str, Any], place: Place = HOME) -> float | None:
    return egg_masses_per_ha({"egg_mass_plots": list(plots)}, datetime.date.fromisoformat(on), place)


class EggMasses(unittest.TestCase):
    def test_fortieth_acre_plots_by_the_foresters_rule(self) -> None:
        """Masses on plots of a fortieth of an acre, times 40, over the number of plots: masses to the acre
        (the usual rule of state programmes; here by the definition of the acre).
        """
        fortieth = M2_PER_ACRE / 40
        found = per_ha("2026-01-10", *(plot("2025-11-02", n, fortieth) for n in (3, 9, 0, 13)))
        self.assertAlmostEqual((found or 0) * HA_PER_ACRE, (3 + 9 + 0 + 13) * 40 / 4)

    def test_only_the_newest_generation_counts_and_the_south_has_its_own_year(self) -> None:
        before, after = plot("2025-06-20", 50, 100.0), plot("2025-07-20", 2, 100.0)
        self.assertEqual(per_ha("2026-05-01", before, after), 200.0)
        self.assertEqual(per_ha("2025-06-25", before), 5000.0)
        self.assertIsNone(per_ha("2025-07-10", before))
        self.assertIsNone(per_ha("2025-07-19", after), "counted on a later day")
        self.assertEqual(per_ha("2025-09-01", before, after, place=SOUTH), 2600.0)

    @examples(100)
    @given(st.lists(st.tuples(st.integers(0, 500), st.floats(1, 10_000)), min_size=1, max_size=8))
    def test_all_plots_together_lie_between_the_thinnest_and_the_thickest(
        self, counts: list[tuple[int, float]]
    ) -> None:
        found = per_ha("2026-01-10", *(plot("2025-11-02", n, m2) for n, m2 in counts))
        each = [n / m2 * 10_000 for n, m2 in counts]
        self.assertTrue(min(each) - 1e-6 <= (found or 0.0) <= max(each) + 1e-6)

    def test_the_proposal_says_both_figures_in_the_units_of_the_site(self) -> None:
        plots = [plot("2026-04-10", 25, M2_PER_ACRE / 10)]
        given_ = case("quercus-alba", egg_mass_plots=plots, egg_masses_limit_per_ha=600.0)
        self.assertIn(
            "egg masses over: 618 per ha, the owner's threshold 600 per ha", fired(given_)["R29B"]["why"]
        )
        customary = fired(given_ | {"units": "us_customary"})["R29B"]["why"]
        self.assertIn("egg masses over: 250 per acre, the owner's threshold 243 per acre", customary)

    def test_without_an_owner_s_threshold_no_count_treats_a_block(self) -> None:
        self.assertNotIn("R29B", fired(case("quercus-alba", egg_mass_plots=[plot("2026-04-10", 900, 100.0)])))

    def test_scraping_needs_no_authorised_method_and_spraying_does(self) -> None:
        second = [{"agent": "spongy-moth", "probability": 0.9, "years": [2025, 2026]}]
        elsewhere = case("quercus-robur", diagnoses=second, areas=["FRA"], lat=48.0, lon=2.0)
        self.assertIn("R29", fired(elsewhere))
        self.assertIn("not authorised", held(elsewhere)["R29B"])

    def test_a_searched_ground_says_how_many_were_on_it(self) -> None:
        Sign(sign="egg_mass_buff", present=False, number=0, over_m2=100.0).check("")
        with self.assertRaises(InputError) as refused:
            Sign(sign="egg_mass_buff", over_m2=100.0).check("body.")
        self.assertEqual(refused.exception.place, "body.number")


class WorthAndFreshLoss(unittest.TestCase):
    def ash(self, loss: float, **more: Any) -> dict[str, Any]:
        return case("fraxinus-americana", crown_loss_percent=loss, causes_km=BORER, **more)

    def test_the_ash_is_treated_by_its_worth_where_it_is_on_record(self) -> None:
        for loss, worth, why in (
            (20.0, "high", ""),
            (20.0, "usual", ""),
            (20.0, "low", "worth is recorded as low"),
            (40.0, "high", ""),
            (40.0, "", ""),  # not on record: the assessor judges
            (40.0, "usual", "only trees of high worth"),
            (40.0, "low", "worth is recorded as low"),
        ):
            with self.subTest(loss=loss, worth=worth):
                given_ = self.ash(loss, worth=worth)
                self.assertEqual("R25" in fired(given_), not why)
                self.assertIn(why, held(given_).get("R25", ""))

    def test_an_old_loss_over_thirty_is_not_treated(self) -> None:
        for loss, then, percent, treated in (
            (40.0, "2024-06-09", 35, False),
            (40.0, "2025-06-20", 35, True),  # a year ago
            (40.0, "2020-06-09", 30, True),
            (20.0, "2020-06-09", 60, True),  # it has come back
        ):
            with self.subTest(loss=loss, then=then, percent=percent):
                given_ = self.ash(loss, worth="high", crown_losses=[{"on": then, "percent": percent}])
                self.assertEqual("R25" in fired(given_), treated)

    def test_a_hemlock_of_low_worth_is_not_treated(self) -> None:
        adelgid = [{"agent": "hemlock-woolly-adelgid", "probability": 0.9}]
        hemlock = case("tsuga-canadensis", crown_loss_percent=20, diagnoses=adelgid)
        self.assertIn("R28", fired(hemlock))
        self.assertIn("worth", held(hemlock | {"worth": "low"})["R28"])


class InLeafAndLeafless(unittest.TestCase):
    def said(self, taxon: str, last: str, **place: Any) -> str:
        given_ = case(taxon, last_inspected_on=last, inspection_months=1, **place)
        return " ".join(why for why in fired(given_)["R40"]["why"] if why.startswith("last looked at"))

    def test_the_two_looks_take_turns(self) -> None:
        for taxon, last, says in (
            (
                "acer-saccharum",
                "2025-07-10",
                "last looked at in leaf: now leafless, from 2026-12-01 to 2027-03-31",
            ),
            (
                "acer-saccharum",
                "2026-01-10",
                "last looked at leafless: now in leaf, from 2026-05-01 to 2026-09-30",
            ),
            ("acer-saccharum", "2026-04-18", ""),
            ("acer", "2025-07-10", "last looked at in leaf: now leafless, from 2026-12-01 to 2027-03-31"),
            ("pinus-strobus", "2025-07-10", ""),
            (
                "larix-decidua",
                "2025-07-10",
                "last looked at in leaf: now leafless, from 2026-12-01 to 2027-03-31",
            ),
        ):
            with self.subTest(taxon, last=last):
                self.assertEqual(self.said(taxon, last), says)

    def test_in_the_south_july_is_leafless(self) -> None:
        south: dict[str, Any] = {"lat": -40.5, "lon": 145.0, "areas": ["VIC"]}
        self.assertIn("last looked at leafless", self.said("acer-saccharum", "2025-07-10", **south))


class FungiOutOfSeason(unittest.TestCase):
    def asked(self, on: str, seen: str, **place: Any) -> bool:
        return "R40" in fired(case(on=on, fungus_seen_on=seen, **place))

    def test_it_is_looked_for_again_when_most_fruit(self) -> None:
        for on, seen, again in (
            ("2026-06-10", "2026-05-03", False),  # not yet
            ("2026-09-01", "2026-05-03", True),
            ("2026-09-01", "2026-01-20", True),
            ("2026-09-01", "2025-10-03", False),  # seen in its season
            ("2026-09-10", "2026-08-20", False),
            ("2026-12-20", "2026-05-03", False),  # over for the year
        ):
            with self.subTest(on=on, seen=seen):
                self.assertEqual(self.asked(on, seen), again)

    def test_in_the_south_half_a_year_later(self) -> None:
        south: dict[str, Any] = {"lat": -40.5, "lon": 145.0, "areas": ["VIC"]}
        self.assertTrue(self.asked("2026-04-01", "2025-11-03", **south))
        self.assertFalse(self.asked("2026-10-01", "2026-06-20", **south))
