"""Reads a file into a staged batch: good rows apart from bad, nothing stored yet."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from django.db import transaction

from apps.exchange.csv_format import nested, read_csv, version_of
from apps.exchange.geojson_format import items_of, read_geojson
from apps.exchange.models import ImportBatch
from apps.organisations.audit import note
from apps.organisations.models import Contact, Member, Role
from apps.organisations.permissions import require_role, visible_to
from apps.plants.incoming import read_entry, read_plant, read_visit
from apps.plants.models import Entry, Plant, Visit
from apps.sites.models import Block
from apps.sites.time_zone import today_in
from config.errors import BadInput
from jubark_core.checks import require_storable
from jubark_core.errors import InputError, shown
from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import references, renamed
from jubark_core.records.things import Entry as EntryRecord
from jubark_core.records.things import EntryHead
from jubark_core.records.upgrade import VERSION, said_out_of_leaf, upgrade

MOST_BAD_LISTED = 500  # more are counted: whoever has so many mends the file, not the rows
Triple = tuple[dict[str, Any], dict[str, Any], dict[str, Any]]


OF_OTHERS = ("from_plant", "merged_into")  # what a plant says of another; kept where that is in the file


@dataclass
class Staging:
    """What was read so far."""

    plants: dict[str, dict[str, Any]] = field(default_factory=dict)
    visits: dict[str, dict[str, Any]] = field(default_factory=dict)
    entries: dict[str, list[dict[str, Any]]] = field(default_factory=dict)
    plant_of: dict[str, str] = field(default_factory=dict)  # entry -> the plant of its visit
    rests_on: dict[str, dict[str, str]] = field(default_factory=dict)  # entry -> field -> entry it names
    contacts: dict[str, tuple[str, str]] = field(default_factory=dict)  # entry -> contact it names, field
    bad_plants: set[str] = field(default_factory=set)
    bad: list[dict[str, Any]] = field(default_factory=list)
    rows: int = 0
    made_with: int = VERSION  # the earliest record version of its rows: no younger rule refuses them


@transaction.atomic
def stage_file(*, actor: Member, block: Block, file_name: str, data: bytes) -> ImportBatch:
    """Read a CSV or GeoJSON file of records for a block. Raises NotAllowed below steward, BadInput when the
    file as a whole cannot be read.
    """
    require_role(actor, Role.STEWARD, "Reading in a file")
    require_storable("file name", file_name)
    staging = Staging()
    for number, triples in _triples(file_name, data, staging):
        for triple in triples:
            staging.rows += 1
            _judge(staging, block, number, triple)
    _drop_strangers(actor, staging)
    _drop_orphans(staging)
    items = _with_free_ids(block, staging)
    counts = {
        "rows": staging.rows,
        "plants": len(items["plants"]),
        "visits": len(items["visits"]),
        "entries": sum(len(v["entries"]) for v in items["visits"]),
        "bad": len(staging.bad),
    }
    batch = ImportBatch.objects.create(
        organisation_id=actor.organisation_id,
        block=block,
        author=actor,
        file_name=file_name[:200],
        items=items,
        bad=staging.bad[:MOST_BAD_LISTED],
        counts=counts,
    )
    note(actor, "file_read_in", thing=batch.id, file=batch.file_name, rows=staging.rows)
    return batch


def _triples(file_name: str, data: bytes, staging: Staging) -> Iterator[tuple[int, list[Triple]]]:
    ending = file_name.lower().rsplit(".", 1)[-1]
    if ending not in ("csv", "geojson", "json"):
        raise BadInput("file", file_name, "a file ending in .csv, .geojson or .json")
    for number, raw, version in _csv_rows(data) if ending == "csv" else _features(data):
        try:
            if ending == "csv" and "short" in raw:
                raise BadInput("row", raw["short"], "a whole row")
            triples = [nested(raw)] if ending == "csv" else items_of(raw)
            known = version_of(raw) if version is None else version
            staging.made_with = min(staging.made_with, known)
            yield number, [_as_of_now(triple, known) for triple in triples]
        except BadInput as error:
            staging.rows += 1
            staging.bad.append({"row": number, **error.details})


def _csv_rows(data: bytes) -> Iterator[tuple[int, dict[str, Any], int | None]]:
    return ((number, row, None) for number, row in read_csv(data))


def _features(data: bytes) -> Iterator[tuple[int, Any, int | None]]:
    version, features = read_geojson(data)
    return ((number, feature, version) for number, feature in enumerate(features, start=1))


def _as_of_now(triple: Triple, version: int) -> Triple:
    """A row of an earlier record version as the current one has it."""
    plant, visit, entry = triple
    return (
        upgrade("plant", plant, version),
        upgrade("visit", visit, version),
        upgrade("entry", entry, version),
    )


def _judge(staging: Staging, block: Block, number: int, triple: Triple) -> None:
    """Check one row and keep it, or list it with field, value and what is allowed."""
    plant, visit, entry = triple
    try:
        require_storable("row", list(triple))
        _keep_plant(staging, block, plant)
        if visit:
            _keep_visit(staging, block, visit)
        if entry:
            _keep_entry(staging, str(visit["id"]), entry)
    except InputError as error:
        staging.bad.append(
            {"row": number, "field": error.place, "value": shown(error.value), "allowed": error.allowed}
        )
    except BadInput as error:
        staging.bad.append({"row": number, **error.details})


def _keep_plant(staging: Staging, block: Block, plant: dict[str, Any]) -> None:
    key = str(plant.get("id"))
    if key in staging.bad_plants:
        raise BadInput("plant_id", key, "a plant whose own row can be read")
    if key not in staging.plants:
        plant = {**plant, "block": str(block.id)}
        try:
            read_plant(plant)
        except InputError:
            staging.bad_plants.add(key)
            raise
        staging.plants[key] = plant


def _keep_visit(staging: Staging, block: Block, visit: dict[str, Any]) -> None:
    key = str(visit.get("id"))
    if key not in staging.visits:
        read = read_visit({**visit, "entries": []})
        if read.local_date > today_in(block.site.time_zone):
            raise BadInput("local_date", visit["local_date"], "a day that has come at the site")
        staging.visits[key] = visit
    elif staging.visits[key]["plant"] != visit["plant"]:
        raise BadInput("visit_id", key, "one visit belongs to one plant")


def _keep_entry(staging: Staging, visit: str, entry: dict[str, Any]) -> None:
    read = read_entry(entry, staging.made_with)
    key = str(entry["id"])
    if key in staging.plant_of:
        raise BadInput("entry_id", entry["id"], "each entry once")
    staging.plant_of[key] = str(staging.visits[visit]["plant"])
    staging.rests_on[key] = _named_by(read)
    for name, ref, id_ in references(read.body) if read.body is not None else ():
        if ref.to == "contact":
            staging.contacts[key] = (str(id_), f"{read.kind}.{name}")
    staging.entries.setdefault(visit, []).append(entry)


def _named_by(entry: EntryRecord) -> dict[str, str]:
    """Field -> id of every other entry that an entry corrects, withdraws or rests on."""
    records = (entry.head, entry.body) if entry.body is not None else (entry.head,)
    return {name: str(id_) for r in records for name, ref, id_ in references(r) if ref.to == "entry"}


def _drop_strangers(actor: Member, staging: Staging) -> None:
    """An entry that names a contact of another organisation is listed as bad: nothing says who that is."""
    own = visible_to(actor, Contact.objects.filter(pk__in={id_ for id_, _ in staging.contacts.values()}))
    known = {str(pk) for pk in own.values_list("pk", flat=True)}
    strangers = {key: told for key, told in staging.contacts.items() if told[0] not in known}
    for visit, entries in staging.entries.items():
        staging.entries[visit] = [e for e in entries if str(e["id"]) not in strangers]
    for key, (id_, name) in strangers.items():
        staging.plant_of.pop(key, None)
        staging.rests_on.pop(key, None)
        allowed = "a contact of this organisation, or nothing"
        staging.bad.append({"row": None, "field": name, "value": id_, "allowed": allowed})


def _drop_orphans(staging: Staging) -> None:
    """An entry that names one of another plant, or one that is not among the file's good rows, would rest on
    nothing, and of those that name each other in a circle none could come first: each is listed as bad, and
    so is what names it in turn.
    """
    named_by: dict[str, list[tuple[str, str]]] = {}
    for key, named in staging.rests_on.items():
        for name, other in named.items():
            named_by.setdefault(other, []).append((key, name))
    bad: dict[str, tuple[str, str, str]] = {}
    rest = [
        (key, name, other)
        for key, named in staging.rests_on.items()
        for name, other in named.items()
        if staging.plant_of.get(other) != staging.plant_of[key]
    ]
    while rest:
        key, name, other = rest.pop()
        if key not in bad:
            bad[key] = (name, other, "an entry of the same plant, in the file")
            rest += [(next_key, next_name, key) for next_key, next_name in named_by.get(key, ())]
    bad |= {
        key: (name, other, "an entry that does not, through others, name this one")
        for key, name, other in _in_circles(staging, named_by, set(bad))
    }
    for visit, entries in staging.entries.items():
        staging.entries[visit] = [e for e in entries if str(e["id"]) not in bad]
    for key, (name, other, allowed) in bad.items():
        del staging.plant_of[key]
        del staging.rests_on[key]
        staging.bad.append({"row": None, "field": name, "value": other, "allowed": allowed})


def _in_circles(
    staging: Staging, named_by: dict[str, list[tuple[str, str]]], gone: set[str]
) -> list[tuple[str, str, str]]:
    """(entry, field, the entry it names) of those that are in a circle or lead into one: what is left once
    every entry whose own have been settled is settled.
    """
    waits_for = {key: len(named) for key, named in staging.rests_on.items() if key not in gone}
    settled = [key for key, n in waits_for.items() if n == 0]
    for key in settled:  # grows while it is read
        del waits_for[key]
        for next_key, _ in named_by.get(key, ()):
            if next_key in waits_for:
                waits_for[next_key] -= 1
                if waits_for[next_key] == 0:
                    settled.append(next_key)
    return [
        (key, *next((name, other) for name, other in staging.rests_on[key].items() if other in waits_for))
        for key in waits_for
    ]


def _with_free_ids(block: Block, staging: Staging) -> dict[str, Any]:
    """The staged items; where any id is taken already, all are renamed, always the same way for the same
    block.
    """
    ids = [uuid.UUID(i) for i in (*staging.plants, *staging.visits, *staging.plant_of)]
    taken = any(model.objects.filter(pk__in=ids).exists() for model in (Plant, Visit, Entry))

    def named(old: Any) -> str:
        return str(uuid.uuid5(block.id, str(old))) if taken else str(old)

    plants = [
        {
            **{name: value for name, value in p.items() if name != "merged_into"},
            "id": named(p["id"]),
            **{name: named(p[name]) for name in OF_OTHERS if str(p.get(name)) in staging.plants},
        }
        for p in staging.plants.values()
    ]
    visits = []
    for key, visit in staging.visits.items():
        entries = [_renamed(e, named, staging.plants) for e in staging.entries.get(key, [])]
        # what one row of an earlier version leaves open, the others of its visit tell
        if staging.made_with < VERSION:
            entries = said_out_of_leaf(entries)
        visits.append({**visit, "id": named(key), "plant": named(visit["plant"]), "entries": entries})
    fresh = set(map(str, _free(Plant, [p["id"] for p in plants])))
    return {
        "record_version": VERSION,
        "made_with": staging.made_with,
        "plants": [p for p in plants if p["id"] in fresh],
        "visits": [v for v in visits if v["plant"] in fresh],
        "renamed": taken,
    }


def _renamed(entry: dict[str, Any], named: Any, plants: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = renamed(EntryHead, entry, named) | {"id": named(entry["id"])}
    if "body" in entry:
        body = dict(entry["body"])
        if str(body.get("vacant_place")) not in plants:  # a place that does not come with the file
            body.pop("vacant_place", None)
        found["body"] = renamed(KINDS[entry["kind"]].body, body, named)
    return found


def _free(model: type[Plant], ids: list[str]) -> set[str]:
    """Ids not stored yet: reading the same file twice into a block adds nothing."""
    there = {str(pk) for pk in model.objects.filter(pk__in=ids).values_list("pk", flat=True)}
    return set(ids) - there
