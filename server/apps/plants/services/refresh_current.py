"""Rebuilds the projections of plants from their entries, under a row lock, in id order."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.db import connection

from apps.plants.models import Current, Plant, PlantSpan
from apps.plants.projection import current_values, spans
from apps.plants.selectors import entries_by_plant

FIELDS = [f.name for f in Current._meta.concrete_fields if f.name not in ("plant", "tag_clash")]


def refresh_current(plant_ids: Iterable[UUID]) -> None:
    """Recompute Current and PlantSpan of the plants. Call inside the transaction that wrote the entries."""
    wanted = sorted(set(plant_ids))
    plants = list(Plant.objects.select_for_update().filter(pk__in=wanted).order_by("pk"))
    entries = entries_by_plant(wanted)
    before = dict(Current.objects.filter(plant__in=wanted).values_list("plant_id", "tag"))
    currents, span_rows = [], []
    for plant in plants:
        own = entries.get(plant.id, [])
        currents.append(
            Current(
                plant=plant,
                organisation_id=plant.organisation_id,
                block_id=plant.block_id,
                **current_values(own),
            )
        )
        span_rows += [
            PlantSpan(plant=plant, organisation_id=plant.organisation_id, **row) for row in spans(own)
        ]
    Current.objects.bulk_create(
        currents, update_conflicts=True, unique_fields=["plant"], update_fields=FIELDS, batch_size=1000
    )
    PlantSpan.objects.filter(plant__in=wanted).delete()
    PlantSpan.objects.bulk_create(span_rows, batch_size=1000)
    tags = {c.tag for c in currents} | set(before.values())
    flag_tag_clashes({p.block_id for p in plants}, tags - {""})


def flag_tag_clashes(blocks: Iterable[UUID], tags: Iterable[str]) -> None:
    """A tag carried by two standing plants of one site is a clash, shown on both."""
    numbers = list(tags)
    if not numbers:
        return
    with connection.cursor() as cursor:
        cursor.execute(
            """
            WITH sites AS (SELECT DISTINCT site_id FROM sites_block WHERE id = ANY(%(blocks)s)),
            standing AS (
                SELECT c.plant_id, count(*) FILTER (WHERE c.life NOT IN ('removed', 'not_found', 'stump'))
                       OVER (PARTITION BY b.site_id, c.tag) > 1 AS clash
                FROM plants_current c JOIN sites_block b ON b.id = c.block_id
                WHERE b.site_id IN (SELECT site_id FROM sites) AND c.tag = ANY(%(tags)s)
            )
            UPDATE plants_current c SET tag_clash = s.clash FROM standing s
            WHERE s.plant_id = c.plant_id AND c.tag_clash <> s.clash
            """,
            {"blocks": list(blocks), "tags": numbers},
        )
