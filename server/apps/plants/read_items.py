"""Reads what devices and files send: plants, visits with their entries, corrections. Checked, typed, nothing
guessed.
"""

from __future__ import annotations

import datetime
import math
import uuid
from dataclasses import dataclass, field
from typing import Any

from django.contrib.gis.geos import GEOSGeometry

from apps.plants.models import words
from apps.plants.read_bodies import READERS
from apps.plants.read_fields import (
    only_keys,
    read_id,
    read_maybe,
    read_object,
    read_text,
    read_whole,
    words_of,
)
from apps.sites.shapes import read_shape
from jubark_core.checks import require_between, require_date, require_moment, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.words import LIGHTS, ORIGINS, SETTINGS, SEXES, STAGES

EARTH_RADIUS_M = 6_371_008.8  # mean radius, IUGG
MOST_ENTRIES = 400


@dataclass(frozen=True)
class PlantIn:
    """A new plant. `place` is (lon, lat), or None when it is seen from another plant by bearing and
    distance.
    """

    id: uuid.UUID
    block: uuid.UUID
    form: str
    place: tuple[float, float] | None
    outline: GEOSGeometry | None
    accuracy_m: float | None
    how_taken: str
    from_plant: uuid.UUID | None
    bearing_deg: float | None
    distance_m: float | None
    origin: str
    row_name: str
    row_position: int | None
    recorded_at: datetime.datetime


@dataclass(frozen=True)
class EntryIn:
    """An entry and the fields of its body."""

    id: uuid.UUID
    kind: str
    body: dict[str, Any]
    recorded_at: datetime.datetime | None = None
    observer: str = ""
    replaces: uuid.UUID | None = None
    retracts: uuid.UUID | None = None
    reason: str = ""


@dataclass(frozen=True)
class VisitIn:
    """A visit with all its entries."""

    id: uuid.UUID
    plant: uuid.UUID
    mode: str
    local_date: datetime.date
    observed_at: datetime.datetime
    utc_offset_min: int
    observer: str
    context: dict[str, str]
    entries: tuple[EntryIn, ...] = field(default_factory=tuple)


@dataclass(frozen=True)
class ClockIn:
    """That the doubted date of a visit is right."""

    id: uuid.UUID
    visit: uuid.UUID
    recorded_at: datetime.datetime
    reason: str = ""


def read_plant(raw: Any) -> PlantIn:
    """A plant item. Raises InputError naming the field."""
    data = read_object("plant", raw)
    only_keys(
        data,
        "plant",
        {
            "id",
            "block",
            "form",
            "lon",
            "lat",
            "outline",
            "accuracy_m",
            "how_taken",
            "from_plant",
            "bearing_deg",
            "distance_m",
            "origin",
            "row_name",
            "row_position",
            "recorded_at",
        },
    )
    form = require_one_of("form", data.get("form", "stem"), ("stem", "patch"))
    by_bearing = data.get("from_plant") is not None
    place = None
    if "lon" in data or "lat" in data:
        place = (
            require_between("lon", data.get("lon"), -180, 180, "degrees"),
            require_between("lat", data.get("lat"), -90, 90, "degrees"),
        )
    elif form == "stem" and not by_bearing:
        raise InputError("lon", "nothing", "give lon and lat, or from_plant with bearing_deg and distance_m")
    if by_bearing:
        require_between("bearing_deg", data.get("bearing_deg"), 0, 360, "degrees")
        require_between("distance_m", data.get("distance_m"), 0.05, 500, "m")
    position = data.get("row_position")
    return PlantIn(
        id=read_id("id", data.get("id")),
        block=read_id("block", data.get("block")),
        form=form,
        place=place,
        outline=read_shape("outline", data.get("outline"), ("Polygon", "MultiPolygon", "LineString"))
        if form == "patch"
        else None,
        accuracy_m=read_maybe("accuracy_m", data.get("accuracy_m"), 0, 500, "m"),
        how_taken=require_one_of(
            "how_taken",
            data.get("how_taken", "bearing" if by_bearing else "typed"),
            words_of(words.HOW_TAKEN),
        ),
        from_plant=read_id("from_plant", data["from_plant"]) if by_bearing else None,
        bearing_deg=read_maybe("bearing_deg", data.get("bearing_deg"), 0, 360, "degrees"),
        distance_m=read_maybe("distance_m", data.get("distance_m"), 0.05, 500, "m"),
        origin=require_one_of("origin", data.get("origin", "unknown"), ORIGINS),
        row_name=read_text("row_name", data.get("row_name", ""), 60),
        row_position=None if position is None else read_whole("row_position", position, 1, 100_000),
        recorded_at=require_moment("recorded_at", data.get("recorded_at")),
    )


