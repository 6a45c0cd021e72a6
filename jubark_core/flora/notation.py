"""How a flora file writes what a taxon shows.

Characters are dotted keys, `bark.texture = ...`. A range of single leaves, twigs or fruits is `[low, high]`
(the central 90 %). States are a table `{ state = "always" | "usually" | "sometimes" | "rarely" }` or,
shorter, one line of words:

    "smooth"                     one state, always
    "brown red_brown olive?"     several, usually; `?` sometimes, `??` rarely, `!` always (`+`: usually, for a
    state alone)
    { young = "smooth", mature = "scaly plated?", "mature.upper" = "smooth" }   by stage, season or height on
    the trunk
    "n/a"                        the character makes no sense on the taxon
    "-"                          what genus or section say does not hold here, and nothing is said instead
"""

from __future__ import annotations

from typing import Any

from jubark_core.flora.words import FREQUENCY, SEASONS
from jubark_core.records.words import BARK_HEIGHTS, STAGES

DOES_NOT_APPLY = "n/a"
MARKS = {"??": "rarely", "?": "sometimes", "!": "always", "+": "usually"}
KEYS = {
    **dict.fromkeys(STAGES, "stage"),
    **dict.fromkeys(SEASONS, "season"),
    **dict.fromkeys(BARK_HEIGHTS, "where"),
}


def flat(characters: dict[str, Any]) -> dict[str, Any]:
    """`{bark: {texture: ...}}`, as TOML reads dotted keys, as `{"bark.texture": ...}`; what is written so
    already stays.
    """
    found: dict[str, Any] = {}
    for organ, value in characters.items():
        if "." in organ or not isinstance(value, dict):
            found[organ] = value
        else:
            found |= {f"{organ}.{name}": part for name, part in value.items()}
    return found


def is_by_time(value: Any) -> bool:
    """Whether the value differs by stage, season or height on the trunk."""
    return isinstance(value, dict) and bool(value) and all(set(key.split(".")) <= set(KEYS) for key in value)


def variant_key(key: str) -> dict[str, str]:
    """'mature.upper' -> {"stage": "mature", "where": "upper"}."""
    return {KEYS[word]: word for word in key.split(".")}


def frequencies(value: str | dict[str, str]) -> dict[str, str]:
    """State -> always, usually, sometimes or rarely, as written; nothing is checked here."""
    if isinstance(value, dict):
        return value
    words = value.split()
    found = {}
    for word in words:
        mark = next((m for m in MARKS if word.endswith(m)), "")
        found[word.removesuffix(mark)] = MARKS[mark] if mark else "always" if len(words) == 1 else "usually"
    return found


def weights_of(value: str | dict[str, str]) -> dict[str, float]:
    """State -> weight."""
    return {state: FREQUENCY[word] for state, word in frequencies(value).items()}
