"""By what rule the season was set for an answer, and where that rule leaves its range."""

from __future__ import annotations

from typing import Any

from jubark_core.season.windows import ELEVATION_REACH_M, LAT_REACH, MOST_DAYS, REFERENCE, Place, shift_days


def season_summary(place: Place, measured: bool, under_glass: bool) -> dict[str, Any]:
    """{rule, days, note}: degree_days, hopkins, reference or none; days of spring against the reference
    place; what to mind.
    """
    if under_glass:
        return {
            "rule": "none",
            "days": 0.0,
            "note": "Under glass the season outside says little: dates are the reference place's.",
        }
    if place.lat is None:
        return {
            "rule": "reference",
            "days": 0.0,
            "note": "No place is given: dates are those of 40.5° N, 79.3° W, 310 m.",
        }
    days, wider = shift_days("leaf_out", REFERENCE, place)
    notes = []
    if wider:
        notes.append(
            f"The place lies more than {LAT_REACH:g}° or {ELEVATION_REACH_M:g} m from the reference "
            "place: windows are widened."
        )
    if abs(days) >= MOST_DAYS:
        notes.append("The shift is clamped to two months.")
    if measured:
        notes.append("Spring dates are by degree days from the temperatures given.")
    return {"rule": "degree_days" if measured else "hopkins", "days": days, "note": " ".join(notes)}
