"""The core on the device: naming, species and checks without the network, once it is there; and whatever can
go wrong on the way.
"""

from __future__ import annotations

import hashlib
import json
import re
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import tag
from playwright.sync_api import Page, Route, expect

from apps.plants.tests.factories import a_plant, entry, recorded
from jubark_core.door import run
from jubark_core.flora.load import shipped_flora
from jubark_core.tests.door_requests import SOUND
from jubark_core.tests.test_gold_cases import GOLD, case_of
from tests.browser.base import BrowserTestCase

FLORA = shipped_flora()
READY_MS = 120_000  # the runtime on a slow machine beside other tests
STATE = "() => document.querySelector('[data-core]')?.dataset.core"
# asks a worker of its own: what it says to each request, in order
ASK = """async ([script, asked]) => {
  const worker = new Worker(script, { type: "module" });
  const heard = (fits) => new Promise((done) => {
    const listen = ({ data }) => {
      if (!fits(data)) return;
      worker.removeEventListener("message", listen);
      done(data);
    };
    worker.addEventListener("message", listen);
  });
  const started = heard((data) => "state" in data);
  worker.postMessage({ start: true });
  const { state, why } = await started;
  if (state !== "ready") throw new Error(why);
  const told = [];
  for (const [id, [operation, given]] of asked.entries()) {
    const answer = heard((data) => data.id === id);
    worker.postMessage({ id, operation, given });
    told.push((await answer).answer);
  }
  worker.terminate();
  return told;
}"""


