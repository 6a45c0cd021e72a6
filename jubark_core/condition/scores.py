"""Condition by parts: graded words, health and structure apart, one word for the whole that no good crown can
gild.

The rule, ours and open (docs/decisions): health is the mean of the parts that count for health, but never
more than one grade above its worst; structure is the worst of roots and base, trunk and scaffold. The word
for the whole follows from health, and structure sets a bound to it: sound good, small faults fair, anything
worse poor at best. So a rotten base stays in sight under the greenest crown, and no living tree is called
dead for a hollow. Common practice for the grades; no published score is claimed.
"""

from __future__ import annotations

import math
import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.checks import require_one_of
from jubark_core.errors import InputError

PARTS_FILE, DEFECTS_FILE = (Path(__file__).with_name(name) for name in ("parts.toml", "defects.toml"))
NOT_SEEN = "not_seen"
GRADES = 5
WORDS = ("dead", "very_poor", "poor", "fair", "good")  # the whole stem, by its health
BEST_BY_STRUCTURE = (
    2.0,
    2.0,
    2.0,
    3.0,
    4.0,
)  # the best whole a structure of that grade allows: poor, fair, good


@lru_cache(maxsize=1)
def parts() -> dict[str, dict[str, Any]]:
    """Part -> label, counts (health, structure), grades worst first, leafless."""
    return tomllib.loads(PARTS_FILE.read_text(encoding="utf-8"))


@lru_cache(maxsize=1)
def defects() -> dict[str, dict[str, Any]]:
    """Defect -> label, parts it is looked for on, what its extent measures."""
    return tomllib.loads(DEFECTS_FILE.read_text(encoding="utf-8"))


def condition(scores: dict[str, Any], leafless: bool = False) -> dict[str, Any]:
    """Health, structure and the whole from the grades of the parts.

    scores: part -> 0 (worst) to 4, or `not_seen`; parts left out are not seen. leafless: out of leaf, foliage
    cannot be graded. Returns health, structure (0..4 or None), whole (a word of WORDS or `not_seen`), held_by
    (the worst part, where the whole is not good), not_seen. Raises InputError naming the part.
    """
    read: dict[str, int] = {}
    for part, grade in scores.items():
        require_one_of("parts", part, parts())
        if grade == NOT_SEEN:
            continue
        if isinstance(grade, bool) or not isinstance(grade, int) or not 0 <= grade < GRADES:
            raise InputError(f"parts.{part}", grade, f"a grade from 0 to {GRADES - 1}, or {NOT_SEEN}")
        if leafless and parts()[part].get("leafless") == NOT_SEEN:
            raise InputError(
                f"parts.{part}",
                grade,
                f"{NOT_SEEN}: out of leaf the {parts()[part]['label']} cannot be graded",
            )
        read[part] = grade
    living = [read[p] for p in read if "health" in parts()[p]["counts"]]
    holding = [read[p] for p in read if "structure" in parts()[p]["counts"]]
    health = min(math.fsum(living) / len(living), min(living) + 1.0) if living else None
    structure = float(min(holding)) if holding else None
    bounds = [
        health if health is not None else 4.0,
        BEST_BY_STRUCTURE[int(structure)] if structure is not None else 4.0,
    ]
    whole = min(bounds) if read else None
    worst = min(read, key=lambda p: (read[p], list(parts()).index(p))) if read else None
    return {
        "health": health,
        "structure": structure,
        "whole": NOT_SEEN if whole is None else WORDS[_nearest(whole)],
        "held_by": worst if whole is not None and whole < GRADES - 1 else None,
        "not_seen": [p for p in parts() if p not in read],
    }


def _nearest(grade: float) -> int:
    return math.floor(grade + 0.5)
