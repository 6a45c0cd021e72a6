"""F7 to F9 and F16: what the device cannot save or send is said at once, with a way out, and holds up
nothing.
"""

from __future__ import annotations

import re
import time
import uuid
from pathlib import Path

from django.contrib.sessions.models import Session
from playwright.sync_api import Page, Route, expect

from apps.plants.models import Current, Entry, Visit
from apps.plants.tests.factories import (
    a_plant,
    dbh,
    entry,
    new_id,
    recorded,
    send,
    signed_in,
    visit_item,
)
from jubark_core.tests import samples
from tests.browser.base import BrowserTestCase
from tests.browser.test_seven_steps import SevenSteps

FULL = """
const put = IDBObjectStore.prototype.put;
IDBObjectStore.prototype.put = function (...given) {
  if (window.full) throw new DOMException("no room", "QuotaExceededError");
  return put.apply(this, given);
};
"""
PUT_ITEMS = """async ([owner, items]) => {
  const open = indexedDB.open("jubark");
  const db = await new Promise((done) => (open.onsuccess = () => done(open.result)));
  const write = db.transaction("items", "readwrite");
  const saved = (item) => ({ owner, state: "saved", version: item.schema, ...item });
  for (const item of items) write.objectStore("items").put(saved(item));
  await new Promise((done) => (write.oncomplete = done));
  db.close();
}"""


OLD_STORE = """async ([items, drafts]) => {
  const open = indexedDB.open("jubark", 20);  // Dexie's version 2
  open.onupgradeneeded = () => {
    for (const name of ["items", "photos"]) {
      const store = open.result.createObjectStore(name, { keyPath: "id" });
      store.createIndex("owner", "owner");
      store.createIndex("[owner+state]", ["owner", "state"]);
    }
    open.result.createObjectStore("copies", { keyPath: "key" });
    open.result.createObjectStore("drafts", { keyPath: "key" }).createIndex("owner", "owner");
  };
  const db = await new Promise((done) => (open.onsuccess = () => done(open.result)));
  const write = db.transaction(["items", "drafts"], "readwrite");
  for (const item of items) write.objectStore("items").put(item);
  for (const draft of drafts) write.objectStore("drafts").put(draft);
  await new Promise((done) => (write.oncomplete = done));
  db.close();
}"""


