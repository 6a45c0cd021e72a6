"""Days of the year as a circle of 365, and how sure a day lies between two of them."""

from __future__ import annotations

import calendar
import datetime

YEAR = 365
EDGE_DAYS = 10.0  # an edge is soft over this many days: years and plants differ


def wrap(day: float) -> float:
    """The day of the year, 1 up to but without 366."""
    return (day - 1) % YEAR + 1


def after(start: float, end: float) -> float:
    """Days from one day of the year to the next occurrence of the other, 0 up to but without 365."""
    return (end - start) % YEAR


def within(day: float, start: float, end: float, edge: float = EDGE_DAYS) -> float:
    """Chance 0..1 that `day` lies in the window start..end (wrapping over New Year), with soft edges."""
    length = after(start, end)
    into = after(start, day)
    if into <= length:
        return min(1.0, 0.5 + min(into, length - into) / edge)
    return max(0.0, 0.5 - min(into - length, YEAR - into) / edge)


def day_of_year(on: datetime.date) -> int:
    """1..365; 29 February counts as the 59th day."""
    day = on.timetuple().tm_yday
    leap = on.year % 4 == 0 and (on.year % 100 != 0 or on.year % 400 == 0)
    return day - 1 if leap and day > 59 else day


def day_of(month_day: str) -> int:
    """The day of the year of MM-DD. Raises ValueError for anything else, 29 February too."""
    return day_of_year(datetime.date.fromisoformat(f"2001-{month_day}"))


def month_day(day: float) -> str:
    """MM-DD of a day of the year."""
    return f"{datetime.date(2001, 1, 1) + datetime.timedelta(days=round(wrap(day)) - 1):%m-%d}"


def date_on_or_after(on: datetime.date, day: float) -> datetime.date:
    """The first date not before `on` that falls on that day of the year."""
    wanted = (round(day) - 1) % YEAR + 1
    for year in (on.year, on.year + 1):
        found = datetime.date(year, 1, 1) + datetime.timedelta(days=wanted - 1)
        if wanted > 59 and day_of_year(found) != wanted:  # past 29 February
            found += datetime.timedelta(days=1)
        if found >= on:
            return found
    raise AssertionError("one of two years holds the day")


def span_on_or_after(on: datetime.date, first: float, last: float) -> tuple[datetime.date, datetime.date]:
    """The span between two days of the year that holds the date, or the next to come. One over 29 February is
    a day longer: its first day keeps its date.
    """
    end = date_on_or_after(on, last)
    start = end - datetime.timedelta(days=round(after(round(first), round(last))) + 1)
    return date_on_or_after(start, first), end


def add_months(day: datetime.date, months: int) -> datetime.date:
    """The same day of the month, months later; the last of the month where it has no such day.

    >>> add_months(datetime.date(2026, 1, 31), 1)
    datetime.date(2026, 2, 28)
    """
    years, month = divmod(day.month - 1 + months, 12)
    year = day.year + years
    return datetime.date(year, month + 1, min(day.day, calendar.monthrange(year, month + 1)[1]))
