"""Looks that would harm the plant or the person are withheld, not annotated."""

from __future__ import annotations

from typing import Any

from jubark_core.flora.vector_season import in_vector_season
from jubark_core.naming.weigh import Weighed

WOUND_SHARE, TOUCH_SHARE = 0.01, 0.002
WOUND_GENERA = {"quercus": "oaks", "ulmus": "elms"}


def harm(w: Weighed, c: dict[str, Any]) -> str | None:
    """Why a look at the character is withheld, or None."""
    if c.get("wounds"):
        if w.case.stage == "veteran":
            return "It wounds the plant, and this is a veteran."
        if w.case.status:
            return f"It wounds the plant, and this stem is {' and '.join(w.case.status)}."
        if in_vector_season(w.flora, w.case.areas, w.case.place, w.case.on):
            for genus, plural in WOUND_GENERA.items():
                share = w.node(genus)
                if share > WOUND_SHARE:
                    return (
                        f"It wounds the plant; {plural} are still possible ({share:.0%}), and a fresh "
                        "wound in the beetle season can carry disease."
                    )
    if c.get("touch") and (burning := touch_hazards(w)):
        name = w.flora.taxa[burning[0]]["name"]
        return f"{name} is still possible and its sap burns skin: rule it out by eye first."
    return None


def touch_hazards(w: Weighed) -> list[str]:
    """Taxa irritant by contact that are still possible, the likeliest first."""
    return [t for t in w.ranked if w.probability[t] > TOUCH_SHARE and w.flora.taxa.get(t, {}).get("irritant")]
