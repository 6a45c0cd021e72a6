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
NEXT = {"accepted": "planned", "planned": "started", "started": "completed", "stopped": "started"}
# Step -> the stages of a job it follows on; '': a job that nobody has accepted yet.
FOLLOWS = {
    "accepted": ("",),
    "refused": ("", "accepted", "planned"),
    "planned": ("accepted", "planned", "stopped"),
    "changed": ("accepted", "planned", "started", "stopped"),
    "started": ("accepted", "planned", "started", "stopped"),
    "stopped": ("planned", "started"),
    "completed": ("started",),
    "withdrawn": ("accepted", "planned", "started", "stopped"),
}
BESIDE = ("changed", "flagged")  # steps that leave a job at the stage at which it is
OF_THE_HELD = ("line_clearance",)  # asked for on a tree that wires hold, and on no other
ALL_THE_SAME = ("happened", "though_held_by", "though_why")  # of what was done though a check was open
# Step -> what it is called as something to do, and the fields it asks for; any other asks why.
ASKS: dict[str, tuple[str, tuple[str, ...]]] = {
    "planned": (
        "Plan it",
        (
            *("do", "begins", "ends", "earliest_on", "latest_on", "equipment", "cut_cm"),
            *("live_crown_percent", "clearance_m", "standard", "traffic", "street", "route", "crew"),
            *("contractor", "line_clearance", "hours", "cost", "look_again_on"),
        ),
    ),
    "changed": (
        "Change it",
        (
            *("reason", "do", "acts", "begins", "earliest_on", "latest_on", "equipment", "crew", "street"),
            *("hours", "cost"),
        ),
    ),
    "started": ("Start it", ("crew", "contractor", "line_clearance", *ALL_THE_SAME)),
    "stopped": ("Stop it", ("reason", "result")),
    "completed": (
        "Complete it",
        ("result", "workmanship", "hours", "cost", "sealed_minutes", "look_again_on", *ALL_THE_SAME),
    ),
}
EMERGENCY_ASKS = (
    *("emergency_lead", "emergency_reason", "danger", "ordered_by", "least_work", "photographed"),
    *("no_photograph", "nests_looked_for", "roost_possible", "nobody_to_be_had", "not_known_protected"),
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
    def stage(self) -> str:
        """Where it stands: its newest step that moved it; '' before it was accepted."""
        return stage_after([step.body for step in self.steps])

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


def stage_after(steps: Sequence[Work]) -> str:
    """The stage of a job after its steps, the newest last."""
    return next((step.step for step in reversed(steps) if step.step not in BESIDE), "")


def follows_on(stage: str, step: str) -> bool:
    """Whether a step can follow on a stage of a job."""
    return step in BESIDE[1:] or stage in FOLLOWS[step]


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
