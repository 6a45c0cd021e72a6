"""Cases of trees as rules of work take them, for the tests of work."""

from __future__ import annotations

from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.work.propose import propose

FLORA = shipped_flora()
HERE: dict[str, Any] = {"lat": 40.5, "lon": -79.3, "areas": ["PEN"]}
BRITAIN: dict[str, Any] = {"lat": 52.0, "lon": -1.0, "areas": ["GRB"]}
PATH = [{"kind": "path", "distance_m": 5}]
PLAY = [{"kind": "playground", "distance_m": 4}]


def case(
    taxon: str = "acer-saccharum", on: str = "2026-06-10", probability: float = 1.0, **more: Any
) -> dict[str, Any]:
    return {"on": on, "host": [{"taxon": taxon, "probability": probability}], **HERE, **more}


def fired(given_: dict[str, Any]) -> dict[str, Any]:
    return {p["rule"]: p for p in propose(given_, FLORA)["proposals"]}


def held(given_: dict[str, Any]) -> dict[str, str]:
    return {h["rule"]: h["why"] for h in propose(given_, FLORA)["held_back"]}


WANTS = {"wanted": ["live_pruning"]}
