"""The ash avenue through the year: the year planned, a job moved, promised, blocked by a nest, and begun at
the tree once nests and lines were looked for.
"""

from __future__ import annotations

import datetime
import re
from typing import Any

from django.test import tag
from playwright.sync_api import Locator, Page, expect

from apps.inspections.services.set_target import make_target
from apps.plants.tests.factories import entry, new_id, plant_item, recorded, send, signed_in, visit_item
from apps.work.models import PlanRun
from apps.work.tests.ready import evidence, ready_site
from jubark_core.records.working import Work
from jubark_core.work.year_plan.model import monday_of
from tests.browser.base import BrowserTestCase
from tests.browser.test_work import METRE, PATH
from tests.job_queue import work_off_queue

TODAY = datetime.date(2026, 11, 20)  # the day the tests are run on, as the app is told
WEEK = datetime.timedelta(weeks=1)


class TheYear(BrowserTestCase):
    def make_site(self) -> None:
        super().make_site()
        make_target(actor=self.at.steward, site=self.at.site, given=PATH)
        ready_site(self.at)
        self.plants = [self.ash(f"{101 + i}", i) for i in range(2)]

    def ash(self, number: str, i: int) -> str:
        """A dead ash whose felling is accepted, its checks closed but for the look on the day."""
        plant = plant_item(self.at.block, lon=-79.3 + i * 5 * METRE)
        named = entry("determination", entered="white ash", taxon="fraxinus-americana")
        dead: dict[str, Any] = entry("life", state="standing_dead")
        seen = visit_item(plant["id"], entry("tag", number=number), named, dead, on="2026-10-20")
        closed = [
            evidence("not_known_protected", reference="photograph 3"),
            evidence("look_up", result="none", by="the borough"),
            evidence("owner_look_up", result="own"),
            evidence("closure_plan", by="the road office", reference="T 2"),
        ]
        job = entry("work", job=new_id(), rule="R24", step="accepted", equipment="mechanised", hours=6)
        taken = visit_item(plant["id"], *closed, job, on="2026-10-21", mode="desk")
        answers = send(signed_in(self.at.steward), plant, seen, taken)
        assert {a["answer"] for a in answers} == {"accepted"}, answers
        return str(plant["id"])

    def record(self, plant: str, *entries: dict[str, Any]) -> None:
        [answer] = send(signed_in(self.at.surveyor), visit_item(plant, *entries, on=TODAY.isoformat()))
        assert answer["answer"] == "accepted", answer

    def steps(self) -> list[str]:
        return sorted(body.step for body in recorded("work") if isinstance(body, Work))

    def planned_by_a_worker(self, page: Page) -> Locator:
        """What was asked for is made; the week list of the new plan."""
        self.becomes(lambda: PlanRun.objects.filter(state="waiting").count(), 1)
        work_off_queue()
        expect(page.get_by_role("button", name="Plan again")).to_be_enabled()
        return page.get_by_role("region", name="Week by week")

    @tag("slow")
    def test_from_a_plan_to_an_ash_that_is_begun(self) -> None:
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/work?view=crews")
        form = page.get_by_role("region", name="Crews and rates")
        form.get_by_label("Hours in a week").fill("8")
        form.get_by_role("button", name="Save crews and rates").click()
        expect(form.get_by_text("Saved.")).to_be_visible()
        page.get_by_role("radio", name="The year").click()
        page.get_by_role("button", name="Plan the year").click()
        weeks = self.planned_by_a_worker(page)
        expect(page.get_by_text("2 jobs planned, 0 do not fit.")).to_be_visible()
        self.accessible("The year of work")
        expect(weeks.get_by_text("Week of")).to_have_count(2)  # six hours each, of eight

        moved = weeks.get_by_role("button", name="Move Dead ash within reach of a target of 101")
        moved.click()
        later = monday_of(TODAY + 5 * WEEK)
        page.get_by_label("Into the week of").fill(later.isoformat())
        page.get_by_role("button", name="Move it and plan again").click()
        weeks = self.planned_by_a_worker(page)
        expect(weeks.get_by_text("put here by hand")).to_have_count(1)
        page.reload()
        expect(weeks.get_by_text(f"{later.day} {later:%B %Y}")).to_be_visible()

        weeks.get_by_role("button", name="Promise Dead ash within reach of a target of 101").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("Begins")).to_have_value(later.isoformat())
        dialog.get_by_label("Crew", exact=True).fill("Crew 1")
        dialog.get_by_role("button", name="Save").click()
        self.becomes(self.steps, ["accepted", "accepted", "planned"])

        self.record(self.plants[1], entry("habitat", feature="nest", in_use="in_use"))
        page.goto(f"{self.live_server_url}/work")
        jobs = page.get_by_role("region", name="Jobs")
        jobs.get_by_role("radio", name="All 2").click()
        jobs.get_by_role("button", name="Acts and checks of Dead ash within reach of a target of 102").click()
        expect(jobs).to_contain_text("a nest or roost in use was seen")
        self.done_at_the_tree()
        page.goto(f"{self.live_server_url}/history/{self.plants[0]}")
        expect(page.get_by_role("region", name="Work on this tree")).to_contain_text("started")

    def done_at_the_tree(self) -> None:
        """In Survey: without the looks of the day no start; they are told there, and it is begun."""
        page = self.open_browser(390, 844)
        self.sign_in(self.at.surveyor, page, at="")
        page.goto(f"{self.live_server_url}/survey/{self.plants[0]}")
        page.get_by_role("button", name="It is tag 101").click()
        there = page.get_by_role("heading", name="Note and photograph")
        steps = page.get_by_text(re.compile(r"^Step \d+ of"))
        for _ in range(10):
            at = steps.inner_text()  # a step is left before the next is asked for
            if there.count():
                break
            page.locator("footer button").last.click()
            expect(page.get_by_text(at, exact=True)).to_have_count(0)
        here = page.get_by_role("region", name="Work on this tree")  # once the core has read the file
        expect(here.get_by_text("Not to be started:")).to_be_visible()
        expect(here.get_by_role("radio", name="started")).to_have_count(0)
        for kind in ("look for nests", "look for lines"):
            here.get_by_role("button", name="Tell what was looked at").click()
            here.get_by_role("radio", name=kind, exact=True).click()
            here.get_by_role("radio", name="none", exact=True).click()
            here.get_by_role("button", name="Keep it in this visit").click()
        expect(here.get_by_text("2 looks in this visit.")).to_be_visible()
        here.get_by_role("radio", name="started").click()
        page.get_by_role("button", name="Save visit").click()
        self.becomes(self.steps, ["accepted", "accepted", "planned", "started"])
