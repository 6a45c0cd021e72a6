"""P(what is reported | what is there): usual confusions, and slips by how sure the observer was.

Slips are not symmetric: nobody invents what strikes the eye.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.words import STRIKING_SLIP

MOST_COLUMNS = 20_000  # kept in memory, about 300 bytes each
MOST_CONFUSED = 0.5  # share of a state's readings that its confusions take, however unsure the observer

Column = tuple[float, ...]  # by true state, in the vocabulary's order


def slip_to(c: dict[str, Any], reported: str, slip: float) -> float:
    """Chance of a slip to that state, from any other."""
    striking = STRIKING_SLIP if reported in c.get("striking", ()) else 1.0
    return slip * striking / max(1, len(c["states"]) - 1)


def misreading(
    c: dict[str, Any], state: str, reported: str, slip: float, confused: float = 1.0, extra: float = 0.0
) -> float:
    """P(reported | true state) of a one-state character.

    slip: chance of a slip (its whole where nothing is striking). confused: how much of the vocabulary's
    confusions is left or added. extra: further chance of `alternate` read as `opposite` (leaflets taken for
    leaves).
    """
    if len(c["states"]) == 1:
        return 1.0
    row: dict[str, float] = dict(c.get("confusions", {}).get(state, {}))
    if extra and state == "alternate":
        row["opposite"] = row.get("opposite", 0.0) + extra
    leaving = math.fsum(row.values())
    scale = min(confused, MOST_CONFUSED / leaving) if leaving else 0.0
    slips = math.fsum(slip_to(c, r, slip) for r in c["states"] if r != state)
    if reported == state:
        return (1 - slips) * (1 - scale * leaving)
    return (1 - slips) * scale * row.get(reported, 0.0) + slip_to(c, reported, slip)


@lru_cache(maxsize=MOST_COLUMNS)
def column(
    flora: Flora,
    character: str,
    reported: tuple[str, ...],
    slip: float,
    confused: float = 1.0,
    extra: float = 0.0,
) -> Column:
    """true state -> P(one of the states is reported)."""
    c = flora.characters[character]
    return tuple(math.fsum(misreading(c, s, r, slip, confused, extra) for r in reported) for s in c["states"])
