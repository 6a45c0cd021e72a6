"""Turns the checked source data into the compiled flora: one JSON-ready dict in a published schema
(docs/flora.md).

Schema: version; characters {id: full metadata, organ defaults merged}; organs; areas; regions; vector_season;
group_correlations; taxa {id: node}. A node has name, rank, parent, and for
leaves of the tree: common, synonyms, native, introduced, invasive, commonness (wild and planted, by area),
habitat, sexes, phenology (day of year), cautions, look_alikes, cultivars and `states`: {character:
[variant]}, a variant being {stage?, season?, where?} with weights, with low and high, or with applies =
false where the character makes no sense on the taxon.
"""

from __future__ import annotations

import datetime
from dataclasses import asdict
from typing import Any

from jubark_core.flora.areas import area_index, by_area, expand_areas, known_areas, named_regions
from jubark_core.flora.notation import DOES_NOT_APPLY, is_by_time, variant_key, weights_of
from jubark_core.records.words import STAGES
from jubark_core.season.calendars import HOME, calendars

PLAIN_KEYS = (
    "cautions",
    "uses",
    "pests",
    "irritant",
    "look_alikes",
    "hardiness",
    "height_m",
    "spread_m",
    "longevity_y",
    "protected_note",
    "winter_note",
    "stop_at",
    "trade",
    "poison",
    "deadly_double_of",
    "habitat",
    "sexes",
    "common",
    "parents",
    "rhythm",
    "inseparable_in",
    "shared_names",
    "wildlife",
    "sources",
)


def compile_flora(
    vocabulary: dict[str, Any],
    areas: dict[str, Any],
    families: dict[str, Any],
    taxa_files: list[dict[str, Any]],
    group_correlations: dict[str, float],
    version: str,
) -> dict[str, Any]:
    """The compiled flora of already checked sources. Pure: same input, same output."""
    taxa: dict[str, Any] = {}
    origins: dict[str, Any] = {}
    for fid, family in families["family"].items():
        taxa[fid] = {
            "name": family["name"],
            "common": [family["common"]],
            "rank": "family",
            "parent": None,
        }
    for data in taxa_files:
        family = families["family"][data["genus"]["family"]]
        if "origin" in data:
            origins[data["genus"]["id"]] = data["origin"]
        taxa |= _genus_file(
            data,
            {**families.get("defaults", {}).get("characters", {}), **family.get("characters", {})},
            areas,
        )
    _both_ways(taxa)
    for leaf in taxa.values():
        if leaf.get("parents"):
            _fill_from_parents(leaf, [taxa[p] for p in leaf["parents"] if p in taxa])
    return {
        "schema": 1,
        "version": version,
        "root_missing": _missing(families),
        "organs": {k: {"label": v["label"]} for k, v in vocabulary["organ"].items()},
        "characters": {
            cid: _character(cid, c, vocabulary["organ"]) for cid, c in vocabulary["character"].items()
        },
        "areas": known_areas(areas),
        "area": area_index(areas),
        "planted_share": areas["planted_share"],
        "regions": named_regions(areas),
        "vector_season": areas.get("vector_season", {}),
        "group_correlations": group_correlations,
        "origins": origins,
        "taxa": taxa,
    }


def _character(cid: str, c: dict[str, Any], organs: dict[str, Any]) -> dict[str, Any]:
    organ = cid.split(".")[0]
    defaults = {k: v for k, v in organs[organ].items() if k != "label"}
    merged = {
        "stages": list(STAGES),
        "group": organ,
        "report_rate": 0.5,
        "wounds": False,
        "touch": False,
        **defaults,
        **c,
        "organ": organ,
    }
    if "states" in merged:
        labels = merged.get("labels", {})
        merged["labels"] = {s: labels.get(s, s.replace("_", " ")) for s in merged["states"]}
    return merged


def _genus_file(data: dict[str, Any], of_family: dict[str, Any], areas: dict[str, Any]) -> dict[str, Any]:
    """The nodes of one file: genus, its sections, its taxa; members only say what differs from what they
    share.
    """
    genus = data["genus"]
    nodes: dict[str, Any] = {
        genus["id"]: {
            "name": genus["name"],
            "common": [genus["common"]],
            "rank": "genus",
            "parent": genus["family"],
            "missing": _missing(genus),
            "synonyms": genus.get("synonyms", []),
        }
    }
    shared = {genus["id"]: {**of_family, **genus.get("characters", {})}}
    said_by = {
        genus["id"]: dict.fromkeys(of_family, genus["family"])
        | dict.fromkeys(genus.get("characters", {}), genus["id"])
    }
    for section in data.get("section", []):
        parent = section.get("parent", genus["id"])
        nodes[section["id"]] = {
            "name": section["name"],
            "common": [section["common"]] if "common" in section else [],
            "rank": section.get("rank", "section"),
            "parent": parent,
        }
        shared[section["id"]] = {**shared[parent], **section.get("characters", {})}
        said_by[section["id"]] = said_by[parent] | dict.fromkeys(section.get("characters", {}), section["id"])
    for taxon in data.get("taxon", []):
        parent = taxon.get("section", genus["id"])
        nodes[taxon["id"]] = _leaf(
            {**genus.get("defaults", {}), **taxon}, parent, shared[parent], said_by[parent], areas, genus
        )
    return nodes


