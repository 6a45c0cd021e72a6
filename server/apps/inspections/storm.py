"""Looks at trees after a storm, as everybody's devices show them."""

from __future__ import annotations

import datetime
from typing import Any

from apps.plants.merged import ends_of
from apps.plants.models import Entry, Plant
from apps.plants.stored import OBSERVERS, shown_body
from apps.plants.tree_files import tree_files
from apps.sites.models import Block


def storm_looks(block: Block, since: datetime.date) -> list[dict[str, Any]]:
    """The newest look at each tree of a block since a day, newest first, with where the tree stands, and
    whether wires hold it, whatever a later look saw.
    """
    looked = Entry.objects.filter(
        kind="storm", visit__local_date__gte=since, plant__block__site=block.site_id
    ).values_list("plant_id", flat=True)
    plants = {p.pk: p for p in Plant.objects.filter(pk__in=ends_of(set(looked)).values(), block=block)}
    files = dict(tree_files(plants, "storm", "clearance"))
    newest = {
        tree: looks[-1].id
        for tree, file in files.items()
        if (looks := [e for e in file.live if e.kind == "storm" and e.visit.local_date >= since])
    }
    entries = Entry.objects.filter(pk__in=newest.values()).select_related("visit", *OBSERVERS).in_bulk()
    found = [
        {
            "plant": tree,
            "at": (entry := entries[look]).visit.observed_at,
            "by": entry.observer,
            "body": shown_body(entry),
            "wires": files[tree].wires is not None,
            "lat": place.y if (place := plants[tree].place) else None,
            "lon": place.x if place else None,
            "accuracy_m": plants[tree].accuracy_m,
        }
        for tree, look in newest.items()
    ]
    return sorted(found, key=lambda look: look["at"], reverse=True)
