"""How long a job takes, what it costs by the site's rates, and which skills it asks for (effort.toml)."""

from __future__ import annotations

import bisect
import tomllib
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.records.office import WorkSettings
from jubark_core.work.before.acts import acts
from jubark_core.work.model import Rule

LEAST_HOURS = 0.25


@lru_cache(maxsize=1)
def _table() -> dict[str, Any]:
    return tomllib.loads(Path(__file__).with_name("effort.toml").read_text(encoding="utf-8"))


def hours_of(rule: Rule, dbh_cm: float | None, equipment: str, settings: WorkSettings) -> float:
    """Crew hours of a job of the rule, to the quarter. dbh_cm None: as of the middle class."""
    table = _table()
    by_class = table["hours"][rule.act]
    limits = table["classes_cm"]
    at = len(limits) // 2 if dbh_cm is None else bisect.bisect_left(limits, dbh_cm)
    share = table["share"].get(equipment or rule.equipment, 1.0)
    hours: float = by_class[at] * share * settings.hours_percent / 100
    return max(LEAST_HOURS, round(hours * 4) / 4)


def cost_of(hours: float, equipment: str, settings: WorkSettings) -> float:
    """What a job costs by the site's rates, closures of streets aside."""
    besides = {"lift": settings.lift_hour, "mechanised": settings.machine_hour}.get(equipment, 0.0)
    return hours * (settings.crew_hour + besides)


def skills_of(done: Iterable[str]) -> tuple[str, ...]:
    """The skills that acts ask for."""
    return tuple(sorted({skill for act in done for skill in acts()[act].skills}))


def acts_with_hours() -> set[str]:
    """The acts the table knows."""
    return set(_table()["hours"])
