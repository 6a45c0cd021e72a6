"""One reader of GeoJSON shapes for every door: devices, files, new blocks. What it lets through can be
stored.
"""

from __future__ import annotations

import json
from typing import Any

from django.contrib.gis.geos import GEOSException, GEOSGeometry

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError

DEPTH = {
    "Point": 0,
    "LineString": 1,
    "Polygon": 2,
    "MultiPolygon": 3,
}  # levels of lists above a position (RFC 7946)
FLAT = ("Point", "LineString")  # kinds without an area
WGS84 = (
    "urn:ogc:def:crs:OGC:1.3:CRS84",
    "urn:ogc:def:crs:OGC::CRS84",
    "EPSG:4326",
    "urn:ogc:def:crs:EPSG::4326",
)
MOST_VERTICES = 10_000
Position = list[float]


def require_wgs84(crs: Any) -> None:
    """RFC 7946 knows one reference system. A file of the older draft that names another would land far away.
    Raises InputError.
    """
    named = (
        crs.get("properties", {}).get("name")
        if isinstance(crs, dict) and isinstance(crs.get("properties"), dict)
        else crs
    )
    if named is not None and named not in WGS84:
        raise InputError("crs", named, "longitude and latitude in WGS 84 (leave crs out), as RFC 7946 has it")


def read_shape(place: str, raw: Any, kinds: tuple[str, ...]) -> GEOSGeometry:
    """A valid, closed, not empty shape of one of the kinds, on the earth, heights dropped, in WGS 84.

    Raises InputError naming the place, the value and what is allowed.
    """
    if not isinstance(raw, dict):
        raise InputError(place, raw, "a GeoJSON object, one of " + ", ".join(kinds))
    kind = require_one_of(f"{place}.type", raw.get("type"), kinds)
    seen = [0]
    coordinates = _nested(f"{place}.coordinates", raw.get("coordinates"), DEPTH[kind], seen)
    for ring in _rings(kind, coordinates):
        if len(ring) < 4 or ring[0] != ring[-1]:
            allowed = "closed rings: at least 4 positions, the last the same as the first"
            raise InputError(
                f"{place}.coordinates",
                f"a ring of {len(ring)} positions from {ring[0]} to {ring[-1]}",
                allowed,
            )
    if kind == "LineString" and len({tuple(p) for p in coordinates}) < 2:
        raise InputError(f"{place}.coordinates", coordinates, "a line of at least 2 different positions")
    return _checked(place, kind, coordinates)


def _nested(at: str, raw: Any, depth: int, seen: list[int]) -> Any:
    """Lists nested exactly `depth` deep around positions. Deeper or shallower is refused, never guessed."""
    if not isinstance(raw, list) or not raw:
        raise InputError(
            at, raw, "nested lists of [longitude, latitude]" if depth else "[longitude, latitude]"
        )
    if depth:
        return [_nested(f"{at}[{i}]", part, depth - 1, seen) for i, part in enumerate(raw)]
    seen[0] += 1
    if seen[0] > MOST_VERTICES:
        raise InputError(
            at, f"more than {MOST_VERTICES} positions", f"at most {MOST_VERTICES} positions in one outline"
        )
    if len(raw) not in (2, 3):
        raise InputError(at, raw, "[longitude, latitude]")
    if len(raw) == 3:
        require_between(f"{at}[2]", raw[2], -12_000, 9_000, "m")
    return [
        require_between(f"{at}.lon", raw[0], -180, 180, "degrees"),
        require_between(f"{at}.lat", raw[1], -90, 90, "degrees"),
    ]


def _rings(kind: str, coordinates: Any) -> list[list[Position]]:
    if kind in FLAT:
        return []
    polygons = [coordinates] if kind == "Polygon" else coordinates
    return [ring for polygon in polygons for ring in polygon]


def _checked(place: str, kind: str, coordinates: Any) -> GEOSGeometry:
    try:
        shape = GEOSGeometry(json.dumps({"type": kind, "coordinates": coordinates}), srid=4326)
        sound = shape.valid and not shape.empty and (kind in FLAT or shape.area > 0)
        reason = "" if sound else shape.valid_reason
    except (GEOSException, ValueError, TypeError) as error:
        sound, reason = False, str(error)
    if not sound:
        raise InputError(
            place, reason or "no area", "a shape that does not cross or touch itself and has an area"
        )
    return shape
