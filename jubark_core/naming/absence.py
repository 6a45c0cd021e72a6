"""'Looked for, none seen': how much the absence of an organ says, on that date, at that place."""

from __future__ import annotations

import datetime

from jubark_core.flora.model import Flora
from jubark_core.naming.case import Case, Look
from jubark_core.season.windows import day_of_year, event_days, visible

# Chance that a plant of that stage bears flowers or fruit in a year ('common practice', from memory).
BEARING = {"seedling": 0.001, "sapling": 0.02, "young": 0.3, "mature": 0.85, "veteran": 0.8, "resprout": 0.05, "clipped": 0.2}
BEARING_PLANTED = 0.85  # seedless and pruned garden stock
LEFT_ON_PLANT = 0.85  # not eaten, taken or swept up
MAST_YEAR = {"acorn": 0.7, "burr": 0.6, "nut_in_husk": 0.75}  # kinds that skip years
SEASONAL = {
    "leaf": ("leaf_on",),
    "flower": ("flowering",),
    "fruit": ("fruit_forming", "fruit_ripe", "fruit_hanging"),
    "cone": ("fruit_forming", "fruit_ripe", "fruit_hanging"),
}


def chance_seen(taxon: str, character: str, case: Case, flora: Flora, on: datetime.date, stage: str) -> float:
    """P(visible) × P(bearing) × P(left) × P(noticed) of the character's organ on that date, 0..1."""
    c = flora.characters[character]
    organ = c["organ"]
    t = flora.taxa[taxon]
    noticed = float(c.get("noticed", 0.9))
    if organ not in SEASONAL:
        return noticed
    days, day = event_days(t, case.place), day_of_year(on)
    shows = max(visible(t, kind, days, day) for kind in SEASONAL[organ])
    if organ == "leaf":
        return shows * noticed
    bearing = BEARING[stage]
    if case.origin == "planted":
        bearing *= BEARING_PLANTED
    if organ in ("fruit", "cone"):
        bearing *= _bears_fruit(t.get("sexes", "both"), case.sex) * LEFT_ON_PLANT * _mast(taxon, flora, stage)
    return shows * bearing * noticed


def _bears_fruit(sexes: str, sex: str) -> float:
    if sexes == "both":
        return 1.0
    known = {"male": 0.0 if sexes == "separate" else 0.1, "female": 1.0}
    return known.get(sex, 0.5 if sexes == "separate" else 0.7)


def _mast(taxon: str, flora: Flora, stage: str) -> float:
    kinds = flora.weights(taxon, "fruit.kind", stage, "summer") or {}
    return sum(share * MAST_YEAR.get(kind, 1.0) for kind, share in kinds.items()) if kinds else 1.0


def none_is_a_state(look: Look, flora: Flora) -> bool:
    """`none` on a character that has a state `none` is that state; on any other the organ is absent."""
    return "none" in flora.characters[look.character].get("states", ())


def chance_none(taxon: str, look: Look, case: Case, flora: Flora) -> float:
    """P('looked for, none seen' | taxon), softened by the look's slip."""
    seen = chance_seen(taxon, look.character, case, flora, look.on, look.stage)
    return (1 - look.slip) * (1 - seen) + look.slip * 0.5
