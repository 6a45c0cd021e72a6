"""No step of a job is stored past an open check, whichever door it takes."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from uuid import UUID

from django.utils import timezone

from apps.organisations.models import Member
from apps.plants.errors import BadEntry
from apps.plants.merged import ends_of
from apps.plants.models import Plant, Visit
from apps.plants.services.as_in_season import Row
from apps.plants.tree_files import tree_files
from apps.sites.time_zone import today_in
from apps.work.around import Round, round_of
from apps.work.case_of_tree import case_of
from apps.work.year_plan.problem import crew_lacks
from jubark_core.flora.load import shipped_flora
from jubark_core.records.bodies import Body
from jubark_core.records.working import Work
from jubark_core.tree_file.file import TreeFile, tree_file
from jubark_core.tree_file.filed import Filed, SeenOn
from jubark_core.tree_file.jobs import OVER
from jubark_core.work.effort import skills_of
from jubark_core.work.programme import rule_of
from jubark_core.work.propose import HELD_BY_WIRES, ON_WIRES, may_take_step

GUARDED = ("accepted", "planned", "started", "completed")
EMERGENCY = ("least_work", "photographed", "nests_looked_for", "roost_possible", "not_known_protected")


def require_steps_allowed(actor: Member, rows: Sequence[Row]) -> None:
    """Raises BadEntry naming the first check that stands open against a step that is to be stored, or how the
    step does not follow on those its job has taken.
    """
    steps = [row for row in rows if isinstance(row.entry.body, Work)]
    if not steps:
        return
    of = _Batch(actor, rows, {row.plant for row in steps})
    for row in steps:
        step = row.entry.body
        assert isinstance(step, Work)
        _require_follows(step, of.steps_before(row))
        if step.step in GUARDED:
            _require(of, row, step)


class _Batch:
    """The files of the plants with the rows that are to be stored: read once for all their steps."""

    def __init__(self, actor: Member, rows: Sequence[Row], plants: set[UUID]) -> None:
        self.actor = actor
        # a step sent to a duplicate is judged by the file of the tree it is a duplicate of
        self.tops = ends_of({row.plant for row in rows})
        trees = {self.tops.get(plant, plant) for plant in plants}
        self.plants = {p.pk: p for p in Plant.objects.filter(pk__in=trees).select_related("block__site")}
        visits = Visit.objects.filter(pk__in={r.visit for r in rows})
        self.visits = {visit.pk: visit for visit in visits}
        self.stored = dict(tree_files(trees))
        self.rows = [row for row in rows if self.tree(row) in self.stored]
        self._rounds: dict[tuple[UUID, datetime.date], Round] = {}

    def tree(self, row: Row) -> UUID:
        """The record that stands for the tree of the row."""
        return self.tops.get(row.plant, row.plant)

    def day(self, row: Row) -> datetime.date:
        """The day of the row's visit."""
        return self.visits[row.visit].local_date

    def file(self, row: Row, on: datetime.date | None = None) -> TreeFile:
        """The file of the row's tree as it will be, on a day."""
        tree = self.tree(row)
        return self._with(tree, [other for other in self.rows if self.tree(other) == tree], on)

    def steps_before(self, row: Row) -> list[Work]:
        """The steps of the row's job that stand before it."""
        step, tree = row.entry.body, self.tree(row)
        rows = [other for other in self.rows[: self.rows.index(row) + 1] if self.tree(other) == tree]
        jobs = self._with(tree, rows, None).all_of(Work)
        new = {other.entry.id: i for i, other in enumerate(rows)}
        earlier = sorted((r for r in jobs if r.entry != row.entry.id), key=lambda r: new.get(r.entry, -1))
        return [r.body for r in earlier if isinstance(step, Work) and r.body.job == step.job]

    def around(self, row: Row) -> Round:
        """What stands round the row's plant on its day."""
        block = self.plants[self.tree(row)].block
        on = self.day(row)
        if (block.pk, on) not in self._rounds:
            self._rounds[block.pk, on] = round_of(self.actor, block.site, [block], on)
        return self._rounds[block.pk, on]

    def _with(self, tree: UUID, rows: Sequence[Row], on: datetime.date | None) -> TreeFile:
        stored = self.stored[tree]
        added: dict[bool, list[Filed]] = {True: [], False: []}
        for row in rows:
            added[row.plant == tree].append(self._filed(row))
        own, *others = [list(record) for record in stored.records]
        records = [own + added[True], *others, *([added[False]] if added[False] else [])]
        return tree_file(records, on, stored.merged_on)

    def _filed(self, row: Row) -> Filed:
        visit, head = self.visits[row.visit], row.entry.head
        seen = SeenOn(visit.local_date, visit.observed_at, visit.mode, visit.clock_doubtful, visit.stage)
        ids = (row.entry.id, row.plant, row.entry.kind, row.entry.body, head.replaces, head.retracts)
        return Filed(*ids, timezone.now(), row.visit, seen)


