"""A step of a job as an operation: for a device that knows its visits, sent and unsent ones alike, and what
stands round the tree as it was last read.
"""

from __future__ import annotations

import datetime
from typing import Annotated, Any, NotRequired, TypedDict
from uuid import UUID

from jubark_core.checks import require_date, require_moment
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.records.shapes import Id
from jubark_core.records.working import Work
from jubark_core.tree_file.filed import Dated
from jubark_core.tree_file_here import TreeFileIn, file_here
from jubark_core.work.before.job import step_of_job
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.case_of_tree import case_of_tree
from jubark_core.work.contract import JobAnswer


class StepHereIn(TypedDict):
    """A step that is asked for now, on a job of the tree."""

    tree: TreeFileIn
    around: Annotated[dict[str, Any], "What stands round the tree, under the names of `WorkCaseIn`."]
    job: str
    step: str
    at: Annotated[str, "The moment, with its offset."]
    crew: NotRequired[str]
    happened: NotRequired[bool]


def step_here(given: StepHereIn, flora: Flora) -> JobAnswer:
    """Whether the step may be taken, by what this device knows. Raises InputError naming the place."""
    file, _ = file_here(given["tree"], flora)
    on = require_date("tree.on", given["tree"]["on"])
    at: datetime.datetime = require_moment("at", given["at"])
    wanted = Id().read("job", given["job"], {})
    job = next((j for j in file.jobs if j.job == wanted), None)
    if job is None:
        raise InputError("job", given["job"], "a job of this tree")
    if given["step"] not in ("planned", "started", "completed"):
        raise InputError("step", given["step"], "planned, started or completed")
    step = Work(job=job.job, rule=job.last.rule, step=given["step"], crew=given.get("crew", ""))
    steps = [*(s for s in job.steps if s.at <= at), Dated(on, step, UUID(int=0), at)]
    asked = {**step_of_job(file, steps), "case": case_of_tree(file, given["around"])}
    return may_take_step({**asked, "happened": given.get("happened", False)}, flora)
