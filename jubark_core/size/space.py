"""Does a plant fit its place: grown height and spread against wires, walls, paths and neighbours, before
planting and for what stands.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal, NotRequired, TypedDict, cast

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.units import shown


class ThingIn(TypedDict):
    """A thing near the place, and how far it is from the stem."""

    kind: str
    distance_m: float
    height_m: NotRequired[Annotated[float, "Of a wire."]]
    spread_m: NotRequired[Annotated[float, "Of a neighbour's crown."]]


class SpaceIn(TypedDict):
    """A taxon and the things round its place."""

    taxon: str
    things: list[ThingIn]
    units: NotRequired[Literal["metric", "us_customary"]]


class SpaceRow(TypedDict):
    """Whether the grown plant keeps clear of one thing."""

    kind: str
    distance_m: float
    fits: Literal["yes", "only if small", "no"]
    says: str


MOST_THINGS = 20
KINDS = ("wall", "wire", "path", "neighbour")
# Room to keep beside the crown or above it, in m: 'common practice', the owner's and the utility's own rule
# goes before.
CLEAR_M = {"wall": 2.0, "wire": 3.0, "path": 0.0, "neighbour": 0.0}
HEADROOM_M = 2.5  # over a path


def space_of_taxon(given: SpaceIn, flora: Flora) -> list[SpaceRow]:
    """The operation: whether a grown plant of the taxon fits between the things. Raises InputError."""
    node = flora.taxa.get(given["taxon"])
    if node is None:
        raise InputError("taxon", given["taxon"], "a taxon of the flora")
    if len(given["things"]) > MOST_THINGS:
        raise InputError("things", len(given["things"]), f"at most {MOST_THINGS} things")
    grown = require_grown(node, given["taxon"])
    rows: list[Any] = space_check(*grown, cast(Any, given["things"]), given.get("units", "metric"))
    return rows


def space_check(
    grown_height_m: Sequence[float],
    grown_spread_m: Sequence[float],
    things: Sequence[dict[str, Any]],
    units: str = "metric",
) -> list[dict[str, Any]]:
    """What will be in the way. grown_*: (low, high) of the taxon in m.

    things: {kind: one of KINDS, distance_m: from the stem, level, 0 to 100; height_m: of a wire or wall, 0 to
    100; spread_m: of a neighbour's crown}. Returns one row per thing: kind, distance_m, fits (`yes`, `only if
    small`, `no`), says. Raises InputError naming the thing.
    """
    rows = []
    for i, thing in enumerate(things):
        at = f"things[{i}]"
        kind = require_one_of(f"{at}.kind", thing.get("kind"), KINDS)
        distance = require_between(f"{at}.distance_m", thing.get("distance_m"), 0, 100, "m")
        low, high = (_needed(kind, thing, at, grown_height_m[k], grown_spread_m[k]) for k in (0, 1))
        fits = "yes" if distance >= high else "only if small" if distance >= low else "no"
        rows.append(
            {
                "kind": kind,
                "distance_m": distance,
                "fits": fits,
                "says": _says(kind, distance, low, high, grown_height_m[1], thing, units),
            }
        )
    return rows


def _needed(kind: str, thing: dict[str, Any], at: str, tall: float, wide: float) -> float:
    """The distance at which a plant of that height and spread keeps clear of the thing."""
    half = wide / 2
    if kind == "wire":
        height = require_between(f"{at}.height_m", thing.get("height_m"), 1, 100, "m")
        return 0.0 if tall <= height - CLEAR_M["wire"] else half + CLEAR_M["wire"]
    if kind == "neighbour":
        return half + require_between(f"{at}.spread_m", thing.get("spread_m", 0.0), 0, 80, "m") / 2
    return half + CLEAR_M[kind] if kind == "wall" else 0.0 if tall > HEADROOM_M * 2 else half


def _says(
    kind: str, distance: float, low: float, high: float, tall: float, thing: dict[str, Any], units: str
) -> str:
    def m(value: float, places: int = 1) -> str:
        return shown(value, "m", units, places)

    if kind == "path":
        return (
            f"It grows over the path: the crown is raised to {m(HEADROOM_M)} as it grows."
            if high == 0
            else f"Its crown reaches {m(high)} from the stem; the path lies {m(distance)} off."
        )
    if high == 0:
        return f"Grown it stays under the wire at {m(thing['height_m'])}."
    what = {
        "wall": "a wall",
        "wire": f"the wire at {m(thing.get('height_m', 0))} (grown height {m(tall)})",
        "neighbour": "its neighbour's crown",
    }[kind]
    return f"Grown, it needs {m(low)} to {m(high)} to keep clear of {what}; there are {m(distance)}."


def require_grown(taxon: dict[str, Any], name: str) -> tuple[Sequence[float], Sequence[float]]:
    """Grown height and spread of a taxon. Raises InputError where the flora gives none."""
    if not taxon.get("height_m") or not taxon.get("spread_m"):
        raise InputError("taxon", name, "a taxon whose grown height and spread the flora gives")
    return taxon["height_m"], taxon["spread_m"]
