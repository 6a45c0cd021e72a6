"""Every screen by its own address: opened there, looked at, and read anew. Each shows what it is for, not
only its frame. What takes longer, and coming back, is in test_accessibility.py.
"""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable, Iterator
from pathlib import Path

from django.conf import settings
from playwright.sync_api import Page, expect

from apps.inspections.services.freeze_report import freeze_report
from apps.plants.tests.factories import a_plant, dbh, entry
from tests.browser.base import MOSS, BrowserTestCase

APP = Path(settings.ROOT) / "web" / "src" / "app" / "App.tsx"
Seen = Callable[[Page], None]
QUARTERS = 4


@contextlib.contextmanager
def at_address(address: str) -> Iterator[None]:
    """Names the address in a failure. (No subTest: what the browser raises does not travel between test
    processes.)
    """
    try:
        yield
    except AssertionError as error:
        raise AssertionError(f"{address}: {error}") from None


def heading(name: str) -> Seen:
    return lambda page: expect(page.get_by_role("heading", name=name).first).to_be_visible()


def words(text: str) -> Seen:
    return lambda page: expect(page.get_by_text(text).first).to_be_visible()


def picture(page: Page) -> None:
    """A drawing that has been loaded, not a broken image."""
    drawn = page.locator("article img, table img").first
    expect(drawn).to_be_visible()
    loaded = (
        "[...document.querySelectorAll('article img, table img')].some((i) => i.complete && "
        "i.naturalWidth > 0)"
    )
    for _ in range(80):  # the page's policy forbids wait_for_function
        if page.evaluate(loaded):
            return
        page.wait_for_timeout(250)
    raise AssertionError("no drawing has been loaded")


class Addresses(BrowserTestCase):
    """Every route with addresses of it, on a small site, seen by its owner."""

    def setUp(self) -> None:
        super().setUp()
        named = entry("determination", entered="Acer rubrum", taxon="acer-rubrum")
        self.plant = a_plant(self.at, entry("tag", number="0042"), named, dbh(31.8))
        made = freeze_report(actor=self.at.owner, site=self.at.site, given={"on": "2026-11-01"})
        self.report = made.id
        self.sign_in(self.at.owner, at="")

    def stems(self, page: Page) -> None:
        self.assertGreater(self.stems_seen(page, at_least=30, colour=MOSS), 30)

    def addresses(self) -> dict[str, list[tuple[str, Seen]]]:
        """Route -> addresses of it, each with what must be seen there."""
        block = self.at.block.id
        return {
            "/": [("/", heading("What shows now"))],
            "/work": [("/work", words("rules propose, people decide"))],
            "/health": [("/health", words("Present and suspected"))],
            "/health/causes/:agent": [
                ("/health/causes/sooty-bark", words("Cryptostroma corticale")),
                ("/health/causes/flu", words("the id of a cause")),
            ],
            "/map/:blockId?": [
                ("/map", self.stems),
                (f"/map/{block}", self.stems),
                (f"/map/{self.plant}", words("not found")),
            ],
            "/survey/:plantId?": [
                ("/survey", words("Start a round")),
                (f"/survey/{self.plant}?block={block}", words("Read the tag on the tree")),
                (f"/survey/{self.plant}", words("Read the tag on the tree")),
            ],
            "/identify/:plantId?": [
                ("/identify", words("Next observation")),
                (f"/identify/{self.plant}", words("To the visit")),
            ],
            "/species/:taxon?": [("/species", heading("Species")), ("/species/acer-rubrum", picture)],
            "/year": [("/year?month=4", heading("What shows in April"))],
            "/side-by-side": [("/side-by-side?taxa=acer-rubrum,acer-saccharum", picture)],
            "/glossary": [
                ("/glossary", words("Critical root zone")),
                ("/glossary?words=breast", words("Diameter over bark at breast height.")),
            ],
            "/inventory": [
                ("/inventory", words("31.8")),
                ("/inventory?words=0042&sort=-dbh_cm", words("31.8")),
            ],
            "/history/:plantId": [(f"/history/{self.plant}", words("31.8 cm"))],
            "/inspections": [
                ("/inspections", heading("The owner's table")),
                ("/inspections?on=2026-11-01&known=now", words("0042")),
            ],
            "/inspections/walk": [(f"/inspections/walk?block={block}", words("Begin the walk"))],
            "/inspections/reports/:reportId": [
                (f"/inspections/reports/{self.report}", heading("Inspections of trees")),
            ],
            "/storm/:plantId?": [
                ("/storm", words("Not yet looked at: 1")),
                (f"/storm/{self.plant}", heading("Wires, or a person under it?")),
            ],
            "/import-export": [("/import-export", words("CSV table"))],
            "/sites/:siteId": [
                (f"/sites/{self.at.site.id}", heading("Test organisation site")),
            ],
            "/people": [("/people", heading("People of Test organisation"))],
            "/contacts": [("/contacts", heading("People outside"))],
            "/audit": [("/audit?on=2001-01-01", words("Nothing on this day."))],
            "/account": [("/account", heading("Devices"))],
            "/join": [("/join#not-a-token", words("This link is not known here."))],
            "/first-run": [("/first-run#x", words("has an organisation already"))],
            "*": [("/nowhere/at/all", heading("There is no such page"))],
        }


