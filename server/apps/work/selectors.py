"""What is set and planned for a site: settings, jobs moved by hand, runs of the planner."""

from __future__ import annotations

import datetime
from uuid import UUID

from django.db.models import QuerySet

from apps.organisations.models import Member
from apps.organisations.permissions import visible_to
from apps.sites.models import Site
from apps.work.models import LookUp, MovedJob, PlanRun, SiteWorkSettings
from jubark_core.records.fields import load
from jubark_core.records.office import WorkSettings


def settings_of(site: Site) -> WorkSettings:
    """What work of the site is planned with; without any, empty settings."""
    newest = SiteWorkSettings.objects.filter(site=site).order_by("-id").first()
    return load(WorkSettings, newest.body) if newest else WorkSettings()


def look_ups_visible_to(actor: Member) -> QuerySet[LookUp]:
    """Evidence for many trees, of the actor's organisation, the newest first."""
    return visible_to(actor, LookUp.objects.order_by("-made_at", "-id"))


def moved_jobs(site: Site) -> dict[UUID, datetime.date]:
    """Jobs that stand where somebody put them by hand."""
    newest: dict[UUID, datetime.date | None] = dict(
        MovedJob.objects.filter(site=site).order_by("id").values_list("job", "on")
    )
    return {job: on for job, on in newest.items() if on is not None}


def plan_runs_visible_to(actor: Member) -> QuerySet[PlanRun]:
    """Runs of the planner of the actor's organisation, the newest first."""
    return visible_to(actor, PlanRun.objects.order_by("-asked_at", "-id"))


def plan_of(site: Site) -> PlanRun | None:
    """The plan that holds: of the newest run that is ready."""
    runs = PlanRun.objects.filter(site=site, state=PlanRun.State.READY)
    return runs.order_by("-ended_at", "-id").first()
