"""JSON Schema 2020-12 of every record, made from its description: what the API description takes verbatim."""

from __future__ import annotations

from typing import Any

from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import object_schema
from jubark_core.records.office import OFFICE
from jubark_core.records.shapes import Schema
from jubark_core.records.things import ClockConfirmation, Conventions, EntryHead, Plant, Visit
from jubark_core.records.typed_schema import REF
from jubark_core.records.upgrade import VERSION

MOST_ITEMS = 200
_UUID: Schema = {"type": "string", "format": "uuid"}
_MOMENT: Schema = {"type": "string", "format": "date-time"}


def components() -> dict[str, Schema]:
    """Component name -> schema: bodies, entries as they come in and as shown, items of the outbox."""
    found = {
        "PlantIn": object_schema(Plant),
        "VisitIn": object_schema(Visit),
        "ClockConfirmationIn": object_schema(ClockConfirmation),
        "ConventionsIn": {**object_schema(Conventions), "minProperties": 1},
    }
    for name, thing in OFFICE.items():
        found[_name(name, "In")] = object_schema(thing)
        found[_name(name, "Change")] = _change(thing)
    for kind, what in KINDS.items():
        found[_name(kind, "Body")] = object_schema(what.body)
        found[_name(kind, "EntryIn")] = _entry(kind, _head_in(), ["body", "id"])
        found[_name(kind, "EntryShown")] = _entry(kind, _shown_head(), list(_shown_head()))
    found["EntryIn"] = _union("EntryIn", "kind", {kind: _name(kind, "EntryIn") for kind in KINDS})
    found["EntryShown"] = _union("EntryShown", "kind", {kind: _name(kind, "EntryShown") for kind in KINDS})
    found["WithdrawalIn"] = _withdrawal()
    found["CorrectionIn"] = {"oneOf": [{"$ref": REF + "EntryIn"}, {"$ref": REF + "WithdrawalIn"}]}
    items = {
        "plant": "PlantIn",
        "visit": "VisitIn",
        "correction": "CorrectionIn",
        "clock": "ClockConfirmationIn",
    }
    for kind, body in items.items():
        found[_name(kind, "ItemIn")] = _item(kind, body)
    found["OutboxItemIn"] = _union("OutboxItemIn", "kind", {kind: _name(kind, "ItemIn") for kind in items})
    found["OutboxIn"] = {
        "type": "object",
        "description": f"At most {MOST_ITEMS} items and 1 MiB; each is judged by itself.",
        "properties": {
            "sent_at": {**_MOMENT, "description": "The device's clock when it sent."},
            "items": {"type": "array", "maxItems": MOST_ITEMS, "items": {"$ref": REF + "OutboxItemIn"}},
        },
        "required": ["items"],
        "additionalProperties": False,
    }
    return found


def _change(thing: type) -> Schema:
    """What may be changed of a thing: any of its fields, at least one; what is left out stays."""
    schema = object_schema(thing)
    schema.pop("required", None)
    return {**schema, "minProperties": 1}


def _name(kind: str, suffix: str) -> str:
    return "".join(word.capitalize() for word in kind.split("_")) + suffix


def _entry(kind: str, head: dict[str, Schema], required: list[str]) -> Schema:
    return {
        "type": "object",
        "description": f"An entry: {KINDS[kind].label.lower()}.",
        "properties": {
            "kind": {"type": "string", "enum": [kind]},
            "body": {"$ref": REF + _name(kind, "Body")},
            **head,
        },
        "required": ["kind", *required],
        "additionalProperties": False,
    }


def _head_in() -> dict[str, Schema]:
    head: dict[str, Schema] = object_schema(EntryHead)["properties"]
    return {name: what for name, what in head.items() if name != "retracts"}


def _withdrawal() -> Schema:
    return {
        "type": "object",
        "description": "That an entry is withdrawn.",
        "properties": {
            "kind": {"type": "string", "enum": list(KINDS)},
            **_head_in(),
            "retracts": {**_UUID, "description": "The entry that is withdrawn."},
        },
        "required": ["id", "kind", "retracts", "recorded_at"],
        "additionalProperties": False,
    }


def _shown_head() -> dict[str, Schema]:
    return {
        "id": _UUID,
        "observer": {"type": "string"},
        "entered_by": {"type": "string", "description": "The author, where another observer is named."},
        "recorded_at": _MOMENT,
        "received_at": _MOMENT,
        "replaces": {"oneOf": [_UUID, {"type": "null"}]},
        "retracts": {"oneOf": [_UUID, {"type": "null"}]},
        "reason": {"type": "string"},
        "stands": {
            "type": "boolean",
            "description": "False when it was corrected or withdrawn, or itself withdraws another.",
        },
        "contested": {"type": "boolean", "description": "Two corrections name the same entry."},
        "mine": {"type": "boolean"},
        "by": {"type": ["string", "null"], "format": "uuid", "description": "The member who was signed in."},
    }


def _item(kind: str, body: str) -> Schema:
    return {
        "type": "object",
        "description": f"What a device saved: {kind}.",
        "properties": {
            "id": _UUID,
            "kind": {"type": "string", "enum": [kind]},
            "author": {**_UUID, "description": "The member who wrote it; must be the one who sends it."},
            "recorded_at": _MOMENT,
            "schema": {
                "type": "integer",
                "minimum": 1,
                "maximum": VERSION,
                "default": 1,
                "description": "The record version it was made with.",
            },
            "body": {"$ref": REF + body},
        },
        "required": ["id", "kind", "body"],
        "additionalProperties": False,
    }


def _union(name: str, key: str, members: dict[str, str]) -> Schema:
    return {
        "description": f"{name}, told apart by {key}.",
        "oneOf": [{"$ref": REF + member} for member in members.values()],
        "discriminator": {
            "propertyName": key,
            "mapping": {word: REF + member for word, member in members.items()},
        },
    }


def without_references(name: str, every: dict[str, Any] | None = None) -> Schema:
    """The schema of a component with its own definitions inside, for a validator that knows no API."""
    known = every or components()
    text: dict[str, Any] = {"$ref": REF + name, "components": {"schemas": known}}
    return text
