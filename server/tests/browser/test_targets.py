"""Every target of Identify and Survey is 14 mm high: they are hit with gloves, in rain."""

from __future__ import annotations

from django.test import tag
from playwright.sync_api import Page, expect

from apps.plants.tests.factories import a_plant, entry
from tests.browser.base import BrowserTestCase

HIGH_PX = 53  # 14 mm at 96 CSS pixels to the inch
TOO_LOW = """(least) => [...document.querySelectorAll(
    "main button, main a, main select, main summary, main textarea, main input")]
  .map((e) => [e, (e.closest("label") ?? e).getBoundingClientRect()])
  .filter(([e, box]) => box.width > 1 && box.height > 1 && box.height < least - 0.5)
  .map(([e, box]) => `${e.tagName} ${e.ariaLabel ?? e.textContent}: ${box.height.toFixed(0)} px`)"""
STEPS = ("Name", "Diameter", "Height", "Crown", "Condition", "Signs", "Note and photograph", "Save")


class Targets(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        look = entry("observation", character="leaf.arrangement", states=["opposite"])
        self.plant = a_plant(self.at, entry("tag", number="0001"), look)

    def none_too_low(self, page: Page, where: str) -> None:
        for summary in page.locator("main details > summary").all():
            summary.click()
        self.assertEqual(page.evaluate(TOO_LOW, HIGH_PX), [], where)

    @tag("slow")
    def test_in_survey_step_by_step(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        self.none_too_low(page, "Where and when")
        page.get_by_role("button", name="It is tag").click()
        for step, after in zip(STEPS, (*STEPS[1:], None), strict=True):
            expect(page.get_by_role("heading", name=step).first).to_be_visible()
            if step == "Condition":
                page.get_by_label("Add a defect").select_option("cavity")
                page.get_by_role("button", name="Risk worksheet").click()
            self.none_too_low(page, step)
            if after:
                page.get_by_role("button", name=f"{after} ›").click()

    def test_in_identify_with_observations_made(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.goto(f"{self.live_server_url}/identify/{self.plant}")
        page.get_by_role("button", name="Start from the observation").click()
        expect(page.get_by_role("button", name="Undo")).to_be_visible()
        expect(page.get_by_text("Not yet separated from")).to_be_attached()
        self.none_too_low(page, "Identify")
