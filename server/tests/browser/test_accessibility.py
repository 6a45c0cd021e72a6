"""Every screen by its address, in light, dark and full sun: axe finds nothing; and by keyboard alone:
everything is reached in order, nothing holds the focus, and where it is can be seen.
"""

from __future__ import annotations

from typing import Any

from django.test import tag
from playwright.sync_api import Page, expect

from tests.browser.base import BrowserTestCase
from tests.browser.test_addresses import Addresses, at_address

MOST_TABS = 40
FRAMES = 20
REACHABLE = """() =>
  [...document.querySelectorAll("a[href], button:not(:disabled), input, select, textarea")]
    .filter((e) => e.checkVisibility() && e.tabIndex >= 0).length"""
# where the focus is: what it is, whether it is on screen, and whether one sees that it is there
FOCUSED = """() => {
  const at = document.activeElement;
  if (!at || at === document.body) return null;
  at.dataset.visited ??= String(document.querySelectorAll("[data-visited]").length);
  const box = at.getBoundingClientRect();
  const style = getComputedStyle(at);
  return {
    what: `${at.tagName} ${at.getAttribute("aria-label") ?? at.innerText ?? ""}`.slice(0, 80),
    visited: at.dataset.visited,
    onScreen: box.bottom > 0 && box.top < innerHeight && box.right > 0 && box.left < innerWidth,
    // of a date the browser itself marks the part that is typed
    shown: style.outlineStyle !== "none" && parseFloat(style.outlineWidth) >= 2 || style.boxShadow !== "none"
      || at.type === "date",
  };
}"""


@tag("slow")
class EveryAddressInEveryLight(Addresses):
    """In two halves, so that two processes share the work."""

    half = 0

    def opened(self, page: Page) -> Any:
        """Half of the addresses, each opened and seen."""
        listed = [one for addresses in self.addresses().values() for one in addresses]
        for address, seen in listed[self.half :: 2]:
            with at_address(address):
                page.goto(self.live_server_url + address)
                seen(page)
                yield address, seen

    def test_axe_finds_nothing_and_each_is_come_back_to(self) -> None:
        for address, seen in self.opened(self.page):
            for mode in ("light", "dark", "sun"):
                self.page.evaluate("(mode) => { document.documentElement.dataset.mode = mode; }", mode)
                self.accessible(f"{address} in {mode} mode")
            self.page.goto(f"{self.live_server_url}/away")
            expect(self.page.get_by_role("heading", name="There is no such page")).to_be_visible()
            self.page.go_back()
            seen(self.page)

    def test_the_keyboard_reaches_everything_and_one_sees_where_it_is(self) -> None:
        page = self.page
        for address, _ in self.opened(page):
            count = page.evaluate(REACHABLE)
            if (skip := page.get_by_role("link", name="To the page")).count():
                skip.focus()  # the first of every page behind the sign-in; a page may begin further on
            seen: list[str] = []
            for _ in range(min(count, MOST_TABS)):
                page.keyboard.press("Tab")
                at = page.evaluate(FOCUSED)
                if at is None:  # past the last: the browser's own bar
                    break
                for _ in range(FRAMES):  # the page is scrolled to it with the next frame
                    if at["onScreen"]:
                        break
                    page.wait_for_timeout(100)
                    at = page.evaluate(FOCUSED)
                self.assertTrue(at["onScreen"], f"{address}: focus on {at['what']}, which is off screen")
                self.assertTrue(at["shown"], f"{address}: nothing shows the focus on {at['what']}")
                if at["visited"] not in seen[-1:]:  # a date has three parts
                    seen.append(at["visited"])
            self.assertEqual(len(seen), len(set(seen)), f"{address}: the focus goes in a circle")
            parts = 3 * page.locator("input[type=date]").count()
            reached = min(count, MOST_TABS) - 2 - parts
            self.assertGreaterEqual(len(seen), reached, f"{address}: not all is reached")


@tag("slow")
class TheOtherHalf(EveryAddressInEveryLight):
    half = 1


class Lights(BrowserTestCase):
    def test_the_mode_that_is_chosen_stays(self) -> None:
        page = self.sign_in(self.at.owner)
        for mode, shown in (("dark", "dark"), ("sun", "full sun"), ("light", "light")):
            page.get_by_role("button", name="Account").first.click()
            page.get_by_role("button", name=shown, exact=True).click()
            page.reload()
            expect(page.locator(f"html[data-mode={mode}]")).to_have_count(1)
