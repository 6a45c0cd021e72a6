"""What holds a tree: wires that touch it, lie on it or are under tension, until their operator says that it
is clear of them.

No later look, no merging and no passing of days ends that, nor does a clock that is doubted keep it from
beginning. A permit for a time suspends it; what was said before the look says nothing of it.
"""

from __future__ import annotations

import datetime
from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from jubark_core.records.inspected import StormLook
from jubark_core.records.working import Clearance
from jubark_core.tree_file.filed import Filed

WIRES = "wires"
LINE_CLEAR = "line_clear"
PERMITS = ("isolation", "operator", "")  # the last two up to record version 6


@dataclass(frozen=True)
class Permit:
    """That the operator of a line permits work near it, from a day on up to the day before another."""

    entry: UUID
    begins: datetime.date
    until: datetime.date


@dataclass(frozen=True)
class WiresHold:
    """That a tree is held by wires. look: the newest that saw them; permits: the operator's, for a
    time, given since.
    """

    since: datetime.date
    look: UUID
    permits: tuple[Permit, ...]

    def suspended_on(self, day: datetime.date) -> bool:
        """Whether the operator permits work on the day, by a crew qualified for line clearance."""
        return any(permit.begins <= day < permit.until for permit in self.permits)


def is_permit(clearance: Clearance) -> bool:
    """Whether the operator of a line permits work near it. Up to record version 5 one without an end said
    that the line was gone.
    """
    return clearance.check_closed == "C4" and clearance.what in PERMITS


def ends_hold(clearance: Clearance) -> bool:
    """Whether the operator says that the line is removed or repaired, clear of the tree."""
    gone = clearance.check_closed == "C4" and clearance.what == LINE_CLEAR
    return gone or (is_permit(clearance) and clearance.until is None)


def is_on_wires(look: StormLook) -> bool:
    """Whether the look saw wires on the tree."""
    return WIRES in look.under_it


def day_trusted(entry: Filed) -> datetime.date:
    """The day of the visit; where its clock is doubted, no later than the day before it came in by UTC, which
    is not after the day there anywhere.
    """
    day = entry.visit.local_date
    came_in = entry.received_at.date() - datetime.timedelta(days=1)
    return min(day, came_in) if entry.visit.clock_doubtful else day


def wires_hold(entries: Iterable[Filed]) -> WiresHold | None:
    """The hold that stands after all of the entries, the oldest first; None where none does."""
    hold: WiresHold | None = None
    visit: UUID | None = None
    for entry in entries:
        body = entry.body
        if isinstance(body, StormLook) and is_on_wires(body):
            hold, visit = WiresHold(day_trusted(entry), entry.id, ()), entry.visit_id
        elif hold is None or not isinstance(body, Clearance) or entry.visit_id == visit:
            continue
        elif ends_hold(body):
            hold = None
        elif is_permit(body) and body.until is not None:
            permit = Permit(entry.id, body.begins or entry.visit.local_date, body.until)
            hold = WiresHold(hold.since, hold.look, (*hold.permits, permit))
    return hold
