"""Reads a file into a staged batch: good rows apart from bad, nothing stored yet."""

from __future__ import annotations

import copy
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from django.utils import timezone

from apps.exchange.csv_format import nested, read_csv
from apps.exchange.geojson_format import items_of, read_geojson
from apps.exchange.models import ImportBatch
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.models import Entry, Plant, Visit
from apps.plants.read_fields import read_id
from apps.plants.read_items import read_entry, read_plant, read_visit
from apps.plants.services.store_records import future
from apps.sites.models import Block
from config.errors import BadInput
from jubark_core.checks import require_storable
from jubark_core.errors import InputError, shown

MOST_BAD_LISTED = 500  # more are counted: whoever has so many mends the file, not the rows
Triple = tuple[dict[str, Any], dict[str, Any], dict[str, Any]]


@dataclass
class Staging:
    """What was read so far."""

    plants: dict[str, dict[str, Any]] = field(default_factory=dict)
    visits: dict[str, dict[str, Any]] = field(default_factory=dict)
    entries: dict[str, list[dict[str, Any]]] = field(default_factory=dict)
    entry_ids: set[str] = field(default_factory=set)
    bad_plants: set[str] = field(default_factory=set)
    bad: list[dict[str, Any]] = field(default_factory=list)
    rows: int = 0


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
    _drop_orphans(staging)
    items = _with_free_ids(block, staging)
    counts = {
        "rows": staging.rows,
        "plants": len(items["plants"]),
        "visits": len(items["visits"]),
        "entries": sum(len(v["entries"]) for v in items["visits"]),
        "bad": len(staging.bad),
    }
    return ImportBatch.objects.create(
        organisation_id=actor.organisation_id,
        block=block,
        author=actor,
        file_name=file_name[:200],
        items=items,
        bad=staging.bad[:MOST_BAD_LISTED],
        counts=counts,
    )


def _triples(file_name: str, data: bytes, staging: Staging) -> Iterator[tuple[int, list[Triple]]]:
    ending = file_name.lower().rsplit(".", 1)[-1]
    if ending not in ("csv", "geojson", "json"):
        raise BadInput("file", file_name, "a file ending in .csv, .geojson or .json")
    source = read_csv(data) if ending == "csv" else read_geojson(data)
    for number, raw in source:
        try:
            if ending == "csv" and "short" in raw:
                raise BadInput("row", raw["short"], "a whole row")
            yield number, [nested(raw)] if ending == "csv" else items_of(raw)
        except BadInput as error:
            staging.rows += 1
            staging.bad.append({"row": number, **error.details})


def _judge(staging: Staging, block: Block, number: int, triple: Triple) -> None:
    """Check one row and keep it, or list it with field, value and what is allowed."""
    plant, visit, entry = triple
    try:
        require_storable("row", list(triple))
        _keep_plant(staging, block, plant)
        if visit:
            _keep_visit(staging, visit)
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


def _keep_visit(staging: Staging, visit: dict[str, Any]) -> None:
    key = str(visit.get("id"))
    if key not in staging.visits:
        read = read_visit({**visit, "entries": []})
        if future(read.local_date, timezone.now()):
            raise BadInput("local_date", visit["local_date"], "a day that has come somewhere on earth")
        staging.visits[key] = visit
    elif staging.visits[key]["plant"] != visit["plant"]:
        raise BadInput("visit_id", key, "one visit belongs to one plant")


def _keep_entry(staging: Staging, visit: str, entry: dict[str, Any]) -> None:
    read_entry(entry)
    if str(entry["id"]) in staging.entry_ids:
        raise BadInput("entry_id", entry["id"], "each entry once")
    staging.entry_ids.add(str(entry["id"]))
    staging.entries.setdefault(visit, []).append(entry)


def _drop_orphans(staging: Staging) -> None:
    """A correction whose original is neither in the file's good rows nor stored would dangle: it is listed as
    bad.
    """
    named = {
        str(e[k])
        for entries in staging.entries.values()
        for e in entries
        for k in ("replaces", "retracts")
        if e.get(k)
    }
    missing = named - staging.entry_ids
    for entries in staging.entries.values():
        for entry in [
            e for e in entries if str(e.get("replaces")) in missing or str(e.get("retracts")) in missing
        ]:
            entries.remove(entry)
            staging.bad.append(
                {
                    "row": None,
                    "field": "replaces",
                    "value": str(entry.get("replaces") or entry.get("retracts")),
                    "allowed": "an entry that is in the file",
                }
            )


def _with_free_ids(block: Block, staging: Staging) -> dict[str, Any]:
    """The staged items; where any id is taken already, all are renamed, always the same way for the same
    block.
    """
    ids = [read_id("id", i) for i in (*staging.plants, *staging.visits, *staging.entry_ids)]
    taken = any(model.objects.filter(pk__in=ids).exists() for model in (Plant, Visit, Entry))

    def named(old: Any) -> str:
        return str(uuid.uuid5(block.id, str(old))) if taken else str(old)

    plants = [
        {
            **p,
            "id": named(p["id"]),
            **({"from_plant": named(p["from_plant"])} if str(p.get("from_plant")) in staging.plants else {}),
        }
        for p in staging.plants.values()
    ]
    visits = []
    for key, visit in staging.visits.items():
        entries = [_renamed(e, named) for e in staging.entries.get(key, [])]
        visits.append({**visit, "id": named(key), "plant": named(visit["plant"]), "entries": entries})
    fresh = set(map(str, _free(Plant, [p["id"] for p in plants])))
    return {
        "plants": [p for p in plants if p["id"] in fresh],
        "visits": [v for v in visits if v["plant"] in fresh],
        "renamed": taken,
    }


def _renamed(entry: dict[str, Any], named: Any) -> dict[str, Any]:
    entry = copy.deepcopy(entry)
    entry |= {k: named(entry[k]) for k in ("id", "replaces", "retracts") if entry.get(k)}
    if entry["kind"] == "determination" and entry.get("body", {}).get("looks"):
        entry["body"]["looks"] = [named(look) for look in entry["body"]["looks"]]
    return entry


def _free(model: type[Plant], ids: list[str]) -> set[str]:
    """Ids not stored yet: reading the same file twice into a block adds nothing."""
    there = {str(pk) for pk in model.objects.filter(pk__in=ids).values_list("pk", flat=True)}
    return set(ids) - there
