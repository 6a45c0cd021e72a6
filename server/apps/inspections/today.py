"""What there is to do on a site, for the plan of a day."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain
from typing import Any
from uuid import UUID

from django.db.models import Max
from django.utils import timezone

from apps.inspections.coverage_report import coverage_report
from apps.organisations.models import Member
from apps.plants.models import Current, Entry, Visit
from apps.plants.selectors import trees_visible_to
from apps.plants.tree_files import tree_files, tree_of_each
from apps.sites.models import Block, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.inspection.day import PlanOut, TaskIn, plan_day
from jubark_core.records.bodies import Determination
from jubark_core.records.file import Enquiry, Hardware, Planting
from jubark_core.records.judged import Risk
from jubark_core.records.words import RATINGS
from jubark_core.risk.worksheet import order
from jubark_core.season.days import add_months
from jubark_core.season.place import Place
from jubark_core.species.side_by_side import shows_now
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.now import gravity

DATED = ("determination", "hardware", "planting", "enquiry")
SOON_DAYS = 30  # an inspection that falls due so soon is worth the way
DATED_SOON_DAYS = 14
EXTREME_FIRST = 10_000  # days: an extreme rating of today goes before the oldest high one
MOST_COMPARED = 200  # pairs of names that are compared for a plan


@dataclass(frozen=True)
class Asked:
    """A day as it was asked for."""

    on: datetime.date
    minutes: float
    remeasure_years: int


def plan_of_day(actor: Member, site: Site, blocks: Sequence[Block], asked: Asked) -> dict[str, Any]:
    """The plan of a day in some blocks of a site: what fits, in walking order, what stays, and how much of
    each there is. Raises BadInput for more trees than can be looked through at once.
    """
    currents = {c.pk: c for c in trees_visible_to(actor).filter(block__in=blocks)}
    report = coverage_report(site, blocks, asked.on, timezone.now())
    files = dict(tree_files(currents, *DATED))
    found: list[tuple[UUID, str, str, int]] = [
        *_risks(currents, site, asked.on),
        *_inspections(report["rows"], asked.on),
        *_dated(files, asked.on),
        *_doubtful(currents),
        *_names(files, asked.on, Place(site.lat, site.lon, site.elevation_m)),
        *_old_figures(currents, asked),
    ]
    tasks = [
        _task(currents[plant], task, says, days) for plant, task, says, days in found if plant in currents
    ]
    plan = plan_day(
        {
            "on": asked.on.isoformat(),
            "minutes": asked.minutes,
            "blocks": [{"block": str(b.id), "name": b.name, "biosecurity": b.biosecurity} for b in blocks],
            "tasks": tasks,
        }
    )
    return {"plan": plan, "trees": _labels(plan, currents), "there_is": _counts(tasks)}


def _task(current: Current, task: str, says: str, days: int) -> TaskIn:
    place = current.plant.place
    return {
        "tree": str(current.pk),
        "block": str(current.block_id),
        "task": task,
        "says": says,
        "days": max(days, 0),
        "lat": place.y if place else None,
        "lon": place.x if place else None,
    }


def _counts(tasks: Iterable[TaskIn]) -> dict[str, int]:
    counts: dict[str, int] = {}
    for task in tasks:
        counts[task["task"]] = counts.get(task["task"], 0) + 1
    return counts


def _labels(plan: PlanOut, currents: dict[UUID, Current]) -> dict[str, dict[str, str]]:
    stops = [stop for block in plan["blocks"] for stop in block["stops"]] + plan["stays"]
    of = {stop["tree"]: currents[UUID(stop["tree"])] for stop in stops}
    return {tree: {"tag": c.tag, "name": c.name} for tree, c in of.items()}


Found = Iterator[tuple[UUID, str, str, int]]


def _risks(currents: dict[UUID, Current], site: Site, on: datetime.date) -> Found:
    """High risk or more, with the day by which its owner deals with it; sheets that are not whole are looked
    at again.
    """
    high = order("high", True)
    incomplete = {order(rating, False) for rating in RATINGS}
    rated = {pk: c.risk_order for pk, c in currents.items() if c.risk_order is not None}
    dangerous = [pk for pk, rank in rated.items() if rank >= high]
    since = _rated_since(dangerous, order("high", True))
    for pk in dangerous:
        reads, extreme = currents[pk].risk_reads, rated[pk] >= order("extreme", True)
        by = since[pk] + datetime.timedelta(days=0 if extreme else site.high_days)
        late = (on - by).days
        asked = "the owner acts at once" if extreme else f"the owner deals with it by {by.isoformat()}"
        past = f", {late} day{'' if late == 1 else 's'} past" if late > 0 else ""
        yield pk, "danger", f"{reads}: {asked}{past}", (EXTREME_FIRST if extreme else 0) + max(late, 0)
    for pk, rank in rated.items():
        if pk not in since and rank in incomplete:
            yield pk, "risk", currents[pk].risk_reads, rank


def _rated_since(trees: Sequence[UUID], high: int) -> dict[UUID, datetime.date]:
    """Tree -> the day of the first of its newest unbroken run of ratings that high: rating it once more gives
    nobody more time.
    """
    return {
        tree: min(day for record in file.apart or (file,) if (day := _high_since(record, high)))
        for tree, file in tree_files(trees, "risk", "inspection")
    }


def _high_since(file: TreeFile, high: int) -> datetime.date | None:
    since: datetime.date | None = None
    for sheet in file.all_of(Risk):
        since = (since or sheet.on) if gravity(sheet.body) >= high else None
    return since


def _inspections(rows: Iterable[dict[str, Any]], on: datetime.date) -> Found:
    for row in rows:
        if not row["due_on"]:
            continue
        late = (on - datetime.date.fromisoformat(row["due_on"])).days
        level = row["level_asked"].replace("_", " ") or "as the worksheet names it"
        if late > 0:
            yield UUID(row["tree"]), "overdue", f"inspection overdue by {late} days: {level}", late
        elif late > -SOON_DAYS:
            yield UUID(row["tree"]), "due", f"inspection due {row['due_on']}: {level}", late + SOON_DAYS


def _dated(files: dict[UUID, TreeFile], on: datetime.date) -> Found:
    """Promises and dates of the tree's file that have come, or come soon."""
    for plant, file in files.items():
        for day, says in chain.from_iterable(_days_of(body) for _, body in file.bodies):
            late = (on - day).days
            if late >= -DATED_SOON_DAYS:
                yield plant, "dated", f"{says}, {day.isoformat()}", late + DATED_SOON_DAYS


