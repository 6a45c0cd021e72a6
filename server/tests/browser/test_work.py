"""The ash avenue at the desk: proposed, taken up, refused with a reason, blocked by its checks, planned."""

from __future__ import annotations

from typing import Any

from django.test import tag
from playwright.sync_api import expect

from apps.inspections.services.set_target import make_target
from apps.plants.tests.factories import entry, new_id, plant_item, recorded, send, signed_in, visit_item
from apps.work.tests.test_work import SHEET
from jubark_core.records.working import Work
from tests.browser.base import BrowserTestCase

METRE = 1 / 111_320
PATH = {
    "name": "Avenue path",
    "kind": "path",
    "occupancy": "frequent",
    "shape": {"type": "Point", "coordinates": [-79.3, 40.5]},
}


class TheAvenue(BrowserTestCase):
    def make_site(self) -> None:
        super().make_site()
        make_target(actor=self.at.steward, site=self.at.site, given=PATH)
        for i in range(2):
            self.ash(f"{101 + i}", i)

    def ash(self, number: str, i: int) -> None:
        plant = plant_item(self.at.block, lon=-79.3 + i * 5 * METRE)
        named = entry("determination", entered="white ash", taxon="fraxinus-americana")
        dead: dict[str, Any] = entry("life", state="standing_dead")
        visit = visit_item(plant["id"], entry("tag", number=number), named, dead, on="2026-10-20")
        answers = send(signed_in(self.at.surveyor), plant, visit)
        assert {a["answer"] for a in answers} == {"accepted"}, answers

    def steps(self) -> list[str]:
        return sorted(body.step for body in recorded("work") if isinstance(body, Work))

    @tag("slow")
    def test_from_proposal_to_a_planned_job_past_its_checks(self) -> None:
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/work")
        group = page.get_by_role("button", name="Dead ash within reach of a target")
        expect(group).to_contain_text("2 trees")
        group.click()
        expect(page.get_by_text("do not climb it")).to_be_visible()
        expect(page.get_by_text("Name, open.")).to_be_visible()
        expect(page.get_by_text("to 31 March 2027: the time for it")).to_be_visible()
        self.accessible("Work")
        page.keyboard.press("ArrowDown")
        expect(page.locator("li[aria-current=true]")).to_contain_text("102")
        page.keyboard.press("r")
        expect(page.get_by_label("Why")).to_be_focused()
        page.get_by_label("Why").fill("Habitat tree, the path moves")
        page.get_by_role("button", name="Refuse", exact=True).last.click()
        expect(page.locator("li[aria-current=true]")).to_contain_text("101")
        page.keyboard.press("a")
        self.becomes(self.steps, ["accepted", "refused"])
        page.reload()
        jobs = page.get_by_role("region", name="Jobs")
        expect(jobs).to_contain_text("101")
        expect(page.get_by_role("region", name="Proposals")).to_contain_text("Nothing is proposed")
        closing = (
            ("name", "name", "Odile", "opposite buds"),
            ("nests and roosts", "nests", "crew", ""),
            ("owner and boundary", "owner", "site manager", ""),
        )
        for closed, (check, what, by, reference) in enumerate(closing, start=1):
            jobs.get_by_role("button", name="Close a check").click()
            form = page.get_by_role("dialog")
            form.get_by_label("Check", exact=True).select_option(label=check)
            form.get_by_label("What", exact=True).select_option(what)
            form.get_by_label("By", exact=True).fill(by)
            if reference:
                form.get_by_label("Reference").fill(reference)
            form.get_by_role("button", name="Save").click()
            expect(form).to_have_count(0)
            self.becomes(lambda: len(recorded("clearance")), closed)
            page.reload()
            expect(jobs).to_contain_text("101")
        jobs.get_by_role("button", name="Plan it").click()
        form = page.get_by_role("dialog")
        form.get_by_label("Equipment").select_option("mechanised")
        self.accessible("Plan a job", page)
        form.get_by_role("button", name="Save").click()
        self.becomes(self.steps, ["accepted", "planned", "refused"])


class TheLine(BrowserTestCase):
    """An emergency at the screen does not pass a line either."""

    def make_site(self) -> None:
        super().make_site()
        plant = plant_item(self.at.block)
        named = entry("determination", entered="sugar maple", taxon="acer-saccharum")
        seen = visit_item(
            plant["id"], entry("tag", number="7"), named, entry("risk", **SHEET), on="2026-11-18"
        )
        lodged = visit_item(plant["id"], entry("storm", under_it=["wires"]), on="2026-11-19")
        job = entry("work", job=new_id(), rule="R02", step="accepted")
        taken = visit_item(plant["id"], job, on="2026-11-18", mode="desk")
        answers = send(signed_in(self.at.steward), plant, seen, taken, lodged)
        assert {a["answer"] for a in answers} == {"accepted"}, answers

    @tag("slow")
    def test_what_the_screen_sends_is_refused_and_waits_with_its_reason(self) -> None:
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/work")
        jobs = page.get_by_role("region", name="Jobs")
        jobs.get_by_role("button", name="Plan it").click()
        form = page.get_by_role("dialog")
        form.get_by_label("It is an emergency").check()
        form.get_by_label("Emergency named by").fill("owner on duty")
        form.get_by_label("Reason of the emergency").fill("it may fall")
        for ticked in ("Least work only", "Photographed before and after", "Nests and roosts looked for"):
            form.get_by_label(ticked).check()
        form.get_by_role("button", name="Save").click()
        page.get_by_role("button", name="1 needs attention").click()
        expect(page.get_by_text("The tree is on a line")).to_be_visible()
        page.goto(f"{self.live_server_url}/work")
        page.get_by_role("button", name="Make safe").click()
        expect(page.get_by_text("Keep people out, well away from tree and wire.").first).to_be_visible()
        expect(jobs).to_contain_text("accepted")
