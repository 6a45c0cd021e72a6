"""A first plan: job after job, the most urgent and the most bound first. A planner may better it."""

from __future__ import annotations

from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot
from jubark_core.work.year_plan.room import Room
from jubark_core.work.year_plan.score import CLOSURE, DISINFECTED, points_of, points_of_slot
from jubark_core.work.year_plan.slots import every_slot, slots_of


def fixed_first(problem: PlanProblem, begin: Plan | None = None) -> Room:
    """A plan with what was promised or put by hand alone, the longest first, each with the crew that has the
    most room. The week of such a job is given, its crew is not: a planner may choose another.

    begin: slots wished for.
    """
    room = Room(problem)
    fixed = [job for job in problem.jobs if job.fixed is not None]
    for job in sorted(fixed, key=lambda j: (-j.minutes, j.id)):
        slots = slots_of(job, problem)
        wished = (begin or {}).get(job.id)
        if wished in slots:
            room.add(job, wished)
        elif slots:
            room.add(job, min(slots, key=lambda s: (-room.free(s.crew, s.week, job.infected), s.crew)))
    return room


def first_plan(
    problem: PlanProblem, slots: dict[str, list[Slot]] | None = None, begin: Plan | None = None
) -> Plan:
    """Every job in the slot of fewest points that has room, by priority and by how bound it is.

    Then the rest once more, until nothing is added: a street that others closed since is cheaper now. Where
    closing streets costs money that is short, the same with closures spared first: the better of the two.
    slots: of every job, where they are known already. begin: slots wished for, taken where there is room.
    """
    slots = slots or every_slot(problem)
    found = _job_after_job(problem, slots, begin or {}, thrifty=False)
    if problem.money is None or not problem.closure_money:
        return found
    spared = _job_after_job(problem, slots, begin or {}, thrifty=True)
    return min(found, spared, key=lambda plan: points_of(problem, plan))


def _job_after_job(problem: PlanProblem, slots: dict[str, list[Slot]], begin: Plan, thrifty: bool) -> Plan:
    room = fixed_first(problem, begin)
    order = _in_order(problem, slots)
    for job in order:
        wished = begin.get(job.id)
        if wished is not None and room.holds(job, wished):
            room.add(job, wished)
    while True:
        before = len(room.plan)
        for job in order:
            held = [s for s in slots[job.id] if room.holds(job, s)] if job.id not in room.plan else []
            if held:
                room.add(job, min(held, key=lambda s: _rank(job, s, room, thrifty)))
        if len(room.plan) == before:
            return room.plan


def _rank(job: PlanJob, slot: Slot, room: Room, thrifty: bool) -> tuple[int, int, int, str]:
    return room.money_for(job, slot) if thrifty else 0, _points(job, slot, room), slot.week, slot.crew


def _points(job: PlanJob, slot: Slot, room: Room) -> int:
    points = points_of_slot(room.problem, job, slot)
    if job.closure:
        points += CLOSURE * sum((job.closure, week) not in room.closed for week, _ in slot.load())
    if job.infected:
        points += DISINFECTED * sum((slot.crew, week) not in room.unclean for week, _ in slot.load())
    return points


def _in_order(problem: PlanProblem, slots: dict[str, list[Slot]]) -> list[PlanJob]:
    """What others wait for goes before them, with the priority of the most urgent of them."""
    urgency = {job.id: job.priority for job in problem.jobs}
    depth = dict.fromkeys(urgency, 0)
    for _ in problem.jobs:  # as long a chain as there can be; a ring ends it too
        changed = False
        for job in problem.jobs:
            for earlier, _days in job.after:
                if earlier not in urgency:
                    continue
                if urgency[job.id] < urgency[earlier]:
                    urgency[earlier] = urgency[job.id]
                    changed = True
                if depth[earlier] <= depth[job.id] < len(depth):
                    depth[earlier] = depth[job.id] + 1
                    changed = True
        if not changed:
            break
    free = [job for job in problem.jobs if job.fixed is None]
    return sorted(free, key=lambda j: (urgency[j.id], -depth[j.id], len(slots[j.id]), j.id))
