"""Conversions between the units people enter and the SI units that are stored.

International foot, inch, acre and pound: 0.3048 m, 2.54 cm, 4046.8564224 m² and 0.45359237 kg by definition
(international yard and pound agreement, 1959; NIST SP 811, appendix B; the US survey foot went out of use at
the end of 2022).
"""

from __future__ import annotations

from dataclasses import dataclass

CM_PER_INCH = 2.54
M_PER_FOOT = 0.3048
HA_PER_ACRE = 0.40468564224
KG_PER_POUND = 0.45359237
SYSTEMS = ("metric", "us_customary")


@dataclass(frozen=True)
class Unit:
    """A unit in which figures are entered and shown. per: SI units in one of it; places: decimals shown."""

    label: str
    per: float
    places: int


METRIC = {
    "cm": Unit("cm", 1.0, 1),
    "m": Unit("m", 1.0, 1),
    "m2": Unit("m²", 1.0, 1),
    "m3": Unit("m³", 1.0, 0),
    "ha": Unit("ha", 1.0, 2),
    "m2_per_ha": Unit("m²/ha", 1.0, 1),
    "per_ha": Unit("per ha", 1.0, 0),
    "kg": Unit("kg", 1.0, 0),
}
CUSTOMARY = {
    "cm": Unit("in", CM_PER_INCH, 1),
    "m": Unit("ft", M_PER_FOOT, 1),
    "m2": Unit("ft²", M_PER_FOOT**2, 0),
    "m3": Unit("ft³", M_PER_FOOT**3, 0),
    "ha": Unit("acres", HA_PER_ACRE, 2),
    "m2_per_ha": Unit("ft²/acre", M_PER_FOOT**2 / HA_PER_ACRE, 1),
    "per_ha": Unit("per acre", 1 / HA_PER_ACRE, 0),
    "kg": Unit("lb", KG_PER_POUND, 0),
}


def unit_of(si: str, system: str = "metric") -> Unit:
    """The unit in which a system shows what is stored in an SI unit; one that both share is itself."""
    known = CUSTOMARY if system == "us_customary" else METRIC
    return known.get(si, Unit(si, 1.0, 1))


def shown(value: float, si: str, system: str = "metric", places: int | None = None) -> str:
    """A figure with its unit as the system shows it.

    >>> shown(31.496, "cm", "us_customary"), shown(31.496, "cm"), shown(30.48, "m", "us_customary", 0)
    ('12.4 in', '31.5 cm', '100 ft')
    """
    unit = unit_of(si, system)
    return f"{value / unit.per:.{unit.places if places is None else places}f} {unit.label}"


def inches_to_cm(inches: float) -> float:
    """Inches to centimetres, exact by definition."""
    return inches * CM_PER_INCH


def cm_to_inches(cm: float) -> float:
    """Centimetres to inches, exact by definition."""
    return cm / CM_PER_INCH


def feet_to_m(feet: float) -> float:
    """Feet to metres, exact by definition."""
    return feet * M_PER_FOOT


def m_to_feet(m: float) -> float:
    """Metres to feet, exact by definition."""
    return m / M_PER_FOOT
