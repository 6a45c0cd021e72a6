"""Identify whole, on five unlike plants: by keyboard alone, and with one thumb on a phone. Answers come from
the description of each.
"""

from __future__ import annotations

import re

from django.test import tag
from playwright.sync_api import Locator, Page, Route, expect

from apps.plants.tests.factories import a_plant, entry, recorded
from jubark_core.flora.load import shipped_flora
from tests.browser.base import BrowserTestCase

FLORA = shipped_flora()
KEYS = {
    "habit": "h",
    "bark": "b",
    "twig": "t",
    "bud": "u",
    "leaf": "l",
    "needle": "n",
    "spray": "y",
    "flower": "f",
    "fruit": "r",
    "cone": "c",
}
# what is in the hand -> taxon, day, and the looks a careful person makes
PLANTS = {
    "winter twig": (
        "aesculus-hippocastanum",
        "2026-01-20",
        # that it is a tree rules poison-ivy out by eye; only then is a bud touched
        ("habit.form", "leaf.arrangement", "bud.sticky", "twig.leaf_scar", "bud.scales"),
    ),
    "fallen leaf": ("ginkgo-biloba", "2025-11-20", ("leaf.shape", "leaf.venation")),
    "conifer spray": (
        "thuja-occidentalis",
        "2026-02-10",
        ("leaf.type", "spray.flat", "spray.gland", "spray.underside_bloom", "cone.form"),
    ),
    "climber": (
        "parthenocissus-quinquefolia",
        "2026-06-20",
        ("habit.form", "habit.climbs_by", "leaf.type", "leaf.leaflets"),
    ),
    "thorny shrub": (
        "rosa-multiflora",
        "2026-06-10",
        ("habit.form", "twig.armed", "leaf.type", "twig.stipules"),
    ),
}


def shown(taxon: str, character: str) -> list[str]:
    """What the taxon mostly shows: a state, or three counts about the middle of its range."""
    said = FLORA.taxa[taxon]["states"][character][0]
    if "weights" in said:
        return [max(said["weights"], key=lambda s: said["weights"][s])]
    middle = round((said["low"] + said["high"]) / 2)
    return [str(middle)] * 3


class Bench(BrowserTestCase):
    """Identify, opened for a plant."""

    def open_bench(self, page: Page, day: str) -> None:
        page.goto(f"{self.live_server_url}/identify")
        page.get_by_role("button", name="Where and when").click()
        page.get_by_label("Date of the visit").fill(day)
        page.get_by_label("Setting").select_option("park")
        page.get_by_role("dialog").get_by_role("button", name="Close").click()
        next_plant = page.get_by_role("button", name="Next plant")
        expect(page.get_by_label("The name").get_by_role("status")).not_to_be_empty()
        if next_plant.is_visible():
            next_plant.click()
        # nothing is told before the first observation
        expect(page.get_by_text("No observation yet. Answer the first question")).to_be_attached()
        expect(page.get_by_label("The name").get_by_role("listitem")).to_have_count(0)
        # what could do harm here stands above the question, once, what burns skin first
        expect(page.get_by_text("Still possible:")).to_have_count(1)
        expect(page.get_by_text("Still possible: poison-ivy.")).to_be_visible()

    def named(self, page: Page, taxon: str, looks: int) -> None:
        expect(page.get_by_text(f"{looks} observations so far")).to_be_attached()
        leader = page.get_by_label("The name").get_by_role("listitem").first
        expect(leader).to_contain_text(FLORA.taxa[taxon]["name"])


class EveryAnswer(Bench):
    def test_every_answer_is_drawn(self) -> None:
        page = self.sign_in(self.at.viewer)
        self.open_bench(page, "2026-06-20")
        page.get_by_role("button", name="Leaf", exact=False).first.click()
        page.get_by_role("button", name=FLORA.characters["leaf.arrangement"]["label"]).first.click()
        tiles = page.get_by_label("The observation").locator("li img")
        expect(tiles.first).to_be_visible()
        widths = tiles.evaluate_all("images => images.map((i) => i.naturalWidth)")
        self.assertGreaterEqual(len(widths), 3)
        self.assertNotIn(0, widths)  # a broken picture has no width


