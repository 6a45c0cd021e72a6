"""What a year of work is planned from: jobs with windows, crews with hours, money; and a plan as weeks."""

from __future__ import annotations

import datetime
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

WORKING_DAYS = 5
MOST_WEEKS = 104
Days = tuple[datetime.date, datetime.date]  # first and last day, both included


@dataclass(frozen=True)
class PlanCrew:
    """A crew: how long it works in a week, what it may do and until when, when it is away.

    minutes: in a week, before weather. skills: skill -> the days on which somebody of the crew holds it.
    """

    id: str
    minutes: int
    skills: Mapping[str, tuple[Days, ...]] = field(default_factory=dict)
    away: tuple[Days, ...] = ()

    def holds(self, skill: str, first: datetime.date, last: datetime.date) -> bool:
        """Whether somebody of the crew holds the skill on each of the days."""
        return any(begins <= first and last <= ends for begins, ends in self.skills.get(skill, ()))


@dataclass(frozen=True)
class PlanJob:
    """A job as the plan sees it.

    minutes: crew time, above 0. money: whole, in the site's currency. windows: days on which it may be done,
    none: any.
    closed: days on which it may not. avoid: days it is better not done on. after: (job, days) that must have
    passed since that one was done. closure: the street that is closed for it. infected: its block is not
    clean. promised: the day somebody was told; moved: the day somebody put it on by hand.
    """

    id: str
    priority: int
    minutes: int
    money: int = 0
    windows: tuple[Days, ...] = ()
    closed: tuple[Days, ...] = ()
    avoid: tuple[Days, ...] = ()
    not_before: datetime.date | None = None
    due: datetime.date | None = None
    skills: frozenset[str] = frozenset()
    crew: str = ""
    after: tuple[tuple[str, int], ...] = ()
    closure: str = ""
    infected: bool = False
    promised: datetime.date | None = None
    moved: datetime.date | None = None
    carried_over: bool = False

    @property
    def fixed(self) -> datetime.date | None:
        """The day it stays on: what somebody put by hand goes before what was promised earlier."""
        return self.moved or self.promised


@dataclass(frozen=True)
class PlanProblem:
    """All of it. weather_lost: share 0 to 1 of crew time that weather takes, by month (twelve).

    money: what may be spent; None: no limit. closure_money: what closing a street for a week costs.
    disinfect_minutes: what a week with a job in a block that is not clean costs a crew besides.
    before: the weeks of the plan that holds now, job -> week.
    """

    first_monday: datetime.date
    weeks: int
    crews: tuple[PlanCrew, ...]
    jobs: tuple[PlanJob, ...]
    weather_lost: tuple[float, ...] = (0.0,) * 12
    money: int | None = None
    closure_money: int = 0
    disinfect_minutes: int = 0
    before: dict[str, int] = field(default_factory=dict)

    @cached_property
    def by_id(self) -> dict[str, PlanJob]:
        """Job by id."""
        return {job.id: job for job in self.jobs}

    @cached_property
    def crew_by_id(self) -> dict[str, PlanCrew]:
        """Crew by id."""
        return {crew.id: crew for crew in self.crews}

    @cached_property
    def days(self) -> tuple[tuple[datetime.date, ...], ...]:
        """Monday to Friday of each week."""
        return tuple(
            tuple(self.first_monday + datetime.timedelta(days=7 * week + d) for d in range(WORKING_DAYS))
            for week in range(self.weeks)
        )

    def week_of(self, day: datetime.date) -> int:
        """The week a day lies in; below 0 or from `weeks` on outside the plan."""
        return (day - self.first_monday).days // 7

    @cached_property
    def capacity(self) -> dict[tuple[str, int], int]:
        """Minutes of each crew in each week: less what weather takes, and less the days it is away."""
        found = {}
        for crew in self.crews:
            for week, days in enumerate(self.days):
                here = [day for day in days if not within(day, crew.away)]
                dry = 1 - self.weather_lost[days[2].month - 1]
                found[crew.id, week] = int(crew.minutes * dry * len(here) / WORKING_DAYS + 1e-9)
        return found


@dataclass(frozen=True)
class Slot:
    """Where a job stands in a plan: its first week, its crew, and the minutes of each week from there on."""

    week: int
    crew: str
    minutes: tuple[int, ...]

    @property
    def last_week(self) -> int:
        """The last week it takes."""
        return self.week + len(self.minutes) - 1

    def load(self) -> list[tuple[int, int]]:
        """(week, minutes) of all its weeks."""
        return [(self.week + i, minutes) for i, minutes in enumerate(self.minutes)]


Plan = dict[str, Slot]  # job -> slot; a job that is not in it does not fit


def monday_of(day: datetime.date) -> datetime.date:
    """The Monday of the week of a day."""
    return day - datetime.timedelta(days=day.weekday())


def within(day: datetime.date, spans: tuple[Days, ...]) -> bool:
    """Whether a day lies in one of the spans."""
    return any(first <= day <= last for first, last in spans)