def _days_of(body: Any) -> list[tuple[datetime.date, str]]:
    match body:
        case Hardware(next_inspection=datetime.date() as day):
            return [(day, f"look at the {body.hardware.replace('_', ' ')}")]
        case Planting():
            ties = [(body.ties_until, "take the ties off")] if body.ties != "taken_off" else []
            dated = [*ties, (body.warranty_until, "warranty ends")]
            return [(day, says) for day, says in dated if day is not None]
        case Enquiry(answer_by=datetime.date() as day, done_on=None):
            return [(day, f"answer promised: {body.about.replace('_', ' ')}")]
    return []


def _doubtful(currents: dict[UUID, Current]) -> Found:
    for c in currents.values():
        if c.contested:
            yield c.pk, "doubtful", "two corrections of one entry", 0
        if c.tag_clash:
            yield c.pk, "doubtful", f"tag {c.tag} is on two trees", 0
    tree = tree_of_each(currents)
    waiting = Visit.objects.filter(plant__in=tree, clock_doubtful=True).exclude(
        entries__kind="clock_confirmed"
    )
    for record, day in waiting.values_list("plant_id", "local_date"):
        yield tree[record], "doubtful", f"date of a visit not confirmed: {day.isoformat()}", 0


def _names(files: dict[UUID, TreeFile], on: datetime.date, place: Place) -> Found:
    """Names with rivals that are not separated yet, where the day shows what separates them."""
    compared: set[tuple[str, ...]] = set()
    for plant, file in files.items():
        newest = file.newest(Determination)
        if newest is None or not (name := newest.body).taxon or not name.not_separated_from:
            continue
        taxa = tuple(dict.fromkeys((name.taxon, *name.not_separated_from)))
        if taxa in compared or len(compared) < MOST_COMPARED:
            compared.add(taxa)
            if shown := shows_now(shipped_flora(), taxa, on, place):
                yield plant, "name", f"shows now: {', '.join(shown)}", 0


def _old_figures(currents: dict[UUID, Current], asked: Asked) -> Found:
    """Diameters older than the owner wants them."""
    before = add_months(asked.on, -12 * asked.remeasure_years)
    tree = tree_of_each(currents)
    taken = Entry.objects.filter(plant__in=tree, kind="measurement", body__quantity="dbh_cm")
    newest: dict[UUID, datetime.date] = {}
    for record, on in taken.values_list("plant_id").annotate(on=Max("visit__local_date")):
        newest[tree[record]] = max(on, newest.get(tree[record], on))
    for plant, on in newest.items():
        if on < before:
            yield plant, "measure", f"diameter of {on.isoformat()}", (asked.on - on).days
