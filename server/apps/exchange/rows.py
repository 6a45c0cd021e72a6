"""A block as plain rows: every plant, visit and entry, with nothing left out. Both formats are written from
these.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any
from uuid import UUID

from apps.organisations.models import Member
from apps.plants.models import Current, Plant, Visit
from apps.plants.selectors import bodies_of, entries_by_plant, plants_visible_to
from apps.plants.shown_bodies import shown_body
from apps.sites.models import Block

CHUNK = 500
PLANT_FIELDS = (
    "form",
    "accuracy_m",
    "how_taken",
    "bearing_deg",
    "distance_m",
    "origin",
    "row_name",
    "row_position",
)
VISIT_FIELDS = ("utc_offset_min", "mode", "observer", "stage", "setting", "light", "sex", "origin")
CURRENT_FIELDS = (
    "tag",
    "taxon",
    "name",
    "name_rank",
    "name_probability",
    "dbh_cm",
    "height_m",
    "crown_spread_m",
    "condition",
    "life",
    "last_seen",
)


def block_plants(actor: Member, block: Block) -> Iterator[dict[str, Any]]:
    """Every plant of the block with its visits and entries, in chunks so that memory stays flat."""
    last: UUID | None = None
    while True:
        rows = plants_visible_to(actor).filter(block=block).select_related("current").order_by("id")
        plants = list(rows.filter(id__gt=last)[:CHUNK] if last else rows[:CHUNK])
        if not plants:
            return
        yield from _with_visits(plants)
        last = plants[-1].id


def _with_visits(plants: list[Plant]) -> Iterator[dict[str, Any]]:
    ids = [p.id for p in plants]
    entries = entries_by_plant(ids)
    every = [e for rows in entries.values() for e in rows]
    bodies = bodies_of((e.id for e in every), (e.kind for e in every))
    visits: dict[UUID, list[Visit]] = {}
    for visit in Visit.objects.filter(plant__in=ids).order_by("local_date", "observed_at", "id"):
        visits.setdefault(visit.plant_id, []).append(visit)
    for plant in plants:
        own = sorted(entries.get(plant.id, []), key=lambda e: (e.received_at, e.id))
        yield {
            **_plant(plant),
            "current": _current(plant.current),
            "visits": [
                {
                    **_visit(v),
                    "entries": [_entry(e, shown_body(bodies.get(e.id))) for e in own if e.visit_id == v.id],
                }
                for v in visits.get(plant.id, [])
            ],
        }


def _plant(plant: Plant) -> dict[str, Any]:
    return {
        "id": str(plant.id),
        "lon": plant.place.x if plant.place else None,
        "lat": plant.place.y if plant.place else None,
        "outline": json.loads(plant.outline.json) if plant.outline else None,
        "from_plant": str(plant.from_plant_id) if plant.from_plant_id else None,
        "recorded_at": plant.recorded_at.isoformat(),
        **{name: getattr(plant, name) for name in PLANT_FIELDS},
    }


def _current(current: Current) -> dict[str, Any]:
    return {
        name: str(value) if name == "last_seen" and value else value
        for name in CURRENT_FIELDS
        if (value := getattr(current, name)) not in (None, "")
    }


def _visit(visit: Visit) -> dict[str, Any]:
    return {
        "id": str(visit.id),
        "local_date": visit.local_date.isoformat(),
        "observed_at": visit.observed_at.isoformat(),
        **{n: getattr(visit, n) for n in VISIT_FIELDS},
    }


def _entry(entry: Any, body: dict[str, Any]) -> dict[str, Any]:
    return {
        "id": str(entry.id),
        "kind": entry.kind,
        "body": body,
        "observer": entry.observer,
        "recorded_at": entry.recorded_at.isoformat(),
        "replaces": str(entry.replaces_id) if entry.replaces_id else None,
        "retracts": str(entry.retracts_id) if entry.retracts_id else None,
        "reason": entry.reason,
    }
