"""A staged file taken over, or dropped."""

from __future__ import annotations

from django.db import IntegrityError, connection, transaction

from apps.exchange.models import ImportBatch
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.incoming import read_plant, read_visit
from apps.plants.models import Plant
from apps.plants.services.take_records import take_records
from config.errors import DomainError
from jubark_core.records.upgrade import upgrade


class AlreadyDecided(DomainError):
    """The batch was taken or dropped before."""

    code = "already_decided"
    status = 409


class IdsTaken(DomainError):
    """Between staging and taking, something else was stored under ids of this file."""

    code = "ids_taken"
    status = 409

    def __init__(self) -> None:
        super().__init__(
            "Since this file was read, records with its ids were stored. Nothing was taken; read the "
            "file in again."
        )


@transaction.atomic
def take_file(*, actor: Member, batch: ImportBatch) -> ImportBatch:
    """Store the good rows of a staged file in one transaction. Raises AlreadyDecided, NotAllowed, IdsTaken.

    What came into the same block since, from the same file staged twice, is passed over: it is there already.
    """
    require_role(actor, Role.STEWARD, "Taking a file")
    locked = _locked(batch)
    # one take of an organisation at a time, so that ids are judged against what is stored
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_advisory_xact_lock(hashtextextended(%s, 0))", [f"take {actor.organisation_id}"]
        )
    ids = [p["id"] for p in locked.items["plants"]]
    here = {
        str(pk)
        for pk in Plant.objects.filter(pk__in=ids, block_id=locked.block_id).values_list("pk", flat=True)
    }
    version = locked.items.get("record_version", 1)  # a file can be staged before an upgrade and taken after
    items = locked.items
    plants = [read_plant(upgrade("plant", p, version)) for p in items["plants"] if p["id"] not in here]
    made_with = items.get("made_with", version)
    there = [v for v in items["visits"] if v["plant"] not in here]
    visits = [read_visit(upgrade("visit", v, version), made_with) for v in there]
    try:
        with transaction.atomic():
            take_records(actor=actor, plants=plants, visits=visits, version=made_with)
    except IntegrityError:
        raise IdsTaken from None
    note(actor, "file_taken", thing=locked.id, file=locked.file_name, plants=len(plants), visits=len(visits))
    return _close(locked, "taken")


@transaction.atomic
def drop_file(*, actor: Member, batch: ImportBatch) -> ImportBatch:
    """Forget a staged file. Raises AlreadyDecided, NotAllowed."""
    require_role(actor, Role.STEWARD, "Dropping a file")
    note(actor, "file_dropped", thing=batch.id, file=batch.file_name)
    return _close(_locked(batch), "dropped")


def _locked(batch: ImportBatch) -> ImportBatch:
    locked = ImportBatch.objects.select_for_update().get(pk=batch.pk)
    if locked.state != "staged":
        raise AlreadyDecided(f"This file was {locked.state} already.", field="state", value=locked.state)
    return locked


def _close(batch: ImportBatch, state: str) -> ImportBatch:
    batch.state = state
    batch.items = {}
    batch.save(update_fields=["state", "items"])
    return batch
