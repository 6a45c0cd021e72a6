"""Many plants and visits at once, in one transaction: for files and for the demonstration site."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.models import Merge, Plant
from apps.plants.selectors import plants_visible_to
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.store_records import plant_row, store_visits
from config.errors import BadInput
from jubark_core.records.things import Plant as PlantIn
from jubark_core.records.things import Visit as VisitIn
from jubark_core.records.upgrade import VERSION

REFRESH_AT_ONCE = 2000


@transaction.atomic
def take_records(
    *, actor: Member, plants: Sequence[PlantIn], visits: Sequence[VisitIn], version: int = VERSION
) -> None:
    """Store all or nothing. Plants that were sighted from a plant not in this organisation keep bearing and
    place,
    not the link.
    """
    require_role(actor, Role.STEWARD, "Reading in records")
    own = {p.id for p in plants}
    linked = {p.from_plant for p in plants if p.from_plant} - own
    known = {p.id: p for p in plants_visible_to(actor).filter(pk__in=linked)}
    rows: dict[UUID, Plant] = {}
    for plant in _sighted_last(plants):
        row = plant_row(
            actor,
            plant,
            rows.get(plant.from_plant) or known.get(plant.from_plant) if plant.from_plant else None,
        )
        if plant.from_plant and plant.from_plant not in rows and plant.from_plant not in known:
            row.from_plant_id = None
        rows[plant.id] = row
    Plant.objects.bulk_create(rows.values(), batch_size=2000)
    _merge(actor, [p for p in plants if p.merged_into], rows)
    store_visits(actor, visits, version=version)
    touched = sorted(own | {v.plant for v in visits})
    for start in range(0, len(touched), REFRESH_AT_ONCE):
        refresh_current(touched[start : start + REFRESH_AT_ONCE])
    number_changes(actor.organisation_id, touched, {p.block for p in plants})


def _merge(actor: Member, duplicates: Sequence[PlantIn], rows: dict[UUID, Plant]) -> None:
    """Records of one tree stay so. Raises BadInput where one is a duplicate of what did not come with it, of
    another form, or in a ring.
    """
    into = {p.id: p.merged_into for p in duplicates}
    for plant in duplicates:
        end, seen = plant.merged_into, {plant.id}
        while end is not None and end not in seen:
            seen.add(end)
            end = into.get(end)
        other = rows.get(plant.merged_into) if plant.merged_into else None
        if end is not None or other is None or other.form != rows[plant.id].form:
            allowed = "another plant of the file of the same form, which is not its duplicate in turn"
            raise BadInput("merged_into", str(plant.merged_into), allowed)
        rows[plant.id].merged_into = other
    Plant.objects.bulk_update([rows[p.id] for p in duplicates], ["merged_into"], batch_size=2000)
    Merge.objects.bulk_create(
        [
            Merge(
                organisation_id=actor.organisation_id,
                plant=rows[p.id],
                into=rows[p.merged_into],
                reason="as the file says",
                merged_by=actor,
            )
            for p in duplicates
            if p.merged_into
        ]
    )


def _sighted_last(plants: Sequence[PlantIn]) -> list[PlantIn]:
    """Plants in an order in which one that others were sighted from stands before them."""
    by_id = {p.id: p for p in plants}
    ordered: dict[UUID, PlantIn] = {}
    for plant in plants:
        chain: list[PlantIn] = []
        step: PlantIn | None = plant
        while step is not None and step.id not in ordered and step not in chain:
            chain.append(step)
            step = by_id.get(step.from_plant) if step.from_plant else None
        ordered |= {p.id: p for p in reversed(chain)}
    return list(ordered.values())
