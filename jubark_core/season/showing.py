"""When each organ of a taxon shows at a place: its own events there, and what belongs between them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from jubark_core.season.calendars import HOME, Origin, calendars, carrier, region_of
from jubark_core.season.days import YEAR, after, within, wrap
from jubark_core.season.place import Place

SPRING = {"bud_burst", "leaf_out", "flower", "fruit_set"}
FLUSH_DAYS = 14.0  # a leaf that is out still grows for about two weeks (common practice)
COLD_DAYS = 150.0  # evergreens are bronzed from some five months before bud burst (common practice)
BUD_SET_DAYS = 80.0  # from leaf-out to finished buds on an evergreen (common practice)
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

SpringDate = Callable[[float], float]  # day of the normal year of the home anchor -> day of the year measured


@dataclass(frozen=True)
class Event:
    """An event of a taxon at a place: first and last day of the year, how far off they may be, from where."""

    event: str
    first: float
    last: float
    error_days: int
    origin: Origin


def dated_at(taxon: dict[str, Any], place: Place) -> tuple[Place | str, dict[str, Any]]:
    """Where the taxon's dates that hold for a place were written for, and those dates: its own for the
    anchor of the place, where it has some.
    """
    anchor = region_of(place)[1].id
    if own := taxon.get("phenology_at", {}).get(anchor):
        return anchor, own
    reference = taxon.get("reference")
    return (Place(**reference) if reference else HOME), taxon.get("phenology", {})


def events_at(
    taxon: dict[str, Any], place: Place, spring: SpringDate | None = None, under_glass: bool = False
) -> Iterator[Event]:
    """Every event of the taxon at the place, in the order of its description.

    spring: dates spring events from a temperature record instead of the calendar. Taxa whose rhythm the cold
    does not drive (`rhythm = "none"`), and plants under glass, keep their dates; across the equator half a
    year on.
    """
    written, dates = dated_at(taxon, place)
    still = under_glass or taxon.get("rhythm") == "none"
    carry = carrier(written, place)
    source = calendars().anchors[written].at if isinstance(written, str) else written
    other_half = place.lat is not None and (place.lat < 0) != ((source.lat or 0.0) < 0)
    half_turn = YEAR / 2 if other_half else 0.0
    to_home = carrier(written, calendars().anchors[HOME].at)
    error = calendars().error
    for event, value in dates.items():
        days = value if isinstance(value, list) else [value, value]
        if still:
            first, last = (wrap(day + half_turn) for day in days)
            kept = under_glass or carry.own
            yield Event(event, first, last, error["own" if kept else "carried"], "own" if kept else "carried")
        elif spring is not None and event in SPRING:
            turn = YEAR / 2 if place.lat is not None and place.lat < 0 else 0.0
            first, last = (wrap(spring(to_home(day)) + turn) for day in days)
            yield Event(event, first, last, error["own"], "warmth")
        else:
            first, last = (carry(day) for day in days)
            off = max(carry.error_days(first), carry.error_days(last))
            yield Event(event, first, last, off, "own" if carry.own else "carried")


def event_days(
    taxon: dict[str, Any], place: Place, spring: SpringDate | None = None, under_glass: bool = False
) -> dict[str, float]:
    """Day of year (1..365) of every event at the place; flower and ripe give `_from` and `_to`; `edge`:
    softness in days of all windows, `flower_edge` that of bloom.
    """
    found = list(events_at(taxon, place, spring, under_glass))
    pairs = ("flower", "ripe")
    days: dict[str, float] = {}
    for e in found:
        days |= (
            {e.event + "_from": e.first, e.event + "_to": e.last} if e.event in pairs else {e.event: e.first}
        )
    home = float(calendars().error["own"])
    # what is early is surer of its order than of its day: the edge of all else is that of its leaves
    days["edge"] = float(max((e.error_days for e in found if e.event not in pairs), default=home))
    days["flower_edge"] = float(max((e.error_days for e in found if e.event == "flower"), default=home))
    return days


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
            start = wrap(start + BUD_SET_DAYS)
        elif "fall" in days:
            start = wrap(start + 0.45 * after(start, days["fall"]))
        else:
            return None
    if kind == "autumn_colour":
        start, end = wrap(start - 28), wrap(end + 3)
    if kind == "leaf_flush":
        end = wrap(end + FLUSH_DAYS)
    if kind == "winter_cold":
        start, end = wrap(start - COLD_DAYS), wrap(end - 14)
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
    edge = days["flower_edge" if kind == "flowering" else "edge"]
    return 1.0 if found is ALWAYS else within(day, *found, edge)
