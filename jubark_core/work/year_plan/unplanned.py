"""Why a job is not in a plan, and what would free it: hours, money, a date, a skill, or a job before it."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, replace

from jubark_core.work.year_plan.model import Plan, PlanCrew, PlanJob, PlanProblem
from jubark_core.work.year_plan.room import Room
from jubark_core.work.year_plan.slots import slots_of

ALWAYS = ((datetime.date.min, datetime.date.max),)


@dataclass(frozen=True)
class Unplanned:
    """Why a job does not fit.

    binds: window, skill, after, money or hours. week: the week in which it is nearest to fitting. What would
    free it: minutes more of that crew in that week, money, another last day, the skills, the job before it.
    """

    job: str
    binds: str
    week: int | None = None
    crew: str = ""
    minutes: int = 0
    money: int = 0
    due: datetime.date | None = None
    skills: tuple[str, ...] = ()
    after: str = ""


def room_of(problem: PlanProblem, plan: Plan) -> Room:
    """The room a plan leaves."""
    room = Room(problem)
    for id, slot in sorted(plan.items(), key=lambda p: (problem.by_id[p[0]].fixed is None, p[0])):
        room.add(problem.by_id[id], slot)
    return room


def unplanned_of(problem: PlanProblem, plan: Plan) -> list[Unplanned]:
    """What does not fit, the most urgent first, each with what binds it against this plan."""
    room = room_of(problem, plan)
    left = [job for job in problem.jobs if job.id not in plan]
    return [_why(job, problem, room) for job in sorted(left, key=lambda j: (j.priority, j.id))]


def _why(job: PlanJob, problem: PlanProblem, room: Room) -> Unplanned:
    slots = slots_of(job, problem)
    if not slots:
        return _no_slot(job, problem)
    in_time = [s for s in slots if not room.waits_for(job, s)]
    if not in_time:
        return Unplanned(job.id, "after", after=room.waits_for(job, slots[-1]))
    nearest = min(
        in_time,
        key=lambda s: (room.missing_minutes(job, s), room.missing_money(job, s), s.week, s.crew),
    )
    minutes, money = room.missing_minutes(job, nearest), room.missing_money(job, nearest)
    return Unplanned(
        job.id,
        "hours" if minutes else "money" if money else "",
        nearest.week,
        nearest.crew,
        minutes,
        money,
        _later(job, problem, room),
    )


def _no_slot(job: PlanJob, problem: PlanProblem) -> Unplanned:
    """No week at all: because nobody has the skill, because no week is long enough, or by its dates."""
    anyone = tuple(
        PlanCrew(c.id, c.minutes, dict.fromkeys(job.skills, ALWAYS), c.away) for c in problem.crews
    )
    if job.skills and slots_of(job, replace(problem, crews=anyone)):
        lacking = [s for s in sorted(job.skills) if not any(c.skills.get(s) for c in problem.crews)]
        return Unplanned(job.id, "skill", skills=tuple(lacking or sorted(job.skills)))
    short = replace(job, minutes=1)
    if found := slots_of(short, replace(problem, crews=anyone)):
        free = max(found, key=lambda s: (problem.capacity[s.crew, s.week], -s.week))
        missing = job.minutes - problem.capacity[free.crew, free.week]
        return Unplanned(job.id, "hours", free.week, free.crew, max(1, missing))
    return Unplanned(job.id, "window", due=_later(job, problem, Room(problem)))


def _later(job: PlanJob, problem: PlanProblem, room: Room) -> datetime.date | None:
    """The last day it would have to have for a week with room; None where no last day binds it."""
    if job.due is None:
        return None
    free = replace(job, due=None)
    found = [s for s in slots_of(free, problem) if room.holds(free, s)]
    return problem.days[min(s.last_week for s in found)][-1] if found else None
