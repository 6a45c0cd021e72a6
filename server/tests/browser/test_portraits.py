"""Portraits, plates and tiles in a real browser: found, drawn, compared, and honest when nothing is found."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.browser.base import BrowserTestCase

DRAWN = "images => images.length > 0 && images.every(i => i.complete && i.naturalWidth > 0)"


class Portraits(BrowserTestCase):
    def drawn(self, page: Page, within: str) -> None:
        """Every image there has loaded and is not empty."""
        page.wait_for_function(f"() => ({DRAWN})([...document.querySelectorAll('{within} img')])")

    def test_a_taxon_is_found_drawn_and_set_beside_its_look_alike(self) -> None:
        page = self.sign_in(self.at.viewer)
        page.get_by_role("link", name="Portraits").click()
        page.get_by_label("Name, Latin or common").fill("zzz")
        expect(page.get_by_text("No such name in the flora.")).to_be_visible()
        page.get_by_label("Name, Latin or common").fill("sugar maple")
        page.get_by_role("link", name="Acer saccharum").click()
        expect(page.get_by_role("heading", name="Acer saccharum")).to_be_visible()
        self.drawn(page, "article")
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
        page.get_by_role("link", name="Bench").click()
        page.get_by_role("button", name="Leaf", exact=False).first.click()
        page.get_by_role("button", name="How leaves stand on the shoot").click()
        self.drawn(page, "main")
