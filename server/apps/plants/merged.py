"""Records of one tree: which are merged into which, also through a third."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Mapping, Sequence
from uuid import UUID

from django.db import connection
from django.db.models import Q

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
# the same as it was known at a moment, by the merges that stood then
DOWN_THEN = """
    WITH RECURSIVE then_merged AS (
        SELECT plant_id, into_id FROM plants_merge
        WHERE merged_at <= %s AND (undone_at IS NULL OR undone_at > %s)
    ), under AS (
        SELECT p.id AS top, p.id FROM plants_plant p WHERE p.id = ANY(%s)
        UNION
        SELECT under.top, m.plant_id FROM then_merged m JOIN under ON m.into_id = under.id
    )
    SELECT top, id FROM under WHERE id <> top ORDER BY id
"""


def _pairs(sql: str, plants: Iterable[UUID], *before: datetime.datetime) -> list[tuple[UUID, UUID]]:
    wanted = list(plants)
    if not wanted:
        return []
    with connection.cursor() as cursor:
        cursor.execute(sql, [*before, wanted])
        return list(cursor.fetchall())


def ends_of(plants: Iterable[UUID]) -> dict[UUID, UUID]:
    """Plant -> the one that stands for it: itself, unless it was merged."""
    return dict(_pairs(UP, plants))


def ends_at(plant: UUID) -> UUID:
    """The plant that stands for one."""
    return ends_of([plant])[plant]


def duplicates_of(plants: Iterable[UUID], at: datetime.datetime | None = None) -> dict[UUID, list[UUID]]:
    """Plant -> the records merged into it, also through another; those with none are left out. at: as it was
    at a moment.
    """
    wanted = list(plants)
    found: dict[UUID, list[UUID]] = {}
    for top, below in _pairs(DOWN, wanted) if at is None else _pairs(DOWN_THEN, wanted, at, at):
        found.setdefault(top, []).append(below)
    return found


def last_merged(
    duplicates: Mapping[UUID, Sequence[UUID]], at: datetime.datetime | None = None
) -> dict[UUID, datetime.date]:
    """Tree -> the day, at its site, on which the last of its duplicates was found to be one, as it was known
    at a moment.
    """
    top = {record: tree for tree, records in duplicates.items() for record in records}
    found: dict[UUID, datetime.date] = {}
    held = (
        Q(undone_at=None) if at is None else (Q(undone_at=None) | Q(undone_at__gt=at)) & Q(merged_at__lte=at)
    )
    merges = Merge.objects.filter(held, plant__in=list(top)) if top else Merge.objects.none()
    for record, when, zone in merges.values_list("plant_id", "merged_at", "plant__block__site__time_zone"):
        day = today_in(zone, when)
        found[top[record]] = max(day, found.get(top[record], day))
    return found
