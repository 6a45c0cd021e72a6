"""A plan of a year by constraint programming (CP-SAT of OR-Tools), begun from the core's first plan.

What a plan must hold is said in `jubark_core.work.year_plan.broken`; here it is said once more as linear
constraints over one yes or no for each slot of each job.
"""

from __future__ import annotations

import math
import threading
import time
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from ortools.sat.python import cp_model

from apps.work.year_plan.choice import choice
from apps.work.year_plan.relaxed import relaxed
from jubark_core.work.year_plan.broken import broken_by, spendable, weeks_after
from jubark_core.work.year_plan.first_plan import first_plan, fixed_first
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot
from jubark_core.work.year_plan.score import (
    CLOSURE,
    DISINFECTED,
    LEFT_OUT,
    OVERRUN,
    points_of,
    points_of_slot,
)
from jubark_core.work.year_plan.slots import every_slot

SEED = 20261127
SECONDS = 30.0
GAP = 0.001  # of the search; what is stated is against the relaxation
MOST_SLOTS = 30_000
LEAST_SLOTS_OF_A_JOB = 8
ASKED_EVERY_S = 0.2


@dataclass(frozen=True)
class Solved:
    """A plan, its points, a bound no plan goes below. hopeless: points of jobs that have no slot at all."""

    plan: Plan
    points: int
    bound: int
    hopeless: int = 0
    cancelled: bool = False

    @property
    def gap(self) -> float:
        """How far it may be from the best, as a share of the points a planner can do anything about."""
        open_to_it = self.points - self.hopeless
        return (self.points - self.bound) / open_to_it if open_to_it else 0.0


@dataclass(frozen=True)
class Limits:
    """How long it looks. deterministic: by work done instead of by the clock, for tests that repeat."""

    seconds: float = SECONDS
    deterministic: float | None = None
    workers: int = 8  # search strategies side by side; with one alone, and `deterministic`, it repeats
    gap: float = GAP


@dataclass(frozen=True)
class Found:
    """A better plan on the way: its points, the bound, how many jobs it holds."""

    points: int
    bound: int
    planned: int


def solve(
    problem: PlanProblem,
    limits: Limits | None = None,
    on_better: Callable[[Found], None] | None = None,
    stop_asked: Callable[[], bool] | None = None,
) -> Solved:
    """The best plan found within the limits: never a worse one than the core's first plan, and none that
    breaks a constraint.

    on_better: told of each better plan. stop_asked: asked now and then; once it says so, the search ends.
    """
    limits = limits or Limits()
    began = time.monotonic()
    slots = every_slot(problem)
    plan = first_plan(problem, slots)
    points = points_of(problem, plan)
    bound, worth, cut = 0.0, slots, False
    if loose := relaxed(problem, slots):
        bound = loose.bound
        begun = [first_plan(problem, slots, loose.begin)]
        if problem.money is not None:
            chosen = choice(problem, fixed_first(problem), slots)
            bound = max(bound, chosen.bound)
            some = {id: s if id in chosen.jobs or problem.by_id[id].fixed else [] for id, s in slots.items()}
            begun.append(first_plan(problem, slots, first_plan(problem, some, loose.begin)))
        plan = min([plan, *begun], key=lambda one: points_of(problem, one))
        points = points_of(problem, plan)
        worth, cut = _worth_a_look(loose.dearer, points - loose.bound, plan)
        worth |= {id: slots[id] for id in slots if problem.by_id[id].fixed}
    if on_better:
        on_better(Found(points, round(bound), len(plan)))
    begun_from = points
    model = _Model(problem, worth)
    model.hint(plan)
    solver = cp_model.CpSolver()
    solver.parameters.random_seed = SEED
    solver.parameters.num_workers = limits.workers
    solver.parameters.relative_gap_limit = limits.gap
    solver.parameters.linearization_level = 2  # closed streets and money bind through their sums
    if limits.deterministic is None:
        solver.parameters.max_time_in_seconds = max(1.0, limits.seconds - (time.monotonic() - began))
    else:
        solver.parameters.max_deterministic_time = limits.deterministic
    watch = _Watch(on_better, bound, model)
    with _ended_when(stop_asked, solver) as ended:
        status = solver.solve(model.model, watch)
    if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        found = model.plan_of(solver)
        if points_of(problem, found) < points:
            plan, points = found, points_of(problem, found)
        if not cut:  # what was left out is dearer than the plan it began from
            bound = max(bound, min(solver.best_objective_bound + model.hopeless, begun_from))
    whole = first_plan(problem, slots, plan)  # a search cut short may have left room for a job
    if points_of(problem, whole) < points:
        plan, points = whole, points_of(problem, whole)
    if broken := broken_by(problem, plan):
        raise AssertionError(f"the planner made a plan that does not hold: {broken[0]}")
    return Solved(plan, points, min(points, math.ceil(bound - 1e-6)), model.hopeless, ended.is_set())


