"""Reads what devices and files send: plants, visits with their entries, corrections. Checked, typed, nothing guessed."""

from __future__ import annotations

import datetime
import math
import re
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from apps.stems.models import words
from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import slug
from jubark_core.flora.words import LIGHTS, ORIGINS, RANKS, SETTINGS, SEXES, STAGES
from jubark_core.naming.case import read_case
from jubark_core.signs.load import signs
from jubark_core.size.diameter import BREAST_HEIGHTS_M
from jubark_core.size.reckon import reckon

SHA256 = re.compile(r"^[0-9a-f]{64}$")
EARTH_RADIUS_M = 6_371_008.8  # mean radius, IUGG
EARLIEST = datetime.date(1700, 1, 1)
MOST_ENTRIES = 400


@dataclass(frozen=True)
class PlantIn:
    """A new plant. `place` is (lon, lat), or None when it is seen from another plant by bearing and distance."""

    id: uuid.UUID
    block: uuid.UUID
    form: str
    place: tuple[float, float] | None
    outline: dict[str, Any] | None
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


def read_plant(raw: Any) -> PlantIn:
    """A plant item. Raises InputError naming the field."""
    data = _object("plant", raw)
    _only(
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
        place = (require_between("lon", data.get("lon"), -180, 180, "degrees"), require_between("lat", data.get("lat"), -90, 90, "degrees"))
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
        outline=read_outline(data.get("outline")) if form == "patch" else None,
        accuracy_m=_maybe("accuracy_m", data.get("accuracy_m"), 0, 500, "m"),
        how_taken=require_one_of("how_taken", data.get("how_taken", "bearing" if by_bearing else "typed"), _words(words.HOW_TAKEN)),
        from_plant=read_id("from_plant", data["from_plant"]) if by_bearing else None,
        bearing_deg=_maybe("bearing_deg", data.get("bearing_deg"), 0, 360, "degrees"),
        distance_m=_maybe("distance_m", data.get("distance_m"), 0.05, 500, "m"),
        origin=require_one_of("origin", data.get("origin", "unknown"), ORIGINS),
        row_name=_text("row_name", data.get("row_name", ""), 60),
        row_position=None if position is None else _whole("row_position", position, 1, 100_000),
        recorded_at=read_moment("recorded_at", data.get("recorded_at")),
    )


def read_outline(raw: Any) -> dict[str, Any]:
    """A GeoJSON Polygon, MultiPolygon or LineString with coordinates on the earth."""
    data = _object("outline", raw)
    kind = require_one_of("outline.type", data.get("type"), ("Polygon", "MultiPolygon", "LineString"))
    points = list(_positions(data.get("coordinates")))
    least = 2 if kind == "LineString" else 4
    if len(points) < least:
        raise InputError("outline.coordinates", len(points), f"at least {least} positions")
    return {"type": kind, "coordinates": data["coordinates"]}


def _positions(raw: Any) -> list[tuple[float, float]]:
    if isinstance(raw, list) and len(raw) in (2, 3) and all(isinstance(v, int | float) for v in raw):
        return [(require_between("outline.lon", raw[0], -180, 180), require_between("outline.lat", raw[1], -90, 90))]
    if isinstance(raw, list) and raw:
        return [p for part in raw for p in _positions(part)]
    raise InputError("outline.coordinates", raw, "nested lists of [lon, lat]")


def read_visit(raw: Any) -> VisitIn:
    """A visit item with its entries. Raises InputError naming entry and field."""
    data = _object("visit", raw)
    _only(
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
    local_date = read_date("local_date", data.get("local_date"))
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
        mode=require_one_of("mode", data.get("mode", "field"), _words(words.MODES)),
        local_date=local_date,
        observed_at=read_moment("observed_at", data.get("observed_at")),
        utc_offset_min=_whole("utc_offset_min", data.get("utc_offset_min", 0), -720, 840),
        observer=_text("observer", data.get("observer", ""), 80),
        context=context,
        entries=read,
    )


