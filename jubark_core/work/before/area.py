"""What differs by area before work: wildlife, consent, lines, methods that are authorised (areas.toml)."""

from __future__ import annotations

import datetime
import tomllib
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.records.words import SKILLS
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.windows import Window, chance_within, read_window

DEFAULT = "default"
LOOKS = ("", "hollow_look", "roost_look")


@dataclass(frozen=True)
class AreaPart:
    """A part of an area with days of its own in which no roost survey is asked for."""

    name: str
    lat: tuple[float, float]
    lon: tuple[float, float]
    roosts_open: Window | None

    def holds(self, place: Place) -> bool:
        """Whether the place lies in it."""
        if place.lat is None or place.lon is None:
            return False
        return self.lat[0] <= place.lat <= self.lat[1] and self.lon[0] <= place.lon <= self.lon[1]


@dataclass(frozen=True)
class Roosts:
    """What is asked for roosts. open: days on which no assessor is asked for; look: which look closes it for
    a tree without a hollow ('' none does), by somebody with look_skill; assessor: the skill of who closes it
    else.
    """

    open: Window | None
    look: str
    look_skill: str
    assessor: str
    who: str
    source: str


@dataclass(frozen=True)
class Consent:
    """weeks: ahead, by what protects a tree. notice_days: after which a notice lets work begin, and
    notice_good_days: for so long. exempt_days: between naming a dead or dangerous tree and the work.
    """

    weeks: dict[str, int]
    notice_days: int
    notice_good_days: int
    exempt_days: int
    look_up_months: int


@dataclass(frozen=True)
class AreaRules:
    """What differs by area before work. parts: bounds within the area in which other days hold."""

    roosts: Roosts
    parts: tuple[AreaPart, ...]
    nesting: Window | None
    nests_within_hours: int
    nests_who: str
    consent: Consent
    storm_notice_days: int
    oak_wilt_season: bool
    seals: tuple[str, ...]
    methods: frozenset[str]
    line_distance_m: float
    fall_lengths: float
    line_source: str
    bounds: AreaPart | None

    def roosts_open_at(self, place: Place) -> list[Window]:
        """The days that must all be open; none where an assessor is asked for at every date. Where the place
        is not known, those of every part too.
        """
        known = place.lat is not None and place.lon is not None
        parts = [part.roosts_open for part in self.parts if part.holds(place) or not known]
        windows = parts if parts and known else [self.roosts.open, *parts]
        return [w for w in windows if w is not None] if None not in windows else []


def roosts_open_on(area: AreaRules, place: Place, on: datetime.date) -> bool:
    """Whether the day lies in the area's open season, by its own fixed dates."""
    windows = area.roosts_open_at(place)
    return bool(windows) and all(chance_within(w, place, day_of_year(on)) >= 0.5 for w in windows)


@lru_cache(maxsize=1)
def area_rules() -> dict[str, AreaRules]:
    """Code -> what holds there; `default` where nothing is known. Raises FloraError naming the area."""
    raw = tomllib.loads(Path(__file__).with_name("areas.toml").read_text(encoding="utf-8"))
    found: dict[str, AreaRules] = {}
    for code, row in ({DEFAULT: {}} | raw["area"]).items():
        try:
            found[code] = _area(row, raw["default"])
        except (KeyError, ValueError, TypeError) as error:
            raise FloraError("areas.toml", 0, f"{code}: {error}") from None
    return found


def rules_of_areas(areas: Iterable[str]) -> AreaRules:
    """The rules of the first of the areas that has any, else what holds where nothing is known."""
    known = area_rules()
    return next((known[area] for area in areas if area in known), known[DEFAULT])


def _area(raw: dict[str, Any], default: dict[str, Any]) -> AreaRules:
    """The rules of an area; what it does not say is that of the default."""
    said = default | raw
    roosts, line, consent = said["roosts"], said["line_distance"], default["consent"] | said["consent"]
    for told in (roosts, line, *([said["nesting"]] if "nesting" in said else [])):
        if told.get("kind") not in ("law", "guide") or not told.get("source"):
            raise ValueError("kind and source are asked for")
    if roosts.get("look", "") not in LOOKS or roosts["assessor"] not in SKILLS:
        raise ValueError("roosts: look is a look for roosts, assessor a skill")
    nesting = said.get("nesting")
    return AreaRules(
        roosts=Roosts(
            open=_open_days(roosts["open"]),
            look=roosts.get("look", ""),
            look_skill=roosts.get("look_skill", ""),
            assessor=roosts["assessor"],
            who=roosts["who"],
            source=roosts["source"],
        ),
        parts=tuple(_part(part) for part in raw.get("parts", ())),
        nesting=read_window(nesting["dates"], "guide") if nesting else None,
        nests_within_hours=said["nests"]["within_hours"],
        nests_who=said["nests"]["who"],
        consent=Consent(**consent),
        storm_notice_days=said["storm_notice_days"],
        oak_wilt_season=said["oak_wilt_season"],
        seals=tuple(said["seals"]),
        methods=frozenset(said["methods"]),
        line_distance_m=line["m"],
        fall_lengths=line.get("fall_lengths", 1.0),
        line_source=line["source"],
        bounds=_part({"name": "", "open": "", "bounds": raw["bounds"]}) if "bounds" in raw else None,
    )


def _open_days(text: str) -> Window | None:
    return read_window(text, "law") if text else None


def _part(raw: dict[str, Any]) -> AreaPart:
    lat, lon = raw["bounds"]["lat"], raw["bounds"]["lon"]
    return AreaPart(raw["name"], (lat[0], lat[1]), (lon[0], lon[1]), _open_days(raw["open"]))


def holds_place(area: str, place: Place) -> bool:
    """Whether a place can lie in an area, as far as its bounds are known."""
    rules = area_rules().get(area)
    return rules is None or rules.bounds is None or rules.bounds.holds(place)
