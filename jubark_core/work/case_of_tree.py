"""The case of a tree as the rules of work take it: from its file, and from what stands round it."""

from __future__ import annotations

import datetime
from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any
from uuid import UUID

from jubark_core.records.ailing import Diagnosis, Sign
from jubark_core.records.bodies import Determination
from jubark_core.records.file import (
    Climber,
    Constraint,
    Enquiry,
    Habitat,
    Headroom,
    NearbyWorks,
    Place,
    Planting,
    Status,
)
from jubark_core.records.inspected import StormLook
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.words import BASE_VISIBLE, EVIDENCE, RATINGS
from jubark_core.records.working import Clearance, Work
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.filed import Dated
from jubark_core.tree_file.looks import does_for
from jubark_core.tree_file.now import NAME_BY_A_PERSON
from jubark_core.work.outbreak import EGG_MASSES, FOUND

FRESH_DAYS = 400
FIGURES = {"dbh_cm": "dbh_cm", "height_m": "height_m", "dieback_pct": "crown_loss_percent"}
PROTECTED = {
    "preservation_order": "protected",
    "conservation_area": "conservation_area",
    "heritage": "protected",
    "permit_needed": "street",
}
OF_THE_SIGNED_IN = ("second_person", "not_known_protected")
VACANT = "vacant"
OWN = "own"
LINE_NEAR = "line_near"
ASSESSOR = "assessor"
STORM_ASKS = ("clear_now", ASSESSOR)  # of a look after a storm: what has to be done at once
FUNGI_SEEN = ("bracket_stem", "bracket_base", "crust_black_brittle", "mushrooms_tufts")
# nobody looked at the tree for these
AT_A_DESK = ("status", "constraint", "enquiry", "works", "clearance", "work")


def case_of_tree(file: TreeFile, around: Mapping[str, Any]) -> dict[str, Any]:
    """`WorkCaseIn` on the day of the file. around: what is known of the place and of what stands round the
    tree, under the names of the contract.
    """
    assert file.on is not None
    veteran = any(row.body.vitality for row in file.all_of(Condition))
    seen = [e.visit.local_date for e in file.live if e.kind not in AT_A_DESK]
    case: dict[str, Any] = {
        "on": file.on.isoformat(),
        "stage": "veteran" if veteran else file.stage,
        "last_visit_on": max(seen).isoformat() if seen else None,
        **_name(file),
        **_figures(file),
        **_judged(file),
        **_health(file),
        **_of_the_file(file),
        **_grounds(file),
        **_work(file),
        **around,
    }
    case["evidence"] = [*case["evidence"], *case.pop("look_ups", [])]
    if case.get("form") == VACANT:
        case["last_visit_on"] = None
    return case


def name_of(file: TreeFile) -> Determination | None:
    """The newest name it was given."""
    return next((row.body for row in reversed(file.all_of(Determination)) if row.body.taxon), None)


def _name(file: TreeFile) -> dict[str, Any]:
    name = name_of(file)
    if name is None:
        return {"host": []}
    host = {"taxon": name.taxon, "probability": name.probability or NAME_BY_A_PERSON}
    given = next(row for row in reversed(file.all_of(Determination)) if row.body is name)
    return {
        "host": [host],
        "named_by_person": name.probability is None,
        "namer": str(given.by) if given.by else "",
    }


def _figures(file: TreeFile) -> dict[str, Any]:
    taken = {q: [r for r in rows if r.body.value is not None] for q, rows in file.taken.items()}
    newest = {FIGURES[q]: rows[-1].body.value for q, rows in taken.items() if q in FIGURES and rows}
    return {
        **newest,
        "crown_losses": [
            {"on": r.on.isoformat(), "percent": r.body.value} for r in taken.get("dieback_pct", [])
        ],
        "diameters": [
            {"on": r.on.isoformat(), "cm": r.body.value, "at_m": r.body.at_height_m}
            for r in taken.get("dbh_cm", [])
        ],
    }


def _judged(file: TreeFile) -> dict[str, Any]:
    found: dict[str, Any] = {"life": file.now["life"], **_rating(file), **_base(file)}
    if file.now["condition"]:
        found["condition"] = file.now["condition"]
    flares = [row.body.flare for row in file.all_of(Condition) if row.body.flare]
    if flares:
        found["flare"] = flares[-1]
    found["defects"] = [
        {
            "defect": row.body.defect,
            "part": row.body.part,
            "break_cm": row.body.break_cm,
            "over_target": row.body.over_target == "over_target",
            "fresh": _is_fresh(row, file.on),
        }
        for row in file.defects
    ]
    looked = [look for look in file.looks if not look.is_attempt]
    if looked:
        found["last_inspected_on"] = looked[-1].on.isoformat()
    return found


