"""Writes checked plants, visits and entries: the one place that inserts records, one by one or by the
thousand.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from uuid import UUID

from django.contrib.gis.geos import Point
from django.utils import timezone

from apps.organisations.models import Member
from apps.plants.models import BODIES, Entry, Plant, Visit
from apps.plants.models.record import Body
from apps.plants.read_items import EntryIn, PlantIn, VisitIn, destination

BATCH = 2000


def future(day: datetime.date, now: datetime.datetime) -> bool:
    """Whether a local date lies after today at UTC+14, the earliest calendar on earth."""
    return day > (now.astimezone(datetime.UTC) + datetime.timedelta(hours=14)).date()


def plant_row(actor: Member, plant: PlantIn, sighted_from: Plant | None) -> Plant:
    """The model row of a plant; its place follows from bearing and distance where it was sighted."""
    place = plant.place
    if place is None and sighted_from is not None and sighted_from.place is not None:
        place = destination(
            sighted_from.place.x, sighted_from.place.y, plant.bearing_deg or 0, plant.distance_m or 0
        )
    return Plant(
        id=plant.id,
        organisation_id=actor.organisation_id,
        block_id=plant.block,
        form=plant.form,
        place=Point(*place, srid=4326) if place else None,
        outline=plant.outline,
        accuracy_m=plant.accuracy_m,
        how_taken=plant.how_taken,
        from_plant_id=plant.from_plant,
        bearing_deg=plant.bearing_deg,
        distance_m=plant.distance_m,
        origin=plant.origin,
        row_name=plant.row_name,
        row_position=plant.row_position,
        recorded_by=actor,
        recorded_at=plant.recorded_at,
    )


def store_visits(actor: Member, visits: Sequence[VisitIn], clock_off: bool = False) -> None:
    """Insert visits with all their entries and bodies. clock_off: the device's clock was seen to be wrong
    when it sent them.
    """
    now = timezone.now()
    Visit.objects.bulk_create(
        [
            Visit(
                id=v.id,
                organisation_id=actor.organisation_id,
                plant_id=v.plant,
                author=actor,
                observer=v.observer or actor.shown_name,
                mode=v.mode,
                local_date=v.local_date,
                observed_at=v.observed_at,
                utc_offset_min=v.utc_offset_min,
                clock_doubtful=clock_off or future(v.local_date, now),
                **v.context,
            )
            for v in visits
        ],
        batch_size=BATCH,
    )
    store_entries(actor, [(v.id, v.plant, v.observer, v.observed_at, e) for v in visits for e in v.entries])


def store_entries(actor: Member, rows: Sequence[tuple[UUID, UUID, str, datetime.datetime, EntryIn]]) -> None:
    """Insert entries (visit, plant, observer, time, entry), those that are replaced before those that
    replace.
    """
    Entry.objects.bulk_create(
        [
            Entry(
                id=e.id,
                organisation_id=actor.organisation_id,
                visit_id=visit,
                plant_id=plant,
                kind=e.kind,
                author=actor,
                observer=e.observer or observer or actor.shown_name,
                recorded_at=e.recorded_at or at,
                replaces_id=e.replaces,
                retracts_id=e.retracts,
                reason=e.reason,
            )
            for visit, plant, observer, at, e in parents_first(rows)
        ],
        batch_size=BATCH,
    )
    by_kind: dict[str, list[Body]] = {}
    for *_, e in rows:
        if e.kind in BODIES and e.retracts is None:
            by_kind.setdefault(e.kind, []).append(BODIES[e.kind](entry_id=e.id, **e.body))
    for kind, bodies in by_kind.items():
        BODIES[kind]._default_manager.bulk_create(bodies, batch_size=BATCH)


Row = tuple[UUID, UUID, str, datetime.datetime, EntryIn]


def parents_first(rows: Sequence[Row]) -> list[Row]:
    """Rows in an order in which what an entry replaces or retracts stands before it."""
    by_id = {row[4].id: row for row in rows}
    ordered: dict[UUID, Row] = {}

    def place(row: Row, depth: int = 0) -> None:
        entry = row[4]
        parent = entry.replaces or entry.retracts
        if parent in by_id and parent not in ordered and depth < len(rows):
            place(by_id[parent], depth + 1)
        ordered.setdefault(entry.id, row)

    for row in rows:
        place(row)
    return list(ordered.values())
