"""Turns the checked source data into the compiled flora: one JSON-ready dict in a published schema.

Schema: version; characters {id: full metadata, organ defaults merged}; organs; areas; group_weights;
taxa {id: node}. A node has name, rank, parent, and for leaves of the tree: common, synonyms, native,
introduced, invasive, commonness, habitat, sexes, phenology (day of year), cautions, look_alikes and
`states`: {character: [variant]}, a variant being {stage?, season?, weights} or {stage?, season?, low, high}.
"""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.flora.areas import expand_areas, known_areas
from jubark_core.flora.words import FREQUENCY, SEASONS, STAGES

REFERENCE = {"lat": 40.5, "lon": -79.3, "elevation_m": 310}
PLAIN_KEYS = (
    "cautions", "uses", "pests", "irritant", "look_alikes", "hardiness", "height_m", "spread_m", "longevity_y",
    "protected_note", "winter_note", "stop_at", "commonness", "habitat", "sexes", "common",
)  # fmt: skip


def compile_flora(
    vocabulary: dict[str, Any],
    areas: dict[str, Any],
    families: dict[str, Any],
    taxa_files: list[dict[str, Any]],
    group_weights: dict[str, float],
    version: str,
) -> dict[str, Any]:
    """The compiled flora of already checked sources. Pure: same input, same output."""
    taxa: dict[str, Any] = {}
    for fid, family in families["family"].items():
        taxa[fid] = {"name": family["name"], "common": [family["common"]], "rank": "family", "parent": None, "missing": family["missing"]}
    for data in taxa_files:
        genus = data["genus"]
        taxa[genus["id"]] = {
            "name": genus["name"], "common": [genus["common"]], "rank": "genus", "parent": genus["family"], "missing": genus["missing"],
        }  # fmt: skip
        for taxon in data["taxon"]:
            parent = genus["id"]
            if section := taxon.get("section"):
                taxa[section["id"]] = {"name": section["name"], "common": [], "rank": "section", "parent": genus["id"], "missing": 0}
                parent = section["id"]
            taxa[taxon["id"]] = _leaf(taxon, parent, genus.get("characters", {}), areas)
    return {
        "schema": 1,
        "version": version,
        "root_missing": families["root_missing"],
        "organs": {k: {"label": v["label"]} for k, v in vocabulary["organ"].items()},
        "characters": {cid: _character(cid, c, vocabulary["organ"]) for cid, c in vocabulary["character"].items()},
        "areas": known_areas(areas),
        "group_weights": group_weights,
        "taxa": taxa,
    }


def _character(cid: str, c: dict[str, Any], organs: dict[str, Any]) -> dict[str, Any]:
    organ = cid.split(".")[0]
    defaults = {k: v for k, v in organs[organ].items() if k != "label"}
    merged = {"stages": list(STAGES), "group": organ, "report_rate": 0.5, "wounds": False, "touch": False, **defaults, **c, "organ": organ}
    if "states" in merged:
        labels = merged.get("labels", {})
        merged["labels"] = {s: labels.get(s, s.replace("_", " ")) for s in merged["states"]}
    return merged


def _leaf(taxon: dict[str, Any], parent: str, shared: dict[str, Any], areas: dict[str, Any]) -> dict[str, Any]:
    states = {cid: _variants(value) for cid, value in {**shared, **taxon["characters"]}.items()}
    leaf = {key: taxon[key] for key in PLAIN_KEYS if key in taxon}
    leaf |= {key: expand_areas(taxon.get(key, []), areas) for key in ("native", "introduced", "invasive")}
    leaf |= {
        "name": taxon["name"],
        "rank": taxon.get("rank", "species"),
        "parent": parent,
        "synonyms": taxon.get("synonyms", []),
        "reference": REFERENCE,
        "phenology": {event: _days(value) for event, value in taxon["phenology"].items()},
        "states": states,
        "cultivar_states": {cid: _variants(v) for cid, v in taxon.get("cultivar_states", {}).items()},
    }
    return leaf


def _variants(value: Any) -> list[dict[str, Any]]:
    if isinstance(value, dict) and value and set(value) <= {*STAGES, *SEASONS}:
        return [{("season" if key in SEASONS else "stage"): key, **_weights(part)} for key, part in value.items()]
    return [_weights(value)]


def _weights(value: Any) -> dict[str, Any]:
    if isinstance(value, list):
        return {"low": value[0], "high": value[1]}
    if isinstance(value, str):
        return {"weights": {value: FREQUENCY["always"]}}
    return {"weights": {state: FREQUENCY[word] for state, word in value.items()}}


def _days(value: Any) -> int | list[int]:
    """MM-DD (or a pair) as day of the year, counted in a common year."""
    if isinstance(value, list):
        return [datetime.date.fromisoformat(f"2025-{v}").timetuple().tm_yday for v in value]
    return datetime.date.fromisoformat(f"2025-{value}").timetuple().tm_yday
