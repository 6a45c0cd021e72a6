"""Numbers the changes of a transaction, last thing before it commits."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.db import connection
from django.db.models import Max

from apps.plants.models import Change
from apps.sites.models import Block


def number_changes(organisation_id: UUID, plants: Iterable[UUID], blocks: Iterable[UUID]) -> int:
    """Write one Change per plant under a lock per organisation held to the commit; returns the last number.

    The lock is taken at the end so that it is held briefly; because it is held until the commit, a number is
    never visible before a lower one.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_advisory_xact_lock(hashtextextended(%s, 0))", [f"changes {organisation_id}"]
        )
    last = Change.objects.filter(organisation_id=organisation_id).aggregate(last=Max("number"))["last"] or 0
    rows = [
        Change(organisation_id=organisation_id, number=last + i, kind="plant", what=plant)
        for i, plant in enumerate(sorted(set(plants)), start=1)
    ]
    Change.objects.bulk_create(rows, batch_size=5000)
    last += len(rows)
    Block.objects.filter(pk__in=list(blocks)).update(revision=last)
    return last
