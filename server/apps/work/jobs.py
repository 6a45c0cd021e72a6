"""Jobs and proposals of a site: what every tree's file proposes, and where each job stands."""

from __future__ import annotations

import datetime
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from apps.organisations.models import Member
from apps.organisations.permissions import visible_to
from apps.plants.merged import ends_of
from apps.plants.models import Current, Entry, Plant
from apps.plants.selectors import current_visible_to
from apps.plants.tree_files import tree_files
from apps.sites.models import Block, Site
from apps.sites.time_zone import today_in, zone_info
from apps.work.around import Round, order_of_blocks, round_of
from apps.work.case_of_tree import case_of
from apps.work.selectors import settings_of
from apps.work.withdrawn import withdrawn_of
from jubark_core.flora.load import shipped_flora
from jubark_core.records.office import WorkSettings
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.jobs import Job, open_twice
from jubark_core.tree_file.life import GONE
from jubark_core.work.before.acts import acts_of
from jubark_core.work.before.job import acts_said, breaches_of, job_asks
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.contract import CheckState, JobAnswer, Proposals
from jubark_core.work.effort import cost_of, hours_of
from jubark_core.work.model import Rule
from jubark_core.work.programme import DoneWork, FollowUp, follow_ups, rule_of
from jubark_core.work.propose import no_longer, propose, propose_again

# What rules of work ask of a file.
KINDS = (
    *(
        "determination",
        "life",
        "measurement",
        "risk",
        "inspection",
        "condition",
        "defect",
        "diagnosis",
        "sign",
        "storm",
        "planting",
    ),
    *("status", "constraint", "habitat", "climber", "headroom", "works", "place", "enquiry"),
    *("clearance", "work"),
)
MOST_PROPOSALS = 500
MOST_TREES = 5_000  # judged at once, in about ten seconds
DONE_DAYS = 366
END_OF_DAY = datetime.time(23, 59)


@dataclass(frozen=True)
class WorkFile:
    """What work asks of a tree, or of a vacant planting site: its file and its case."""

    current: Current
    file: TreeFile
    case: dict[str, Any]
    around: Round

    @property
    def jobs(self) -> list[Job]:
        """Its jobs."""
        return self.file.jobs

    @property
    def gone(self) -> bool:
        """Whether nothing is left to work on."""
        return self.current.life in GONE

    @property
    def tree(self) -> dict[str, Any]:
        """Which tree it is, as lists of work show it."""
        current = self.current
        return {
            "plant": str(current.pk),
            "tag": current.tag or in_row(current.plant),
            "name": current.name,
            "block": str(current.plant.block_id),
            "block_name": current.plant.block.name,
        }


def in_row(plant: Plant) -> str:
    """Row and place in it, by which people find what bears no tag; '' where it stands in none."""
    return f"{plant.row_name} {plant.row_position or ''}".strip()


def files_of_site(
    actor: Member,
    site: Site,
    blocks: Sequence[Block],
    on: datetime.date,
    around: Round | None = None,
    with_jobs: bool = False,
) -> Iterator[WorkFile]:
    """The files of the trees and vacant planting sites of the blocks as they stand on a day. around: what
    stands round them, where it has been read. with_jobs: of those alone that ever had a job.
    """
    rows = current_visible_to(actor).filter(block__in=blocks).select_related("plant__block")
    if with_jobs:
        worked = visible_to(actor, Entry.objects.filter(kind="work", plant__block__site=site))
        rows = rows.filter(plant__in=set(ends_of(set(worked.values_list("plant_id", flat=True))).values()))
    currents = {c.pk: c for c in rows}
    around = around or round_of(actor, site, blocks, on)
    for pk, file in tree_files(currents, *KINDS, on=on):
        yield WorkFile(currents[pk], file, case_of(file, currents[pk].plant, around), around)


