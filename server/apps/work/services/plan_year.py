"""A year plan is asked for, or called off."""

from __future__ import annotations

import datetime

from django.db import IntegrityError, transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from apps.work.models import PlanRun
from apps.work.selectors import settings_of
from apps.work.tasks import plan_the_year
from config.errors import BadInput


def ask_for_plan(*, actor: Member, site: Site, starts: datetime.date) -> PlanRun:
    """Put a run of the planner in the queue of the workers. Raises NotAllowed below steward, BadInput without
    crews or while another run of the site is not over.
    """
    require_role(actor, Role.STEWARD, "Planning the year")
    if not settings_of(site).crews:
        raise BadInput("crews", "none", "at least one crew, set under Crews and rates")
    try:
        with transaction.atomic():
            run = PlanRun.objects.create(
                organisation_id=actor.organisation_id, site=site, starts=starts, asked_by=actor
            )
            note(actor, "plan_asked", thing=site.id, name=site.name)
            plan_the_year.defer(run=str(run.id))
    except IntegrityError:
        raise BadInput(
            "plan", "another run", "once the one that is running has ended or is cancelled"
        ) from None
    return run


@transaction.atomic
def cancel_plan(*, actor: Member, site: Site) -> PlanRun | None:
    """Call off the run that is not over; the plan that holds stays.

    It ends at once, whatever has become of its worker; one that is alive finds out soon, and what it found
    goes.
    Raises NotAllowed below steward.
    """
    require_role(actor, Role.STEWARD, "Cancelling a plan")
    run = PlanRun.objects.select_for_update().filter(site=site, state__in=PlanRun.OPEN).first()
    if run is None:
        return None
    run.cancel_asked = True
    run.state, run.ended_at = PlanRun.State.CANCELLED, timezone.now()
    run.save(update_fields=["cancel_asked", "state", "ended_at"])
    note(actor, "plan_cancelled", thing=site.id, name=site.name)
    return run
