"""A job as somebody takes it to the tree: where, what, why, cautions, checks, specification."""

from __future__ import annotations

import datetime
from collections.abc import Collection
from typing import Any

from apps.organisations.models import Member
from apps.sites.models import Block, Site
from apps.work.jobs import WorkFile, checks_before, files_of_site, hours_and_cost, rule_of_job
from apps.work.selectors import plan_of, settings_of
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.records.words import shown_word
from jubark_core.tree_file.jobs import Job
from jubark_core.work.facts import read_facts
from jubark_core.work.propose import propose
from jubark_core.work.seasons import rule_here

# fields of a step that are the specification, with the words and units they are printed with
SPECIFICATION = (
    ("equipment", "Reached by", ""),
    ("cut_cm", "Largest cut", " cm"),
    ("live_crown_percent", "Of the live crown at most", " %"),
    ("clearance_m", "Clearance to leave", " m"),
    ("standard", "Standard", ""),
    ("traffic", "Traffic", ""),
    ("street", "Closure of", ""),
    ("route", "Route of the wood", ""),
    ("look_again_on", "Look again on", ""),
)
MOST_SHEETS = 200


def sheets_of(actor: Member, site: Site, on: datetime.date, wanted: Collection[str]) -> list[dict[str, Any]]:
    """The sheets of open jobs of a site, by day, block and tag; `wanted`: of these jobs alone.

    Raises BadInput for a job that is not open there, or too many of them.
    """
    blocks = list(Block.objects.filter(site=site))
    settings = settings_of(site)
    planned = _planned(site)
    found = []
    for file in files_of_site(actor, site, blocks, on, with_jobs=True):
        for job in file.jobs:
            if job.is_over or (wanted and str(job.job) not in wanted):
                continue
            hours, _ = hours_and_cost(job, file.case, settings)
            found.append(_sheet(job, file, hours, planned.get(str(job.job))))
    if missing := set(wanted) - {row["job"] for row in found}:
        raise BadInput("job", min(missing), "an open job of this site")
    if len(found) > MOST_SHEETS:
        raise BadInput("job", f"{len(found)} jobs", f"at most {MOST_SHEETS} at a time")
    return sorted(found, key=lambda r: (r["day"] or "9999", r["block_name"], r["tag"], r["job"]))


def _planned(site: Site) -> dict[str, dict[str, Any]]:
    plan = plan_of(site)
    rows = plan.body["jobs"] if plan and plan.body else []
    return {row["id"]: row for row in rows}


def _sheet(job: Job, file: WorkFile, hours: float, planned: dict[str, Any] | None) -> dict[str, Any]:
    rule = rule_here(rule_of_job(job), read_facts(file.case, shipped_flora()), shipped_flora())
    begins, ends = job.said("begins"), job.said("ends")
    case = file.case
    place = file.current.plant.place
    return {
        **file.tree,
        "job": str(job.job),
        "title": rule.title,
        "step": job.last.step,
        "do": job.said("do") or rule.do,
        "why": _why(job, file),
        "cautions": list(rule.cautions),
        "checks": checks_before(job, file),
        "seals": rule.seals,
        "refuses": list(rule.refuses),
        "specification": [
            (label, f"{_printed(value)}{unit}")
            for name, label, unit in SPECIFICATION
            if (value := job.said(name) or (rule.equipment if name == "equipment" else None))
        ],
        "day": begins.isoformat() if begins else "",
        "until": ends.isoformat() if ends else "",
        "week": planned["week"] if planned and not begins else "",
        "crew": job.said("crew") or (planned["crew"] if planned else ""),
        "hours": hours,
        "dbh_cm": case.get("dbh_cm"),
        "height_m": case.get("height_m"),
        "lon": place.x if place else None,
        "lat": place.y if place else None,
        "targets": [f"{shown_word(t['kind'])} {t['distance_m']:.0f} m" for t in case.get("targets", [])[:4]],
        "source": rule.source,
    }


def _printed(value: Any) -> str:
    return value.isoformat() if isinstance(value, datetime.date) else shown_word(str(value))


def _why(job: Job, file: WorkFile) -> list[str]:
    """The facts as they stand today; what was a programme's says so."""
    for proposal in propose(file.case, shipped_flora())["proposals"]:
        if proposal["rule"] == job.last.rule and not job.part:
            return proposal["why"]
    return ["asked for by work done before"] if job.said("follows") else []
