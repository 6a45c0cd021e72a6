"""How long the core on the device takes, on loopback: to be warm, from the press of an answer to the new
ranking, a plate. Run by `./jubark bench`; printed, never asserted.
"""

from __future__ import annotations

import itertools
import json
import statistics
import time
from pathlib import Path
from typing import Any

from django.conf import settings
from playwright.sync_api import Page, expect

from jubark_core.cli.bench import yardstick_ms
from jubark_core.flora.load import shipped_flora
from jubark_core.tests.test_gold_cases import GOLD, case_of
from tests.browser.base import BrowserTestCase
from tests.browser.test_core_on_device import ASK, READY_MS, listed

ROUNDS, FIRST = 40, 1
PLATES = ("leaf", "twig", "bark", "fruit", "flower", "habit")
# presses the first tile and waits in the page itself: [until the list of names reads otherwise, until the
# next question stands]; no time of the test's own is counted
PRESS = """() => new Promise((done) => {
  const names = document.querySelector('[aria-label="The name"]');
  const asked = () => document.querySelector('[aria-label="The observation"] h2')?.innerText ?? "";
  const [ranking, question] = [names.innerText, asked()];
  const tile = document.querySelector('[aria-label="The observation"] ul button');
  const start = performance.now();
  const told = [-1, -1];
  const watch = new MutationObserver(() => requestAnimationFrame(() => {
    const now = performance.now() - start;
    if (told[0] < 0 && names.innerText !== ranking) told[0] = now;
    if (told[1] < 0 && asked() && asked() !== question) told[1] = now;
    if (told[0] > 0 && told[1] > 0) { watch.disconnect(); done(told); }
  }));
  watch.observe(document.body, { subtree: true, childList: true, characterData: true });
  setTimeout(() => { watch.disconnect(); done(told); }, 3000);
  tile.click();
})"""


class OnDevice(BrowserTestCase):
    def test_measure(self) -> None:
        stick = yardstick_ms()
        print(f"\nthe core on the device; yardstick of this run {stick:.1f} ms")
        size = sum(p.stat().st_size for p in (Path(settings.STATIC_ROOT) / "core").rglob("*.gz"))
        print(f"  files, compressed: {size / 1e6:.2f} MB of {len(listed()['files'])} files, and the flora")
        page = self.sign_in(self.at.viewer, self.open_browser(core=True))
        self.warm(page, "first visit", stick)
        page.reload()
        self.warm(page, "a later visit", stick)
        page.keyboard.press("Escape")
        page.get_by_role("link", name="Identify").first.click()
        expect(page.get_by_label("The observation").get_by_role("heading")).to_be_visible()
        both = [t for t in (self.one(page) for _ in range(ROUNDS)) if t and min(t) > 0]
        told("the first answer of a session", [ranking for ranking, _ in both[:FIRST]], stick)
        told("from the press of an answer to the new ranking", [r for r, _ in both[FIRST:]], stick)
        told("from the press of an answer to the next question", [q for _, q in both[FIRST:]], stick)
        self.plates(stick)
        self.heap()

    def warm(self, page: Page, what: str, stick: float) -> None:
        start = time.perf_counter()
        page.get_by_role("button", name="Account").first.click()
        expect(page.locator("[data-core=ready]")).to_have_count(1, timeout=READY_MS)
        taken = (time.perf_counter() - start) * 1000
        print(f"  warm on {what}: {taken / 1000:.1f} s ({taken / stick:.0f} x)")

    def plates(self, stick: float) -> None:
        """Six plates of six taxa, none drawn before."""
        taxa = shipped_flora().leaves[::50]
        asked = [
            ["plate", json.dumps({"taxon": t, "part": part, "on": "2026-07-10"})]
            for t in taxa
            for part in PLATES
        ]
        page = self.sign_in(self.at.viewer, self.open_browser())
        page.set_default_timeout(READY_MS)
        clocked = ASK.replace(
            "told.push((await answer).answer);", "await answer; told.push(performance.now());"
        )
        at: list[Any] = page.evaluate(clocked, [f"/assets/{self.script()}", asked])
        told("a plate", [b - a for a, b in itertools.pairwise(at)], stick)

    def heap(self) -> None:
        """A hundred unlike cases, at two stages and by three origins."""
        cases = [case_of(gold) for gold in GOLD["case"][:100]]
        asked = [["name", json.dumps(case)] for case in cases]
        page = self.sign_in(self.at.viewer, self.open_browser())
        page.set_default_timeout(READY_MS)
        heard = ASK.replace("told.push((await answer).answer);", "told.push((await answer).heap);")
        sizes: list[int] = page.evaluate(heard, [f"/assets/{self.script()}", asked])
        first, last = (f"{size / 1e6:.0f} MB" for size in (sizes[0], sizes[-1]))
        print(f"  heap of the worker after one case {first}, after a hundred {last}")

    def script(self) -> str:
        [found] = [p.name for p in (Path(settings.STATIC_ROOT) / "assets").glob("worker-*.js")]
        return found

    def one(self, page: Page) -> list[float]:
        """The next look that is answered by tiles of which one is enough; from the start again when there is
        none.
        """
        kinds = {c["label"]: c["kind"] for c in shipped_flora().characters.values()}
        heading = page.get_by_label("The observation").get_by_role("heading")
        page.wait_for_timeout(400)
        for _ in range(8):
            if heading.count() and kinds.get(heading.inner_text().rstrip("?")) == "one":
                page.wait_for_timeout(150)  # the page is at rest
                found: list[float] = page.evaluate(PRESS)
                return found
            if not heading.count():
                break
            page.get_by_role("button", name="Can't tell, another observation").click()
            page.wait_for_timeout(60)
        if (next_plant := page.get_by_role("button", name="Next plant")).is_visible():
            next_plant.click()
        return []


def told(what: str, taken: list[float], stick: float) -> None:
    """A line: median, and what nine of ten stay within."""
    slow = sorted(taken)[int(0.9 * (len(taken) - 1))]
    median = statistics.median(taken)
    print(
        f"  {what}: median {median:.0f} ms ({median / stick:.1f} x), nine of ten within {slow:.0f} ms, "
        f"of {len(taken)}"
    )
