"""One measurement from its raw readings: what was typed in, to the figure that is stored."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.records.bodies import Measurement
from jubark_core.records.fields import fields_of, read_as
from jubark_core.records.quantities import QUANTITIES, Quantity
from jubark_core.records.readings import Angles, Pole, Readings, Sine, Stick, TwoStations
from jubark_core.size.crown import crown_spread, percent_class, spread_from_radii
from jubark_core.size.diameter import (
    COMBINE,
    counted,
    diameter_from_callipers,
    diameter_from_girth,
)
from jubark_core.size.growth import rings_per_cm
from jubark_core.size.height import (
    Height,
    angle_in_degrees,
    height_by_sine,
    height_by_stick,
    height_from_angles,
    height_from_two_stations,
    height_with_pole,
    length_with_offset,
    read_off_error,
)

OF_ONE_STEM = tuple(name for name, q in QUANTITIES.items() if "diameters_cm" in q.readings)
TOO_NEAR = (
    "The top angle is over 45 degrees: half a degree is {error:.1f} m here. Stand farther off if you can."
)
STICK_STEEP = (
    "The stick is longer than the arm: you stand nearer than the stem is high, and the error "
    "is {error:.1f} m. Stand farther off if you can."
)


def compute(
    quantity: str,
    raw: Any,
    combine: str = "squares",
    least_cm: float = 0.0,
    callipers: str = "geometric",
    method: str = "",
) -> dict[str, Any]:
    """The figure of a measurement.

    quantity: one of QUANTITIES. raw: readings as `Readings` describes them, by exactly one method of those
    the
    quantity can be computed from. combine: rule for several stems. least_cm: thinner stems are counted, not
    measured. callipers: geometric or arithmetic mean of the two readings. method: how it was taken; a height
    that is one figure has its error from it.
    Where every stem is thinner than the least, none is passed off as measured: value 0, stems 0. Returns
    {"value", "unit", "stems", "thinner"?, "error_m"?, "warning"?}. Raises InputError naming the
    field.
    """
    require_one_of("quantity", quantity, QUANTITIES)
    require_one_of("combine", combine, COMBINE)
    require_between("least_cm", least_cm, 0, 100, "cm")
    require_one_of("callipers", callipers, ("geometric", "arithmetic"))
    what = QUANTITIES[quantity]
    readings = read_as(Readings, "raw", raw, {})
    reading = next(name for name in fields_of(Readings) if getattr(readings, name) not in (None, ()))
    if reading not in what.readings:
        raise InputError(
            f"raw.{reading}", quantity, f"{quantity} is computed from {', '.join(what.readings)}"
        )
    found = {"unit": what.unit, "stems": 1, **_figure(quantity, what, readings, callipers)}
    if "each" in found:
        found |= _of_stems(found.pop("each"), combine, least_cm)
        if not found["stems"]:
            return found
    if quantity == "height_m" and "error_m" not in found:
        error = read_off_error(found["value"], method)
        found |= {} if error is None else {"error_m": error}
    return {**found, "value": require_between(quantity, found["value"], what.low, what.high, what.unit)}


def _figure(quantity: str, what: Quantity, readings: Readings, callipers: str) -> dict[str, Any]:
    """The value, or under `each` one diameter for each stem."""
    if readings.value is not None:
        value = require_between(quantity, readings.value, what.low, what.high, what.unit)
        if quantity in OF_ONE_STEM:
            return {"each": [value]}
        return {"value": float(percent_class(value)) if what.unit == "%" else value}
    if readings.core is not None:
        return {"value": rings_per_cm(readings.core.rings, readings.core.core_cm)}
    if readings.radii_m:
        return {"value": spread_from_radii(readings.radii_m)}
    if readings.spreads_m:
        return {"value": crown_spread(readings.spreads_m)}
    if readings.leaning is not None:
        length = length_with_offset(readings.leaning.height_m, readings.leaning.offset_m)
        return {"value": length.height_m, "error_m": length.error_m}
    sighted = readings.angles or readings.sine or readings.two_stations or readings.stick or readings.pole
    if sighted is not None:
        return _height(sighted)
    return {
        "each": [
            *readings.diameters_cm,
            *(diameter_from_girth(c) for c in readings.circumferences_cm),
            *(diameter_from_callipers(a, b, callipers) for a, b in readings.callipers_cm),
        ]
    }


def stems_of(m: Measurement) -> list[float]:
    """The diameter in cm of every stem that was measured, thinner ones left out."""
    what = QUANTITIES[m.quantity]
    each = _figure(m.quantity, what, m.raw, "geometric").get("each", [m.value])
    return counted(each, m.least_cm)[0]


def _of_stems(diameters_cm: list[float], combine: str, least_cm: float) -> dict[str, Any]:
    measured, thinner = counted(diameters_cm, least_cm)
    found = {"value": COMBINE[combine](measured) if measured else 0.0, "stems": len(measured)}
    return {**found, "thinner": thinner} if thinner else found


def _height(sighted: Angles | Sine | TwoStations | Stick | Pole) -> dict[str, Any]:
    if isinstance(sighted, Stick):
        found = height_by_stick(sighted.distance_m, sighted.stick_cm, sighted.arm_cm)
    else:
        found = _HEIGHTS[type(sighted)](sighted, lambda angle: angle_in_degrees(angle, sighted.angle_unit))
    result: dict[str, Any] = {"value": found.height_m, "error_m": found.error_m}
    if found.too_near:
        warning = STICK_STEEP if isinstance(sighted, Stick) else TOO_NEAR
        result["warning"] = warning.format(error=found.error_m)
    return result


_HEIGHTS: dict[type, Callable[[Any, Callable[[float], float]], Height]] = {
    Angles: lambda a, deg: height_from_angles(
        a.distance_m, deg(a.top), deg(a.base), a.slope_distance, a.toward_m
    ),
    Sine: lambda a, deg: height_by_sine(a.top_distance_m, deg(a.top), a.base_distance_m, deg(a.base)),
    TwoStations: lambda a, deg: height_from_two_stations(
        a.apart_m, deg(a.near_top), deg(a.near_base), deg(a.far_top), deg(a.far_base)
    ),
    Pole: lambda a, deg: height_with_pole(a.pole_m, deg(a.top), deg(a.pole), deg(a.base)),
}
