"""Height of a stem, with the error that follows from the error of the readings.

Angles are signed from the eye's horizontal, up positive. Every method gives a Height; errors are first order
(the square root of the summed squares of reading error times slope), which a brute-force simulation confirms
in the tests.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import OutOfRangeError
from jubark_core.records.quantities import TALLEST_M
from jubark_core.records.words import ANGLE_UNITS

STEEP_DEG = 45.0  # a top angle above this multiplies the error of the angle
ANGLE_ERROR_DEG = 0.5  # a clinometer read by hand ('common practice')
DISTANCE_ERROR_SHARE = 0.01  # a tape or range finder to 1 % ('common practice')
BY_EYE_SHARE, INSTRUMENT_SHARE = 0.15, 0.03
STICK_ERROR_SHARE = 0.02  # a stick and its sight line to 2 % ('common practice')
TOPO_FEET = 66.0  # the topographic scale reads feet of rise on 66 ft


class Height(NamedTuple):
    """Height in metres, its error from the error of the readings, and whether the observer stood too near."""

    height_m: float
    error_m: float
    too_near: bool


def angle_in_degrees(value: float, unit: str) -> float:
    """An angle read in degrees, per cent (100 tan) or on the topographic scale (66 tan), in degrees. Raises
    UnknownStateError.
    """
    require_one_of("angle_unit", unit, ANGLE_UNITS)
    return (
        value
        if unit == "degrees"
        else math.degrees(math.atan(value / (100.0 if unit == "percent" else TOPO_FEET)))
    )


def height_from_angles(
    distance_m: float, top_deg: float, base_deg: float, slope_distance: bool = False, toward_m: float = 0.0
) -> Height:
    """Height = horizontal distance × (tan top − tan base), angles signed from the eye's horizontal.

    distance_m: eye to stem, 1 to 300 m; horizontal, or along the line of sight to the base if
    `slope_distance`
    (then horizontal = distance × cos base). top_deg, base_deg: −60 to 85 degrees, top above base.
    toward_m: how far the top stands nearer to the observer than the base (negative: away), for a leaning
    stem:
    height = (distance − toward) × tan top − distance × tan base. error_m: from ±0.5° in each angle and 1 % in
    the distance.
    Raises OutOfRangeError. Source: plane trigonometry.
    >>> round(height_from_angles(20, 45, -5).height_m, 5)
    21.74977
    >>> round(height_from_angles(25, 50, -4, toward_m=3).height_m, 5)
    27.96675
    """
    distance = require_between("distance_m", distance_m, 1, 300, "m")
    top, base = _top_and_base(top_deg, base_deg)
    toward = require_between("toward_m", toward_m, -50, 50, "m")
    if distance - toward < 0.5:
        raise OutOfRangeError("toward_m", toward_m, f"less than the distance of {distance:g} m")

    def height(read: Sequence[float]) -> float:
        far, up, down = read
        level = far * math.cos(math.radians(down)) if slope_distance else far
        return (level - toward) * math.tan(math.radians(up)) - level * math.tan(math.radians(down))

    return _height(
        height,
        (distance, top, base),
        (distance * DISTANCE_ERROR_SHARE, ANGLE_ERROR_DEG, ANGLE_ERROR_DEG),
        top > STEEP_DEG,
    )


def height_by_sine(top_distance_m: float, top_deg: float, base_distance_m: float, base_deg: float) -> Height:
    """Height = d₁ sin top − d₂ sin base, distances along both lines of sight (a range finder). No lean error,
    no near limit.

    Distances 1 to 300 m, angles −60 to 89 degrees. Raises OutOfRangeError.
    Source: Bragg (2008), Southern Journal of Applied Forestry 32:38-43.
    >>> round(height_by_sine(32, 50, 20.5, -6).height_m, 5)
    26.65626
    """
    far = require_between("top_distance_m", top_distance_m, 1, 300, "m")
    near = require_between("base_distance_m", base_distance_m, 1, 300, "m")
    top, base = _top_and_base(top_deg, base_deg, steepest=89)

    def height(read: Sequence[float]) -> float:
        d1, up, d2, down = read
        return d1 * math.sin(math.radians(up)) - d2 * math.sin(math.radians(down))

    errors = (far * DISTANCE_ERROR_SHARE, ANGLE_ERROR_DEG, near * DISTANCE_ERROR_SHARE, ANGLE_ERROR_DEG)
    return _height(height, (far, top, near, base), errors, too_near=False)


def height_by_stick(distance_m: float, stick_cm: float, arm_cm: float) -> Height:
    """Similar triangles: a stick of that length, held upright at arm's length, just covers the stem: distance
    × stick / arm.

    distance_m: eye to stem, 1 to 300 m; stick_cm: what it covers, 5 to 200 cm; arm_cm: eye to stick, 20 to
    100 cm. The stick
    must be parallel to the stem. Raises OutOfRangeError. Source: plane geometry.
    >>> height_by_stick(20, 60, 60).height_m
    20.0
    """
    read = (
        require_between("distance_m", distance_m, 1, 300, "m"),
        require_between("stick_cm", stick_cm, 5, 200, "cm"),
        require_between("arm_cm", arm_cm, 20, 100, "cm"),
    )
    errors = (read[0] * DISTANCE_ERROR_SHARE, read[1] * STICK_ERROR_SHARE, read[2] * STICK_ERROR_SHARE)
    return _height(lambda r: r[0] * r[1] / r[2], read, errors, too_near=read[1] > read[2])


def height_with_pole(pole_m: float, top_deg: float, pole_deg: float, base_deg: float) -> Height:
    """A pole of known length at the stem gives the scale: pole × (tan top − tan base) / (tan pole − tan
    base). No distance needed.

    pole_m: 1 to 20 m; angles to the top of the stem, the top of the pole and the base. Raises
    OutOfRangeError.
    Source: plane trigonometry.
    >>> round(height_with_pole(4, 42, 7, -5).height_m, 5)
    18.79255
    """
    pole = require_between("pole_m", pole_m, 1, 20, "m")
    top, base = _top_and_base(top_deg, base_deg)
    middle = require_between("pole_deg", pole_deg, -60, 85, "degrees")
    if not base < middle <= top:
        raise OutOfRangeError(
            "pole_deg", pole_deg, f"an angle between the base ({base:g}) and the top ({top:g} degrees)"
        )

    def height(read: Sequence[float]) -> float:
        up, mid, down = (math.tan(math.radians(a)) for a in read)
        return pole * (up - down) / (mid - down)

    return _height(height, (top, middle, base), (ANGLE_ERROR_DEG,) * 3, top > STEEP_DEG)


def height_from_two_stations(
    apart_m: float, near_top_deg: float, near_base_deg: float, far_top_deg: float, far_base_deg: float
) -> Height:
    """Height from two stations in line with the stem, a level distance apart, without the way to the stem.

    With n and f the sums tan top − tan base of the nearer and the farther station the near distance is
    apart × f / (n − f), and the height that times n. apart_m: 1 to 200 m; angles −60 to 85 degrees. Raises
    OutOfRangeError. Source: plane trigonometry.
    >>> round(height_from_two_stations(12, 48, -4, 33, -2.5).height_m, 5)
    20.14138
    """
    apart = require_between("apart_m", apart_m, 1, 200, "m")
    near = _top_and_base(near_top_deg, near_base_deg)
    far = _top_and_base(far_top_deg, far_base_deg)
    if _spread(*far) >= _spread(*near):
        raise OutOfRangeError(
            "far_top_deg", far_top_deg, "angles that open less than those of the nearer station"
        )

    def height(read: Sequence[float]) -> float:
        n, f = _spread(read[1], read[2]), _spread(read[3], read[4])
        return read[0] * f / (n - f) * n

    errors = (apart * DISTANCE_ERROR_SHARE, *(ANGLE_ERROR_DEG,) * 4)
    return _height(height, (apart, *near, *far), errors, near[0] > STEEP_DEG)


def _spread(top_deg: float, base_deg: float) -> float:
    return math.tan(math.radians(top_deg)) - math.tan(math.radians(base_deg))


def length_with_offset(vertical_m: float, offset_m: float) -> Height:
    """Length of a leaning stem whose tip stands that far off its base, level: √(height² + offset²).

    error_m: from 1 % in both. Raises OutOfRangeError. Source: plane geometry.
    >>> round(length_with_offset(18, 5).height_m, 5)
    18.68154
    """
    read = (
        require_between("height_m", vertical_m, 0.1, TALLEST_M, "m"),
        require_between("offset_m", offset_m, 0, 100, "m"),
    )
    errors = tuple(value * DISTANCE_ERROR_SHARE for value in read)
    return _height(lambda r: math.hypot(*r), read, errors, too_near=False)


def read_off_error(height_m: float, method: str) -> float | None:
    """Error in m of a height that is one figure: by eye 15 %, by an instrument 3 %; None for other ways.

    Common practice: heights judged by eye miss by 10 to 15 %; the wider is taken.
    """
    share = {"estimated": BY_EYE_SHARE, "instrument": INSTRUMENT_SHARE}.get(method)
    return None if share is None else height_m * share


def _top_and_base(top_deg: float, base_deg: float, steepest: float = 85) -> tuple[float, float]:
    top = require_between("top_deg", top_deg, -60, steepest, "degrees")
    base = require_between("base_deg", base_deg, -60, steepest, "degrees")
    if top <= base:
        raise OutOfRangeError("top_deg", top_deg, f"an angle above the base angle of {base:g} degrees")
    return top, base


def _height(
    of: Callable[[Sequence[float]], float], read: Sequence[float], errors: Sequence[float], too_near: bool
) -> Height:
    """The figure of the readings with its first-order error: slopes by central differences of a thousandth of
    each error.
    """
    value = of(read)
    if not 0.1 <= value <= TALLEST_M:
        raise OutOfRangeError("height_m", round(value, 1), f"a height from 0.1 to {TALLEST_M:g} m")
    terms = []
    for i, error in enumerate(errors):
        step = error / 1000
        up, down = ([*read[:i], read[i] + sign * step, *read[i + 1 :]] for sign in (1, -1))
        terms.append(
            (of(up) - of(down)) * 500
        )  # slope × error: the step is a thousandth of it, and there are two
    return Height(value, math.hypot(*terms), too_near)
