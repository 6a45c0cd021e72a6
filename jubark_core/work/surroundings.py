"""What stands round a tree and on it, as rules of work ask for it: the crown over a way, climbers, wires it
will reach, ground works within its protection radius, a place where one can be planted.
"""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.checks import require_date, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.climbers import climbers
from jubark_core.flora.model import Flora
from jubark_core.signs.hosts import chain
from jubark_core.units import shown
from jubark_core.work.load import headroom

TOXIC = "toxicodendron"
# Soil that roots can use, for a tree that stays small, of medium size, large: Urban (2008), Up by Roots, from
# memory.
ROOTING_M3 = {"small": 8.0, "medium": 20.0, "large": 30.0}
WIRE_ROOM_M = 3.0  # kept free between crown and wire; the operator's figure goes before


def crown_short(raw: dict[str, Any]) -> list[str]:
    """Ways over which the crown hangs lower than is asked, each in words with both figures."""
    region, units = raw.get("region", "us"), _units(raw)
    found = []
    for i, row in enumerate(raw.get("headroom", [])):
        require_one_of(f"headroom[{i}].over", row["over"], tuple(headroom()))
        asked = headroom()[row["over"]]
        least = asked.get("by_region", {}).get(region, asked["least_m"])
        if row["clear_m"] < least:
            over = row["over"].replace("_", " ")
            found.append(
                f"{shown(row['clear_m'], 'm', units)} at the {over}, {shown(least, 'm', units)} asked"
            )
    return found


def climbers_on(raw: dict[str, Any], areas: tuple[str, ...], flora: Flora) -> dict[str, list[str]]:
    """Climbers on the stem by what rules make of them: introduced, toxic, and those that hide it."""
    found: dict[str, list[str]] = {"introduced": [], "toxic": [], "hiding": []}
    for i, row in enumerate(raw.get("climbers", [])):
        taxon = row["climber"]
        if taxon not in climbers(flora):
            raise InputError(f"climbers[{i}].climber", taxon, "the id of a climber, e.g. hedera-helix")
        name = climbers(flora)[taxon]
        node = flora.taxa.get(taxon, {})
        if TOXIC in chain(taxon, flora):
            found["toxic"].append(name)  # whatever it is here, nobody cuts it by hand
        elif not set(areas).isdisjoint((*node.get("introduced", ()), *node.get("invasive", ()))):
            found["introduced"].append(name)
        if row.get("hides"):
            found["hiding"].append(name)
    return found


def reaches_wires(raw: dict[str, Any], taxon: str, flora: Flora) -> bool | None:
    """Whether its kind grows into the wire over it; None where height, wire or grown height is not known."""
    height, wires = raw.get("height_m"), raw.get("wires_m")
    grown = flora.taxa.get(taxon, {}).get("height_m")
    if height is None or wires is None or not grown:
        return None
    return bool(grown[0] > height + wires - WIRE_ROOM_M)


def works_within(raw: dict[str, Any], on: datetime.date) -> list[str]:
    """Ground works of today or to come that reach into the protection radius, in words."""
    radius = raw.get("protection_radius_m")
    if radius is None:
        return []
    units, found = _units(raw), []
    for i, row in enumerate(raw.get("works", [])):
        ends = require_date(f"works[{i}].ends", row["ends"]) if row.get("ends") else None
        if row["distance_m"] >= radius or (ends and ends < on):
            continue
        begins = f" from {row['begins']}" if row.get("begins") else ""
        fenced = ", fenced" if row.get("fenced") else ", not fenced"
        near, clear = shown(row["distance_m"], "m", units), shown(radius, "m", units)
        found.append(
            f"{row['works'].replace('_', ' ')} at {near} of the {clear} to keep clear{begins}{fenced}"
        )
    return found


def room_to_plant(raw: dict[str, Any]) -> str:
    """How large a tree the soil of a vacant planting site can feed; '': not known, or too little."""
    volume = raw.get("rooting_m3")
    if raw.get("form") != "vacant" or volume is None:
        return ""
    large = [size for size, least in ROOTING_M3.items() if volume >= least]
    return large[-1] if large else ""


def _units(raw: dict[str, Any]) -> str:
    return "us_customary" if raw.get("units") == "us_customary" else "metric"
