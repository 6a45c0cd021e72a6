"""Files follow the units of their site, for people; what is read back is in SI, whatever the site."""

import csv
import io
import json
from typing import Any

from django.test import TestCase

from apps.plants.tests.factories import a_plant, dbh, entry, signed_in, small_site

INCH_CM, FOOT_M = 2.54, 0.3048  # by definition


class UnitsInFiles(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        height = entry("measurement", quantity="height_m", raw={"value": 18.288}, method="estimated")
        a_plant(self.at, dbh(12.4 * INCH_CM), height, entry("note", text="by the gate"))

    def file(self, ending: str, units: str) -> bytes:
        self.at.site.units = units
        self.at.site.save()
        address = f"/api/blocks/{self.at.block.id}/export.{ending}"
        return b"".join(signed_in(self.at.viewer).get(address).streaming_content)

    def table(self, units: str) -> dict[str, dict[str, str]]:
        rows = csv.DictReader(io.StringIO(self.file("csv", units).decode()))
        return {row["what"]: row for row in rows}

    def properties(self, units: str) -> dict[str, Any]:
        found: dict[str, Any] = json.loads(self.file("geojson", units))["features"][0]["properties"]
        return found

    def test_the_columns_people_read_are_in_the_units_of_the_site(self) -> None:
        for units, diameter, height in (
            ("metric", ("31.496", "cm"), ("18.288", "m")),
            ("us_customary", ("12.4", "in"), ("60.0", "ft")),
        ):
            with self.subTest(units):
                table = self.table(units)
                self.assertEqual((table["Diameter"]["value"], table["Diameter"]["unit"]), diameter)
                self.assertEqual((table["Height"]["value"], table["Height"]["unit"]), height)

    def test_what_is_read_back_is_the_same_in_both(self) -> None:
        bodies = [self.table(units)["Diameter"]["body"] for units in ("metric", "us_customary")]
        self.assertEqual(bodies[0], bodies[1])
        self.assertAlmostEqual(json.loads(bodies[0])["value"], 31.496)

    def test_geojson_has_both_beside_each_other(self) -> None:
        metric, customary = (self.properties(units) for units in ("metric", "us_customary"))
        self.assertEqual({k for k in customary if k not in metric}, {"dbh_in", "height_ft"})
        self.assertEqual((customary["dbh_in"], customary["height_ft"]), (12.4, 60.0))
        self.assertAlmostEqual(customary["dbh_cm"], 31.496)
        self.assertEqual(customary["visits"], metric["visits"])
