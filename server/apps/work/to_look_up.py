"""What nobody has looked up: one list by block, so that it is asked once and not for each tree."""

from __future__ import annotations

import datetime
from typing import Any

from apps.organisations.models import Member
from apps.sites.models import Block, Site
from apps.work.jobs import checks_before, files_of_site

LOOK_UPS = {"C3": "look_up", "C5": "owner_look_up"}


def to_look_up(actor: Member, site: Site, on: datetime.date) -> list[dict[str, Any]]:
    """Block and check, with how many open jobs wait for a look-up and of how many trees; the most first."""
    blocks = list(Block.objects.filter(site=site))
    names = {str(block.id): block.name for block in blocks}
    jobs: dict[tuple[str, str, str], list[str]] = {}
    for file in files_of_site(actor, site, blocks, on, with_jobs=True):
        for job in file.jobs:
            if job.is_over or file.gone:
                continue
            for check in checks_before(job, file):
                kind = LOOK_UPS.get(check["check"], "")
                if check["open"] and kind in check["how"]:
                    key = (file.tree["block"], check["check"], check["title"])
                    jobs.setdefault(key, []).append(file.tree["plant"])
    rows = [
        {
            "block": block,
            "block_name": names[block],
            "check": check,
            "title": title,
            "kind": LOOK_UPS[check],
            "jobs": len(trees),
            "trees": len(set(trees)),
        }
        for (block, check, title), trees in jobs.items()
    ]
    return sorted(rows, key=lambda row: (-row["jobs"], row["block_name"], row["check"]))
