"""How many taps a tree costs: the targets of the daily flow, counted by a script of taps and of keys.

A tap is a finger on a key or tile; a letter typed into a field is one too. Seconds depend on the hand and are
not measured here.
"""

from __future__ import annotations

import base64

from django.test import tag
from playwright.sync_api import Locator, Page, expect

from apps.plants.models import Current, Entry, Visit
from apps.plants.tests.factories import a_plant, entry, recorded
from tests.browser.base import BrowserTestCase

DEGREES_A_METRE = 1 / (111_320 * 0.7604)  # at 40.5 degrees north
TARGETS = {  # step -> taps at most, as the daily flow asks
    "next tree confirmed": 1,
    "known name": 3,
    "diameter": 4,
    "height": 2,
    "condition by parts": 5,
    "base, crown, no defect": 3,
    "save, next": 1,
}
WHOLE_TREE = 19
DEFECT_WITH_PHOTOGRAPH, RISK_ROW = 8, 10
PNG = base64.b64decode(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=="
)
# the trees are evergreen: whether one is in leaf is known by its kind, the day and the place
PARTS = ("roots and base", "trunk and its unions", "scaffold limbs", "small branches and twigs", "foliage")
JUDGED = ("Base seen: all round", "Crown seen: whole", "Defects: none found")


