"""Plant health in the browser: a sick ash avenue from sign to diagnosis, a gall that frightens, and a find
that has to be told, made without a network.
"""

from __future__ import annotations

import re
from typing import Any

from django.test import tag
from playwright.sync_api import Page, expect

from apps.health.models import BiosecurityStatus, HoldLifted, StationRecord
from apps.plants.models import Current, Plant
from apps.plants.tests.factories import entry, plant_item, recorded, send, signed_in, visit_item
from jubark_core.records.ailing import Diagnosis, Sign
from tests.browser.base import BrowserTestCase

METRE = 1 / 111_320
READY_MS = 120_000  # the core on a slow machine beside other tests


class PlantHealth(BrowserTestCase):
    offline = True

    def tree(self, number: str, taxon: str, i: int, *entries: dict[str, Any]) -> str:
        """A named tree of a row."""
        plant = plant_item(self.at.block, lon=-79.3 + i * 8 * METRE, row_name="Avenue", row_position=i + 1)
        named = entry("determination", entered=taxon, taxon=taxon)
        visit = visit_item(plant["id"], entry("tag", number=number), named, *entries, on="2026-06-01")
        answers = send(signed_in(self.at.surveyor), plant, visit)
        assert {a["answer"] for a in answers} == {"accepted"}, answers
        return str(plant["id"])

    def signs_of(self, page: Page, plant: str) -> None:
        """The step of the signs on the sheet of a tree."""
        page.goto(f"{self.live_server_url}/survey/{plant}?block={self.at.block.id}")
        page.get_by_role("button", name="Signs", exact=True).click()
        expect(page.get_by_role("heading", name="Signs", exact=True)).to_be_visible()

    def seen(self, page: Page, label: str, how: str = "seen") -> None:
        page.get_by_role("button", name=f"{label}: {how}").first.click()
        expect(page.get_by_label("Seen and looked for").get_by_text(label, exact=True)).to_be_visible()

    def word(self, page: Page, group: str, name: str) -> None:
        page.get_by_label(group, exact=True).get_by_role("radio", name=name, exact=True).click()

    @tag("slow")
    def test_a_sick_ash_avenue_from_sign_to_diagnosis(self) -> None:
        holes = entry("sign", sign="exit_hole_d", where=["trunk"])
        for i in range(1, 5):
            self.tree(f"10{i}", "fraxinus-americana", i, {**holes, "id": entry("sign")["id"]})
        ash = self.tree("100", "fraxinus-americana", 0)
        page = self.sign_in(self.at.surveyor)
        self.signs_of(page, ash)
        # five taps: the sign, how many, where, the diagnosis, save
        self.seen(page, "D-shaped exit hole")
        self.word(page, "How many: D-shaped exit hole", "some")
        self.word(page, "Where: D-shaped exit hole", "trunk")
        answer = page.get_by_role("region", name="What it may be")
        expect(answer).to_contain_text("It can kill the plant: Emerald ash borer")
        expect(answer).to_contain_text("do not climb it")
        self.accessible("Signs")
        answer.get_by_role("button", name="Record Emerald ash borer").click()
        expect(answer).to_contain_text("Recorded: Emerald ash borer")
        page.get_by_role("button", name="Save visit").first.click()
        expect(page.get_by_text(re.compile("Saved"))).to_be_visible()
        self.becomes(lambda: Current.objects.get(plant=ash).cause, "emerald-ash-borer")
        [body] = recorded("diagnosis")
        assert isinstance(body, Diagnosis)
        self.assertEqual((body.standing, body.host), ("suspicion", "fraxinus-americana"))
        self.assertGreater(body.probability or 0, 0.5)
        # the place, and the page of the cause by its address
        page.goto(f"{self.live_server_url}/health")
        expect(page.get_by_role("region", name="Present and suspected")).to_contain_text("1 suspected")
        expect(page.get_by_role("region", name="Signs not judged yet")).to_contain_text("101")
        expect(page.get_by_role("region", name="Hosts here")).to_contain_text("Emerald ash borer")
        self.accessible("Plant health")
        page.get_by_role("region", name="Present and suspected").get_by_role("link").first.click()
        expect(page.get_by_role("heading", name="Emerald ash borer")).to_be_visible()
        expect(page.get_by_role("region", name="Through the years")).to_contain_text("1 plant by the end of")
        self.accessible("A cause")
        page.reload()
        expect(page.get_by_role("region", name="Taken for each other")).to_contain_text(
            "Native ash bark beetle"
        )
        page.go_back()
        expect(page.get_by_role("heading", name="Plant health")).to_be_visible()

    @tag("slow")
    def test_a_gall_that_frightens_and_one_that_asks_for_the_name(self) -> None:
        hackberry = self.tree("200", "celtis-occidentalis", 0)
        elm = self.tree("201", "ulmus-americana", 1)
        page = self.sign_in(self.at.surveyor)
        for plant in (hackberry, elm):
            self.signs_of(page, plant)
            page.get_by_label("Day").or_(page.get_by_role("heading", name="Look for")).first.wait_for()
            page.get_by_role("button", name="All signs, by part").click()
            page.get_by_role("region", name="All signs").get_by_text("Leaf and needle").click()
            self.seen(page, "Nipple galls")
            self.word(page, "How many: Nipple galls", "many")
            answer = page.get_by_role("region", name="What it may be")
            if plant == hackberry:
                expect(answer).to_contain_text("Harmless: Hackberry nipple gall. Nothing.")
                answer.get_by_role("button", name="Record Hackberry nipple gall").click()
                page.get_by_role("button", name="Save visit").first.click()
                self.becomes(lambda: Current.objects.get(plant=hackberry).cause, "hackberry-nipple-gall")
                [body] = recorded("sign", visit__plant=hackberry)
                assert isinstance(body, Sign)
                self.assertEqual(body.extent, "many")
            else:
                expect(answer).to_contain_text("The name, or the sign?")
                expect(answer).to_contain_text("Celtis occidentalis")
                expect(answer.get_by_text("Hackberry nipple gall")).to_have_count(0)

    @tag("slow")
    def test_a_find_that_has_to_be_told_is_made_offline_and_holds_the_block(self) -> None:
        maple = self.tree("300", "acer-saccharum", 0)
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844, core=True))
        page.get_by_role("button", name="Account").first.click()
        expect(page.locator("[data-core=ready]")).to_have_count(1, timeout=READY_MS)
        page.keyboard.press("Escape")
        self.signs_of_on_phone(page, maple)
        expect(page.get_by_role("heading", name="Look for")).to_be_visible(timeout=READY_MS)
        page.context.set_offline(True)
        page.get_by_role("button", name="All signs, by part").click()
        page.get_by_role("region", name="All signs").get_by_text("Bark and wood").click()
        self.seen(page, "Chewed pits in the bark")
        self.seen(page, "Round exit hole")
        page.get_by_role("button", name="Size, side, since when").first.click()
        page.get_by_label("Size (mm)").fill("11")
        answer = page.get_by_role("region", name="What it may be")
        expect(answer).to_contain_text("Asian longhorned beetle")
        expect(answer).to_contain_text("Anyone may tell it at once")
        answer.get_by_role("button", name="Record Asian longhorned beetle").click()
        page.get_by_role("button", name="Save visit").first.click()
        expect(page.get_by_text(re.compile("Saved"))).to_be_visible()
        self.assertEqual(recorded("diagnosis"), [])
        page.context.set_offline(False)
        self.becomes(lambda: Current.objects.get(plant=maple).cause, "asian-longhorned-beetle")
        # at the desk: the hold stands, and a steward ends it by its reference
        desk = self.sign_in(self.at.steward, self.open_browser(), at="")
        desk.goto(f"{self.live_server_url}/health")
        holds = desk.get_by_role("region", name="Movement holds")
        expect(holds).to_contain_text("Block: Asian longhorned beetle")
        holds.get_by_role("button", name="End the hold").click()
        form = desk.get_by_role("dialog")
        expect(form.get_by_role("button", name="End the hold")).to_be_disabled()
        form.get_by_label("Reference").fill("PPQ 12")
        self.accessible("End the hold", desk)
        form.get_by_role("button", name="End the hold").click()
        expect(form).to_have_count(0)
        expect(holds).to_have_count(0)
        self.assertEqual(HoldLifted.objects.get().reference, "PPQ 12")

    def signs_of_on_phone(self, page: Page, plant: str) -> None:
        page.goto(f"{self.live_server_url}/survey/{plant}?block={self.at.block.id}")
        for step in ("Name", "Diameter", "Height", "Crown", "Condition", "Signs"):
            page.get_by_role("button", name=f"{step} ›").click()

    @tag("slow")
    def test_a_status_and_a_station_are_set_at_the_desk(self) -> None:
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/health")
        expect(page.get_by_text("Nothing was diagnosed on the 0 plants")).to_be_visible()
        page.get_by_role("button", name="Set the status of Block").click()
        form = page.get_by_role("dialog")
        form.get_by_label("Status").select_option("suspect")
        form.get_by_role("button", name="Save status").click()
        expect(form.get_by_role("alert")).to_contain_text("cause")
        form.get_by_label("Cause").select_option("beech-leaf-disease")
        form.get_by_label("Lifted by").fill("Two clean summers")
        form.get_by_role("button", name="Save status").click()
        expect(page.get_by_role("region", name="Biosecurity status")).to_contain_text("Two clean summers")
        self.assertEqual(BiosecurityStatus.objects.get().cause, "beech-leaf-disease")
        page.get_by_role("button", name="Read in a station").click()
        form.get_by_label("Name of the station").fill("Roof")
        for content, refused in (
            ("date,min_c,max_c\n2026-05-01,9,2\n", True),
            ("date,min_c,max_c\n2026-01-01,1,9\n", False),
        ):
            file = {"name": "days.csv", "mimeType": "text/csv", "buffer": content.encode()}
            form.get_by_label("Its days as CSV").set_input_files(file)
            form.get_by_role("button", name="Read in").click()
            if refused:
                expect(form.get_by_role("alert")).to_contain_text("csv: row 2: min_c")
        expect(form).to_have_count(0)
        expect(page.get_by_role("region", name="Warmth so far")).to_contain_text("Roof")
        self.assertEqual((StationRecord.objects.count(), Plant.objects.count()), (1, 0))
