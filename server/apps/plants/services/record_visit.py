"""One visit with all its entries, whole or not at all."""

from __future__ import annotations

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import BadEntry, WaitingOn
from apps.plants.models import Entry
from apps.plants.selectors import plants_visible_to
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.require_references import require_references
from apps.plants.services.store_records import store_visits
from jubark_core.records.things import Visit as VisitIn
from jubark_core.records.upgrade import VERSION


@transaction.atomic
def record_visit(*, actor: Member, visit: VisitIn, clock_off: bool = False, version: int = VERSION) -> None:
    """Store one visit. version: the record version it was made with. Raises NotAllowed, WaitingOn its plant,
    BadEntry naming the entry whose id is taken.
    """
    require_role(actor, Role.SURVEYOR, "Recording a visit")
    plant = plants_visible_to(actor).select_for_update().filter(pk=visit.plant).first()
    if plant is None:
        raise WaitingOn(visit.plant)
    taken = Entry.objects.filter(pk__in=[e.id for e in visit.entries]).values_list("pk", flat=True).first()
    if taken is not None:
        raise BadEntry(f"The entry id {taken} is taken by another entry.", field="entries", value=str(taken))
    if any(e.head.replaces or e.head.retracts for e in visit.entries):
        raise BadEntry("A correction is sent as a correction, not inside a visit.", field="entries")
    require_references(actor, plant.id, visit.entries)
    store_visits(actor, [visit], clock_off, version)
    refresh_current([plant.id])
    number_changes(actor.organisation_id, [plant.id], [plant.block_id])
