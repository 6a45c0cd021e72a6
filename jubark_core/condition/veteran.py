"""A veteran by two scales, vitality and stability, and what they ask for. No sum is made of them.

Stability decides what must be done and how soon; vitality only hastens it, for a tree that can no longer lay
down wood round its faults does not get stronger. The answer is never to remove the tree: what is asked for
first is to move the target. The table is ours; the scales are common practice in the care of ancient trees.
"""

from __future__ import annotations

from jubark_core.checks import require_one_of
from jubark_core.records.words import STABILITY, VITALITY

# row: vitality; column: stability
_NEEDS = {
    "full": ("no_action", "monitor", "plan_in_5_years", "protect_people_now", "no_action"),
    "retrenching": ("no_action", "monitor", "plan_in_5_years", "protect_people_now", "no_action"),
    "reduced": ("no_action", "monitor", "plan_in_1_year", "protect_people_now", "monitor"),
    "remnant": ("monitor", "plan_in_5_years", "plan_in_1_year", "protect_people_now", "monitor"),
    "dead_standing": ("monitor", "plan_in_5_years", "plan_in_1_year", "protect_people_now", "no_action"),
}


def veteran_needs(vitality: str, stability: str) -> str:
    """What a veteran needs: a word of VETERAN_NEEDS. Raises InputError naming the scale."""
    require_one_of("vitality", vitality, VITALITY)
    require_one_of("stability", stability, STABILITY)
    return _NEEDS[vitality][STABILITY.index(stability)]
