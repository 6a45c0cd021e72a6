"""How much ground around a tree must be kept clear: radius and area by a standard, with the standard's own
height of measurement and its own rule for several stems, whatever the site uses for its inventory.

All figures from memory of the editions named in standards.toml; the revision of AS 4970 of 2025 is not
covered. Local rules decide.
"""

from __future__ import annotations

import math
import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal, NamedTuple, NotRequired, TypedDict

from jubark_core.checks import require_between, require_one_of
from jubark_core.size.diameter import COMBINE
from jubark_core.size.where import SAME_M
from jubark_core.units import shown

STANDARDS_FILE = Path(__file__).with_name("standards.toml")
VETERAN = "veteran"
SRZ_LEAST_M, SRZ_FROM_M = 1.5, 0.15
MOST_STEMS = 50


class Zone(NamedTuple):
    """Radius in m and area in m² of a circle round the stem, and the rule it follows."""

    radius_m: float
    area_m2: float
    rule: str


class ProtectionIn(TypedDict):
    """The stems of a tree as they were taped, and where."""

    standard: str
    stems_cm: Annotated[list[float], "Every stem or shoot of the tree."]
    at_height_m: NotRequired[Annotated[float | None, "Where they were taped; null: not known."]]
    combined: NotRequired[
        Annotated[str, "The rule that made one figure of several, where the stems are lost."]
    ]
    crown_edge_m: NotRequired[
        Annotated[float | None, "From the stem to the edge of the crown, at its widest."]
    ]
    veteran: NotRequired[bool]
    units: NotRequired[Literal["metric", "us_customary"]]


class Protection(TypedDict):
    """The ground to keep clear by a standard. warnings: where the record was taken otherwise than it asks."""

    standard: str
    dbh_cm: Annotated[float, "One diameter of all stems, by the standard's own rule."]
    radius_m: float
    area_m2: float
    rule: str
    warnings: list[str]


@lru_cache(maxsize=1)
def standards() -> dict[str, dict[str, Any]]:
    """Standard -> label, title, edition, clause, height_m, several, factor, limits, says."""
    return tomllib.loads(STANDARDS_FILE.read_text(encoding="utf-8"))


def protection(given: ProtectionIn) -> Protection:
    """The operation: radius and area by a standard, or by the rule for veterans where that asks for more.

    Raises InputError.
    """
    require_one_of("standard", given["standard"], [s for s in standards() if s != VETERAN])
    found = _zone(given["standard"], given)
    if not given.get("veteran"):
        return found
    more = _zone(VETERAN, given)
    return more if more["radius_m"] > found["radius_m"] else found


def _zone(standard: str, given: ProtectionIn) -> Protection:
    rule = standards()[standard]
    dbh_cm = COMBINE[rule["several"]](given["stems_cm"][:MOST_STEMS])
    radius = rule["factor"] * dbh_cm / 100
    radius = min(max(radius, rule.get("least_m", 0.0)), rule.get("most_m", math.inf))
    edge = given.get("crown_edge_m")
    if edge is not None and "beyond_crown_m" in rule:
        radius = max(radius, require_between("crown_edge_m", edge, 0, 80, "m") + rule["beyond_crown_m"])
    return {
        "standard": standard,
        "dbh_cm": dbh_cm,
        "radius_m": radius,
        "area_m2": math.pi * radius * radius,
        "rule": rule["says"],
        "warnings": _taken_otherwise(rule, given),
    }


def _taken_otherwise(rule: dict[str, Any], given: ProtectionIn) -> list[str]:
    """Where the record was taken otherwise than the standard asks, a sentence each."""
    units, at, found = given.get("units", "metric"), given.get("at_height_m"), []
    asked = shown(rule["height_m"], "m", units, 2)
    if at is None:
        found.append(f"the height of the tape is not known, the standard asks for {asked}")
    elif abs(require_between("at_height_m", at, 0.05, 6, "m") - rule["height_m"]) >= SAME_M:
        found.append(f"taken at {shown(at, 'm', units, 2)}, the standard asks for {asked}")
    combined = given.get("combined", "")
    if combined and combined != rule["several"] and len(given["stems_cm"]) == 1:
        found.append("several stems were made one by another rule than the standard's, and are not recorded")
    return found


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
