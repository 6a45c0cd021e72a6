"""Jobs of a tree: their steps, in which order these follow, and where each job stands."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from jubark_core.records.bodies import Body
from jubark_core.records.working import Work

OVER = ("completed", "refused", "withdrawn")
# Step -> the step that carries a job on from it.
NEXT = {"accepted": "planned", "changed": "planned", "planned": "started", "started": "completed"}


@dataclass
class Job:
    """A job and its steps, the newest last."""

    job: UUID
    steps: list[tuple[datetime.date, Work]] = field(default_factory=list)

    @property
    def last(self) -> Work:
        """The newest step."""
        return self.steps[-1][1]

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
        return next((v for _, step in reversed(self.steps) if (v := getattr(step, name))), None)

    def completed_on(self) -> datetime.date | None:
        """When it was completed, where it was."""
        return self.steps[-1][0] if self.last.step == "completed" else None


def jobs_of(bodies: Sequence[tuple[datetime.date, Body]]) -> list[Job]:
    """The jobs of a tree with their steps. bodies: what stands, the oldest first."""
    found: dict[UUID, Job] = {}
    for day, body in bodies:
        if isinstance(body, Work):
            found.setdefault(body.job, Job(body.job)).steps.append((day, body))
    return list(found.values())
