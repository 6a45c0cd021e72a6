"""Egg masses of the spongy moth as they were counted on a site."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from apps.plants.models import Entry
from apps.plants.tree_files import tree_files
from apps.sites.models import Block
from jubark_core.records.ailing import Sign
from jubark_core.work.outbreak import EGG_MASSES


def egg_mass_plots_of(blocks: Sequence[Block], on: datetime.date) -> dict[UUID, list[dict[str, Any]]]:
    """Block -> each count over a known ground up to the day: {on, masses, over_m2}."""
    counted = Entry.objects.filter(
        plant__block__in=blocks, kind="sign", body__sign=EGG_MASSES, body__over_m2__isnull=False
    )
    block_of = dict(counted.values_list("plant_id", "plant__block_id"))
    found: dict[UUID, list[dict[str, Any]]] = {}
    for plant, file in tree_files(block_of, "sign", on=on):
        for row in file.all_of(Sign):
            if row.body.sign == EGG_MASSES and row.body.over_m2:
                masses = row.body.number or 0 if row.body.present else 0
                plot = {"on": row.on.isoformat(), "masses": masses, "over_m2": row.body.over_m2}
                found.setdefault(block_of[plant], []).append(plot)
    return found
