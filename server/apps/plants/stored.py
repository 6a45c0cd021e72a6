"""Stored rows as records of the core, at the current record version."""

from __future__ import annotations

import datetime
import json
import uuid
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from apps.plants.models import Entry, Plant, Visit
from jubark_core.recording import judged_again
from jubark_core.records.bodies import KINDS, Body
from jubark_core.records.fields import fields_of, load, write
from jubark_core.records.things import Entry as EntryRecord
from jubark_core.records.things import EntryHead
from jubark_core.records.things import Plant as PlantRecord
from jubark_core.records.things import Visit as VisitRecord
from jubark_core.records.upgrade import VERSION, upgrade

# Fields of the records that are columns of the same name.
PLANT_COLUMNS = tuple(
    name
    for name in fields_of(PlantRecord)
    if name not in ("block", "lon", "lat", "outline", "how_taken", "from_plant")
)
VISIT_COLUMNS = tuple(name for name in fields_of(VisitRecord) if name not in ("plant", "entries", "observer"))
# what a row's observer is looked up in
OBSERVERS = ("author", "observer_member", "observer_contact")


@dataclass(frozen=True, slots=True)
class VisitRow:
    """What the projections need of a visit."""

    local_date: datetime.date
    observed_at: datetime.datetime
    mode: str
    clock_doubtful: bool
    stage: str = "mature"


@dataclass(frozen=True, slots=True)
class EntryRow:
    """What the projections need of an entry: a third of the time of a model instance, by the hundred
    thousand.
    """

    id: uuid.UUID
    kind: str
    version: int
    body: dict[str, Any]
    replaces_id: uuid.UUID | None
    retracts_id: uuid.UUID | None
    received_at: datetime.datetime
    visit_id: uuid.UUID
    visit: VisitRow


AnyEntry = Entry | EntryRow


def body_of(entry: AnyEntry) -> Body | None:
    """What an entry records; None where it only withdraws another."""
    return _upgraded(entry)[1]


def kind_of(entry: Entry) -> str:
    """The kind of an entry by its current name."""
    return entry.kind if entry.version == VERSION else _upgraded(entry)[0]


def shown_body(entry: Entry) -> dict[str, Any]:
    """The body as JSON; empty where the entry only withdraws another."""
    if entry.version == VERSION or entry.retracts_id is not None:
        return dict(entry.body)
    return write(body_of(entry))


def _upgraded(entry: AnyEntry) -> tuple[str, Body | None]:
    stored: dict[str, Any] = {"kind": entry.kind, "body": entry.body}
    if entry.version < VERSION:
        stored = upgrade("entry", stored, entry.version)
    kind = stored["kind"]
    if entry.retracts_id is not None:
        return kind, None
    body: Body = load(KINDS[kind].body, stored["body"])
    return kind, judged_again(body) if entry.version < VERSION else body


def entry_record(entry: Entry) -> EntryRecord:
    """An entry."""
    kind, body = _upgraded(entry)
    head = EntryHead(
        id=entry.id,
        recorded_at=entry.recorded_at,
        observer=entry.observer,
        replaces=entry.replaces_id,
        retracts=entry.retracts_id,
        reason=entry.reason,
    )
    return EntryRecord(kind, body, head)


def plant_record(plant: Plant) -> PlantRecord:
    """A plant."""
    return PlantRecord(
        block=plant.block_id,
        lon=plant.place.x if plant.place else None,
        lat=plant.place.y if plant.place else None,
        outline=json.loads(plant.outline.json) if plant.outline else None,
        how_taken=plant.how_taken,
        from_plant=plant.from_plant_id,
        **{name: getattr(plant, name) for name in PLANT_COLUMNS},
    )


def visit_record(visit: Visit, entries: Iterable[Entry]) -> VisitRecord:
    """A visit with its entries."""
    return VisitRecord(
        plant=visit.plant_id,
        observer=visit.observer,
        entries=tuple(entry_record(e) for e in entries),
        **{name: getattr(visit, name) for name in VISIT_COLUMNS},
    )
