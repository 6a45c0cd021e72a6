"""F18: whatever way a step is left, what stands typed in it is recorded, or asked about. F20: what one
member has read on a device, nobody else reads there; what they wrote waits for them.
"""

from __future__ import annotations

from django.contrib.sessions.models import Session
from playwright.sync_api import Page, expect

from apps.plants.models import Current
from apps.plants.tests.factories import a_plant, dbh, entry, recorded, small_site
from tests.browser.base import BrowserTestCase

TABLE = """(table) => new Promise((done, fail) => {
  const asked = indexedDB.open("jubark");
  asked.onerror = fail;
  asked.onsuccess = () => {
    const read = asked.result.transaction(table).objectStore(table).getAll();
    read.onsuccess = () => { asked.result.close(); done(JSON.stringify(read.result)); };
  };
})"""


class TypedAndLeft(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant = a_plant(self.at, entry("tag", number="0001"), dbh(30), on="2025-06-01")
        self.address = f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}"
        self.sign_in(self.at.surveyor, at="")
        self.page.goto(self.address)
        self.page.get_by_role("button", name="It is tag").click()

    def step(self, name: str) -> None:
        self.page.get_by_role("navigation", name="Steps").get_by_role("button", name=name).click()

    def values(self) -> tuple[float | None, float | None]:
        now = Current.objects.get(plant=self.plant)
        return now.dbh_cm, now.height_m

    def test_f18_a_figure_typed_and_left_by_the_next_step_or_by_save_is_recorded(self) -> None:
        page = self.page
        self.step("Diameter")
        page.get_by_label("Diameter (cm)").fill("31.4")
        page.get_by_role("button", name="Height ›").click()
        page.get_by_role("radio", name="read off").click()
        page.get_by_label("Height (m)").fill("18.5")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.values(), (31.4, 18.5))

    def test_f18_what_cannot_be_read_is_asked_about_and_what_looks_wrong_is_said(self) -> None:
        page = self.page
        asked = page.get_by_role("dialog", name="This is not recorded yet")
        self.step("Diameter")
        page.get_by_label("Diameter (cm)").fill("4x")
        page.get_by_role("button", name="Height ›").click()
        expect(asked).to_contain_text("4x is no diameter; from 0.1 to 1500 cm is allowed")
        self.accessible("What is typed and cannot be read")
        asked.get_by_role("button", name="Correct it").click()
        expect(page.get_by_label("Diameter (cm)")).to_have_value("4x")
        # ten times what it was: recorded, and the step says so before it lets one go
        page.get_by_label("Diameter (cm)").fill("314")
        page.get_by_role("button", name="Height ›").click()
        expect(page.get_by_role("button", name="31.4 cm: decimal point one place off")).to_be_visible()
        page.get_by_role("button", name="31.4 cm: decimal point one place off").click()
        page.get_by_role("button", name="Height ›").click()
        expect(page.get_by_role("heading", name="Height")).to_be_visible()
        self.step("Crown")
        page.get_by_label("Two or more diameters (m)").fill("12")
        self.step("Note and photograph")
        expect(asked).to_contain_text("12 is not two or more numbers")
        asked.get_by_role("button", name="Leave it out").click()
        page.get_by_role("textbox", name="Note").fill("said")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.values(), (31.4, None))
        self.assertEqual(
            [m.quantity for m in recorded("measurement", visit__local_date__gt="2026-01-01")], ["dbh_cm"]
        )

    def test_f18_it_outlives_a_page_that_is_read_anew_and_one_that_is_left(self) -> None:
        page = self.page
        self.step("Diameter")
        page.get_by_label("Diameter (cm)").fill("31")
        page.reload()
        expect(page.get_by_label("Diameter (cm)")).to_have_value("31")
        page.get_by_role("navigation", name="Places").get_by_role("link", name="Inventory").click()
        expect(page.get_by_role("heading", name="Inventory").first).to_be_visible()
        page.go_back()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.values(), (31.0, None))


class OnASharedDevice(BrowserTestCase):
    offline = True

    def table(self, name: str, page: Page) -> str:
        return str(page.evaluate(TABLE, name))

    def test_f20_another_organisation_reads_nothing_of_the_first_and_nothing_unsent_is_lost(self) -> None:
        page, first = self.page, self.at.surveyor
        plant = a_plant(self.at, entry("tag", number="SECRET-7"))
        other = small_site("Another organisation")
        self.sign_in(first, at=f"/history/{plant}")
        expect(page.get_by_text("SECRET-7").first).to_be_visible()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.context.route("**/api/outbox/", lambda route: route.abort())
        page.goto(f"{self.live_server_url}/survey/{plant}?block={self.at.block.id}")
        page.get_by_role("button", name="Note and photograph").first.click()
        page.get_by_role("textbox", name="Note").fill("written by the first")
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Saved on this device", exact=True)).to_be_visible()
        self.assertIn("SECRET-7", self.table("copies", page))
        # the device is taken off, as an owner does: with the first word of the server every copy goes
        Session.objects.all().delete()
        page.context.unroute("**/api/outbox/")
        page.goto(f"{self.live_server_url}/history/{plant}")
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.becomes(lambda: self.table("copies", page), "[]")
        self.assertIn("written by the first", self.table("items", page))
        # somebody of another organisation signs in, and goes off
        self.sign_in(other.surveyor, at=f"/map/{other.block.id}")
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        expect(page.get_by_role("button", name="Outbox: 0 saved on this device, 0 sent")).to_be_visible()
        page.context.set_offline(True)
        page.goto(f"{self.live_server_url}/history/{plant}")
        expect(page.get_by_text("this tree was not saved on this device")).to_be_visible()
        for table in ("copies", "drafts"):
            self.assertNotIn("SECRET-7", self.table(table, page))
        self.assertEqual(page.get_by_text("SECRET-7").count(), 0)
        page.context.set_offline(False)
        # what the first wrote is still theirs, and goes out when they are back
        self.assertEqual(recorded("note"), [])
        self.sign_in(first)
        expect(page.get_by_role("button", name="Outbox: 0 saved on this device, 1 sent")).to_be_visible()
        self.assertEqual([note.text for note in recorded("note")], ["written by the first"])
        self.assertNotIn("Another organisation", self.table("copies", page))
