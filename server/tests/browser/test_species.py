"""Portraits, plates and tiles in a real browser: found, drawn, compared, and honest when nothing is found."""

from __future__ import annotations

import re

from django.test import tag
from playwright.sync_api import Page, expect

from apps.plants.tests.factories import a_plant, entry
from jubark_core.flora.load import shipped_flora
from tests.browser.base import BrowserTestCase

DRAWN = "images => images.length > 0 && images.every(i => i.complete && i.naturalWidth > 0)"


class Portraits(BrowserTestCase):
    def drawn(self, page: Page, within: str) -> None:
        """Every image there has loaded and is not empty."""
        page.wait_for_function(f"() => ({DRAWN})([...document.querySelectorAll('{within} img')])")

    def test_a_taxon_is_found_drawn_and_set_beside_its_look_alike(self) -> None:
        page = self.sign_in(self.at.viewer)
        page.get_by_role("link", name="Species").click()
        page.get_by_label("Name, Latin or common").fill("zzz")
        expect(page.get_by_text("No such name in the flora.")).to_be_visible()
        page.get_by_label("Name, Latin or common").fill("sugar maple")
        page.get_by_role("link", name="Acer saccharum").click()
        expect(page.get_by_role("heading", name="Acer saccharum")).to_be_visible()
        self.drawn(page, "article")
        expect(page.get_by_text("by the calendar of western Pennsylvania")).to_be_visible()
        expect(page.get_by_text(re.compile(r"\d+ (April|May) ± 10 days")).first).to_be_visible()
        self.accessible("Portrait")
        page.reload()
        expect(page.get_by_label("Name, Latin or common")).to_have_value("sugar maple")
        page.get_by_role("link", name="side by side").first.click()
        expect(page.get_by_role("heading", name="Side by side")).to_be_visible()
        self.drawn(page, "table")
        self.accessible("Side by side")
        page.go_back()
        expect(page.get_by_role("heading", name="Acer saccharum")).to_be_visible()
        page.goto(page.url.replace("acer-saccharum", "acer-nowhere"))
        expect(page.get_by_text("acer-nowhere")).to_be_visible()

    def test_answers_on_the_bench_are_drawn(self) -> None:
        page = self.sign_in(self.at.viewer)
        page.get_by_role("link", name="Identify").click()
        page.get_by_role("button", name="Leaf", exact=False).first.click()
        page.get_by_role("button", name="How leaves stand on the shoot").click()
        self.drawn(page, "main")

    def test_the_list_narrows_and_the_address_keeps_it(self) -> None:
        a_plant(self.at, entry("determination", entered="Acer rubrum", taxon="acer-rubrum"))
        page = self.sign_in(self.at.viewer, at="")
        page.goto(f"{self.live_server_url}/species?on=2026-04-05")
        count = page.get_by_role("status").filter(has_text="tax")
        expect(count).to_have_text(f"{len(shipped_flora().leaves)} taxa")
        page.get_by_text("Narrow the list").click()
        page.get_by_label("There it is").select_option("invasive")
        page.get_by_label("Area", exact=True).select_option("PEN")
        expect(page.get_by_role("link", name="Ailanthus altissima")).to_be_visible()
        expect(page.get_by_role("link", name="Quercus alba")).to_have_count(0)
        page.get_by_label("There it is").select_option("")
        page.get_by_label("on your sites").check()
        expect(count).to_have_text("1 taxon")
        page.get_by_label("Shows on the day").select_option("fruit")
        expect(page.get_by_text("No taxon fits all of that.")).to_be_visible()
        page.reload()
        expect(page.get_by_text("No taxon fits all of that.")).to_be_visible()
        self.accessible("Portraits, narrowed")
        page.goto(f"{self.live_server_url}/species?words=sicamore")
        expect(page.get_by_text("by a likely spelling").first).to_be_visible()
        page.goto(f"{self.live_server_url}/species?words=cedar")
        expect(page.get_by_text("“cedar” is said of several genera")).to_be_visible()

    @tag("slow")
    def test_the_year_is_drawn_by_one_finger_and_taxa_wait_in_a_tray(self) -> None:
        page = self.sign_in(self.at.viewer, at="")
        page.goto(f"{self.live_server_url}/species/acer-rubrum?on=2026-07-10")
        self.drawn(page, "article")
        summer = page.locator("article img").first.get_attribute("src")
        page.get_by_role("slider").fill("290")  # 17 October
        expect(page.get_by_text("17 October 2026")).to_be_visible()
        page.wait_for_url("**on=2026-10-17**")
        expect(page.locator("article img").first).not_to_have_attribute("src", summer or "")
        page.get_by_role("button", name="Compare", exact=True).click()
        page.get_by_role("button", name="Compare Acer saccharum").click()
        page.get_by_role("link", name="Side by side", exact=True).click()
        expect(page.get_by_role("link", name="Acer saccharum")).to_be_visible()
        self.drawn(page, "table")
        page.go_back()
        page.get_by_role("button", name="Does it fit?").click()
        page.get_by_label("Near it").select_option("wire")
        page.get_by_label("Distance (m)").fill("2")
        page.get_by_label("Its height (m)").fill("9")
        expect(page.get_by_text("Does not fit.")).to_be_visible()
        page.get_by_label("Distance (m)").fill("far")
        expect(page.get_by_text("far is no number in m")).to_be_visible()
        self.accessible("Portrait with its year")

    def test_the_month_of_a_block_as_a_sheet(self) -> None:
        a_plant(self.at, entry("determination", entered="Acer rubrum", taxon="acer-rubrum"))
        page = self.sign_in(self.at.viewer, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/year?month=4")
        expect(page.get_by_role("heading", name="What shows in April")).to_be_visible()
        row = page.get_by_role("row").filter(has_text="Acer rubrum")
        expect(row).to_contain_text("red maple, 1")
        page.get_by_label("Month").select_option("1")
        expect(page.get_by_role("heading", name="What shows in January")).to_be_visible()
        expect(row).to_contain_text("bare: twig, bud and bark")
        self.accessible("Month sheet on a phone", page)
        page.emulate_media(media="print")
        expect(page.get_by_role("button", name="Print the sheet")).to_be_hidden()
        expect(page.get_by_role("navigation", name="Places")).to_be_hidden()
