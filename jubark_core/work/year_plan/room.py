"""The hours and the money a plan in the making still has, kept as jobs are added."""

from __future__ import annotations

from dataclasses import dataclass, field

from jubark_core.work.year_plan.broken import weeks_after
from jubark_core.work.year_plan.model import Plan, PlanJob, PlanProblem, Slot


@dataclass
class Room:
    """What is taken so far. Jobs with a fixed day are added first: they are never refused."""

    problem: PlanProblem
    plan: Plan = field(default_factory=dict)
    minutes: dict[tuple[str, int], int] = field(default_factory=dict)
    unclean: set[tuple[str, int]] = field(default_factory=set)
    closed: set[tuple[str, int]] = field(default_factory=set)
    spent: int = 0

    def add(self, job: PlanJob, slot: Slot) -> None:
        """Take the slot for the job."""
        self.spent += self.money_for(job, slot)
        self.plan[job.id] = slot
        for week, minutes in slot.load():
            at = slot.crew, week
            self.minutes[at] = self.minutes.get(at, 0) + minutes
            if job.infected:
                self.unclean.add(at)
            if job.closure:
                self.closed.add((job.closure, week))

    def money_for(self, job: PlanJob, slot: Slot) -> int:
        """What the job costs there: a street that is closed anyway costs nothing more."""
        new = {(job.closure, week) for week, _ in slot.load()} - self.closed if job.closure else set()
        return job.money + self.problem.closure_money * len(new)

    def free(self, crew: str, week: int, infected: bool) -> int:
        """Minutes a crew has left in a week for a job, the disinfection taken off; below 0: overrun."""
        at = crew, week
        extra = self.problem.disinfect_minutes if infected or at in self.unclean else 0
        return self.problem.capacity[at] - self.minutes.get(at, 0) - extra

    def missing_minutes(self, job: PlanJob, slot: Slot) -> int:
        """Minutes the slot is short of; 0: it has the hours."""
        return sum(
            max(0, minutes - self.free(slot.crew, week, job.infected))
            for week, minutes in slot.load()
            if minutes
        )

    def missing_money(self, job: PlanJob, slot: Slot) -> int:
        """Money the slot is short of; 0: there is enough."""
        if self.problem.money is None:
            return 0
        needed = self.money_for(job, slot)
        return max(0, min(needed, self.spent + needed - self.problem.money))

    def waits_for(self, job: PlanJob, slot: Slot) -> str:
        """The job it would come too soon after, or that is not planned; none: ''."""
        for earlier, days in job.after:
            first = self.plan.get(earlier)
            if first is None or slot.week < weeks_after(first.last_week, days):
                return earlier
        return ""

    def holds(self, job: PlanJob, slot: Slot) -> bool:
        """Whether the job can have the slot."""
        return (
            not self.missing_minutes(job, slot)
            and not self.missing_money(job, slot)
            and not self.waits_for(job, slot)
        )
