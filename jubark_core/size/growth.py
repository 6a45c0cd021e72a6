"""Growth between two visits, and the years of a ring count."""

from __future__ import annotations

import datetime
from typing import NamedTuple

from jubark_core.checks import require_between
from jubark_core.errors import OutOfRangeError
from jubark_core.size.where import comparable

YEAR_DAYS = 365.25


class Growth(NamedTuple):
    """Growth in cm of diameter a year over so many years; `doubt` says why it is not to be read as growth."""

    cm_a_year: float
    years: float
    doubt: str


def growth(
    before_cm: float,
    before_on: datetime.date,
    now_cm: float,
    now_on: datetime.date,
    before_at_m: float | None,
    now_at_m: float | None,
    units: str = "metric",
) -> Growth:
    """Diameter growth a year between two visits; units: in which a doubt is worded.

    Raises OutOfRangeError where the second is not later.
    """
    years = (now_on - before_on).days / YEAR_DAYS
    if years <= 0:
        raise OutOfRangeError("now_on", now_on.isoformat(), f"a day after {before_on.isoformat()}")
    doubt = comparable(before_at_m, now_at_m, units)
    if not doubt and years < 0.5:
        doubt = "Less than half a year lies between: a tape reads no growth that fine."
    return Growth((now_cm - before_cm) / years, years, doubt)


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
