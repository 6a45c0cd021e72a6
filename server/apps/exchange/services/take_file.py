"""A staged file taken over, or dropped."""

from __future__ import annotations

from django.db import transaction

from apps.crews.models import Member
from apps.exchange.models import ImportBatch
from apps.stems.read_items import read_plant, read_visit
from apps.stems.services.take_records import take_records
from config.errors import DomainError


class AlreadyDecided(DomainError):
    """The batch was taken or dropped before."""

    code = "already_decided"
    status = 409


@transaction.atomic
def take_file(*, actor: Member, batch: ImportBatch) -> ImportBatch:
    """Store the good rows of a staged file in one transaction. Raises AlreadyDecided, NotAllowed."""
    locked = _locked(batch)
    plants = [read_plant(p) for p in locked.items["plants"]]
    visits = [read_visit(v) for v in locked.items["visits"]]
    take_records(actor=actor, plants=plants, visits=visits)
    return _close(locked, "taken")


@transaction.atomic
def drop_file(*, actor: Member, batch: ImportBatch) -> ImportBatch:
    """Forget a staged file. Raises AlreadyDecided."""
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