def _leaf(
    taxon: dict[str, Any],
    parent: str,
    shared: dict[str, Any],
    said_by: dict[str, str],
    areas: dict[str, Any],
    genus: dict[str, Any],
) -> dict[str, Any]:
    """A node of the flora. shared: what genus and section say; said_by: which of them says each."""
    own = {**shared, **taxon["characters"]}
    inherited: dict[str, list[str]] = {}
    for cid in sorted(shared.keys() - taxon["characters"].keys()):
        if shared[cid] != "-":
            inherited.setdefault(said_by[cid], []).append(cid)
    leaf = {key: taxon[key] for key in PLAIN_KEYS if key in taxon}
    leaf |= {key: expand_areas(taxon.get(key, []), areas) for key in ("native", "introduced", "invasive")}
    leaf |= {
        "name": taxon["name"],
        "rank": taxon.get("rank", "species"),
        "parent": parent,
        "inherited": inherited,
        "synonyms": taxon.get("synonyms", []),
        "commonness": {side: by_area(taxon.get(side, {})) for side in ("wild", "planted")},
        "reference": taxon.get("reference", genus.get("reference", asdict(calendars().anchors[HOME].at))),
        "phenology": _dated(taxon["phenology"]),
        "phenology_at": {anchor: _dated(own) for anchor, own in taxon.get("phenology_at", {}).items()},
        "states": {cid: _variants(value) for cid, value in own.items() if value != "-"},
        "cultivars": [
            {
                "kind": c["kind"],
                "share": c["share"],
                "bears": c.get("bears", 1.0),
                "states": {cid: _variants(v) for cid, v in c.get("characters", {}).items()},
            }
            for c in taxon.get("cultivar", [])
        ],
    }
    return leaf


def _dated(phenology: dict[str, Any]) -> dict[str, Any]:
    return {event: _days(value) for event, value in phenology.items()}


def _missing(node: dict[str, Any]) -> dict[str, dict[str, int]]:
    """Species the flora does not hold, by side and area."""
    return {
        side: {area: int(n) for area, n in by_area(node.get(f"missing_{side}", {})).items()}
        for side in ("wild", "planted")
    }


def _both_ways(taxa: dict[str, Any]) -> None:
    """What A says of its look-alike B holds for B too: the pair is written once and stands in both."""
    for taxon in sorted(t for t, node in taxa.items() if node.get("look_alikes")):
        for pair in taxa[taxon]["look_alikes"]:
            others = taxa[pair["taxon"]].setdefault("look_alikes", [])
            if all(other["taxon"] != taxon for other in others):
                others.append({"taxon": taxon, "by": pair["by"]})


def _variants(value: Any) -> list[dict[str, Any]]:
    if is_by_time(value):
        return [{**variant_key(key), **_shown(part)} for key, part in value.items()]
    return [_shown(value)]


def _shown(value: Any) -> dict[str, Any]:
    if value == DOES_NOT_APPLY:
        return {"applies": False}
    return {"low": value[0], "high": value[1]} if isinstance(value, list) else {"weights": weights_of(value)}


def _fill_from_parents(hybrid: dict[str, Any], parents: list[dict[str, Any]]) -> None:
    """A hybrid takes what it does not say itself from both parents: mean weights, and ranges that reach from
    one to the other.
    """
    known = [set(p["states"]) for p in parents]
    for cid in sorted(set.intersection(*known) if known else set()):
        if cid in hybrid["states"]:
            continue
        hybrid.setdefault("from_parents", []).append(cid)
        first, second = (p["states"][cid][0] for p in (parents[0], parents[-1]))
        if not ({"weights", "low"} & first.keys() and {"weights", "low"} & second.keys()):
            continue
        if "weights" in first and "weights" in second:
            states = {*first["weights"], *second["weights"]}
            hybrid["states"][cid] = [
                {
                    "weights": {
                        s: (first["weights"].get(s, 0.01) + second["weights"].get(s, 0.01)) / 2
                        for s in sorted(states)
                    }
                }
            ]
        elif "low" in first and "low" in second:
            hybrid["states"][cid] = [
                {"low": min(first["low"], second["low"]), "high": max(first["high"], second["high"])}
            ]


def _days(value: Any) -> int | list[int]:
    """MM-DD (or a pair) as day of the year, counted in a common year."""
    if isinstance(value, list):
        return [datetime.date.fromisoformat(f"2025-{v}").timetuple().tm_yday for v in value]
    return datetime.date.fromisoformat(f"2025-{value}").timetuple().tm_yday