class Sweep(Addresses):
    """One look at every page: it shows what it is for, axe finds nothing, it fits a phone, and read anew it
    shows the same. Four classes, so that the processes share the work.
    """

    quarter = 0

    def test_each_page_is_opened_looked_at_and_read_anew(self) -> None:
        page = self.page
        routes = list(self.addresses().items())
        for i, (route, addresses) in enumerate(routes):  # in order: one may need what another left
            if i * QUARTERS // len(routes) != self.quarter:
                continue
            address, seen = addresses[0]  # the others of a route: in the long run, in every light
            with at_address(address):
                page.goto(self.live_server_url + address)
                seen(page)
                self.accessible(f"{route} in light mode")
                self.fits_a_phone(address)
                page.reload()
                seen(page)

    def fits_a_phone(self, address: str) -> None:
        page = self.page
        page.set_viewport_size({"width": 390, "height": 844})
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
        places = page.get_by_role("navigation", name="Places")
        if re.match(r"/(survey|identify)/.|/join|/first-run", address):
            expect(places).to_be_hidden()  # a sheet has the thumb's reach to itself
        else:
            expect(places).to_be_visible()
        page.set_viewport_size({"width": 1280, "height": 800})


class SecondQuarter(Sweep):
    quarter = 1


class ThirdQuarter(Sweep):
    quarter = 2


class FourthQuarter(Sweep):
    quarter = 3


class EveryAddress(Addresses):
    def test_no_route_is_without_an_address_here(self) -> None:
        routes = re.findall(r'path: "([^"]+)"', APP.read_text(encoding="utf-8"))
        self.assertEqual(sorted(self.addresses()), sorted(routes), "a route without an address in this test")

    def test_addresses_of_the_first_version_lead_on(self) -> None:
        for old, new in (
            ("/ground", "/map"),
            (
                f"/walk/{self.plant}?block={self.at.block.id}",
                f"/survey/{self.plant}?block={self.at.block.id}",
            ),
            ("/bench", "/identify"),
            ("/portraits/acer-rubrum", "/species/acer-rubrum"),
            ("/ledger?words=0042", "/inventory?words=0042"),
            (f"/stem/{self.plant}", f"/history/{self.plant}"),
            ("/exchange", "/import-export"),
        ):
            self.page.goto(self.live_server_url + old)
            self.page.wait_for_url(f"**{new}*")
            expect(self.page.get_by_role("heading", name="There is no such page")).to_have_count(0)
