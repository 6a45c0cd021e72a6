"""What to do with so much money, for the open jobs of a site."""

from __future__ import annotations

import datetime
from typing import Any

from apps.organisations.models import Member
from apps.sites.models import Block, Site
from apps.work.jobs import work_of_site
from jubark_core.work.budget import RISK_POINTS, Priced, spend


def spending_of(actor: Member, site: Site, on: datetime.date, money: float) -> dict[str, Any]:
    """Jobs by risk taken away per cost, as far as the money goes; what it leaves undone; what is unrated."""
    found = work_of_site(actor, site, list(Block.objects.filter(site=site)), on)
    jobs = {row["job"]: row for row in found["jobs"]}
    told = spend([_priced(row) for row in jobs.values()], money)

    def shown(rows: tuple[Priced, ...]) -> list[dict[str, Any]]:
        return [{**jobs[row.job], "points": row.taken_away} for row in rows]

    return {
        "done": shown(told.done),
        "undone": shown(told.undone),
        "then": shown(told.then),
        "unrated": shown(told.unrated),
        "spent": told.spent,
        "taken_away": told.taken_away,
        "at_most": told.at_most,
        "weights": RISK_POINTS,
        "currency": found["currency"],
    }


def _priced(row: dict[str, Any]) -> Priced:
    return Priced(row["job"], row["cost"], row["rating"], priority=row["priority"])