def _rating(file: TreeFile) -> dict[str, Any]:
    """The worksheet that leads: the gravest of each record's newest while each has its own say; and the
    earliest day that is set for a look and that no look has answered.
    """
    sheets = file.of_each_record(Risk)
    if not sheets:
        return {}
    imminent = [
        any(r.failure == "imminent" and r.consequence != "negligible" for r in sheet.body.rows)
        for sheet in sheets
    ]
    gravest = max(
        zip(sheets, imminent, strict=True), key=lambda pair: (RATINGS.index(pair[0].body.rating), pair[1])
    )[0].body
    due = [day for sheet in sheets if (day := _next_look(file, sheet))]
    return {
        "risk": {"rating": gravest.rating, "imminent": any(imminent), "crown_seen": gravest.crown_seen},
        "next_inspection_on": min(due).isoformat() if due else None,
    }


def _next_look(file: TreeFile, sheet: Dated[Risk]) -> datetime.date | None:
    """The day the sheet names, until a later inspection, on that day or after it, does for the level of the
    sheet.
    """
    day = sheet.body.next_inspection
    if day is None:
        return None
    answered = any(
        look.on >= max(day, sheet.on + datetime.timedelta(days=1))
        and not look.is_attempt
        and does_for(look.level, look.base_visible, look.crown_visible, sheet.body.level)
        for look in file.looks
    )
    return None if answered else day


def _base(file: TreeFile) -> dict[str, str]:
    """How much of the base the newest look saw; while each record has its own say, the least of them."""
    seen = [base for record in file.apart or (file,) if (base := _base_of(record))]
    return {"base_seen": max(seen, key=BASE_VISIBLE.index)} if seen else {}


def _base_of(file: TreeFile) -> str:
    for _, body in reversed(file.bodies):
        said = getattr(body, "base_seen", "") or getattr(body, "base_visible", "")
        if said:
            return str(said)
    return ""


def _is_fresh(row: Dated[Any], on: datetime.date | None) -> bool:
    since = row.body.since_year
    return on is not None and (since is None or since >= row.on.year - 1) and (on - row.on).days <= FRESH_DAYS


def _health(file: TreeFile) -> dict[str, Any]:
    found: dict[str, Any] = {}
    diagnoses: dict[str, dict[str, Any]] = {}
    years: dict[str, set[int]] = {}
    for day, body in file.bodies:
        match body:
            case Defect(defect="decay_fungus"):
                found["fungus_seen_on"] = day.isoformat()
            case Sign(present=True) if body.sign in FUNGI_SEEN:
                found["fungus_seen_on"] = day.isoformat()
            case Sign(present=True, sign=sign) if sign == EGG_MASSES:
                found["egg_masses_seen_on"] = day.isoformat()
            case Diagnosis() if body.cause:
                found["fungus_seen_on"] = None  # it has been told what it is
                if body.standing != "ruled_out" and (body.probability is None or body.probability >= FOUND):
                    years.setdefault(body.cause, set()).add(day.year)
                diagnoses[body.cause] = {
                    "agent": body.cause,
                    "probability": body.probability if body.probability is not None else 0.5,
                    "standing": body.standing,
                    "years": sorted(years.get(body.cause, ())),
                }
    confirmed = [d for d, body in file.bodies if isinstance(body, Diagnosis) and body.standing == "confirmed"]
    if confirmed:
        found["confirmed_on"] = confirmed[0].isoformat()
    return {**found, "diagnoses": list(diagnoses.values())}


def _of_the_file(file: TreeFile) -> dict[str, Any]:
    """What is held of it besides: owner, protection, habitat, what climbs on it."""
    found: dict[str, Any] = {}
    statuses = [row.body for row in file.of_each_record(Status)]
    if statuses:
        found["boundary"] = any(status.on_boundary for status in statuses)
        found["owner"] = next((s.owner for s in statuses if s.owner not in ("", OWN)), statuses[-1].owner)
        found["worth"] = statuses[-1].worth
    wishes = [r.body for r in file.all_of(Enquiry) if r.body.about == "wish_to_work_on_it"]
    if wishes:
        found["wanted"] = [] if wishes[-1].done_on else ["live_pruning", "size_pruning"]
    if planted := file.newest(Planting):
        found["planted_on"] = planted.body.planted_on.isoformat()
    in_use = [
        row.at
        for row in file.all_of(Habitat)
        if row.body.feature in ("nest", "roost") and row.body.in_use == "in_use"
    ]
    in_use += [row.at for row in file.all_of(Clearance) if row.body.result == "in_use"]
    if in_use:
        found["nest_in_use_at"] = max(in_use).isoformat()
    climbers: dict[str, dict[str, Any]] = {}
    for climber in (row.body for row in file.all_of(Climber)):
        climbers.pop(climber.climber, None)
        if not climber.cut_on:
            climbers[climber.climber] = {"climber": climber.climber, "hides": climber.hides}
    return {
        **found,
        "protected": sorted(
            {
                PROTECTED[row.body.constraint]
                for row in file.all_of(Constraint)
                if row.body.constraint in PROTECTED and _stands(row.body, file.on)
            }
        ),
        "habitats": sorted({row.body.feature for row in file.all_of(Habitat)}),
        "climbers": list(climbers.values()),
    }


