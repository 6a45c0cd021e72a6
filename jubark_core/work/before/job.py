"""A step of a job as its file has it: what the job says by then, and what stood against a step taken."""

from __future__ import annotations

import datetime
from collections.abc import Callable, Sequence
from typing import Any, TypedDict
from uuid import UUID

from jubark_core.flora.model import Flora
from jubark_core.records.working import Work
from jubark_core.tree_file.file import TreeFile, tree_file
from jubark_core.tree_file.filed import Dated
from jubark_core.tree_file.jobs import Job, stage_after
from jubark_core.work.before.steps import DONE, may_take_step
from jubark_core.work.contract import StepIn

SINCE_ACTS = 7  # the record version from which on a job is made of acts, and checks hang on these
EMERGENCY = (
    *("danger", "ordered_by", "least_work", "photographed", "no_photograph", "nests_looked_for"),
    *("roost_possible", "nobody_to_be_had", "not_known_protected"),
)


class Breach(TypedDict):
    """A step that was taken though something stood against it."""

    entry: str
    on: str
    step: str
    flagged: list[str]


def step_of_job(file: TreeFile, steps: Sequence[Dated[Work]], late: bool = False) -> StepIn:
    """The newest of the steps of a job as a question: with what the job says by then. late: it had happened
    before it could be refused.
    """
    step, before = steps[-1], steps[:-1]
    body = step.body
    job = Job(body.job, list(steps))
    begins = job.said("begins") if body.step in ("planned", "changed") else None
    day = begins or step.on
    begun = [s.at for s in before if s.body.step == "started" and s.on == step.on]
    follows = job.said("follows")
    return {
        "job": str(body.job),
        "rule": body.rule,
        "part": job.part,
        "first_part_on": _first_part_on(file, body.rule, follows),
        "step": body.step,  # type: ignore[typeddict-item]
        "stage": stage_after([s.body for s in before]),
        "on": day.isoformat(),
        "at": step.at.isoformat() if day == step.on else None,
        "begun_at": max(begun).isoformat() if begun else None,
        "acts": acts_said(job),
        "do": job.said("do") or "",
        "equipment": job.said("equipment") or "",
        "crew": job.said("crew") or "",
        "contractor": str(job.said("contractor") or ""),
        "route": job.said("route") or "",
        "earliest_on": _iso(job.said("earliest_on")),
        "latest_on": _latest(file, job, follows),
        "sealed_minutes": body.sealed_minutes,
        "line_clearance": bool(job.said("line_clearance")),
        "emergency": _emergency(body),
        "happened": body.happened,
        "late": late,
        "though_held_by": body.though_held_by,
        "though_why": body.though_why,
    }


def acts_said(job: Job) -> list[str]:
    """The acts that were last said of a job; none: those of its rule."""
    return [one.act for one in job.said("acts") or ()]


def is_emergency(body: Work) -> bool:
    """Whether the step names one."""
    return bool(body.emergency_lead or body.emergency_by.strip() or body.danger)


def breaches_of(
    job: Job, file: TreeFile, case_on: Callable[[TreeFile], dict[str, Any]], flora: Flora
) -> list[Breach]:
    """The steps of a job that were taken though something stood against them, by what the file says of that
    moment: what was withdrawn or given later does not count. case_on: the case of a file on its day.
    """
    found: list[Breach] = []
    of_before = {e.id for e in file.entries if e.version < SINCE_ACTS}  # they were judged as they came in
    for i, step in enumerate(job.steps):
        if step.body.step not in DONE or step.entry in of_before:
            continue
        then = tree_file(file.records, step.on, file.merged_on)
        asked = {**step_of_job(file, job.steps[: i + 1], late=True), "case": case_on(then)}
        if flagged := may_take_step(asked, flora)["flagged"]:
            found.append(
                {
                    "entry": str(step.entry),
                    "on": step.on.isoformat(),
                    "step": step.body.step,
                    "flagged": flagged,
                }
            )
    return found


def next_step(job: Job, on: datetime.date, at: datetime.datetime | None, step: str) -> Sequence[Dated[Work]]:
    """The steps of a job with one that might be taken next, for what it would be asked."""
    asked = Work(job=job.job, rule=job.last.rule, step=step)
    moment = at or datetime.datetime.combine(on, datetime.time(12), datetime.UTC)
    return [*job.steps, Dated(on, asked, UUID(int=0), moment)]


def job_asks(job: Job, file: TreeFile, on: datetime.date, at: datetime.datetime | None = None) -> StepIn:
    """What the job is asked next: planned, as long as it has not begun; on the day it is planned for where
    that lies ahead.
    """
    begun = job.stage in ("started", "stopped")
    begins = job.said("begins")
    day = on if begun or not begins else max(on, begins)
    step = "started" if begun else "planned"
    asked = step_of_job(file, next_step(job, day, at if day == on else None, step))
    return {
        **asked,
        "unplanned": not begun and not begins,
        "on": day.isoformat(),
        "at": asked["at"] if begun else (at.isoformat() if at and day == on else None),
    }


def _first_part_on(file: TreeFile, rule: str, follows: UUID | None) -> str | None:
    """When the first part of the same rule was completed, by the job that this one follows; of no other."""
    first = next((j for j in file.jobs if j.job == follows and j.last.rule == rule), None)
    if first is None or first.part:
        return None  # a later part itself: nothing follows on it
    days = [step.on for step in first.steps if step.body.step == "completed"]
    return max(days).isoformat() if days else None


def _latest(file: TreeFile, job: Job, follows: UUID | None) -> str | None:
    """The last day of every part: as said of this one, or of the one it follows."""
    said = job.said("latest_on")
    first = next((j for j in file.jobs if j.job == follows), None)
    return _iso(said or (first.said("latest_on") if first else None))


def _emergency(body: Work) -> Any:
    if not is_emergency(body):
        return None
    told = {name: getattr(body, name) for name in EMERGENCY}
    return {**told, "lead": str(body.emergency_lead or ""), "reason": body.emergency_reason}


def _iso(day: datetime.date | None) -> str | None:
    return day.isoformat() if day else None