def work_of_site(actor: Member, site: Site, blocks: Sequence[Block], on: datetime.date) -> dict[str, Any]:
    """Proposals nobody has taken up yet, jobs that are not over, and those completed within a year, of the
    blocks. For a tree that is gone nothing is proposed; its open jobs stay listed until somebody ends them.

    too_many: where the blocks have more trees than are judged at once, how many; then jobs alone are read.
    """
    trees = current_visible_to(actor).filter(block__in=blocks).count()
    too_many = trees if trees > MOST_TREES else 0
    settings = settings_of(site)
    proposals: list[dict[str, Any]] = []
    jobs: list[dict[str, Any]] = []
    done: list[dict[str, Any]] = []
    withdrawn: list[dict[str, Any]] = []
    held_back: list[dict[str, Any]] = []
    around = round_of(actor, site, blocks, on)
    for file in files_of_site(actor, site, blocks, on, around, with_jobs=too_many > 0):
        own = [job for job in file.jobs if not job.is_over]
        told = None if file.gone else propose(file.case, shipped_flora())
        if not too_many:
            proposals += [{**file.tree, **row} for row in _proposed(file, told, on)]
        jobs += [_job(job, file, settings, told) for job in own]
        if told and not too_many:
            gone = withdrawn_of(file.current.plant, file.file, file.case, told, around)
            withdrawn += [{**file.tree, **row} for row in _not_taken(file, gone)]
            held_back += [{**file.tree, **row} for row in _not_taken(file, told["held_back"])]
        done += [_done(job, file, day) for job in file.jobs if (day := _this_year(job, on))]
    proposals.sort(
        key=lambda p: (p["proposal"]["priority"], p["proposal"]["rule"], p["block_name"], p["tag"])
    )
    return {
        "on": on.isoformat(),
        "proposals": proposals[:MOST_PROPOSALS],
        "too_many": too_many,
        "more": max(0, len(proposals) - MOST_PROPOSALS),
        "jobs": sorted(jobs, key=lambda j: (j["begins"] or "9999", j["priority"], j["tag"])),
        "done": sorted(done, key=lambda j: (j["on"], j["tag"]), reverse=True)[:MOST_PROPOSALS],
        "withdrawn": sorted(withdrawn, key=lambda r: (r["on"], r["tag"]), reverse=True)[:MOST_PROPOSALS],
        "held_back": sorted(held_back, key=lambda r: (r["rule"], r["why"], r["tag"]))[:MOST_PROPOSALS],
        "order": order_of_blocks(around, blocks),
        "currency": settings.currency,
    }


def _proposed(file: WorkFile, told: Proposals | None, on: datetime.date) -> list[dict[str, Any]]:
    """What is proposed and nobody has taken up: by rules, and by work that was done before.

    What was just done is not proposed again on the same facts.
    """
    taken = {job.last.rule for job in file.jobs if not job.is_over}
    done = {(j.last.rule, j.said("facts")) for j in file.jobs if j.completed_on()}
    followed = {job.last.rule for job in file.jobs if job.completed_on() and rule_of_job(job).follow_up_years}
    found = [
        {"proposal": p, "only": told["only"] if told else [], "follows": None, "part": ""}
        for p in (told["proposals"] if told else [])
        if p["rule"] not in taken | followed and (p["rule"], p["facts"]) not in done
    ]
    if file.gone:
        return found
    for after in follow_ups_of(file, on):
        made = propose_again(file.case, after, shipped_flora())
        if file.case.get("refused", {}).get(made["rule"]) != made["facts"]:
            found.append({"proposal": made, "only": [], "follows": after.follows, "part": after.part})
    return found


def _not_taken(file: WorkFile, rows: Sequence[Any]) -> list[Any]:
    """Those whose rule has no open job: of that the job itself says what has changed."""
    taken = {job.last.rule for job in file.jobs if not job.is_over}
    return [row for row in rows if row["rule"] not in taken]


def follow_ups_of(file: WorkFile, on: datetime.date) -> list[FollowUp]:
    """What completed jobs of a tree ask for."""
    done = [
        DoneWork(str(j.job), j.last.rule, j.part, day, str(j.said("follows") or ""))
        for j in file.jobs
        if (day := j.completed_on())
    ]
    answered = {str(j.said("follows")) for j in file.jobs if not j.is_over and j.said("follows")}
    planted = file.case.get("planted_on")
    return follow_ups(done, answered, datetime.date.fromisoformat(planted) if planted else None, on)


def rule_of_job(job: Job) -> Rule:
    """The rule it was accepted under, or the later part of it."""
    return rule_of(job.last.rule, job.part)


def hours_and_cost(job: Job, case: dict[str, Any], settings: WorkSettings) -> tuple[float, float]:
    """What the job itself says; else the tool's table by the site's rates."""
    equipment = job.said("equipment") or ""
    hours = job.said("hours") or hours_of(rule_of_job(job), case.get("dbh_cm"), equipment, settings)
    cost = job.said("cost")
    return hours, cost_of(hours, equipment or rule_of_job(job).equipment, settings) if cost is None else cost


