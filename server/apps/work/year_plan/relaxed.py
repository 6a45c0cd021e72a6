"""The year with jobs that may be done in parts: a linear programme, solved in seconds at any size.

It gives what no plan can go below, what each slot would cost beyond that (its reduced cost), and slots to
begin from: nearly all jobs come out whole.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from ortools.linear_solver import pywraplp

from jubark_core.work.year_plan.broken import money_of, weeks_after
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot
from jubark_core.work.year_plan.room import Room
from jubark_core.work.year_plan.score import CLOSURE, DISINFECTED, LEFT_OUT, points_of, points_of_slot

WHOLE = 0.999


@dataclass(frozen=True)
class Relaxed:
    """bound: points no plan goes below. begin: slots that came out whole. dearer: reduced costs."""

    bound: float
    begin: Plan
    dearer: dict[str, list[tuple[float, Slot]]]


def relaxed(problem: PlanProblem, fixed: Room, slots: dict[str, list[Slot]]) -> Relaxed | None:
    """The linear relaxation of the year; None where the solver gives none."""
    of = _Programme(problem, fixed, slots)
    if of.solver.Solve() != pywraplp.Solver.OPTIMAL:
        return None
    begin = {
        id: slot for id, pairs in of.variables.items() for slot, var in pairs if var.solution_value() >= WHOLE
    }
    dearer = {
        id: [(max(0.0, var.reduced_cost()), slot) for slot, var in pairs]
        for id, pairs in of.variables.items()
    }
    return Relaxed(of.solver.Objective().Value(), begin, dearer)


class _Programme:
    """Rows for jobs, hours, money, what comes first, closed streets and disinfection."""

    def __init__(self, problem: PlanProblem, fixed: Room, slots: dict[str, list[Slot]]) -> None:
        self.problem, self.fixed, self.slots = problem, fixed, slots
        self.solver = pywraplp.Solver.CreateSolver("GLOP")
        self.variables: dict[str, list[tuple[Slot, pywraplp.Variable]]] = {}
        objective = self.solver.Objective()
        objective.SetOffset(points_of(problem, fixed.plan))
        hours = {at: self._row(self._room(at)) for at in problem.capacity}
        money = None
        if problem.money is not None:
            money = self._row(max(0, problem.money - money_of(problem, fixed.plan)))
        closures: dict[tuple[str, int], list[pywraplp.Variable]] = defaultdict(list)
        unclean: dict[tuple[str, int], list[tuple[pywraplp.Variable, int]]] = defaultdict(list)
        for job in problem.jobs:
            if job.id not in slots:
                continue
            one = self._row(1)
            pairs = self.variables[job.id] = []
            for slot in slots[job.id]:
                var = self.solver.NumVar(0, 1, "")
                pairs.append((slot, var))
                one.SetCoefficient(var, 1)
                objective.SetCoefficient(var, points_of_slot(problem, job, slot) - LEFT_OUT[job.priority])
                if money is not None and job.money:
                    money.SetCoefficient(var, job.money)
                for week, minutes in slot.load():
                    hours[slot.crew, week].SetCoefficient(var, minutes)
                    if job.closure and (job.closure, week) not in fixed.closed:
                        closures[job.closure, week].append(var)
                    if job.infected and (slot.crew, week) not in fixed.unclean:
                        unclean[slot.crew, week].append((var, minutes))
        self._closed(closures, money)
        self._disinfected(unclean, hours)
        for job in problem.jobs:
            self._after(job)

    def _row(self, most: float) -> pywraplp.Constraint:
        return self.solver.Constraint(-self.solver.infinity(), most)

    def _room(self, at: tuple[str, int]) -> int:
        taken = self.fixed.minutes.get(at, 0)
        if at in self.fixed.unclean:
            taken += self.problem.disinfect_minutes
        return max(0, self.problem.capacity[at] - taken)

    def _closed(
        self, closures: dict[tuple[str, int], list[pywraplp.Variable]], money: pywraplp.Constraint | None
    ) -> None:
        """A street is closed at least by the share of its trees that is done in the week."""
        for variables in closures.values():
            mark = self.solver.NumVar(0, 1, "")
            row = self._row(0)
            row.SetCoefficient(mark, -len(variables))
            for var in variables:
                row.SetCoefficient(var, 1)
            self.solver.Objective().SetCoefficient(mark, CLOSURE)
            if money is not None:
                money.SetCoefficient(mark, self.problem.closure_money)

    def _disinfected(
        self,
        unclean: dict[tuple[str, int], list[tuple[pywraplp.Variable, int]]],
        hours: dict[tuple[str, int], pywraplp.Constraint],
    ) -> None:
        """A week is unclean at least by the share of its hours spent in blocks that are not clean."""
        for at, terms in unclean.items():
            mark = self.solver.NumVar(0, 1, "")
            row = self._row(0)
            row.SetCoefficient(mark, -self._room(at))
            for var, minutes in terms:
                row.SetCoefficient(var, minutes)
            self.solver.Objective().SetCoefficient(mark, DISINFECTED)
            hours[at].SetCoefficient(mark, self.problem.disinfect_minutes)

    def _after(self, job: PlanJob) -> None:
        own = self.variables.get(job.id, [])
        for earlier, days in job.after if own else ():
            fixed = self.fixed.plan.get(earlier)
            for week in sorted({slot.week for slot, _ in own}):
                if fixed is not None and weeks_after(fixed.last_week, days) <= week:
                    continue
                row = self._row(0)
                for slot, var in own:
                    if slot.week <= week:
                        row.SetCoefficient(var, 1)
                for slot, var in self.variables.get(earlier, []):
                    if weeks_after(slot.last_week, days) <= week:
                        row.SetCoefficient(var, -1)
