"""Conversions between the units people enter and the SI units that are stored.

International foot and inch: 0.3048 m and 2.54 cm by definition (international yard and pound agreement,
1959).
"""

CM_PER_INCH = 2.54
M_PER_FOOT = 0.3048


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
