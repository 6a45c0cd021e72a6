"""Evidence for checks: what stands at a moment, whose it is, and whether that person is qualified for it."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from jubark_core.checks import require_date, require_moment
from jubark_core.work.facts import Facts

TAKEN_IN = {"chainsaw": ("felling",), "roost_look": ("bat_ecology",)}  # skill -> what shows it as well


@dataclass(frozen=True)
class Evidence:
    """One piece. person: the member or contact whose it is, '' where it is an office's; job: '' for any."""

    check: str
    kind: str
    result: str
    person: str
    by: str
    at: datetime.datetime
    on: datetime.date
    begins: datetime.date
    until: datetime.date | None
    reference: str
    acts: frozenset[str]
    answered: frozenset[str]
    asked_on: datetime.date | None
    job: str

    @property
    def whose(self) -> str:
        """Whether anybody answers for it."""
        return self.person or self.by.strip()


@dataclass(frozen=True)
class Asked:
    """What a job is asked for: its acts, at a moment that is a day there, by whom it is done.

    crew: by its name; contractor: the contact whose people do it. ahead: the work lies so far ahead that
    what is looked at on the day is not asked for yet.
    """

    facts: Facts
    acts: tuple[str, ...]
    on: datetime.date
    at: datetime.datetime
    job: str = ""
    crew: str = ""
    contractor: str = ""
    method: str = ""
    assessor_above: float | None = None
    route: str = ""
    line_clearance: bool = False
    ahead: bool = False

    @property
    def members(self) -> list[str]:
        """The members of the crew that does it, those who do not belong to the organisation as well."""
        if self.contractor:
            return [self.contractor]
        return list(self.facts.raw.get("crews", {}).get(self.crew, []))

    def does(self, *acts: str) -> bool:
        """Whether it has any of the acts."""
        return not set(acts).isdisjoint(self.acts)

    def shows(self, person: str, skill: str, on: datetime.date | None = None) -> bool:
        """Whether a person has a paper that shows the skill, valid on a day."""
        day = on or self.on
        for paper in self.facts.raw.get("people", {}).get(person, []):
            begins, until = paper.get("begins"), paper.get("until")
            if paper["skill"] not in (skill, *TAKEN_IN.get(skill, ())):
                continue
            if (not begins or require_date("people.begins", begins) <= day) and (
                not until or day <= require_date("people.until", until)
            ):
                return True
        return False

    def standing(self, check: str, *kinds: str) -> Iterator[Evidence]:
        """Evidence that stands at the moment, the newest first: given by then, begun, not past its end, and
        given for any job or for this one.
        """
        for one in self._told:
            if one.check != check or one.kind not in kinds or one.job not in ("", self.job) or not one.whose:
                continue
            if one.at <= self.at and one.begins <= self.on and (one.until is None or self.on < one.until):
                yield one

    @cached_property
    def _told(self) -> list[Evidence]:
        found = [_read(i, row) for i, row in enumerate(self.facts.raw.get("evidence", []))]
        return sorted(found, key=lambda one: one.at, reverse=True)

    def hours_since(self, one: Evidence) -> float:
        """By the clock."""
        return (self.at - one.at).total_seconds() / 3600


def newest(rows: Iterable[Evidence]) -> Evidence | None:
    """The first of them, where there is one."""
    return next(iter(rows), None)


def _read(i: int, row: dict[str, Any]) -> Evidence:
    place = f"evidence[{i}]"
    day = require_date(f"{place}.on", row["on"])
    begins = row.get("begins")
    dates = {
        name: require_date(f"{place}.{name}", row[name]) if row.get(name) else None
        for name in ("until", "asked_on")
    }
    return Evidence(
        check=row["check"],
        kind=row["kind"],
        result=row.get("result", ""),
        person=row.get("person", ""),
        by=row.get("by", ""),
        at=require_moment(f"{place}.at", row["at"]),
        on=day,
        begins=require_date(f"{place}.begins", begins) if begins else day,
        until=dates["until"],
        reference=row.get("reference", "").strip(),
        acts=frozenset(row.get("acts", ())),
        answered=frozenset(row.get("answered", ())),
        asked_on=dates["asked_on"],
        job=row.get("job") or "",
    )
