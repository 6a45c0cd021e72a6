"""Jobs of a tree: their steps, in which order these follow, and where each job stands."""

from __future__ import annotations

import datetime
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from jubark_core.records.working import Work
from jubark_core.tree_file.filed import Dated

OVER = ("completed", "refused", "withdrawn")
# Step -> the step that carries a job on from it.
NEXT = {"accepted": "planned", "changed": "planned", "planned": "started", "started": "completed"}
OF_THE_HELD = ("line_clearance", "though_held_by")  # asked for on a tree that wires hold, and on no other
# Step -> what it is called as something to do, and the fields it asks for; any other asks why.
ASKS: dict[str, tuple[str, tuple[str, ...]]] = {
    "planned": (
        "Plan it",
        (
            *("do", "begins", "ends", "earliest_on", "latest_on", "equipment", "cut_cm"),
            *("live_crown_percent", "clearance_m", "standard", "traffic", "street", "route", "crew"),
            *("line_clearance", "hours", "cost", "look_again_on"),
        ),
    ),
    "changed": (
        "Change it",
        ("reason", "do", "earliest_on", "latest_on", "equipment", "street", "hours", "cost"),
    ),
    "started": ("Start it", ("crew", "line_clearance", "though_held_by")),
    "completed": (
        "Complete it",
        ("result", "workmanship", "hours", "cost", "sealed_minutes", "look_again_on", "though_held_by"),
    ),
}
EMERGENCY_ASKS = (
    *("emergency_by", "emergency_reason", "least_work", "photographed", "nests_looked_for"),
    *("roost_possible", "not_known_protected"),
)


@dataclass
class Job:
    """A job and its steps, the newest last."""

    job: UUID
    steps: list[Dated[Work]] = field(default_factory=list)

    @property
    def last(self) -> Work:
        """The newest step."""
        return self.steps[-1].body

    @property
    def part(self) -> str:
        """The later part of its rule it does; '': the first."""
        return self.said("part") or ""

    @property
    def is_over(self) -> bool:
        """Whether it was completed, refused or withdrawn."""
        return self.last.step in OVER

    def said(self, name: str) -> Any:
        """The newest step that says this."""
        return next((v for step in reversed(self.steps) if (v := getattr(step.body, name))), None)

    def completed_on(self) -> datetime.date | None:
        """When it was completed, where it was."""
        return self.steps[-1].on if self.last.step == "completed" else None


def jobs_of(steps: Sequence[Dated[Work]]) -> list[Job]:
    """The jobs of a tree. steps: those that stand, the oldest first."""
    found: dict[UUID, Job] = {}
    for step in steps:
        found.setdefault(step.body.job, Job(step.body.job)).steps.append(step)
    return list(found.values())


def open_twice(jobs: Sequence[Job]) -> set[UUID]:
    """Jobs of which another of the same rule and part is open besides: as a rule one of each record."""
    open_ = [(job.last.rule, job.part, job.job) for job in jobs if not job.is_over]
    count = Counter((rule, part) for rule, part, _ in open_)
    return {job for rule, part, job in open_ if count[rule, part] > 1}
