"""What a state of life means, in one table: does it stand, does it live, in which figures does it count."""

from __future__ import annotations

from dataclasses import dataclass

from jubark_core.records.words import LIFE_STATES


@dataclass(frozen=True, slots=True)
class LifeState:
    """What holds of a tree in a state of life.

    stands: upright, so that it can fall, and is looked at. alive: it grows. in_stand: it counts in stems,
    basal area and carbon. is_there: something of it is left to be worked on.
    """

    stands: bool
    alive: bool
    in_stand: bool
    is_there: bool


LIFE: dict[str, LifeState] = {
    "alive": LifeState(stands=True, alive=True, in_stand=True, is_there=True),
    "resprout": LifeState(stands=True, alive=True, in_stand=True, is_there=True),
    "standing_dead": LifeState(stands=True, alive=False, in_stand=True, is_there=True),
    "fallen": LifeState(stands=False, alive=False, in_stand=False, is_there=True),
    "stump": LifeState(stands=False, alive=False, in_stand=False, is_there=False),
    "removed": LifeState(stands=False, alive=False, in_stand=False, is_there=False),
    "not_found": LifeState(stands=False, alive=False, in_stand=False, is_there=False),
}
assert set(LIFE) == set(LIFE_STATES)

STANDING = tuple(state for state, is_ in LIFE.items() if is_.stands)
ALIVE = tuple(state for state, is_ in LIFE.items() if is_.alive)
IN_STAND = tuple(state for state, is_ in LIFE.items() if is_.in_stand)
GONE = tuple(state for state, is_ in LIFE.items() if not is_.is_there)
