"""A device's outbox: judged item by item, each in its own savepoint, safe to send again."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from django.db import IntegrityError, transaction

from apps.crews.models import Member
from apps.stems.errors import BadEntry, IdReused, WaitingOn
from apps.stems.models import Received
from apps.stems.read_fields import read_id
from apps.stems.read_items import read_entry, read_plant, read_visit
from apps.stems.services.correct_entry import correct_entry
from apps.stems.services.record_plant import record_plant
from apps.stems.services.record_visit import record_visit
from config.errors import BadInput, DomainError, TooLarge
from jubark_core.checks import require_one_of
from jubark_core.errors import InputError

MOST_ITEMS = 200
KINDS = ("plant", "visit", "correction")
SCHEMA = 1


def receive_outbox(*, actor: Member, items: Any) -> list[dict[str, Any]]:
    """One answer per item: accepted, already, refused (with code, message, field) or waiting (on id).

    Raises BadInput when the batch is no list of objects, TooLarge over 200 items.
    """
    if not isinstance(items, list):
        raise BadInput("items", items, "a list of items")
    if len(items) > MOST_ITEMS:
        raise TooLarge(f"items: {len(items)} items are too many; at most {MOST_ITEMS} at a time.", allowed=MOST_ITEMS)
    return [_judge(actor, item) for item in items]


def _judge(actor: Member, item: Any) -> dict[str, Any]:
    given = item.get("id") if isinstance(item, dict) else None
    try:
        with transaction.atomic():
            return {"id": given, **_take(actor, item)}
    except WaitingOn as waiting:
        return {"id": given, "answer": "waiting", "on": waiting.on}
    except InputError as error:
        return {
            "id": given,
            "answer": "refused",
            "code": "bad_input",
            "message": str(error),
            "field": error.place,
            "allowed": error.allowed,
        }
    except DomainError as error:
        if error.code == "id_reused":
            _keep_both(actor, item)
        return {"id": given, "answer": "refused", "code": error.code, "message": error.message, **error.details}
    except IntegrityError as error:
        return {"id": given, "answer": "refused", "code": "conflict", "message": f"The database refused it: {str(error).splitlines()[0]}"}


def _take(actor: Member, item: Any) -> dict[str, Any]:
    if not isinstance(item, dict):
        raise InputError("item", item, "an object with id, kind, author, recorded_at, schema and body")
    item_id = read_id("id", item.get("id"))
    kind = require_one_of("kind", item.get("kind"), KINDS)
    if item.get("schema", SCHEMA) != SCHEMA:
        raise InputError("schema", item.get("schema"), f"{SCHEMA}; the app on this device is older or newer than the server, reload it")
    if str(item.get("author", actor.id)) != str(actor.id):
        raise BadEntry("This entry was written by another member; they must sign in to send it.", field="author")
    body = item.get("body")
    if not isinstance(body, dict) or str(body.get("id")) != str(item_id):
        raise InputError("body.id", body.get("id") if isinstance(body, dict) else body, "the id of the item")
    digest = digest_of(kind, body)
    before = Received.objects.filter(item=item_id, outcome="accepted").first()
    if before is not None:
        if before.digest == digest and before.crew_id == actor.crew_id:
            return {"answer": "already"}
        raise IdReused(item_id)
    try:
        with transaction.atomic():
            # before the work, so that of two tabs sending the same item at once one finds it taken
            Received.objects.create(
                item=item_id, crew_id=actor.crew_id, author=actor, kind=kind, digest=digest, body=body, outcome="accepted"
            )
    except IntegrityError:
        same = Received.objects.filter(item=item_id, outcome="accepted", digest=digest, crew_id=actor.crew_id).exists()
        if same:
            return {"answer": "already"}
        raise IdReused(item_id) from None
    {"plant": _plant, "visit": _visit, "correction": _correction}[kind](actor, body)
    return {"answer": "accepted"}


def _plant(actor: Member, body: dict[str, Any]) -> None:
    record_plant(actor=actor, plant=read_plant(body))


def _visit(actor: Member, body: dict[str, Any]) -> None:
    record_visit(actor=actor, visit=read_visit(body))


def _correction(actor: Member, body: dict[str, Any]) -> None:
    correct_entry(actor=actor, entry=read_entry(body))


def digest_of(kind: str, body: dict[str, Any]) -> str:
    """SHA-256 over the canonical JSON of an item."""
    return hashlib.sha256(json.dumps([kind, body], sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def _keep_both(actor: Member, item: dict[str, Any]) -> None:
    """The second body under a used id is kept too, beside the first."""
    row = {"item": item["id"], "crew_id": actor.crew_id, "digest": digest_of(item["kind"], item["body"])}
    if not Received.objects.filter(**row).exists():
        Received.objects.create(**row, author=actor, kind=item["kind"], body=item["body"], outcome="id_reused")
