"""One stem from first look to exported file, as a steward walks it, with the network pulled away on
the way.
"""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import tag
from PIL import Image
from playwright.sync_api import expect

from apps.plants.models import Current, Entry, PhotoFile, Plant, Visit
from apps.plants.tests.factories import a_plant, entry
from tests.browser.base import INK, BrowserTestCase


class SevenSteps(BrowserTestCase):
    offline = True

    @tag("slow")
    def test_a_steward_walks_all_seven_steps(self) -> None:
        page = self.sign_in(self.at.steward, at="/")
        expect(page.get_by_role("heading", name="What shows now")).to_be_visible()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        self.accessible("Today")

        # 1. a stem on the map of the block, with a tag
        page.get_by_role("link", name="Block").click()
        expect(page.get_by_text("No tree here yet")).to_be_visible()
        page.get_by_role("button", name="New tree").click()
        page.get_by_role("radio", name="Coordinates").click()
        page.get_by_label("Latitude").fill("95")
        page.get_by_label("Longitude").fill("-79.3001")
        page.get_by_label("Tag", exact=True).fill("0217")
        page.get_by_role("button", name="Save and continue").click()
        expect(page.get_by_text("Latitude: a number from -90 to 90")).to_be_visible()
        page.get_by_label("Latitude").fill("40.5001")
        self.accessible("New tree")
        page.get_by_role("button", name="Save and continue").click()

        # 2. where and when, then looks
        expect(page.get_by_role("heading", name="Where and when")).to_be_visible()
        page.get_by_label("Date of the visit").fill("2199-01-01")
        expect(page.get_by_text("lies in the future")).to_be_visible()
        page.get_by_label("Date of the visit").fill("2025-11-18")
        page.get_by_label("Setting").select_option("street")
        page.get_by_role("radio", name="planted", exact=True).click()
        self.accessible("Survey")
        page.get_by_role("button", name="Name ›").click()
        page.get_by_role("button", name="Identify it").click()
        self.look("Leaf", "How leaves stand on the shoot", "opposite", certainty="sure")
        leader = page.get_by_label("The name").get_by_role("listitem").first
        expect(leader).to_contain_text("%")
        page.get_by_role("button", name="Leaf", exact=False).first.click()
        page.get_by_role("button", name="Leaflets in one leaf").click()
        for value in ("7", "7", "5", "7"):
            page.get_by_role("button", name=value, exact=True).click()
            page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("button", name="Save 4 values").click()

        # 3. candidates re-ranked, for and against, the rank supported, what next
        standing = page.get_by_label("The name")
        expect(standing.get_by_role("listitem").first).to_contain_text("Fraxinus")
        self.look("Bark", "Bark surface", "ridges that interlace", then="Save: ridges that interlace")
        self.look("Twig", "Dots in the leaf scar", "a curved line")
        page.get_by_role("button", name="Fruit", exact=False).first.click()
        page.get_by_role("button", name="Kind of fruit").click()
        page.get_by_role("button", name="Looked, not there").click()
        expect(page.get_by_text("5 observations so far")).to_be_visible()
        expect(standing.get_by_label("Balance of")).to_be_visible()
        expect(standing.get_by_text("Not yet separated from")).to_be_visible()
        expect(page.get_by_text("Next observation")).to_be_visible()
        self.accessible("Identify")

        # 4. the name, at the rank the looks support
        page.get_by_role("button", name="Accept Fraxinus").click()

        # 5. sizes, condition, a sign, a note, a photograph
        expect(page.get_by_role("heading", name="Diameter")).to_be_visible()
        page.get_by_role("radio", name="circumference").click()
        page.get_by_label("Circumference (cm)").fill("99999")
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("99999 is no circumference; from 0.1 to 4712 cm is allowed.")).to_be_visible()
        page.get_by_label("Circumference (cm)").fill("100")
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("31.8", exact=True)).to_be_visible()  # 100 cm / π
        page.get_by_role("button", name="Height ›").click()
        for label, value in (("Distance (m)", "20"), ("Top (degrees)", "45"), ("Base (degrees)", "-5")):
            page.get_by_label(label).fill(value)
        page.get_by_role("button", name="Use this value").click()
        expect(page.get_by_text("21.7", exact=True)).to_be_visible()  # 20 m × (tan 45° + tan 5°)
        page.get_by_role("button", name="Crown ›").click()
        page.get_by_label("Two or more diameters").fill("8  6")
        expect(page.get_by_text("Spread 7.0 m")).to_be_visible()
        page.get_by_role("button", name="Condition ›").click()
        page.get_by_role("radio", name="in one word").click()
        page.get_by_role("radio", name="fair").first.click()
        page.get_by_role("button", name="Signs ›").click()
        page.get_by_role("button", name="D-shaped exit hole: seen").click()
        page.get_by_role("button", name="Note and photograph ›").click()
        page.get_by_role("textbox", name="Note").fill("Leans a little to the road.")
        page.get_by_label("Take a photograph").set_input_files(
            {"name": "bark.png", "mimeType": "image/png", "buffer": self.picture()}
        )
        expect(page.get_by_role("button", name="Remove photograph")).to_be_visible()

        # the network goes; the page is read anew; nothing is lost
        page.context.set_offline(True)
        page.reload()
        expect(page.get_by_role("textbox", name="Note")).to_have_value("Leans a little to the road.")
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Saved on this device", exact=True)).to_be_visible()
        self.assertEqual(Visit.objects.count(), 0)
        page.reload()
        page.context.set_offline(False)
        page.goto(f"{self.live_server_url}/inventory")
        expect(
            page.get_by_role("button", name="Outbox: 0 saved on this device, 2 sent, 0 needs attention")
        ).to_be_visible()
        kinds = (Plant, Visit, PhotoFile)
        self.becomes(lambda: [kind.objects.count() for kind in kinds], [1, 1, 1])

        # what was recorded is seen where it stands
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        self.assertGreater(self.stems_seen(page, at_least=20), 20)

        # 6. the inventory, the strip, a second visit a year later, a slip put right
        page.goto(f"{self.live_server_url}/inventory")
        page.get_by_label("Tag or name").fill("0217")
        row = page.get_by_role("row").nth(1)
        expect(row).to_contain_text("31.8")
        expect(row).to_contain_text("D-shaped exit hole")
        self.accessible("Inventory")
        row.get_by_role("link", name="0217").click()
        expect(page.get_by_role("heading", name="18 November 2025")).to_be_visible()
        page.get_by_role("button", name="Add a visit").click()
        page.get_by_label("Date of the visit").fill("2026-11-19")
        page.get_by_role("button", name="Diameter").first.click()
        for key in ("3", "2", "5"):
            page.get_by_role("button", name=key, exact=True).click()
        page.get_by_role("button", name="Use this value").click()
        expect(
            page.get_by_role("button", name="32.5 cm: decimal point one place off")
        ).to_be_visible()  # 325 cm beside 31.8
        page.get_by_role("button", name="Save", exact=True).first.click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        page.get_by_role("button", name="Open its history").click()
        page.get_by_role("button", name="Correct Diameter: 325.0 cm").click()
        page.get_by_label("Diameter (cm)", exact=True).fill("32.5")
        page.get_by_label("Reason").fill("decimal point missed")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_text("corrects an earlier entry: decimal point missed")).to_be_visible()
        expect(page.get_by_text("32.5 cm at 1.37 m")).to_be_visible()
        self.accessible("History")
        self.becomes(lambda: Current.objects.get().dbh_cm, 32.5)
        self.assertEqual(Current.objects.get().visits, 2)

        # 7. out as CSV and GeoJSON, back into an empty block
        page.goto(f"{self.live_server_url}/import-export")
        page.get_by_role("link", name="Make an empty block for a file").click()
        page.get_by_label("Corners").fill("40.5, -79.3\n40.5, -79.299\n40.501, -79.299")
        page.get_by_label("Name", exact=True).fill("Copy")
        page.get_by_role("button", name="Make the block").click()
        expect(page.get_by_role("heading", name="Copy")).to_be_visible()
        page.get_by_role("link", name="Import & export").first.click()
        expect(page.get_by_label("Block", exact=True)).to_contain_text("Copy (0)")
        self.accessible("Import & export")
        with TemporaryDirectory() as folder:
            for ending, link in (("csv", "CSV table"), ("geojson", "GeoJSON map")):
                page.get_by_label("Block", exact=True).select_option(str(self.at.block.id))
                with page.expect_download() as download:
                    page.get_by_role("link", name=link).click()
                file = Path(folder) / f"block.{ending}"
                download.value.save_as(file)
                self.assertIn("Leans a little to the road.", file.read_text())
                if ending == "csv":
                    rows = list(csv.DictReader(io.StringIO(file.read_text())))
                    self.assertEqual(len(rows), Entry.objects.count())
                    page.get_by_label("Block", exact=True).select_option(label="Copy (0)")
                    page.get_by_label("File").set_input_files(file)
                    expect(page.get_by_text("1 plants, 2 visits")).to_be_visible()
                    page.get_by_role("button", name="Take them all").click()
                    expect(page.get_by_text("Taken over, in one go.")).to_be_visible()
                else:
                    self.assertEqual(len(json.loads(file.read_text())["features"]), 1)
        self.assertEqual(
            list(Current.objects.values_list("tag", "name_rank", "dbh_cm", "visits")),
            [("0217", Current.objects.first().name_rank, 32.5, 2)] * 2,
        )

    def look(self, organ: str, character: str, state: str, certainty: str = "likely", then: str = "") -> None:
        page = self.page
        page.get_by_role("button", name=organ, exact=False).first.click()
        page.get_by_role("button", name=character).click()
        page.get_by_role("radio", name=certainty).first.click()
        page.get_by_label("The observation").get_by_role("button", name=state).first.click()
        if then:
            page.get_by_role("button", name=then).click()
        expect(page.get_by_label("In the hand").get_by_text(character)).to_be_visible()

    @staticmethod
    def picture() -> bytes:
        out = io.BytesIO()
        Image.new("RGB", (320, 240), "#6a4a35").save(out, "PNG")
        return out.getvalue()