def _job(job: Job, file: WorkFile, settings: WorkSettings, told: Proposals | None) -> dict[str, Any]:
    """A job with what blocks it: on the day it is planned for, else on the day asked.

    unfounded: its facts no longer propose it; a person decides.
    """
    changed = [] if job.said("follows") and not file.gone else _what_changed(job, file, told)
    rule = rule_of_job(job)
    begins = job.said("begins")
    hours, cost = hours_and_cost(job, file.case, settings)
    asked = _asked_next(job, file)
    follows = job.said("follows")
    return {
        **file.tree,
        "job": str(job.job),
        "rule": rule.id,
        "part": job.part,
        "follows": str(follows) if follows else None,
        "title": rule.title,
        "act": rule.act,
        "step": job.stage or job.last.step,
        "do": job.said("do") or rule.do,
        "begins": begins.isoformat() if begins else "",
        "equipment": job.said("equipment") or rule.equipment,
        "crew": job.said("crew") or "",
        "street": job.said("street") or "",
        "hours": hours,
        "cost": cost,
        "priority": rule.priority,
        "held_by_wires": file.file.wires is not None,
        "twice": job.job in open_twice(file.jobs),
        "rating": (file.case.get("risk") or {}).get("rating") or "",
        "acts": asked["acts"],
        "asks": asked["asks"],
        "checks": asked["checks"],
        "stop": job.stage == "started"
        and any(c["check"] == "C2a" and "in use" in c["why"] for c in asked["checks"]),
        "though": breaches(job, file),
        "unfounded": bool(changed),
        "unfounded_why": changed,
    }


def _what_changed(job: Job, file: WorkFile, told: Proposals | None) -> list[str]:
    """What has changed since the job was taken up, as its rule sees it; nothing where the rule still asks for
    it, or would but for a line the operator has not cleared.
    """
    if file.gone:
        return [f"the tree is {file.current.life.replace('_', ' ')}"]
    if told is None or any(p["rule"] == job.last.rule for p in told["proposals"]):
        return []
    goes_before = [h["why"] for h in told["held_back"] if h["rule"] == job.last.rule and not told["only"]]
    return no_longer(file.case, job.last.rule, shipped_flora()) or goes_before


def _done(job: Job, file: WorkFile, day: datetime.date) -> dict[str, Any]:
    """A completed job in short."""
    return {
        **file.tree,
        "job": str(job.job),
        "rule": job.last.rule,
        "title": rule_of_job(job).title,
        "on": day.isoformat(),
        "result": job.last.result,
        "workmanship": job.last.workmanship,
        "though": breaches(job, file),
        "hours": job.last.hours,
        "cost": job.last.cost,
    }


def _this_year(job: Job, on: datetime.date) -> datetime.date | None:
    day = job.completed_on()
    return day if day and 0 <= (on - day).days <= DONE_DAYS else None


def checks_before(job: Job, file: WorkFile) -> list[CheckState]:
    """The checks of a job, on the day it is planned for where that lies ahead."""
    return _asked_next(job, file)["checks"]


def _asked_next(job: Job, file: WorkFile) -> JobAnswer:
    """What the job is asked next. Of the day itself by the clock: checks grow old by the hour."""
    on = datetime.date.fromisoformat(file.case["on"])
    zone, now = file.current.plant.block.site.time_zone, timezone.now()
    # of another day its end: what was found on it is known
    at = now if today_in(zone, now) == on else datetime.datetime.combine(on, END_OF_DAY, zone_info(zone))
    return may_take_step({**job_asks(job, file.file, on, at), "case": file.case}, shipped_flora())


def breaches(job: Job, file: WorkFile) -> list[str]:
    """What stood against the steps that were taken all the same."""
    around = file.around
    told = breaches_of(
        job, file.file, lambda then: case_of(then, file.current.plant, around), shipped_flora()
    )
    return list(dict.fromkeys(said for breach in told for said in breach["flagged"]))


def acts_of_job(job: Job) -> tuple[str, ...]:
    """The acts of a job, as said or by its rule and equipment."""
    rule = rule_of_job(job)
    return acts_of(acts_said(job), rule.acts, job.said("equipment") or rule.equipment)
