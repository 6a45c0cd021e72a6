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


@dataclass(frozen=True)
class WiresHold:
    """That a tree is held by wires. look: the newest that saw them; permits: the operator's, for a
    time, given since.
    """

    since: datetime.date
    look: UUID
    permits: tuple[UUID, ...]


def by_operator(clearance: Clearance) -> bool:
    """Whether the operator of a line closed the check."""
    return clearance.check_closed == "C4" and clearance.what in ("", "operator")


def is_on_wires(look: StormLook) -> bool:
    """Whether the look saw wires on the tree."""
    return look.under_it == WIRES


def wires_hold(entries: Iterable[Filed]) -> WiresHold | None:
    """The hold that stands after all of the entries, the oldest first; None where none does."""
    hold: WiresHold | None = None
    visit: UUID | None = None
    for entry in entries:
        body = entry.body
        if isinstance(body, StormLook) and is_on_wires(body):
            hold, visit = WiresHold(entry.visit.local_date, entry.id, ()), entry.visit_id
        elif hold and isinstance(body, Clearance) and by_operator(body) and entry.visit_id != visit:
            permits = (*hold.permits, entry.id)
            hold = None if body.until is None else WiresHold(hold.since, hold.look, permits)
    return hold