class KeysAndThumbs(Bench):
    """Each plant once: three by keyboard, two by thumb."""

    by_keyboard: tuple[str, ...] = ("winter twig", "fallen leaf", "conifer spray")
    by_thumb: tuple[str, ...] = ("climber", "thorny shrub")

    @tag("slow")
    def test_plants_by_keyboard_alone(self) -> None:
        page = self.sign_in(self.at.viewer)
        for what in self.by_keyboard:
            taxon, day, looks = PLANTS[what]
            self.open_bench(page, day)
            for character in looks:
                self.look_by_keys(page, taxon, character)
            self.named(page, taxon, len(looks))
            self.accessible(f"Identify, {what}")
        page.keyboard.press("z")
        expect(page.get_by_text(f"{len(looks) - 1} observations so far")).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog", name="Keys of this screen")).to_contain_text(
            "undo the last observation"
        )
        page.keyboard.press("Escape")
        page.keyboard.press("P")
        expect(page.get_by_role("heading", name="Species")).to_be_visible()

    def look_by_keys(self, page: Page, taxon: str, character: str) -> None:
        c = FLORA.characters[character]
        page.locator("h1").click()  # nothing holds the focus
        page.keyboard.press(KEYS[c["organ"]])
        row = (
            page.get_by_label("The observation")
            .get_by_role("listitem")
            .filter(has=page.get_by_role("button", name=c["label"], exact=False))
        )
        expect(row.first).to_be_visible()
        number = row.first.locator("[aria-hidden]").inner_text().strip()
        if number:
            page.keyboard.press(number)
        else:
            self.tab_to(page, row.get_by_role("button").first)
        expect(page.get_by_role("heading", name=f"{c['label']}?")).to_be_visible()
        answers = shown(taxon, character)
        if c["kind"] in ("count", "measure"):
            for value in answers:
                page.keyboard.type(value)
                page.keyboard.press("Enter")
            expect(page.get_by_text("mean of 3")).to_be_visible()
            expect(page.locator("figure", has_text="nine of ten")).to_be_visible()
            page.keyboard.press("Enter")
        else:
            tile = (
                page.get_by_label("The observation")
                .get_by_role("button", name=c["labels"][answers[0]], exact=False)
                .first
            )
            number = tile.locator("span").first.inner_text().strip()
            if number.isdigit():
                page.keyboard.press(number)
            else:
                self.tab_to(page, tile)
            if c["kind"] == "many" and number.isdigit():
                page.keyboard.press("Enter")
            elif c["kind"] == "many":
                self.tab_to(page, page.get_by_role("button", name="Save:", exact=False))
        expect(page.get_by_label("In the hand").get_by_text(c["label"], exact=True)).to_be_visible()

    def tab_to(self, page: Page, button: Locator) -> None:
        """What stands beyond the tenth has no number: it is reached as in any list."""
        for _ in range(80):
            page.keyboard.press("Tab")
            if button.evaluate("b => b === document.activeElement"):
                break
        page.keyboard.press("Enter")

    @tag("slow")
    def test_plants_with_one_thumb_on_a_phone(self) -> None:
        page = self.sign_in(self.at.viewer, self.open_browser(390, 844, has_touch=True))
        for what in self.by_thumb:
            taxon, day, looks = PLANTS[what]
            self.open_bench(page, day)
            for character in looks:
                self.look_by_thumb(page, taxon, character)
            self.named(page, taxon, len(looks))
            wide = page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 390, f"{what}: nothing reaches over the side of the phone")
        self.accessible("Identify on a phone", page)

    def look_by_thumb(self, page: Page, taxon: str, character: str) -> None:
        c = FLORA.characters[character]
        label = {"habit": "Habit"}.get(c["organ"], FLORA.compiled["organs"][c["organ"]]["label"])
        page.get_by_label("In the hand").get_by_role("button", name=label, exact=False).first.tap()
        page.get_by_label("The observation").get_by_role("button", name=c["label"], exact=False).first.tap()
        for answer in shown(taxon, character):
            if c["kind"] in ("count", "measure"):
                for digit in answer:
                    page.get_by_role("button", name=digit, exact=True).tap()
                page.get_by_role("button", name="Add", exact=True).tap()
            else:
                page.get_by_label("The observation").get_by_role(
                    "button", name=c["labels"][answer], exact=False
                ).first.tap()
        if c["kind"] in ("count", "measure"):
            page.get_by_role("button", name="Save 3 values").tap()
        elif c["kind"] == "many":
            page.get_by_role("button", name="Save:", exact=False).tap()
        expect(page.get_by_label("In the hand").get_by_text(c["label"], exact=True)).to_be_visible()


@tag("slow")
class TheOtherWay(KeysAndThumbs):
    by_keyboard, by_thumb = KeysAndThumbs.by_thumb, KeysAndThumbs.by_keyboard