class OnDevice(BrowserTestCase):
    offline = True

    def device(self, **more: Any) -> Page:
        """A signed-in page of a device that takes the core, its account open: it tells where that stands."""
        page = self.sign_in(self.at.viewer, self.open_browser(core=True, **more))
        page.get_by_role("button", name="Account").first.click()
        return page

    def stands(self, page: Page, state: str) -> None:
        expect(page.locator(f"[data-core={state}]")).to_have_count(1, timeout=READY_MS)

    def stored(self, page: Page) -> list[str]:
        names: list[str] = page.evaluate("async () => (await caches.keys()).filter((n) => /^core-/.test(n))")
        return names

    def identify(self, page: Page) -> None:
        """Two looks at a maple by number keys; the ranking follows both."""
        page.get_by_role("link", name="Identify").first.click()
        for organ, character, state in (
            ("Leaf", "leaf.arrangement", "opposite"),
            ("Fruit", "fruit.kind", "samara_pair"),
        ):
            c = FLORA.characters[character]
            page.get_by_label("In the hand").get_by_role("button", name=organ, exact=False).first.click()
            asked = page.get_by_label("The observation")
            asked.get_by_role("button", name=c["label"], exact=False).first.click()
            asked.get_by_role("button", name=c["labels"][state], exact=False).first.click()
            expect(page.get_by_label("In the hand").get_by_text(c["label"], exact=True)).to_be_visible()
        expect(page.get_by_label("The name").get_by_role("listitem").first).to_contain_text("Acer")

    def test_naming_and_species_without_the_network(self) -> None:
        page = self.device()
        self.stands(page, "ready")
        expect(page.get_by_text("run on this device, offline too")).to_be_visible()
        [version] = self.stored(page)
        self.assertEqual(version, f"core-{listed()['version']}")
        page.keyboard.press("Escape")
        page.get_by_role("link", name="Identify").first.click()
        expect(page.get_by_text("No observation yet").first).to_be_visible()
        page.context.set_offline(True)
        self.identify(page)
        # a species nobody has opened on this device, its plates too
        page.get_by_role("link", name="Species").first.click()
        page.get_by_label("Name, Latin or common").fill("acer negundo")
        page.get_by_role("link", name=re.compile("Acer negundo")).first.click()
        expect(page.get_by_role("heading", name="Acer negundo")).to_be_visible()
        expect(page.locator("article img").first).to_be_visible()
        # the page anew, still without the network: the core comes from the device
        page.get_by_role("link", name="Identify").first.click()
        page.reload()
        expect(page.get_by_label("The name").get_by_role("listitem").first).to_contain_text(
            "Acer", timeout=READY_MS
        )
        # signing out takes the flora along, and needs the network
        page.context.set_offline(False)
        page.get_by_role("button", name="Account").first.click()
        with page.expect_navigation():  # the page is loaded anew once everything is off the device
            page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_label("Password")).to_be_visible()
        held = page.evaluate("async () => (await caches.keys()).includes('flora-of-the-core')")
        self.assertFalse(held)

    def test_what_stands_after_ones_own_look_is_said_without_the_network(self) -> None:
        plant = a_plant(self.at, entry("tag", number="0201"))
        page = self.sign_in(self.at.surveyor, self.open_browser(core=True))
        page.get_by_role("button", name="Account").first.click()
        self.stands(page, "ready")
        page.keyboard.press("Escape")
        history = f"{self.live_server_url}/history/{plant}"
        page.goto(history)
        expect(page.get_by_text("Tag 0201").first).to_be_visible()
        page.goto(f"{self.live_server_url}/storm/{plant}")
        expect(page.get_by_role("heading", name="Wires, or a person under it?")).to_be_visible()
        page.context.set_offline(True)
        page.get_by_role("button", name="Wires on it, down or pulled tight").click()
        page.get_by_role("button", name="That is what there is").click()
        page.get_by_role("button", name="To the list").click()
        page.goto(history)
        expect(page.get_by_text("Held by wires since")).to_be_visible(timeout=READY_MS)
        expect(page.get_by_text("With a visit of this device that is not sent yet.")).to_be_visible()
        page.context.set_offline(False)
        page.evaluate("dispatchEvent(new Event('online'))")
        self.becomes(lambda: len(recorded("storm")), 1)

    def test_a_load_that_breaks_off_leaves_nothing_and_is_tried_again(self) -> None:
        page = self.open_browser(core=True, service_workers="block")
        broken = {"how": "cut"}

        def spoil(route: Route) -> None:
            if broken["how"] == "cut":
                route.abort()
            elif broken["how"] == "other":
                route.fulfill(status=200, content_type="application/zip", body=b"a page of a hotel's network")
            else:
                route.continue_()

        page.context.route("**/core/core-*.zip", spoil)
        self.sign_in(self.at.viewer, page)
        page.get_by_role("button", name="Account").first.click()
        for how in ("cut", "other"):
            broken["how"] = how
            page.evaluate("dispatchEvent(new Event('online'))")
            self.stands(page, "failed")
            self.assertEqual(self.stored(page), [], how)
        # the server answers meanwhile
        page.keyboard.press("Escape")
        self.identify(page)
        broken["how"] = "not at all"
        page.get_by_role("button", name="Account").first.click()
        page.evaluate("dispatchEvent(new Event('online'))")
        self.stands(page, "ready")
        self.assertEqual(self.stored(page), [f"core-{listed()['version']}"])

    def test_a_device_with_little_memory_asks_the_server_and_says_so(self) -> None:
        page = self.sign_in(self.at.viewer)
        page.get_by_role("button", name="Account").first.click()
        self.stands(page, "unable")
        expect(page.get_by_text("too little memory or no WebAssembly")).to_be_visible()
        self.accessible("Account")
        page.keyboard.press("Escape")
        self.identify(page)
        self.assertEqual(self.stored(page), [])
        page.context.set_offline(True)
        page.get_by_label("In the hand").get_by_role("button", name="undo").first.click()
        expect(page.get_by_text("candidates are ranked again when you are online")).to_be_visible()

    @tag("slow")
    def test_two_tabs_share_what_is_stored(self) -> None:
        first = self.device()
        self.stands(first, "ready")
        second = first.context.new_page()
        loaded: list[str] = []
        second.on("response", lambda r: loaded.append(r.url) if "/core/runtime-" in r.url else None)
        second.goto(self.live_server_url)
        second.get_by_role("button", name="Account").first.click()
        self.stands(second, "ready")
        self.assertEqual(self.stored(second), [f"core-{listed()['version']}"])
        first.close()
        second.keyboard.press("Escape")
        self.identify(second)

    @tag("slow")
    def test_an_update_waits_for_the_page_to_be_loaded_anew(self) -> None:
        """A page that is open keeps the core it started with; the next load brings the new one, of which only
        what has changed is fetched, and what is older than the core before it leaves the device.
        """
        page = self.open_browser(core=True, service_workers="block")
        fetched: list[str] = []
        page.context.on("request", lambda r: fetched.append(r.url))
        earlier(page, "older")
        self.sign_in(self.at.viewer, page)
        page.get_by_role("button", name="Account").first.click()
        self.stands(page, "ready")
        self.assertEqual(self.stored(page), ["core-older"])
        page.context.unroute_all()  # the server is updated
        page.keyboard.press("Escape")
        self.identify(page)
        self.assertEqual(self.stored(page), ["core-older"])
        fetched.clear()
        page.reload()
        page.get_by_role("button", name="Account").first.click()
        self.stands(page, "ready")
        now = listed()
        self.assertEqual(set(self.stored(page)), {"core-older", f"core-{now['version']}"})
        held = page.evaluate(
            "async ([name, paths]) => { const c = await caches.open(name);"
            " return (await Promise.all(paths.map((p) => c.match(p)))).every(Boolean); }",
            [f"core-{now['version']}", [f["path"] for f in now["files"]]],
        )
        self.assertTrue(held)
        self.assertTrue(any(now["core"] in url for url in fetched))
        # the runtime asks for its own wasm; it is not fetched a second time to be stored
        self.assertLessEqual(sum("pyodide.asm.wasm" in url for url in fetched), 1)
        # a page of the update after that: the oldest goes
        earlier(page, "newer")
        page.reload()
        page.get_by_role("button", name="Account").first.click()
        self.stands(page, "ready")
        self.assertEqual(set(self.stored(page)), {"core-newer", f"core-{now['version']}"})

    def answers(self, asked: list[tuple[str, Any]]) -> list[Any]:
        """What the core in the browser answers, as numbers and words."""
        page = self.sign_in(self.at.viewer, self.open_browser())
        page.set_default_timeout(600_000)
        [script] = [p.name for p in (Path(settings.STATIC_ROOT) / "assets").glob("worker-*.js")]
        given = [[operation, json.dumps(body)] for operation, body in asked]
        return [json.loads(told)["answer"] for told in page.evaluate(ASK, [f"/assets/{script}", given])]

    def compare(self, asked: list[tuple[str, Any]]) -> None:
        for (operation, body), here in zip(asked, self.answers(asked), strict=True):
            with self.subTest(operation, on=body.get("on")):
                self.same(here, json.loads(json.dumps(run(operation, body, FLORA))), operation)

    def same(self, one: Any, two: Any, at: str) -> None:
        if isinstance(two, float) or (isinstance(one, float) and isinstance(two, int)):
            self.assertAlmostEqual(one, two, delta=1e-9 * max(1.0, abs(two)), msg=at)
        elif isinstance(two, dict):
            self.assertEqual(one.keys(), two.keys(), at)
            for key in two:
                self.same(one[key], two[key], f"{at}.{key}")
        elif isinstance(two, list):
            self.assertEqual(len(one), len(two), at)
            for i, (a, b) in enumerate(zip(one, two, strict=True)):
                self.same(a, b, f"{at}[{i}]")
        else:
            self.assertEqual(one, two, at)

    @tag("slow")
    def test_a_sample_of_answers_is_that_of_the_server(self) -> None:
        some = [(name, SOUND[name]) for name in ("species", "plate", "check-visit", "season", "explain")]
        self.compare([*some, *[("name", case_of(gold)) for gold in GOLD["case"][::60]]])

    @tag("slow")
    def test_every_answer_is_that_of_the_server(self) -> None:
        self.compare([*SOUND.items(), *[("name", case_of(gold)) for gold in GOLD["case"]]])


