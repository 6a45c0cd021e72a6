"""A new plant in a block."""

from __future__ import annotations

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import WaitingOn
from apps.plants.models import Plant
from apps.plants.selectors import plants_visible_to
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.store_records import plant_row
from apps.sites.selectors import blocks_visible_to
from config.errors import BadInput
from jubark_core.records.things import Plant as PlantIn


@transaction.atomic
def record_plant(*, actor: Member, plant: PlantIn) -> Plant:
    """Store one plant. Raises NotAllowed, BadInput for a block that is not there, WaitingOn the plant it was
    sighted from.
    """
    require_role(actor, Role.SURVEYOR, "Recording a plant")
    if not blocks_visible_to(actor).filter(pk=plant.block).exists():
        raise BadInput("block", str(plant.block), "a block of your organisation")
    if plant.merged_into is not None:
        raise BadInput(
            "merged_into", str(plant.merged_into), "nothing: a steward merges two records that are there"
        )
    sighted_from = None
    if plant.from_plant is not None:
        sighted_from = plants_visible_to(actor).filter(pk=plant.from_plant).first()
        if sighted_from is None:
            raise WaitingOn(plant.from_plant)
    row = plant_row(actor, plant, sighted_from)
    row.save(force_insert=True)
    refresh_current([row.id])
    number_changes(actor.organisation_id, [row.id], [row.block_id])
    return row
