"""What the demonstration's crews judged: condition by parts, defects, veterans, worksheets. Invented, but
such that every case of the sheets is there once and more.
"""

from __future__ import annotations

import datetime
from random import Random
from typing import Any

# grades of base, trunk, scaffold, twigs, foliage that give the word in leaf (condition/scores.py)
GRADES: dict[str, tuple[tuple[int, ...], ...]] = {
    "good": ((4, 4, 4, 4, 4), (3, 4, 3, 4, 4), (4, 4, 3, 3, 3), (3, 3, 3, 4, 4)),
    "fair": ((3, 4, 4, 2, 3), (2, 3, 3, 4, 4), (3, 3, 2, 3, 3), (2, 4, 3, 3, 3)),
    "poor": ((1, 3, 2, 3, 3), (3, 3, 2, 1, 2), (3, 1, 2, 3, 4)),
    "dead": ((2, 3, 1, 0, 0),),
}
PARTS = ("roots_base", "trunk", "scaffold", "twigs", "foliage")
VETERANS = (("retrenching", "monitor"), ("reduced", "prop_reduce_or_move"), ("remnant", "stable"))
DEFECTS: tuple[dict[str, Any], ...] = (
    {"defect": "dead_limb", "part": "crown", "number": 2, "break_cm": 9.0, "over_target": "over_target"},
    {
        "defect": "cavity",
        "part": "trunk",
        "wall_cm": 7.0,
        "opening_percent": 20,
        "height_m": 1.8,
        "side": "ne",
    },
    {"defect": "lean", "part": "trunk", "lean_deg": 11.0, "lean": "corrected", "side": "s"},
    {"defect": "included_bark", "part": "trunk", "extent_percent": 60, "height_m": 3.5},
    {"defect": "decay_fungus", "part": "base", "species": "Kretzschmaria deusta", "number": 3, "side": "w"},
    {"defect": "hanger", "part": "crown", "number": 1, "break_cm": 12.0, "over_target": "over_target"},
    {"defect": "girdling_root", "part": "base", "extent_percent": 30},
    {"defect": "raised_grade", "part": "base", "extent_percent": 100, "since_year": 2019},
)
# what files of trees hold besides, each of one plant in so many
FILES: tuple[tuple[str, dict[str, Any]], ...] = (
    ("status", {"owner": "shared", "responsible": "the parish", "on_boundary": True, "worth": "high"}),
    ("constraint", {"constraint": "preservation_order", "authority": "the borough", "reference": "12/2011"}),
    ("place", {"surface": "grate", "rooting_m3": 9.0, "soil": "made_ground", "drainage": "slow"}),
    ("habitat", {"feature": "woodpecker_hole", "height_m": 7.5, "side": "se", "in_use": "not_known"}),
    ("hardware", {"hardware": "cable", "height_m": 9.0, "state": "sound", "next_inspection": "2026-12-01"}),
    ("photo_point", {"name": "from the gate", "bearing_deg": 40.0, "stand": "by the third post"}),
    (
        "enquiry",
        {"about": "shade_or_view", "said": "It takes the light.", "answer_by": "2026-11-27"},
    ),
    (
        "incident",
        {"incident": "limb_failed", "harm": "none", "part_cm": 18.0, "done": "the limb was cleared"},
    ),
    ("sample", {"number": "S-7", "part": "roots", "sent_to": "the plant clinic"}),
)
# what stands or climbs round trees, each of one plant in so many
AROUND: tuple[tuple[str, dict[str, Any]], ...] = (
    ("headroom", {"over": "path", "clear_m": 2.1}),
    ("climber", {"climber": "hedera-helix", "reaches": "trunk", "hides": True}),
    ("works", {"works": "trench", "distance_m": 2.5, "begins": "2026-12-07", "ends": "2027-01-29"}),
    ("headroom", {"over": "road", "clear_m": 3.6}),
    ("climber", {"climber": "celastrus-orbiculatus", "reaches": "crown"}),
    ("place", {"surface": "grass", "overhead_m": 2.4}),
)
# part, target, failure, impact, consequence, base seen, crown seen: the two sheets of the story first
SHEETS = (
    ("whole tree", "road", "imminent", "high", "severe", "not_visible", "whole"),
    ("dead limb", "footpath", "possible", "low", "minor", "partly", "whole"),
    ("dead limb", "footpath", "probable", "high", "significant", "all_round", "whole"),
    ("union", "parked vehicles", "possible", "high", "minor", "all_round", "whole"),
    ("whole tree", "building", "probable", "high", "severe", "all_round", "partly"),
    ("dead limb", "garden", "imminent", "low", "minor", "all_round", "whole"),
)
EVERY_SHEET, EVERY_DEFECT, EVERY_BY_WORD = 13, 9, 3  # how often: each so many plants
GROWN_CM = 25.0  # a smaller tree has rarely a worksheet or much of a file


def condition(number: int, word: str, leafless: bool, stage: str) -> dict[str, Any]:
    """A condition that reads `word`: by its parts, or, by a third of the crews, in one word."""
    rng = Random(f"parts {number} {word}")
    veteran = (
        dict(zip(("vitality", "stability"), rng.choice(VETERANS), strict=True)) if stage == "veteran" else {}
    )
    if number % EVERY_BY_WORD == 0 or leafless:
        return {"word": word, "leafless": leafless, **veteran}
    parts: dict[str, Any] = dict(zip(PARTS, rng.choice(GRADES[word]), strict=True))
    seen = {"base_visible": "all_round", "crown_visible": "whole"}
    if number % 17 == 4:  # ivy hides the base: the word is 'at most'
        parts["roots_base"], seen["base_visible"] = "not_seen", "not_visible"
    return {"parts": parts, **seen, **veteran}


def defect(number: int) -> dict[str, Any] | None:
    """The defect of a plant, where it has one."""
    return None if number % EVERY_DEFECT else DEFECTS[number // EVERY_DEFECT % len(DEFECTS)]


def in_its_file(number: int) -> tuple[tuple[str, dict[str, Any]], ...]:
    """What the file of a plant holds besides: of one in seven, one thing; of one in 23, what is round it."""
    held = (FILES[number // 7 % len(FILES)],) if number % 7 == 3 else ()
    around = (AROUND[number // 23 % len(AROUND)],) if number % 23 == 8 else ()
    return (*held, *around)


def risk(number: int, on: datetime.date) -> dict[str, Any] | None:
    """The worksheet of a plant, where it has one."""
    if number % EVERY_SHEET != 5:
        return None
    at = number // EVERY_SHEET % len(SHEETS)
    part, target, failure, impact, consequence, base, crown = SHEETS[at]
    row: dict[str, Any] = {"part": part, "target": target, "failure": failure, "impact": impact}
    row |= {"consequence": consequence, "occupancy": ("frequent", "occasional", "constant")[at % 3]}
    if failure == "probable":
        row |= {"work": "prune it, and move the bench", "failure_after": "possible", "impact_after": "low"}
    sheet: dict[str, Any] = {
        "rows": [row],
        "years": 1,
        "level": "basic",
        "base_seen": base,
        "crown_seen": crown,
    }
    if failure == "imminent" and impact == "high":
        sheet |= {"kept_out": "done", "called": "the highway office"}
    later = on + datetime.timedelta(days=365)
    return sheet | ({"no_next": True} if at == 3 else {"next_inspection": later.isoformat()})
