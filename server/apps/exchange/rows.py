"""A block as plain rows: every plant, visit and entry as the core writes it, for both formats."""

from __future__ import annotations

import datetime
from collections.abc import Iterator
from typing import Any
from uuid import UUID

from apps.organisations.models import Member
from apps.plants.models import Current, Plant, Visit
from apps.plants.selectors import entries_by_plant, plants_visible_to
from apps.plants.stored import OBSERVERS, plant_record, visit_record
from apps.sites.models import Block
from jubark_core.records.fields import write
from jubark_core.records.upgrade import said_out_of_leaf

CHUNK = 500
NOT_CURRENT = (
    *("plant", "organisation", "block", "tag_clash", "signs", "visits", "contested"),
    "risk_order",  # a number to sort by; a file has it in words
)
# What a find that has to be reported would be known by.
PLACE_FIELDS = (
    *("lon", "lat", "outline", "accuracy_m", "how_taken", "from_plant", "bearing_deg", "distance_m"),
    *("row_name", "row_position"),
)
HEALTH_FIELDS = ("verdict", "cause", "cause_standing", "diagnosed_on")
HEALTH_KINDS = ("sign", "diagnosis", "sample", "note", "photo", "place", "photo_point")
CURRENT_FIELDS = tuple(f.name for f in Current._meta.concrete_fields if f.name not in NOT_CURRENT)


def block_plants(
    actor: Member, block: Block, withheld: frozenset[UUID] = frozenset()
) -> Iterator[dict[str, Any]]:
    """Every plant of the block with its visits and entries, in chunks so that memory stays flat.

    withheld: plants of which neither the place nor what ails them goes out.
    """
    last: UUID | None = None
    while True:
        rows = plants_visible_to(actor).filter(block=block).select_related("current").order_by("id")
        plants = list(rows.filter(id__gt=last)[:CHUNK] if last else rows[:CHUNK])
        if not plants:
            return
        for row in _with_visits(plants):
            yield for_the_public(row) if UUID(row["id"]) in withheld else row
        last = plants[-1].id


def _with_visits(plants: list[Plant]) -> Iterator[dict[str, Any]]:
    ids = [p.id for p in plants]
    entries = entries_by_plant(ids)
    visits: dict[UUID, list[Visit]] = {}
    seen = Visit.objects.filter(plant__in=ids).select_related(*OBSERVERS)
    for visit in seen.order_by("local_date", "observed_at", "id"):
        visits.setdefault(visit.plant_id, []).append(visit)
    for plant in plants:
        own = sorted(entries.get(plant.id, []), key=lambda e: (e.received_at, e.id))
        record = write(plant_record(plant))
        del record["block"]  # a file is read into a block of the reader's choice
        yield {
            **record,
            "current": _current(plant.current),
            "visits": [
                _of_plant(write(visit_record(v, [e for e in own if e.visit_id == v.id])))
                for v in visits.get(plant.id, [])
            ],
        }


def for_the_public(row: dict[str, Any]) -> dict[str, Any]:
    """A plant without its place, and without what tells of what ails it."""
    return {
        **{key: value for key, value in row.items() if key not in PLACE_FIELDS},
        "current": {k: v for k, v in row["current"].items() if k not in HEALTH_FIELDS},
        "visits": [
            {**visit, "entries": [e for e in visit.get("entries", ()) if e["kind"] not in HEALTH_KINDS]}
            for visit in row["visits"]
        ],
    }


def _of_plant(visit: dict[str, Any]) -> dict[str, Any]:
    """A visit inside its plant. What was stored by an earlier version may need its visit to be understood."""
    found = {key: value for key, value in visit.items() if key != "plant"}
    if entries := found.get("entries"):
        found["entries"] = said_out_of_leaf(entries)
    return found


def _current(current: Current) -> dict[str, Any]:
    return {
        name: str(value) if isinstance(value, datetime.date) else value
        for name in CURRENT_FIELDS
        if (value := getattr(current, name)) is not None and value is not False and value != ""
    }