def read_entry(raw: Any, at: str = "entry") -> EntryIn:
    """One entry with its body. Raises InputError with `at` before the field."""
    data = _object(at, raw)
    _only(data, at, {"id", "kind", "body", "replaces", "retracts", "reason", "recorded_at", "observer"})
    kind = require_one_of(f"{at}.kind", data.get("kind"), _words(words.KINDS))
    retracts = data.get("retracts")
    try:
        body = {} if retracts is not None else READERS[kind](_object("body", data.get("body", {})))
    except InputError as error:
        raise InputError(f"{at}.{kind}.{error.place}", error.value, error.allowed) from None
    return EntryIn(
        id=read_id(f"{at}.id", data.get("id")),
        kind=kind,
        body=body,
        recorded_at=read_moment(f"{at}.recorded_at", data["recorded_at"]) if data.get("recorded_at") else None,
        observer=_text(f"{at}.observer", data.get("observer", ""), 80),
        replaces=read_id(f"{at}.replaces", data["replaces"]) if data.get("replaces") else None,
        retracts=read_id(f"{at}.retracts", retracts) if retracts else None,
        reason=_text(f"{at}.reason", data.get("reason", ""), 300),
    )


def look(body: dict[str, Any]) -> dict[str, Any]:
    """A look in the engine's form, judged by the engine's own reader."""
    keys = {
        "character",
        "state",
        "states",
        "absent",
        "values",
        "k",
        "n",
        "none",
        "skipped",
        "certainty",
        "seen",
        "specimen",
        "where",
        "shoot",
    }
    _only(body, "look", keys)
    given = {k: v for k, v in body.items() if v not in (None, [], "", False)}
    if (
        "states" in given
        and shipped_flora().characters.get(given.get("character", ""), {}).get("kind") == "one"
        and len(given["states"]) == 1
    ):
        given["state"] = given.pop("states")[0]
    try:
        read = read_case({"on": "2026-01-01", "observations": [given]}, shipped_flora()).looks[0]
    except InputError as error:
        raise InputError(error.place.removeprefix("observations[0]").lstrip(".") or "look", error.value, error.allowed) from None
    return {
        "character": read.character, "states": list(read.states), "absent": list(read.absent), "values": list(read.values), "k": read.k, "n": read.n,
        "none": read.none, "skipped": read.skipped, "certainty": given.get("certainty", "likely"), "seen": read.seen,
        "specimen": read.specimen, "where": given.get("where", ""), "shoot": given.get("shoot", ""),
    }  # fmt: skip


def determination(body: dict[str, Any]) -> dict[str, Any]:
    """A name. Known names resolve to the accepted id; a name the flora does not hold is kept as entered."""
    _only(
        body,
        "determination",
        {"entered", "taxon", "name", "name_rank", "probability", "looks", "not_told_from", "reason", "flora", "engine"},
    )
    flora = shipped_flora()
    entered = _text("entered", body.get("entered") or body.get("name") or "", 160)
    if not entered:
        raise InputError("entered", "nothing", "the name as you would write it")
    wanted = body.get("taxon") or slug(entered)
    taxon = flora.resolve.get(wanted, "") if isinstance(wanted, str) else ""
    if body.get("taxon") and not taxon:
        raise InputError("taxon", body["taxon"], "the id of a taxon of the flora, or leave it out")
    node = flora.taxa.get(taxon, {})
    rank = node.get("rank") or body.get("name_rank") or "unknown"
    return {
        "entered": entered,
        "taxon": taxon,
        "name": node.get("name") or entered,
        "name_rank": require_one_of("name_rank", rank, (*RANKS, "unknown")),
        "probability": _maybe("probability", body.get("probability"), 0, 1),
        "looks": [read_id(f"looks[{i}]", v) for i, v in enumerate(_list("looks", body.get("looks", []), 500))],
        "not_told_from": [
            _text(f"not_told_from[{i}]", v, 80) for i, v in enumerate(_list("not_told_from", body.get("not_told_from", []), 100))
        ],
        "reason": _text("reason", body.get("reason", ""), 300),
        "flora": _text("flora", body.get("flora", ""), 40),
        "engine": _text("engine", body.get("engine", ""), 20),
    }


