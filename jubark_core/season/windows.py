"""When each organ of a taxon can be seen at a place, by Hopkins' rule from its reference place.

Hopkins, A. D. (1918), Periodical events and natural law as guides to agricultural research and practice,
Monthly Weather Review Supplement 9: in temperate North America spring events fall 4 days later for each
degree of latitude north, 5 degrees of longitude east and 400 ft up; autumn events reversed.
Values from memory; checked against check-values 6.01-03.
"""

from __future__ import annotations

import datetime
from dataclasses import dataclass
from typing import Any

from jubark_core.units import m_to_feet

YEAR = 365
SPRING = {"bud_burst", "leaf_out", "flower", "fruit_set"}
EDGE_DAYS = 10  # a window's edge is soft over this many days: years and plants differ
LAT_REACH, ELEVATION_REACH_M = 6.0, 600.0  # beyond this from the reference place the rule is widened and said so


@dataclass(frozen=True)
class Place:
    """lat, lon in degrees (north and east positive), elevation in metres; any may be unknown."""

    lat: float | None = None
    lon: float | None = None
    elevation_m: float | None = None


def hopkins_days(dlat: float, dlon: float, dfeet: float, autumn: bool = False) -> float:
    """Days later (+) than at the reference: 4 per degree north, per 5 degrees east, per 400 ft; autumn reversed."""
    days = 4 * dlat + 4 * dlon / 5 + 4 * dfeet / 400
    return -days if autumn else days


def shift_days(event: str, reference: dict[str, float], place: Place) -> tuple[float, bool]:
    """(days to add to the reference date, whether the place lies beyond the rule's reach).

    The longitude term is used in temperate North America only; south of the equator the latitude counts
    by its size and the year is turned by half (done by the caller).
    """
    if place.lat is None:
        return 0.0, False
    dlat = abs(place.lat) - abs(reference["lat"])
    in_north_america = place.lon is not None and -170 <= place.lon <= -50 and place.lat > 0
    dlon = (place.lon - reference["lon"]) if in_north_america and place.lon is not None else 0.0
    rise_m = 0.0 if place.elevation_m is None else place.elevation_m - reference["elevation_m"]
    beyond = abs(dlat) > LAT_REACH or abs(rise_m) > ELEVATION_REACH_M
    days = hopkins_days(dlat, dlon, m_to_feet(rise_m), autumn=event not in SPRING)
    return max(-60.0, min(60.0, days)), beyond


def event_days(taxon: dict[str, Any], place: Place) -> dict[str, float]:
    """Day of year (1..365) of every event at the place; flower and ripe give `_from` and `_to`."""
    reference = taxon.get("reference") or {"lat": 40.5, "lon": -79.3, "elevation_m": 310}
    half_turn = YEAR / 2 if place.lat is not None and place.lat < 0 else 0.0
    days: dict[str, float] = {}
    for event, value in taxon.get("phenology", {}).items():
        shift, _ = shift_days(event, reference, place)
        if isinstance(value, list):
            days[event + "_from"] = _wrap(value[0] + shift + half_turn)
            days[event + "_to"] = _wrap(value[1] + shift + half_turn)
        else:
            days[event] = _wrap(value + shift + half_turn)
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
    return bool(weights) and max(weights, key=lambda s: weights[s]) == "evergreen"


def visible(taxon: dict[str, Any], kind: str, days: dict[str, float], day: float) -> float:
    """Chance that what belongs to visibility class `kind` can be seen on that day of the year.

    kind: a word of flora.words.VISIBLE. Unknown dates give 0.5: neither shown nor ruled out.
    """
    evergreen = is_evergreen(taxon)

    def span(start: str, end: str) -> float:
        return within(day, days[start], days[end]) if start in days and end in days else 0.5

    if kind in ("always", "litter"):
        return 1.0 if kind == "always" else 0.9
    if kind == "leaf_on":
        return 1.0 if evergreen else span("bud_burst", "fall")
    if kind == "leaf_fall":
        return 1.0 if evergreen else span("fall", "bud_burst")
    if kind in ("bud_set", "catkins_formed"):
        # buds can be read from midsummer, about half-way from leaf-out to leaf fall, to bud burst
        if "leaf_out" not in days or "fall" not in days or "bud_burst" not in days:
            return 0.5
        set_day = days["leaf_out"] + 0.45 * ((days["fall"] - days["leaf_out"]) % YEAR)
        return within(day, _wrap(set_day), days["bud_burst"])
    if kind == "autumn_colour":
        return 0.5 if "fall" not in days else within(day, _wrap(days["fall"] - 28), _wrap(days["fall"] + 3))
    if kind == "flowering":
        return span("flower_from", "flower_to")
    if kind == "fruit_forming":
        return span("fruit_set", "ripe_from")
    if kind == "fruit_ripe":
        return span("ripe_from", "ripe_to")
    return span("ripe_from", "fruit_hangs_until")


def day_of_year(on: datetime.date) -> int:
    """1..365; 29 February counts as the 59th day."""
    day = on.timetuple().tm_yday
    leap = on.year % 4 == 0 and (on.year % 100 != 0 or on.year % 400 == 0)
    return day - 1 if leap and day > 59 else day


def date_on_or_after(on: datetime.date, day: float) -> datetime.date:
    """The first date not before `on` that falls on that day of the year."""
    return on + datetime.timedelta(days=round(day - day_of_year(on)) % YEAR)
