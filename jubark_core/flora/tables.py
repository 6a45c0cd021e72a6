"""The states of one character side by side for every taxon, so that a look is judged for all of them in a few
sweeps.
"""

from __future__ import annotations

from array import array
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from jubark_core.flora.shows import Shows

INAPPLICABLE = 0.02  # how readily a look is reported that makes no sense on the taxon, against P0


@dataclass(frozen=True)
class StateTable:
    """Per leaf of the flora, in the order of `flora.leaves`.

    known: 1 where the taxon says something (or the character makes no sense on it). columns: per state its
    weight, for many-state characters its presence as reported. none_named: chance that no state is named
    (many-state only). applies: chance that the character makes sense. senseless: chance of any one report
    where it makes none.
    """

    known: bytes
    columns: dict[str, array[float]]
    none_named: array[float]
    applies: array[float]
    senseless: array[float]


def state_table(view: Shows, character: str, season: str, where: str) -> StateTable:
    """The table of a one- or many-state character in a season; where: height on the trunk, or ''."""
    c = view.flora.characters[character]
    states, many = c["states"], c["kind"] == "many"
    known = bytearray()
    columns = {s: array("d") for s in states}
    none_named, applicable, senseless = array("d"), array("d"), array("d")
    for t in view.flora.leaves:
        weights = view.weights(t, character, season, where)
        applies = view.applies(t, character, season)
        if weights is None and applies > 0.5:
            applies = 1.0
        known.append(weights is not None or applies <= 0.5)
        reported = view.reported(t, character, season, where) if many and weights is not None else None
        for s in states:
            columns[s].append(0.0 if weights is None else reported.presence[s] if reported else weights[s])
        none_named.append(reported.none_named if reported else 1.0)
        applicable.append(0.0 if weights is None else applies)
        senseless.append((1.0 - applies) * INAPPLICABLE / len(states))
    return StateTable(bytes(known), columns, none_named, applicable, senseless)
