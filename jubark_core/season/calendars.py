"""Carries a date from the place it was written for to another: by the calendars of the regions.

Back to the anchor of its own region by that region's rule, across to the anchor of the place phase by phase,
and on to the place. Every step is monotone round the year, so events keep their order.
"""

from __future__ import annotations

import bisect
import math
import tomllib
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any, Literal

from jubark_core.errors import FloraError
from jubark_core.season.days import YEAR, after, day_of, wrap
from jubark_core.season.place import Place

HERE = Path(__file__).parent
HOME = "PIT"  # where the dates of a data file were written for that names no other place
MOST_DAYS = 45.0  # no shift within a region is believed beyond this: the edges widen by what is cut off
LEAST_REST_DAYS = 10.0  # between the last bare tree and the first bloom: where mildness makes them meet
# the phases between which the rule of spring turns into that of autumn, and back over winter
SPRING_BEGINS, EARLY_ENDS, SPRING_ENDS, AUTUMN_BEGINS, AUTUMN_ENDS = 0, 2, 7, 11, 14

Origin = Literal["own", "carried", "warmth", "law", "guide"]


@dataclass(frozen=True)
class Anchor:
    """A place with the days of the year of the fifteen phases, in their order round the year."""

    id: str
    name: str
    at: Place
    phases: tuple[float, ...]


@dataclass(frozen=True)
class Region:
    """Which anchors date its places, and by what rule a date goes from the anchor to the place."""

    id: str
    lat: tuple[float, float]
    lon: tuple[float, float]
    anchors: tuple[Anchor, ...]
    per_degree: float
    per_degree_east: float
    lon_to: float
    per_100_m: float
    autumn: float
    rough: bool


@dataclass(frozen=True)
class Calendars:
    """The data of the room. error: days by which a date may be off, by where it comes from."""

    anchors: dict[str, Anchor]
    regions: tuple[Region, ...]
    error: dict[str, int]


@lru_cache(maxsize=1)
def calendars() -> Calendars:
    """All calendars. Raises FloraError naming the anchor whose phases are not in order round the year."""
    raw = tomllib.loads((HERE / "calendars.toml").read_text(encoding="utf-8"))
    anchors = {name: _anchor(name, told, len(raw["phases"])) for name, told in raw["anchor"].items()}
    return Calendars(anchors, tuple(_region(told, anchors) for told in raw["region"]), raw["error"])


def _anchor(name: str, raw: dict[str, Any], count: int) -> Anchor:
    phases = tuple(float(day_of(text)) for text in raw["dates"])
    turn = sum(after(a, b) for a, b in zip(phases, (*phases[1:], phases[0]), strict=True))
    if len(phases) != count or len(set(phases)) != count or turn != YEAR:
        raise FloraError("calendars.toml", 0, f"{name}: phases are not in order round the year")
    return Anchor(name, raw["name"], Place(**raw["at"]), phases)


def _region(raw: dict[str, Any], anchors: dict[str, Anchor]) -> Region:
    return Region(
        id=raw["id"],
        lat=(raw["bounds"]["lat"][0], raw["bounds"]["lat"][1]),
        lon=(raw["bounds"]["lon"][0], raw["bounds"]["lon"][1]),
        anchors=tuple(anchors[name] for name in raw["anchors"]),
        per_degree=raw["per_degree"],
        per_degree_east=raw.get("per_degree_east", 0.0),
        lon_to=raw.get("lon_to", 180.0),
        per_100_m=raw["per_100_m"],
        autumn=raw["autumn"],
        rough=raw.get("rough", False),
    )


@lru_cache(maxsize=512)
def region_of(place: Place) -> tuple[Region, Anchor]:
    """The region of a place and the anchor that dates it, the nearest of the region's. Where no place is
    known: as at the anchor of the data files.
    """
    if place.lat is None or place.lon is None:
        place = calendars().anchors[HOME].at
    lat, lon = place.lat or 0.0, place.lon or 0.0
    for region in calendars().regions:
        if region.lat[0] <= lat <= region.lat[1] and region.lon[0] <= lon <= region.lon[1]:
            # a region that is dated from afar goes by latitude: its climate, not the way there
            return region, min(region.anchors, key=lambda a: _apart(a.at, lat, lon, not region.rough))
    raise AssertionError("the last two regions hold every place")


def _apart(at: Place, lat: float, lon: float, lon_too: bool) -> float:
    dlat = abs(lat) - abs(at.lat or 0.0)
    dlon = (lon - (at.lon or 0.0)) * math.cos(math.radians(lat)) if lon_too else 0.0
    return math.hypot(dlat, dlon)