def _stands(constraint: Constraint, on: datetime.date | None) -> bool:
    return constraint.until is None or on is None or on <= constraint.until


def _grounds(file: TreeFile) -> dict[str, Any]:
    """Lines and ways over it, soil and works under it."""
    found: dict[str, Any] = {}
    places = file.of_each_record(Place)
    overhead = [row.body.overhead_m for row in places if row.body.overhead_m is not None]
    if not overhead:
        overhead = [m for row in file.all_of(Place) if (m := row.body.overhead_m) is not None][-1:]
    if overhead:
        found["wires_m"] = min(overhead)
    if places:
        found["rooting_m3"] = places[-1].body.rooting_m3
    if look := file.newest(StormLook):
        found["line_near"] = LINE_NEAR in look.body.under_it
        asked = look.body.next_step
        answered = asked == ASSESSOR and any(
            seen.on >= look.on and not seen.is_attempt for seen in file.looks
        )
        if asked in STORM_ASKS and not answered:
            found["storm_asks"] = asked
    if file.wires:
        found |= {"on_wires": True, "wires_m": 0.0}
    headroom = {row.body.over: row.body.clear_m for row in file.all_of(Headroom)}
    return {
        **found,
        "headroom": [{"over": over, "clear_m": clear_m} for over, clear_m in headroom.items()],
        "works": [
            {
                "works": row.body.works,
                "distance_m": row.body.distance_m,
                "begins": row.body.begins.isoformat() if row.body.begins else None,
                "ends": row.body.ends.isoformat() if row.body.ends else None,
                "fenced": row.body.fenced,
            }
            for row in file.all_of(NearbyWorks)
        ],
    }


def _work(file: TreeFile) -> dict[str, Any]:
    """Evidence for checks, refusals, the route of the wood. On a tree that wires hold nothing but the
    operator's permit of after that look closes the check of lines.
    """
    steps = [row.body for row in file.all_of(Work)]
    refused = {step.rule: step.facts for step in steps if step.step == "refused" and step.facts}
    routes = [step.route for step in steps if step.route]
    told = [row for row in _evidence(file) if row["kind"] in EVIDENCE.get(row["check"], ())]
    permits = {permit.entry: permit for permit in file.wires.permits} if file.wires else {}
    if file.wires:
        told = [row for row in told if row["check"] != "C4" or UUID(row["entry"]) in permits]
    return {
        "wire_permits": [
            {"begins": p.begins.isoformat(), "until": p.until.isoformat()} for p in permits.values()
        ],
        **({"disposal_route": routes[-1]} if routes else {}),
        "refused": refused,
        "evidence": told,
    }


def _evidence(file: TreeFile) -> Iterator[dict[str, Any]]:
    """What is told as evidence. One that was corrected into saying something else counts from then on, so
    that no correction closes a check for work that had begun.
    """
    by_id = {entry.id: entry for entry in file.entries}
    for entry in file.live:
        body = entry.body
        if not isinstance(body, Clearance):
            continue
        at = entry.visit.observed_at
        before = by_id.get(entry.replaces_id) if entry.replaces_id else None
        while before is not None:
            if _says(before.body) != _says(body):
                at = max(at, entry.received_at)
            before = by_id.get(before.replaces_id) if before.replaces_id else None
        yield evidence_row(str(entry.id), body, at, entry.visit.local_date, entry.by)


def _says(body: Any) -> Any:
    """What of it closes a check."""
    if not isinstance(body, Clearance):
        return None
    return replace(body, reference=body.reference and "given", by=bool(body.by), conditions="", remark="")  # type: ignore[arg-type]


def evidence_row(
    entry: str, body: Clearance, at: datetime.datetime, on: datetime.date, author: UUID | None
) -> dict[str, Any]:
    """`EvidenceIn` of a record. A second person is whoever was signed in: nobody names another as one."""
    person = body.member or body.contact or (None if body.by.strip() else author)
    if body.what in OF_THE_SIGNED_IN:
        person = author
    return {
        "entry": entry,
        "check": body.check_closed,
        "kind": body.what,
        "result": body.result,
        "person": str(person) if person else "",
        "by": body.by,
        "at": at.isoformat(),
        "on": on.isoformat(),
        "reference": body.reference,
        "acts": list(body.acts),
        "answered": list(body.answered),
        "asked_on": body.asked_on.isoformat() if body.asked_on else None,
        "begins": body.begins.isoformat() if body.begins else None,
        "until": body.until.isoformat() if body.until else None,
        "job": str(body.job) if body.job else "",
    }
