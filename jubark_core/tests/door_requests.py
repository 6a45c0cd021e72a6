"""A sound request for every operation of the door, for whoever tests the door or what is made from it."""

from __future__ import annotations

from typing import Any

PLACE = {"lat": 40.5, "lon": -79.3, "elevation_m": 310}
CASE: dict[str, Any] = {
    "on": "2026-10-20",
    "areas": ["PEN"],
    "observations": [
        {"id": "first", "character": "leaf.arrangement", "state": "opposite"},
        {"id": "second", "character": "leaf.side_veins", "values": [9, 10, 9, 11]},
    ],
}
RISK_ROW = {
    "part": "limb",
    "target": "path",
    "failure": "probable",
    "impact": "high",
    "consequence": "severe",
}
IDS = [f"0190aaaa-0000-7000-8000-00000000000{i}" for i in range(6)]
VISIT: dict[str, Any] = {
    "on": "2026-10-20",
    "entries": [
        {
            "id": IDS[0],
            "kind": "measurement",
            "body": {"quantity": "dbh_cm", "raw": {"value": 306.0}, "at_height_m": 1.37},
        },
        {
            "id": IDS[1],
            "kind": "measurement",
            "body": {"quantity": "height_m", "raw": {"angles": {"distance_m": 20, "top": 45, "base": -5}}},
        },
        {"id": IDS[2], "kind": "condition", "body": {"parts": {"trunk": 3, "twigs": 4}, "leafless": True}},
        {
            "id": IDS[3],
            "kind": "risk",
            "body": {
                "rows": [RISK_ROW],
                "years": 1,
                "level": "basic",
                "base_seen": "partly",
                "crown_seen": "whole",
                "no_next": True,
            },
        },
        {"id": IDS[4], "kind": "note", "body": {"text": "by the gate"}},
    ],
    "known": {
        "taxon": "acer-rubrum",
        "before": {
            "dbh_cm": {
                "value": 30.0,
                "on": "2025-10-20",
                "at_height_m": 1.37,
                "method": "taped",
                "stem_form": "upright",
            }
        },
        "neighbours": {"dbh_cm": [28.0, 31.0, 33.0]},
    },
}
TARGETS = [{"distance_m": 8.0, "occupancy": "frequent"}]
WALKED = {"on": "2026-06-01", "level": "limited_visual", "walked": True, "inspector": "Ada"}
WORK = {
    "on": "2026-06-10",
    "lat": 40.5,
    "lon": -79.3,
    "areas": ["PEN"],
    "host": [{"taxon": "fraxinus-americana", "probability": 0.98}],
    "crown_loss_percent": 60,
    "height_m": 18,
    "targets": [{"kind": "path", "distance_m": 6}],
    "causes_km": {"emerald-ash-borer": 8},
}
AILING = {
    "on": "2026-06-20",
    "lat": 40.5,
    "lon": -79.3,
    "areas": ["PEN"],
    "host": [
        {"taxon": "fraxinus-pennsylvanica", "probability": 0.8},
        {"taxon": "fraxinus-americana", "probability": 0.2},
    ],
    "signs": [
        {"sign": "exit_hole_d", "where": "trunk", "extent": "some", "size_mm": 3.5},
        {"sign": "woodpecker_flecking"},
        {"sign": "holes_in_rows", "none": True},
    ],
    "neighbours": {"same_host": 12, "same_host_affected": 9, "others_affected": 0},
}
JOB = "10000000-0000-4000-8000-000000000777"
TREE: dict[str, Any] = {
    "on": "2026-10-20",
    "records": [
        {
            "record": IDS[5],
            "visits": [
                {
                    "id": IDS[4],
                    "local_date": "2026-10-20",
                    "observed_at": "2026-10-20T09:00:00+00:00",
                    "entries": [
                        *VISIT["entries"],
                        {"id": JOB, "kind": "work", "body": {"job": JOB, "rule": "R06", "step": "accepted"}},
                    ],
                }
            ],
        }
    ],
}

