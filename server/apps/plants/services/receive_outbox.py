"""A device's outbox: judged item by item, each in its own savepoint, safe to send again."""

from __future__ import annotations

import datetime
import hashlib
import json
import logging
from collections import Counter
from typing import Any

from django.db import IntegrityError, OperationalError, transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import BadEntry, IdReused, WaitingOn
from apps.plants.incoming import read_clock, read_entry, read_plant, read_visit
from apps.plants.models import Received
from apps.plants.services.confirm_clock import confirm_clock
from apps.plants.services.correct_entry import correct_entry
from apps.plants.services.record_plant import record_plant
from apps.plants.services.record_visit import record_visit
from config.errors import BadInput, DomainError, TooLarge
from jubark_core.checks import require_moment, require_one_of, require_storable
from jubark_core.errors import InputError
from jubark_core.records.json_schema import MOST_ITEMS
from jubark_core.records.shapes import Id
from jubark_core.records.upgrade import upgrade

KINDS = ("plant", "visit", "correction", "clock")
FIRST_VERSION = 1  # of an item that names none
MOST_REUSED = 20
MOST_CLOCK_ERROR = datetime.timedelta(hours=26)  # a day, and what a wrongly set time zone adds

logger = logging.getLogger(__name__)


def receive_outbox(*, actor: Member, items: Any, sent_at: Any = None) -> list[dict[str, Any]]:
    """One answer per item: accepted, already, refused (with code, message, field) or waiting (on id).

    sent_at: the device's clock when it sent; more than a day off, and the visits of the batch count only once
    confirmed. Raises BadInput when the batch is no list of objects, TooLarge over 200 items.
    """
    if not isinstance(items, list):
        raise BadInput("items", items, "a list of items")
    if len(items) > MOST_ITEMS:
        raise TooLarge(
            f"items: {len(items)} items are too many; at most {MOST_ITEMS} at a time.", allowed=MOST_ITEMS
        )
    clock_off = _is_off(sent_at)
    answers = [_judge(actor, item, clock_off) for item in items]
    taken: Counter[str] = Counter(
        item["kind"] for item, a in zip(items, answers, strict=True) if a["answer"] == "accepted"
    )
    if taken:
        note(actor, "records_sent", counts=dict(taken))
    return answers


def _is_off(sent_at: Any) -> bool:
    """Whether the device's clock is more than a day off the server's, in either direction. Unreadable: not
    known.
    """
    try:
        return abs(timezone.now() - require_moment("sent_at", sent_at)) > MOST_CLOCK_ERROR
    except InputError:
        return False


def _judge(actor: Member, item: Any, clock_off: bool) -> dict[str, Any]:
    answer: dict[str, Any] = {"id": None}
    try:
        require_storable("item", item)
        named = item.get("id") if isinstance(item, dict) else None
        answer["id"] = named if isinstance(named, str) else None
        with transaction.atomic():
            return answer | _take(actor, item, clock_off)
    except WaitingOn as waiting:
        return answer | {"answer": "waiting", "on": waiting.on}
    except InputError as error:
        return answer | {"answer": "refused", **error.told()}
    except DomainError as error:
        if error.code == "id_reused":
            _keep_both(actor, item)
        return answer | {"answer": "refused", "code": error.code, "message": error.message, **error.details}
    except IntegrityError as error:
        message = f"The database refused it: {str(error).splitlines()[0]}"
        return answer | {"answer": "refused", "code": "conflict", "message": message}
    except OperationalError:
        raise  # the database is away: the whole batch is sent again
    except Exception:
        # one item that trips the server must not hold up what stands behind it
        logger.exception("outbox item %s of member %s", answer["id"], actor.pk)
        message = (
            "The server failed on this item and has logged it. It is not stored; the rest of the "
            "batch was dealt with."
        )
        return answer | {"answer": "refused", "code": "server_error", "message": message}


def _take(actor: Member, item: Any, clock_off: bool) -> dict[str, Any]:
    require_role(actor, Role.SURVEYOR, "Sending records")
    if not isinstance(item, dict):
        raise InputError("item", item, "an object with id, kind, author, recorded_at, schema and body")
    item_id = Id().read("id", item.get("id"), {})
    kind = require_one_of("kind", item.get("kind"), KINDS)
    version = item.get("schema", FIRST_VERSION)
    if str(item.get("author", actor.id)) != str(actor.id):
        raise BadEntry(
            "This entry was written by another member; they must sign in to send it.", field="author"
        )
    body = item.get("body")
    if not isinstance(body, dict) or str(body.get("id")) != str(item_id):
        raise InputError("body.id", body.get("id") if isinstance(body, dict) else body, "the id of the item")
    digest = digest_of(kind, body)
    before = Received.objects.filter(item=item_id, outcome="accepted").first()
    if before is not None:
        if before.digest == digest and before.organisation_id == actor.organisation_id:
            return {"answer": "already"}
        raise IdReused(item_id)
    try:
        with transaction.atomic():
            # before the work, so that of two tabs sending the same item at once one finds it taken
            Received.objects.create(
                item=item_id,
                organisation_id=actor.organisation_id,
                author=actor,
                kind=kind,
                digest=digest,
                outcome="accepted",
            )
    except IntegrityError:
        same = Received.objects.filter(
            item=item_id, outcome="accepted", digest=digest, organisation_id=actor.organisation_id
        ).exists()
        if same:
            return {"answer": "already"}
        raise IdReused(item_id) from None
    _record(actor, kind, upgrade(kind, body, version), version, clock_off)
    return {"answer": "accepted"}


def _record(actor: Member, kind: str, body: Any, version: int, clock_off: bool) -> None:
    match kind:
        case "plant":
            record_plant(actor=actor, plant=read_plant(body))
        case "visit":
            record_visit(actor=actor, visit=read_visit(body, version), clock_off=clock_off, version=version)
        case "correction":
            correct_entry(actor=actor, entry=read_entry(body, version), version=version)
        case "clock":
            confirm_clock(actor=actor, confirmation=read_clock(body))


def digest_of(kind: str, body: dict[str, Any]) -> str:
    """SHA-256 over the canonical JSON of an item."""
    return hashlib.sha256(
        json.dumps([kind, body], sort_keys=True, separators=(",", ":")).encode()
    ).hexdigest()


def _keep_both(actor: Member, item: dict[str, Any]) -> None:
    """The second body under a used id is kept too, beside the first; up to a few, so that nobody can fill the
    disk with them.
    """
    if (
        Received.objects.filter(
            item=item["id"], organisation_id=actor.organisation_id, outcome="id_reused"
        ).count()
        >= MOST_REUSED
    ):
        return
    row = {
        "item": item["id"],
        "organisation_id": actor.organisation_id,
        "digest": digest_of(item["kind"], item["body"]),
    }
    if not Received.objects.filter(**row).exists():
        Received.objects.create(
            **row, author=actor, kind=item["kind"], body=item["body"], outcome="id_reused"
        )
