"""How much ground around a tree must be kept clear: radius and area by the standard the site has chosen.

All figures from memory of the sources named; a revision of AS 4970 of 2025 is not covered. Local rules
decide.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple

from jubark_core.checks import require_between, require_one_of
from jubark_core.units import cm_to_inches, feet_to_m

VETERAN_FACTOR = 15.0
SRZ_LEAST_M, SRZ_FROM_M = 1.5, 0.15


class Zone(NamedTuple):
    """Radius in m and area in m² of a circle round the stem, and the rule it follows."""

    radius_m: float
    area_m2: float
    rule: str


def protection_zone(standard: str, dbh_cm: float, veteran: bool = False) -> Zone:
    """The zone to keep by a standard: one of STANDARDS. dbh_cm: 0.1 to 1500, several stems already made one.

    veteran: 15 × diameter without a cap, whatever the standard ('common practice' for veteran trees). Raises
    InputError.
    """
    require_one_of("standard", standard, STANDARDS)
    dbh_m = require_between("dbh_cm", dbh_cm, 0.1, 1500, "cm") / 100
    radius, rule = STANDARDS[standard](dbh_m)
    if veteran and radius < VETERAN_FACTOR * dbh_m:
        radius, rule = VETERAN_FACTOR * dbh_m, "15 × diameter, veteran"
    return Zone(radius, math.pi * radius * radius, rule)


def _as4970(dbh_m: float) -> tuple[float, str]:
    return min(15.0, max(2.0, 12 * dbh_m)), "12 × diameter, from 2 to 15 m (AS 4970-2009, section 3)"


def _bs5837(dbh_m: float) -> tuple[float, str]:
    return min(15.0, 12 * dbh_m), "12 × diameter, at most 15 m (BS 5837:2012, clause 4.6)"


def _foot_per_inch(feet: float) -> Callable[[float], tuple[float, str]]:
    def zone(dbh_m: float) -> tuple[float, str]:
        return feet_to_m(
            feet * cm_to_inches(dbh_m * 100)
        ), f"{feet:g} ft for each inch of diameter (practice in the United States)"

    return zone


STANDARDS: dict[str, Callable[[float], tuple[float, str]]] = {
    "as4970": _as4970,
    "bs5837": _bs5837,
    "foot_per_inch": _foot_per_inch(1.0),
    "foot_and_half_per_inch": _foot_per_inch(1.5),
}


def structural_root_radius(above_buttress_cm: float) -> Zone:
    """Structural root zone: radius = 0.64 (50 D)^0.42 m, D in m above the root buttress; 1.5 m where D < 0.15
    m.

    above_buttress_cm: the diameter just above the root buttress, a figure of its own: never the diameter at
    breast height. Raises OutOfRangeError. Source: AS 4970-2009, section 3.
    """
    d = require_between("above_buttress_cm", above_buttress_cm, 0.1, 1500, "cm") / 100
    radius = SRZ_LEAST_M if d < SRZ_FROM_M else max(SRZ_LEAST_M, 0.64 * (50 * d) ** 0.42)
    return Zone(
        radius,
        math.pi * radius * radius,
        "0.64 (50 D)^0.42 above the root buttress (AS 4970-2009, section 3)",
    )