def listed() -> dict[str, Any]:
    """The files of the core as the app was built with them."""
    found: dict[str, Any] = json.loads((settings.ROOT / "web" / "src" / "core" / "files.json").read_text())
    return found


def earlier(page: Page, version: str) -> None:
    """Another release: the same app, its core under another address and with other bytes."""
    now = listed()
    [core] = [f for f in now["files"] if f["path"] == now["core"]]
    built = Path(settings.STATIC_ROOT)
    # a comment at the end of a zip archive changes its bytes and nothing else
    archive = (built / core["path"].lstrip("/")).read_bytes()
    other = archive[:-2] + len(version).to_bytes(2, "little") + version.encode()
    other_path = f"/core/core-{version}.zip"

    def worker(route: Route) -> None:
        script = (built / "assets" / route.request.url.rsplit("/", 1)[1]).read_text()
        for was, becomes in (
            (core["path"], other_path),
            (core["sha256"], hashlib.sha256(other).hexdigest()),
            (now["version"], version),
        ):
            assert was in script, was
            script = script.replace(was, becomes)
        route.fulfill(status=200, content_type="text/javascript", body=script)

    page.context.route("**/assets/worker-*.js", worker)
    page.context.route(
        f"**{other_path}", lambda r: r.fulfill(status=200, content_type="application/zip", body=other)
    )
