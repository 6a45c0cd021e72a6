"""Windows of the data files (a season of a cause, of work, of what is normal) as they fall at a place.

Notation: "05-20..08-31" is written for the anchor of the data files, "LON:04-15..07-31" for another, which
then stands there and is not carried; "fall-14..leaf_out+14" hangs on the events of the tree itself. Several
may stand together; where the events of a tree are not known, the dates hold.
"""

from __future__ import annotations

import datetime
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from jubark_core.season.calendars import HOME, Origin, calendars, carrier, region_of
from jubark_core.season.days import YEAR, after, day_of, span_on_or_after, within, wrap
from jubark_core.season.place import Place

Days = tuple[int, int]  # first and last day of the year
Bound = tuple[str, int]  # an event of the tree, and days after it
# plant: goes with the calendar of the place; animal: with warmth where a station gives it, else the same;
# law: a fixed date of an area, never moved; guide: as law, but only advice
Kind = Literal["plant", "animal", "law", "guide"]
# shows: what is seen then; permitted: only shrinks when carried; forbidden (or endangered): only grows
Sense = Literal["shows", "permitted", "forbidden"]

WHOLE_YEAR: Days = (1, YEAR)
ERROR_DAYS = calendars().error["own"]  # of a date from the table, at best
VANISHED_DAYS, WORTH_DAYS = 14, 28  # carried under 14 days where it was printed with 28 or more: it vanished
_DATES = re.compile(r"(?:([A-Z]{3}):)?(\d\d-\d\d)\.\.(\d\d-\d\d)", re.ASCII)
_EVENTS = re.compile(r"([a-z][a-z_]*?)([+-]\d+)?\.\.([a-z][a-z_]*?)([+-]\d+)?", re.ASCII)


@dataclass(frozen=True)
class Window:
    """A season as it was written. dates: anchor -> first and last day there; events: its ends by the tree's
    own events.
    """

    dates: tuple[tuple[str, Days], ...] = ()
    events: tuple[Bound, Bound] | None = None
    kind: Kind = "plant"

    @property
    def all_year(self) -> bool:
        """Whether it is always open."""
        return self.events is None and all(days == WHOLE_YEAR for _, days in self.dates)

    def __or__(self, other: Window) -> Window:
        """Both together, as one that says more."""
        return Window(self.dates + other.dates, self.events or other.events, self.kind)


@dataclass(frozen=True)
class Here:
    """A window at a place: days of the year, how far they may be off, where they come from. rough: ask a
    person.
    """

    first: float
    last: float
    error_days: int
    origin: Origin
    rough: bool


def is_window(word: str) -> bool:
    """Whether the word is one of the notation."""
    return bool(_DATES.fullmatch(word) or ("." in word and _EVENTS.fullmatch(word)))


def read_window(text: str, kind: Kind = "plant") -> Window:
    """The window of "MM-DD..MM-DD" and the other forms. Raises ValueError for anything else."""
    found = Window(kind=kind)
    for word in text.split():
        if dated := _DATES.fullmatch(word):
            anchor = dated[1] or HOME
            if anchor not in calendars().anchors:
                raise ValueError(f"{text!r}: {anchor!r} is not one of {', '.join(calendars().anchors)}")
            found |= Window(((anchor, (day_of(dated[2]), day_of(dated[3]))),))
        elif bound := _EVENTS.fullmatch(word):
            found |= Window((), ((bound[1], int(bound[2] or 0)), (bound[3], int(bound[4] or 0))))
        else:
            raise ValueError(f"{text!r} is no window like 05-20..08-31")
    if not found.dates and found.events is None:
        raise ValueError(f"{text!r} is no window like 05-20..08-31")
    return found


def window_here(
    window: Window, place: Place, sense: Sense = "shows", events: Mapping[str, float] | None = None
) -> Here | None:
    """The window at the place. events: days of the tree's own events there (season.showing.event_days); None
    where the window hangs on events that are not known and gives no dates.
    """
    if window.events is not None and events:
        (start, plus), (end, more) = window.events
        if start in events and end in events:
            error = round(events["edge"])
            return Here(wrap(events[start] + plus), wrap(events[end] + more), error, "carried", False)
    return _dated(window, place, sense) if window.dates else None


@lru_cache(maxsize=8192)
def _dated(window: Window, place: Place, sense: Sense) -> Here:
    dates = dict(window.dates)
    if window.kind in ("law", "guide"):
        fixed = next(iter(dates.values()))
        return Here(*fixed, 0, "law" if window.kind == "law" else "guide", False)
    anchor = region_of(place)[1].id
    written = anchor if anchor in dates else next(iter(dates))
    printed = dates[written]
    if printed == WHOLE_YEAR:
        return Here(1.0, float(YEAR), calendars().error["own"], "own", False)
    carry = carrier(written, place)
    first, last = carry(printed[0]), carry(printed[1])
    length, before = after(first, last), after(*printed)
    vanished = before >= WORTH_DAYS and length < VANISHED_DAYS
    if (sense == "permitted" and length > before) or (sense == "forbidden" and length < before):
        # cut or drawn out alike at both ends, to the length that was printed
        first, last = wrap(first + (length - before) / 2), wrap(last - (length - before) / 2)
    error = max(carry.error_days(first), carry.error_days(last))
    return Here(first, last, error, "own" if carry.own else "carried", carry.rough or vanished)


def chance_within(
    window: Window | None,
    place: Place,
    day: int,
    sense: Sense = "shows",
    events: Mapping[str, float] | None = None,
) -> float:
    """Chance 0 to 1 that the day lies in the window at the place; 1 for no window, or where its events are
    not known.
    """
    if window is None or window.all_year:
        return 1.0
    here = window_here(window, place, sense, events)
    if here is None:
        return 1.0
    return within(day, here.first, here.last, max(1.0, here.error_days))


def dates(
    window: Window,
    place: Place,
    on: datetime.date,
    sense: Sense = "shows",
    events: Mapping[str, float] | None = None,
) -> tuple[datetime.date, datetime.date, int]:
    """(from, to, ± days) of the window at the place: the one that holds the day, or the next to come. Raises
    ValueError for a window of events that are not known.
    """
    here = window_here(window, place, sense, events)
    if here is None:
        raise ValueError("the events of the tree are not known")
    begins, ends = span_on_or_after(on, here.first, here.last)
    return begins, ends, here.error_days
