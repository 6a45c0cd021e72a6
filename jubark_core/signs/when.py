"""Windows of the data files carried to a place: by Hopkins' rule, half a year later in the south."""

from __future__ import annotations

import datetime
from functools import lru_cache

from jubark_core.season.windows import EDGE_DAYS, REFERENCE, YEAR, Place, date_on_or_after, shift_days, within
from jubark_core.signs.model import Window

MIDSUMMER = 213  # windows that begin later move with autumn
WHOLE_YEAR: Window = (1, 365)
ERROR_DAYS = 10  # of a date from the table, at best


@lru_cache(maxsize=4096)
def moved(window: Window, place: Place) -> tuple[float, float, float]:
    """(first, last) day of the year at the place, and the softness of the edges in days."""
    if window == WHOLE_YEAR:
        return 1.0, 365.0, EDGE_DAYS
    turn = YEAR / 2 if place.lat is not None and place.lat < 0 else 0.0
    ends = []
    wider = 0.0
    for day in window:
        days, more = shift_days("leaf_out" if day < MIDSUMMER else "fall", REFERENCE, place)
        ends.append((day + days + turn - 1) % YEAR + 1)
        wider = max(wider, more)
    return ends[0], ends[1], EDGE_DAYS + wider


@lru_cache(maxsize=65536)
def chance_within(window: Window | None, place: Place, day: int) -> float:
    """Chance 0 to 1 that the day lies in the window at the place; 1 for no window."""
    if window is None or window == WHOLE_YEAR:
        return 1.0
    first, last, edge = moved(window, place)
    return within(day, first, last, edge)


def dates(window: Window, place: Place, on: datetime.date) -> tuple[datetime.date, datetime.date, int]:
    """(from, to, ± days) of the window at the place: the one that holds the day, or the next to come."""
    first, last, edge = moved(window, place)
    end = date_on_or_after(on, last)
    start = end - datetime.timedelta(days=round(last - first) % YEAR)
    return start, end, max(ERROR_DAYS, round(edge))