def measurement(body: dict[str, Any]) -> dict[str, Any]:
    """A figure, reckoned by the core from its raw readings. A value sent along must agree with them."""
    _only(body, "measurement", {"quantity", "raw", "value", "error", "unit_entered", "method", "at_height_m", "combine", "shoots"})
    combine = body.get("combine", "squares")
    found = reckon(body.get("quantity", ""), body.get("raw", {}), combine)
    sent = body.get("value")
    if sent is not None and not math.isclose(require_between("value", sent, 0, 10_000), found["value"], rel_tol=1e-6):
        raise InputError("value", sent, f"{found['value']:.4f} follows from the readings")
    height = body.get("at_height_m")
    if height is not None and not any(
        math.isclose(require_between("at_height_m", height, 0, 5, "m"), h, abs_tol=0.002) for h in BREAST_HEIGHTS_M
    ):
        require_between("at_height_m", height, 0.05, 3, "m")
    return {
        "quantity": body["quantity"],
        "value": found["value"],
        "error": found.get("error_m"),
        "raw": body["raw"],
        "unit_entered": require_one_of("unit_entered", body.get("unit_entered", found["unit"]), ("cm", "in", "m", "ft")),
        "method": require_one_of("method", body.get("method", "taped"), _words(words.METHODS)),
        "at_height_m": None if height is None else round(float(height), 2),
        "combine": combine,
        "shoots": found["shoots"],
    }


def condition(body: dict[str, Any]) -> dict[str, Any]:
    """Condition in one word."""
    _only(body, "condition", {"word", "leafless"})
    return {
        "word": require_one_of("word", body.get("word"), _words(words.CONDITIONS)),
        "leafless": _flag("leafless", body.get("leafless", False)),
    }


def defect(body: dict[str, Any]) -> dict[str, Any]:
    """A defect with part and extent."""
    _only(body, "defect", {"defect", "part", "extent_percent"})
    extent = body.get("extent_percent")
    return {
        "defect": require_one_of("defect", body.get("defect"), _words(words.DEFECTS)),
        "part": require_one_of("part", body.get("part"), _words(words.PARTS)),
        "extent_percent": None if extent is None else _whole("extent_percent", extent, 0, 100),
    }


def sign(body: dict[str, Any]) -> dict[str, Any]:
    """A sign, present or looked for and not there."""
    _only(body, "sign", {"sign", "present", "extent_percent"})
    extent = body.get("extent_percent")
    return {
        "sign": require_one_of("sign", body.get("sign"), signs()),
        "present": _flag("present", body.get("present", True)),
        "extent_percent": None if extent is None else _whole("extent_percent", extent, 0, 100),
    }


def photo(body: dict[str, Any]) -> dict[str, Any]:
    """That a photograph exists, with its hash."""
    _only(body, "photo", {"sha256", "bytes", "organ", "face", "scale_in_frame"})
    digest = body.get("sha256")
    if not isinstance(digest, str) or not SHA256.match(digest):
        raise InputError("sha256", digest, "64 hexadecimal digits in lower case")
    return {
        "sha256": digest,
        "bytes": _whole("bytes", body.get("bytes"), 1, 15 * 1024 * 1024),
        "organ": _text("organ", body.get("organ", ""), 20),
        "face": _text("face", body.get("face", ""), 20),
        "scale_in_frame": _flag("scale_in_frame", body.get("scale_in_frame", False)),
    }


def voucher(body: dict[str, Any]) -> dict[str, Any]:
    """A pressed specimen."""
    _only(body, "voucher", {"organ", "number", "kept_at", "permission"})
    return {
        key: _text(key, body.get(key, ""), size, least)
        for key, size, least in (("organ", 20, 1), ("number", 40, 1), ("kept_at", 120, 1), ("permission", 120, 0))
    }


def note(body: dict[str, Any]) -> dict[str, Any]:
    """Plain words."""
    _only(body, "note", {"text"})
    return {"text": _text("text", body.get("text"), 4000, 1)}


def tag(body: dict[str, Any]) -> dict[str, Any]:
    """Something that happened to a tag."""
    _only(body, "tag", {"number", "material", "position", "state"})
    return {
        "number": _text("number", body.get("number"), 20, 1).strip(),
        "material": _text("material", body.get("material", ""), 30),
        "position": _text("position", body.get("position", ""), 60),
        "state": require_one_of("state", body.get("state", "set"), _words(words.TAG_STATES)),
    }


