"""A site in inches and feet from the tape to the file, and one in centimetres beside it."""

from __future__ import annotations

import csv
import io
from pathlib import Path

from django.test import tag
from playwright.sync_api import expect

from apps.plants.models import Current
from apps.plants.tests.factories import a_plant, dbh, entry, recorded
from tests.browser.base import BrowserTestCase

INCH_CM, FOOT_M = 2.54, 0.3048


class Customary(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.at.site.units = "us_customary"
        self.at.site.save()
        self.plant = a_plant(
            self.at,
            entry("tag", number="0042"),
            entry("determination", entered="Quercus alba", taxon="quercus-alba"),
            dbh(12.0 * INCH_CM),
            on="2025-10-20",
        )

    @tag("slow")
    def test_every_figure_follows_the_site(self) -> None:
        page = self.sign_in(self.at.steward, at="/")
        expect(page.get_by_text("Breast height 4.5 ft")).to_be_visible()
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_role("button", name="Diameter ›").click()
        expect(page.get_by_text("Measure at 4.5 ft above the ground")).to_be_visible()
        page.get_by_label("Diameter (in)").fill("700")
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("700 is no diameter; from 0.039 to 590 in is allowed.")).to_be_visible()
        page.get_by_label("Diameter (in)").fill("124")
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("Before: 12.0 in on 20 October 2025, at 4.5 ft.")).to_be_visible()
        expect(page.get_by_text("112.0 in more than at the last visit (12.0 in)")).to_be_visible()
        page.get_by_role("button", name="12.4 in: decimal point one place off").click()
        expect(page.get_by_text("112.0 in more")).to_have_count(0)
        page.get_by_role("button", name="Height ›").click()
        for label, value in (("Distance (ft)", "66"), ("Top (degrees)", "45"), ("Base (degrees)", "-5")):
            page.get_by_label(label).fill(value)
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("71.8", exact=True)).to_be_visible()  # 66 ft × (tan 45° + tan 5°)
        page.get_by_role("button", name="Crown ›").click()
        page.get_by_label("Two or more diameters (ft)").fill("20 30")
        expect(page.get_by_text("Spread 25.0 ft")).to_be_visible()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertAlmostEqual(Current.objects.get().dbh_cm, 12.4 * INCH_CM)
        typed = {
            m.quantity: m.as_entered for m in recorded("measurement", visit__local_date__gt="2025-12-31")
        }
        self.assertEqual(
            typed,
            {
                "dbh_cm": "12.4 in",
                "height_m": "distance 66 ft, top 45 degrees, base -5 degrees",
                "crown_spread_m": "20 ft; 30 ft",
            },
        )

        page.goto(f"{self.live_server_url}/history/{self.plant}")
        expect(page.get_by_text("12.4 in at 4.5 ft · 71.8 ft high")).to_be_visible()
        expect(page.get_by_text("Diameter 0.4 in more: 12.0 then, 12.4 now.")).to_be_visible()
        self.accessible("History in inches and feet")
        page.get_by_role("button", name="Correct Diameter: 12.4 in").click()
        field = page.get_by_label("Diameter (in)", exact=True)
        expect(field).to_have_value("12.4")
        field.fill("12,6")
        page.get_by_label("Reason").fill("misread")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_text("12.6 in at 4.5 ft")).to_be_visible()
        self.becomes(lambda: round(Current.objects.get().dbh_cm / INCH_CM, 7), 12.6)

        page.goto(f"{self.live_server_url}/inventory")
        expect(page.get_by_role("columnheader", name="Diameter in")).to_be_visible()
        expect(page.get_by_role("row").nth(1)).to_contain_text("12.6")
        page.get_by_label("Diameter from (in)").fill("12.7")
        expect(page.get_by_text("Nothing fits these filters.")).to_be_visible()
        self.assertIn("dbh_from=32.2", page.url)  # the address is in cm
        page.reload()
        expect(page.get_by_label("Diameter from (in)")).to_have_value("12.7")
        page.get_by_label("Diameter from (in)").fill("12.5")
        expect(page.get_by_role("row").nth(1)).to_contain_text("12.6")

        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        expect(page.get_by_text("acres · basal area")).to_be_visible()
        page.goto(f"{self.live_server_url}/import-export")
        with page.expect_download() as download:
            page.get_by_role("link", name="CSV table").click()
        rows = list(csv.DictReader(io.StringIO(Path(download.value.path()).read_text())))
        self.assertIn(("12.6", "in"), {(r["value"], r["unit"]) for r in rows if r["what"] == "Diameter"})

    def test_a_steward_turns_the_site_to_metric_and_nothing_recorded_changes(self) -> None:
        page = self.sign_in(self.at.steward, at="/")
        page.get_by_role("button", name="Conventions").click()
        dialog = page.get_by_role("dialog", name="Conventions of")
        dialog.get_by_label("Units").select_option("metric")
        dialog.get_by_role("button", name="Save conventions").click()
        expect(page.get_by_text("Breast height 1.37 m")).to_be_visible()
        page.goto(f"{self.live_server_url}/history/{self.plant}")
        expect(page.get_by_text("30.5 cm at 1.37 m")).to_be_visible()
        self.assertAlmostEqual(Current.objects.get().dbh_cm, 12.0 * INCH_CM)
