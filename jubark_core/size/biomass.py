"""Dry mass above ground, carbon and CO2 equivalent by group of species; refused where the equation was never
made for it.
"""

from __future__ import annotations

import math
import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.checks import require_between
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.units import shown

GROUPS_FILE = Path(__file__).with_name("biomass.toml")
CARBON_SHARE = 0.5  # of dry mass, by convention
CO2_PER_CARBON = 44 / 12  # ratio of the molar masses
SMALLEST_CM = 2.5
TREE_FORMS = {"tree", "small_tree"}


@lru_cache(maxsize=1)
def groups() -> dict[str, dict[str, Any]]:
    """Group -> label, b0, b1, largest_cm, genera, taxa."""
    return tomllib.loads(GROUPS_FILE.read_text(encoding="utf-8"))


def biomass_kg(group: str, dbh_cm: float) -> float:
    """Dry mass above ground in kg of a stem: exp(b0 + b1 ln dbh), dbh in cm from 2.5.

    Raises OutOfRangeError. Source: Jenkins, Chojnacky, Heath & Birdsey (2003), Forest Science 49:12-35, table
    4.
    """
    g = groups()[group]
    return math.exp(g["b0"] + g["b1"] * math.log(require_between("dbh_cm", dbh_cm, SMALLEST_CM, 1500, "cm")))


def group_of(flora: Flora, taxon: str) -> str | None:
    """The group that covers a taxon: by the taxon itself, else by its genus; None where none does."""
    for key, g in groups().items():
        if taxon in g.get("taxa", ()):
            return key
    genus = taxon if flora.taxa.get(taxon, {}).get("rank") == "genus" else flora.genus_of.get(taxon)
    return next((key for key, g in groups().items() if genus in g["genera"]), None)


def carbon_of(
    flora: Flora,
    taxon: str,
    dbh_cm: float,
    form: str = "tree",
    broken_top: bool = False,
    pollard: bool = False,
    units: str = "metric",
) -> dict[str, Any]:
    """biomass_kg, carbon_kg, co2e_kg, group, source and `outside`: empty, or why the figure goes beyond the
    equation's range.

    form: the habit of the plant. units: in which `outside` is worded.
    Raises InputError where the equation was never made for it: a shrub or
    climber, a pollard, a broken top, a taxon in none of its groups, a stem under 2.5 cm.
    """
    if form not in TREE_FORMS:
        raise InputError(
            "form", form, "a tree: the equations were made for trees, not for shrubs and climbers"
        )
    if broken_top or pollard:
        raise InputError(
            "stem", "broken top" if broken_top else "pollard", "a whole crown: the equations assume one"
        )
    group = group_of(flora, taxon)
    if group is None:
        raise InputError("taxon", taxon or "not named", "a taxon of a group the equations cover")
    mass = biomass_kg(group, dbh_cm)
    largest = groups()[group]["largest_cm"]
    outside = (
        f"Outside the range this equation was made for: {shown(dbh_cm, 'cm', units)}, and its widest stem "
        f"was {shown(largest, 'cm', units, 0)}."
        if dbh_cm > largest
        else ""
    )
    return {
        "group": groups()[group]["label"],
        "biomass_kg": mass,
        "carbon_kg": mass * CARBON_SHARE,
        "co2e_kg": mass * CARBON_SHARE * CO2_PER_CARBON,
        "outside": outside,
        "source": "Jenkins et al. 2003, table 4; carbon 0.5 of dry mass; CO2 44/12 of carbon",
    }