@dataclass(frozen=True)
class _Turn:
    """A monotone map of the circle of the year onto itself, straight between its knots."""

    xs: tuple[float, ...]
    ys: tuple[float, ...]

    def __call__(self, day: float) -> float:
        x = self.xs[0] + (day - self.xs[0]) % YEAR
        i = bisect.bisect_right(self.xs, x)
        x0, y0 = self.xs[i - 1], self.ys[i - 1]
        x1, y1 = (self.xs[i], self.ys[i]) if i < len(self.xs) else (self.xs[0] + YEAR, self.ys[0] + YEAR)
        return wrap(y0 + (x - x0) * (y1 - y0) / (x1 - x0))

    @cached_property
    def back(self) -> _Turn:
        """The map the other way."""
        return _Turn(self.ys, self.xs)


def _unwound(days: Sequence[float]) -> tuple[float, ...]:
    """Days of the year in order round it, as growing numbers."""
    found = [days[0]]
    for day in days[1:]:
        found.append(found[-1] + after(found[-1], day))
    return tuple(found)


@dataclass(frozen=True)
class _Local:
    """From an anchor to a place of its region. cut: days that the greatest shift left off; no_rest: the place
    is so mild that the end of one year's leaves meets the beginning of the next.
    """

    map: _Turn
    cut: float
    no_rest: bool
    spring_days: float


@lru_cache(maxsize=512)
def _local(place: Place) -> _Local:
    region, anchor = region_of(place)
    spring = spring_shift_days(place)
    cut = max(0.0, abs(spring) - MOST_DAYS)
    spring = max(-MOST_DAYS, min(MOST_DAYS, spring))
    knots = _unwound([anchor.phases[i] for i in (SPRING_BEGINS, SPRING_ENDS, AUTUMN_BEGINS, AUTUMN_ENDS)])
    rest = knots[0] + YEAR - knots[3]
    closing = -spring * (1 + region.autumn)  # by how much the bare season shortens
    no_rest = closing > 0 and rest - closing < LEAST_REST_DAYS
    if no_rest:
        kept = max(0.0, rest - LEAST_REST_DAYS) / closing
        cut += abs(spring) * (1 - kept)
        spring *= kept
    autumn = -spring * region.autumn
    moved = [day + shift for day, shift in zip(knots, (spring, spring, autumn, autumn), strict=True)]
    return _Local(_Turn(knots, tuple(moved)), cut, no_rest, spring)


def spring_shift_days(place: Place) -> float:
    """Days by which spring is later (+) at the place than at its region's anchor, by the rule of the
    region.
    """
    if place.lat is None or place.lon is None:
        return 0.0
    region, anchor = region_of(place)
    at = anchor.at
    east = min(place.lon, region.lon_to) - (at.lon or 0.0)
    up_m = 0.0 if place.elevation_m is None else place.elevation_m - (at.elevation_m or 0.0)
    poleward = abs(place.lat) - abs(at.lat or 0.0)
    return region.per_degree * poleward + region.per_degree_east * east + region.per_100_m * up_m / 100


@dataclass(frozen=True)
class Carrier:
    """Carries days of the year from where they were written to a place. wider: days by which the edges
    widen; rough: outside the climate of the anchors; no_rest: leaf fall and bud burst meet there.
    """

    steps: tuple[_Turn, ...]
    own: bool
    rough: bool
    wider: float
    no_rest: bool
    early: tuple[float, float]

    def __call__(self, day: float) -> float:
        """The day of the year at the place."""
        for step in self.steps:
            day = step(day)
        return wrap(day)

    def error_days(self, day: float) -> int:
        """By how much a date, given as it falls at the place, may be off."""
        error = calendars().error
        if self.rough:
            found = error["rough"]
        elif self.own:
            found = error["own"]
        else:
            first, last = self.early
            early = after(first, day) < after(first, last)
            found = error["carried_early"] if early else error["carried"]
        return found + math.ceil(self.wider)


@lru_cache(maxsize=4096)
def carrier(written: Place | str, place: Place) -> Carrier:
    """From the place or the anchor for which dates were written to another place."""
    source = calendars().anchors[written].at if isinstance(written, str) else written
    (region, anchor), (_, home) = region_of(place), region_of(source)
    there, here = _local(source), _local(place)
    steps: list[_Turn] = []
    if source != place:
        steps.append(there.map.back)
        if home is not anchor:
            steps.append(_Turn(_unwound(home.phases), _unwound(anchor.phases)))
        steps.append(here.map)
    bare, pollen, early_ends = (anchor.phases[i] for i in (AUTUMN_ENDS, SPRING_BEGINS, EARLY_ENDS))
    midwinter = wrap(bare + after(bare, pollen) / 2)
    return Carrier(
        steps=tuple(steps),
        own=home is anchor,
        rough=region.rough and source != place,
        wider=here.cut if source != place else 0.0,
        no_rest=here.no_rest,
        early=(here.map(midwinter), here.map(early_ends)),
    )
