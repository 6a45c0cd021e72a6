"""The flora as a list that can be narrowed: what each taxon is, where it grows, what it shows on a day."""

from __future__ import annotations

import datetime
from collections.abc import Mapping
from typing import TypedDict

from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible


class Listed(TypedDict):
    """A taxon in the list of species; `plants`: how many there are, by the counts given."""

    taxon: str
    name: str
    common: str
    form: str
    evergreen: bool
    shows: list[str]
    native: list[str]
    introduced: list[str]
    invasive: list[str]
    plants: int


SHOWN_BY = {
    "leaf": ("leaf_on",),
    "flower": ("flowering",),
    "fruit": ("fruit_forming", "fruit_ripe", "fruit_hanging"),
}


def listed(flora: Flora, on: datetime.date, place: Place, counts: Mapping[str, int]) -> list[Listed]:
    """Every described taxon by name: taxon, name, common, form, evergreen, shows (leaf, flower, fruit on that
    day), its areas,
    and its share of `counts` (taxon -> plants).
    """
    day = day_of_year(on)
    rows: list[Listed] = []
    for taxon in flora.leaves:
        t, days, evergreen = flora.taxa[taxon], days_of(flora, taxon, place), flora.evergreen[taxon]
        weights = (t["states"].get("habit.form") or [{}])[0].get("weights", {})
        rows.append(
            {
                "taxon": taxon,
                "name": t["name"],
                "common": (t.get("common") or [""])[0],
                "form": max(weights, key=lambda s: (weights[s], s)) if weights else "",
                "evergreen": evergreen,
                "shows": [
                    organ
                    for organ, kinds in SHOWN_BY.items()
                    if max(visible(k, days, day, evergreen) for k in kinds) > 0.5
                ],
                "native": t.get("native", []),
                "introduced": t.get("introduced", []),
                "invasive": t.get("invasive", []),
                "plants": counts.get(taxon, 0),
            }
        )
    return sorted(rows, key=lambda row: row["name"])
