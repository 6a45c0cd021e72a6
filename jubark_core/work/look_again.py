"""Why a tree is looked at again (R40): it is due, a storm went over it, its name is not sure and the day
shows what separates it, its figures do not follow from each other.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from itertools import pairwise
from typing import Any

from jubark_core.checks import require_date
from jubark_core.records.words import OCCUPANCY
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.windows import chance_within, dates, read_window
from jubark_core.size.plausibility import plausibility

# Months between two inspections where the owner has no table: by the rating, else by who is near. UK National
# Tree Safety Group (2011), Common sense risk management of trees, from memory, and common practice.
MONTHS_BY_RATING = {"extreme": 3, "high": 3, "moderate": 12}
MONTHS_BY_OCCUPANCY = {"constant": 18, "frequent": 36, "occasional": 60, "rare": 60}
MONTHS = 60
STORM_DAYS = 30  # a storm asks for a look so long, and within 72 hours
NAME_SURE = 0.8
LOOKS = (("in leaf", read_window("05-01..09-30")), ("leafless", read_window("12-01..03-31")))
FUNGI = read_window("08-01..11-30")  # when most that decay standing trees fruit; common practice
DAYS_A_MONTH = 30.44
DAYS_A_YEAR = 365.25


def inspection_due(raw: dict[str, Any], on: datetime.date, near: Sequence[dict[str, Any]]) -> list[str]:
    """That an inspection is due, in words: on the date that was set, else after the months of the owner's
    table, else after those of rating and targets. near: targets in reach.
    """
    if day := raw.get("next_inspection_on"):
        due = require_date("next_inspection_on", day)
        return [f"set for {due.isoformat()}"] if due <= on else []
    seen = raw.get("last_inspected_on") or raw.get("last_visit_on")
    if not seen:
        return []
    months = months_between(raw, near)
    passed = (on - require_date("last_inspected_on", seen)).days / DAYS_A_MONTH
    return [f"last on {seen}, every {months} months"] if passed >= months else []


def months_between(raw: dict[str, Any], near: Sequence[dict[str, Any]]) -> int:
    """Months between two inspections: of the owner's table, else by rating and targets."""
    if raw.get("inspection_months"):
        return int(raw["inspection_months"])
    rating = (raw.get("risk") or {}).get("rating", "")
    if rating in MONTHS_BY_RATING:
        return MONTHS_BY_RATING[rating]
    busiest = max((t.get("occupancy", "") for t in near if t.get("occupancy")), key=_busy, default="")
    return MONTHS_BY_OCCUPANCY.get(busiest, MONTHS)


def _busy(occupancy: str) -> int:
    return OCCUPANCY.index(occupancy) if occupancy in OCCUPANCY else -1


def after_storm(raw: dict[str, Any], on: datetime.date) -> list[str]:
    """Storms since which nobody has looked at a tree that had defects before."""
    if not raw.get("defects"):
        return []
    seen = require_date("last_visit_on", raw["last_visit_on"]) if raw.get("last_visit_on") else None
    days = [require_date(f"storms_on[{i}]", day) for i, day in enumerate(raw.get("storms_on", []))]
    return [
        day.isoformat()
        for day in sorted(days)
        if 0 <= (on - day).days <= STORM_DAYS and (seen is None or seen < day)
    ]


def name_shows_now(raw: dict[str, Any], probability: float) -> list[str]:
    """Of a name that is not sure: what can be seen now and separates it from the others."""
    return list(raw.get("name_shows_now", [])) if 0 < probability < NAME_SURE else []


def fungus_shows_now(raw: dict[str, Any], on: datetime.date, place: Place) -> list[str]:
    """That a fungus was seen when few fruit, and now is the time when most do: its name decides how the
    wood decays.
    """
    if not raw.get("fungus_seen_on"):
        return []
    seen = require_date("fungus_seen_on", raw["fungus_seen_on"])
    begins, ends, _ = dates(FUNGI, place, on)
    if not begins <= on <= ends or seen >= begins or chance_within(FUNGI, place, day_of_year(seen)) >= 0.5:
        return []
    return [f"seen on {seen.isoformat()}, most fruit until {ends.isoformat()}"]


def other_look(raw: dict[str, Any], on: datetime.date, place: Place, evergreen: bool) -> list[str]:
    """That this look is the other one: in leaf and leafless take turns, as each hides what the other shows.
    None where it was not looked at in either, or never stands leafless.
    """
    seen = raw.get("last_inspected_on") or raw.get("last_visit_on")
    if not seen or evergreen:
        return []
    day = day_of_year(require_date("last_inspected_on", seen))
    for (was, window), (now, other) in (LOOKS, LOOKS[::-1]):
        if chance_within(window, place, day) >= 0.5:
            begins, ends, _ = dates(other, place, on)
            return [f"last looked at {was}: now {now}, from {begins} to {ends}"]
    return []


def doubtful_diameters(raw: dict[str, Any]) -> list[str]:
    """What speaks against the newest diameter after the one before it."""
    rows = sorted(raw.get("diameters", []), key=lambda row: row["on"])
    found = []
    for before, now in list(pairwise(rows))[-1:]:
        days = require_date("diameters.on", now["on"]) - require_date("diameters.on", before["on"])
        if days.days > 0:
            told = plausibility(
                "dbh_cm",
                now["cm"],
                before=before["cm"],
                years=days.days / DAYS_A_YEAR,
                before_at_m=before.get("at_m"),
                now_at_m=now.get("at_m"),
                units="us_customary" if raw.get("units") == "us_customary" else "metric",
            )
            found = told["warnings"]
    return found
