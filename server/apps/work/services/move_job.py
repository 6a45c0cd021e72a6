"""A job put on a day by hand, or given back to the plan."""

from __future__ import annotations

import datetime
from uuid import UUID

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from apps.work.models import MovedJob
from apps.work.year_plan.problem import year_of
from config.errors import BadInput
from jubark_core.work.year_plan.slots import good_days


@transaction.atomic
def move_job(*, actor: Member, site: Site, job: UUID, on: datetime.date | None, today: datetime.date) -> None:
    """Keep a job in the week of a day; None: the plan finds a week for it again. The plan that holds is not
    changed: the next one goes round it.

    Raises NotAllowed below steward, BadInput for a job that is not open, a day of another year, or a week in
    which the job may not be done.
    """
    require_role(actor, Role.STEWARD, "Moving a job")
    problem = year_of(actor, site, today).problem
    found = problem.by_id.get(str(job))
    if found is None:
        raise BadInput("job", job, "an open job of this site")
    if on is not None:
        week = problem.week_of(on)
        if on < today or week >= problem.weeks:
            raise BadInput("on", on, f"{today} to {problem.days[-1][-1]}")
        if not good_days(found, problem, week):
            raise BadInput("on", on, _allowed([(str(a), str(b)) for a, b in found.windows]))
    MovedJob.objects.create(organisation_id=actor.organisation_id, site=site, job=job, on=on, moved_by=actor)
    note(actor, "job_moved", thing=site.id, name=site.name, job=str(job), on=str(on) if on else None)


def _allowed(windows: list[tuple[str, str]]) -> str:
    if not windows:
        return "a day after its lead times, outside the days on which it is never done"
    return "a day of its season: " + " or ".join(f"{a} to {b}" for a, b in windows)
