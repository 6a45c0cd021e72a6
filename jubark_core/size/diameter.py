"""Diameter of a stem: tape, girth, callipers; several stems as one."""

from __future__ import annotations

import math
from collections.abc import Sequence

from jubark_core.checks import require_between, require_sample
from jubark_core.records.quantities import LARGEST_CM

LARGEST_GIRTH_CM = LARGEST_CM * math.pi
MOST_BY_SQUARES = 5  # BS 5837 squares up to five stems, beyond that it takes the mean


def diameter_from_girth(girth_cm: float) -> float:
    """Diameter in cm of a round stem of that girth: girth / π.

    girth_cm: circumference in cm, above 0 and at most 4712. Raises OutOfRangeError.
    Source: plane geometry; Husch, Beers & Kershaw (2003), Forest Mensuration, 4th ed..
    """
    return require_between("girth_cm", girth_cm, 0.1, LARGEST_GIRTH_CM, "cm") / math.pi


def diameter_from_callipers(a_cm: float, b_cm: float, mean: str = "geometric") -> float:
    """Diameter in cm from two calliper readings at right angles.

    mean: `geometric`, √(a·b), the diameter of the circle with the area of the ellipse; or `arithmetic`, (a +
    b) / 2, which is never less. Raises OutOfRangeError. Source: area of an ellipse, π·a·b/4.
    """
    a, b = (
        require_between(f"callipers_cm[{i}]", v, 0.1, LARGEST_CM, "cm") for i, v in enumerate((a_cm, b_cm))
    )
    return math.sqrt(a * b) if mean == "geometric" else (a + b) / 2


def combined_by_squares(dbh_cm: Sequence[float]) -> float:
    """One diameter for several stems, of the same total basal area: sqrt(sum(d**2)).

    dbh_cm: one diameter for each stem in cm. Raises EmptySampleError, OutOfRangeError naming the stem.
    Source: BS 5837:2012, clause 4.6, two to five stems.
    """
    stems = require_sample("dbh_cm", dbh_cm, 0.1, LARGEST_CM, "cm")
    return math.sqrt(math.fsum(d * d for d in stems))


def combined_by_mean(dbh_cm: Sequence[float]) -> float:
    """One diameter for more than five stems: √(mean² · n); for up to five as `combined_by_squares`. Never
    more than that.

    Same input and errors. Source: BS 5837:2012, clause 4.6.
    """
    stems = require_sample("dbh_cm", dbh_cm, 0.1, LARGEST_CM, "cm")
    if len(stems) <= MOST_BY_SQUARES:
        return combined_by_squares(stems)
    return math.fsum(stems) / len(stems) * math.sqrt(len(stems))


def largest_plus_half(dbh_cm: Sequence[float]) -> float:
    """One diameter for several stems: the largest plus half of each other.

    Same input and errors as `combined_by_squares`.
    Source: one school among municipal rules of the United States, no single source.
    """
    stems = require_sample("dbh_cm", dbh_cm, 0.1, LARGEST_CM, "cm")
    return max(stems) + 0.5 * (math.fsum(stems) - max(stems))


def basal_area_m2(dbh_cm: float) -> float:
    """Basal area in m² of a stem: π d² / 40000, d in cm. Raises OutOfRangeError.

    Source: Husch, Beers & Kershaw (2003), Forest Mensuration, 4th ed..
    """
    return math.pi * require_between("dbh_cm", dbh_cm, 0.1, LARGEST_CM, "cm") ** 2 / 40_000


def counted(dbh_cm: Sequence[float], least_cm: float) -> tuple[list[float], int]:
    """(stems at least as thick as the site measures, how many were thinner). Both in the order read."""
    return [d for d in dbh_cm if d >= least_cm], sum(d < least_cm for d in dbh_cm)


COMBINE = {
    "squares": combined_by_squares,
    "squares_then_mean": combined_by_mean,
    "largest_plus_half": largest_plus_half,
}
