"""No step of a job is stored past an open check, whichever door it takes."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any

from apps.organisations.models import Member
from apps.plants.errors import BadEntry
from apps.plants.models import Plant, Visit
from apps.plants.projection import standing_entries
from apps.plants.selectors import entry_rows_by_plant
from apps.plants.services.store_records import Row
from apps.plants.stored import body_of
from apps.work.case_of_tree import case_of_tree, round_of
from apps.work.jobs import OVER
from jubark_core.flora.load import shipped_flora
from jubark_core.records.bodies import Body
from jubark_core.records.working import Work
from jubark_core.work.propose import may_take_step

GUARDED = ("planned", "started", "completed")
EMERGENCY = ("least_work", "photographed", "nests_looked_for", "roost_possible", "not_known_protected")


def require_steps_allowed(actor: Member, rows: Sequence[Row]) -> None:
    """Raises BadEntry naming the first check that stands open against a step that is to be stored, or how the
    step does not follow on those its job has taken.
    """
    steps = [row for row in rows if isinstance(row.entry.body, Work)]
    if not steps:
        return
    plants = {
        p.pk: p for p in Plant.objects.filter(pk__in={r.plant for r in steps}).select_related("block__site")
    }
    days = dict(Visit.objects.filter(pk__in={r.visit for r in rows}).values_list("pk", "local_date"))
    stored = entry_rows_by_plant(plants)
    for row in steps:
        _require_follows(row, steps, stored.get(row.plant, []))
        if row.entry.body.step not in GUARDED:  # type: ignore[union-attr]  # steps are Work
            continue
        plant = plants[row.plant]
        on = days[row.visit]
        bodies = _bodies(stored.get(row.plant, []))
        bodies += [
            (days[other.visit], other.entry.body)
            for other in rows
            if other.plant == row.plant and other.entry.body is not None
        ]
        bodies.sort(key=lambda pair: pair[0])
        _require(actor, plant, bodies, on, row.entry.body)  # type: ignore[arg-type]  # steps are Work


def _require_follows(row: Row, steps: Sequence[Row], stored: Sequence[Any]) -> None:
    """One job has one rule, so that none is planned by the checks of another; what is over stays over."""
    step = row.entry.body
    assert isinstance(step, Work)
    replaced = {other.entry.head.replaces for other in steps}
    earlier = [body_of(e) for e in standing_entries(stored).live if e.id not in replaced]
    before = steps[: steps.index(row)]
    earlier += [other.entry.body for other in before if other.plant == row.plant]
    of_job = [body for body in earlier if isinstance(body, Work) and body.job == step.job]
    for other in of_job:
        if other.rule != step.rule:
            raise BadEntry(
                "A job keeps the rule it was accepted under.",
                field="rule",
                value=step.rule,
                allowed=other.rule,
            )
    if of_job and of_job[-1].step in OVER:
        raise BadEntry(
            f"This job is {of_job[-1].step}: take its last step back, or accept a new job.",
            field="step",
            value=step.step,
            allowed="none",
        )


def _bodies(entries: Sequence[Any]) -> list[tuple[datetime.date, Body]]:
    found = []
    for entry in standing_entries(entries).live:
        body = body_of(entry)
        if body is not None:
            found.append((entry.visit.local_date, body))
    return found


def _require(
    actor: Member, plant: Plant, bodies: list[tuple[datetime.date, Body]], on: datetime.date, step: Work
) -> None:
    around = round_of(actor, plant.block.site, [plant.block], on)
    case = case_of_tree(plant, bodies, around, on)
    if case is None:
        raise BadEntry("A job needs a tree with a name.", field="rule", value=step.rule)
    if step.route:
        case["disposal_route"] = step.route
    emergency = None
    if step.emergency_by:
        emergency = {"by": step.emergency_by, "role": actor.role, "reason": step.emergency_reason}
        emergency |= {name: getattr(step, name) for name in EMERGENCY}
    answer = may_take_step(
        {
            "case": case,
            "rule": step.rule,
            "step": step.step,
            "on": (step.begins or on).isoformat() if step.step == "planned" else on.isoformat(),
            "emergency": emergency,
            "equipment": step.equipment,
            "sealed_minutes": step.sealed_minutes,
        },
        shipped_flora(),
    )
    if not answer["allowed"]:
        raise BadEntry(
            " ".join(answer["refusals"]), field="step", value=step.step, allowed="once every check is closed"
        )