class OnThePlan(BrowserTestCase):
    def test_a_stem_is_tapped_on_the_plan_and_another_sighted_from_it(self) -> None:
        station = a_plant(self.at, entry("tag", number="0001"))
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        expect(page.get_by_role("button", name="0001")).to_be_visible()
        page.get_by_role("button", name="New tree").click()
        page.get_by_role("button", name="Save and continue").click()
        expect(page.get_by_text("Tap the map where the tree stands")).to_be_visible()
        expect(page.get_by_role("application")).to_have_attribute("aria-busy", "false")
        plan = page.get_by_label("Plan", exact=True)
        box = plan.bounding_box() or {"x": 0, "y": 0, "width": 0, "height": 0}
        page.mouse.click(box["x"] + box["width"] / 2 + 60, box["y"] + box["height"] / 2 + 60)
        expect(page.get_by_text("Tap again to move it")).to_be_visible()
        page.get_by_label("Tag", exact=True).fill("0002")
        page.get_by_role("button", name="Save and continue").click()
        expect(page.get_by_role("heading", name="Where and when")).to_be_visible()
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        page.get_by_role("button", name="New tree").click()
        page.get_by_role("radio", name="Bearing").click()
        page.get_by_label("From the tree with tag").fill("0001")
        page.get_by_label("Bearing (true degrees)").fill("90")
        page.get_by_label("Distance (m, level)").fill("12.5")
        page.get_by_role("button", name="Save and continue").click()
        expect(page.get_by_role("status").filter(has_text="2 sent").first).to_be_visible()
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        page.get_by_role("button", name="0001").wait_for()
        self.assertGreater(self.stems_seen(page, at_least=20, colour=INK), 20)  # not named yet: rings
        self.becomes(Plant.objects.count, 3)
        tapped, sighted = Plant.objects.exclude(pk=station).order_by("recorded_at")
        self.assertEqual((tapped.how_taken, sighted.how_taken), ("tapped", "bearing"))
        self.assertTrue(-79.301 < tapped.place.x < -79.299 and 40.499 < tapped.place.y < 40.501)
        self.assertGreater(sighted.place.x, Plant.objects.get(pk=station).place.x)

    def test_a_viewer_looks_and_changes_nothing(self) -> None:
        a_plant(self.at, entry("tag", number="0001"))
        page = self.sign_in(self.at.viewer, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        page.get_by_role("button", name="0001").click()
        expect(page.get_by_role("button", name="History")).to_be_visible()
        expect(page.get_by_role("button", name="New tree")).to_have_count(0)
        page.goto(f"{self.live_server_url}/import-export")
        expect(page.get_by_text("Reading files in needs the role steward; yours is viewer.")).to_be_visible()
        self.accessible("In & out on a phone", page)
