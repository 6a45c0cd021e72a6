"""Height of a stem from two angles and a distance (tangent method)."""

from __future__ import annotations

import math
from typing import NamedTuple

from jubark_core.checks import require_between
from jubark_core.errors import OutOfRangeError

TALLEST_M = 130.0
STEEP_DEG = 45.0  # a top angle above this multiplies the error of the angle
ANGLE_ERROR_DEG = 0.5  # a clinometer read by hand ('common practice')


class Height(NamedTuple):
    """Height in metres, its error from the error of the angles, and whether the observer stood too near."""

    height_m: float
    error_m: float
    too_near: bool


def height_from_angles(distance_m: float, top_deg: float, base_deg: float, slope_distance: bool = False) -> Height:
    """Height = horizontal distance × (tan top − tan base), angles signed from the eye's horizontal.

    distance_m: eye to stem, 1 to 300 m; horizontal, or along the line of sight to the base if `slope_distance`
    (then horizontal = distance × cos base). top_deg, base_deg: −60 to 85 degrees, top above base.
    error_m: from ±0.5° in each angle, first order. Valid for an upright stem whose top stands over its base.
    Raises OutOfRangeError. Source: plane trigonometry.
    >>> round(height_from_angles(20, 45, -5).height_m, 5)
    21.74977
    """
    distance = require_between("distance_m", distance_m, 1, 300, "m")
    top = require_between("top_deg", top_deg, -60, 85, "degrees")
    base = require_between("base_deg", base_deg, -60, 85, "degrees")
    if top <= base:
        raise OutOfRangeError("top_deg", top_deg, f"an angle above the base angle of {base:g} degrees")
    if slope_distance:
        distance *= math.cos(math.radians(base))
    height = distance * (math.tan(math.radians(top)) - math.tan(math.radians(base)))
    if not 0.1 <= height <= TALLEST_M:
        raise OutOfRangeError("height_m", round(height, 1), f"a height from 0.1 to {TALLEST_M:g} m")
    slip = math.radians(ANGLE_ERROR_DEG)
    error = distance * slip * math.hypot(1 / math.cos(math.radians(top)) ** 2, 1 / math.cos(math.radians(base)) ** 2)
    return Height(height, error, top > STEEP_DEG)
