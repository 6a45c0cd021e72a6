"""The file of a tree as an operation: for a device that knows its visits, sent and unsent ones alike."""

from __future__ import annotations

import datetime
import uuid
from collections.abc import Set
from dataclasses import replace
from typing import Annotated, Any, NotRequired, TypedDict, cast

from jubark_core.checks import require_date, require_moment
from jubark_core.condition.leaf_state import SURE_NAME, in_season, leaf_state
from jubark_core.condition.words import qualified
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.recording import judged_again, record_entry
from jubark_core.records.bodies import KINDS, Determination, require_kind
from jubark_core.records.fields import load, write
from jubark_core.records.file import Constraint, Habitat
from jubark_core.records.judged import Condition, Risk
from jubark_core.records.shapes import Id
from jubark_core.records.upgrade import VERSION, upgrade
from jubark_core.season.contract import PlaceIn
from jubark_core.season.place import Place
from jubark_core.tree_file.file import TreeFile, tree_file
from jubark_core.tree_file.filed import Filed, SeenOn
from jubark_core.tree_file.jobs import NEXT, Job, open_twice
from jubark_core.tree_file.life import LIFE
from jubark_core.tree_file.now import NAME_BY_A_PERSON
from jubark_core.tree_file.photo_points import photo_points

MOST_RECORDS, MOST_VISITS = 50, 2_000
NOT_RECEIVED = datetime.datetime.max.replace(tzinfo=datetime.UTC)  # after all that was


class FiledEntryIn(TypedDict):
    """An entry at the current record version or the two before; without a body it withdraws another."""

    id: str
    kind: str
    body: NotRequired[dict[str, Any]]
    replaces: NotRequired[str | None]
    retracts: NotRequired[str | None]
    received_at: NotRequired[Annotated[str | None, "When the server received it; none: it has not."]]
    by: NotRequired[Annotated[str | None, "The member who was signed in."]]


class FiledVisitIn(TypedDict):
    """A visit with its entries, and corrections of them wherever they came from."""

    id: str
    local_date: str
    observed_at: str
    mode: NotRequired[str]
    clock_doubtful: NotRequired[bool]
    stage: NotRequired[str]
    entries: list[FiledEntryIn]


class TreeRecordIn(TypedDict):
    """The visits that were recorded of a tree under one id."""

    record: str
    visits: list[FiledVisitIn]


class TreeFileIn(TypedDict):
    """The records of one tree, its own first, as of a day."""

    on: str
    records: list[TreeRecordIn]
    merged_on: NotRequired[Annotated[str | None, "When the last of the others was found to be a duplicate."]]
    place: NotRequired[Annotated[PlaceIn, "Of the site: it says whether the tree was in leaf on a visit."]]


class NameOfTree(TypedDict):
    """The name, how sure it is, and whether a person gave it without a probability."""

    taxon: str
    name: str
    name_rank: str
    probability: float
    by_person: bool


class ConditionOfTree(TypedDict):
    """The condition that leads, and how it is printed."""

    word: str
    at_most: bool
    winter_view: bool
    reads: str


class RiskNow(TypedDict):
    """The rating that leads, as it is printed."""

    reads: str
    next_inspection: str | None
    sheets: Annotated[list[str], "Each that has a say, as it is printed: of several records one each."]


class FigureNow(TypedDict):
    """The newest figure of a quantity."""

    value: float
    on: str
    at_height_m: float | None


class DefectNow(TypedDict):
    """A defect that stands."""

    entry: str
    on: str
    defect: str
    part: str


class HeldByWires(TypedDict):
    """The hold of wires: since when, by which look, under how many permits of the operator."""

    since: str
    look: str
    permits: int


class StepOfTree(TypedDict):
    """A step of a job. body: as it was recorded."""

    entry: str
    on: str
    body: dict[str, Any]


class JobOfTree(TypedDict):
    """A job with its steps, the oldest first. next: the step that carries it on, or ''."""

    job: str
    rule: str
    part: str
    step: str
    next: str
    is_over: bool
    do: str
    begins: str
    crew: str
    though_held_by: str
    twice: Annotated[bool, "Another of the same rule is open besides."]
    steps: list[StepOfTree]


class LookOfTree(TypedDict):
    """An inspection, or an attempt at one."""

    entry: str
    on: str
    level: str
    is_attempt: bool
    no_access: str


class PictureOfPoint(TypedDict):
    """A picture taken from a photo point."""

    id: str
    on: str


class PointOfTree(TypedDict):
    """A photo point and its pictures, oldest first."""

    id: str
    body: dict[str, Any]
    pictures: list[PictureOfPoint]


