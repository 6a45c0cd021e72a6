"""The device's outbox as an organisation meets it: cut connections, refusals, signing out with
unsent work.
"""

from __future__ import annotations

import json
import uuid

from playwright.sync_api import Route, expect

from apps.plants.tests.factories import a_plant, entry, recorded
from tests.browser.base import BrowserTestCase


class Outbox(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant = a_plant(self.at, entry("tag", number="0001"))
        self.sign_in(self.at.surveyor)

    def write_note(self, words: str) -> None:
        """A visit with one note, kept."""
        page = self.page
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="Note and photograph").first.click()
        page.get_by_role("textbox", name="Note").fill(words)
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()

    def notes(self) -> list[str]:
        return sorted(note.text for note in recorded("note"))

    def test_an_answer_lost_on_the_way_is_asked_for_again_and_nothing_is_doubled(self) -> None:
        lost = []

        def lose_first_answer(route: Route) -> None:
            if not lost:
                lost.append(route.fetch().status)  # the server has it; the device never hears
                route.abort("connectionreset")
            else:
                route.continue_()

        self.page.context.route("**/api/outbox/", lose_first_answer)
        self.write_note("said once")
        expect(self.page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(lost, [200])
        self.assertEqual(self.notes(), ["said once"])

    def test_a_server_in_trouble_keeps_everything_here_until_it_is_well(self) -> None:
        self.server_may_fail = True
        self.page.context.route("**/api/outbox/", lambda route: route.fulfill(status=503, json={}))
        self.write_note("patient")
        expect(self.page.get_by_text("Saved on this device", exact=True)).to_be_visible()
        self.page.context.unroute("**/api/outbox/")
        expect(self.page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.notes(), ["patient"])

    def test_a_refused_item_needs_you_and_blocks_nothing(self) -> None:
        def spoil_the_first(route: Route) -> None:
            sent = json.loads(route.request.post_data or "{}")
            for item in sent["items"]:
                for e in item["body"]["entries"]:
                    if e["kind"] == "note" and e["body"]["text"] == "spoilt":
                        e["body"]["text"] = ""
            route.continue_(post_data=json.dumps(sent))

        self.page.context.route("**/api/outbox/", spoil_the_first)
        self.write_note("spoilt")
        expect(self.page.get_by_text("Needs attention", exact=True)).to_be_visible()
        expect(self.page.get_by_text("a text of 1 to 4000 characters")).to_be_visible()
        self.write_note("sound")
        expect(self.page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.notes(), ["sound"])
        self.page.get_by_role("button", name="1 needs attention").click()
        self.accessible("Tray")
        with self.page.expect_download() as saved:
            self.page.get_by_role("button", name="Save as a file").click()
        self.assertIn("spoilt", saved.value.path().read_text())
        self.page.get_by_role("button", name="Throw away", exact=True).click()
        self.page.get_by_role("button", name="Throw away for good").click()
        self.page.get_by_role("button", name="Close").click()
        expect(
            self.page.get_by_role("button", name="Outbox: 0 saved on this device, 1 sent, 0 needs attention")
        ).to_be_visible()

    def test_signing_out_with_unsent_work_warns_and_another_member_never_sends_it(self) -> None:
        self.server_may_fail = True
        self.page.context.route("**/api/outbox/", lambda route: route.fulfill(status=503, json={}))
        self.write_note("mine")
        expect(self.page.get_by_text("Saved on this device", exact=True)).to_be_visible()
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Account").first.click()
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_role("alert")).to_contain_text("1 not sent yet")
        self.sign_out()
        self.page.context.unroute("**/api/outbox/")
        self.sign_in_by_hand(self.at.steward)
        expect(
            self.page.get_by_role("button", name="Outbox: 0 saved on this device, 0 sent, 0 needs attention")
        ).to_be_visible()
        self.assertEqual(self.notes(), [])
        self.page.get_by_role("button", name="Account").first.click()
        self.sign_out()
        self.sign_in(self.at.surveyor)
        expect(
            self.page.get_by_role("button", name="Outbox: 0 saved on this device, 1 sent, 0 needs attention")
        ).to_be_visible()
        self.assertEqual(self.notes(), ["mine"])

    def sign_out(self) -> None:
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_role("button", name="Sign in")).to_be_visible()

    def test_addresses_that_lead_nowhere_say_so(self) -> None:
        self.page.goto(f"{self.live_server_url}/nowhere")
        expect(self.page.get_by_role("heading", name="There is no such page")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/history/{uuid.uuid4()}")
        expect(self.page.get_by_role("alert")).to_contain_text("Not found, or you have no access.")
