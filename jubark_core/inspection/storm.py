"""After a storm: which looks are probably of one tree, entered by two people apart from each other."""

from __future__ import annotations

import itertools
from typing import Annotated, NotRequired, TypedDict

from jubark_core.errors import InputError
from jubark_core.records.typed_schema import Between
from jubark_core.size.bearing import metres_between

NEAR_M = 10.0  # a crown's width: two who stand at one fallen tree may stand so far apart
MOST = 5_000


class DownIn(TypedDict):
    """A tree that was found fallen or hung up."""

    tree: str
    by: Annotated[str, "Who entered it."]
    lat: Annotated[float, Between(-90, 90)]
    lon: Annotated[float, Between(-180, 180)]
    accuracy_m: NotRequired[Annotated[float | None, Between(0, 10_000)]]


class DoublesIn(TypedDict):
    """Every tree that is down."""

    down: list[DownIn]


class Double(TypedDict):
    """Two records that are probably of one tree."""

    trees: list[str]
    metres: float


def probable_doubles(given: DoublesIn) -> list[Double]:
    """Pairs of trees that are down, entered by different people, nearer to each other than a crown is wide
    or than the two places are sure. Nearest first. Raises InputError for too many.
    """
    down = given["down"]
    if len(down) > MOST:
        raise InputError("down", len(down), f"at most {MOST}")
    found: list[Double] = []
    for a, b in itertools.combinations(sorted(down, key=lambda d: (d["lat"], d["tree"])), 2):
        if a["by"] == b["by"] or a["tree"] == b["tree"]:
            continue
        metres = metres_between(a["lon"], a["lat"], b["lon"], b["lat"])
        if metres <= max(NEAR_M, (a.get("accuracy_m") or 0.0) + (b.get("accuracy_m") or 0.0)):
            found.append({"trees": sorted((a["tree"], b["tree"])), "metres": round(metres, 1)})
    return sorted(found, key=lambda double: (double["metres"], double["trees"]))
