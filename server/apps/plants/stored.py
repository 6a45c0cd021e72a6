"""Stored rows as records of the core, at the current record version."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterable, Sequence
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
from jubark_core.tree_file.filed import Filed, SeenOn

# Fields of the records that are columns of the same name.
PLANT_COLUMNS = tuple(
    name
    for name in fields_of(PlantRecord)
    if name not in ("block", "lon", "lat", "outline", "how_taken", "from_plant", "merged_into")
)
VISIT_COLUMNS = tuple(name for name in fields_of(VisitRecord) if name not in ("plant", "entries", "observer"))
# what a row's observer is looked up in
OBSERVERS = ("author", "observer_member", "observer_contact")
# what a tree's file is read from
FILED_FIELDS = (
    *("id", "kind", "version", "body"),
    *("replaces_id", "retracts_id", "received_at", "author_id", "visit_id"),
)


@dataclass(frozen=True, slots=True)
class StoredEntry:
    """What is read of an entry's row: a third of the time of a model instance, by the hundred thousand."""

    kind: str
    version: int
    body: dict[str, Any]
    retracts_id: uuid.UUID | None


def body_of(entry: Entry) -> Body | None:
    """What an entry records; None where it only withdraws another."""
    return _upgraded(entry)[1]


def filed(record: uuid.UUID, visit: SeenOn, row: Sequence[Any]) -> Filed:
    """An entry of a tree's file. row: the values of FILED_FIELDS."""
    entry_id, kind, version, body, replaces, retracts, received_at, author, visit_id = row
    kind, read = _upgraded(StoredEntry(kind, version, body, retracts))
    return Filed(
        entry_id, record, kind, read, replaces, retracts, received_at, visit_id, visit, author, version
    )


def kind_of(entry: Entry) -> str:
    """The kind of an entry by its current name."""
    return entry.kind if entry.version == VERSION else _upgraded(entry)[0]


def shown_body(entry: Entry) -> dict[str, Any]:
    """The body as JSON; empty where the entry only withdraws another."""
    if entry.version == VERSION or entry.retracts_id is not None:
        return dict(entry.body)
    return write(body_of(entry))


def _upgraded(entry: Entry | StoredEntry) -> tuple[str, Body | None]:
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
        merged_into=plant.merged_into_id,
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
