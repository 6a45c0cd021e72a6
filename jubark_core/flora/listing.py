"""The flora as a list that can be narrowed: what each taxon is, where it grows, what it shows on a day."""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.season.windows import Place, day_of_year, visible

SHOWN_BY = {
    "leaf": ("leaf_on",),
    "flower": ("flowering",),
    "fruit": ("fruit_forming", "fruit_ripe", "fruit_hanging"),
}


def listed(flora: Flora, on: datetime.date, place: Place) -> list[dict[str, Any]]:
    """Every described taxon by name: taxon, name, common, form, evergreen, shows (leaf, flower, fruit on that
    day), and its areas.
    """
    day = day_of_year(on)
    rows = []
    for taxon in flora.leaves:
        t, days, evergreen = flora.taxa[taxon], flora.days(taxon, place), flora.evergreen[taxon]
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
                **{key: t.get(key, []) for key in ("native", "introduced", "invasive")},
            }
        )
    return sorted(rows, key=lambda row: row["name"])
