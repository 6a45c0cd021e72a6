"""Units as people measure: exact by definition, stored in SI, with what was typed beside it."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.condition.change import change_in_words, vigour
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import record_entry, record_visit
from jubark_core.size.plausibility import plausibility
from jubark_core.size.space import space_check
from jubark_core.size.where import comparable
from jubark_core.tests.profiles import examples
from jubark_core.units import SYSTEMS, shown, unit_of

FLORA = shipped_flora()


def measured(**body: Any) -> Any:
    raw = {
        "id": "0190aaaa-0000-7000-8000-000000000001",
        "kind": "measurement",
        "body": {"quantity": "dbh_cm", **body},
    }
    return record_entry(raw, FLORA).body


class Conversions(unittest.TestCase):
    def test_factors_of_the_standard(self) -> None:
        """NIST SP 811 (2008), appendix B.8: inch 2.54 cm, foot 0.3048 m, acre 4046.8564224 m² of
        international feet, pound 0.45359237 kg, and square feet per acre from both.
        """
        for value, si, metric, customary in (
            (2.54, "cm", "2.5 cm", "1.0 in"),
            (100.0, "m", "100.0 m", "328.1 ft"),
            (1.0, "ha", "1.00 ha", "2.47 acres"),
            (1.0, "m2", "1.0 m²", "11 ft²"),
            (10.0, "m3", "10 m³", "353 ft³"),
            (10.0, "m2_per_ha", "10.0 m²/ha", "43.6 ft²/acre"),
            (617.76, "per_ha", "618 per ha", "250 per acre"),
            (100.0, "kg", "100 kg", "220 lb"),
            (35.0, "%", "35.0 %", "35.0 %"),
        ):
            with self.subTest(si):
                self.assertEqual((shown(value, si), shown(value, si, "us_customary")), (metric, customary))

    @examples(100)
    @given(
        st.integers(1, 99_999),
        st.sampled_from(["cm", "m", "ha", "m2_per_ha", "per_ha", "kg"]),
        st.sampled_from(SYSTEMS),
    )
    def test_what_was_typed_to_a_tenth_is_shown_as_it_was_typed(
        self, tenths: int, si: str, system: str
    ) -> None:
        unit = unit_of(si, system)
        self.assertEqual(shown(tenths / 10 * unit.per, si, system, 1), f"{tenths / 10:.1f} {unit.label}")


class AsEntered(unittest.TestCase):
    def test_it_is_stored_beside_the_reading_in_si(self) -> None:
        for raw, typed in (
            ({"value": 12.4 * 2.54}, "12.4 in"),
            ({"value": 12.4 * 2.54}, "12,4 in"),
            ({"value": 0.5 * 2.54}, ".5 in"),
            ({"value": 31.5}, "31.5 cm"),
            ({"diameters_cm": [20.32, 10.16]}, "8 in; 4.0 in"),
            ({"circumferences_cm": [100.0]}, "100 cm"),
        ):
            with self.subTest(typed):
                self.assertEqual(measured(raw=raw, as_entered=typed).as_entered, typed)

    def test_what_does_not_agree_with_the_readings_is_refused(self) -> None:
        for raw, typed in (
            ({"value": 12.4}, "12.4 in"),
            ({"value": 31.496}, "12.5 in"),
            ({"value": 31.496}, "12.4 ft"),
            ({"value": 31.496}, "twelve in"),
            ({"diameters_cm": [20.32, 10.16]}, "8 in; 5 in"),
        ):
            with self.subTest(typed), self.assertRaises(InputError) as caught:
                measured(raw=raw, as_entered=typed)
            self.assertEqual(caught.exception.place, "entry.measurement.as_entered")

    def test_sights_are_typed_in_more_words_than_can_be_held_against_them(self) -> None:
        angles = {"distance_m": 66 * 0.3048, "top": 45.0, "base": -5.0}
        said = "distance 66 ft, top 45 degrees, base -5 degrees"
        body = measured(quantity="height_m", raw={"angles": angles}, as_entered=said, method="instrument")
        self.assertEqual(body.as_entered, said)
        # 66 ft × (tan 45° + tan 5°) = 71.77 ft, by the identity in test_door
        self.assertAlmostEqual(body.value / 0.3048, 71.774, places=3)


class OneFinding(unittest.TestCase):
    def visit(self, *entries: dict[str, Any]) -> Any:
        ids = (f"0190aaaa-0000-7000-8000-00000000001{i}" for i in range(9))
        given = [{"id": next(ids), **e} for e in entries]
        head = {
            "id": next(ids),
            "plant": next(ids),
            "local_date": "2026-06-01",
            "observed_at": "2026-06-01T10:00:00Z",
        }
        return record_visit({**head, "entries": given}, FLORA)

    def test_a_defect_and_that_none_was_found_exclude_each_other(self) -> None:
        none = {"kind": "condition", "body": {"word": "good", "no_defect": True}}
        cavity = {"kind": "defect", "body": {"defect": "cavity", "part": "base"}}
        self.assertTrue(self.visit(none).entries[0].body.no_defect)
        seen = {"base_visible": "all_round", "crown_visible": "whole"}
        inspected = {"kind": "inspection", "body": {"level": "basic", **seen, "no_defect": True}}
        self.assertTrue(self.visit(inspected).entries[0].body.no_defect)
        for order in ((none, cavity), (cavity, none), (inspected, cavity)):
            with self.assertRaises(InputError) as caught:
                self.visit(*order)
            self.assertIn("no_defect", caught.exception.place)


class Worded(unittest.TestCase):
    """Every sentence with a figure in it follows the site."""

    def test_in_the_units_of_the_site(self) -> None:
        wire = [{"kind": "wire", "distance_m": 3, "height_m": 9}]
        for metric, customary in (
            (
                comparable(1.3, 1.37),
                comparable(1.3, 1.37, "us_customary"),
            ),
            (
                change_in_words({"dbh_cm": 25.4}, {"dbh_cm": 50.8})[0],
                change_in_words({"dbh_cm": 25.4}, {"dbh_cm": 50.8}, "us_customary")[0],
            ),
            (vigour(2.54, [1.0] * 5)["says"], vigour(2.54, [1.0] * 5, "us_customary")["says"]),
            (
                plausibility("height_m", 50, grown_height_m=(10, 20))["warnings"][0],
                plausibility("height_m", 50, grown_height_m=(10, 20), units="us_customary")["warnings"][0],
            ),
            (
                space_check((10, 20), (6, 12), wire)[0]["says"],
                space_check((10, 20), (6, 12), wire, "us_customary")[0]["says"],
            ),
        ):
            with self.subTest(metric):
                self.assertRegex(metric, r"\d (cm|m)\b")
                self.assertNotRegex(metric, r"\d (in|ft)\b")
                self.assertRegex(customary, r"\d (in|ft)\b")
                self.assertNotRegex(customary, r"\d (cm|m)\b")

    def test_by_hand(self) -> None:
        self.assertEqual(
            change_in_words({"dbh_cm": 25.4}, {"dbh_cm": 50.8}, "us_customary"),
            ["Diameter 10.0 in more: 10.0 then, 20.0 now."],
        )
        self.assertEqual(
            comparable(1.3, 1.62, "us_customary"),
            "Taken at two heights of the stem: 4.27 ft and 5.31 ft. A stem tapers; the difference is not "
            "growth.",
        )

    def test_a_slip_of_the_other_system_is_offered(self) -> None:
        """30 cm typed into a field of inches is 76.2 cm; meant was 30 cm, 11.8 in on the tape."""
        found = plausibility("dbh_cm", 76.2, before=29.5, years=1, units="us_customary")
        self.assertEqual(found["meant"][0]["why"], "centimetres typed as inches")
        self.assertAlmostEqual(found["meant"][0]["value"], 11.8 * 2.54)
