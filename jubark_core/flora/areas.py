"""Botanical areas: level 3 codes, lists that name regions ("@75") or take codes out ("-IOW"), and what the
prior needs to know of an area: its region, its hardiness zones, the areas next door and where the same
trees are planted.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, TypedDict

WORLD = "world"  # said of everywhere that is not said otherwise


class Area(TypedDict):
    """One level 3 area. zone: lowest and highest hardiness zone of most managed trees, empty where not known.

    said_under: keys under which something is said of wild plants here, narrowest first; planted_under: of
    planted ones.
    """

    name: str
    region: str
    zone: list[int]
    near: list[str]
    said_under: list[str]
    planted_under: list[str]


def known_areas(areas: dict[str, Any]) -> list[str]:
    """Every level 3 code of the areas file, sorted."""
    return sorted(code for codes in areas["region"].values() for code in codes)


def expand_areas(entries: list[str], areas: dict[str, Any]) -> list[str]:
    """The codes a list stands for, sorted. Raises KeyError with the entry that is neither code nor region.

    A region ("@70") stands for its mainland: islands and deserts of another climate (`left_out`) are named.
    """
    known = set(known_areas(areas))
    found: set[str] = set()
    for entry in entries:
        if entry.startswith("@"):
            found.update(mainland(entry[1:], areas))
        elif entry.removeprefix("-") not in known:
            raise KeyError(entry)
        elif entry.startswith("-"):
            found.discard(entry[1:])
        else:
            found.add(entry)
    return sorted(found)


def mainland(region: str, areas: dict[str, Any]) -> list[str]:
    """The codes a region brings into a list. Raises KeyError for an unknown region."""
    left_out = areas.get("left_out", {}).get(region, ())
    return [code for code in areas["region"][region] if code not in left_out]


def area_index(areas: dict[str, Any]) -> dict[str, Area]:
    """Code -> what the prior needs to know of the area."""
    near: dict[str, set[str]] = {}
    for code, others in areas.get("neighbours", {}).items():
        for other in others:
            near.setdefault(code, set()).add(other)
            near.setdefault(other, set()).add(code)
    planted = {name: _codes(entries, areas) for name, entries in areas.get("planted_region", {}).items()}
    return {
        code: {
            "region": region,
            "name": areas.get("area_name", {}).get(code, f"{code}, {areas['region_name'][region]}"),
            "zone": areas.get("zone", {}).get(code, []),
            "near": sorted(near.get(code, ())),
            "said_under": [code, "@" + region, WORLD],
            "planted_under": [code, *(name for name, codes in planted.items() if code in codes), WORLD],
        }
        for region, codes in areas["region"].items()
        for code in codes
    }


def _codes(entries: Iterable[str], areas: dict[str, Any]) -> set[str]:
    return {c for e in entries for c in (areas["region"][e[1:]] if e.startswith("@") else [e])}


def said(values: Mapping[str, Any], under: Iterable[str]) -> Any | None:
    """The narrowest value that is said under one of the keys; None where nothing is said."""
    return next((values[key] for key in under if key in values), None)


def by_area(classes: Mapping[str, str]) -> dict[str, str]:
    """`{ common = "@75 PEN" }` as `{"@75": "common", "PEN": "common"}`: classes of areas, turned round."""
    return {key: word for word, keys in classes.items() for key in keys.split()}


def by_class(values: Mapping[str, Any]) -> dict[str, str]:
    """The other way round, as the files write it."""
    classes: dict[str, list[str]] = {}
    for key, word in values.items():
        classes.setdefault(str(word), []).append(key)
    return {word: " ".join(keys) for word, keys in classes.items()}


def named_regions(areas: dict[str, Any]) -> list[dict[str, Any]]:
    """Level 2 regions in the order of the scheme: name, the level 3 codes in it, and those that make it
    whole.
    """
    return [
        {"name": name, "codes": areas["region"][region], "mainland": mainland(region, areas)}
        for region, name in areas.get("region_name", {}).items()
    ]


def regions_said(codes: list[str], regions: list[dict[str, Any]]) -> list[str]:
    """The codes as regions in words: 'Middle Europe', or 'Eastern Canada (ONT, QUE)' where only a part is
    meant.
    """
    return [
        region["name"] if set(region["mainland"]) <= set(meant) else f"{region['name']} ({', '.join(meant)})"
        for region in regions
        if (meant := [code for code in region["codes"] if code in codes])
    ]