class TreeFileOut(TypedDict):
    """What stands of a tree on the day."""

    on: str
    tag: str
    name: NameOfTree | None
    life: str
    stands: bool
    alive: bool
    is_there: Annotated[bool, "Something of it is left to be worked on."]
    stage: str
    condition: ConditionOfTree
    risk: RiskNow | None
    figures: dict[str, FigureNow]
    defects: list[DefectNow]
    signs: list[str]
    cause: str
    cause_standing: str
    constraints: Annotated[list[str], "Those that stand on the day."]
    habitats: list[str]
    wires: HeldByWires | None
    jobs: Annotated[list[JobOfTree], "Open ones first, then the newest."]
    looks: list[LookOfTree]
    photo_points: list[PointOfTree]
    standing: Annotated[list[str], "Entries that stand, oldest first."]
    contested: Annotated[list[str], "Entries of which two corrections stand against each other."]
    apart: Annotated[bool, "Each of several records still has its own say."]
    not_counted: Annotated[list[str], "Entries that have not been received and cannot be recorded."]


def tree_file_here(given: TreeFileIn, flora: Flora) -> TreeFileOut:
    """What stands. Entries that were not received yet are judged as the server will judge them. Raises
    InputError naming the place, the value and what is allowed.
    """
    file, skipped = file_here(given, flora)
    return _out(file, require_date("on", given["on"]), skipped)


def file_here(given: TreeFileIn, flora: Flora) -> tuple[TreeFile, list[str]]:
    """The file, and the entries that were not received and cannot be recorded."""
    on = require_date("on", given["on"])
    if not 1 <= len(given["records"]) <= MOST_RECORDS:
        raise InputError("records", len(given["records"]), f"1 to {MOST_RECORDS} records")
    skipped: list[str] = []
    records = [_record(f"records[{i}]", r, flora, skipped) for i, r in enumerate(given["records"])]
    merged = given.get("merged_on")
    file = tree_file(records, on, require_date("merged_on", merged) if merged else None)
    if "place" in given:
        file = _in_season(file, given["place"], flora, skipped)
    return file, skipped


def _in_season(file: TreeFile, at: PlaceIn, flora: Flora, skipped: list[str]) -> TreeFile:
    """The file with unsent conditions as the server will take them: out of leaf they are a winter view."""
    name = file.newest(Determination)
    if name is None or (name.body.probability or 1.0) < SURE_NAME:
        return file
    place = Place(at["lat"], at["lon"], at.get("elevation_m"))
    records: list[list[Filed]] = []
    for record in file.records:
        records.append([])
        for entry in record:
            body = entry.body
            if isinstance(body, Condition) and entry.received_at == NOT_RECEIVED:
                state = leaf_state(name.body.taxon, entry.visit.local_date, place, flora)
                try:
                    body = judged_again(in_season(body, state))
                except InputError:
                    skipped.append(str(entry.id))
                    continue
            records[-1].append(replace(entry, body=body))
    return tree_file(records, file.on, file.merged_on)


def _record(place: str, record: TreeRecordIn, flora: Flora, skipped: list[str]) -> list[Filed]:
    named = Id().read(f"{place}.record", record["record"], {})
    if len(record["visits"]) > MOST_VISITS:
        raise InputError(f"{place}.visits", len(record["visits"]), f"at most {MOST_VISITS} visits")
    found: list[Filed] = []
    for i, visit in enumerate(record["visits"]):
        at = f"{place}.visits[{i}]"
        seen = SeenOn(
            require_date(f"{at}.local_date", visit["local_date"]),
            require_moment(f"{at}.observed_at", visit["observed_at"]),
            visit.get("mode", "field"),
            visit.get("clock_doubtful", False),
            visit.get("stage", "mature"),
        )
        ids = named, Id().read(f"{at}.id", visit["id"], {})
        for j, entry in enumerate(visit["entries"]):
            one = _entry(f"{at}.entries[{j}]", entry, seen, ids, flora)
            found += [one] if one else []
            skipped += [] if one else [entry["id"]]
    return found


def _entry(
    place: str, entry: FiledEntryIn, seen: SeenOn, ids: tuple[uuid.UUID, uuid.UUID], flora: Flora
) -> Filed | None:
    """None where it has not been received and cannot be recorded as it is."""
    own = Id().read(f"{place}.id", entry["id"], {})
    links = [_link(place, entry, name) for name in ("replaces", "retracts")]
    kind = require_kind(f"{place}.kind", entry["kind"])
    received = entry.get("received_at")
    body = None
    if links[1] is None:
        # a device may hold what an app of the two versions before gave it or wrote; what is of this one stays
        raw = upgrade("entry", {"kind": kind, "body": entry.get("body", {})}, VERSION - 2)["body"]
        try:
            if received:
                body = load(KINDS[kind].body, raw)
            else:
                body = record_entry({"id": entry["id"], "kind": kind, "body": raw}, flora).body
        except InputError:
            return None
        except (AttributeError, KeyError, TypeError, ValueError):
            raise InputError(f"{place}.body", raw, f"a body of the kind {kind}, as it was recorded") from None
    at = require_moment(f"{place}.received_at", received) if received else NOT_RECEIVED
    return Filed(own, ids[0], kind, body, links[0], links[1], at, ids[1], seen, _link(place, entry, "by"))


