"""The plates of a taxon: one call for each part, in the season of a date at a place."""

from __future__ import annotations

import datetime

from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of
from jubark_core.plates.bark import bark_plate
from jubark_core.plates.flower import flower_plate
from jubark_core.plates.fruit import fruit_plate
from jubark_core.plates.habit import habit_plate
from jubark_core.plates.leaf import leaf_plate
from jubark_core.plates.specimen import Quantile, Specimen, typical
from jubark_core.plates.twig import twig_plate
from jubark_core.records.words import STAGES
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible

PARTS = ("leaf", "twig", "bark", "fruit", "flower", "habit")


def draw(
    flora: Flora,
    taxon: str,
    part: str,
    on: datetime.date,
    place: Place | None = None,
    stage: str = "mature",
    quantile: Quantile = typical,
) -> str:
    """One plate as SVG. taxon: id of a described taxon; part: one of PARTS; on, place: set its season;
    quantile: an individual's.

    Raises InputError for a taxon the flora does not describe, an unknown part or stage.
    """
    if taxon not in flora.below or taxon not in flora.leaves:
        raise InputError("taxon", taxon, "a taxon the flora describes")
    if part not in PARTS:
        raise InputError("part", part, "one of " + ", ".join(PARTS))
    if stage not in STAGES:
        raise InputError("stage", stage, "one of " + ", ".join(STAGES))
    days, day, evergreen = days_of(flora, taxon, place or Place()), day_of_year(on), flora.evergreen[taxon]
    bare = visible("leaf_on", days, day, evergreen) < 0.5
    specimen = Specimen(flora, taxon, "winter" if bare else "summer", stage, quantile)
    if part == "leaf":
        return leaf_plate(specimen, autumn=bare or visible("autumn_colour", days, day, evergreen) > 0.5)
    if part == "habit":
        return habit_plate(specimen, bare)
    return {"twig": twig_plate, "bark": bark_plate, "fruit": fruit_plate, "flower": flower_plate}[part](
        specimen
    )
