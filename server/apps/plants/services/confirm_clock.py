"""A visit whose date was doubted counts once somebody says that the date is right."""

from __future__ import annotations

import datetime

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import BadEntry, WaitingOn
from apps.plants.models import Entry, Plant, Visit
from apps.plants.selectors import visits_visible_to
from apps.plants.services.as_in_season import Row
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.store_records import store_entries
from apps.sites.time_zone import today_in
from jubark_core.records.bodies import ClockConfirmed
from jubark_core.records.things import ClockConfirmation, EntryHead
from jubark_core.records.things import Entry as EntryIn


@transaction.atomic
def confirm_clock(*, actor: Member, confirmation: ClockConfirmation) -> None:
    """Store that the date of a visit is right. Surveyors confirm their own visits, stewards any.

    Raises NotAllowed, WaitingOn the visit, BadEntry where its date was never doubted or the id is taken.
    """
    visit = visits_visible_to(actor).filter(pk=confirmation.visit).first()
    if visit is None:
        raise WaitingOn(confirmation.visit)
    require_role(
        actor, Role.SURVEYOR if visit.author_id == actor.id else Role.STEWARD, "Confirming this date"
    )
    if not visit.clock_doubtful:
        raise BadEntry("The date of this visit was never doubted.", field="visit", value=str(visit.id))
    if Entry.objects.filter(pk=confirmation.id).exists():
        raise BadEntry(
            f"The entry id {confirmation.id} is taken by another entry.",
            field="id",
            value=str(confirmation.id),
        )
    plant = Plant.objects.select_for_update().select_related("block__site").get(pk=visit.plant_id)
    _require_no_deed_in_the_future(visit, today_in(plant.block.site.time_zone))
    head = EntryHead(id=confirmation.id, recorded_at=confirmation.recorded_at, reason=confirmation.reason)
    entry = EntryIn("clock_confirmed", ClockConfirmed(), head)
    store_entries(actor, [Row(visit.id, plant.id, actor.shown_name, confirmation.recorded_at, entry)])
    refresh_current([plant.id])
    number_changes(actor.organisation_id, [plant.id], [plant.block_id])


def _require_no_deed_in_the_future(visit: Visit, today: datetime.date) -> None:
    """A day that has not come cannot be confirmed for work that was begun or done on it."""
    if visit.local_date <= today:
        return
    for entry in visit.entries.filter(kind="work"):
        if entry.body.get("step") in ("started", "completed"):
            raise BadEntry(
                "Nothing is begun or done in the future: record it anew with its day.",
                field="local_date",
                value=visit.local_date.isoformat(),
                allowed=f"{today} or earlier",
            )
