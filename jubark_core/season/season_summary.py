"""By what calendar the season was set for an answer, and what is rough about it."""

from __future__ import annotations

from typing import Any

from jubark_core.season.calendars import HOME, calendars, carrier, region_of, spring_shift_days
from jubark_core.season.place import Place

ROUGH = "Dates are rough here: no calendar of this region is held."


def season_summary(place: Place, measured: bool, under_glass: bool) -> dict[str, Any]:
    """{rule, region, anchor, days, rough, error_days, note}: degree_days, calendar, reference or none;
    `days` by which spring is later than at the anchor; what to mind.
    """
    region, anchor = region_of(place)
    found: dict[str, Any] = {
        "rule": "calendar",
        "region": region.id,
        "anchor": anchor.id,
        "rough": region.rough,
    }
    if under_glass:
        note = "Under glass the season outside says little: dates are those they were written for."
        return found | {"rule": "none", "days": 0.0, "error_days": calendars().error["own"], "note": note}
    if place.lat is None:
        note = f"No place is given: dates are those of {calendars().anchors[HOME].name}."
        return found | {
            "rule": "reference",
            "days": 0.0,
            "error_days": calendars().error["own"],
            "note": note,
        }
    carry = carrier(HOME, place)
    notes = [ROUGH] if region.rough else []
    if carry.wider:
        notes.append(
            f"The place is far from where dates are held: they are about {carry.wider:.0f} days wider."
        )
    if carry.no_rest:
        notes.append("Winters are so mild here that leaf fall and bud burst can meet.")
    if measured:
        notes.append("Spring dates are by degree days from the temperatures given.")
    return found | {
        "rule": "degree_days" if measured else "calendar",
        "days": spring_shift_days(place),
        "error_days": calendars().error["rough" if region.rough else "own" if carry.own else "carried"],
        "note": " ".join(notes),
    }
