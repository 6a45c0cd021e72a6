"""Jobs of a tree: their steps, in which order these follow, and where each job stands."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from jubark_core.records.working import Work
from jubark_core.tree_file.filed import Dated

OVER = ("completed", "refused", "withdrawn")
# Step -> the step that carries a job on from it.
NEXT = {"accepted": "planned", "changed": "planned", "planned": "started", "started": "completed"}


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
