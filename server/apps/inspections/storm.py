"""Looks at trees after a storm, as everybody's devices show them."""

from __future__ import annotations

import datetime
from typing import Any

from apps.plants.merged import ends_of
from apps.plants.models import Entry, Plant
from apps.plants.selectors import of_kinds
from apps.plants.stored import OBSERVERS, shown_body
from apps.sites.models import Block
from jubark_core.tree_file.filed import standing_entries


def storm_looks(block: Block, since: datetime.date) -> list[dict[str, Any]]:
    """The newest look at each tree of a block since a day, newest first, with where the tree stands."""
    entries = (
        Entry.objects.filter(of_kinds("storm"), visit__local_date__gte=since)
        .filter(plant__block__site=block.site_id)
        .select_related("visit", *OBSERVERS)
        .order_by("visit__local_date", "visit__observed_at", "received_at", "id")
    )
    looked = [e for e in standing_entries(list(entries)).live if e.kind == "storm"]  # the oldest first
    tree = ends_of({e.plant_id for e in looked})
    newest = {tree[e.plant_id]: e for e in looked}
    plants = {p.pk: p for p in Plant.objects.filter(pk__in=newest, block=block)}
    looks = [
        {
            "plant": plant,
            "at": entry.visit.observed_at,
            "by": entry.observer,
            "body": shown_body(entry),
            "lat": place.y if (place := plants[plant].place) else None,
            "lon": place.x if place else None,
            "accuracy_m": plants[plant].accuracy_m,
        }
        for plant, entry in newest.items()
        if plant in plants
    ]
    return sorted(looks, key=lambda look: look["at"], reverse=True)
