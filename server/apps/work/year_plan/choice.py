"""Which jobs the money and the hours of a year suffice for, whatever the weeks.

Where money is short, doing jobs in parts as the relaxation does makes a bound that no plan comes near; here
every job is done or not, and the calendar is left out instead.
"""

from __future__ import annotations

from dataclasses import dataclass

from ortools.sat.python import cp_model

from jubark_core.work.year_plan.model import PlanJob, PlanProblem, Slot
from jubark_core.work.year_plan.room import Room
from jubark_core.work.year_plan.score import CLOSURE, DISINFECTED, LEFT_OUT, OVERRUN, points_of_slot

SEED = 20261128
WORK = 2.0  # deterministic seconds: the same answer on every machine


@dataclass(frozen=True)
class Choice:
    """bound: points no plan goes below. jobs: those of the best choice found."""

    bound: float
    jobs: frozenset[str]


def choice(problem: PlanProblem, fixed: Room, slots: dict[str, list[Slot]]) -> Choice:
    """The best choice of jobs beside the fixed ones: each in its least dear slot, a street closed for no more
    weeks than its hours take, all hours of all crews in one sum.

    fixed: those jobs in any crew of theirs; what is read of it depends on their weeks alone.
    """
    model = cp_model.CpModel()
    free = [job for job in problem.jobs if job.fixed is None and slots[job.id]]
    taken = {job.id: model.new_bool_var(job.id) for job in free}
    closed = _weeks_closed(problem, fixed, free, slots, taken, model)
    for job in free:
        for earlier, _ in job.after:
            if earlier not in fixed.plan:
                model.add(taken[job.id] <= taken.get(earlier, 0))
    overrun = _overrun(problem, fixed, model)
    hours = sum(problem.capacity.values()) - sum(fixed.minutes.values()) + sum(overrun)
    model.add(sum(taken[j.id] * j.minutes for j in free) <= hours)
    if problem.money is not None:
        spent = sum(taken[j.id] * j.money for j in free) + sum(closed.values()) * problem.closure_money
        model.add(spent <= max(0, problem.money - fixed.spent))
    least = {j.id: min(points_of_slot(problem, j, s) for s in slots[j.id]) for j in free}
    gained = sum(taken[j.id] * (LEFT_OUT[j.priority] - least[j.id]) for j in free)
    model.maximize(gained - CLOSURE * sum(closed.values()) - OVERRUN * sum(overrun))
    solver = cp_model.CpSolver()
    solver.parameters.random_seed = SEED
    solver.parameters.num_workers = 1
    solver.parameters.max_deterministic_time = WORK
    status = solver.solve(model)
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    return Choice(
        _always(problem, fixed) - solver.best_objective_bound,
        frozenset(id for id, var in taken.items() if found and solver.boolean_value(var)),
    )


def _overrun(problem: PlanProblem, fixed: Room, model: cp_model.CpModel) -> list[cp_model.IntVar]:
    """For each week with promises, the minutes they take beyond it: at least what all crews together lack."""
    promised = _by_week(fixed.minutes)
    whole = _by_week(problem.capacity)
    return [
        model.new_int_var(max(0, minutes - whole.get(week, 0)), max(0, minutes), f"beyond {week}")
        for week, minutes in sorted(promised.items())
    ]


def _by_week(minutes: dict[tuple[str, int], int]) -> dict[int, int]:
    found: dict[int, int] = {}
    for (_, week), n in minutes.items():
        found[week] = found.get(week, 0) + n
    return found


def _always(problem: PlanProblem, fixed: Room) -> int:
    """Points of the jobs with a fixed day in whatever crew, and of every other job left out."""
    of_jobs = sum(
        points_of_slot(problem, job, fixed.plan[job.id]) if job.id in fixed.plan else LEFT_OUT[job.priority]
        for job in problem.jobs
    )
    unclean = {week for _, week in fixed.unclean}
    return of_jobs + CLOSURE * len(fixed.closed) + DISINFECTED * len(unclean)


def _weeks_closed(
    problem: PlanProblem,
    fixed: Room,
    free: list[PlanJob],
    slots: dict[str, list[Slot]],
    taken: dict[str, cp_model.IntVar],
    model: cp_model.CpModel,
) -> dict[str, cp_model.IntVar]:
    """Street -> weeks for which it is closed besides: at least as many as the hours of its jobs take, were
    every crew that may do them there in the fullest of their weeks.
    """
    closed = {}
    for street in sorted({job.closure for job in free if job.closure}):
        jobs = [job for job in free if job.closure == street]
        already = len({week for at, week in fixed.closed if at == street})
        closed[street] = weeks = model.new_int_var(0, problem.weeks, street)
        hours = sum(taken[job.id] * job.minutes for job in jobs)
        model.add(hours <= (weeks + already) * _fullest(problem, jobs, slots))
        if not already:
            for job in jobs:
                model.add(weeks >= taken[job.id])
    return closed


def _fullest(problem: PlanProblem, jobs: list[PlanJob], slots: dict[str, list[Slot]]) -> int:
    """Minutes, in the week that has most, of every crew that may do one of the jobs then."""
    at = {(s.crew, week) for job in jobs for s in slots[job.id] for week, _ in s.load()}
    in_week: dict[int, int] = {}
    for crew, week in at:
        in_week[week] = in_week.get(week, 0) + problem.capacity[crew, week]
    return max(in_week.values())
