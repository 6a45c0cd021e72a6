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
from jubark_core.flora.load import shipped_flora
from jubark_core.records.working import Work
from jubark_core.tree_file.file import TreeFile, tree_file
from jubark_core.tree_file.filed import Dated, Filed, SeenOn
from jubark_core.tree_file.jobs import OVER
from jubark_core.work.before.acts import needs_nothing
from jubark_core.work.before.job import SINCE_ACTS, step_of_job
from jubark_core.work.before.steps import DONE, HELD_BY_WIRES, may_take_step
from jubark_core.work.programme import rule_of

GUARDED = ("accepted", "changed", "planned", "started", "completed")
LATE = datetime.timedelta(minutes=30)  # by which a step can no longer be refused: it has been taken
OTHER = "OTHER"  # other work: any number of such jobs on a tree


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

    def steps_to(self, row: Row) -> list[Dated[Work]]:
        """The steps of the row's job up to it and with it, as they stood when it was taken."""
        step, tree = row.entry.body, self.tree(row)
        assert isinstance(step, Work)
        rows = [other for other in self.rows[: self.rows.index(row) + 1] if self.tree(other) == tree]
        new = {other.entry.id: i for i, other in enumerate(rows)}
        own = Dated(self.day(row), step, row.entry.id, self.visits[row.visit].observed_at, self.actor.pk)
        earlier = [
            told
            for told in self._with(tree, rows, None).all_of(Work)
            if told.body.job == step.job and told.entry not in (row.entry.id, row.entry.head.replaces)
        ]
        earlier.sort(key=lambda told: new.get(told.entry, -1))
        return [*(told for told in earlier if not _later(told, own, new)), own]

    def steps_before(self, row: Row) -> list[Work]:
        """The steps of the row's job that stand before it."""
        return [told.body for told in self.steps_to(row)[:-1]]

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
        return Filed(*ids, timezone.now(), row.visit, seen, self.actor.pk)


def _later(told: Dated[Work], own: Dated[Work], new: dict[UUID, int]) -> bool:
    """Whether a step that came in before was taken after this one, which came in late."""
    return told.entry not in new and told.at > own.at and told.body.step in DONE and own.body.step in DONE


def _require_follows(step: Work, earlier: Sequence[Work]) -> None:
    """One job has one rule, so that none is planned by the checks of another; what is over stays over."""
    part = next((other.part for other in reversed(earlier) if other.part), "")
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
    """Raises BadEntry where the step, asked for now, may not be taken. What has happened is stored: the file
    says what stood against it.
    """
    on = of.day(row)
    plant = of.plants[of.tree(row)]
    late = row.version < SINCE_ACTS or timezone.now() - of.visits[row.visit].observed_at > LATE
    file = of.file(row, on)
    asked = step_of_job(of.file(row), of.steps_to(row), late)
    refusals = may_take_step({**asked, "case": case_of(file, plant, of.around(row))}, shipped_flora())[
        "refusals"
    ]
    if row.version < SINCE_ACTS and step.step in ("accepted", "planned", "changed"):
        refusals = [said for said in refusals if said.startswith(HELD_BY_WIRES)]  # no younger rule refuses it
    refusals += _turned_refusals(of, row, step) + _second_promise(of, row, step)
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
    held = held and not needs_nothing(rule_of(step.rule, step.part).acts)
    return [HELD_BY_WIRES] if turned and held and not step.though_held_by else []


def _second_promise(of: _Batch, row: Row, step: Work) -> list[str]:
    """A second promise of the same work is refused where the first was known as it was made; else both stand,
    and a person settles it.
    """
    if step.step != "accepted" or row.entry.head.replaces or row.entry.head.retracts:
        return []
    made = of.visits[row.visit].observed_at
    known = {e.id for e in of.stored[of.tree(row)].entries if e.received_at <= made}
    for job in of.file(row).jobs:
        same = job.last.rule == step.rule and job.part == step.part and job.job != step.job
        if same and not job.is_over and step.rule != OTHER and job.steps[0].entry in known:
            return ["The same work is promised on this tree already: change that job, or withdraw it first."]
    return []
