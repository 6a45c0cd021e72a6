"""Writes checked plants, visits and entries: the one place that inserts records, one by one or by the
thousand.
"""

from __future__ import annotations

import datetime
from collections.abc import Callable, Sequence
from uuid import UUID

from django.contrib.gis.geos import Point
from django.utils import timezone

from apps.organisations.models import Member
from apps.organisations.services.contacts import observers_named
from apps.plants.incoming import OUTLINES
from apps.plants.models import Entry, Plant, Visit
from apps.plants.services.as_in_season import Row, as_in_season
from apps.plants.stored import PLANT_COLUMNS, VISIT_COLUMNS
from apps.sites.shapes import read_shape
from apps.sites.time_zone import today_in
from jubark_core.records.fields import write
from jubark_core.records.things import Plant as PlantIn
from jubark_core.records.things import Visit as VisitIn
from jubark_core.records.upgrade import VERSION
from jubark_core.size.bearing import destination

BATCH = 2000
SINCE_LEAF_STATE = 6  # the record version from which on the core says whether a tree is in leaf
CLOCK_AHEAD = datetime.timedelta(hours=1)  # by which a clock may go wrong at midnight without doubt


def plant_row(actor: Member, plant: PlantIn, sighted_from: Plant | None) -> Plant:
    """The model row of a plant; its place follows from bearing and distance where it was sighted."""
    place = plant.place
    if place is None and sighted_from is not None and sighted_from.place is not None:
        place = destination(
            sighted_from.place.x, sighted_from.place.y, plant.bearing_deg or 0, plant.distance_m or 0
        )
    return Plant(
        organisation_id=actor.organisation_id,
        block_id=plant.block,
        place=Point(*place, srid=4326) if place else None,
        outline=read_shape("outline", plant.outline, OUTLINES) if plant.outline else None,
        how_taken=plant.how_taken or ("bearing" if plant.from_plant else "typed"),
        from_plant_id=plant.from_plant,
        recorded_by=actor,
        **{name: getattr(plant, name) for name in PLANT_COLUMNS},
    )


def store_visits(
    actor: Member, visits: Sequence[VisitIn], clock_off: bool = False, version: int = VERSION
) -> None:
    """Insert visits with all their entries and bodies. clock_off: the device's clock was seen to be wrong
    when it sent them. version: the record version they were made with.
    """
    now = timezone.now()
    zones = dict(
        Plant.objects.filter(pk__in={v.plant for v in visits}).values_list("pk", "block__site__time_zone")
    )
    observers = _observers(actor, {v.observer for v in visits})
    Visit.objects.bulk_create(
        [
            Visit(
                organisation_id=actor.organisation_id,
                plant_id=v.plant,
                author=actor,
                clock_doubtful=clock_off
                or v.local_date > today_in(zones.get(v.plant, ""), now + CLOCK_AHEAD),
                **observers.get(v.observer, {}),
                **{name: getattr(v, name) for name in VISIT_COLUMNS},
            )
            for v in visits
        ],
        batch_size=BATCH,
    )
    store_entries(
        actor,
        [Row(v.id, v.plant, v.observer, v.observed_at, e, version) for v in visits for e in v.entries],
        version,
    )


# What must hold before anything is stored, by whichever door it came; apps above put theirs here. Each raises
# BadEntry.
BEFORE_STORING: list[Callable[[Member, Sequence[Row]], None]] = []


def store_entries(actor: Member, rows: Sequence[Row], version: int = VERSION) -> None:
    """Insert entries, those that are replaced before those that replace. version: the record version they
    were made with; no rule younger than that refuses them.
    """
    if version >= SINCE_LEAF_STATE:
        rows = as_in_season(rows)
    for require in BEFORE_STORING:
        require(actor, rows)
    observers = _observers(actor, {row.entry.head.observer or row.observer for row in rows})
    Entry.objects.bulk_create(
        [
            Entry(
                id=row.entry.id,
                organisation_id=actor.organisation_id,
                visit_id=row.visit,
                plant_id=row.plant,
                kind=row.entry.kind,
                version=VERSION,
                body={} if row.entry.body is None else write(row.entry.body),
                author=actor,
                **observers.get(row.entry.head.observer or row.observer, {}),
                recorded_at=row.entry.head.recorded_at or row.at,
                replaces_id=row.entry.head.replaces,
                retracts_id=row.entry.head.retracts,
                reason=row.entry.head.reason,
            )
            for row in parents_first(rows)
        ],
        batch_size=BATCH,
    )


def _observers(actor: Member, names: set[str]) -> dict[str, dict[str, UUID | None]]:
    """Name -> the columns that say whom it stands for; nothing for the author."""
    found = observers_named(actor.organisation_id, names - {actor.shown_name})
    return {
        name: {"observer_member_id": member, "observer_contact_id": contact}
        for name, (member, contact) in found.items()
    }


def parents_first(rows: Sequence[Row]) -> list[Row]:
    """Rows in an order in which what an entry corrects or withdraws comes before it."""
    by_id = {row.entry.id: row for row in rows}
    ordered: dict[UUID, Row] = {}

    def place(row: Row, depth: int = 0) -> None:
        parent = row.entry.head.replaces or row.entry.head.retracts
        if parent in by_id and parent not in ordered and depth < len(rows):
            place(by_id[parent], depth + 1)
        ordered.setdefault(row.entry.id, row)

    for row in rows:
        place(row)
    return list(ordered.values())
