"""For what cannot be settled now: when a separating character shows at this place, and which one."""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.naming.separate import separators
from jubark_core.naming.weigh import Weighed
from jubark_core.season.days import YEAR, date_on_or_after, day_of_year
from jubark_core.season.showing import ALWAYS, span

MOST = 4
RIVALS = 3
SHARE_LIVE = 0.02


def come_back(w: Weighed) -> list[dict[str, Any]]:
    """Date windows within a year in which a character that parts the leader from a live rival can be seen."""
    if not w.ranked_taxa:
        return []
    leader = w.ranked_taxa[0]
    rivals = [t for t in w.ranked_taxa[1 : RIVALS + 1] if w.probability[t] >= SHARE_LIVE]
    found: list[dict[str, Any]] = []
    for rival in rivals:
        for cid in separators(w, leader, rival)[:6]:
            if w.looks_at(cid) or w.case.stage not in w.flora.characters[cid].get("stages", (w.case.stage,)):
                continue
            window = next_window(w, cid, (leader, rival))
            if window is not None:
                found.append(
                    {
                        "from": window[0].isoformat(),
                        "to": window[1].isoformat(),
                        "character": cid,
                        "separates": [leader, rival],
                    }
                )
    found.sort(key=lambda item: (item["from"], item["character"], item["separates"]))
    return found[:MOST]


def next_window(
    w: Weighed, character: str, taxa: tuple[str, ...]
) -> tuple[datetime.date, datetime.date] | None:
    """First window after the case's date, not open on it, in which all the taxa show the character; None
    where there is none.
    """
    kinds = [k for k in w.flora.characters[character].get("visible", ["always"]) if k != "litter"]
    today = day_of_year(w.case.on)
    windows = []
    for kind in kinds:
        shared = _shared(w, kind, taxa)
        if shared is ALWAYS:
            return None
        if shared is not None:
            start, length = shared
            ahead = (start - today) % YEAR
            if ahead > YEAR - length:
                return None  # open already
            windows.append((ahead, length))
    if not windows:
        return None
    ahead, length = min(windows)
    first = date_on_or_after(w.case.on, (today + ahead - 1) % YEAR + 1)
    return first, first + datetime.timedelta(days=int(length))


def _shared(w: Weighed, kind: str, taxa: tuple[str, ...]) -> tuple[float, float] | None:
    """(first day, length in days) in which all taxa show what belongs to the class; ALWAYS; None where they
    do not meet.
    """
    shared: tuple[float, float] | None = ALWAYS
    for t in taxa:
        own = span(kind, w.evidence.days(t), w.flora.evergreen[t])
        if own is None or shared is None:
            return None
        if own is ALWAYS:
            continue
        start, length = own[0], (own[1] - own[0]) % YEAR
        if shared is ALWAYS:
            shared = (start, length)
            continue
        later = max(shared[0], shared[0] + _signed(start - shared[0]))
        end = min(shared[0] + shared[1], shared[0] + _signed(start - shared[0]) + length)
        shared = (later, end - later) if end > later else None
    return shared


def _signed(days: float) -> float:
    """A difference of days of the year, brought to -182..182."""
    return (days + YEAR / 2) % YEAR - YEAR / 2
