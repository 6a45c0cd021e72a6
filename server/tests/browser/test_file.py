"""A tree's file: sections a site switches on, entered in the survey, shown in History, found in Inventory."""

from __future__ import annotations

from django.test import tag
from playwright.sync_api import expect

from apps.plants.tests.factories import a_plant, entry, recorded
from tests.browser.base import BrowserTestCase


class TheFile(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant = a_plant(self.at, entry("tag", number="0101"), on="2025-10-20")
        a_plant(self.at, entry("tag", number="0102"), on="2025-10-20", lon=-79.301)

    @tag("slow")
    def test_switched_on_entered_corrected_and_found(self) -> None:
        page = self.sign_in(self.at.steward)
        survey = f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}"
        page.goto(survey)
        page.get_by_role("button", name="It is tag").click()
        expect(page.get_by_role("button", name="Signs", exact=True)).to_be_visible()
        expect(page.get_by_role("button", name="The tree's file")).to_have_count(0)  # the sheet stays short
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Conventions").click()
        dialog = page.get_by_role("dialog")
        for section in ("hardware", "habitat", "climber", "headroom"):
            dialog.get_by_label(section, exact=True).check()
        dialog.get_by_role("button", name="Save conventions").click()
        expect(dialog).to_have_count(0)

        page.goto(survey)
        page.get_by_role("button", name="The tree's file").click()
        hardware = page.get_by_role("region", name="Hardware")
        expect(page.get_by_role("region", name="Incident")).to_have_count(0)
        hardware.get_by_role("button", name="Add hardware").click()
        hardware.get_by_label("Hardware", exact=True).select_option("cable")
        hardware.get_by_label("State").select_option("ingrown")
        habitat = page.get_by_role("region", name="Habitat")
        habitat.get_by_role("button", name="Add habitat").click()
        expect(habitat.get_by_text("Needed before it is recorded: habitat feature.")).to_be_visible()
        headroom = page.get_by_role("region", name="Headroom")
        headroom.get_by_role("button", name="Add headroom").click()
        headroom.get_by_label("Over or beside").select_option("road")
        expect(headroom.get_by_text("Needed before it is recorded: clear of it (m).")).to_be_visible()
        headroom.get_by_label("Clear of it (m)").fill("0")  # the crown lies on the road
        expect(headroom.get_by_text("Needed before it is recorded")).to_have_count(0)
        climber = page.get_by_role("region", name="Climber")
        climber.get_by_role("button", name="Add climber").click()
        climber.get_by_label("Climber", exact=True).select_option(label="English ivy, Hedera helix")
        steps = page.get_by_role("navigation", name="Steps")
        expect(steps.get_by_role("button", name="The tree's file done")).to_be_visible()  # the cable
        self.accessible("The tree's file")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        [cable] = recorded("hardware")
        self.assertEqual((cable.hardware, cable.state), ("cable", "ingrown"))
        self.assertEqual(recorded("habitat"), [], "one that says nothing is not recorded")
        self.assertEqual([(h.over, h.clear_m) for h in recorded("headroom")], [("road", 0)])
        self.assertEqual([c.climber for c in recorded("climber")], ["hedera-helix"])

        page.goto(f"{self.live_server_url}/history/{self.plant}")
        page.get_by_role("button", name="Correct Hardware: cable, ingrown").click()
        page.get_by_label("State").select_option("sound")
        page.get_by_label("Reason").fill("it was the other one")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_role("button", name="Correct Hardware: cable, sound")).to_be_visible()

        page.goto(f"{self.live_server_url}/inventory")
        page.get_by_label("In its file").select_option("hardware")
        expect(page.get_by_role("status").filter(has_text="1 plants")).to_be_visible()
        expect(page.get_by_role("link", name="0101")).to_be_visible()
        page.reload()
        expect(page.get_by_label("In its file")).to_have_value("hardware")
        page.get_by_label("In its file").select_option("sample")
        expect(page.get_by_text("Nothing fits these filters.")).to_be_visible()
