"""'Looked for, none seen': how much the absence of an organ says, on that date, at that place."""

from __future__ import annotations

import datetime
import math

from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of, shows
from jubark_core.naming.case import Case, Look
from jubark_core.season.days import day_of_year
from jubark_core.season.showing import FRUIT_KINDS, visible

# Chance that a plant of that stage bears flowers or fruit in a year ('common practice', from memory).
BEARING = {
    "seedling": 0.001,
    "sapling": 0.02,
    "young": 0.3,
    "mature": 0.85,
    "veteran": 0.8,
    "resprout": 0.05,
    "clipped": 0.2,
}
BEARING_PLANTED = 0.85  # pruned and over-shaded garden stock
LEFT_ON_PLANT = 0.85  # not eaten, taken or swept up
MAST_YEAR = {"acorn": 0.7, "burr": 0.6, "nut_in_husk": 0.75}  # kinds that skip years
LEAVES_HANGING_ON = 0.6  # chance that a taxon called marcescent still holds dead leaves on the day
SEASONAL = {
    "leaf": ("leaf_on",),
    "needle": ("leaf_on",),
    "spray": ("leaf_on",),
    "flower": ("flowering",),
    "fruit": FRUIT_KINDS,
    "cone": FRUIT_KINDS,
}


def chance_seen(
    taxon: str,
    character: str,
    case: Case,
    flora: Flora,
    on: datetime.date,
    stage: str,
    days: dict[str, float] | None = None,
) -> float:
    """P(visible) × P(bearing) × P(left) × P(noticed) of the character's organ on that date, 0..1.

    days: the taxon's events at the place, where they are known already (see season.showing.event_days).
    """
    c = flora.characters[character]
    organ = c["organ"]
    t = flora.taxa[taxon]
    view = shows(flora, stage, case.planted)
    noticed = float(c.get("noticed", 0.9))
    if organ not in SEASONAL:
        return noticed
    if days is None:
        days = days_of(flora, taxon, case.place, case.spring, case.setting == "glasshouse")
    day = day_of_year(on)
    seen = max(visible(kind, days, day, flora.evergreen[taxon]) for kind in SEASONAL[organ])
    if organ in ("leaf", "needle", "spray"):
        # a character of conifers is absent on a broad-leaved plant, whatever the season
        borne = view.applies(taxon, character, "summer") if organ != "leaf" else 1.0
        return max(seen, _marcescent(view.weights(taxon, "habit.leaf_retention", "winter"))) * borne * noticed
    bearing = BEARING[stage] * (1 - case.planted * (1 - BEARING_PLANTED))
    if organ in ("fruit", "cone"):
        bearing *= _bears_fruit(t.get("sexes", "both"), case.sex) * LEFT_ON_PLANT
        bearing *= _mast(view.weights(taxon, "fruit.kind", "summer") or {})
        bearing *= 1 - case.planted * math.fsum(c["share"] * (1 - c["bears"]) for c in t.get("cultivars", ()))
        if organ == "cone":
            bearing *= view.applies(taxon, character, "summer")
    return seen * bearing * noticed


def _marcescent(retention: dict[str, float] | None) -> float:
    return LEAVES_HANGING_ON * (retention or {}).get("marcescent", 0.0)


def _bears_fruit(sexes: str, sex: str) -> float:
    if sexes == "both":
        return 1.0
    known = {"male": 0.0 if sexes == "separate" else 0.1, "female": 1.0}
    return known.get(sex, 0.5 if sexes == "separate" else 0.7)


def _mast(kinds: dict[str, float]) -> float:
    return math.fsum(share * MAST_YEAR.get(kind, 1.0) for kind, share in kinds.items()) if kinds else 1.0


def none_is_a_state(look: Look, flora: Flora) -> bool:
    """`none` on a character that has a state `none` is that state; on any other the organ is absent."""
    return "none" in flora.characters[look.character].get("states", ())


def chance_none(
    taxon: str,
    character: str,
    look: Look,
    slip: float,
    case: Case,
    flora: Flora,
    days: dict[str, float] | None = None,
) -> float:
    """P('looked for, none seen' | taxon), softened by the slip."""
    seen = chance_seen(taxon, character, case, flora, look.on, look.stage, days)
    return (1 - slip) * (1 - seen) + slip * 0.5
