"""A year of inspections, a storm morning without network, a photo point, and the plan of the day."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from django.test import tag
from playwright.sync_api import Locator, Page, expect

from apps.inspections.models import Report, SiteRegime, Target
from apps.organisations.services.contacts import make_contact
from apps.plants.models import Current, Entry, PhotoFile, Plant, Visit
from apps.plants.tests.factories import (
    a_plant,
    dbh,
    entry,
    plant_item,
    recorded,
    send,
    signed_in,
    today_there,
    visit_item,
)
from tests.browser.base import BrowserTestCase

METRE = 1 / 111_320
WHOLE = {"base_visible": "all_round", "crown_visible": "whole"}


class Inspecting(BrowserTestCase):
    def make_site(self) -> None:
        super().make_site()
        self.at.site.sections = ["inspection", "photo_point"]
        self.at.site.save()
        self.ids = [self.tree(f"{101 + i}", i) for i in range(3)]

    def tree(self, tag: str, i: int) -> str:
        plant = plant_item(self.at.block, lon=-79.3 + i * 8 * METRE, row_name="Mill Lane", row_position=i + 1)
        visit = visit_item(plant["id"], entry("tag", number=tag), on="2026-10-20")
        answers = send(signed_in(self.at.surveyor), plant, visit)
        assert {a["answer"] for a in answers} == {"accepted"}, answers
        return str(plant["id"])

    def open(self, address: str, page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(self.live_server_url + address)
        return page

    def word(self, where: Page | Locator, label: str, name: str) -> None:
        where.get_by_label(label, exact=True).get_by_role("radio", name=name, exact=True).click()

    @tag("slow")
    def test_a_target_a_table_an_inspection_a_walk_and_a_report(self) -> None:
        page = self.sign_in(self.at.steward)
        self.target(page)
        self.table(page)
        page = self.sign_in(self.at.surveyor, self.open_browser(1280, 800))
        self.inspect(page)
        self.walk(page)
        self.coverage(page)

    def target(self, page: Page) -> None:
        self.open("/map", page)
        plan = page.get_by_role("application")
        expect(plan).to_have_attribute("aria-busy", "false")
        page.get_by_role("button", name="New target").click()
        page.get_by_label("Corners").fill("40.5000, -79.3010\n40.5000, here")
        expect(page.get_by_text("Line 2 is no corner")).to_be_visible()
        page.get_by_label("Corners").fill("40.5000, -79.3010\n40.5000, -79.2990")
        page.get_by_role("button", name="Save target").click()
        expect(page.get_by_role("alert").filter(has_text="name: 'nothing' is not allowed")).to_be_visible()
        page.get_by_label("Name", exact=True).fill("Mill path")
        page.get_by_label("Kind").select_option("path")
        page.get_by_label("Occupancy").select_option("frequent")
        self.accessible("New target", page)
        page.get_by_role("button", name="Save target").click()
        expect(page.get_by_role("region", name="Targets").get_by_role("strong")).to_be_visible()
        self.assertEqual(Target.objects.get().occupancy, "frequent")
        with page.expect_download() as download:
            page.get_by_role("link", name="Targets as GeoJSON").click()
        file = {"name": "targets.geojson", "mimeType": "application/geo+json"}
        for content, says in ((b"no json", "The file is no JSON."), (None, "features[0].name")):
            buffer = content or Path(download.value.path()).read_bytes()
            page.get_by_label("Targets from a GeoJSON file").set_input_files({**file, "buffer": buffer})
            expect(page.get_by_role("alert").filter(has_text=says)).to_contain_text("None was taken.")

    def table(self, page: Page) -> None:
        self.open("/inspections", page)
        expect(page.get_by_text("None is set: by zone nothing falls due.")).to_be_visible()
        page.get_by_role("button", name="Set the table").click()
        form = page.get_by_role("dialog")
        form.get_by_role("button", name="Add a row").click()
        form.get_by_label("Zone", exact=True).select_option("frequent")
        form.get_by_label("Level asked for").select_option("basic")
        form.get_by_label("Months", exact=True).fill("12")
        form.get_by_label("Months at high risk").fill("13")
        form.get_by_role("button", name="Save the table").click()
        expect(form.get_by_text("a higher risk is not looked at more seldom")).to_be_visible()
        form.get_by_label("Months at high risk").fill("3")
        self.accessible("The owner's table", page)
        form.get_by_role("button", name="Save the table").click()
        expect(form).to_have_count(0)
        row = page.get_by_role("region", name="The owner's table").get_by_role("row").nth(1)
        expect(row).to_contain_text("frequent")
        self.assertEqual(SiteRegime.objects.count(), 1, "the refused one is not stored")

    def inspect(self, page: Page) -> None:
        """The first tree: in one word, and an inspection that says how much was seen."""
        self.open(f"/survey/{self.ids[0]}?block={self.at.block.id}", page)
        page.get_by_role("button", name="It is tag").click()
        for step in ("Diameter", "Height", "Crown", "Condition"):
            page.get_by_role("button", name=f"{step} ›").click()
        page.get_by_role("radio", name="in one word").click()
        page.get_by_role("radio", name="good").first.click()
        sheet = page.get_by_role("region", name="Inspection")
        self.word(sheet, "This visit is an inspection", "basic")
        expect(sheet.get_by_text("until it is said how much of base and crown was seen")).to_be_visible()
        self.word(sheet, "Base seen", "all round")
        self.word(sheet, "Crown seen", "whole")
        expect(sheet.get_by_text("until it is said")).to_have_count(0)
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.becomes(
            lambda: [(i.level, i.base_visible) for i in recorded("inspection")], [("basic", "all_round")]
        )

    def walk(self, page: Page) -> None:
        self.open("/inspections/walk", page)
        page.get_by_label("Block").select_option(label="Block")
        page.get_by_label("Street or row").select_option("Mill Lane")
        self.word(page, "Daylight", "dull")
        self.word(page, "Most trees are", "out of leaf")
        page.get_by_role("button", name="Begin the walk").click()
        page.get_by_role("button", name="102: passed, nothing stood out").click()
        page.reload()  # put down and taken up again
        expect(page.get_by_text("1 of 3")).to_be_visible()
        self.accessible("A walk", page)
        page.get_by_role("button", name="End the walk and save 1").click()
        expect(page.get_by_text("1 tree is saved as passed.")).to_be_visible()
        self.becomes(lambda: len(recorded("inspection")), 2)
        [passed] = recorded("inspection", plant=self.ids[1])
        self.assertEqual(
            (passed.level, passed.walked, passed.walk, passed.daylight, passed.leaf),
            ("limited_visual", True, "Mill Lane", "dull", "out_of_leaf"),
        )

    def coverage(self, page: Page) -> None:
        # what came in today was not known on the day that the demonstration calls today
        self.open(f"/inspections?on={today_there().isoformat()}", page)
        region = page.get_by_role("region", name="Coverage")
        for number, says in (
            ("101", "Done at the level asked for"),
            ("102", "Looked at, below the level asked for"),
            ("103", "Not looked at"),
        ):
            expect(region.get_by_role("row").filter(has_text=number)).to_contain_text(says)
        region.get_by_role("button", name="not looked at").click()
        expect(region.get_by_role("row")).to_have_count(2)
        self.accessible("Coverage", page)
        page.get_by_label("Note for the reader").fill("first round")
        page.get_by_role("button", name="Make the report").click()
        page.get_by_role("link", name="Report 1", exact=True).click()
        expect(page.get_by_role("heading", name="Inspections of trees")).to_be_visible()
        page.reload()
        expect(page.get_by_role("row").filter(has_text="101")).to_contain_text("surveyor")
        with page.expect_download() as download:
            page.get_by_role("link", name="This report as PDF").click()
        self.assertEqual(download.value.suggested_filename, "report-1.pdf")
        page.go_back()
        expect(
            page.get_by_role("region", name="Reports").get_by_role("link", name="Report 1", exact=True)
        ).to_be_visible()
        self.assertEqual(Report.objects.get().body["note"], "first round")

    def test_the_day_is_planned_and_one_tap_starts_its_round(self) -> None:
        overdue = visit_item(self.ids[2], entry("inspection", level="basic", **WHOLE), on="2024-01-10")
        send(signed_in(self.at.surveyor), overdue)
        steward = signed_in(self.at.steward)
        site = f"/api/sites/{self.at.site.id}"
        steward.put(
            f"{site}/regime/",
            {"rules": [{"zone": "rare", "level": "basic", "months": 12}], "otherwise": "rare"},
        )
        page = self.sign_in(self.at.surveyor, at="/")
        plan = page.get_by_role("region", name="To do")
        expect(plan.get_by_text("inspections overdue")).to_be_visible()
        expect(plan.get_by_role("status").filter(has_text="1 tree")).to_be_visible()
        expect(plan.get_by_text(re.compile(r"103 inspection overdue by \d+ days: basic"))).to_be_visible()
        self.accessible("The plan of the day")
        plan.get_by_role("button", name="Start the round through Block").click()
        expect(page.get_by_role("button", name="It is tag 103")).to_be_visible()
        page.goto(f"{self.live_server_url}/survey")
        page.get_by_role("button", name="Go on: tag 103").click()
        page.get_by_role("button", name="It is tag 103").click()
        for step in ("Diameter", "Height", "Crown", "Condition"):
            page.get_by_role("button", name=f"{step} ›").click()
        page.get_by_role("radio", name="in one word").click()
        page.get_by_role("radio", name="good").first.click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("1 of 1 trees of this round done")).to_be_visible()
        expect(page.get_by_role("button", name="End the round")).to_be_visible()

    @tag("slow")
    def test_two_records_of_one_tree_are_merged_and_parted_again(self) -> None:
        page = self.sign_in(self.at.steward)
        self.open(f"/history/{self.ids[2]}")
        page.get_by_role("button", name="It is a duplicate of another record").click()
        form = page.get_by_role("dialog")
        form.get_by_label("Tag of the record that goes on").fill("999")
        expect(form.get_by_text("No other tree of this block carries this tag.")).to_be_visible()
        form.get_by_label("Tag of the record that goes on").fill("101")
        self.accessible("Merging")
        form.get_by_role("button", name="Merge into tag 101").click()
        expect(page.get_by_text("This is a second record of")).to_be_visible()
        self.becomes(lambda: str(Plant.objects.get(pk=self.ids[2]).merged_into_id), self.ids[0])
        self.open("/inventory")
        expect(page.get_by_role("status").filter(has_text="2 plants")).to_be_visible()
        self.open(f"/history/{self.ids[2]}")
        page.get_by_role("button", name="Take the merge back").click()
        expect(page.get_by_text("This is a second record of")).to_have_count(0)
        self.becomes(lambda: Plant.objects.get(pk=self.ids[2]).merged_into_id, None)

    @tag("slow")
    def test_a_tree_is_planted_in_a_vacant_place(self) -> None:
        page = self.sign_in(self.at.surveyor)
        self.open(f"/map/{self.at.block.id}")
        page.get_by_role("button", name="New tree").click()
        self.word(page, "What stands here", "nothing yet: a planting site")
        self.word(page, "Location", "Coordinates")
        page.get_by_label("Latitude (degrees)").fill("40.5004")
        page.get_by_label("Longitude (degrees)").fill("-79.3001")
        self.accessible("A vacant place")
        page.get_by_role("button", name="Save the place").click()
        self.becomes(lambda: Plant.objects.filter(form="vacant").count(), 1)
        place = Plant.objects.get(form="vacant")
        self.open(f"/history/{place.id}")
        page.get_by_role("button", name="Plant a tree here").click()
        expect(page.get_by_role("heading", name="Where and when")).to_be_visible()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.becomes(lambda: [p.vacant_place for p in recorded("planting")], [place.id])
        tree = Entry.objects.get(kind="planting").plant
        self.assertAlmostEqual(tree.place.y, 40.5004, places=6)
        self.becomes(lambda: Current.objects.get(plant=place).life, "removed")
        self.open(f"/history/{place.id}")
        expect(page.get_by_role("heading", name="Planting site, vacant no more")).to_be_visible()

    @tag("slow")
    def test_a_neighbour_is_named_in_the_file_and_known_by_id_alone(self) -> None:
        contact = make_contact(actor=self.at.steward, given={"name": "A neighbour"})
        self.at.site.sections = ["status"]
        self.at.site.save()
        page = self.sign_in(self.at.steward)
        self.open(f"/survey/{self.ids[0]}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_role("button", name="The tree's file", exact=True).first.click()
        page.get_by_role("button", name="Add ownership").click()
        page.get_by_role("combobox", name="Owner", exact=True).select_option("neighbour")
        page.get_by_role("combobox", name="Contact", exact=True).select_option("A neighbour")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.becomes(lambda: [s.contact for s in recorded("status")], [contact.id])

    @tag("slow")
    def test_a_photo_point_in_the_same_frame_a_year_later(self) -> None:
        page = self.sign_in(self.at.surveyor)
        self.photographed(page, first=True)
        point = str(Entry.objects.get(kind="photo_point").id)
        self.becomes(PhotoFile.objects.count, 1)
        self.photographed(page, first=False)
        self.becomes(lambda: [str(p.shows) for p in recorded("photo")], [point, point])
        # the camera of the tests may show the same frame twice: one file then holds both
        taken = {str(p.sha256) for p in recorded("photo")}
        self.becomes(PhotoFile.objects.count, len(taken))
        self.open(f"/history/{self.ids[0]}")
        pictures = page.get_by_role("region", name="Photo points").get_by_role("img")
        expect(pictures).to_have_count(2)
        for i in range(2):
            pictures.nth(i).scroll_into_view_if_needed()
            expect(pictures.nth(i)).to_have_js_property("complete", True)
            self.assertGreater(pictures.nth(i).evaluate("i => i.naturalWidth"), 0)

    def photographed(self, page: Page, first: bool) -> None:
        self.open(f"/survey/{self.ids[0]}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        if first:
            page.get_by_role("button", name="The tree's file", exact=True).first.click()
            page.get_by_role("button", name="Add photo point").click()
            page.get_by_role("textbox", name="Photo point", exact=True).fill("from the gate")
            page.get_by_label(re.compile("^Bearing")).fill("40")
        page.get_by_role("button", name="Note and photograph", exact=True).first.click()
        points = page.get_by_role("region", name="Photo points")
        points.get_by_role("button", name="Camera at from the gate").click()
        camera = page.get_by_role("dialog", name="Photograph: from the gate")
        shutter = camera.get_by_role("button", name="Take the picture")
        expect(shutter).to_be_enabled()
        last = camera.get_by_role("img", name="As it was last seen from here, faint")
        if first:
            expect(camera.get_by_text("The first picture from here")).to_be_visible()
        else:
            expect(last).to_have_css("opacity", "0.4")
        self.accessible("The camera")
        shutter.click()
        expect(points.get_by_text("photographed on this visit")).to_be_visible()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()


WIRES, NONE = "Wires on it, down or pulled tight", "None of these"


class StormMorning(BrowserTestCase):
    offline = True
    """Ten trees without network: wires first, three taps each, doubles said, nothing lost."""

    def make_site(self) -> None:
        super().make_site()
        self.ids = [
            a_plant(self.at, entry("tag", number=f"{201 + i}"), dbh(30.0), lon=-79.3 + i * 20 * METRE)
            for i in range(10)
        ]

    def look(self, page: Page, tag: str, *answers: str) -> None:
        page.get_by_role("region", name="Not yet looked at").get_by_role("button", name=tag).click()
        for answer in answers:
            page.get_by_role("button", name=answer, exact=True).click()

    def count(self, page: Page, looked: int) -> None:
        expect(page.get_by_text(f"{looked} of 10", exact=True)).to_be_visible()

    def test_ten_trees(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844))
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.goto(f"{self.live_server_url}/storm")
        self.count(page, 0)
        page.context.set_offline(True)
        self.look(page, "201", WIRES, "That is what there is")
        alarm = page.get_by_role("alertdialog", name="Wires")
        expect(alarm).to_contain_text("Stay 10 m away")
        expect(alarm).to_contain_text("Call the operator of the line")
        page.keyboard.press("Escape")
        expect(alarm).to_be_visible()
        self.accessible("Wires", page)
        alarm.get_by_role("button", name="To the list").click()
        self.count(page, 1)
        self.look(page, "202", "A person", WIRES, "That is what there is")
        both = page.get_by_role("alertdialog", name="A person is under it; Wires")
        expect(both).to_contain_text("Call the emergency number now")
        expect(both).to_contain_text("Treat every wire as live")
        both.get_by_role("button", name="To the list").click()
        for i in range(3, 9):
            blocks = "a road" if i == 8 else "nothing"
            self.look(page, f"20{i}", NONE, "fallen" if i > 6 else "standing", blocks, "clear it later")
            self.count(page, i)
        page.reload()  # nothing is lost, and the order is people, wires, road, rest
        self.count(page, 8)
        headings = page.get_by_role("heading", level=2)
        expect(headings.nth(0)).to_have_text("People: 1")
        expect(headings.nth(1)).to_have_text("Wires: 1")
        expect(headings.nth(2)).to_have_text("Road: 1")
        expect(headings.nth(3)).to_have_text("The rest: 5")
        expect(headings.nth(4)).to_have_text("Not yet looked at: 2")
        self.accessible("After a storm", page)
        self.assertEqual(recorded("storm"), [])
        page.context.set_offline(False)
        page.evaluate("dispatchEvent(new Event('online'))")
        self.becomes(lambda: len(recorded("storm")), 8)
        self.becomes(lambda: Current.objects.filter(life="fallen").count(), 2)
        self.assertEqual(Visit.objects.filter(local_date__gt="2026-10-20").count(), 8)

    def test_a_tree_entered_by_two_is_said_to_be_probably_one(self) -> None:
        today = today_there().isoformat()
        down: dict[str, Any] = {
            "under_it": ["neither"],
            "lies": "fallen",
            "blocks": "path",
            "next_step": "clear_now",
        }
        found = plant_item(self.at.block, lon=-79.3 + 3 * METRE)
        send(
            signed_in(self.at.steward),
            found,
            visit_item(found["id"], entry("storm", **down), on=today),
        )
        send(signed_in(self.at.surveyor), visit_item(self.ids[0], entry("storm", **down), on=today))
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/storm")
        page.get_by_label("Storm of").fill(today)
        expect(page.get_by_text("Probably one tree, entered twice.")).to_be_visible()
        expect(page.get_by_text("3 m from each other")).to_be_visible()

    @tag("slow")
    def test_a_tree_that_is_not_in_the_list(self) -> None:
        page = self.open_browser(390, 844, geolocation={"latitude": 40.5002, "longitude": -79.2999})
        page.context.grant_permissions(["geolocation"])
        self.sign_in(self.at.surveyor, page, at="")
        page.goto(f"{self.live_server_url}/storm")
        page.get_by_role("button", name="It stands where I am").click()
        expect(page.get_by_role("heading", name="Wires, or a person under it?")).to_be_visible()
        for answer in (NONE, "hung up in another", "a path", "an assessor looks at it"):
            page.get_by_role("button", name=answer, exact=True).click()
        expect(page.get_by_text("1 of 11")).to_be_visible()
        self.becomes(Plant.objects.count, 11)
        self.becomes(lambda: [s.lies for s in recorded("storm")], ["hung_up"])
        made = Plant.objects.exclude(pk__in=self.ids).get()
        self.assertAlmostEqual(made.place.y, 40.5002, places=4)