def _require_follows(step: Work, earlier: Sequence[Work]) -> None:
    """One job has one rule, so that none is planned by the checks of another; what is over stays over."""
    part = _part_before(earlier)
    if earlier and step.part not in ("", part):
        raise BadEntry("A job keeps its part.", field="part", value=step.part, allowed=part or "nothing")
    for other in earlier:
        if other.rule != step.rule:
            raise BadEntry(
                "A job keeps the rule it was accepted under.",
                field="rule",
                value=step.rule,
                allowed=other.rule,
            )
    if earlier and earlier[-1].step in OVER:
        raise BadEntry(
            f"This job is {earlier[-1].step}: take its last step back, or accept a new job.",
            field="step",
            value=step.step,
            allowed="none",
        )


def _require(of: _Batch, row: Row, step: Work) -> None:
    on = of.day(row)
    case = case_of(of.file(row, on), of.plants[of.tree(row)], of.around(row))
    if step.route:
        case["disposal_route"] = step.route
    emergency = None
    if step.emergency_by:
        emergency = {"by": step.emergency_by, "role": of.actor.role, "reason": step.emergency_reason}
        emergency |= {name: getattr(step, name) for name in EMERGENCY}
    answer = may_take_step(
        {
            "case": case,
            "rule": step.rule,
            "part": step.part or _part_before(of.steps_before(row)),
            "first_part_on": _first_part_on(
                of.file(row).bodies, step.rule, step.follows or _follows_before(of.steps_before(row))
            ),
            "step": step.step,
            "on": (step.begins or on).isoformat() if step.step == "planned" else on.isoformat(),
            "emergency": emergency,
            "equipment": step.equipment,
            "sealed_minutes": step.sealed_minutes,
            "line_clearance": step.line_clearance or any(s.line_clearance for s in of.steps_before(row)),
            "though_held_by": step.though_held_by,
        },
        shipped_flora(),
    )
    if answer["flagged"]:
        return  # it happened: it is recorded, and listed as such
    refusals = answer["refusals"] + _turned_refusals(of, row, step)
    if step.step != "accepted":
        refusals = refusals + _crew_refusals(of, row, step) + _dates_refusals(of, row, step)
    if refusals:
        raise BadEntry(
            " ".join(refusals), field="step", value=step.step, allowed="once every check is closed"
        )


def _turned_refusals(of: _Batch, row: Row, step: Work) -> list[str]:
    """A correction makes no clean step of an older one once wires have been seen on the tree since."""
    file = of.file(row)
    before = next((e.body for e in file.entries if e.id == row.entry.head.replaces), None)
    turned = isinstance(before, Work) and before.step != step.step
    today = today_in(of.plants[of.tree(row)].block.site.time_zone)
    held = file.wires is not None and not file.wires.suspended_on(today)
    held = held and rule_of(step.rule, step.part).act not in ON_WIRES
    return [HELD_BY_WIRES] if turned and held and not step.though_held_by else []


def _dates_refusals(of: _Batch, row: Row, step: Work) -> list[str]:
    """Not before a permit, a notice or an outage begins, nor planned beyond its last day, as last said."""
    said = [*of.steps_before(row), step]
    earliest = next((s.earliest_on for s in reversed(said) if s.earliest_on), None)
    latest = next((s.latest_on for s in reversed(said) if s.latest_on), None)
    on = step.begins if step.step == "planned" and step.begins else of.day(row)
    found = []
    if earliest and on < earliest and not step.emergency_by:
        found.append(f"Not before {earliest}: a permit, a notice or an outage begins then.")
    if latest and on > latest and step.step == "planned":
        found.append(f"It is to be done by {latest}.")
    return found


def _crew_refusals(of: _Batch, row: Row, step: Work) -> list[str]:
    """A crew of the site has somebody with each licence the site asks for, valid on the day of the work."""
    earlier = of.steps_before(row)
    crew = step.crew or next((s.crew for s in reversed(earlier) if s.crew), "")
    equipment = step.equipment or next((s.equipment for s in reversed(earlier) if s.equipment), "")
    on = step.begins if step.step == "planned" and step.begins else of.day(row)
    rule = rule_of(step.rule, step.part or _part_before(earlier))
    lacking = crew_lacks(of.actor, of.plants[of.tree(row)].block.site, crew, skills_of(rule, equipment), on)
    return [f"{crew} has nobody with {name!r} valid on {on}." for name in lacking]


def _part_before(earlier: Sequence[Work]) -> str:
    return next((step.part for step in reversed(earlier) if step.part), "")


def _follows_before(earlier: Sequence[Work]) -> UUID | None:
    return next((step.follows for step in reversed(earlier) if step.follows), None)


def _first_part_on(bodies: Sequence[tuple[datetime.date, Body]], rule: str, job: UUID | None) -> str | None:
    """When the first part of the same rule was completed, by the job that this one follows; of no other."""
    steps = [(day, b) for day, b in bodies if isinstance(b, Work) and b.job == job and b.rule == rule]
    if any(b.part for _, b in steps):
        return None  # a later part itself: nothing follows on it
    days = [day for day, b in steps if b.step == "completed"]
    return max(days).isoformat() if days else None
