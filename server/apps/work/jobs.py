"""Jobs and proposals of a site: what every tree's file proposes, and where each job stands."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from django.db.models import Q

from apps.organisations.models import Member
from apps.plants.projection import standing_entries
from apps.plants.selectors import entry_rows_by_plant, trees_visible_to
from apps.plants.stored import body_of
from apps.sites.models import Block, Site
from apps.work.case_of_tree import case_of_tree, round_of
from jubark_core.flora.load import shipped_flora
from jubark_core.records.bodies import Body
from jubark_core.records.working import Work
from jubark_core.work.contract import CheckState
from jubark_core.work.load import work_rules
from jubark_core.work.propose import may_take_step, propose

# What rules of work ask of a file.
KINDS = (
    *(
        "determination",
        "life",
        "measurement",
        "risk",
        "condition",
        "defect",
        "diagnosis",
        "storm",
        "planting",
    ),
    *("constraint", "habitat", "clearance", "work"),
)
GONE = ("removed", "not_found", "stump")
OVER = ("completed", "refused", "withdrawn")
MOST_PROPOSALS = 500


@dataclass
class Job:
    """A job and its steps, the newest last."""

    job: UUID
    plant: UUID
    steps: list[tuple[datetime.date, Work]] = field(default_factory=list)

    @property
    def last(self) -> Work:
        """The newest step."""
        return self.steps[-1][1]

    def said(self, name: str) -> Any:
        """The newest step that says this."""
        return next((v for _, step in reversed(self.steps) if (v := getattr(step, name))), None)


def work_of_site(actor: Member, site: Site, blocks: Sequence[Block], on: datetime.date) -> dict[str, Any]:
    """Proposals nobody has taken up yet, and jobs that are not over, of the blocks. For a tree that is gone
    nothing is proposed; its open jobs stay listed until somebody ends them.
    """
    currents = {
        c.pk: c for c in trees_visible_to(actor).filter(block__in=blocks).select_related("plant__block")
    }
    kinds = Q(kind__in=KINDS) | Q(retracts__isnull=False)
    entries = entry_rows_by_plant(currents, entries=kinds)
    around = round_of(actor, site, blocks, on)
    proposals: list[dict[str, Any]] = []
    jobs: list[dict[str, Any]] = []
    for pk, current in currents.items():
        bodies = [
            (e.visit.local_date, body)
            for e in standing_entries(entries.get(pk, [])).live
            if (body := body_of(e)) is not None
        ]
        tree = {
            "plant": str(pk),
            "tag": current.tag,
            "name": current.name,
            "block": str(current.block_id),
            "block_name": current.plant.block.name,
        }
        own = [job for job in jobs_of(pk, bodies) if job.last.step not in OVER]
        gone = current.life in GONE
        if gone and not own:
            continue
        case = case_of_tree(current.plant, bodies, around, on)
        told = propose(case, shipped_flora()) if case and not gone else None
        now = {p["rule"]: p for p in told["proposals"]} if told else {}
        taken = {job.last.rule for job in own}
        proposals += [
            {**tree, "proposal": p, "only": told["only"] if told else []}
            for p in now.values()
            if p["rule"] not in taken
        ]
        jobs += [_job(job, tree, case, founded=job.last.rule in now) for job in own]
    proposals.sort(
        key=lambda p: (p["proposal"]["priority"], p["proposal"]["rule"], p["block_name"], p["tag"])
    )
    return {
        "on": on.isoformat(),
        "proposals": proposals[:MOST_PROPOSALS],
        "more": max(0, len(proposals) - MOST_PROPOSALS),
        "jobs": sorted(jobs, key=lambda j: (j["begins"] or "9999", j["priority"], j["tag"])),
    }


def jobs_of(plant: UUID, bodies: Sequence[tuple[datetime.date, Body]]) -> list[Job]:
    """The jobs of a tree with their steps."""
    found: dict[UUID, Job] = {}
    for day, body in bodies:
        if isinstance(body, Work):
            found.setdefault(body.job, Job(body.job, plant)).steps.append((day, body))
    return list(found.values())


def _job(job: Job, tree: dict[str, Any], case: dict[str, Any] | None, founded: bool) -> dict[str, Any]:
    """A job with what blocks it: on the day it is planned for, else on the day asked.

    unfounded: its facts no longer propose it; a person decides.
    """
    rule = work_rules().rules[job.last.rule]
    begins = job.said("begins")
    return {
        **tree,
        "job": str(job.job),
        "rule": rule.id,
        "title": rule.title,
        "step": job.last.step,
        "do": job.said("do") or rule.do,
        "begins": begins.isoformat() if begins else "",
        "equipment": job.said("equipment") or "",
        "priority": rule.priority,
        "checks": _checks(rule.id, case, begins) if case else [],
        "unfounded": not founded,
    }


def _checks(rule: str, case: dict[str, Any], begins: datetime.date | None) -> list[CheckState]:
    on = max(case["on"], begins.isoformat()) if begins else case["on"]
    asked = {"case": case, "rule": rule, "step": "planned", "on": on}
    return may_take_step(asked, shipped_flora())["checks"]
