"""Conditions as the season has them: out of leaf the word is a winter view, and no foliage is graded."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple
from uuid import UUID

from apps.plants.merged import ends_of
from apps.plants.models import Current, Visit
from jubark_core.condition.leaf_state import SURE_NAME, in_season, leaf_state
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import judged_again
from jubark_core.records.bodies import Determination
from jubark_core.records.judged import Condition
from jubark_core.records.things import Entry as EntryIn
from jubark_core.records.upgrade import VERSION
from jubark_core.season.place import Place


class Row(NamedTuple):
    """An entry and where it belongs."""

    visit: UUID
    plant: UUID
    observer: str
    at: datetime.datetime
    entry: EntryIn
    version: int = VERSION  # the record version it was made with


def as_in_season(rows: Sequence[Row]) -> list[Row]:
    """The rows, their conditions as the leaf state of the day has them. Raises InputError where foliage was
    graded while the tree has none and no reason says why it has.
    """
    asked = {row.visit for row in rows if isinstance(row.entry.body, Condition)}
    states = _states(asked, rows) if asked else {}
    return [_judged(row, states[row.visit]) if row.visit in states else row for row in rows]


def _judged(row: Row, state: str) -> Row:
    body = row.entry.body
    if not isinstance(body, Condition):
        return row
    try:
        return row._replace(entry=replace(row.entry, body=judged_again(in_season(body, state))))
    except InputError as error:
        raise InputError(f"condition.{error.place}", error.value, error.allowed) from None


def _states(visits: set[UUID], rows: Sequence[Row]) -> dict[UUID, str]:
    """Visit -> the leaf state of its tree on its day."""
    named = {row.visit: row.entry.body for row in rows if isinstance(row.entry.body, Determination)}
    site = (f"plant__block__site__{name}" for name in ("lat", "lon", "elevation_m"))
    found = Visit.objects.filter(pk__in=visits).values_list("pk", "local_date", "plant_id", *site)
    told = list(found)
    tops = ends_of({plant for _, _, plant, *_ in told})
    names = Current.objects.filter(pk__in=tops.values()).in_bulk()
    states: dict[UUID, str] = {}
    known: dict[tuple[object, ...], str] = {}
    for visit, on, plant, lat, lon, elevation_m in told:
        name = named.get(visit)
        now = names.get(tops.get(plant, plant))
        taxon = name.taxon if name else now.taxon if now else ""
        sure = name.probability if name else now.name_probability if now else None
        key = (taxon, on, lat, lon, elevation_m)
        if taxon and (sure is None or sure >= SURE_NAME):
            if key not in known:
                known[key] = leaf_state(taxon, on, Place(lat, lon, elevation_m), shipped_flora())
            states[visit] = known[key]
    return states