def _link(place: str, entry: FiledEntryIn, name: str) -> uuid.UUID | None:
    given = cast(dict[str, Any], entry).get(name)
    return Id().read(f"{place}.{name}", given, {}) if given else None


def _out(file: TreeFile, on: datetime.date, skipped: list[str]) -> TreeFileOut:
    now = file.now
    life = LIFE[now["life"]]
    return {
        "on": on.isoformat(),
        "tag": now["tag"],
        "name": _name(file),
        "life": now["life"],
        "stands": life.stands,
        "alive": life.alive,
        "is_there": life.is_there,
        "stage": file.stage,
        "condition": {
            "word": now["condition"],
            "at_most": now["condition_at_most"],
            "winter_view": now["condition_in_winter"],
            "reads": qualified(now["condition"], now["condition_at_most"], now["condition_in_winter"]),
        },
        "risk": {
            "reads": now["risk_reads"],
            "next_inspection": _iso(now["next_inspection"]),
            "sheets": [sheet.body.reads for sheet in file.of_each_record(Risk)],
        }
        if now["risk_reads"]
        else None,
        "figures": {
            quantity: {
                "value": rows[-1].body.value,
                "on": rows[-1].on.isoformat(),
                "at_height_m": rows[-1].body.at_height_m,
            }
            for quantity, rows in file.taken.items()
        },
        "defects": [
            {"entry": str(r.entry), "on": r.on.isoformat(), "defect": r.body.defect, "part": r.body.part}
            for r in file.defects
        ],
        "signs": now["signs"],
        "cause": now["cause"],
        "cause_standing": now["cause_standing"],
        "constraints": sorted(
            {
                row.body.constraint
                for row in file.all_of(Constraint)
                if row.body.until is None or on <= row.body.until
            }
        ),
        "habitats": sorted({row.body.feature for row in file.all_of(Habitat)}),
        "wires": {
            "since": file.wires.since.isoformat(),
            "look": str(file.wires.look),
            "permits": len(file.wires.permits),
        }
        if file.wires
        else None,
        "jobs": _jobs(file),
        "looks": [
            {
                "entry": str(look.entry),
                "on": look.on.isoformat(),
                "level": look.level,
                "is_attempt": look.is_attempt,
                "no_access": look.no_access,
            }
            for look in file.looks
        ],
        "photo_points": [
            {
                "id": str(point.entry),
                "body": write(point.body),
                "pictures": [{"id": str(entry), "on": day.isoformat()} for entry, day in point.pictures],
            }
            for point in photo_points(file)
        ],
        "standing": [str(e.id) for e in file.live],
        "contested": sorted(map(str, file.standing.contested)),
        "apart": bool(file.apart),
        "not_counted": skipped,
    }


def _name(file: TreeFile) -> NameOfTree | None:
    newest = file.newest(Determination)
    if newest is None:
        return None
    name = newest.body
    return {
        "taxon": name.taxon,
        "name": name.name,
        "name_rank": name.name_rank,
        "probability": NAME_BY_A_PERSON if name.probability is None else name.probability,
        "by_person": name.probability is None,
    }


def _jobs(file: TreeFile) -> list[JobOfTree]:
    newest_first = sorted(file.jobs, key=lambda job: job.steps[-1].on, reverse=True)
    twice = open_twice(file.jobs)
    return [_job(job, twice) for job in sorted(newest_first, key=lambda job: job.is_over)]


def _job(job: Job, twice: Set[uuid.UUID]) -> JobOfTree:
    return {
        "job": str(job.job),
        "rule": job.last.rule,
        "part": job.part,
        "step": job.last.step,
        "next": NEXT.get(job.last.step, ""),
        "is_over": job.is_over,
        "do": job.said("do") or "",
        "begins": _iso(job.said("begins")) or "",
        "crew": job.said("crew") or "",
        "though_held_by": job.said("though_held_by") or "",
        "twice": job.job in twice,
        "steps": [
            {"entry": str(step.entry), "on": step.on.isoformat(), "body": write(step.body)}
            for step in job.steps
        ],
    }


def _iso(day: datetime.date | None) -> str | None:
    return day.isoformat() if day else None