class Device(BrowserTestCase):
    offline = True

    def setUp(self) -> None:
        super().setUp()
        self.plant = a_plant(self.at, entry("tag", number="0001"))

    def open_note(self, page: Page) -> None:
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="Note and photograph").first.click()
        # the step is a write to the device too: what comes next must not overtake it
        expect(page.get_by_role("textbox", name="Note")).to_be_visible()

    def keep_note(self, page: Page, words: str) -> None:
        self.open_note(page)
        page.get_by_role("textbox", name="Note").fill(words)
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()

    def notes(self) -> list[str]:
        return sorted(note.text for note in recorded("note"))

    def put_in_outbox(self, page: Page, *items: dict[str, object]) -> None:
        page.evaluate(PUT_ITEMS, [str(self.at.surveyor.id), [*items]])

    def test_f7_an_ended_session_asks_to_sign_in_at_once_and_everything_stays(self) -> None:
        page = self.sign_in(self.at.surveyor)
        self.open_note(page)
        page.get_by_role("textbox", name="Note").fill("typed before the session ended")
        Session.objects.all().delete()
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()
        dialog = page.get_by_role("dialog", name="Your session has ended")
        expect(dialog).to_be_visible()
        self.accessible("Session ended")
        page.keyboard.press("Escape")  # later
        expect(page.get_by_role("alert")).to_contain_text(
            "You are signed out. 1 not sent; they stay on this device."
        )
        expect(page.get_by_text("You are signed out: sign in, and it is sent.")).to_be_visible()
        page.get_by_role("button", name="Sign in").click()
        dialog.get_by_label("Name", exact=True).fill(self.at.surveyor.user.username)
        dialog.get_by_label("Password").fill("a-long-password")
        dialog.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        expect(page.get_by_role("alert")).to_have_count(0)
        self.assertEqual(self.notes(), ["typed before the session ended"])

    def test_f8_a_full_device_says_that_nothing_was_saved_until_something_is(self) -> None:
        self.page.add_init_script(FULL)
        page = self.sign_in(self.at.surveyor)
        self.open_note(page)
        page.evaluate("window.full = true")
        page.get_by_role("textbox", name="Note").fill("no room for this")
        expect(page.get_by_role("alert")).to_contain_text(
            "This device is full. What you entered last is not saved"
        )
        page.evaluate("window.full = false")
        page.get_by_role("textbox", name="Note").fill("room again")
        expect(page.get_by_role("alert")).to_have_count(0)
        page.get_by_role("button", name="Save ›").click()
        expect(
            page.get_by_role("heading", name="Save")
        ).to_be_visible()  # the step is in the draft, which is a write too
        page.evaluate("window.full = true")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_role("alert")).to_contain_text("This device is full")
        expect(
            page.get_by_role("button", name="Save visit")
        ).to_be_visible()  # it was not left as if it were kept
        page.evaluate("window.full = false")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.notes(), ["room again"])

    def test_f8_little_room_is_said_before_a_round_is_started(self) -> None:
        self.page.add_init_script("navigator.storage.estimate = async () => ({ quota: 60e6, usage: 50e6 })")
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey")
        page.get_by_role("button", name="Start a round through Block").click()
        expect(page.get_by_text("10 MB are left for records and photographs")).to_be_visible()

    def test_f9_what_waits_or_is_too_large_holds_up_nothing_and_has_a_way_out(self) -> None:
        page = self.sign_in(self.at.surveyor)
        nowhere, now = str(uuid.uuid4()), 1_700_000_000_000
        waiting = [visit_item(nowhere) for _ in range(60)]
        large = visit_item(self.plant, entry("note", text="x" * 1_100_000))
        items = [
            {**i, "recorded_at": "2026-10-20T14:00:00Z", "order": now + n}
            for n, i in enumerate([*waiting, large])
        ]
        self.put_in_outbox(page, *items)
        self.keep_note(page, "behind them all")
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual(self.notes(), ["behind them all"])
        page.goto(self.live_server_url)
        page.get_by_role("button", name=re.compile("needs attention$")).first.click()
        expect(page.get_by_text("at most 1048576 are taken here")).to_be_visible()
        expect(
            page.get_by_text(re.compile(r"waits for .*, for \d+ days now")).first
        ).to_be_visible()  # years in the queue: a person looks
        expect(page.get_by_text("12 more.")).to_be_visible()  # 62 in all, 50 shown
        self.accessible("Tray with what needs a person")
        first = page.get_by_role("listitem").filter(has_text="at most 1048576")
        first.get_by_role("button", name="Throw away", exact=True).click()
        first.get_by_role("button", name="Throw away for good").click()
        expect(page.get_by_text("at most 1048576 are taken here")).to_have_count(0)

    def test_f1_an_item_the_server_fails_on_steps_aside(self) -> None:
        self.server_may_fail = True

        def fail_on_poison(route: Route) -> None:
            if "poison" in (route.request.post_data or ""):
                route.fulfill(status=500, json={"code": "server_error", "message": "The server failed."})
            else:
                route.continue_()

        page = self.sign_in(self.at.surveyor)
        page.context.route("**/api/outbox/", fail_on_poison)
        bad = visit_item(self.plant, entry("note", text="poison"))
        self.put_in_outbox(page, {**bad, "recorded_at": "2026-10-20T14:00:00Z", "order": 1})
        self.keep_note(page, "sound")
        page.goto(self.live_server_url)
        page.get_by_role("button", name=re.compile("^Outbox")).first.click()
        for _ in range(8):
            page.get_by_role("button", name="Send now").click()
            page.wait_for_timeout(300)
        expect(page.get_by_text("The server failed.")).to_be_visible()
        page.get_by_role("button", name="Close").click()
        expect(
            page.get_by_role("button", name="Outbox: 0 saved on this device, 1 sent, 1 needs attention")
        ).to_be_visible()
        self.assertEqual(self.notes(), ["sound"])

    def test_f9_a_refused_photograph_has_a_way_out(self) -> None:
        page = self.sign_in(self.at.surveyor)
        page.context.route(
            "**/api/photos/**",
            lambda route: route.fulfill(status=400, json={"message": "no picture"}),
        )
        self.open_note(page)
        page.get_by_label("Take a photograph").set_input_files(
            {"name": "b.png", "mimeType": "image/png", "buffer": SevenSteps.picture()}
        )
        page.get_by_label("It shows").select_option("leaf")
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Outbox: 0 saved on this device, 1 sent, 1 needs attention").click()
        row = page.get_by_role("listitem").filter(has_text="Photograph")
        expect(row).to_contain_text("no picture")
        with page.expect_download() as download:
            row.get_by_role("button", name="Save as a file").click()
        self.assertGreater(download.value.path().stat().st_size, 500)
        page.context.unroute("**/api/photos/**")
        row.get_by_role("button", name="Try again").click()
        expect(row).to_have_count(0)
        self.assertEqual(recorded("photo")[0].organ, "leaf")

    def test_f16_signing_out_offline_says_that_it_needs_the_server(self) -> None:
        page = self.sign_in(self.at.surveyor)
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.get_by_role("button", name="Account").first.click()
        page.context.set_offline(True)
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("alert")).to_contain_text("You are offline. Signing out needs the server")

    def test_an_empty_visit_cannot_be_kept(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="Save", exact=True).first.click()
        expect(page.get_by_text("Nothing is recorded yet.")).to_be_visible()
        expect(page.get_by_role("button", name="Save visit")).to_be_disabled()
        page.keyboard.press("Enter")
        self.assertEqual(Visit.objects.filter(plant=self.plant).count(), 1)

    def test_a_doubted_date_is_confirmed_on_the_strip(self) -> None:
        ahead = visit_item(self.plant, dbh(44.4), on="2190-05-01")
        send(signed_in(self.at.surveyor), ahead)
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/history/{self.plant}")
        expect(page.get_by_text("This visit counts only once its date is confirmed")).to_be_visible()
        page.get_by_role("button", name="Confirm 1 May 2190").click()
        expect(page.get_by_text("44.4 cm at 1.37 m", exact=True)).to_be_visible()
        self.becomes(lambda: Current.objects.get(plant=self.plant).dbh_cm, 44.4)

    def test_a_decimal_comma_is_a_decimal_comma(self) -> None:
        for size in (23.0, 24.5, 240.0):
            a_plant(self.at, dbh(size), entry("tag", number=f"T{size:.0f}"))
        page = self.sign_in(self.at.viewer, at="")
        page.goto(f"{self.live_server_url}/inventory")
        page.get_by_label("Diameter from (cm)").fill("23,5")
        expect(page.get_by_role("status").filter(has_text="2 plants")).to_be_visible()
        expect(page.get_by_text("24.5")).to_be_visible()
        page.get_by_label("Diameter from (cm)").fill("23,5x")
        expect(page.get_by_text("A number from 0 to 10000")).to_be_visible()

    def test_a_question_that_makes_no_sense_is_answered_so(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_role("button", name="Identify it").click()
        page.get_by_role("button", name="Leaf", exact=False).first.click()
        page.get_by_role("button", name="Tips of the lobes").first.click()
        page.get_by_role("button", name="Does not apply").click()
        expect(page.get_by_label("In the hand").get_by_text("does not apply")).to_be_visible()
        expect(page.get_by_label("The name").get_by_role("listitem").first).to_contain_text("%")
        page.get_by_role("button", name="To the visit").click()
        page.get_by_role("button", name="Save", exact=True).first.click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertFalse(recorded("observation")[0].applies)
        page.get_by_role("button", name="Open its history").click()
        expect(page.get_by_text("does not apply (likely)")).to_be_visible()

    def test_a_correction_edits_the_whole_entry_and_nothing_is_lost(self) -> None:
        several = entry(
            "measurement", quantity="dbh_cm", raw={"diameters_cm": [15, 20]}, method="taped", at_height_m=1.37
        )
        graded = entry("condition", parts={"trunk": 3, "twigs": 4}, flare="buried")
        plant = a_plant(self.at, several, entry("sign", sign="bracket_stem", extent_percent=10), graded)
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/history/{plant}")
        page.get_by_role("button", name="Correct Diameter: 25.0 cm").click()  # √(15² + 20²)
        expect(page.get_by_label("Diameters (cm)")).to_have_value("15 20")
        expect(page.get_by_label("Height of measurement (m)")).to_have_value("1.37")
        self.accessible("Correcting an entry")
        page.get_by_label("Diameters (cm)").fill("15 36")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_role("button", name="Correct Diameter: 39.0 cm")).to_be_visible()
        page.get_by_role("button", name="Correct Sign").click()
        page.get_by_label("Sign or symptom", exact=True).select_option("Other galls")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_role("button", name="Correct Sign or symptom: Other galls")).to_be_visible()
        page.get_by_role("button", name="Correct Condition").click()
        page.get_by_label("trunk and its unions", exact=True).select_option("4")
        page.get_by_role("button", name="Save correction").click()
        expect(page.get_by_text("corrects an earlier entry")).to_have_count(3)
        self.becomes(Entry.objects.filter(plant=plant).count, 6)
        _, size = recorded("measurement", plant=plant)
        self.assertEqual((size.raw.diameters_cm, size.value, size.at_height_m), ((15.0, 36.0), 39.0, 1.37))
        self.assertEqual([s.extent_percent for s in recorded("sign", plant=plant)], [10, 10])
        _, judged = recorded("condition", plant=plant)
        self.assertEqual((judged.parts, judged.flare), ({"trunk": 4, "twigs": 4}, "buried"))

    def test_what_an_app_of_the_first_version_left_on_the_device_is_sent_and_opened(self) -> None:
        """Outbox items and a draft as that app stored them, under its version of the device's store."""
        note = {"id": new_id(), "kind": "note", "body": {"text": "of the first version"}}
        look = {
            "id": new_id(),
            "kind": "look",
            "body": {"character": "leaf.arrangement", "states": ["opposite"]},
        }
        visit = visit_item(self.plant, note, look)
        item = {
            "id": visit["id"],
            "kind": "visit",
            "body": visit["body"],
            "order": time.time() * 1000,
            "state": "kept",
        }
        here = {"plant": self.plant, "block": str(self.at.block.id), "step": "keep"}
        draft = samples.draft(1) | here | {"earlier": [], "photos": []}
        key = f"{self.at.surveyor.id} {self.plant}"
        page = self.page
        page.goto(f"{self.live_server_url}/api/health/")
        owner = str(self.at.surveyor.id)
        old = [{**item, "owner": owner, "recorded_at": "2026-10-20T14:00:00Z"}]
        page.evaluate(OLD_STORE, [old, [{"key": key, "owner": owner, "draft": draft}]])
        self.sign_in(self.at.surveyor, page)
        page.get_by_role("button", name=re.compile("^Outbox: 0 saved on this device, 1 sent")).wait_for()
        self.assertEqual([o.states for o in recorded("observation")], [("opposite",)])

        page.context.route("**/api/core/upgrade/", lambda route: route.abort())
        page.goto(f"{self.live_server_url}/survey/{self.plant}?block={self.at.block.id}")
        expect(page.get_by_text("This draft was made by an earlier version of the app.")).to_be_visible()
        page.context.unroute("**/api/core/upgrade/")
        refusal = {"code": "bad_input", "message": "record: a draft as an app of version 1 wrote it"}
        page.context.route("**/api/core/upgrade/", lambda route: route.fulfill(status=400, json=refusal))
        page.evaluate("dispatchEvent(new Event('online'))")
        expect(page.get_by_text("could not be opened: record: a draft")).to_be_visible()
        with page.expect_download() as copy:  # there is a way out, and a copy of it before
            page.get_by_role("button", name="Save as a file").click()
        self.assertIn(self.plant, Path(copy.value.path()).read_text())
        page.get_by_role("button", name="Throw away").click()
        expect(page.get_by_role("button", name="Throw away for good")).to_be_visible()
        page.context.unroute("**/api/core/upgrade/")
        page.evaluate("dispatchEvent(new Event('online'))")
        expect(page.get_by_role("heading", name="Save")).to_be_visible()
        expect(page.get_by_text("94.2, 60")).to_be_visible()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        [size] = recorded("measurement")
        self.assertEqual(size.raw.circumferences_cm, (94.2, 60.0))
        [name] = recorded("determination")
        self.assertEqual(name.not_separated_from, ("fraxinus-pennsylvanica",))