def life(body: dict[str, Any]) -> dict[str, Any]:
    """A life state."""
    _only(body, "life", {"state"})
    return {"state": require_one_of("state", body.get("state"), _words(words.LIFE_STATES))}


READERS: dict[str, Callable[[dict[str, Any]], dict[str, Any]]] = {
    "look": look, "determination": determination, "measurement": measurement, "condition": condition, "defect": defect, "sign": sign,
    "photo": photo, "voucher": voucher, "note": note, "tag": tag, "life": life, "clock_confirmed": lambda body: {},
}  # fmt: skip


def destination(lon: float, lat: float, bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """(lon, lat) reached from a point by true bearing and horizontal distance, on a sphere; good to 0.5 % at 500 m."""
    angle, theta, phi = distance_m / EARTH_RADIUS_M, math.radians(bearing_deg), math.radians(lat)
    phi2 = math.asin(math.sin(phi) * math.cos(angle) + math.cos(phi) * math.sin(angle) * math.cos(theta))
    turn = math.atan2(math.sin(theta) * math.sin(angle) * math.cos(phi), math.cos(angle) - math.sin(phi) * math.sin(phi2))
    return (lon + math.degrees(turn) + 540) % 360 - 180, math.degrees(phi2)


def read_id(place: str, raw: Any) -> uuid.UUID:
    """An RFC 9562 UUID, any version but nil and max."""
    try:
        found = uuid.UUID(raw) if isinstance(raw, str) else raw
    except ValueError:
        found = None
    if not isinstance(found, uuid.UUID) or found.int in (0, 2**128 - 1) or found.variant != uuid.RFC_4122:
        raise InputError(place, raw, "a UUID (RFC 9562), not nil or max")
    return found


def read_date(place: str, raw: Any) -> datetime.date:
    """A date YYYY-MM-DD from 1700 on."""
    try:
        found = datetime.date.fromisoformat(raw) if isinstance(raw, str) and len(raw) == 10 else None
    except ValueError:
        found = None
    if found is None or found < EARLIEST:
        raise InputError(place, raw, "a date as YYYY-MM-DD")
    return found


def read_moment(place: str, raw: Any) -> datetime.datetime:
    """An RFC 3339 time with an offset."""
    try:
        found = datetime.datetime.fromisoformat(raw) if isinstance(raw, str) else None
    except ValueError:
        found = None
    if found is None or found.tzinfo is None or found.year < EARLIEST.year:
        raise InputError(place, raw, "a time with offset, e.g. 2026-10-20T14:05:00+00:00")
    return found


def _words(pairs: list[tuple[str, str]]) -> list[str]:
    return [word for word, _ in pairs]


def _object(place: str, raw: Any) -> dict[str, Any]:
    if not isinstance(raw, dict):
        raise InputError(place, raw, "an object")
    return raw


def _list(place: str, raw: Any, most: int) -> list[Any]:
    if not isinstance(raw, list) or len(raw) > most:
        raise InputError(place, raw, f"a list of at most {most}")
    return raw


def _only(data: dict[str, Any], what: str, keys: set[str]) -> None:
    for key in data:
        if key not in keys:
            raise InputError(f"{what}.{key}" if what else key, "an unknown key", "one of " + ", ".join(sorted(keys)))


def _text(place: str, raw: Any, most: int, least: int = 0) -> str:
    if not isinstance(raw, str) or not least <= len(raw.strip()) <= most or len(raw) > most or "\x00" in raw:
        raise InputError(place, raw, f"a text of {least} to {most} characters")
    return raw


def _flag(place: str, raw: Any) -> bool:
    if not isinstance(raw, bool):
        raise InputError(place, raw, "true or false")
    return raw


def _whole(place: str, raw: Any, low: int, high: int) -> int:
    number = require_between(place, raw, low, high)
    if number != int(number):
        raise InputError(place, raw, f"a whole number from {low} to {high}")
    return int(number)


def _maybe(place: str, raw: Any, low: float, high: float, unit: str = "") -> float | None:
    return None if raw is None else require_between(place, raw, low, high, unit)
