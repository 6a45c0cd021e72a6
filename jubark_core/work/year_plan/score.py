"""What makes one plan better than another: a sum of whole points, the fewer the better.

Not doing a job outweighs every delay of it. One that cannot wait outweighs 25 of those within four weeks, one
of these fifty of the season. Of two plans that do the same, the one is better that does it earlier, closes a
street once, keeps out of the nesting season, and leaves weeks as they were. What is promised stays, so that a
week of promises may be longer than its crew's; an hour of that outweighs any job that could be done instead,
so that it comes to pass only where no other crew has the room. The figures are this tool's own.
"""

from __future__ import annotations

from jubark_core.work.year_plan.broken import closures_of, promised_of
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot, within

LEFT_OUT = {1: 5_000_000, 2: 200_000, 3: 4_000, 4: 1_000}
A_WEEK_LATER = {1: 200, 2: 40, 3: 6, 4: 2}
AVOIDED, CLOSURE, DISINFECTED, OTHER_WEEK = 25, 60, 5, 3
OVERRUN = 100_000  # a minute that promises take beyond their crew's week


def points_of_slot(problem: PlanProblem, job: PlanJob, slot: Slot) -> int:
    """Points of a job in a slot."""
    later = A_WEEK_LATER[job.priority] * (2 if job.carried_over else 1)
    avoided = 0
    if job.avoid:
        weeks = range(slot.week, slot.last_week + 1)
        avoided = AVOIDED * sum(any(within(day, job.avoid) for day in problem.days[w]) for w in weeks)
    before = problem.before.get(job.id)
    return later * slot.week + avoided + (OTHER_WEEK if before is not None and before != slot.week else 0)


def points_of(problem: PlanProblem, plan: Plan) -> int:
    """Points of a plan."""
    of_jobs = sum(
        points_of_slot(problem, job, plan[job.id]) if job.id in plan else LEFT_OUT[job.priority]
        for job in problem.jobs
    )
    unclean = {
        (slot.crew, week)
        for id, slot in plan.items()
        if problem.by_id[id].infected
        for week, _ in slot.load()
    }
    marks = CLOSURE * len(closures_of(problem, plan)) + DISINFECTED * len(unclean)
    return of_jobs + marks + OVERRUN * sum(overrun_of(problem, plan).values())


def overrun_of(problem: PlanProblem, plan: Plan) -> dict[tuple[str, int], int]:
    """(crew, week) -> minutes that what is promised takes beyond it, with the disinfection it needs."""
    found = {}
    for at, (minutes, infected) in promised_of(problem, plan).items():
        extra = problem.disinfect_minutes if infected else 0
        if (over := minutes + extra - problem.capacity.get(at, 0)) > 0:
            found[at] = over
    return found
