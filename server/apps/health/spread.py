"""How a cause spread over a site: which plants had it when, from what was known from day to day."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from apps.organisations.models import Member
from apps.organisations.permissions import visible_to
from apps.plants.models import PlantSpan
from apps.sites.models import Block


def spread_of(actor: Member, blocks: Sequence[Block], cause: str) -> list[dict[str, Any]]:
    """Plants that have or had the cause: place, first day, the day it ended where it did; oldest first."""
    spans = visible_to(actor, PlantSpan.objects.filter(cause=cause, plant__block__in=blocks))
    found: dict[str, dict[str, Any]] = {}
    for span in spans.select_related("plant", "plant__current").order_by("from_day", "id"):
        plant = span.plant
        row = found.setdefault(
            str(plant.id),
            {
                "plant": str(plant.id),
                "tag": plant.current.tag,
                "name": plant.current.name,
                "block": str(plant.block_id),
                "lon": plant.place.x if plant.place else None,
                "lat": plant.place.y if plant.place else None,
                "first": span.from_day.isoformat(),
                "standing": plant.current.cause_standing if plant.current.cause == cause else "",
                "ended": "",
            },
        )
        row["ended"] = span.to_day.isoformat() if span.to_day else ""
    return list(found.values())
