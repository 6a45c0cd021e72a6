"""Growing degree days: warmth added up, and the dates of spring it stands for.

Daily average: McMaster & Wilhelm (1997), Agricultural and Forest Meteorology 87:291-300. Single sine:
Baskerville & Emin (1969), Ecology 50:514-517; horizontal cutoff as Allen (1976), Environmental Entomology
5:388-396. Formulas from memory; checked against worked examples.
"""

from __future__ import annotations

import bisect
import itertools
import math
from collections.abc import Sequence

from jubark_core.season.showing import SpringDate

BASE_C = 5.0  # a common base for woody plants of temperate forests ('common practice')

# The normal year of the reference place (40.5 N, 79.3 W, 310 m): mean daily minimum and maximum in °C by
# month, of the order of published normals for that part of the Appalachian plateau, from memory. It only
# serves to carry a date of the flora over to a measured year: what counts is the difference between the two,
# not either's level.
NORMAL_MIN_C = (-7.0, -6.2, -2.6, 3.0, 8.6, 13.5, 15.8, 15.1, 11.4, 5.2, 0.4, -4.2)
NORMAL_MAX_C = (2.2, 4.0, 9.3, 16.4, 21.8, 25.9, 27.8, 27.1, 23.6, 17.0, 10.3, 4.4)
CHILL_C, CHILL_DAYS, CHILL_OF_DAYS = 10.0, 20, 59  # so many days of the first two months as cold as that
MONTH_MIDDLES = (16, 45.5, 75, 105.5, 136, 166.5, 197, 228, 258.5, 289, 319.5, 350)


def average(low: float, high: float, base: float) -> float:
    """Degree days of one day: max(0, mean − base), in the degrees of the input."""
    return max(0.0, (low + high) / 2 - base)


def average_floored(low: float, high: float, base: float, cutoff: float | None = None) -> float:
    """As `average`, with both readings first raised to the base and cut at the cutoff."""
    low, high = max(low, base), max(high, base)
    if cutoff is not None:
        low, high = min(low, cutoff), min(high, cutoff)
    return (low + high) / 2 - base


def single_sine(low: float, high: float, base: float, cutoff: float | None = None) -> float:
    """Degree days of one day under a sine from its minimum to its maximum; warmth above the cutoff counts
    nothing more.

    Raises ValueError where the minimum is above the maximum.
    """
    if low > high:
        raise ValueError(f"minimum {low} above maximum {high}")
    found = _sine_above(low, high, base)
    return found if cutoff is None else found - _sine_above(low, high, cutoff)


def _sine_above(low: float, high: float, base: float) -> float:
    mean, amplitude = (low + high) / 2, (high - low) / 2
    if low >= base:
        return mean - base
    if high <= base:
        return 0.0
    theta = math.asin((base - mean) / amplitude)
    return ((mean - base) * (math.pi / 2 - theta) + amplitude * math.cos(theta)) / math.pi


def accumulated(lows: Sequence[float], highs: Sequence[float], base: float = BASE_C) -> list[float]:
    """Running sum of single-sine degree days, one entry per day."""
    return list(
        itertools.accumulate(single_sine(low, high, base) for low, high in zip(lows, highs, strict=True))
    )


def accumulated_to(lows: Sequence[float], highs: Sequence[float], base: float) -> float:
    """Single-sine degree days over all the days; 0 for none."""
    return math.fsum(single_sine(low, high, base) for low, high in zip(lows, highs, strict=True))


def normal_year() -> list[float]:
    """Degree days gathered by the end of each day of the reference place's normal year (365 entries)."""
    lows, highs = (
        [_between_months(values, day) for day in range(1, 366)] for values in (NORMAL_MIN_C, NORMAL_MAX_C)
    )
    return accumulated(lows, highs)


def _between_months(values: Sequence[float], day: float) -> float:
    """A monthly mean carried to a day by straight lines between the middles of months, round the year."""
    middles = (MONTH_MIDDLES[-1] - 365, *MONTH_MIDDLES, MONTH_MIDDLES[0] + 365)
    around = (values[-1], *values, values[0])
    i = bisect.bisect_right(middles, day)
    share = (day - middles[i - 1]) / (middles[i] - middles[i - 1])
    return around[i - 1] + share * (around[i] - around[i - 1])


def chill_met(lows: Sequence[float], highs: Sequence[float]) -> bool:
    """Whether the first two months of the record were cold enough for trees of temperate forests to leave
    their rest: without that, warmth gathered says little ('common practice'; the counts are rough).
    """
    means = [(low + high) / 2 for low, high in zip(lows[:CHILL_OF_DAYS], highs[:CHILL_OF_DAYS], strict=True)]
    return sum(mean <= CHILL_C for mean in means) >= CHILL_DAYS


def spring_dates(lows: Sequence[float], highs: Sequence[float]) -> SpringDate:
    """A function from a day of the flora's normal year to the day of the measured year with the same warmth
    gathered.

    lows, highs: daily minima and maxima in °C from 1 January on (from 1 July on south of the equator). After
    the end of the record the lead or lag it ended with is kept.
    """
    normal, measured = normal_year(), accumulated(lows, highs)
    same = min(bisect.bisect_left(normal, measured[-1]) + 1, 365) if measured[-1] > 0 else len(measured)
    lag = len(measured) - same

    def dated(day: float) -> float:
        wanted = normal[min(max(round(day), 1), 365) - 1]
        if wanted <= 0 or wanted > measured[-1]:
            return day + lag
        return bisect.bisect_left(measured, wanted) + 1.0

    return dated
