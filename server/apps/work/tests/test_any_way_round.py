"""No way round a check: any sequence of evidence given, withdrawn and corrected, and of steps sent as they
are made, late, or said to have been done. Nothing is begun as clean while a check was open at that moment, by
what stands in the tree's own records; and what happened can always be written down.
"""

from __future__ import annotations

import datetime
from dataclasses import dataclass, field
from typing import Any
from zoneinfo import ZoneInfo

from django.test import tag
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from apps.organisations.models import Member
from apps.plants.tests.factories import (
    SmallSite,
    a_plant,
    correction_item,
    entry,
    new_id,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.work.tests.ready import CREW, clock_at, close_for, evidence, ready_site, send_then
from jubark_core.tests.profiles import examples

EXAMPLES = examples(8, 30)
FIRST = datetime.datetime(2026, 11, 16, 9, tzinfo=datetime.UTC)  # in the open season of the area
HOURS = datetime.timedelta(hours=7)
NESTS = datetime.timedelta(hours=48)
DAYS_LATER = datetime.timedelta(days=3)
DONE = ("started", "completed")

# kind -> what is told, and whether it closes its check
EVIDENCE: dict[str, tuple[str, dict[str, Any], bool]] = {
    "nests": ("nest_look", {"result": "none"}, True),
    "a nest": ("nest_look", {"result": "in_use"}, False),
    "name": ("second_person", {"reference": "photograph 3"}, True),
    "name by the namer": ("second_person", {"reference": "photograph 3"}, False),
    "owner": ("owner_look_up", {"result": "own"}, True),
    "another owner": ("owner_look_up", {"result": "not_own"}, False),
}
CHECKS = {"nests": ("nest_look",), "name": ("second_person",), "owner": ("owner_look_up",)}
moves = st.one_of(
    st.tuples(st.just("tell"), st.sampled_from(tuple(EVIDENCE))),
    st.tuples(st.just("tell"), st.sampled_from(tuple(CHECKS))),
    st.tuples(st.just("withdraw"), st.integers(0, 9)),
    st.tuples(st.just("correct"), st.integers(0, 9)),
    st.tuples(st.sampled_from(("now", "late", "done")), st.sampled_from(("planned", "started", "completed"))),
    st.tuples(st.just("now"), st.sampled_from(("planned", "started", "completed"))),
)


def there(at: datetime.datetime) -> datetime.date:
    """The day it is at the site."""
    return at.astimezone(ZoneInfo("America/New_York")).date()


@dataclass
class Given:
    """A piece of evidence as it stands. at: when it was given, or corrected into what it says."""

    what: str
    at: datetime.datetime
    entry: str


@dataclass
class Told:
    """What has been recorded, kept apart from the code that judges it."""

    given: list[Given] = field(default_factory=list)
    steps: list[tuple[datetime.datetime, str]] = field(default_factory=list)

    def is_closed(self, check: str, at: datetime.datetime) -> bool:
        kinds = CHECKS[check]
        rows = [g for g in self.given if EVIDENCE[g.what][0] in kinds and g.at <= at]
        if check == "name":
            return any(EVIDENCE[g.what][2] for g in rows)
        if not rows:
            return False
        newest = max(rows, key=lambda g: g.at)
        fresh = check != "nests" or at - newest.at <= NESTS
        return EVIDENCE[newest.what][2] and fresh

    def are_closed(self, at: datetime.datetime) -> bool:
        return all(self.is_closed(check, at) for check in CHECKS)

    @property
    def stage(self) -> str:
        return self.steps[-1][1] if self.steps else "accepted"


class AnyWayRound(TestCase):
    at: SmallSite

    def setup_example(self) -> None:
        super().setup_example()
        self.at = small_site()
        ready_site(self.at)
        ash = entry("determination", entered="white ash", taxon="fraxinus-americana")
        self.ash = a_plant(self.at, ash, entry("life", state="standing_dead"), on="2026-10-20")
        self.namer = self.at.surveyor
        close_for(self.at, self.ash, "2026-11-15", "nest_look", "second_person", "owner_look_up", "line_look")
        self.job = new_id()
        accepted = self.say(self.at.steward, FIRST - HOURS, self.step_of("accepted"))
        self.assertEqual(accepted["answer"], "accepted", accepted)

    @tag("slow")
    @EXAMPLES
    @given(st.lists(moves, min_size=5, max_size=16))
    def test_nothing_is_begun_while_a_check_is_open_and_what_happened_is_recorded(
        self, sequence: list[tuple[str, Any]]
    ) -> None:
        told = Told()
        for i, (door, what) in enumerate(sequence):
            now = FIRST + i * HOURS
            if door == "tell":
                self.tell(told, what, now)
            elif door == "withdraw":
                self.withdraw(told, what)
            elif door == "correct":
                self.correct(told, what, now)
            else:
                self.step(told, door, what, now)
        self.breaches_are_those_of(told)

    def say(
        self, by: Member, at: datetime.datetime, *rows: dict[str, Any], late: bool = False
    ) -> dict[str, Any]:
        visit = visit_item(self.ash, *rows, on=there(at).isoformat(), observed_at=at.isoformat(), mode="desk")
        if not late:
            return send_then(signed_in(by), visit)[0]
        with clock_at(at + DAYS_LATER):
            return send(signed_in(by), visit)[0]

    def tell(self, told: Told, what: str, at: datetime.datetime) -> None:
        kind, more, _ = EVIDENCE[what]
        row = evidence(kind, **more)
        by = self.namer if what == "name by the namer" else self.at.owner
        self.assertEqual(self.say(by, at, row)["answer"], "accepted")
        told.given.append(Given(what, at, row["id"]))

    def withdraw(self, told: Told, i: int) -> None:
        """Evidence that is taken back closes nothing, nor did it."""
        if i < len(told.given):
            gone = told.given.pop(i)
            item = correction_item("clearance", retracts=gone.entry)
            self.assertEqual(send(signed_in(self.at.owner), item)[0]["answer"], "accepted")

    def correct(self, told: Told, i: int, at: datetime.datetime) -> None:
        """A look that found a nest is corrected into one that found none: it says so from then on."""
        if i < len(told.given) and told.given[i].what == "a nest":
            body = {"check_closed": "C2a", "what": "nest_look", "result": "none"}
            item = correction_item("clearance", replaces=told.given[i].entry, **body)
            with clock_at(at):
                self.assertEqual(send(signed_in(self.at.owner), item)[0]["answer"], "accepted")
            told.given[i] = Given("nests", at, item["body"]["id"])

    def step_of(self, step: str, **more: Any) -> dict[str, Any]:
        said = {"equipment": "mechanised", "crew": CREW, **more}
        return entry("work", job=self.job, rule="R24", step=step, **said)

    def step(self, told: Told, door: str, step: str, at: datetime.datetime) -> None:
        if told.stage == "completed":
            return
        line = evidence("line_look", result="none")
        self.say(self.at.owner, at - datetime.timedelta(minutes=5), line)
        done = door == "done" and step in DONE
        more = (
            {"happened": True, "though_held_by": "the crew", "though_why": "the road was shut"}
            if done
            else {}
        )
        answer = self.say(self.at.steward, at, self.step_of(step, **more), late=door == "late")
        happened = step in DONE and door in ("late", "done")
        may = happened or self.may(told, step, at)
        self.assertEqual(answer["answer"], "accepted" if may else "refused", (door, step, answer))
        if may:
            told.steps.append((at, step))

    def may(self, told: Told, step: str, at: datetime.datetime) -> bool:
        """Whether a step that is asked for now follows and finds every check closed."""
        stage = told.stage
        if step == "planned":
            return stage in ("accepted", "planned") and told.are_closed(at)
        if step == "started":
            return stage in ("accepted", "planned", "started") and told.are_closed(at)
        begun = [day for day, name in told.steps if name == "started" and there(day) == there(at)]
        return stage == "started" and bool(begun) and told.are_closed(max(begun))

    def breaches_are_those_of(self, told: Told) -> None:
        """Each step that was taken is marked where a check was open at its moment, by what stands now."""
        client = signed_in(self.at.viewer)
        day = (FIRST + 30 * HOURS).date().isoformat()
        found = client.get(f"/api/sites/{self.at.site.id}/work/", {"on": day}).json()
        rows = [r for r in [*found["jobs"], *found["done"]] if r["job"] == self.job]
        self.assertEqual(len(rows), 1, found)
        row = rows[0]
        again = Told(given=told.given)
        open_then = False
        for at, step in told.steps:
            if step in DONE:
                open_then = open_then or not self.may(again, step, at)
            again.steps.append((at, step))
        self.assertEqual(bool(row["though"]), open_then, (told, row["though"]))
