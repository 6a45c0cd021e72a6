"""The owner's table of inspections: the zone of a tree, what is asked for there, and when it falls due.

The table is the owner's; nothing of it is law, and local rules take precedence.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, NotRequired, TypedDict

from jubark_core.records.office import Regime, ZoneRule
from jubark_core.records.typed_schema import Between
from jubark_core.records.words import OCCUPANCY
from jubark_core.tree_file import looks
from jubark_core.tree_file.looks import SEEN_WHOLE


class TargetInReach(TypedDict):
    """Something a tree may fall on."""

    distance_m: Annotated[float, Between(0, 100_000)]
    occupancy: str


class LookedAt(TypedDict):
    """An inspection of a tree. competence: of who inspected, on that day, in the qualification asked for."""

    on: str
    level: str
    base_visible: NotRequired[str]
    crown_visible: NotRequired[str]
    no_defect: NotRequired[bool]
    walked: NotRequired[bool]
    no_access: NotRequired[Annotated[str, "Why nobody got to the tree."]]
    inspector: NotRequired[str]
    competence: NotRequired[Annotated[str, "valid, expired, none, or empty where none is asked for."]]
    expired_on: NotRequired[str]


def zone_of(height_m: float | None, targets: Sequence[TargetInReach], regime: Regime) -> str:
    """The occupancy of the busiest target within reach of a tree; where there is none, what the owner said of
    the other trees, or ''.
    """
    reach_m = regime.reach_m if height_m is None else height_m * regime.reach_heights
    within = [t["occupancy"] for t in targets if t["distance_m"] <= reach_m]
    return max(within, key=OCCUPANCY.index, default=regime.otherwise)


def rule_of(zone: str, regime: Regime) -> ZoneRule | None:
    """What the owner asks for in a zone; None where the table has no line for it."""
    return next((rule for rule in regime.rules if rule.zone == zone), None)


def months_of(rule: ZoneRule, rating: str) -> int:
    """Months between two inspections at a rating of the risk worksheet; '' where none was made."""
    moderate = rule.moderate_months or rule.months
    if rating in ("high", "extreme"):
        return rule.high_months or moderate
    return moderate if rating == "moderate" else rule.months


def sooner_months(rule: ZoneRule, rating: str) -> int:
    """Months after a look that saw a part only: those of the next grade up where they are fewer, else
    half.
    """
    months = months_of(rule, rating)
    up = months_of(
        rule, "high" if rating == "moderate" else "moderate" if rating in ("", "low") else "extreme"
    )
    return up if up < months else math.ceil(months / 2)


def is_attempt(look: LookedAt) -> bool:
    """Whether somebody came, and saw no tree."""
    seen = look.get("base_visible", ""), look.get("crown_visible", "")
    return looks.is_attempt(*seen, look.get("no_access", ""))


def does_for(look: LookedAt, asked: str) -> bool:
    """Whether a look is an inspection at the level asked for."""
    seen = look.get("base_visible", ""), look.get("crown_visible", "")
    return not is_attempt(look) and looks.does_for(look["level"], *seen, asked)


def not_seen(look: LookedAt) -> list[str]:
    """The parts that were not seen whole, as 'base' and 'crown'."""
    return [part for part, whole in SEEN_WHOLE.items() if look.get(f"{part}_visible", "") != whole]
