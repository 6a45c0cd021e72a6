"""Does a plant fit its place: grown height and spread against what stands round it and the soil below it,
before planting and for what stands.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal, NotRequired, TypedDict, cast

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.units import shown

THINGS_FILE = Path(__file__).with_name("space.toml")
MOST_THINGS = 20
# Half the width of a planting strip that leaves room for the flare, by grown height: strips of 4, 6 and 8 ft
# for small, middling and large trees (common practice of cities in the United States).
FLARE_M = ((9.0, 0.6), (15.0, 0.9), (math.inf, 1.2))
SOIL_M3_PER_M2 = (
    0.6  # of crown seen from above; Lindsey & Bassuk (1991), about 2 ft³ for each ft², from memory
)


class ThingIn(TypedDict):
    """A thing near the place, and how far it is from the stem."""

    kind: str
    distance_m: NotRequired[Annotated[float, "From the stem, level; not asked of the soil."]]
    height_m: NotRequired[Annotated[float, "Of a wire or a lamp."]]
    spread_m: NotRequired[Annotated[float, "Of a neighbour's crown."]]
    volume_m3: NotRequired[Annotated[float, "Of soil that roots can use."]]


class SpaceIn(TypedDict):
    """A taxon and the things round its place."""

    taxon: str
    things: list[ThingIn]
    units: NotRequired[Literal["metric", "us_customary"]]


class SpaceRow(TypedDict):
    """Whether the grown plant keeps clear of one thing."""

    kind: str
    fits: Literal["yes", "only if small", "no"]
    says: str


@lru_cache(maxsize=1)
def near_things() -> dict[str, dict[str, Any]]:
    """Kind of thing -> label, what it asks, the room to leave."""
    return tomllib.loads(THINGS_FILE.read_text(encoding="utf-8"))


def space_of_taxon(given: SpaceIn, flora: Flora) -> list[SpaceRow]:
    """The operation: whether a grown plant of the taxon fits between the things. Raises InputError."""
    node = flora.taxa.get(given["taxon"])
    if node is None:
        raise InputError("taxon", given["taxon"], "a taxon of the flora")
    if len(given["things"]) > MOST_THINGS:
        raise InputError("things", len(given["things"]), f"at most {MOST_THINGS} things")
    grown = require_grown(node, given["taxon"])
    return space_check(*grown, cast(Any, given["things"]), given.get("units", "metric"))


def space_check(
    grown_height_m: Sequence[float],
    grown_spread_m: Sequence[float],
    things: Sequence[dict[str, Any]],
    units: str = "metric",
) -> list[SpaceRow]:
    """What will be in the way. grown_*: (low, high) of the taxon in m.

    things: {kind: of `near_things`; distance_m: from the stem, level, 0 to 100; what its kind asks besides}.
    Returns one row per thing. Raises InputError naming the thing.
    """
    rows: list[SpaceRow] = []
    for i, thing in enumerate(things):
        at = f"things[{i}]"
        kind = require_one_of(f"{at}.kind", thing.get("kind"), near_things())
        known = {k: require_between(f"{at}.{k}", thing.get(k), *_LIMITS[k]) for k in asked_of(kind)}
        have = known["volume_m3" if kind == "soil" else "distance_m"]
        low, high = (_needed(kind, known, grown_height_m[k], grown_spread_m[k]) for k in (0, 1))
        fits: Literal["yes", "only if small", "no"] = (
            "yes" if have >= high else "only if small" if have >= low else "no"
        )
        says = _says(kind, known, low, high, grown_height_m[1], units)
        rows.append({"kind": kind, "fits": fits, "says": says})
    return rows


_LIMITS: dict[str, tuple[float, float, str]] = {
    "distance_m": (0, 100, "m"),
    "height_m": (1, 100, "m"),
    "spread_m": (0, 80, "m"),
    "volume_m3": (0, 10_000, "m³"),
}


def asked_of(kind: str) -> list[str]:
    """What must be known of a kind of thing: its distance and what it asks besides; of soil its volume."""
    asks: list[str] = near_things()[kind]["asks"]
    return asks if kind == "soil" else ["distance_m", *asks]


def _needed(kind: str, known: dict[str, float], tall: float, wide: float) -> float:
    """The distance at which a plant of that height and spread keeps clear of the thing; of soil, the m³."""
    rule, half = near_things()[kind], wide / 2
    match kind:
        case "soil":
            return SOIL_M3_PER_M2 * math.pi / 4 * wide * wide
        case "kerb":
            return next(room for limit, room in FLARE_M if tall <= limit)
        case "service":
            return max(float(rule["least_m"]), half)
        case "wire" | "lamp":
            return 0.0 if tall <= known["height_m"] - rule["clear_m"] else half + float(rule["clear_m"])
        case "neighbour":
            return half + known["spread_m"] / 2
        case "path" | "road" | "sight_line":
            # a tree twice as high can be raised over it as it grows; one that stays below is never in the way
            clears = tall > 2 * rule["headroom_m"] or tall <= rule.get("below_m", 0.0)
            return 0.0 if clears else half
        case _:
            return half + float(rule["clear_m"])


def _says(kind: str, known: dict[str, float], low: float, high: float, tall: float, units: str) -> str:
    def m(value: float, places: int = 1) -> str:
        return shown(value, "m", units, places)

    rule = near_things()[kind]
    label = rule["label"]
    if kind == "soil":
        needed, most, there = (shown(v, "m3", units) for v in (low, high, known["volume_m3"]))
        about = "2 ft³ for each ft²" if units == "us_customary" else "0.6 m³ for each m²"
        return (
            f"Grown, it needs {needed.split()[0]} to {most} of soil that roots can use, about {about} of "
            f"crown; there are {there}."
        )
    distance = m(known["distance_m"])
    if kind == "kerb":
        return f"Grown, the flare needs {m(low)} to {m(high)} beside {label}; there are {distance}."
    if high == 0 and "headroom_m" in rule:
        if tall <= rule.get("below_m", 0.0):
            return f"Grown it stays below {label}."
        return f"It grows over {label}: the crown is raised to {m(rule['headroom_m'])} as it grows."
    if high == 0:
        return f"Grown it stays under {label} at {m(known['height_m'])}."
    if "headroom_m" in rule:
        return f"Its crown reaches {m(high)} from the stem; {label} lies {distance} off."
    of = f" at {m(known['height_m'])} (grown height {m(tall)})" if "height_m" in known else ""
    return f"Grown, it needs {m(low)} to {m(high)} to keep clear of {label}{of}; there are {distance}."


def require_grown(taxon: dict[str, Any], name: str) -> tuple[Sequence[float], Sequence[float]]:
    """Grown height and spread of a taxon. Raises InputError where the flora gives none."""
    if not taxon.get("height_m") or not taxon.get("spread_m"):
        raise InputError("taxon", name, "a taxon whose grown height and spread the flora gives")
    return taxon["height_m"], taxon["spread_m"]
