"""The file of one tree on a day: what stands of all its records."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, TypeVar

from jubark_core.records.bodies import Body, Measurement
from jubark_core.records.inspected import Inspection
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.working import Work
from jubark_core.risk.worksheet import is_complete
from jubark_core.tree_file.filed import Dated, Filed, Standing, standing_entries
from jubark_core.tree_file.holds import WiresHold, day_trusted, wires_hold
from jubark_core.tree_file.jobs import Job, jobs_of
from jubark_core.tree_file.looks import Look, looks_of
from jubark_core.tree_file.now import gravest, now_and_spans

JUDGED_WITH_STAGE = ("determination", "measurement", "condition", "life")
B = TypeVar("B")


@dataclass(frozen=True)
class TreeFile:
    """The file of a tree. records: the entries of each of its records, its own first. on: the day up to
    which it is read; None: all of it. merged_on: the day on which the last of the others was found to be a
    duplicate.

    Of the newest rating, condition and defects of each record the gravest lead, until somebody has seen the
    whole tree since it was found to be one.
    """

    records: tuple[tuple[Filed, ...], ...]
    on: datetime.date | None = None
    merged_on: datetime.date | None = None

    @cached_property
    def entries(self) -> list[Filed]:
        """Every entry of every record, in no order."""
        return [entry for record in self.records for entry in record]

    @cached_property
    def standing(self) -> Standing[Filed]:
        """What stands of them up to the day."""
        return self._up_to(standing_entries(self.entries))

    @cached_property
    def live(self) -> list[Filed]:
        """The entries that stand, the oldest first."""
        return self.standing.live

    @cached_property
    def bodies(self) -> list[tuple[datetime.date, Body]]:
        """What stands, the oldest first, each with the day of its visit."""
        return [(e.visit.local_date, e.body) for e in self.live if e.body is not None]

    @cached_property
    def _by_kind(self) -> dict[type[Any], list[Dated[Any]]]:
        found: dict[type[Any], list[Dated[Any]]] = {}
        for e in self.live:
            row = Dated(e.visit.local_date, e.body, e.id, e.visit.observed_at, e.by)
            found.setdefault(type(e.body), []).append(row)
        return found

    def all_of(self, kind: type[B]) -> list[Dated[B]]:
        """Everything of a kind that stands, the oldest first."""
        return self._by_kind.get(kind, [])

    def newest(self, kind: type[B]) -> Dated[B] | None:
        """The newest of a kind that stands."""
        found = self.all_of(kind)
        return found[-1] if found else None

    @cached_property
    def apart(self) -> tuple[TreeFile, ...]:
        """The file of each record for itself, where there are several and nobody has seen the whole tree
        since they were found to be one; else none.
        """
        told = [record for record in self.records if record]
        if len(told) < 2 or self.seen_whole_since(self.merged_on):
            return ()
        return tuple(TreeFile((record,), self.on) for record in told)

    def of_each_record(self, kind: type[B]) -> list[Dated[B]]:
        """The newest of a kind: of each record, while each still has its own say."""
        files = self.apart or (self,)
        return [newest for file in files if (newest := file.newest(kind)) is not None]

    @cached_property
    def _now_and_spans(self) -> tuple[dict[str, Any], list[dict[str, Any]]]:
        entries = [e for e in self.entries if self.on is None or e.visit.local_date <= self.on]
        values, spans = now_and_spans(entries, self.standing)
        if len(self.records) < 2:
            return values, spans
        if self.apart:
            values |= gravest([record.now for record in self.apart])
        own = TreeFile(self.records[:1], self.on).now["tag"]
        return {**values, "tag": own or values["tag"]}, spans

    @property
    def now(self) -> dict[str, Any]:
        """What is known of it, by the names of `now.EMPTY`; it goes by its own tag."""
        return self._now_and_spans[0]

    @property
    def spans(self) -> list[dict[str, Any]]:
        """What was known of it from day to day."""
        return self._now_and_spans[1]

    @cached_property
    def stage(self) -> str:
        """The stage of life at the newest visit that judged the plant: a walk along the street, a storm's
        look and an act at a desk say nothing of it.
        """
        judged = [e for e in self.live if e.kind in JUDGED_WITH_STAGE]
        return judged[-1].visit.stage if judged else "mature"

    @cached_property
    def taken(self) -> dict[str, list[Dated[Measurement]]]:
        """Quantity -> its measurements, oldest first: not those of shoots that were counted only, nor of
        leaves that were not there.
        """
        found: dict[str, list[Dated[Measurement]]] = {}
        for row in self.all_of(Measurement):
            if row.body.stems and not row.body.out_of_leaf:
                found.setdefault(row.body.quantity, []).append(row)
        return found

    @cached_property
    def defects(self) -> list[Dated[Defect]]:
        """Those of the newest day on which defects were looked for; of each record, while each has its own
        say.
        """
        if self.apart:
            return [row for record in self.apart for row in record.defects]
        days = [row.on for row in self.all_of(Defect)]
        days += [row.on for row in self.all_of(Condition) if row.body.no_defect]
        newest = max(days, default=None)
        return [row for row in self.all_of(Defect) if row.on == newest]

    @cached_property
    def looks(self) -> list[Look]:
        """Its inspections, oldest first."""
        return looks_of(self.live)

    @cached_property
    def jobs(self) -> list[Job]:
        """Its jobs, in the order in which they were begun."""
        return jobs_of(self.all_of(Work))

    @cached_property
    def wires(self) -> WiresHold | None:
        """The hold of wires on it; what waits for its clock to be confirmed counts, by the day it came in."""
        told = standing_entries(self.entries, doubted=True).live
        known = [e for e in told if self.on is None or day_trusted(e) <= self.on]
        return wires_hold(
            sorted(known, key=lambda e: (day_trusted(e), e.visit.observed_at, e.received_at, e.id))
        )

    def seen_whole_since(self, day: datetime.date | None) -> bool:
        """Whether base and crown were both seen whole, by a worksheet or an inspection, on the day or
        later.
        """
        if day is None:
            return False
        sheets = [(r.on, r.body.base_seen, r.body.crown_seen) for r in self.all_of(Risk)]
        looks = [(r.on, r.body.base_visible, r.body.crown_visible) for r in self.all_of(Inspection)]
        return any(on >= day and is_complete(base, crown) for on, base, crown in [*sheets, *looks])

    def _up_to(self, standing: Standing[Filed]) -> Standing[Filed]:
        if self.on is None:
            return standing
        live = [e for e in standing.live if e.visit.local_date <= self.on]
        return Standing(live, standing.contested)


def tree_file(
    records: Sequence[Sequence[Filed]],
    on: datetime.date | None = None,
    merged_on: datetime.date | None = None,
) -> TreeFile:
    """The file of a tree from the entries of each of its records, its own first."""
    return TreeFile(tuple(tuple(record) for record in records), on, merged_on)
