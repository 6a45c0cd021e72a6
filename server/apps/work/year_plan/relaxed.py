"""The year with jobs that may be done in parts: a linear programme, solved in seconds at any size.

It gives what no plan can go below, what each slot would cost beyond that (its reduced cost), and slots to
begin from: nearly all jobs come out whole.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from ortools.linear_solver import pywraplp

from jubark_core.work.year_plan.broken import spendable, weeks_after
from jubark_core.work.year_plan.first_plan import fixed_first
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot
from jubark_core.work.year_plan.score import CLOSURE, DISINFECTED, LEFT_OUT, OVERRUN, points_of_slot

WHOLE = 0.999


@dataclass(frozen=True)
class Relaxed:
    """bound: points no plan goes below. begin: slots that came out whole. dearer: reduced costs."""

    bound: float
    begin: Plan
    dearer: dict[str, list[tuple[float, Slot]]]


def relaxed(problem: PlanProblem, slots: dict[str, list[Slot]]) -> Relaxed | None:
    """The linear relaxation of the year; None where the solver gives none. Jobs with a fixed day are never
    left out, and choose their crew like the others.
    """
    of = _Programme(problem, slots)
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

    def __init__(self, problem: PlanProblem, slots: dict[str, list[Slot]]) -> None:
        self.problem, self.slots = problem, slots
        self.solver = pywraplp.Solver.CreateSolver("GLOP")
        self.variables: dict[str, list[tuple[Slot, pywraplp.Variable]]] = {}
        objective = self.solver.Objective()
        objective.SetOffset(sum(LEFT_OUT[job.priority] for job in problem.jobs))
        hours = {at: self._row(room) for at, room in problem.capacity.items()}
        money = None
        if problem.money is not None:
            money = self._row(spendable(problem, fixed_first(problem).plan))
        closures: dict[tuple[str, int], list[pywraplp.Variable]] = defaultdict(list)
        unclean: dict[tuple[str, int], list[tuple[pywraplp.Variable, int]]] = defaultdict(list)
        promised: set[tuple[str, int]] = set()
        for job in problem.jobs:
            one = self._row(1, least=1 if job.fixed and slots[job.id] else None)
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
                    if job.closure:
                        closures[job.closure, week].append(var)
                    if job.infected:
                        # of what is promised all counts at once: it may be longer than the week
                        unclean[slot.crew, week].append((var, 0 if job.fixed else minutes))
                    if job.fixed:
                        promised.add((slot.crew, week))
        self._closed(closures, money)
        self._disinfected(unclean, hours)
        for at in promised:
            self._overrun(hours[at])
        for job in problem.jobs:
            self._after(job)

    def _row(self, most: float, least: float | None = None) -> pywraplp.Constraint:
        return self.solver.Constraint(-self.solver.infinity() if least is None else least, most)

    def _overrun(self, hours: pywraplp.Constraint) -> None:
        """What is promised may take more than the week has, and it costs."""
        beyond = self.solver.NumVar(0, self.solver.infinity(), "")
        hours.SetCoefficient(beyond, -1)
        self.solver.Objective().SetCoefficient(beyond, OVERRUN)

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
            row.SetCoefficient(mark, -self.problem.capacity[at])
            for var, minutes in terms:
                if minutes:
                    row.SetCoefficient(var, minutes)
                else:
                    alone = self._row(0)
                    alone.SetCoefficient(mark, -1)
                    alone.SetCoefficient(var, 1)
            self.solver.Objective().SetCoefficient(mark, DISINFECTED)
            hours[at].SetCoefficient(mark, self.problem.disinfect_minutes)

    def _after(self, job: PlanJob) -> None:
        own = self.variables.get(job.id, [])
        for earlier, days in job.after if own and job.fixed is None else ():
            for week in sorted({slot.week for slot, _ in own}):
                row = self._row(0)
                for slot, var in own:
                    if slot.week <= week:
                        row.SetCoefficient(var, 1)
                for slot, var in self.variables.get(earlier, []):
                    if weeks_after(slot.last_week, days) <= week:
                        row.SetCoefficient(var, -1)