SOUND: dict[str, Any] = {
    "name": CASE,
    "rank": CASE,
    "next": CASE,
    "explain": CASE,
    "not-separated-from": {"case": CASE, "taxon": "acer-saccharum"},
    "find-names": {"words": "box-elder"},
    "vocabulary": {},
    "tiles": {},
    "plate": {"taxon": "acer-rubrum", "part": "leaf", "on": "2026-07-10", "place": PLACE, "stage": "mature"},
    "crown-cards": {"quantity": "dieback_pct"},
    "species": {"taxon": "acer-rubrum"},
    "species-list": {"on": "2026-07-01", "place": PLACE, "counts": {"acer-rubrum": 1}},
    "side-by-side": {"taxa": ["fraxinus-americana", "fraxinus-pennsylvanica"], "on": "2026-01-20"},
    "season": {"on": "2026-07-01", "place": PLACE, "counts": {"acer-rubrum": 1}},
    "calendar": {"taxon": "acer-rubrum", "place": PLACE, "on": "2026-01-09"},
    "year": {"on": "2026-01-09", "place": PLACE, "counts": {"acer-rubrum": 1}},
    "check-visit": VISIT,
    "tree-file": TREE,
    "step-here": {
        "tree": TREE,
        "around": {"lat": 40.5, "lon": -79.3, "areas": ["PEN"]},
        "job": JOB,
        "step": "started",
        "at": "2026-10-20T13:00:00-04:00",
    },
    "space": {"taxon": "quercus-alba", "things": [{"kind": "wire", "distance_m": 1, "height_m": 8}]},
    "protect": {
        "standard": "bs5837",
        "stems_cm": [15.0, 20.0, 25.0],
        "at_height_m": 1.3,
        "crown_edge_m": 9.0,
        "veteran": True,
    },
    "carbon": {
        "trees": [
            {"taxon": "quercus-alba", "stems_cm": [30.0, 12.0, 1.0]},
            {"taxon": "acer-platanoides", "stems_cm": [20.0]},
            {"taxon": "quercus-alba", "stems_cm": [30.0], "topped": True},
        ],
        "open_grown": True,
    },
    "growth": {
        "before": {"cm": 30.0, "on": "2022-05-01", "at_height_m": 1.37},
        "now": {"cm": 32.0, "on": "2026-05-01", "at_height_m": 1.37, "method": "taped"},
    },
    "where-to-measure": {
        "form": "fork_below",
        "breast_height_m": 1.37,
        "rules": {"low_fork": "narrowest_below", "fork_by": "pith"},
    },
    "coverage": {
        "on": "2027-01-02",
        "regime": {"rules": [{"zone": "frequent", "level": "basic", "months": 12}]},
        "trees": [
            {"tree": "T3", "since": "2026-01-01", "looks": [], "height_m": 12.0, "targets": TARGETS},
            {"tree": "T1", "since": "2026-01-01", "looks": [WALKED], "targets": TARGETS},
        ],
    },
    "plan-day": {
        "on": "2026-05-04",
        "minutes": 420,
        "blocks": [{"block": "b", "name": "North", "biosecurity": "clean"}],
        "tasks": [
            {"tree": "T1", "block": "b", "task": "overdue", "days": 3, "lat": 40.5, "lon": -79.3},
            {"tree": "T2", "block": "b", "task": "name", "says": "buds", "lat": 40.501, "lon": -79.3},
        ],
    },
    "storm-doubles": {
        "down": [
            {"tree": "T1", "by": "Ada", "lat": 40.5, "lon": -79.3},
            {"tree": "T2", "by": "Ben", "lat": 40.50005, "lon": -79.3, "accuracy_m": 4.0},
        ]
    },
    "diagnose": AILING,
    "signs-to-look-for": AILING,
    "causes": {"on": "2026-07-01", "place": PLACE, "areas": ["PEN"], "counts": {"fagus-grandifolia": 12}},
    "cause": {"agent": "beech-leaf-disease", "on": "2026-07-01", "place": PLACE, "areas": ["PEN"]},
    "host-exposure": {"plants": [{"taxon": "fagus-grandifolia", "stems": 4, "basal_area_m2": 0.4}]},
    "pest-clock": {
        "on": "2026-05-04",
        "place": PLACE,
        "counts": {"fraxinus-americana": 3},
        "record": {"start": "2026-01-01", "min_c": [0.0, None, 1.5], "max_c": [9.0, 12.0, 14.5]},
    },
    "degree-days": {
        "record": {"start": "2026-05-01", "min_c": [8.9, None, 16.7], "max_c": [21.0, 20.0, 22.0]},
        "base": 50,
        "unit": "F",
        "method": "single sine",
    },
    "propose": WORK,
    "job-step": {"case": WORK, "rule": "R24", "step": "planned", "on": "2026-12-01", "equipment": "climb"},
    "upgrade": {"thing": "plant", "version": 1, "record": {"form": "stem"}},
}