def _worth_a_look(
    dearer: dict[str, list[tuple[float, Slot]]], gap: float, plan: Plan
) -> tuple[dict[str, list[Slot]], bool]:
    """The slots that can be in a better plan than the one at hand: those dearer than the gap cannot.

    Of many jobs the least dear of each alone, so that the search stays small: then (True) its bound is none
    of the year.
    """
    found = {}
    cut = False
    most = max(LEAST_SLOTS_OF_A_JOB, MOST_SLOTS // max(1, len(dearer)))
    for id, pairs in dearer.items():
        ranked = sorted((d, s.week, s.crew, s) for d, s in pairs if d <= gap + 1e-6 or s == plan.get(id))
        chosen = [s for *_, s in ranked[:most]]
        cut = cut or len(ranked) > most
        if id in plan and plan[id] not in chosen:
            chosen.append(plan[id])
        found[id] = chosen
    return found, cut


@contextmanager
def _ended_when(
    stop_asked: Callable[[], bool] | None, solver: cp_model.CpSolver
) -> Iterator[threading.Event]:
    """Ends the search soon after that is asked for; the event tells that it was."""
    ended, over = threading.Event(), threading.Event()

    def watch() -> None:
        while stop_asked and not over.wait(ASKED_EVERY_S):
            if stop_asked():
                ended.set()
                solver.stop_search()
                return

    thread = threading.Thread(target=watch, daemon=True)
    thread.start()
    try:
        yield ended
    finally:
        over.set()
        thread.join()


class _Watch(cp_model.CpSolverSolutionCallback):
    """Tells of better plans while the search goes on."""

    def __init__(self, on_better: Callable[[Found], None] | None, bound: float, model: _Model) -> None:
        super().__init__()
        self.on_better, self.bound, self.model = on_better, bound, model

    def on_solution_callback(self) -> None:
        """Called by the solver for each better plan."""
        if self.on_better:
            hopeless = self.model.hopeless
            bound = max(self.bound, self.best_objective_bound + hopeless)
            planned = sum(self.boolean_value(var) for pairs in self.model.slots.values() for _, var in pairs)
            self.on_better(Found(round(self.objective_value) + hopeless, round(bound), planned))


class _Model:
    """The constraints of a year, one variable for each slot of each job."""

    def __init__(self, problem: PlanProblem, slots: dict[str, list[Slot]]) -> None:
        self.problem = problem
        self.model = cp_model.CpModel()
        self.hopeless = sum(LEFT_OUT[job.priority] for job in problem.jobs if not slots[job.id])
        self.slots: dict[str, list[tuple[Slot, cp_model.IntVar]]] = {}
        for job in problem.jobs:
            self.slots[job.id] = [
                (slot, self.model.new_bool_var(f"{job.id} {slot.week} {slot.crew}")) for slot in slots[job.id]
            ]
            one = [var for _, var in self.slots[job.id]]
            if job.fixed and one:
                self.model.add_exactly_one(one)
            else:
                self.model.add_at_most_one(one)
        self.unclean = self._marks(
            ((slot.crew, week), var)
            for job, slot, var in self._each()
            if job.infected
            for week, _ in slot.load()
        )
        self.closed = self._marks(
            ((job.closure, week), var)
            for job, slot, var in self._each()
            if job.closure
            for week, _ in slot.load()
        )
        self.overrun: list[cp_model.IntVar] = []
        self._hours()
        self._money()
        for job in problem.jobs:
            self._after(job)
        self._points()

    def _each(self) -> list[tuple[PlanJob, Slot, cp_model.IntVar]]:
        return [(job, slot, var) for job in self.problem.jobs for slot, var in self.slots[job.id]]

    def _marks(
        self, uses: Iterable[tuple[tuple[str, int], cp_model.IntVar]]
    ) -> dict[tuple[str, int], cp_model.IntVar]:
        """A variable for each (crew or street, week) that is on as soon as one of its slots is taken."""
        by_mark: dict[tuple[str, int], list[cp_model.IntVar]] = defaultdict(list)
        for at, var in uses:
            by_mark[at].append(var)
        marks = {}
        for at, variables in by_mark.items():
            marks[at] = self.model.new_bool_var(f"{at[0]} {at[1]}")
            for var in variables:
                self.model.add_implication(var, marks[at])
        return marks

    def _hours(self) -> None:
        """No crew works longer than its week but where promises alone take more."""
        load: dict[tuple[str, int], list[tuple[cp_model.IntVar, int]]] = defaultdict(list)
        others: dict[tuple[str, int], list[cp_model.IntVar]] = defaultdict(list)
        promised: dict[tuple[str, int], int] = defaultdict(int)
        for job, slot, var in self._each():
            for week, minutes in slot.load():
                at = slot.crew, week
                load[at].append((var, minutes))
                if job.fixed:
                    promised[at] += minutes
                elif minutes:
                    others[at].append(var)
        extra = self.problem.disinfect_minutes
        for at, terms in load.items():
            if at in self.unclean:
                terms.append((self.unclean[at], extra))
            taken = sum(var * minutes for var, minutes in terms)
            if at not in promised:
                self.model.add(taken <= self.problem.capacity[at])
                continue
            beyond = self.model.new_int_var(0, promised[at] + extra, f"{at[0]} {at[1]} beyond")
            self.overrun.append(beyond)
            self.model.add(taken <= self.problem.capacity[at] + beyond)
            for var in others[at]:
                self.model.add(beyond == 0).only_enforce_if(var)

    def _money(self) -> None:
        if self.problem.money is None:
            return
        terms = [var * job.money for job, _, var in self._each()]
        terms += [var * self.problem.closure_money for var in self.closed.values()]
        self.model.add(sum(terms) <= spendable(self.problem, fixed_first(self.problem).plan))

    def _after(self, job: PlanJob) -> None:
        """In whatever week it begins, what must come before has been done early enough."""
        for earlier, days in job.after if job.fixed is None else ():
            done = self.slots.get(earlier, [])
            for week in sorted({slot.week for slot, _ in self.slots[job.id]}):
                begun = [var for slot, var in self.slots[job.id] if slot.week <= week]
                ready = [var for slot, var in done if weeks_after(slot.last_week, days) <= week]
                self.model.add(sum(begun) <= sum(ready))

    def _points(self) -> None:
        always = sum(LEFT_OUT[job.priority] for job in self.problem.jobs) - self.hopeless
        terms = [var * OVERRUN for var in self.overrun]
        for job, slot, var in self._each():
            points = points_of_slot(self.problem, job, slot) - LEFT_OUT[job.priority]
            terms.append(var * points)
        terms += [var * CLOSURE for var in self.closed.values()]
        terms += [var * DISINFECTED for var in self.unclean.values()]
        self.model.minimize(always + sum(terms))

    def hint(self, plan: Plan) -> None:
        """Begin from a plan."""
        taken = {(id, slot) for id, slot in plan.items()}
        marks: set[tuple[str, int]] = set()
        for job, slot, var in self._each():
            on = (job.id, slot) in taken
            self.model.add_hint(var, on)
            for week, _ in slot.load() if on else ():
                marks |= {(slot.crew, week)} if job.infected else set()
                marks |= {(job.closure, week)} if job.closure else set()
        for at, var in [*self.unclean.items(), *self.closed.items()]:
            self.model.add_hint(var, at in marks)

    def plan_of(self, solver: cp_model.CpSolver) -> Plan:
        """The plan the solver holds."""
        return {job.id: slot for job, slot, var in self._each() if solver.boolean_value(var)}
