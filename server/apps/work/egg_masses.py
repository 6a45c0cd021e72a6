"""Egg masses of the spongy moth as they were counted on a site."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from apps.plants.models import Entry
from apps.plants.projection import bodies_of
from apps.plants.selectors import entry_rows_by_plant, of_kinds
from apps.sites.models import Block
from jubark_core.records.ailing import Sign

EGG_MASSES = "egg_mass_buff"


def egg_mass_plots_of(blocks: Sequence[Block], on: datetime.date) -> dict[UUID, list[dict[str, Any]]]:
    """Block -> each count over a known ground up to the day: {on, masses, over_m2}."""
    counted = Entry.objects.filter(
        plant__block__in=blocks, kind="sign", body__sign=EGG_MASSES, body__over_m2__isnull=False
    )
    block_of = dict(counted.values_list("plant_id", "plant__block_id"))
    found: dict[UUID, list[dict[str, Any]]] = {}
    for plant, rows in entry_rows_by_plant(block_of, entries=of_kinds("sign")).items():
        for day, body in bodies_of(rows):
            if isinstance(body, Sign) and body.sign == EGG_MASSES and body.over_m2 and day <= on:
                masses = body.number or 0 if body.present else 0
                plot = {"on": day.isoformat(), "masses": masses, "over_m2": body.over_m2}
                found.setdefault(block_of[plant], []).append(plot)
    return found