def read_visit(raw: Any) -> VisitIn:
    """A visit item with its entries. Raises InputError naming entry and field."""
    data = read_object("visit", raw)
    only_keys(
        data,
        "visit",
        {
            "id",
            "plant",
            "mode",
            "local_date",
            "observed_at",
            "utc_offset_min",
            "observer",
            "stage",
            "setting",
            "origin",
            "light",
            "sex",
            "entries",
        },
    )
    entries = data.get("entries", [])
    if not isinstance(entries, list) or len(entries) > MOST_ENTRIES:
        raise InputError("entries", entries, f"a list of at most {MOST_ENTRIES} entries")
    local_date = require_date("local_date", data.get("local_date"))
    context = {
        "stage": require_one_of("stage", data.get("stage", "mature"), STAGES),
        "setting": require_one_of("setting", data.get("setting", "unknown"), SETTINGS),
        "origin": require_one_of("origin", data.get("origin", "unknown"), ORIGINS),
        "light": require_one_of("light", data.get("light", "unknown"), LIGHTS),
        "sex": require_one_of("sex", data.get("sex", "unknown"), SEXES),
    }
    read = tuple(read_entry(e, f"entries[{i}]") for i, e in enumerate(entries))
    ids = [e.id for e in read]
    if len(set(ids)) != len(ids):
        raise InputError("entries", "an id given twice", "each entry its own id")
    return VisitIn(
        id=read_id("id", data.get("id")),
        plant=read_id("plant", data.get("plant")),
        mode=require_one_of("mode", data.get("mode", "field"), words_of(words.MODES)),
        local_date=local_date,
        observed_at=require_moment("observed_at", data.get("observed_at")),
        utc_offset_min=read_whole("utc_offset_min", data.get("utc_offset_min", 0), -720, 840),
        observer=read_text("observer", data.get("observer", ""), 80),
        context=context,
        entries=read,
    )


def read_entry(raw: Any, at: str = "entry") -> EntryIn:
    """One entry with its body. Raises InputError with `at` before the field."""
    data = read_object(at, raw)
    only_keys(data, at, {"id", "kind", "body", "replaces", "retracts", "reason", "recorded_at", "observer"})
    kind = require_one_of(f"{at}.kind", data.get("kind"), words_of(words.KINDS))
    retracts = data.get("retracts")
    try:
        body = {} if retracts is not None else READERS[kind](read_object("body", data.get("body", {})))
    except InputError as error:
        raise InputError(f"{at}.{kind}.{error.place}", error.value, error.allowed) from None
    return EntryIn(
        id=read_id(f"{at}.id", data.get("id")),
        kind=kind,
        body=body,
        recorded_at=require_moment(f"{at}.recorded_at", data["recorded_at"])
        if data.get("recorded_at")
        else None,
        observer=read_text(f"{at}.observer", data.get("observer", ""), 80),
        replaces=read_id(f"{at}.replaces", data["replaces"]) if data.get("replaces") else None,
        retracts=read_id(f"{at}.retracts", retracts) if retracts else None,
        reason=read_text(f"{at}.reason", data.get("reason", ""), 300),
    )


def read_clock(raw: Any) -> ClockIn:
    """The confirmation of a doubted date. Raises InputError naming the field."""
    data = read_object("clock", raw)
    only_keys(data, "clock", {"id", "visit", "recorded_at", "reason"})
    return ClockIn(
        id=read_id("id", data.get("id")),
        visit=read_id("visit", data.get("visit")),
        recorded_at=require_moment("recorded_at", data.get("recorded_at")),
        reason=read_text("reason", data.get("reason", ""), 300),
    )


def destination(lon: float, lat: float, bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """(lon, lat) reached from a point by true bearing and horizontal distance, on a sphere; good to 0.5 % at
    500 m.
    """
    angle, theta, phi = distance_m / EARTH_RADIUS_M, math.radians(bearing_deg), math.radians(lat)
    phi2 = math.asin(math.sin(phi) * math.cos(angle) + math.cos(phi) * math.sin(angle) * math.cos(theta))
    turn = math.atan2(
        math.sin(theta) * math.sin(angle) * math.cos(phi), math.cos(angle) - math.sin(phi) * math.sin(phi2)
    )
    return (lon + math.degrees(turn) + 540) % 360 - 180, math.degrees(phi2)
