"""A new plant in a block."""

from __future__ import annotations

from django.db import transaction

from apps.crews.models import Member, Role
from apps.crews.permissions import require_role
from apps.ground.selectors import blocks_visible_to
from apps.stems.errors import WaitingOn
from apps.stems.models import Plant
from apps.stems.read_items import PlantIn
from apps.stems.selectors import plants_visible_to
from apps.stems.services.number_changes import number_changes
from apps.stems.services.refresh_current import refresh_current
from apps.stems.services.store_records import plant_row
from config.errors import BadInput


@transaction.atomic
def record_plant(*, actor: Member, plant: PlantIn) -> Plant:
    """Store one plant. Raises NotAllowed, BadInput for a block that is not there, WaitingOn the plant it was
    sighted from.
    """
    require_role(actor, Role.SURVEYOR, "Recording a stem")
    if not blocks_visible_to(actor).filter(pk=plant.block).exists():
        raise BadInput("block", str(plant.block), "a block of your crew")
    sighted_from = None
    if plant.from_plant is not None:
        sighted_from = plants_visible_to(actor).filter(pk=plant.from_plant).first()
        if sighted_from is None:
            raise WaitingOn(plant.from_plant)
    row = plant_row(actor, plant, sighted_from)
    row.save(force_insert=True)
    refresh_current([row.id])
    number_changes(actor.crew_id, [row.id], [row.block_id])
    return row
