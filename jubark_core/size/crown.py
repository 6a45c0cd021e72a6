"""Crown: spread, area, live crown ratio, classes of five per cent, overlap of two crowns."""

from __future__ import annotations

import math
from collections.abc import Sequence

from jubark_core.checks import require_between, require_sample
from jubark_core.errors import OutOfRangeError

WIDEST_M = 80.0
CLASS_STEP = 5


def crown_spread(diameters_m: Sequence[float]) -> float:
    """Mean crown diameter in m from two or more diameters. Raises EmptySampleError, OutOfRangeError.
    Arithmetic mean ('common practice').
    """
    read = require_sample("diameters_m", diameters_m, 0.1, WIDEST_M, "m")
    if len(read) < 2:
        raise OutOfRangeError(
            "diameters_m", list(diameters_m), "two diameters or more, the longest and that square to it"
        )
    return math.fsum(read) / len(read)


def spread_from_radii(radii_m: Sequence[float]) -> float:
    """Diameter in m of the circle with the area of a crown measured by two or more radii at even angles: 2
    √(mean r²).

    Source: the area of sectors of equal angle is proportional to r². A radius of 0 is a side without crown.
    Raises OutOfRangeError.
    """
    if len(radii_m) < 2:
        raise OutOfRangeError("radii_m", list(radii_m), "two radii or more, at even angles")
    read = [require_between(f"radii_m[{i}]", r, 0, WIDEST_M / 2, "m") for i, r in enumerate(radii_m)]
    return require_between(
        "crown_spread_m", 2 * math.sqrt(math.fsum(r * r for r in read) / len(read)), 0.1, WIDEST_M, "m"
    )


def crown_area(spread_m: float) -> float:
    """Ground covered in m² by a round crown of that diameter: π d² / 4. Raises OutOfRangeError. Source: plane
    geometry.
    """
    return math.pi / 4 * require_between("spread_m", spread_m, 0.1, WIDEST_M, "m") ** 2


def live_crown_ratio(height_m: float, crown_base_m: float) -> float:
    """Share of the height that bears live crown, 0..1: (height − base) / height. Raises OutOfRangeError.

    Source: Husch, Beers & Kershaw (2003), Forest Mensuration, 4th ed.. crown_base_m: height of the lowest
    live whorl or the lowest limb that is part of the even crown.
    """
    height = require_between("height_m", height_m, 0.1, 130, "m")
    return (height - require_between("crown_base_m", crown_base_m, 0, height, "m")) / height


def percent_class(percent: float) -> int:
    """Transparency or dieback in classes of 5 %: 0 stays 0, everything else is rounded up to its class (1 to
    5 is 5).

    Upper class limits as used in crown surveys ('common practice'). Raises OutOfRangeError.
    """
    read = require_between("percent", percent, 0, 100, "%")
    return math.ceil(read / CLASS_STEP - 1e-9) * CLASS_STEP


def overlap_share(distance_m: float, spread_a_m: float, spread_b_m: float) -> float:
    """Share 0..1 of the smaller of two round crowns that lies under or over the other. Source: area common to
    two circles.

    distance_m: between the stems, 0 to 200 m; spreads in m. Raises OutOfRangeError.
    """
    d = require_between("distance_m", distance_m, 0, 200, "m")
    a = require_between("spread_a_m", spread_a_m, 0.1, WIDEST_M, "m") / 2
    b = require_between("spread_b_m", spread_b_m, 0.1, WIDEST_M, "m") / 2
    small = min(a, b)
    if d >= a + b:
        return 0.0
    if d <= abs(a - b):
        return 1.0
    at_a, at_b = (d * d + a * a - b * b) / (2 * d * a), (d * d + b * b - a * a) / (2 * d * b)
    lens = a * a * math.acos(at_a) + b * b * math.acos(at_b)
    lens -= 0.5 * math.sqrt((-d + a + b) * (d + a - b) * (d - a + b) * (d + a + b))
    return min(1.0, lens / (math.pi * small * small))
