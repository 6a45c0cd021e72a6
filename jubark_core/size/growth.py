"""Growth between two visits, and the years of a ring count."""

from __future__ import annotations

import datetime
import math
from typing import Annotated, Literal, NamedTuple, NotRequired, TypedDict

from jubark_core.checks import require_between, require_date
from jubark_core.errors import OutOfRangeError
from jubark_core.records.quantities import LARGEST_CM
from jubark_core.size.where import comparable
from jubark_core.units import CM_PER_INCH

YEAR_DAYS = 365.25


class Taken(NamedTuple):
    """A diameter as it was taken. error_cm: of the reading; None where it cannot be read as growth."""

    cm: float
    on: datetime.date
    at_m: float | None
    error_cm: float | None


class Growth(NamedTuple):
    """Growth in cm of diameter a year over so many years, ± band_cm; `doubt` says why it is not to be read as
    growth. none: the change lies within the error of measuring.
    """

    cm_a_year: float
    band_cm: float
    years: float
    none: bool
    doubt: str


class TakenIn(TypedDict):
    """A diameter as it was taken."""

    cm: float
    on: str
    at_height_m: NotRequired[Annotated[float | None, "Null: not known."]]
    method: NotRequired[Annotated[str, "By eye, no growth is read from it."]]


class GrowthIn(TypedDict):
    """Two diameters of one stem."""

    before: TakenIn
    now: TakenIn
    units: NotRequired[Literal["metric", "us_customary"]]


class GrowthOut(TypedDict):
    """Growth with its error band, and what speaks against reading it as growth."""

    cm_a_year: float
    band_cm: Annotated[float, "± of it, from the error of both readings."]
    years: float
    none: Annotated[bool, "The change lies within the error of measuring."]
    doubt: str


def growth_of(given: GrowthIn) -> GrowthOut:
    """The operation: growth between two diameters. Raises InputError."""
    before, now = _taken("before", given["before"]), _taken("now", given["now"])
    found = growth(before, now, given.get("units", "metric"))
    return {
        "cm_a_year": found.cm_a_year,
        "band_cm": found.band_cm,
        "years": found.years,
        "none": found.none,
        "doubt": found.doubt,
    }


def _taken(place: str, given: TakenIn) -> Taken:
    cm = require_between(f"{place}.cm", given["cm"], 0.1, LARGEST_CM, "cm")
    on = require_date(f"{place}.on", given["on"])
    return Taken(cm, on, given.get("at_height_m"), diameter_error_cm(cm, given.get("method", "taped")))


def diameter_error_cm(cm: float, method: str) -> float | None:
    """What two crews differ by on one stem: 0.1 in for each started 20 in, by tape or callipers; None by eye.

    Source: the tolerance of diameters in the national inventory of the United States (check value 7.01-02),
    from memory.
    """
    return None if method == "estimated" else CM_PER_INCH * 0.1 * math.ceil(cm / (20 * CM_PER_INCH) - 1e-9)


def growth(before: Taken, now: Taken, units: str = "metric") -> Growth:
    """Diameter growth a year between two visits, with its error band; units: in which a doubt is worded.

    Raises OutOfRangeError where the second is not later.
    """
    years = (now.on - before.on).days / YEAR_DAYS
    if years <= 0:
        raise OutOfRangeError("now_on", now.on.isoformat(), f"a day after {before.on.isoformat()}")
    doubt = comparable(before.at_m, now.at_m, units)
    if not doubt and (before.error_cm is None or now.error_cm is None):
        doubt = "One of the two was judged by eye: no growth is read from that."
    if not doubt and years < 0.5:
        doubt = "Less than half a year lies between: a tape reads no growth that fine."
    band = math.hypot(before.error_cm or 0.0, now.error_cm or 0.0)
    gap = now.cm - before.cm
    return Growth(gap / years, band / years, years, not doubt and abs(gap) <= band, doubt)


def rings_per_cm(rings: int, core_cm: float) -> float:
    """Rings in a centimetre of radius. Few is fast. rings: 1 to 2000 counted over core_cm of wood, 0.2 to 200
    cm. Raises OutOfRangeError.
    """
    return require_between("rings", rings, 1, 2000) / require_between("core_cm", core_cm, 0.2, 200, "cm")


def diameter_growth_from_rings(rings: int, core_cm: float) -> float:
    """Mean diameter growth in cm a year over the rings: 2 × core / rings, wood without bark. Raises
    OutOfRangeError.
    """
    return 2 / rings_per_cm(rings, core_cm)
