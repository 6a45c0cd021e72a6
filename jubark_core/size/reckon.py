"""One measurement from its raw readings: what the crew typed in, to the figure that is stored."""

from __future__ import annotations

from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.size.diameter import COMBINE, LARGEST_CM, diameter_from_girth
from jubark_core.size.height import TALLEST_M, height_from_angles

QUANTITIES = {"dbh_cm": (0.1, LARGEST_CM, "cm"), "height_m": (0.1, TALLEST_M, "m"), "crown_spread_m": (0.1, 80.0, "m")}
READINGS = ("value", "diameters_cm", "girths_cm", "angles")


def reckon(quantity: str, raw: dict[str, Any], combine: str = "squares") -> dict[str, Any]:
    """The figure of a measurement.

    quantity: dbh_cm, height_m or crown_spread_m. raw: exactly one of `value`; `diameters_cm` or `girths_cm`
    (a list, one per shoot, dbh_cm only); `angles` ({distance_m, top_deg, base_deg, slope_distance?}, height_m only).
    combine: rule for several shoots, `squares` or `largest_plus_half`.
    Returns {"value", "unit", "shoots", "error_m"?, "warning"?}. Raises InputError naming the field.
    """
    require_one_of("quantity", quantity, QUANTITIES)
    if not isinstance(raw, dict):
        raise InputError("raw", raw, "an object with one of " + ", ".join(READINGS))
    given = [key for key in READINGS if key in raw]
    if len(given) != 1 or set(raw) != set(given):
        raise InputError("raw", sorted(raw), "exactly one of " + ", ".join(READINGS))
    low, high, unit = QUANTITIES[quantity]
    if given[0] == "value":
        return {"value": require_between(quantity, raw["value"], low, high, unit), "unit": unit, "shoots": 1}
    if given[0] == "angles":
        return _from_angles(quantity, raw["angles"])
    return _from_shoots(quantity, given[0], raw[given[0]], combine)


def _from_shoots(quantity: str, key: str, readings: Any, combine: str) -> dict[str, Any]:
    if quantity != "dbh_cm":
        raise InputError(f"raw.{key}", quantity, "only dbh_cm is taken from shoots")
    require_one_of("combine", combine, COMBINE)
    if not isinstance(readings, list) or not 1 <= len(readings) <= 50:
        raise InputError(f"raw.{key}", readings, "a list of 1 to 50 readings in cm")
    diameters = [diameter_from_girth(g) for g in readings] if key == "girths_cm" else readings
    value = require_between(quantity, COMBINE[combine](diameters), 0.1, LARGEST_CM, "cm")
    return {"value": value, "unit": "cm", "shoots": len(readings)}


def _from_angles(quantity: str, angles: Any) -> dict[str, Any]:
    keys = {"distance_m", "top_deg", "base_deg", "slope_distance"}
    if quantity != "height_m":
        raise InputError("raw.angles", quantity, "only height_m is taken from angles")
    if not isinstance(angles, dict) or not {"distance_m", "top_deg", "base_deg"} <= set(angles) <= keys:
        raise InputError("raw.angles", angles, "an object with distance_m, top_deg, base_deg and perhaps slope_distance")
    found = height_from_angles(angles["distance_m"], angles["top_deg"], angles["base_deg"], bool(angles.get("slope_distance")))
    result: dict[str, Any] = {"value": found.height_m, "unit": "m", "shoots": 1, "error_m": found.error_m}
    if found.too_near:
        result["warning"] = f"The top angle is over 45 degrees: half a degree is {found.error_m:.1f} m here. Stand farther off if you can."
    return result
