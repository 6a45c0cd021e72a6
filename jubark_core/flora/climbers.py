"""Climbers: what may grow up a stem, by the flora."""

from __future__ import annotations

from functools import lru_cache

from jubark_core.flora.model import Flora

FORM = "habit.form"
CLIMBS = "climber"
MOSTLY = 0.5
NOT_KNOWN = "not_known"


@lru_cache(maxsize=2)
def climbers(flora: Flora) -> dict[str, str]:
    """Taxon -> its common and scientific name, by name, of everything that mostly climbs; one that is not
    known last.
    """
    found = {
        taxon: ", ".join((*node.get("common", ())[:1], node["name"]))
        for taxon, node in flora.taxa.items()
        for row in node.get("states", {}).get(FORM, ())[:1]
        if row.get("weights", {}).get(CLIMBS, 0.0) >= MOSTLY
    }
    by_name = dict(sorted(found.items(), key=lambda item: item[1].casefold()))
    return {**by_name, NOT_KNOWN: "not known which"}