class AtAStem(BrowserTestCase):
    """Naming a stem that has been looked at before, above or below what the looks support, or by who knows
    it.
    """

    def setUp(self) -> None:
        super().setUp()
        looks = [
            entry("observation", character=c, certainty="sure", states=[shown("acer-saccharum", c)[0]])
            for c in ("leaf.arrangement", "bud.form")
        ]
        self.stem = a_plant(self.at, entry("tag", number="0042"), *looks, on="2025-11-02")

    def test_earlier_looks_are_taken_up_with_their_own_day(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.stem}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_role("button", name="Identify it").click()
        page.get_by_role("button", name="Start from the 2 observations of 2 November 2025").click()
        expect(page.get_by_text("2 observations so far")).to_be_visible()
        expect(page.get_by_text("seen 2 November 2025").first).to_be_visible()
        standing = page.get_by_label("The name")
        expect(standing.get_by_role("listitem").first).to_contain_text("%")
        self.accessible("Identify from earlier observations")
        standing.get_by_role("button", name="Note it on this visit").click()
        standing.get_by_role("button", name="Another name or rank").click()
        dialog = page.get_by_role("dialog", name="Another name")
        expect(dialog.get_by_role("button", name="Pick a name")).to_be_disabled()
        dialog.get_by_label("Or a name you know").fill("suger maple")
        dialog.get_by_role("button", name="Acer saccharum").click()
        expect(
            dialog.get_by_role("button", name="Accept Acer saccharum")
        ).to_be_disabled()  # not without a reason
        dialog.get_by_label("Why").fill("planted by us in 1998")
        self.accessible("Another name")
        dialog.get_by_role("button", name="Accept Acer saccharum").click()
        expect(page.get_by_role("heading", name="Diameter")).to_be_visible()
        page.get_by_role("button", name="Note and photograph").first.click()
        expect(page.get_by_role("textbox", name="Note")).to_have_value(re.compile("Revisit from"))
        page.get_by_role("button", name="Save ›").click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        [kept] = recorded("determination")
        self.assertEqual(
            (kept.taxon, kept.reason, len(kept.observations)), ("acer-saccharum", "planted by us in 1998", 2)
        )
        self.assertEqual(
            len(recorded("observation")),
            2,
            "the name rests on the earlier observations; they are not recorded twice",
        )

    def test_no_name_is_accepted_while_an_answer_is_not_weighed_yet(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.stem}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_role("button", name="Identify it").click()
        page.get_by_role("button", name="Start from the 2 observations of 2 November 2025").click()
        standing = page.get_by_label("The name")
        standing.get_by_role("button", name="Acer saccharum").first.click()
        standing.get_by_label("Why another name").fill("leaves seen in summer")
        accept = standing.get_by_role("button", name="Accept Acer saccharum")
        expect(accept).to_be_enabled()
        page.locator("h1").click()  # nothing holds the focus
        held: list[Route] = []
        page.context.route("**/api/core/rank/", lambda request: held.append(request))
        page.keyboard.press("l")
        question = page.get_by_label("The observation")
        question.get_by_role("button", name=FLORA.characters["leaf.venation"]["label"]).click()
        question.get_by_role("button", name="several from the base").first.click()
        expect(page.get_by_text("3 observations so far")).to_be_visible()
        expect(standing).to_have_attribute("aria-busy", "true")
        expect(accept).to_be_disabled()
        for request in held:
            request.continue_()
        expect(standing).to_have_attribute("aria-busy", "false")
        expect(accept).to_be_enabled()

    def test_who_knows_the_name_is_told_only_what_it_is_taken_for(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.stem}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_label("Or, where the name is known").fill("Acer saccharum")
        page.get_by_role("button", name="Acer saccharum").first.click()
        expect(page.get_by_role("heading", name="Diameter")).to_be_visible()  # the sheet has gone on
        page.get_by_role("button", name="Not yet separated from").click()
        expect(page.get_by_role("heading", name="Not yet separated from")).to_be_visible()
        expect(page.get_by_text("Acer platanoides")).to_be_visible()
        page.get_by_label("Or, where the name is known").fill("Ginkgo")
        page.get_by_role("button", name="Ginkgo biloba").first.click()
        expect(page.get_by_role("heading", name="Diameter")).to_be_visible()
        expect(page.get_by_role("button", name="Not yet separated from")).to_have_count(0)
        page.get_by_role("button", name="Back").click()
        expect(page.get_by_text("Name on this visit: Ginkgo biloba")).to_be_visible()
        expect(page.get_by_role("heading", name="Not yet separated from")).to_have_count(0)

    def test_the_balance_turns_to_any_rival_and_an_answer_can_be_changed(self) -> None:
        page = self.sign_in(self.at.viewer, at="")
        page.goto(f"{self.live_server_url}/identify")
        standing = page.get_by_label("The name")
        expect(standing.get_by_text("No observation yet. Answer")).to_be_visible()
        page.keyboard.press("l")
        page.get_by_label("The observation").get_by_role(
            "button", name="How leaves stand on the shoot"
        ).click()
        page.get_by_label("The observation").get_by_role("button", name="opposite").first.click()
        expect(page.get_by_text("1 observation so far")).to_be_visible()
        expect(standing).to_have_attribute("aria-busy", "false")  # the ranking is that of this answer
        names = standing.get_by_role("listitem")
        leader = names.first.locator(".latin").inner_text()
        third = names.nth(2).locator(".latin").inner_text()
        names.nth(2).get_by_role("button").click()
        expect(standing.get_by_role("button", name=third, pressed=True)).to_be_visible()
        page.get_by_label("In the hand").get_by_role(
            "button", name="How leaves stand on the shoot"
        ).first.click()
        page.get_by_label("The observation").get_by_role("button", name="alternate").first.click()
        expect(page.get_by_label("In the hand").get_by_text("alternate")).to_be_visible()
        expect(page.get_by_text("1 observation so far")).to_be_visible()
        expect(names.first).not_to_contain_text(leader)
