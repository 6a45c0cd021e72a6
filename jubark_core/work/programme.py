"""Work that makes more work: the later part of a job, and the years of a programme."""

from __future__ import annotations

import datetime
from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace

from jubark_core.errors import InputError
from jubark_core.work.load import work_rules
from jubark_core.work.model import Rule

AHEAD_DAYS = 180  # a follow-up shows so long before it is due
TOO_SOON_DAYS = 180  # a year of the programme that fell due by then is answered by the work just done


@dataclass(frozen=True)
class DoneWork:
    """A job that was completed: its rule, which part of it, when, and the job it followed (''): a chain."""

    job: str
    rule: str
    part: str
    on: datetime.date
    follows: str = ""


@dataclass(frozen=True)
class FollowUp:
    """Work that a completed job asks for. year: of the programme; 0: the later part of the same job."""

    follows: str
    rule: str
    part: str
    due: datetime.date
    year: int
    of: int


def rule_of(rule: str, part: str = "") -> Rule:
    """The rule, or the later part of it as a rule of its own. Raises InputError for what is not known."""
    found = work_rules().rules.get(rule)
    if found is None:
        raise InputError("rule", rule, "one of " + ", ".join(work_rules().rules))
    if not part:
        return found
    if found.then is None or found.then.part != part:
        raise InputError("part", part, found.then.part if found.then else "nothing: the rule has no parts")
    then = found.then
    return replace(
        found,
        title=f"{found.title}: {then.part}",
        act=then.act,
        acts=then.acts,
        do=then.do,
        windows=then.windows,
        method="",
        then=None,
        cure_days=None,
    )


def follow_ups(
    done: Iterable[DoneWork], answered: Collection[str], planted_on: datetime.date | None, on: datetime.date
) -> list[FollowUp]:
    """What completed jobs of a plant ask for within half a year of the day.

    answered: the jobs that one still open, or one since refused, already follows.
    """
    rows = sorted(done, key=lambda d: (d.on, d.job))
    by_job = {row.job: row for row in rows}
    over = {row.follows for row in rows}.union(answered)
    horizon = on + datetime.timedelta(days=AHEAD_DAYS)
    next_ones = [_next(row, by_job, planted_on) for row in rows if row.job not in over]
    return [after for after in next_ones if after is not None and after.due <= horizon]


def _next(row: DoneWork, by_job: dict[str, DoneWork], planted_on: datetime.date | None) -> FollowUp | None:
    rule = work_rules().rules.get(row.rule)
    if rule is None:
        return None
    if rule.then is not None and not row.part:
        due = row.on + datetime.timedelta(days=rule.then.after_days)
        return FollowUp(row.job, rule.id, rule.then.part, due, 0, 0)
    start = planted_on if rule.follow_up_from == "planting" and planted_on else _first(row, by_job).on
    for number, years in enumerate(rule.follow_up_years, start=1):
        due = _years_after(start, years)
        if due > row.on + datetime.timedelta(days=TOO_SOON_DAYS):
            return FollowUp(row.job, rule.id, "", due, number, len(rule.follow_up_years))
    return None


def _first(row: DoneWork, by_job: dict[str, DoneWork]) -> DoneWork:
    """The job the programme began with."""
    seen = {row.job}
    while row.follows in by_job and row.follows not in seen:
        row = by_job[row.follows]
        seen.add(row.job)
    return row


def _years_after(day: datetime.date, years: int) -> datetime.date:
    try:
        return day.replace(year=day.year + years)
    except ValueError:  # 29 February
        return day.replace(year=day.year + years, day=28)
