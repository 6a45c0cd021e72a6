"""What makes one plan better than another: a sum of whole points, the fewer the better.

Not doing a job outweighs every delay of it. One that cannot wait outweighs 25 of those within four weeks, one
of these fifty of the season. Of two plans that do the same, the one is better that does it earlier, closes a
street once, keeps out of the nesting season, and leaves weeks as they were. The figures are this tool's own.
"""

from __future__ import annotations

from jubark_core.work.year_plan.broken import closures_of
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot, within

LEFT_OUT = {1: 5_000_000, 2: 200_000, 3: 4_000, 4: 1_000}
A_WEEK_LATER = {1: 200, 2: 40, 3: 6, 4: 2}
AVOIDED, CLOSURE, DISINFECTED, OTHER_WEEK = 25, 60, 5, 3


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
    return of_jobs + CLOSURE * len(closures_of(problem, plan)) + DISINFECTED * len(unclean)
