"""What is read off an instrument, by each way of measuring."""

from __future__ import annotations

from dataclasses import dataclass

from jubark_core.records import words as w
from jubark_core.records.fields import Row, described, one_of_its_fields
from jubark_core.records.quantities import LARGEST_CM, TALLEST_M
from jubark_core.records.shapes import Flag, Number, Several, Whole, Word

DIAMETER = Number(0.1, LARGEST_CM, "cm")
DISTANCE = Number(0.0, 1_000, "m")  # each method judges how near and how far it holds
ANGLE = Number(-10_000, 10_000)


@dataclass(frozen=True, kw_only=True)
class Angles:
    """Sightings to top and base from a known distance."""

    distance_m: float = described("Distance (m)", "From the eye to the stem.", DISTANCE)
    top: float = described("Top angle", "From the horizontal up to the top.", ANGLE)
    base: float = described("Base angle", "From the horizontal to the base; below the eye negative.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )
    slope_distance: bool = described(
        "Slope distance", "The distance was taken along the line of sight to the base.", Flag(), False
    )
    toward_m: float = described(
        "Lean toward (m)", "How far the top leans toward the observer.", Number(-100, 100, "m"), 0.0
    )


@dataclass(frozen=True, kw_only=True)
class Sine:
    """Sightings with a range finder: line of sight and angle to top and base."""

    top_distance_m: float = described("Distance to top (m)", "Along the line of sight.", DISTANCE)
    top: float = described("Top angle", "From the horizontal up to the top.", ANGLE)
    base_distance_m: float = described("Distance to base (m)", "Along the line of sight.", DISTANCE)
    base: float = described("Base angle", "From the horizontal to the base; below the eye negative.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )


@dataclass(frozen=True, kw_only=True)
class Stick:
    """Height by a stick held upright at arm's length."""

    distance_m: float = described("Distance (m)", "From the eye to the stem.", DISTANCE)
    stick_cm: float = described("Stick (cm)", "Length of stick that covers the tree.", Number(0, 1000, "cm"))
    arm_cm: float = described("Arm (cm)", "From the eye to the stick.", Number(0, 1000, "cm"))


@dataclass(frozen=True, kw_only=True)
class Pole:
    """Height by a pole of known length that stands at the stem."""

    pole_m: float = described("Pole (m)", "Length of the pole.", Number(0, 100, "m"))
    top: float = described("Top angle", "To the top of the tree.", ANGLE)
    pole: float = described("Pole angle", "To the top of the pole.", ANGLE)
    base: float = described("Base angle", "To the base of both.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )


@dataclass(frozen=True, kw_only=True)
class TwoStations:
    """Sightings from two stations in line with the stem, where the way to it cannot be measured."""

    apart_m: float = described("Stations apart (m)", "Level, in line with the stem.", DISTANCE)
    near_top: float = described("Near top angle", "To the top, from the nearer station.", ANGLE)
    near_base: float = described("Near base angle", "To the base; below the eye negative.", ANGLE)
    far_top: float = described("Far top angle", "To the top, from the farther station.", ANGLE)
    far_base: float = described("Far base angle", "To the base; below the eye negative.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )


@dataclass(frozen=True, kw_only=True)
class Leaning:
    """A leaning stem by its vertical height and how far its tip stands off its base."""

    height_m: float = described(
        "Vertical height (m)", "From the ground to the tip.", Number(0, TALLEST_M, "m")
    )
    offset_m: float = described(
        "Offset of the tip (m)", "From the base to below the tip, level.", Number(0, 100, "m")
    )


@dataclass(frozen=True, kw_only=True)
class Core:
    """Rings counted on an increment core."""

    rings: int = described("Rings", "Number of rings counted.", Whole(0, 10_000))
    core_cm: float = described(
        "Core length (cm)", "Length on which they were counted.", Number(0, 1000, "cm")
    )


@one_of_its_fields
@dataclass(frozen=True, kw_only=True)
class Readings:
    """What was read off the instrument, by exactly one method."""

    value: float | None = described("Value", "The figure itself, read or estimated.", Number(0, 10_000), None)
    diameters_cm: tuple[float, ...] = described(
        "Diameters (cm)", "By diameter tape, one for each stem.", Several(DIAMETER, 50), ()
    )
    circumferences_cm: tuple[float, ...] = described(
        "Circumferences (cm)",
        "By plain tape, one for each stem.",
        Several(Number(0.1, 4712.4, "cm"), 50),
        (),
        since=2,
    )
    callipers_cm: tuple[tuple[float, float], ...] = described(
        "Callipers (cm)",
        "Two diameters at right angles for each stem.",
        Several(Several(DIAMETER, 2, 2), 50),
        (),
    )
    angles: Angles | None = described("Angles and distance", "To top and base.", Row(Angles), None)
    sine: Sine | None = described("Range finder", "Lines of sight to top and base.", Row(Sine), None)
    two_stations: TwoStations | None = described(
        "Two stations", "In line with the stem.", Row(TwoStations), None, since=4
    )
    leaning: Leaning | None = described(
        "Height and offset", "Of a leaning stem.", Row(Leaning), None, since=4
    )
    stick: Stick | None = described("Stick", "At arm's length.", Row(Stick), None)
    pole: Pole | None = described("Pole", "At the stem.", Row(Pole), None)
    radii_m: tuple[float, ...] = described(
        "Radii (m)", "From the stem to the crown's edge, at even angles.", Several(Number(0, 80, "m"), 50), ()
    )
    spreads_m: tuple[float, ...] = described(
        "Spreads (m)",
        "Through the crown: the longest, and the one square to it.",
        Several(Number(0, 80, "m"), 50),
        (),
    )
    core: Core | None = described("Core", "Rings on a length.", Row(Core), None)
