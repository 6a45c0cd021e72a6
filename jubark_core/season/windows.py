"""When each organ of a taxon can be seen at a place, by Hopkins' rule from its reference place.

Hopkins, A. D. (1918), Periodical events and natural law as guides to agricultural research and practice,
Monthly Weather Review Supplement 9: in temperate North America spring events fall 4 days later for each
degree of latitude north, 5 degrees of longitude east and 400 ft up; autumn events reversed.
Values from memory; checked against worked examples. A record of temperatures, where one is given,
dates the spring events instead (degree_days.py).
"""

from __future__ import annotations

import datetime
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from jubark_core.units import m_to_feet

YEAR = 365
SPRING = {"bud_burst", "leaf_out", "flower", "fruit_set"}
EDGE_DAYS = 10.0  # a window's edge is soft over this many days: years and plants differ
LAT_REACH, ELEVATION_REACH_M = (
    6.0,
    600.0,
)  # beyond this from the reference place the rule is widened and said so
FLUSH_DAYS = 14.0  # a leaf that is out still grows for about two weeks (common practice)
COLD_DAYS = 150.0  # evergreens are bronzed from some five months before bud burst (common practice)
BUD_SET_DAYS = 80.0  # from leaf-out to finished buds on an evergreen (common practice)
MOST_DAYS = 60.0  # no shift is believed beyond two months: there the rule is clamped
REFERENCE = {"lat": 40.5, "lon": -79.3, "elevation_m": 310}
ALWAYS = (1.0, 365.0)
FRUIT_KINDS = ("fruit_forming", "fruit_ripe", "fruit_hanging")

BETWEEN = {
    "leaf_on": ("bud_burst", "fall"),
    "leaf_flush": ("bud_burst", "leaf_out"),
    "leaf_fall": ("fall", "bud_burst"),
    "winter_cold": ("bud_burst", "bud_burst"),
    "bud_set": ("leaf_out", "bud_burst"),
    "catkins_formed": ("leaf_out", "bud_burst"),
    "autumn_colour": ("fall", "fall"),
    "flowering": ("flower_from", "flower_to"),
    "fruit_forming": ("fruit_set", "ripe_from"),
    "fruit_ripe": ("ripe_from", "ripe_to"),
    "fruit_hanging": ("ripe_from", "fruit_hangs_until"),
}

SpringDate = Callable[[float], float]  # day of the reference year -> day of this year at the station


@dataclass(frozen=True)
class Place:
    """lat, lon in degrees (north and east positive), elevation in metres; any may be unknown."""

    lat: float | None = None
    lon: float | None = None
    elevation_m: float | None = None


def hopkins_days(dlat: float, dlon: float, dfeet: float, autumn: bool = False) -> float:
    """Days later (+) than at the reference: 4 per degree north, per 5 degrees east, per 400 ft; autumn
    reversed.
    """
    days = 4 * dlat + 4 * dlon / 5 + 4 * dfeet / 400
    return -days if autumn else days


def shift_days(event: str, reference: dict[str, float], place: Place) -> tuple[float, float]:
    """(days to add to the reference date, days by which the window's edges are widened).

    The longitude term is used in temperate North America only; south of the equator the latitude counts
    by its size and the year is turned by half (done by the caller). Beyond 6 degrees or 600 m from the
    reference place a degree beyond widens by 2 days and 100 m beyond by 2; shifts are clamped to two months.
    """
    if place.lat is None:
        return 0.0, 0.0
    dlat = abs(place.lat) - abs(reference["lat"])
    in_north_america = place.lon is not None and -170 <= place.lon <= -50 and place.lat > 0
    dlon = (place.lon - reference["lon"]) if in_north_america and place.lon is not None else 0.0
    rise_m = 0.0 if place.elevation_m is None else place.elevation_m - reference["elevation_m"]
    wider = 2 * max(0.0, abs(dlat) - LAT_REACH) + 2 * max(0.0, abs(rise_m) - ELEVATION_REACH_M) / 100
    days = hopkins_days(dlat, dlon, m_to_feet(rise_m), autumn=event not in SPRING)
    return max(-MOST_DAYS, min(MOST_DAYS, days)), wider


