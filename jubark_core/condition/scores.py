"""Condition by two judgements, shown together: what holds the tree up, and how it lives.

Structure is the worst of base, trunk and scaffold, where a fault of the scaffold that one pruning mends costs
less. Health is the mean of twigs and foliage, never more than one grade above the worse of them. One table
makes the word of the two, so that no good crown gilds a rotten base, and no living tree is called dead for a
hollow. What was not seen of any part makes the word 'at most'; out of
leaf it is a winter view. Condition is never an input of risk. The rule is ours
(docs/size-and-condition.md); the grades are common practice, and no published score is claimed.
"""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple

from jubark_core.checks import require_one_of
from jubark_core.errors import InputError

PARTS_FILE, DEFECTS_FILE = (Path(__file__).with_name(name) for name in ("parts.toml", "defects.toml"))
NOT_SEEN = "not_seen"
GRADES = 5
BEST = GRADES - 1
WORDS = ("dead", "very_poor", "poor", "fair", "good")  # worst first
BASE_AND_TRUNK = ("roots_base", "trunk")
LIVING = ("twigs", "foliage")
SCAFFOLD = (0, 1, 3, 4, 4)  # what a grade of the scaffold counts for in structure
BEST_UNSEEN = "fair"  # the best word where base, trunk or scaffold was not seen

# row: health 0 to 4; column: structure 0 to 4
WHOLE = (
    ("dead", "dead", "dead", "dead", "dead"),
    ("very_poor", "very_poor", "very_poor", "poor", "poor"),
    ("very_poor", "poor", "poor", "fair", "fair"),
    ("very_poor", "poor", "fair", "fair", "good"),
    ("very_poor", "poor", "fair", "good", "good"),
)


class Whole(NamedTuple):
    """The word of both judgements. structure, health: 0 to 4, None where too little was seen."""

    health: int | None
    structure: int | None
    word: str
    at_most: bool


@lru_cache(maxsize=1)
def parts() -> dict[str, dict[str, Any]]:
    """Part -> label, counts (health or structure), grades worst first, leafless, unseen."""
    return tomllib.loads(PARTS_FILE.read_text(encoding="utf-8"))


@lru_cache(maxsize=1)
def defects() -> dict[str, dict[str, Any]]:
    """Defect -> label, what it is, parts it is looked for on, the measures that fit it."""
    return tomllib.loads(DEFECTS_FILE.read_text(encoding="utf-8"))


def condition(scores: dict[str, Any], leafless: bool = False, buds_seen: bool = False) -> dict[str, Any]:
    """Health, structure and the whole from the grades of the parts.

    scores: part -> 0 (worst) to 4, or `not_seen`; parts left out are not seen. leafless: out of leaf, foliage
    cannot be graded. buds_seen: out of leaf, live buds and cambium were looked for: without it no tree is
    called dead. Returns health, structure (0..4 or None), whole (a word of WORDS or `not_seen`), at_most
    (what was not seen could only make it worse), winter_view, held_by (the part that decides, where the whole
    is not good), not_seen. Raises InputError naming the part.
    """
    read = _grades(scores, leafless)
    found = _whole(read, leafless, buds_seen)
    return {
        "health": found.health,
        "structure": found.structure,
        "whole": found.word,
        "at_most": found.at_most,
        "winter_view": leafless and found.word != NOT_SEEN,
        "held_by": _held_by(read, found),
        "not_seen": [p for p in parts() if p not in read],
    }


def _grades(scores: dict[str, Any], leafless: bool) -> dict[str, int]:
    read: dict[str, int] = {}
    for part, grade in scores.items():
        require_one_of("parts", part, parts())
        if grade == NOT_SEEN:
            continue
        if isinstance(grade, bool) or not isinstance(grade, int) or not 0 <= grade < GRADES:
            raise InputError(f"parts.{part}", grade, f"a grade from 0 to {BEST}, or {NOT_SEEN}")
        if leafless and parts()[part].get("leafless") == NOT_SEEN:
            raise InputError(
                f"parts.{part}",
                grade,
                f"{NOT_SEEN}: out of leaf the {parts()[part]['label']} cannot be graded",
            )
        read[part] = grade
    return read


def _whole(read: dict[str, int], leafless: bool, buds_seen: bool) -> Whole:
    health = _health(read, leafless, buds_seen)
    structure = (
        min(*(read.get(p, BEST) for p in BASE_AND_TRUNK), SCAFFOLD[read.get("scaffold", BEST)])
        if any(p in read for p in BASE_AND_TRUNK)
        else None
    )
    if health is None or structure is None:
        return Whole(health, structure, NOT_SEEN, False)
    word = WHOLE[health][structure]
    if word == "dead":
        return Whole(health, structure, word, False)
    if not all(p in read for p in (*BASE_AND_TRUNK, "scaffold")):
        return Whole(health, structure, min(word, BEST_UNSEEN, key=WORDS.index), True)
    # out of leaf nobody can see the foliage: the word stands as a winter view
    return Whole(health, structure, word, not all(p in read or (leafless and p == "foliage") for p in LIVING))


def _health(read: dict[str, int], leafless: bool, buds_seen: bool) -> int | None:
    """0 only where twigs and foliage are both dead, or, out of leaf, the twigs with buds looked at."""
    living = [read[p] for p in LIVING if p in read]
    if not living:
        return None
    if len(living) == 1:
        return max(living[0], 0 if leafless and buds_seen else 1)
    least = 0 if max(living) == 0 else 1
    return max(least, min(sum(living) // 2, min(living) + 1))


def _held_by(read: dict[str, int], found: Whole) -> str | None:
    """The part that decides: the worst of the judgement that is lower."""
    if found.health is None or found.structure is None or found.word == WORDS[BEST]:
        return None
    by_structure = found.structure <= found.health
    counted = {
        part: SCAFFOLD[grade] if part == "scaffold" and by_structure else grade
        for part, grade in read.items()
        if ("structure" if by_structure else "health") in parts()[part]["counts"]
    }
    return min(counted, key=lambda p: (counted[p], list(parts()).index(p)))
