"""Rebuilds the projections of plants from their entries, under a row lock, in id order."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.db import connection

from apps.plants.merged import ends_of
from apps.plants.models import Current, Plant, PlantSpan
from apps.plants.tree_files import tree_files
from jubark_core.tree_file.life import GONE

FIELDS = [f.name for f in Current._meta.concrete_fields if f.name not in ("plant", "tag_clash")]


def refresh_current(plant_ids: Iterable[UUID], every_tag: bool = False) -> None:
    """Recompute Current and PlantSpan of the plants. Call inside the transaction that wrote the entries.

    every_tag: look for clashes of all their tags, not only of those that changed (for a rebuild).
    """
    named = set(plant_ids)
    wanted = sorted(named | set(ends_of(named).values()))
    plants = list(Plant.objects.select_for_update().filter(pk__in=wanted).order_by("pk"))
    files = dict(tree_files([plant.id for plant in plants], duplicates=True))
    before = {
        row[0]: row[1:]
        for row in Current.objects.filter(plant__in=wanted).values_list("plant_id", "tag", "life")
    }
    currents, span_rows = [], []
    tags: set[str] = set()
    for plant in plants:
        values, spans = files[plant.id].now, files[plant.id].spans
        own = {"plant_id": plant.id, "organisation_id": plant.organisation_id}
        currents.append(Current(block_id=plant.block_id, **own, **values))
        span_rows += [PlantSpan(**own, **row) for row in spans]
        was = before.get(plant.id, ("", ""))
        if every_tag or was != (values["tag"], values["life"]):
            tags |= {was[0], values["tag"]}
    Current.objects.bulk_create(
        currents, update_conflicts=True, unique_fields=["plant"], update_fields=FIELDS, batch_size=1000
    )
    PlantSpan.objects.filter(plant__in=wanted).delete()
    PlantSpan.objects.bulk_create(span_rows, batch_size=1000)
    flag_tag_clashes({p.block_id for p in plants}, tags - {""})


def flag_tag_clashes(blocks: Iterable[UUID], tags: Iterable[str]) -> None:
    """A tag carried by two standing plants of one site is a clash, shown on both."""
    numbers = list(tags)
    if not numbers:
        return
    with connection.cursor() as cursor:
        cursor.execute(
            """
            WITH sites AS (
                SELECT DISTINCT site_id, organisation_id FROM sites_block WHERE id = ANY(%(blocks)s)
            ),
            standing AS (
                SELECT c.plant_id, count(*) FILTER (WHERE c.life <> ALL(%(gone)s))
                       OVER (PARTITION BY b.site_id, c.tag) > 1 AS clash
                FROM unnest(%(tags)s::text[]) AS t (tag)
                JOIN plants_current c
                  ON c.tag = t.tag AND c.organisation_id IN (SELECT organisation_id FROM sites)
                JOIN sites_block b ON b.id = c.block_id
                JOIN plants_plant p ON p.id = c.plant_id AND p.merged_into_id IS NULL
                WHERE b.site_id IN (SELECT site_id FROM sites)
            )
            UPDATE plants_current c SET tag_clash = s.clash FROM standing s
            WHERE s.plant_id = c.plant_id AND c.tag_clash <> s.clash
            """,
            {"blocks": list(blocks), "tags": numbers, "gone": list(GONE)},
        )
