"""Botanical areas: level 3 codes, and lists that name regions ("@75") or take codes out ("-IOW")."""

from __future__ import annotations

from typing import Any


def known_areas(areas: dict[str, Any]) -> list[str]:
    """Every level 3 code of the areas file, sorted."""
    return sorted(code for codes in areas["region"].values() for code in codes)


def expand_areas(entries: list[str], areas: dict[str, Any]) -> list[str]:
    """The codes a list stands for, sorted. Raises KeyError with the entry that is neither code nor region."""
    known = set(known_areas(areas))
    found: set[str] = set()
    for entry in entries:
        if entry.startswith("@"):
            found.update(areas["region"][entry[1:]])
        elif entry.removeprefix("-") not in known:
            raise KeyError(entry)
        elif entry.startswith("-"):
            found.discard(entry[1:])
        else:
            found.add(entry)
    return sorted(found)


def named_regions(areas: dict[str, Any]) -> list[dict[str, Any]]:
    """Level 2 regions in the order of the scheme: name and the level 3 codes in it."""
    return [
        {"name": name, "codes": areas["region"][region]}
        for region, name in areas.get("region_name", {}).items()
    ]


def regions_said(codes: list[str], regions: list[dict[str, Any]]) -> list[str]:
    """The codes as regions in words: 'Middle Europe', or 'Eastern Canada (ONT, QUE)' where only a part is
    meant.
    """
    said = []
    for region in regions:
        meant = [code for code in region["codes"] if code in codes]
        if meant:
            said.append(
                region["name"]
                if len(meant) == len(region["codes"])
                else f"{region['name']} ({', '.join(meant)})"
            )
    return said
