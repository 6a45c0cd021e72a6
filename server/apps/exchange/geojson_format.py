"""The block as GeoJSON (RFC 7946): one feature per plant, its visits and entries in the properties."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from typing import Any

from apps.sites.shapes import require_wgs84
from config.errors import BadInput
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.upgrade import VERSION
from jubark_core.units import unit_of

MOST_FEATURES = 100_000
PLACES = 6  # of a figure for people


def write_geojson(name: str, plants: Iterable[dict[str, Any]], units: str = "metric") -> Iterator[str]:
    """Pieces of the file, one feature at a time. units: the site's; what is shown now stands in them too."""
    head = {"type": "FeatureCollection", "record_version": VERSION, "name": name}
    yield json.dumps(head)[:-1] + ', "features": ['
    comma = ""
    for plant in plants:
        yield comma + "\n" + json.dumps(_feature(plant, units), ensure_ascii=False, allow_nan=False)
        comma = ","
    yield "\n]}\n"


def _feature(plant: dict[str, Any], units: str) -> dict[str, Any]:
    at_lon_lat = "lon" in plant
    point = {"type": "Point", "coordinates": [plant["lon"], plant["lat"]]} if at_lon_lat else None
    shape = plant.get("outline") or point
    in_geometry = {"id", "outline", "current", "visits"} | (set() if "outline" in plant else {"lon", "lat"})
    properties = {
        **plant["current"],
        **_in_units(plant["current"], units),
        "plant": {key: value for key, value in plant.items() if key not in in_geometry},
        "visits": plant["visits"],
    }
    return {"type": "Feature", "id": plant["id"], "geometry": shape, "properties": properties}


def _in_units(current: dict[str, Any], units: str) -> dict[str, float]:
    """Figures shown now in the units of a site that is not metric: `dbh_in` beside `dbh_cm`."""
    found = {}
    for quantity in QUANTITIES.values():
        unit = unit_of(quantity.unit, units)
        if quantity.current in current and unit.label != quantity.unit:
            name = f"{quantity.current.removesuffix(quantity.unit)}{unit.label}"
            found[name] = round(current[quantity.current] / unit.per, PLACES)
    return found


def read_geojson(data: bytes) -> tuple[int, list[Any]]:
    """(record version, features); a file of the first version names none. Raises BadInput when the file is no
    FeatureCollection in UTF-8.
    """
    try:
        found = json.loads(data.decode("utf-8-sig"))
    except UnicodeDecodeError as error:
        raise BadInput("file", f"byte at position {error.start}", "text in UTF-8") from None
    except (ValueError, RecursionError) as error:
        raise BadInput("file", str(error), "GeoJSON as RFC 7946") from None
    if (
        not isinstance(found, dict)
        or found.get("type") != "FeatureCollection"
        or not isinstance(found.get("features"), list)
    ):
        raise BadInput("file", type(found).__name__, "a GeoJSON FeatureCollection")
    require_wgs84(found.get("crs"))
    if len(found["features"]) > MOST_FEATURES:
        raise BadInput(
            "features", len(found["features"]), f"at most {MOST_FEATURES} features; cut it into blocks"
        )
    version = found.get("record_version", 1)
    if isinstance(version, bool) or not isinstance(version, int) or not 1 <= version <= VERSION:
        raise BadInput("record_version", version, f"a whole number from 1 to {VERSION}")
    return version, found["features"]


def items_of(feature: Any) -> list[tuple[dict[str, Any], dict[str, Any], dict[str, Any]]]:
    """The (plant, visit, entry) triples of a feature, as a CSV row gives them. Raises BadInput for another
    shape.
    """
    if not isinstance(feature, dict) or not isinstance(feature.get("properties"), dict):
        raise BadInput("feature", feature, "an object with id, geometry and properties")
    properties = feature["properties"]
    plant = {
        "id": feature.get("id"),
        **_geometry(feature.get("geometry")),
        **_object("plant", properties.get("plant", {})),
    }
    visits = properties.get("visits", [])
    if not isinstance(visits, list):
        raise BadInput("visits", visits, "a list")
    triples: list[tuple[dict[str, Any], dict[str, Any], dict[str, Any]]] = []
    for raw in visits:
        visit = {k: v for k, v in _object("visits", raw).items() if k != "entries"} | {
            "plant": feature.get("id")
        }
        entries = raw.get("entries", [])
        if not isinstance(entries, list):
            raise BadInput("entries", entries, "a list")
        triples += [
            (plant, visit, {k: v for k, v in _object("entries", e).items() if v is not None}) for e in entries
        ] or [(plant, visit, {})]
    return triples or [(plant, {}, {})]


def _geometry(shape: Any) -> dict[str, Any]:
    if shape is None:
        return {}
    shape = _object("geometry", shape)
    if shape.get("type") != "Point":
        return {"outline": shape}
    at = shape.get("coordinates")
    if not isinstance(at, list) or len(at) < 2:
        raise BadInput("geometry.coordinates", at, "[longitude, latitude]")
    return {"lon": at[0], "lat": at[1]}


def _object(place: str, raw: Any) -> dict[str, Any]:
    if not isinstance(raw, dict):
        raise BadInput(place, raw, "an object")
    return raw
