"""The year of a site as the planner takes it: its open jobs, its crews, its money."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, replace
from typing import Any

from apps.organisations.models import Competence, Member
from apps.sites.models import Block, Site
from apps.work.jobs import WorkFile, files_of_site, hours_and_cost, rule_of_job
from apps.work.selectors import moved_jobs, plan_of, settings_of
from jubark_core.flora.load import shipped_flora
from jubark_core.records.office import WorkSettings
from jubark_core.tree_file.jobs import Job
from jubark_core.work.before.acts import acts_of, checks_of_acts
from jubark_core.work.before.job import acts_said
from jubark_core.work.before.steps import last_day, may_take_step
from jubark_core.work.before.wildlife import NEST_WEEKS
from jubark_core.work.effort import skills_of
from jubark_core.work.facts import Facts, read_facts
from jubark_core.work.model import Rule
from jubark_core.work.programme import rule_of
from jubark_core.work.seasons import closed_until, nesting_until, windows_until
from jubark_core.work.year_plan.model import Days, PlanCrew, PlanJob, PlanProblem, monday_of

WEEKS = 52
EVER = (datetime.date.min, datetime.date.max)


@dataclass(frozen=True)
class Year:
    """The problem, and what is shown of each of its jobs beside what the planner asks."""

    problem: PlanProblem
    shown: dict[str, dict[str, Any]]
    currency: str


def year_of(actor: Member, site: Site, on: datetime.date) -> Year:
    """Every job of the site that is accepted, planned or started, in the 52 weeks from that of the day on."""
    settings = settings_of(site)
    moved = {str(job): day for job, day in moved_jobs(site).items()}
    asked = {row.skill for row in settings.skills}
    first = monday_of(on)
    until = first + datetime.timedelta(weeks=WEEKS)
    jobs: list[PlanJob] = []
    shown: dict[str, dict[str, Any]] = {}
    blocks = list(Block.objects.filter(site=site))
    unclean = {b.pk for b in blocks if b.biosecurity != "clean"}
    for file in files_of_site(actor, site, blocks, on, with_jobs=True):
        if file.gone:
            continue
        facts = read_facts(file.case, shipped_flora())
        infected = file.current.plant.block_id in unclean
        for job in file.jobs:
            if job.is_over:
                continue
            for id, rule, more in _parts(job):
                of = _Asked(job, file, facts, rule, settings, on, until)
                made = of.plan_job(id, moved.get(id), infected, frozenset(asked), more)
                jobs.append(made)
                shown[id] = of.shown(made)
    money = settings.budget
    problem = PlanProblem(
        first,
        WEEKS,
        _crews(actor, settings),
        tuple(sorted(jobs, key=lambda j: j.id)),
        tuple(share / 100 for share in settings.weather_lost) or (0.0,) * 12,
        None if money is None else round(money),
        round(settings.closure_week),
        round(settings.disinfect_hours * 60),
        _before(site, first, {job.id for job in jobs}),
    )
    return Year(problem, shown, settings.currency)


def _parts(job: Job) -> list[tuple[str, Rule, tuple[tuple[str, int], ...]]]:
    """(id, rule, after) of a job, and of the part that comes after it."""
    id = str(job.job)
    rule = rule_of_job(job)
    if rule.then is None:
        return [(id, rule, ())]
    later = rule_of(rule.id, rule.then.part)
    return [(id, rule, ()), (f"{id}/{rule.then.part}", later, ((id, rule.then.after_days),))]


@dataclass(frozen=True)
class _Asked:
    """A job, or a part of one, with all that its dates follow from."""

    job: Job
    file: WorkFile
    facts: Facts
    rule: Rule
    settings: WorkSettings
    on: datetime.date
    until: datetime.date

    @property
    def is_later_part(self) -> bool:
        """Whether it is what comes after the job, and not the job itself."""
        return self.rule.title != rule_of_job(self.job).title

    def plan_job(
        self,
        id: str,
        moved: datetime.date | None,
        infected: bool,
        asked: frozenset[str],
        after: tuple[tuple[str, int], ...],
    ) -> PlanJob:
        """As the planner takes it.

        What is planned for a day ahead was promised; for one gone by it is carried over; what has been
        started goes on this week.
        """
        hours, cost = self._effort()
        begins = None if after else self.job.said("begins")
        started = self.job.last.step == "started" and not after
        planned = any(step.body.step == "planned" for step in self.job.steps)
        promised = begins if planned and begins and begins >= self.on else None
        crews = {crew.name for crew in self.settings.crews}
        crew = self.job.said("crew") or ""
        return PlanJob(
            id=id,
            priority=self.rule.priority,
            minutes=max(1, round(hours * 60)),
            money=round(cost),
            windows=tuple(windows_until(self.rule, self.facts, self.on, self.until, shipped_flora())),
            closed=self._closed(),
            avoid=tuple(nesting_until(self.facts, self.on, self.until)) if self._saws() else (),
            not_before=self._not_before(),
            due=last_day(self.rule, self.facts, _iso(self.job.said("latest_on"))),
            skills=frozenset(skills_of(self._acts())) & asked,
            crew=crew if crew in crews and not after else "",
            after=after,
            closure=self.job.said("street") or "",
            infected=infected,
            promised=promised,
            moved=self.on if started else moved if moved and moved >= self.on else None,
            carried_over=bool(begins and begins < self.on and not started),
        )

    def shown(self, made: PlanJob) -> dict[str, Any]:
        """What a list of the plan shows of it."""
        _, cost = self._effort()
        return {
            **self.file.tree,
            "job": str(self.job.job),
            "title": self.rule.title,
            "act": self.rule.act,
            "step": self.job.last.step,
            "street": made.closure,
            "hours": made.minutes / 60,
            "cost": cost,
            "carried_over": made.carried_over,
            "windows": [[a.isoformat(), b.isoformat()] for a, b in made.windows],
        }

    def _equipment(self) -> str:
        return "" if self.is_later_part else self.job.said("equipment") or ""

    def _acts(self) -> tuple[str, ...]:
        """The acts of the job, or those of its later part."""
        said = [] if self.is_later_part else acts_said(self.job)
        return acts_of(said, self.rule.acts, self._equipment() or self.rule.equipment)

    def _effort(self) -> tuple[float, float]:
        if not self.is_later_part:
            return hours_and_cost(self.job, self.file.case, self.settings)
        blank = Job(
            self.job.job, [replace(self.job.steps[-1], on=self.on, body=_as_part(self.job, self.rule))]
        )
        return hours_and_cost(blank, self.file.case, self.settings)

    def _saws(self) -> bool:
        return "C2a" in checks_of_acts(self._acts())

    def _closed(self) -> tuple[Days, ...]:
        """When it is never done, and as long as a nest in use has to be left alone."""
        spans: list[Days] = list(
            closed_until(self.rule, self._acts(), self.facts, self.on, self.until, shipped_flora())
        )
        nest = self.file.case.get("nest_in_use_at")
        if nest and self._saws():
            seen = datetime.datetime.fromisoformat(nest).date()
            spans.append((seen, seen + datetime.timedelta(weeks=NEST_WEEKS, days=-1)))
        return tuple(spans)

    def _not_before(self) -> datetime.date | None:
        """After the longest lead time of what is still asked for, the day somebody gave, and the days a later
        part needs after its first, where that is done already.
        """
        asked = {"case": self.file.case, "rule": self.rule.id, "step": "accepted", "on": self.on.isoformat()}
        checks = may_take_step(asked, shipped_flora())["checks"]
        weeks = max((c["lead_weeks"] for c in checks if c["open"]), default=0)
        given = None if self.is_later_part else self.job.said("earliest_on")
        return max(self.on + datetime.timedelta(weeks=weeks), given or self.on, self._after_first_part())

    def _after_first_part(self) -> datetime.date:
        first = next((j for j in self.file.jobs if j.job == self.job.said("follows")), None)
        then = rule_of(self.job.last.rule).then
        if first is None or then is None or not self.job.part or not first.completed_on():
            return self.on
        return first.steps[-1].on + datetime.timedelta(days=then.after_days)


def _as_part(job: Job, rule: Rule) -> Any:
    """A step of the later part, for its own hours and costs."""
    then = rule_of(job.last.rule).then
    return replace(job.last, part=then.part if then else "", equipment="", hours=None, cost=None, crew="")


def _crews(actor: Member, settings: WorkSettings) -> tuple[PlanCrew, ...]:
    """The crews with the skills their members' papers show, and the days on which those are valid."""
    papers: dict[Any, list[Competence]] = {}
    for paper in Competence.objects.filter(organisation_id=actor.organisation_id, removed_at=None):
        papers.setdefault(paper.member_id, []).append(paper)
    crews = []
    for crew in settings.crews:
        skills = {
            row.skill: tuple(
                (paper.valid_from or EVER[0], paper.valid_until or EVER[1])
                for member in crew.members
                for paper in papers.get(member, [])
                if paper.name.casefold() == row.qualification.casefold()
            )
            for row in settings.skills
        }
        away = tuple((row.begins, row.ends) for row in crew.away)
        crews.append(PlanCrew(crew.name, round(crew.hours * 60), skills, away))
    return tuple(crews)


def _iso(day: datetime.date | None) -> str | None:
    return day.isoformat() if day else None


def _before(site: Site, first: datetime.date, ids: set[str]) -> dict[str, int]:
    """The weeks of the plan that holds, so that the next one stays near it."""
    plan = plan_of(site)
    if plan is None or plan.body is None:
        return {}
    weeks = {}
    for row in plan.body["jobs"]:
        week = (datetime.date.fromisoformat(row["week"]) - first).days // 7
        if row["id"] in ids and 0 <= week < WEEKS:
            weeks[row["id"]] = week
    return weeks
