"""The degree-day clock: warmth gathered at a station, and when to look for the stages of pests.

A threshold is compared only with its own base, start and method; a record that is smoothed (monthly means
drawn out) gives no date: the swings of real days add warmth in spring. Missing days give a range.
Single sine: Baskerville & Emin (1969), Ecology 50:514-517 (from memory).
"""

from __future__ import annotations

import datetime
import itertools
import math
import statistics
from collections.abc import Sequence
from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.checks import require_between, require_date
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.records.typed_schema import Between
from jubark_core.season.contract import PlaceIn
from jubark_core.season.degree_days import average, average_floored, single_sine
from jubark_core.season.place import Place
from jubark_core.season.windows import ERROR_DAYS, dates
from jubark_core.signs.case import HealthCase
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause
from jubark_core.signs.prior import status_here

METHODS = ("single sine", "average", "floored average")
PHENOLOGY_BASE_C, PESTS_BASE_C = 5.0, 10.0
PESTS_METHOD = "single sine"
MOST_DAYS = 4000
NEAR_DAYS = 7  # a missing day is as warm as the coolest to the warmest within so many days of it
SMOOTH_C = 0.7  # mean step from one day's maximum to the next: real records show 2 °C and more
FEWEST_FOR_SMOOTH = 20
SOON_DAYS = 14
FEWEST_YEARS = 2

Daily = list[Annotated[float, Between(-80, 60)] | None]


class DaysIn(TypedDict):
    """Daily minima and maxima in °C from a day on, none left out; null for a missing one."""

    start: str
    min_c: Daily
    max_c: Daily
    source: NotRequired[str]


class Threshold(TypedDict):
    """A published threshold, with all that goes with its number."""

    value: Annotated[float, Between(0, 100_000)]
    base: Annotated[float, Between(-20, 120)]
    method: Literal["single sine", "average", "floored average"]
    start: Annotated[str, "Month and day from which it counts, MM-DD."]
    unit: NotRequired[Literal["C", "F"]]


class DegreeDaysIn(TypedDict):
    """What is to be summed, how: `unit` of base, cutoff and total."""

    record: DaysIn
    base: Annotated[float, Between(-20, 120)]
    method: Literal["single sine", "average", "floored average"]
    cutoff: NotRequired[Annotated[float | None, Between(-20, 140)]]
    unit: NotRequired[Literal["C", "F"]]
    to: NotRequired[str]
    threshold: NotRequired[Threshold | None]


class DegreeDays(TypedDict):
    """Warmth from the first day to the last. low, high: the range, by what is missing."""

    start: str
    to: str
    days: int
    missing: int
    value: float
    low: float
    high: float
    unit: str
    base: float
    method: str
    smoothed: bool
    threshold: Literal["", "reached", "perhaps reached", "not reached", "not comparable"]


class ClockIn(TypedDict):
    """The day, the place, the station's record where there is one, and how many plants of each taxon."""

    on: str
    place: PlaceIn
    counts: dict[str, Annotated[int, Between(0, 10**9)]]
    areas: NotRequired[list[str]]
    record: NotRequired[DaysIn | None]


class LookFor(TypedDict):
    """A stage of a cause and when to look for it. by: warmth, table, or not comparable."""

    agent: str
    name: str
    event: str
    by: Literal["warmth", "table"]
    reached: bool
    on: str
    to: str
    plus_minus_days: int
    soon: bool
    plants: int
    gathered_f: float | None
    threshold_f: list[float]
    note: str


class Clock(TypedDict):
    """Both clocks, and what to look for, the next first."""

    phenology: DegreeDays | None
    pests: DegreeDays | None
    look_for: list[LookFor]


def degree_days(given: Any) -> DegreeDays:
    """The sum that is asked for. Raises InputError naming the place."""
    start, days = _read(given["record"], "record")
    to = require_date("to", given["to"]) if "to" in given else start + datetime.timedelta(days=len(days) - 1)
    count = (to - start).days + 1
    if not 0 <= count <= len(days):
        raise InputError("to", given.get("to"), "a day of the record")
    fahrenheit = given.get("unit", "C") == "F"
    found = _sum(start, days[:count], given["base"], given["method"], given.get("cutoff"), fahrenheit)
    if given.get("threshold") is not None:
        found["threshold"] = _compared(given["threshold"], found)
    return found


def _compared(
    threshold: Threshold, found: DegreeDays
) -> Literal["reached", "perhaps reached", "not reached", "not comparable"]:
    """A threshold is compared only with a sum of its own unit, base, method and first day, of real days."""
    same = (
        threshold["method"] == found["method"]
        and abs(threshold["base"] - found["base"]) < 1e-9
        and threshold.get("unit", "C") == found["unit"]
        and threshold["start"] == found["start"][5:]
    )
    if not same or found["smoothed"]:
        return "not comparable"
    if found["low"] >= threshold["value"]:
        return "reached"
    return "perhaps reached" if found["high"] >= threshold["value"] else "not reached"


