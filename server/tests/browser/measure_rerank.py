"""How long from the press of an answer to the new ranking on screen, on loopback. Run by `./jubark bench`;
printed, never asserted.
"""

from __future__ import annotations

import datetime
import statistics

from playwright.sync_api import Page, expect

from apps.core_api.warm import warm
from jubark_core.cli.bench import yardstick_ms
from jubark_core.flora.load import shipped_flora
from tests.browser.base import BrowserTestCase

ROUNDS, FRESH = (
    40,
    10,
)  # answers in all; those that a fresh worker gives first, while it fills its views of the flora
# presses the first tile and waits in the page itself until the list of names reads otherwise: no time of the
# test's own is counted
PRESS = """() => new Promise((done) => {
  const names = document.querySelector('[aria-label="The name"]');
  const before = names.innerText;
  const tile = document.querySelector('[aria-label="The observation"] ul button');
  const start = performance.now();
  const watch = new MutationObserver(() => {
    if (names.innerText === before) return;
    watch.disconnect();
    requestAnimationFrame(() => done(performance.now() - start));
  });
  watch.observe(names, { subtree: true, childList: true, characterData: true });
  setTimeout(() => done(-1), 3000);
  tile.click();
})"""


class Rerank(BrowserTestCase):
    def test_measure(self) -> None:
        warm(datetime.datetime.now(tz=datetime.UTC).date())  # as the server does before it takes anybody
        page = self.sign_in(self.at.viewer)
        page.goto(f"{self.live_server_url}/identify")
        expect(page.get_by_label("The name").get_by_role("listitem").first).to_be_visible()
        times = [t for t in (self.one(page) for _ in range(ROUNDS)) if t > 0]
        stick = yardstick_ms()
        print(
            "\nfrom the press of an answer to the new ranking on screen; yardstick of this run "
            f"{stick:.1f} ms"
        )
        for what, taken in ((f"first {FRESH} of a fresh worker", times[:FRESH]), ("then", times[FRESH:])):
            slow = sorted(taken)[int(0.9 * (len(taken) - 1))]
            median = statistics.median(taken)
            print(
                f"  {what}: median {median:.0f} ms ({median / stick:.1f} x), nine of ten within "
                f"{slow:.0f} ms, of {len(taken)}"
            )

    def one(self, page: Page) -> float:
        """The next look that is answered by tiles of which one is enough; from the start again when there is
        none.
        """
        kinds = {c["label"]: c["kind"] for c in shipped_flora().characters.values()}
        heading = page.get_by_label("The observation").get_by_role("heading")
        page.wait_for_timeout(400)
        for _ in range(8):
            if heading.count() and kinds.get(heading.inner_text().rstrip("?")) == "one":
                page.wait_for_timeout(150)  # the page is at rest
                return float(page.evaluate(PRESS))
            if not heading.count():
                break
            page.get_by_role("button", name="Can't tell, another observation").click()
            page.wait_for_timeout(60)
        if (next_plant := page.get_by_role("button", name="Next plant")).is_visible():
            next_plant.click()
        return -1.0
