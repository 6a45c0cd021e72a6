"""Proposals that a new name or another diagnosis has withdrawn: never dropped without its reason."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from apps.plants.models import Plant
from apps.sites.time_zone import today_in
from apps.work.around import Round
from apps.work.case_of_tree import case_of
from jubark_core.flora.load import shipped_flora
from jubark_core.tree_file.file import TreeFile, tree_file
from jubark_core.tree_file.filed import Filed
from jubark_core.work.contract import Proposals
from jubark_core.work.propose import no_longer, propose

NAMED_OR_JUDGED = ("determination", "diagnosis")
SHOWN_DAYS = 60


def withdrawn_of(
    plant: Plant, file: TreeFile, case: dict[str, Any], told: Proposals, around: Round
) -> list[dict[str, Any]]:
    """Rule, title, reason and day of each proposal that stood before the newest change of name or diagnosis
    within 60 days, and no longer does.
    """
    on = datetime.date.fromisoformat(case["on"])
    days = _changes(file.entries, plant.block.site.time_zone)
    newest = max((day for day in days.values() if day <= on), default=None)
    if newest is None or (on - newest).days > SHOWN_DAYS or min(days.values()) == newest:
        return []
    before = [[e for e in record if days.get(e.id) != newest] for record in file.records]
    case_before = case_of(tree_file(before, on, file.merged_on), plant, around)
    now = {p["rule"] for p in told["proposals"]}
    goes_before = {h["rule"]: h["why"] for h in told["held_back"]}
    return [
        {
            "rule": p["rule"],
            "title": p["title"],
            "why": no_longer(case, p["rule"], shipped_flora()) or [goes_before[p["rule"]]],
            "on": newest.isoformat(),
        }
        for p in propose(case_before, shipped_flora())["proposals"]
        if p["rule"] not in now and (p["rule"] in goes_before or no_longer(case, p["rule"], shipped_flora()))
    ]


def _changes(entries: Sequence[Filed], zone: str) -> dict[UUID, datetime.date]:
    """Entry -> the day, at the site, on which it named the plant or judged its health, or came as a
    correction of such.
    """
    kinds = {e.id: e.kind for e in entries}
    found = {}
    for e in entries:
        corrects = e.replaces_id or e.retracts_id
        if e.kind in NAMED_OR_JUDGED or (corrects and kinds.get(corrects) in NAMED_OR_JUDGED):
            found[e.id] = today_in(zone, e.received_at) if corrects else e.visit.local_date
    return found
