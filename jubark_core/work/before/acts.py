"""Acts: what is done to a tree, and the checks that hang on each (acts.toml)."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.records.words import SKILLS, WORK_CHECKS

EQUIPMENT_ACTS = {"climb": "climb", "lift": "work_at_height", "mechanised": "machine"}
REACHES = ("", "works", "falls")


@dataclass(frozen=True)
class Act:
    """An act. skills: of somebody in the crew; two: the skill of a second person of it, besides."""

    id: str
    label: str
    checks: tuple[str, ...]
    skills: tuple[str, ...] = ()
    two: str = ""
    reach: str = ""
    cuts_live: bool = False
    words: tuple[str, ...] = ()
    nothing_needed: bool = False


@lru_cache(maxsize=1)
def acts() -> dict[str, Act]:
    """Every act by its id. Raises FloraError naming act and reason."""
    raw = tomllib.loads(Path(__file__).with_name("acts.toml").read_text(encoding="utf-8"))
    found: dict[str, Act] = {}
    for name, row in raw.items():
        if name == "version":
            continue
        for key, allowed in (("checks", WORK_CHECKS), ("skills", SKILLS)):
            if unknown := set(row.get(key, ())) - set(allowed):
                raise FloraError("acts.toml", 0, f"{name}: {key} has {', '.join(sorted(unknown))}")
        if row.get("reach", "") not in REACHES:
            raise FloraError("acts.toml", 0, f"{name}: reach is one of {', '.join(REACHES[1:])}")
        lists: dict[str, Any] = {key: tuple(row.get(key, ())) for key in ("checks", "skills", "words")}
        plain = {key: row[key] for key in ("two", "reach", "cuts_live", "nothing_needed") if key in row}
        found[name] = Act(name, row["label"], **lists, **plain)
    return found


def acts_of(said: Iterable[str], asked: Iterable[str], equipment: str) -> tuple[str, ...]:
    """The acts of a job: those said, else those its rule asks for; and the one its equipment makes of it."""
    found = list(said) or list(asked)
    by_equipment = EQUIPMENT_ACTS.get(equipment)
    return tuple(dict.fromkeys([*found, *([by_equipment] if by_equipment else [])]))


def checks_of_acts(done: Iterable[str]) -> list[str]:
    """The checks that the acts ask for, each once, in their order."""
    asked = {check for act in done for check in acts()[act].checks}
    return [check for check in WORK_CHECKS if check in asked]


def named_in(text: str) -> set[str]:
    """Acts that the wording of a job names."""
    told = set(re.findall(r"[a-z]+", text.casefold()))
    return {act.id for act in acts().values() if not told.isdisjoint(act.words)}


def needs_nothing(done: Iterable[str]) -> bool:
    """Whether all of it can be recorded at any time, under a line too."""
    some = list(done)
    return bool(some) and all(acts()[act].nothing_needed for act in some)
