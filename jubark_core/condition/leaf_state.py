"""Whether a tree is in leaf on a day at a place: known from its kind and the calendar, not asked."""

from __future__ import annotations

import datetime
from dataclasses import replace

from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of
from jubark_core.records.judged import Condition
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible

SURE_NAME = 0.9  # a name that is less sure says nothing of leaves
SURE = 0.98  # of being in leaf, or out of it; between the two nobody but the surveyor knows
IN_LEAF, OUT_OF_LEAF = "in_leaf", "out_of_leaf"


def leaf_state(taxon: str, on: datetime.date, place: Place, flora: Flora) -> str:
    """in_leaf, out_of_leaf, or '' where the calendar does not say: no name, no dates, or the weeks between. A
    name above the species says what all of its species agree on.
    """
    taxon = flora.resolve.get(taxon, taxon)
    told = {_of(t, on, place, flora) for t in flora.below.get(taxon, ())}
    return told.pop() if len(told) == 1 else ""


def _of(taxon: str, on: datetime.date, place: Place, flora: Flora) -> str:
    chance = visible("leaf_on", days_of(flora, taxon, place), day_of_year(on), flora.evergreen[taxon])
    return IN_LEAF if chance >= SURE else OUT_OF_LEAF if chance <= 1 - SURE else ""


def in_season(condition: Condition, state: str) -> Condition:
    """A condition as the leaf state has it: out of leaf it is a winter view. Raises InputError where foliage
    was graded then; a reason for its being otherwise lets both stand.
    """
    if state != OUT_OF_LEAF or condition.leaf_reason.strip() or condition.leafless:
        return condition
    grade = condition.parts.get("foliage", "not_seen")
    if grade != "not_seen":
        raise InputError(
            "parts.foliage",
            grade,
            "not_seen: on that day and at that place its kind stands without leaves; or leaf_reason says why "
            "this tree does not",
        )
    return replace(condition, leafless=True)
