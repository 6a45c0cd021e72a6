"""Looks at a tree that are inspections, what was hidden from them, and what was only an attempt."""

from __future__ import annotations

import datetime
from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from jubark_core.records.inspected import Inspection
from jubark_core.records.judged import Risk
from jubark_core.records.words import INSPECTION_LEVELS
from jubark_core.tree_file.filed import Filed

SEEN_WHOLE = {"base": "all_round", "crown": "whole"}
HIDDEN = ("partly", "not_visible")
NOT_SEEN = "not_visible"


@dataclass(frozen=True)
class Look:
    """An inspection of a tree: of a visit, at a level. no_access: why nobody got to it."""

    on: datetime.date
    level: str
    base_visible: str
    crown_visible: str
    no_defect: bool
    walked: bool
    no_access: str
    entry: UUID

    @property
    def is_attempt(self) -> bool:
        """Whether somebody came and saw no tree."""
        return is_attempt(self.base_visible, self.crown_visible, self.no_access)


def is_attempt(base: str, crown: str, no_access: str = "") -> bool:
    """Whether nobody got to it, or neither base nor crown was visible: somebody came, and saw no tree."""
    return bool(no_access) or (base == NOT_SEEN and crown == NOT_SEEN)


def meets(level: str, asked: str) -> bool:
    """Whether a level of inspection does for the one asked for; each takes in the one before."""
    return INSPECTION_LEVELS.index(level) >= INSPECTION_LEVELS.index(asked)


def does_for(level: str, base: str, crown: str, asked: str) -> bool:
    """Whether a look is an inspection at the level asked for. One from all round has seen the whole; a
    limited one sees a side.
    """
    if is_attempt(base, crown) or not meets(level, asked):
        return False
    return meets("limited_visual", asked) or not {base, crown} & {*HIDDEN}


def looks_of(live: Iterable[Filed]) -> list[Look]:
    """The inspections of a tree, oldest first: a risk worksheet is one at its own level; an inspection of the
    same visit says more.
    """
    found: dict[UUID, Look] = {}
    for entry in live:
        body = entry.body
        if isinstance(body, Risk):
            sheet = Look(
                on=entry.visit.local_date,
                level=body.level,
                base_visible=body.base_seen,
                crown_visible=body.crown_seen,
                no_defect=False,
                walked=False,
                no_access="",
                entry=entry.id,
            )
            found.setdefault(entry.visit_id, sheet)
        elif isinstance(body, Inspection):
            found[entry.visit_id] = Look(
                on=entry.visit.local_date,
                level=body.level,
                base_visible=body.base_visible,
                crown_visible=body.crown_visible,
                no_defect=body.no_defect,
                walked=body.walked,
                no_access=body.no_access,
                entry=entry.id,
            )
    return sorted(found.values(), key=lambda look: look.on)