class DailyFlow(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.at.site.survey_steps = ["where", "name", "diameter", "height", "condition"]
        self.at.site.units = "us_customary"
        self.at.site.save()
        self.ids = [
            a_plant(self.at, entry("tag", number=tag), lon=-79.3 + east * DEGREES_A_METRE)
            for east, tag in enumerate(("0101", "0102", "0103", "0104"))
        ]
        self.taps: dict[str, int] = {}

    def tap(self, step: str, *targets: Locator) -> None:
        for target in targets:
            target.click()
            self.taps[step] = self.taps.get(step, 0) + 1

    def heading(self, page: Page, words: str) -> None:
        expect(page.get_by_role("heading", name=words, exact=True)).to_be_visible()

    def start(self, page: Page) -> None:
        page.goto(f"{self.live_server_url}/survey")
        page.get_by_role("button", name="Start a round through Block").click()
        page.get_by_role("button", name="Start through Block at tag 0101").click()

    def tree(self, page: Page, by_eye: bool, name: str) -> None:
        """One whole tree with a known name, tap by tap."""

        def button(words: str) -> Locator:
            return page.get_by_role("button", name=words, exact=True)

        self.tap("next tree confirmed", page.get_by_role("button", name="It is tag"))
        self.heading(page, "Name")
        if name:
            field = page.get_by_label("Or, where the name is known")
            field.press_sequentially(name)
            self.taps["known name"] = len(name)
            self.tap(
                "known name",
                page.get_by_role("region", name="Name").get_by_role("listitem").get_by_role("button").first,
            )
        else:
            self.tap("known name", page.get_by_role("button", name="Same as the last tree"))
        self.heading(page, "Diameter")
        self.tap("diameter", button("1"), button("2"), button(".4, go on"))
        self.heading(page, "Height")
        if by_eye:  # once a day: from then on the sheet opens so
            page.get_by_role("radio", name="by eye").click()
        self.tap("height", button("4"), button("5, go on"))
        self.heading(page, "Condition")
        self.tap("condition by parts", *(button(f"{part}: good") for part in PARTS))
        self.tap("base, crown, no defect", *(button(words) for words in JUDGED))
        expect(page.get_by_text("health good, structure good")).to_be_visible()
        self.tap("save, next", button("Save, next tree"))

    def test_a_whole_tree_on_a_phone_within_its_taps(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844))
        self.start(page)
        for number, by_eye, name in (("0101", True, "ts"), ("0102", False, ""), ("0103", False, "ts")):
            self.taps = {}
            expect(page.get_by_role("button", name=f"It is tag {number}")).to_be_visible()
            self.tree(page, by_eye, name)
            for step, most in TARGETS.items():
                self.assertLessEqual(self.taps[step], most, step)
            self.assertLessEqual(sum(self.taps.values()), WHOLE_TREE, self.taps)
        expect(page.get_by_role("button", name="It is tag 0104")).to_be_visible()
        expect(page.get_by_text("0 saved on this device, 3 sent")).to_be_visible()
        rows = Current.objects.filter(visits=2).order_by("tag")
        self.assertEqual([round(r.dbh_cm / 2.54, 6) for r in rows], [12.4] * 3)
        self.assertEqual([round(r.height_m / 0.3048, 6) for r in rows], [45.0] * 3)
        self.assertEqual([r.condition for r in rows], ["good"] * 3)
        self.assertEqual(rows[0].name, rows[1].name)
        visit = Visit.objects.filter(plant=self.ids[0]).latest("local_date")
        [judged] = recorded("condition", visit=visit)
        self.assertEqual(
            (judged.base_visible, judged.crown_visible, judged.no_defect), ("all_round", "whole", True)
        )
        typed = {m.quantity: m.as_entered for m in recorded("measurement", visit=visit)}
        self.assertEqual(typed, {"dbh_cm": "12.4 in", "height_m": "45 ft"})

    @tag("slow")
    def test_a_defect_with_its_photograph_and_a_risk_row_within_their_taps(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/survey/{self.ids[0]}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        for step in ("Diameter", "Height", "Condition"):
            page.get_by_role("button", name=f"{step} ›").click()
        for words in JUDGED[:2]:
            page.get_by_role("button", name=words).click()
        # the list opens and a word of it is tapped: two; the camera opens and its shutter is tapped: two more
        page.get_by_label("Add a defect").select_option("cavity")
        sheet = page.get_by_role("group", name="cavity")
        taps = 2
        sheet.get_by_label("Side").get_by_role("radio", name="NE").click()
        sheet.get_by_label("Photograph it").set_input_files(
            {"name": "a.png", "mimeType": "image/png", "buffer": PNG}
        )
        expect(sheet.get_by_text("1 photograph.")).to_be_visible()
        sheet.get_by_label("Opening (%)").press_sequentially("20")
        self.assertLessEqual(taps + 1 + 2 + 3, DEFECT_WITH_PHOTOGRAPH)
        self.risk_row(page)
        self.assertLessEqual(self.taps["risk row"], RISK_ROW)
        # what is imminent stands over everything until it is said whether people were kept out
        alert = page.get_by_role("alertdialog")
        expect(alert).to_contain_text("Keep people out of where it would fall, now")
        page.keyboard.press("Escape")
        expect(alert).to_be_visible()
        self.accessible("Keep people out", page)
        alert.get_by_role("radio", name="done").click()
        alert.get_by_label("Who was called").fill("the highway office, 14:05")
        alert.get_by_role("button", name="Go on with the sheet").click()
        expect(page.get_by_text("The tree takes its highest row")).to_contain_text("Extreme")
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        [defect] = recorded("defect")
        self.assertEqual((defect.side, defect.opening_percent), ("ne", 20))
        [photo] = recorded("photo")
        self.assertEqual(
            (photo.defect, str(photo.shows)), ("cavity", str(Entry.objects.get(kind="defect").id))
        )
        [risk] = recorded("risk")
        self.assertEqual(
            (risk.reads, risk.kept_out, risk.called), ("Extreme", "done", "the highway office, 14:05")
        )
        # the day begins with it: Today counts it and leads to it, the inventory reads it
        page.goto(self.live_server_url)
        page.get_by_role("region", name="Risk").get_by_role("link", name="1 high or more").click()
        expect(page.get_by_role("row").filter(has_text="0101")).to_contain_text("Extreme")
        page.reload()
        expect(page.get_by_label("Risk", exact=True)).to_have_value("high_or_more")

    def risk_row(self, page: Page) -> None:
        """The worksheet with one row, tap by tap."""
        sheet = page.get_by_role("region", name="Risk worksheet")

        def word(label: str, name: str) -> Locator:
            return sheet.get_by_label(label, exact=True).get_by_role("radio", name=name, exact=True)

        self.tap(
            "risk row",
            page.get_by_role("button", name="Risk worksheet"),
            word("Part that may fail", "stem"),
            word("What it may hit", "road"),
            sheet.get_by_role("button", name="Base and crown seen as under condition"),
            word("Level of assessment", "basic"),
            word("Time frame (years)", "1"),
            word("Next inspection", "in 6 months"),
            word("Likelihood of impact", "high"),
            word("Consequences of failure", "severe"),
            word("Likelihood of failure", "imminent"),
        )

    def test_a_sheet_that_is_not_whole_stays_on_the_device(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/survey/{self.ids[0]}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        for step in ("Diameter", "Height", "Condition"):
            page.get_by_role("button", name=f"{step} ›").click()
        page.get_by_role("radio", name="in one word").click()
        page.get_by_role("radio", name="fair").click()
        page.get_by_role("button", name="Risk worksheet").click()
        sheet = page.get_by_role("region", name="Risk worksheet")
        sheet.get_by_label("Part that may fail").get_by_role("radio", name="stem").click()
        page.get_by_role("button", name="Save visit").click()
        expect(page.get_by_text("Sent", exact=True)).to_be_visible()
        self.assertEqual((len(recorded("condition")), recorded("risk")), (1, []))
        page.goto(f"{self.live_server_url}/survey/{self.ids[0]}?block={self.at.block.id}")
        expect(
            sheet.get_by_label("Part that may fail").get_by_role("radio", name="stem", checked=True)
        ).to_be_visible()
        expect(page.get_by_text("stays a draft on this device")).to_be_visible()
        expect(page.get_by_role("button", name="Save visit")).to_have_count(0)

    def test_a_figure_that_something_speaks_against_does_not_go_on_by_itself(self) -> None:
        page = self.sign_in(self.at.surveyor, self.open_browser(390, 844), at="")
        page.goto(f"{self.live_server_url}/survey/{self.ids[0]}?block={self.at.block.id}")
        page.get_by_role("button", name="It is tag").click()
        page.get_by_label("Or, where the name is known").fill("acer rubrum")
        page.get_by_role("region", name="Name").get_by_role("listitem").get_by_role("button").first.click()
        self.heading(page, "Diameter")
        page.get_by_role("button", name="Height ›").click()
        self.heading(page, "Height")  # the diameter can be taken by eye too
        page.get_by_role("radio", name="by eye").click()
        for key in ("2", "5"):
            page.get_by_role("button", name=key, exact=True).click()
        page.get_by_role("button", name="0, go on").click()  # 250 ft: more than a red maple grows
        expect(page.get_by_text("250.0 ft is well above the")).to_be_visible()
        self.heading(page, "Height")

    def test_the_whole_by_keyboard(self) -> None:
        page = self.sign_in(self.at.surveyor)
        self.start(page)
        for i, number in enumerate(("0101", "0102")):
            expect(page.get_by_role("button", name=f"It is tag {number}")).to_be_focused()
            page.keyboard.press("Enter")
            expect(page.get_by_label("Or, where the name is known")).to_be_focused()
            if i == 0:
                page.keyboard.type("ts")
                expect(
                    page.get_by_role("region", name="Name")
                    .get_by_role("listitem")
                    .get_by_role("button")
                    .first
                ).to_be_visible()
                page.keyboard.press("Enter")
            else:
                page.keyboard.press("=")  # the name of the last tree
            expect(page.get_by_label("Diameter (in)")).to_be_focused()
            page.keyboard.type("12,4")
            page.keyboard.press("Enter")
            expect(page.get_by_text("12.4", exact=True)).to_be_visible()
            page.keyboard.press("Enter")
            self.heading(page, "Height")
            if i == 0:
                page.get_by_role("radio", name="two angles").focus()
                page.keyboard.press("ArrowLeft")  # to the last of them
                expect(page.get_by_role("radio", name="by eye")).to_be_focused()
                page.keyboard.press("Space")
                page.get_by_label("Height (ft)").focus()
            expect(page.get_by_label("Height (ft)")).to_be_focused()
            page.keyboard.type("45")
            page.keyboard.press("Enter")
            expect(page.get_by_text("45.0", exact=True)).to_be_visible()
            page.keyboard.press("Enter")
            self.heading(page, "Condition")
            for row in (*PARTS, "Base seen", "Crown seen", "Defects"):
                expect(page.get_by_role("group", name=row, exact=True)).to_be_visible()
                page.keyboard.press("1")
                answered = page.get_by_role("group", name=row, exact=True).locator("[aria-pressed=true]")
                expect(answered).to_have_count(1)
            page.keyboard.press("s")
        expect(page.get_by_role("button", name="It is tag 0103")).to_be_focused()
        expect(page.get_by_text("0 saved on this device, 2 sent")).to_be_visible()
        self.assertEqual(Current.objects.filter(condition="good", visits=2).count(), 2)

    def test_the_keys_of_the_screen_are_listed(self) -> None:
        page = self.sign_in(self.at.surveyor)
        self.start(page)
        page.keyboard.press("Enter")
        page.locator("h1").click()
        page.keyboard.press("?")
        keys = page.get_by_role("dialog", name="Keys of this screen")
        expect(keys.get_by_text("go on")).to_be_visible()
        page.keyboard.press("Escape")
        expect(keys).to_have_count(0)
