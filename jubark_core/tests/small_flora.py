"""A flora made by hand for tests: taxa with exact weights, groups of weight 1, nothing unlisted."""

from __future__ import annotations

from typing import Any

from jubark_core.flora.model import Flora

PLAIN = {
    "organ": "leaf",
    "label": "",
    "how": "",
    "mistake": "a slip",
    "tools": ["eye"],
    "effort_s": 10,
    "reach": ["low_branch"],
    "visible": ["always"],
    "group": "g",
    "report_rate": 0.5,
    "wounds": False,
    "touch": False,
    "noticed": 0.9,
}


def character(kind: str, **more: Any) -> dict[str, Any]:
    return {**PLAIN, "kind": kind, "stages": ["mature"], **more}


def small_flora(
    characters: dict[str, dict[str, Any]], states: dict[str, dict[str, Any]], **more: Any
) -> Flora:
    """states: taxon -> character -> weights, or {mean, sd}."""
    taxa = {
        taxon: {
            "name": taxon.upper(),
            "rank": "species",
            "parent": None,
            "phenology": {},
            "states": {cid: [v if "mean" in v else {"weights": v}] for cid, v in own.items()},
        }
        for taxon, own in states.items()
    }
    return Flora(
        {
            "version": "by hand",
            "characters": characters,
            "taxa": taxa,
            "group_correlations": {"g": 0.0},
            **more,
        }
    )
