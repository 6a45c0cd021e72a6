"""No path round a check: any sequence of steps, checks closed and reopened, by outbox and correction."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, field
from typing import Any

from django.test import tag
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from apps.plants.models import Entry
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
from jubark_core.tests.profiles import examples
from jubark_core.tree_file.filed import standing_entries

EXAMPLES = examples(8, 30)
FIRST = datetime.date(2026, 11, 15)  # roosts: the open season of the area
NESTS_DAYS = 2  # 48 hours
OPEN_WITHOUT = {"name": "C1", "nests": "C2", "owner": "C5"}
GUARDED = ("planned", "started", "completed")

STEPS = ("planned", "started", "accepted", "planned", "started", "completed")
WHO = ("surveyor", "steward", "owner")

# what is done, with what, and whether every check is closed just before it
moves = st.one_of(
    st.tuples(
        st.just("close"), st.sampled_from(("nests", "name without a reference", "owner")), st.just(False)
    ),
    st.tuples(st.just("reopen"), st.sampled_from(tuple(OPEN_WITHOUT)), st.booleans()),
    st.tuples(st.sampled_from(WHO), st.sampled_from(STEPS), st.booleans()),
    st.tuples(st.sampled_from(WHO), st.sampled_from(STEPS), st.booleans()),
    st.tuples(st.just("correct"), st.sampled_from(STEPS), st.booleans()),
)


@dataclass
class Told:
    """What has been recorded, kept apart from the code that judges it."""

    closed: list[tuple[datetime.date, str, str]] = field(default_factory=list)  # day, what, entry
    steps: list[tuple[datetime.date, str, str]] = field(default_factory=list)  # day, step, entry

    def is_closed(self, what: str, day: datetime.date) -> bool:
        rows = [(on, said) for on, said, _ in self.closed if on <= day and said.split()[0] == what]
        if not rows:
            return False
        on, said = rows[-1]
        return said == what and (what != "nests" or (day - on).days <= NESTS_DAYS)

    def lets_pass(self, step: str, day: datetime.date, other_steps: list[str]) -> bool:
        if other_steps and other_steps[-1] == "completed":
            return False
        return step not in GUARDED or all(self.is_closed(what, day) for what in OPEN_WITHOUT)


class AnyWayRound(TestCase):
    at: SmallSite

    def setup_example(self) -> None:
        super().setup_example()
        self.at = small_site()
        ash = entry("determination", entered="white ash", taxon="fraxinus-americana")
        dead = entry("life", state="standing_dead")
        self.ash = a_plant(self.at, ash, dead, on="2026-10-20")
        self.job = new_id()

    @tag("slow")
    @EXAMPLES
    @given(st.lists(moves, min_size=4, max_size=14))
    def test_a_step_is_stored_where_and_only_where_every_check_is_closed_on_its_day(
        self, sequence: list[tuple[str, str, bool]]
    ) -> None:
        told = Told()
        for i, (door, what, all_closed) in enumerate(sequence):
            day = FIRST + datetime.timedelta(days=i)
            for one in OPEN_WITHOUT if all_closed else ():
                self.close(told, one, day)
            if door == "close":
                self.close(told, what, day)
            elif door == "reopen":
                self.reopen(told, what)
            elif door == "correct":
                self.correct(told, what)
            else:
                self.step(told, door, what, day)
        stored = standing_entries(list(Entry.objects.filter(visit__plant=self.ash).select_related("visit")))
        steps = [str(e.id) for e in stored.live if e.kind == "work"]
        self.assertEqual(steps, [entry_id for _, _, entry_id in told.steps])

    def close(self, told: Told, what: str, day: datetime.date) -> None:
        kind = what.split()[0]
        reference = {"reference": "opposite buds"} if what == "name" else {}
        row = entry("clearance", check_closed=OPEN_WITHOUT[kind], what=kind, by="crew", **reference)
        visit = visit_item(self.ash, row, on=day.isoformat(), mode="desk")
        [answer] = send(signed_in(self.at.owner), visit)
        self.assertEqual(answer["answer"], "accepted", answer)
        told.closed.append((day, what, row["id"]))

    def reopen(self, told: Told, what: str) -> None:
        rows = [row for row in told.closed if row[1].split()[0] == what]
        if rows:
            [answer] = send(signed_in(self.at.owner), correction_item("clearance", retracts=rows[-1][2]))
            self.assertEqual(answer["answer"], "accepted", answer)
            told.closed.remove(rows[-1])

    def step(self, told: Told, who: str, step: str, day: datetime.date) -> None:
        row = entry("work", job=self.job, rule="R24", step=step, equipment="mechanised")
        visit = visit_item(self.ash, row, on=day.isoformat(), mode="desk")
        [answer] = send(signed_in(getattr(self.at, who)), visit)
        if self.agrees(answer, told.lets_pass(step, day, [s for _, s, _ in told.steps])):
            told.steps.append((day, step, row["id"]))

    def correct(self, told: Told, step: str) -> None:
        if not told.steps:
            return
        day, _, replaced = told.steps[-1]
        body = {"job": self.job, "rule": "R24", "step": step, "equipment": "mechanised"}
        item = correction_item("work", replaces=replaced, **body)
        [answer] = send(signed_in(self.at.owner), item)
        if self.agrees(answer, told.lets_pass(step, day, [s for _, s, _ in told.steps[:-1]])):
            told.steps[-1] = (day, step, item["body"]["id"])

    def agrees(self, answer: dict[str, Any], may: bool) -> bool:
        self.assertEqual(answer["answer"], "accepted" if may else "refused", answer)
        return may
