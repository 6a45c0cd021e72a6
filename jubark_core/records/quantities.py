"""Every quantity that is measured: one row each. A new one costs a row here."""

from __future__ import annotations

from dataclasses import dataclass

LARGEST_CM = 1500.0  # wider than any stem measured at breast height
TALLEST_M = 130.0  # taller than any tree measured
OF_STEMS = ("value", "diameters_cm", "circumferences_cm", "callipers_cm")


@dataclass(frozen=True)
class Quantity:
    """A measured quantity.

    unit: SI, as stored. customary: what it is entered and shown in on a site with US customary units.
    readings: fields of Readings it can be computed from. step: the step of Survey that asks for it; empty:
    none
    does. current: the column of current values that holds the newest; empty: none. in_leaf: judged in leaf
    only.
    """

    label: str
    meaning: str
    unit: str
    low: float
    high: float
    customary: str
    readings: tuple[str, ...]
    step: str
    current: str = ""
    in_leaf: bool = False


QUANTITIES = {
    "dbh_cm": Quantity(
        "Diameter",
        "Diameter over bark at breast height.",
        "cm",
        0.1,
        LARGEST_CM,
        "in",
        OF_STEMS,
        "diameter",
        current="dbh_cm",
    ),
    "drc_cm": Quantity(
        "Diameter at the root collar",
        "Diameter just above the root flare; not comparable with one at breast height.",
        "cm",
        0.1,
        LARGEST_CM,
        "in",
        OF_STEMS,
        "diameter",
    ),
    "buttress_cm": Quantity(
        "Diameter above the buttress",
        "Diameter just above the root buttress, for the structural root zone.",
        "cm",
        0.1,
        LARGEST_CM,
        "in",
        OF_STEMS,
        "diameter",
    ),
    "height_m": Quantity(
        "Height",
        "From the ground at the stem to the highest live or dead tip.",
        "m",
        0.1,
        TALLEST_M,
        "ft",
        ("value", "angles", "sine", "two_stations", "stick", "pole"),
        "height",
        current="height_m",
    ),
    "stem_length_m": Quantity(
        "Length of the stem",
        "Along a leaning or lying stem, from its base to its tip; its height is a figure of its own.",
        "m",
        0.1,
        TALLEST_M,
        "ft",
        ("value", "leaning"),
        "height",
    ),
    "crown_spread_m": Quantity(
        "Crown spread",
        "Mean diameter of the crown seen from above.",
        "m",
        0.1,
        80.0,
        "ft",
        ("value", "radii_m", "spreads_m"),
        "crown",
        current="crown_spread_m",
    ),
    "crown_base_m": Quantity(
        "Base of the live crown",
        "From the ground to the lowest live branch of the crown.",
        "m",
        0.0,
        TALLEST_M,
        "ft",
        ("value",),
        "crown",
    ),
    "transparency_pct": Quantity(
        "Crown transparency",
        "Share of sky seen through the foliage, in steps of five.",
        "%",
        0.0,
        100.0,
        "%",
        ("value",),
        "crown",
        in_leaf=True,
    ),
    "dieback_pct": Quantity(
        "Dieback",
        "Share of the crown whose twigs died from the tips, in steps of five.",
        "%",
        0.0,
        100.0,
        "%",
        ("value",),
        "crown",
        in_leaf=True,
    ),
    "rings_per_cm": Quantity(
        "Rings of a core",
        "Rings to the centimetre of radius, on an increment core.",
        "/cm",
        0.01,
        1000.0,
        "/cm",
        ("value", "core"),
        "diameter",
    ),
}
