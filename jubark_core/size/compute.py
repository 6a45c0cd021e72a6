"""One measurement from its raw readings: what the crew typed in, to the figure that is stored."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.size.crown import crown_spread, percent_class, spread_from_radii
from jubark_core.size.diameter import (
    COMBINE,
    LARGEST_CM,
    counted,
    diameter_from_callipers,
    diameter_from_girth,
)
from jubark_core.size.growth import rings_per_cm
from jubark_core.size.height import (
    TALLEST_M,
    Height,
    angle_in_degrees,
    height_by_sine,
    height_by_stick,
    height_from_angles,
    height_with_pole,
)

# quantity -> least, most, unit. drc_cm: at the root collar; buttress_cm: just above the root buttress;
# neither is a dbh.
QUANTITIES = {
    "dbh_cm": (0.1, LARGEST_CM, "cm"),
    "drc_cm": (0.1, LARGEST_CM, "cm"),
    "buttress_cm": (0.1, LARGEST_CM, "cm"),
    "height_m": (0.1, TALLEST_M, "m"),
    "crown_spread_m": (0.1, 80.0, "m"),
    "crown_base_m": (0.0, TALLEST_M, "m"),
    "transparency_pct": (0.0, 100.0, "%"),
    "dieback_pct": (0.0, 100.0, "%"),
    "rings_per_cm": (0.01, 1000.0, "/cm"),
}
DIAMETERS = ("dbh_cm", "drc_cm", "buttress_cm")
SHOOTS = ("diameters_cm", "girths_cm", "callipers_cm")
READINGS = ("value", *SHOOTS, "angles", "sine", "stick", "pole", "radii_m", "spreads_m", "core")
TOO_NEAR = (
    "The top angle is over 45 degrees: half a degree is {error:.1f} m here. Stand farther off if you can."
)
STICK_STEEP = (
    "The stick is longer than the arm: you stand nearer than the stem is high, and the error "
    "is {error:.1f} m. Stand farther off if you can."
)


def compute(
    quantity: str,
    raw: dict[str, Any],
    combine: str = "squares",
    least_cm: float = 0.0,
    callipers: str = "geometric",
) -> dict[str, Any]:
    """The figure of a measurement.

    quantity: one of QUANTITIES. raw: exactly one of `value`; `diameters_cm`, `girths_cm` or `callipers_cm` (a
    list, one entry per
    shoot, the last of pairs; diameters only); `angles` {distance_m, top, base, angle_unit?, slope_distance?,
    toward_m?}; `sine`
    {top_distance_m, top, base_distance_m, base, angle_unit?}; `stick` {distance_m, stick_cm, arm_cm}; `pole`
    {pole_m, top, pole,
    base, angle_unit?} (height only; `top_deg` and `base_deg` are read as degrees); `radii_m` or `spreads_m`
    (crown spread only);
    `core` {rings, core_cm} (rings_per_cm only).
    combine: rule for several shoots. least_cm: shoots thinner than this are counted, not measured. callipers:
    geometric or arithmetic mean.
    Returns {"value", "unit", "shoots", "thinner"?, "error_m"?, "warning"?}. Raises InputError naming the
    field.
    """
    require_one_of("quantity", quantity, QUANTITIES)
    if not isinstance(raw, dict):
        raise InputError("raw", raw, "an object with one of " + ", ".join(READINGS))
    given = [key for key in READINGS if key in raw]
    if len(given) != 1 or set(raw) != set(given):
        raise InputError("raw", sorted(raw), "exactly one of " + ", ".join(READINGS))
    key, read = given[0], raw[given[0]]
    low, high, unit = QUANTITIES[quantity]
    if key == "value":
        value = require_between(quantity, read, low, high, unit)
        return {"value": float(percent_class(value)) if unit == "%" else value, "unit": unit, "shoots": 1}
    if key in HEIGHTS:
        return _height(quantity, key, read)
    if key == "core":
        if quantity != "rings_per_cm" or not isinstance(read, dict) or set(read) != {"rings", "core_cm"}:
            raise InputError("raw.core", read, "rings and core_cm, for rings_per_cm")
        return {"value": rings_per_cm(read["rings"], read["core_cm"]), "unit": unit, "shoots": 1}
    if key in ("radii_m", "spreads_m"):
        if quantity != "crown_spread_m":
            raise InputError(f"raw.{key}", quantity, "only crown_spread_m is taken from radii and spreads")
        if not isinstance(read, list) or len(read) > 50:
            raise InputError(f"raw.{key}", read, "a list of 2 to 50 readings in m")
        return {
            "value": (spread_from_radii if key == "radii_m" else crown_spread)(read),
            "unit": "m",
            "shoots": 1,
        }
    return _from_shoots(quantity, key, read, combine, least_cm, callipers)


def _from_shoots(
    quantity: str, key: str, readings: Any, combine: str, least_cm: float, callipers: str
) -> dict[str, Any]:
    if quantity not in DIAMETERS:
        raise InputError(f"raw.{key}", quantity, "only a diameter is taken from shoots")
    require_one_of("combine", combine, COMBINE)
    require_one_of("callipers", callipers, ("geometric", "arithmetic"))
    if not isinstance(readings, list) or not 1 <= len(readings) <= 50:
        raise InputError(f"raw.{key}", readings, "a list of 1 to 50 readings in cm")
    if key == "girths_cm":
        diameters = [diameter_from_girth(g) for g in readings]
    elif key == "callipers_cm":
        if not all(isinstance(pair, list) and len(pair) == 2 for pair in readings):
            raise InputError("raw.callipers_cm", readings, "pairs of readings at right angles, in cm")
        diameters = [diameter_from_callipers(a, b, callipers) for a, b in readings]
    else:
        diameters = [
            require_between(f"dbh_cm[{i}]", d, 0.1, LARGEST_CM, "cm") for i, d in enumerate(readings)
        ]
    measured, thinner = counted(diameters, require_between("least_cm", least_cm, 0, 100, "cm"))
    value = COMBINE[combine](measured or [max(diameters)])
    found = {
        "value": require_between(quantity, value, 0.1, LARGEST_CM, "cm"),
        "unit": "cm",
        "shoots": max(1, len(measured)),
    }
    return {**found, "thinner": thinner} if thinner else found


def _by_angles(a: dict[str, Any]) -> Height:
    return height_from_angles(
        a["distance_m"], a["top"], a["base"], bool(a.get("slope_distance")), a.get("toward_m", 0.0)
    )


# reading -> (fields that are needed, fields that may be there, the method)
HEIGHTS: dict[str, tuple[set[str], set[str], Callable[[dict[str, Any]], Height]]] = {
    "angles": ({"distance_m", "top", "base"}, {"angle_unit", "slope_distance", "toward_m"}, _by_angles),
    "sine": (
        {"top_distance_m", "top", "base_distance_m", "base"},
        {"angle_unit"},
        lambda a: height_by_sine(a["top_distance_m"], a["top"], a["base_distance_m"], a["base"]),
    ),
    "stick": (
        {"distance_m", "stick_cm", "arm_cm"},
        set(),
        lambda a: height_by_stick(a["distance_m"], a["stick_cm"], a["arm_cm"]),
    ),
    "pole": (
        {"pole_m", "top", "pole", "base"},
        {"angle_unit"},
        lambda a: height_with_pole(a["pole_m"], a["top"], a["pole"], a["base"]),
    ),
}


def _height(quantity: str, key: str, given: Any) -> dict[str, Any]:
    if quantity != "height_m":
        raise InputError(f"raw.{key}", quantity, "only height_m is taken from sightings")
    needed, may, method = HEIGHTS[key]
    read = {k.removesuffix("_deg"): v for k, v in given.items()} if isinstance(given, dict) else {}
    if not isinstance(given, dict) or not needed <= set(read) <= needed | may or len(read) != len(given):
        raise InputError(
            f"raw.{key}",
            given,
            "an object with "
            + ", ".join(sorted(needed))
            + (f", perhaps {', '.join(sorted(may))}" if may else ""),
        )
    unit = read.pop("angle_unit", "degrees")
    for name in ("top", "base", "pole"):
        if name in read:
            read[name] = angle_in_degrees(
                require_between(f"raw.{key}.{name}", read[name], -10_000, 10_000), unit
            )
    found = method(read)
    result: dict[str, Any] = {"value": found.height_m, "unit": "m", "shoots": 1, "error_m": found.error_m}
    if found.too_near:
        result["warning"] = (STICK_STEEP if key == "stick" else TOO_NEAR).format(error=found.error_m)
    return result