def _sum(
    start: datetime.date,
    days: Sequence[tuple[float, float] | None],
    base: float,
    method: str,
    cutoff: float | None,
    fahrenheit: bool,
) -> DegreeDays:
    def of(day: tuple[float, float]) -> float:
        low, high = (t * 1.8 + 32 for t in day) if fahrenheit else day
        if method == "average":
            return average(low, high, base)
        if method == "floored average":
            return average_floored(low, high, base, cutoff)
        return single_sine(low, high, base, cutoff)

    own = [of(day) if day is not None else None for day in days]
    lows, highs = [], []
    for i, value in enumerate(own):
        if value is not None:
            lows.append(value)
            highs.append(value)
            continue
        near = [v for v in own[max(0, i - NEAR_DAYS) : i + NEAR_DAYS + 1] if v is not None]
        lows.append(min(near, default=0.0))
        highs.append(max(near, default=0.0))
    low, high = math.fsum(lows), math.fsum(highs)
    return {
        "start": start.isoformat(),
        "to": (start + datetime.timedelta(days=max(0, len(days) - 1))).isoformat(),
        "days": len(days),
        "missing": sum(day is None for day in days),
        "value": (low + high) / 2,
        "low": low,
        "high": high,
        "unit": "F" if fahrenheit else "C",
        "base": base,
        "method": method,
        "smoothed": is_smoothed(days),
        "threshold": "",
    }


def is_smoothed(days: Sequence[tuple[float, float] | None]) -> bool:
    """Whether the record has no swings from day to day: drawn from monthly means, not measured."""
    steps = [abs(b[1] - a[1]) for a, b in itertools.pairwise(days) if a is not None and b is not None]
    return len(steps) >= FEWEST_FOR_SMOOTH and statistics.fmean(steps) < SMOOTH_C


def clock(given: Any, flora: Flora) -> Clock:
    """Both clocks at the day, and every stage to look for of causes whose hosts are there; what harms nothing
    or is not known in the areas is left out.
    """
    on = require_date("on", given["on"])
    at = given["place"]
    place = Place(at["lat"], at["lon"], at.get("elevation_m"))
    counts = counted_by_taxon(given["counts"], flora)
    record = given.get("record")
    start, days = _read(record, "record") if record else (on, [])
    this_year = _since_start(start, days, on, at["lat"])
    usable = bool(this_year) and not is_smoothed(days)
    area = area_case(given, on, place, flora)
    rows = [
        row
        for _, cause in sorted(health().causes.items())
        if cause.harm != "harmless" and status_here(cause, area, flora) == "present"
        if (plants := sum(n for t, n in counts.items() if susceptibility(cause, t, flora) > 0.05))
        for row in _of_cause(cause, plants, on, place, start, days if usable else [])
    ]
    first = _start_of(on, at["lat"])
    return {
        "phenology": _sum(first, this_year, PHENOLOGY_BASE_C, PESTS_METHOD, None, False)
        if this_year
        else None,
        "pests": _sum(first, this_year, PESTS_BASE_C, PESTS_METHOD, None, False) if this_year else None,
        "look_for": sorted(rows, key=lambda r: (r["reached"], r["on"], r["agent"], r["event"])),
    }


def _of_cause(
    cause: Cause,
    plants: int,
    on: datetime.date,
    place: Place,
    start: datetime.date,
    days: Sequence[tuple[float, float] | None],
) -> list[LookFor]:
    found: list[LookFor] = []
    for event in cause.warmth:
        by_warmth = _by_warmth(event.low_f, on, place.lat or 0.0, start, days) if days else None
        if by_warmth is not None:
            day, error, gathered, reached, note = by_warmth
            last = day
            found.append(
                _row(
                    cause, plants, event.event, "warmth", reached, day, last, error, on, gathered, event, note
                )
            )
    if not found and cause.season is not None:
        first, last, error = dates(cause.season, place, on, "forbidden")
        note = "By the calendar of the place." if not days else ""
        found.append(
            _row(cause, plants, "season", "table", first <= on, first, last, error, on, None, None, note)
        )
    return found


def _row(
    cause: Cause,
    plants: int,
    event: str,
    by: Literal["warmth", "table"],
    reached: bool,
    day: datetime.date,
    last: datetime.date,
    error: int,
    on: datetime.date,
    gathered: float | None,
    threshold: Any,
    note: str,
) -> LookFor:
    soon = on <= day <= on + datetime.timedelta(days=SOON_DAYS) or (by == "table" and day <= on <= last)
    return {
        "agent": cause.id,
        "name": cause.name,
        "event": event,
        "by": by,
        "reached": reached,
        "on": day.isoformat(),
        "to": last.isoformat(),
        "plus_minus_days": error,
        "soon": soon,
        "plants": plants,
        "gathered_f": gathered,
        "threshold_f": [threshold.low_f, threshold.high_f] if threshold else [],
        "note": note,
    }


