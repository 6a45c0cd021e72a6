"""Work of Brindle Fold: jobs at every step, a refusal with its reason, checks somebody closed. Invented."""

from __future__ import annotations

import datetime
import uuid
from typing import Any

from apps.organisations.models import Member
from apps.plants.incoming import read_visit
from apps.plants.services.take_records import take_records
from apps.sites.models import Block, Site
from apps.work.jobs import work_of_site

IDS = uuid.UUID("6d0f3a52-8a1c-4c55-9f0e-2b7f5d0a1e18")
NAME = {"check_closed": "C1", "what": "name", "by": "Bram", "reference": "opposite buds, winged fruit"}
NESTS = {"check_closed": "C2", "what": "nests", "by": "Crew 1"}
ROOSTS = {"check_closed": "C2", "what": "roosts", "by": "bat surveyor", "reference": "BS-14"}
OWNER = {"check_closed": "C5", "what": "owner", "by": "site manager"}
AHEAD_DAYS = 45
Steps = list[tuple[int, list[dict[str, Any]], dict[str, Any]]]  # days ago, clearances, the step

# rule, which of its trees, the steps of the job; those are passed over whose rule proposes nothing on the day
JOBS: tuple[tuple[str, int, Steps], ...] = (
    (
        "R24",
        1,
        [
            (20, [NAME, OWNER, ROOSTS], {"step": "accepted"}),
            (
                12,
                [],
                {
                    "step": "planned",
                    "in_days": AHEAD_DAYS,
                    "equipment": "mechanised",
                    "crew": "Crew 1",
                    "hours": 6,
                    "route": "chipped on the site",
                },
            ),
        ],
    ),
    ("R24", 2, [(20, [], {"step": "accepted"})]),
    ("R24", 3, [(20, [OWNER], {"step": "accepted"})]),
    (
        "R06",
        1,
        [
            (16, [], {"step": "accepted"}),
            (9, [NESTS, ROOSTS], {"step": "started", "crew": "Crew 1", "equipment": "lift"}),
            (
                9,
                [],
                {
                    "step": "completed",
                    "result": "Three dead limbs to the collar, the largest 11 cm",
                    "hours": 2.5,
                },
            ),
        ],
    ),
    ("R06", 2, [(6, [], {"step": "accepted"})]),
    (
        "R03",
        1,
        [
            (8, [OWNER, ROOSTS], {"step": "accepted"}),
            (7, [], {"step": "planned", "in_days": 12, "equipment": "climb", "crew": "Crew 2", "hours": 8}),
        ],
    ),
    (
        "R33",
        1,
        [(15, [], {"step": "refused", "reason": "Cover for birds this winter; looked at again in spring"})],
    ),
)


def set_up(site: Site, steward: Member, today: datetime.date) -> None:
    """Jobs from what the files propose, through the one door of all records and its pre-work checks."""
    blocks = list(Block.objects.filter(site=site))
    proposed = work_of_site(steward, site, blocks, today)["proposals"]
    visits = []
    for number, (rule, nth, steps) in enumerate(JOBS):
        rows = [p for p in proposed if p["proposal"]["rule"] == rule and p["tag"]]
        if len(rows) >= nth:
            visits += [_visit(number, i, rows[nth - 1], step, today) for i, step in enumerate(steps)]
    take_records(actor=steward, plants=[], visits=[read_visit(v) for v in visits])


def _visit(
    job: int,
    i: int,
    row: dict[str, Any],
    step: tuple[int, list[dict[str, Any]], dict[str, Any]],
    today: datetime.date,
) -> dict[str, Any]:
    ago, clearances, said = step
    day = today - datetime.timedelta(days=ago)
    body = {k: v for k, v in said.items() if k != "in_days"}
    if "in_days" in said:
        begins = today + datetime.timedelta(days=said["in_days"])
        body |= {"begins": begins.isoformat(), "ends": (begins + datetime.timedelta(days=1)).isoformat()}
    proposal = row["proposal"]
    body |= {
        "job": str(uuid.uuid5(IDS, f"{row['plant']} {job}")),
        "rule": proposal["rule"],
        "do": proposal["do"],
        "facts": proposal["facts"],
    }
    entries = [*(("clearance", c) for c in clearances), ("work", body)]
    return {
        "id": str(uuid.uuid5(IDS, f"visit {row['plant']} {job} {i}")),
        "plant": row["plant"],
        "mode": "desk",
        "local_date": day.isoformat(),
        "observed_at": f"{day.isoformat()}T{9 + i:02d}:30:00+00:00",
        "observer": "Ilka",
        "entries": [
            {"id": str(uuid.uuid5(IDS, f"entry {row['plant']} {job} {i} {n}")), "kind": kind, "body": of}
            for n, (kind, of) in enumerate(entries)
        ],
    }
