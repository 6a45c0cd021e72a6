"""Records of one tree: which are merged into which, also through a third."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Mapping, Sequence
from uuid import UUID

from django.db import connection

from apps.plants.models import Merge
from apps.sites.time_zone import today_in

UP = """
    WITH RECURSIVE up AS (
        SELECT id AS first, id, merged_into_id FROM plants_plant WHERE id = ANY(%s)
        UNION
        SELECT up.first, p.id, p.merged_into_id FROM plants_plant p JOIN up ON p.id = up.merged_into_id
    )
    SELECT first, id FROM up WHERE merged_into_id IS NULL
"""
DOWN = """
    WITH RECURSIVE under AS (
        SELECT id AS top, id FROM plants_plant WHERE id = ANY(%s)
        UNION
        SELECT under.top, p.id FROM plants_plant p JOIN under ON p.merged_into_id = under.id
    )
    SELECT top, id FROM under WHERE id <> top ORDER BY id
"""


def _pairs(sql: str, plants: Iterable[UUID]) -> list[tuple[UUID, UUID]]:
    wanted = list(plants)
    if not wanted:
        return []
    with connection.cursor() as cursor:
        cursor.execute(sql, [wanted])
        return list(cursor.fetchall())


def ends_of(plants: Iterable[UUID]) -> dict[UUID, UUID]:
    """Plant -> the one that stands for it: itself, unless it was merged."""
    return dict(_pairs(UP, plants))


def ends_at(plant: UUID) -> UUID:
    """The plant that stands for one."""
    return ends_of([plant])[plant]


def duplicates_of(plants: Iterable[UUID]) -> dict[UUID, list[UUID]]:
    """Plant -> the records merged into it, also through another; those with none are left out."""
    found: dict[UUID, list[UUID]] = {}
    for top, below in _pairs(DOWN, plants):
        found.setdefault(top, []).append(below)
    return found


def last_merged(duplicates: Mapping[UUID, Sequence[UUID]]) -> dict[UUID, datetime.date]:
    """Tree -> the day, at its site, on which the last of its duplicates was found to be one."""
    top = {record: tree for tree, records in duplicates.items() for record in records}
    found: dict[UUID, datetime.date] = {}
    merges = Merge.objects.filter(plant__in=list(top), undone_at=None) if top else Merge.objects.none()
    for record, at, zone in merges.values_list("plant_id", "merged_at", "plant__block__site__time_zone"):
        day = today_in(zone, at)
        found[top[record]] = max(day, found.get(top[record], day))
    return found
