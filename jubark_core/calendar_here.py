"""The dates of a taxon, a cause or a rule of work as they fall at a place: each with its error and where it
comes from.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal, NotRequired, TypedDict, cast

from jubark_core.checks import require_date
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.views import known_days
from jubark_core.naming.case import spring_of_record
from jubark_core.records.typed_schema import Between
from jubark_core.season.calendars import calendars
from jubark_core.season.contract import PlaceIn
from jubark_core.season.days import month_day, span_on_or_after
from jubark_core.season.place import Place
from jubark_core.season.season_summary import season_summary
from jubark_core.season.showing import events_at
from jubark_core.season.windows import Sense, Window, window_here
from jubark_core.signs.case import cause_id
from jubark_core.signs.load import health
from jubark_core.work.before.acts import checks_of_acts
from jubark_core.work.before.area import rules_of_areas
from jubark_core.work.load import work_rules


class Temperatures(TypedDict):
    """Daily minima and maxima in °C from 1 January on; south of the equator from 1 July."""

    min_c: list[Annotated[float, Between(-80, 60)]]
    max_c: list[Annotated[float, Between(-80, 60)]]


class CalendarIn(TypedDict):
    """One of taxon, cause or rule at a place. With a rule: a taxon, where its windows hang on the tree;
    areas, for what is fixed there by law.
    """

    place: NotRequired[PlaceIn]
    on: NotRequired[Annotated[str, "From which day on the next ones are given as full dates."]]
    taxon: NotRequired[str]
    cause: NotRequired[str]
    rule: NotRequired[str]
    areas: NotRequired[list[str]]
    temperatures: NotRequired[Temperatures | None]


# `from` is no name in Python
DatedEvent = TypedDict(
    "DatedEvent",
    {
        "event": str,
        "label": str,
        "from": Annotated[str, "MM-DD."],
        "to": Annotated[str, "MM-DD."],
        "next_from": Annotated[str, "The date from which it is next so, or is so now; empty without `on`."],
        "error_days": int,
        "origin": Literal["own", "carried", "warmth", "law", "guide"],
        "rough": bool,
    },
)


class CalendarHere(TypedDict):
    """The dates, in the order of the description. region: the anchor whose calendar dates the place."""

    region: str
    region_name: str
    rough: bool
    note: str
    events: list[DatedEvent]


LABELS = {
    "bud_burst": "Bud burst",
    "leaf_out": "Leaf out",
    "flower": "Flower",
    "fruit_set": "Fruit set",
    "ripe": "Fruit ripe",
    "fall": "Leaf fall",
    "fruit_hangs_until": "Fruit hangs until",
}
Dated = tuple[str, str, Window, Sense]


def calendar_here(given: Any, flora: Flora) -> CalendarHere:
    """The dates at the place. Raises InputError where not exactly one of taxon, cause and rule is asked for,
    or it is not known.
    """
    at = given.get("place")
    place = Place(at["lat"], at["lon"], at.get("elevation_m")) if at else Place()
    asked = [key for key in ("cause", "rule") if given.get(key)] or ["taxon"]
    for i, code in enumerate(given.get("areas", [])):
        if code not in flora.areas:
            raise InputError(f"areas[{i}]", code, "a TDWG level 3 code, e.g. PEN")
    if len(asked) != 1 or not given.get(asked[0]):
        raise InputError("taxon", given.get("taxon"), "one of taxon, cause or rule")
    taxon = given.get("taxon") or ""
    if taxon and "phenology" not in flora.taxa.get(taxon, ()):
        raise InputError("taxon", taxon, "a taxon the flora describes")
    record = given.get("temperatures")
    spring = spring_of_record(record) if record else None
    told = season_summary(place, spring is not None, under_glass=False)
    if asked == ["taxon"]:
        rows = [
            _event(e.event, LABELS[e.event], e.first, e.last, e.error_days, e.origin, told["rough"], given)
            for e in events_at(flora.taxa[taxon], place, spring)
        ]
    else:
        windows = (
            _of_cause(given["cause"])
            if asked == ["cause"]
            else _of_rule(given["rule"], given.get("areas", []), place)
        )
        days = known_days(flora, taxon, place) if taxon else None
        rows = [
            _event(event, label, here.first, here.last, here.error_days, here.origin, here.rough, given)
            for event, label, window, sense in windows
            if (here := window_here(window, place, sense, days))
        ]
    return {
        "region": told["anchor"],
        "region_name": calendars().anchors[told["anchor"]].name,
        "rough": told["rough"],
        "note": told["note"],
        "events": rows,
    }


def _event(
    event: str,
    label: str,
    first: float,
    last: float,
    error_days: int,
    origin: str,
    rough: bool,
    given: Any,
) -> DatedEvent:
    on = require_date("on", given["on"]) if given.get("on") else None
    next_from = span_on_or_after(on, first, last)[0].isoformat() if on else ""
    return cast(
        DatedEvent,
        {
            "event": event,
            "label": label,
            "from": month_day(first),
            "to": month_day(last),
            "next_from": next_from,
            "error_days": error_days,
            "origin": origin,
            "rough": rough,
        },
    )


def _of_cause(name: str) -> Iterator[Dated]:
    cause = health().causes[cause_id("cause", name)]
    if cause.season is not None:
        yield "season", "Active", cause.season, "forbidden"
    for advice in cause.response:
        if advice.window is not None:
            yield "response", advice.do, advice.window, "permitted"
    for sid, several in cause.signs.items():
        for sign in several:
            if sign.window is not None and not sign.window.all_year:
                yield "sign", health().signs[sid].label, sign.window, "shows"


def _of_rule(name: str, areas: list[str], place: Place) -> Iterator[Dated]:
    rules = work_rules()
    if name not in rules.rules:
        raise InputError("rule", name, "one of " + ", ".join(rules.rules))
    rule = rules.rules[name]
    for window in rule.seasons:
        yield "window", "Done", window, "permitted"
    if rule.never is not None:
        yield "never", "Never done", rule.never, "forbidden"
    if rule.caution_window is not None:
        yield "caution", "With caution", rule.caution_window, "forbidden"
    area = rules_of_areas(areas)
    if "C2a" in checks_of_acts(rule.acts) and area.nesting is not None:
        yield "nesting", "Most birds nest", area.nesting, "forbidden"
    if "C2a" in checks_of_acts(rule.acts) and areas:
        for window in area.roosts_open_at(place):
            yield "roosts_open", "No roost survey is asked for", window, "permitted"