def _by_warmth(
    threshold_f: float,
    on: datetime.date,
    lat: float,
    start: datetime.date,
    days: Sequence[tuple[float, float] | None],
) -> tuple[datetime.date, int, float, bool, str] | None:
    """(day, ± days, gathered so far in °F, reached, note); None where no year before says what is to come."""
    first = _start_of(on, lat)
    now = [d * 1.8 for d in _daily(start, days, first, on)]
    gathered = math.fsum(now)
    if gathered >= threshold_f:
        total = 0.0
        for i, value in enumerate(now):
            total += value
            if total >= threshold_f:
                day = first + datetime.timedelta(days=i)
                return day, ERROR_DAYS, gathered, True, "Reached by the station's record."
    waits = []
    for back in range(1, 12):
        try:
            then = on.replace(year=on.year - back)
        except ValueError:
            then = on.replace(year=on.year - back, day=28)
        if then < start:
            break
        wait = _wait(threshold_f - gathered, start, days, then)
        if wait is not None:
            waits.append(wait)
    if len(waits) < FEWEST_YEARS:
        return None
    middle = round(statistics.median(waits))
    error = max(ERROR_DAYS, math.ceil((max(waits) - min(waits)) / 2))
    return (
        on + datetime.timedelta(days=middle),
        error,
        gathered,
        False,
        f"From the warmth of {len(waits)} years before at the station.",
    )


def _wait(
    left_f: float, start: datetime.date, days: Sequence[tuple[float, float] | None], then: datetime.date
) -> int | None:
    total = 0.0
    for i, value in enumerate(
        _daily(start, days, then + datetime.timedelta(days=1), then + datetime.timedelta(365))
    ):
        total += value * 1.8
        if total >= left_f:
            return i + 1
    return None


def _daily(
    start: datetime.date,
    days: Sequence[tuple[float, float] | None],
    first: datetime.date,
    last: datetime.date,
) -> list[float]:
    """Degree days above 10 °C of each day; of a missing one the mean of those near."""
    a, b = max(0, (first - start).days), max(0, (last - start).days + 1)
    found = []
    for i in range(a, min(b, len(days))):
        day = days[i]
        if day is not None:
            found.append(single_sine(*day, PESTS_BASE_C))
            continue
        near = [d for d in days[max(0, i - NEAR_DAYS) : i + NEAR_DAYS + 1] if d is not None]
        found.append(statistics.fmean(single_sine(*d, PESTS_BASE_C) for d in near) if near else 0.0)
    return found


def _start_of(on: datetime.date, lat: float) -> datetime.date:
    """1 January, or 1 July south of the equator, before the day."""
    if lat >= 0:
        return datetime.date(on.year, 1, 1)
    return datetime.date(on.year if on.month >= 7 else on.year - 1, 7, 1)


def _since_start(
    start: datetime.date, days: Sequence[tuple[float, float] | None], on: datetime.date, lat: float
) -> list[tuple[float, float] | None]:
    first = _start_of(on, lat)
    if not days or start > first:
        return []
    return list(days[(first - start).days : (on - start).days + 1])


def _read(record: Any, at: str) -> tuple[datetime.date, list[tuple[float, float] | None]]:
    start = require_date(f"{at}.start", record["start"])
    lows, highs = record["min_c"], record["max_c"]
    if len(lows) != len(highs):
        raise InputError(f"{at}.max_c", len(highs), f"as many days as min_c: {len(lows)}")
    if len(lows) > MOST_DAYS:
        raise InputError(f"{at}.min_c", len(lows), f"at most {MOST_DAYS} days")
    found: list[tuple[float, float] | None] = []
    for i, (low, high) in enumerate(zip(lows, highs, strict=True)):
        if low is None or high is None:
            found.append(None)
            continue
        require_between(f"{at}.min_c[{i}]", low, -80, 60, "°C")
        if low > high:
            raise InputError(f"{at}.min_c[{i}]", low, f"at most the day's maximum, {high:g} °C")
        found.append((float(low), float(high)))
    return start, found


def area_case(given: Any, on: datetime.date, place: Place, flora: Flora) -> HealthCase:
    """A day, a place and its areas as the rules of what is where need them. Raises InputError for an unknown
    area.
    """
    areas = given.get("areas", [])
    for i, area in enumerate(areas):
        if area not in flora.areas:
            raise InputError(f"areas[{i}]", area, "a TDWG level 3 code, e.g. PEN")
    return HealthCase(on=on, place=place, hosts=(), signs=(), areas=tuple(sorted(set(areas))))


def counted_by_taxon(raw: dict[str, int], flora: Flora) -> dict[str, int]:
    """Counts by accepted taxon. Raises InputError for an unknown name."""
    found: dict[str, int] = {}
    for name, n in raw.items():
        taxon = flora.resolve.get(name)
        if taxon is None:
            raise InputError(f"counts.{name}", name, "the id of a taxon of the flora")
        found[taxon] = found.get(taxon, 0) + n
    return found
