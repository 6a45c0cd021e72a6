"""Where a job may stand at all, by its windows, dates, skills and size; hours and money come later."""

from __future__ import annotations

import datetime

from jubark_core.work.year_plan.model import (
    WORKING_DAYS,
    PlanCrew,
    PlanJob,
    PlanProblem,
    Slot,
    within,
)

MOST_WEEKS_OF_A_JOB = 12


def good_days(job: PlanJob, problem: PlanProblem, week: int) -> list[datetime.date]:
    """The working days of a week on which the job may be done."""
    return [
        day
        for day in problem.days[week]
        if (not job.windows or within(day, job.windows))
        and not within(day, job.closed)
        and (job.not_before is None or day >= job.not_before)
        and (job.due is None or day <= job.due)
    ]


def slots_of(job: PlanJob, problem: PlanProblem) -> list[Slot]:
    """Every slot the job may have, by week and crew. A job with a fixed day has those of its week alone: of
    the crews that have its skills then, or, since it stays in any case, of every one where none has them.
    """
    if job.fixed is not None:
        week = problem.week_of(job.fixed)
        slots = [_whole(job, crew, problem, week) for crew in _crews(job, problem)] if week >= 0 else []
        return [s for s in slots if _skilled(job, s, problem)] or slots
    found = []
    days = [good_days(job, problem, week) for week in range(problem.weeks)]
    for week in range(problem.weeks):
        if not days[week]:
            continue
        for crew in _crews(job, problem):
            slot = _slot(job, crew, problem, week, days)
            if slot is not None:
                found.append(slot)
    return found


def every_slot(problem: PlanProblem) -> dict[str, list[Slot]]:
    """The slots of each job."""
    return {job.id: slots_of(job, problem) for job in problem.jobs}


def _crews(job: PlanJob, problem: PlanProblem) -> list[PlanCrew]:
    """The crew it names; else every one."""
    return [crew for crew in problem.crews if job.crew in ("", crew.id)]


def _skilled(job: PlanJob, slot: Slot, problem: PlanProblem) -> bool:
    days = problem.days[slot.week]
    return all(problem.crew_by_id[slot.crew].holds(skill, days[0], days[-1]) for skill in job.skills)


def _slot(
    job: PlanJob, crew: PlanCrew, problem: PlanProblem, week: int, days: list[list[datetime.date]]
) -> Slot | None:
    """The slot that begins in a week: one week where it fits, else as many in a row as it takes."""
    minutes: list[int] = []
    left = job.minutes
    while True:
        at = week + len(minutes)
        if at >= problem.weeks or not days[at] or len(minutes) == MOST_WEEKS_OF_A_JOB:
            return None
        if not all(crew.holds(skill, days[at][0], days[at][-1]) for skill in job.skills):
            return None
        room = _room(job, crew, problem, at, len(days[at]))
        minutes.append(min(left, room))
        left -= minutes[-1]
        if left == 0:
            return Slot(week, crew.id, tuple(minutes))
        if room == 0 or (len(days[at]) < WORKING_DAYS and len(minutes) > 1):
            return None  # it would be broken off


def _room(job: PlanJob, crew: PlanCrew, problem: PlanProblem, week: int, good: int) -> int:
    """Minutes an empty week has for it: on the days on which it may be done, and less the disinfection."""
    room = problem.capacity[crew.id, week] * good // WORKING_DAYS
    return max(0, room - (problem.disinfect_minutes if job.infected else 0))


def _whole(job: PlanJob, crew: PlanCrew, problem: PlanProblem, week: int) -> Slot:
    """All of it in its week, whatever the week holds: it was promised."""
    return Slot(min(week, problem.weeks - 1), crew.id, (job.minutes,))
