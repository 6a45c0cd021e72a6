"""The ash avenue at the desk: proposed, taken up, refused with a reason, blocked by its checks, planned."""

from __future__ import annotations

from typing import Any

from django.test import tag
from playwright.sync_api import expect

from apps.inspections.services.set_target import make_target
from apps.plants.tests.factories import entry, new_id, plant_item, recorded, send, signed_in, visit_item
from apps.work.models import LookUp
from apps.work.tests.ready import ready_site
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
        ready_site(self.at)
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
            ("this tree", "not known to be protected", "", {}),
            ("this tree", "look for nests", "none", {}),
            ("this tree", "look for lines", "none", {}),
            ("all trees of Block", "plan or closure", "", {"By": "the road office", "Reference": "T 2"}),
            ("all trees of Block", "look-up of consent", "none", {"By": "the borough"}),
            ("all trees of the site", "look-up of the owner", "own", {}),
        )
        for scope, kind, found, said in closing:
            jobs.get_by_role("button", name="Close a check").click()
            form = page.get_by_role("dialog")
            form.get_by_role("radio", name=scope).click()
            form.get_by_role("radio", name=kind, exact=True).click()
            if found:
                form.get_by_role("radio", name=found, exact=True).click()
            for label, text in said.items():
                form.get_by_label(label, exact=True).fill(text)
            form.get_by_role("button", name="Save").click()
            expect(form).to_have_count(0)
        self.becomes(lambda: (len(recorded("clearance")), LookUp.objects.count()), (3, 3))
        page.reload()
        jobs.get_by_role("button", name="Acts and checks of").click()
        expect(jobs.get_by_text("closed", exact=True).first).to_be_visible()
        self.accessible("A job with its acts and checks", page)
        jobs.get_by_role("button", name="Plan it").click()
        form = page.get_by_role("dialog")
        form.get_by_label("Equipment").select_option("mechanised")
        form.get_by_label("Crew", exact=True).fill("Crew 1")
        self.accessible("Plan a job", page)
        form.get_by_role("button", name="Save").click()
        self.becomes(self.steps, ["accepted", "planned", "refused"])


class TheLine(BrowserTestCase):
    """An emergency at the screen does not pass a line either."""

    def make_site(self) -> None:
        super().make_site()
        ready_site(self.at)
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
        form.get_by_label("Who answers for it").select_option(label="steward")
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