def event_days(
    taxon: dict[str, Any], place: Place, spring: SpringDate | None = None, under_glass: bool = False
) -> dict[str, float]:
    """Day of year (1..365) of every event at the place; flower and ripe give `_from` and `_to`; `edge`:
    softness in days.

    spring: dates spring events from a temperature record instead of the rule. Taxa whose rhythm the cold does
    not drive (`rhythm = "none"`), and plants under glass, are not shifted.
    """
    reference = taxon.get("reference") or REFERENCE
    still = under_glass or taxon.get("rhythm") == "none"
    half_turn = YEAR / 2 if place.lat is not None and (place.lat < 0) != (reference["lat"] < 0) else 0.0
    early, wider = (0.0, 0.0) if still else shift_days("leaf_out", reference, place)
    late = 0.0 if still else shift_days("fall", reference, place)[0]
    days: dict[str, float] = {"edge": EDGE_DAYS + wider}
    for event, value in taxon.get("phenology", {}).items():
        shift = half_turn + (early if event in SPRING else late)
        by_warmth = spring if event in SPRING and not still else None
        dates = value if isinstance(value, list) else [value]
        names = (event + "_from", event + "_to") if isinstance(value, list) else (event,)
        for name, day in zip(names, dates, strict=True):
            days[name] = _wrap(by_warmth(day) + half_turn if by_warmth else day + shift)
    return days


def _wrap(day: float) -> float:
    return (day - 1) % YEAR + 1


def within(day: float, start: float, end: float, edge: float = EDGE_DAYS) -> float:
    """Chance 0..1 that `day` lies in the window start..end (wrapping over New Year), with soft edges."""
    length = (end - start) % YEAR
    into = (day - start) % YEAR
    if into <= length:
        return min(1.0, 0.5 + min(into, length - into) / edge)
    return max(0.0, 0.5 - min(into - length, YEAR - into) / edge)


def is_evergreen(taxon: dict[str, Any]) -> bool:
    """True where the description gives evergreen leaves most of the weight."""
    weights = (taxon.get("states", {}).get("habit.leaf_retention") or [{}])[0].get("weights", {})
    return bool(weights) and max(weights, key=lambda s: (weights[s], s)) == "evergreen"


def span(kind: str, days: dict[str, float], evergreen: bool) -> tuple[float, float] | None:
    """(first, last) day of the year on which visibility class `kind` shows; ALWAYS; None where dates are
    unknown.

    kind: a word of flora.words.VISIBLE. Buds can be read from midsummer (a little before half-way from
    leaf-out to leaf fall; of an evergreen, eighty days after leaf-out) to bud burst: 'common practice'.
    """
    if kind in ("always", "litter") or (evergreen and kind in ("leaf_on", "leaf_fall")):
        return ALWAYS
    first, last = BETWEEN[kind]
    if first not in days or last not in days:
        return None
    start, end = days[first], days[last]
    if kind in ("bud_set", "catkins_formed"):
        if evergreen:
            start = _wrap(start + BUD_SET_DAYS)
        elif "fall" in days:
            start = _wrap(start + 0.45 * ((days["fall"] - start) % YEAR))
        else:
            return None
    if kind == "autumn_colour":
        start, end = _wrap(start - 28), _wrap(end + 3)
    if kind == "leaf_flush":
        end = _wrap(end + FLUSH_DAYS)
    if kind == "winter_cold":
        start, end = _wrap(start - COLD_DAYS), _wrap(end - 14)
    return start, end


def visible(kind: str, days: dict[str, float], day: float, evergreen: bool) -> float:
    """Chance that what belongs to visibility class `kind` can be seen on that day of the year.

    Unknown dates give 0.5: neither shown nor ruled out. Litter is there most of the year (0.9).
    """
    if kind == "litter":
        return 0.9
    found = span(kind, days, evergreen)
    if found is None:
        return 0.5
    return 1.0 if found is ALWAYS else within(day, *found, edge=days["edge"])


def day_of_year(on: datetime.date) -> int:
    """1..365; 29 February counts as the 59th day."""
    day = on.timetuple().tm_yday
    leap = on.year % 4 == 0 and (on.year % 100 != 0 or on.year % 400 == 0)
    return day - 1 if leap and day > 59 else day


def date_on_or_after(on: datetime.date, day: float) -> datetime.date:
    """The first date not before `on` that falls on that day of the year."""
    return on + datetime.timedelta(days=round(day - day_of_year(on)) % YEAR)
