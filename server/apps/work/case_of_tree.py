"""The case of a tree as the rules of work take it: from its entries, and from what stands round it."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from apps.plants.from_size import protection_of
from apps.plants.models import Plant
from apps.work.around import Round
from apps.work.egg_masses import EGG_MASSES
from jubark_core.flora.load import shipped_flora
from jubark_core.records.ailing import Diagnosis, Sign
from jubark_core.records.bodies import Body, Determination, Life, Measurement
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
from jubark_core.records.inspected import Inspection, StormLook
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.words import RATINGS
from jubark_core.records.working import Clearance, Work
from jubark_core.season.place import Place as PlaceOfSeason
from jubark_core.species.side_by_side import shows_now
from jubark_core.work.outbreak import FOUND

NAMED_BY_PEOPLE = 0.97  # a name without a probability: people err
FRESH_DAYS = 400
FIGURES = {"dbh_cm": "dbh_cm", "height_m": "height_m", "dieback_pct": "crown_loss_percent"}
PROTECTED = {
    "preservation_order": "protected",
    "conservation_area": "conservation_area",
    "heritage": "protected",
    "permit_needed": "street",
}
VACANT = "vacant"
FUNGI_SEEN = ("bracket_stem", "bracket_base", "crust_black_brittle", "mushrooms_tufts")
AT_A_DESK = (Status, Constraint, Enquiry, NearbyWorks, Clearance, Work)  # nobody looked at the tree for these


@dataclass
class Known:
    """What the entries of a tree say, the newest of each."""

    on: datetime.date
    case: dict[str, Any] = field(default_factory=dict)
    defects: dict[datetime.date, list[dict[str, Any]]] = field(default_factory=dict)
    diagnoses: dict[str, dict[str, Any]] = field(default_factory=dict)
    clearances: list[dict[str, Any]] = field(default_factory=list)
    refused: dict[str, str] = field(default_factory=dict)
    protected: list[str] = field(default_factory=list)
    habitats: list[str] = field(default_factory=list)
    headroom: dict[str, dict[str, Any]] = field(default_factory=dict)
    climbers: dict[str, dict[str, Any]] = field(default_factory=dict)
    works: list[dict[str, Any]] = field(default_factory=list)
    diameters: list[Measurement] = field(default_factory=list)
    losses: list[dict[str, Any]] = field(default_factory=list)
    found_in: dict[str, set[int]] = field(default_factory=dict)
    taped_on: list[datetime.date] = field(default_factory=list)
    crown_radii_m: tuple[float, ...] = ()
    spread_m: float | None = None
    overhead_m: float | None = None
    wires_on: datetime.date | None = None
    veteran: bool = False
    name: Determination | None = None


def case_of_tree(
    plant: Plant,
    bodies: Sequence[tuple[datetime.date, Body]],
    around: Round,
    on: datetime.date,
    stage: str = "",
    records: Sequence[Sequence[tuple[datetime.date, Body]]] = (),
) -> dict[str, Any]:
    """The case on a day. bodies: standing, oldest first. stage: of life, at the newest visit. records: the
    same by record, where a tree was recorded several times and nobody has seen it whole since that was
    found: then the gravest rating leads, and the defects of each stand.
    """
    seen = [(day, body) for day, body in bodies if day <= on]
    known = _known(on, seen)
    if len(records) > 1:
        _join(known, [_known(on, [(day, body) for day, body in r if day <= on]) for r in records])
    _end_wires(known)
    site = around.site
    newest = max(known.defects, default=None)
    vacant = plant.form == VACANT
    case = {
        "on": on.isoformat(),
        "lat": site.lat,
        "lon": site.lon,
        "elevation_m": site.elevation_m,
        "areas": list(site.areas),
        "region": site.region,
        "units": site.units,
        "form": plant.form,
        "stage": "veteran" if known.veteran else stage or "mature",
        "host": [],
        "targets": around.targets.get(plant.pk, []),
        "defects": known.defects[newest] if newest else [],
        "diagnoses": list(known.diagnoses.values()),
        "clearances": known.clearances,
        "refused": known.refused,
        "protected": sorted(set(known.protected)),
        "habitats": sorted(set(known.habitats)),
        "held_wood": plant.block_id in around.held,
        "causes_km": around.causes_km(plant),
        "setting": plant.block.setting,
        "headroom": list(known.headroom.values()),
        "climbers": list(known.climbers.values()),
        "works": known.works,
        "diameters": [
            {"on": day.isoformat(), "cm": b.value, "at_m": b.at_height_m}
            for day, b in zip(known.taped_on, known.diameters, strict=True)
        ],
        "crown_losses": known.losses,
        "egg_mass_plots": around.egg_mass_plots.get(plant.block_id, []),
        "egg_masses_limit_per_ha": around.egg_masses_limit_per_ha,
        "storms_on": [day.isoformat() for day in around.storms],
        "last_visit_on": None if vacant else _last_seen(seen),
        **known.case,
    }
    rating = (case.get("risk") or {}).get("rating") or ""
    case["inspection_months"] = around.inspection_months(plant.pk, case.get("height_m"), rating)
    case["name_shows_now"] = _shows_now(known, around)
    if known.works and known.diameters:
        case["protection_radius_m"] = _radius_m(known, around, case["stage"])
    if vacant:
        case["died_here"] = around.died_here(plant)
    return case


def _known(on: datetime.date, seen: Sequence[tuple[datetime.date, Body]]) -> Known:
    known = Known(on)
    for day, body in seen:
        _apply(known, day, body)
    return known


def _join(known: Known, records: Sequence[Known]) -> None:
    """Of several records of one tree: the gravest of their newest ratings, the newest defects of each."""
    rated = [r.case["risk"] for r in records if r.case.get("risk")]
    if rated:
        gravest = max(rated, key=lambda risk: (RATINGS.index(risk["rating"]), risk["imminent"]))
        known.case["risk"] = {**gravest, "imminent": any(risk["imminent"] for risk in rated)}
    dates = [day for r in records if (day := r.case.get("next_inspection_on"))]
    if dates:
        known.case["next_inspection_on"] = min(dates)
    newest = [r.defects[max(r.defects)] for r in records if r.defects]
    if newest:
        known.defects[max(known.defects)] = [row for rows in newest for row in rows]


def _end_wires(known: Known) -> None:
    """A tree on wires is held until the operator of the line says, after that look, that it is clear of it:
    with a reference and no end. No later look and no passing of days ends that; a permit for a time suspends
    it.
    """
    if known.wires_on is None:
        return
    seen = known.wires_on.isoformat()
    since = [c for c in known.clearances if not (_by_operator(c) and c["on"] < seen)]
    if any(_by_operator(c) and c["until"] is None for c in since):
        del known.case["on_wires"]
        known.case["wires_m"] = known.overhead_m
    known.clearances = since


def _by_operator(clearance: dict[str, Any]) -> bool:
    return bool(clearance["check"] == "C4" and clearance.get("what", "operator") == "operator")


def _last_seen(seen: Sequence[tuple[datetime.date, Body]]) -> str | None:
    days = [day for day, body in seen if not isinstance(body, AT_A_DESK)]
    return max(days).isoformat() if days else None


def _shows_now(known: Known, around: Round) -> list[str]:
    """What separates a name that was given with a probability from the others, and can be seen now."""
    name = known.name
    if name is None or name.probability is None or not name.not_separated_from:
        return []
    site = around.site
    taxa = tuple(dict.fromkeys((name.taxon, *name.not_separated_from)))
    place = PlaceOfSeason(site.lat, site.lon, site.elevation_m)
    return shows_now(shipped_flora(), taxa, known.on, place)


def _radius_m(known: Known, around: Round, stage: str) -> float:
    edge = max(known.crown_radii_m, default=known.spread_m / 2 if known.spread_m else None)
    return protection_of(around.site, known.diameters[-1], edge, stage)["radius_m"]


def _apply(known: Known, day: datetime.date, body: Body) -> None:
    _apply_judged(known, day, body)
    _apply_file(known, day, body)


def _apply_judged(known: Known, day: datetime.date, body: Body) -> None:
    """Name, figures, condition, defects, risk, diagnoses, inspections."""
    case = known.case
    match body:
        case Determination() if body.taxon:
            case["host"] = [{"taxon": body.taxon, "probability": body.probability or NAMED_BY_PEOPLE}]
            case["named_by_person"] = body.probability is None
            known.name = body
        case Life():
            case["life"] = body.state
        case Measurement():
            _apply_figure(known, day, body)
        case Risk():
            case["risk"] = {
                "rating": body.rating,
                "imminent": any(r.failure == "imminent" and r.consequence != "negligible" for r in body.rows),
                "crown_seen": body.crown_seen,
            }
            case["base_seen"] = body.base_seen
            case["last_inspected_on"] = day.isoformat()
            case["next_inspection_on"] = body.next_inspection.isoformat() if body.next_inspection else None
        case Inspection():
            if body.base_visible:
                case["base_seen"] = body.base_visible
            case["last_inspected_on"] = day.isoformat()
            due = case.get("next_inspection_on")
            if due and due <= day.isoformat():
                case["next_inspection_on"] = None  # it was for this inspection
        case Condition():
            if body.word:
                case["condition"] = body.word
            if body.base_visible:
                case["base_seen"] = body.base_visible
            if body.flare:
                case["flare"] = body.flare
            known.veteran = known.veteran or bool(body.vitality)
            if body.no_defect:
                known.defects[day] = []
        case Defect():
            if body.defect == "decay_fungus":
                case["fungus_seen_on"] = day.isoformat()
            fresh = body.since_year is None or body.since_year >= day.year - 1
            known.defects.setdefault(day, []).append(
                {
                    "defect": body.defect,
                    "part": body.part,
                    "break_cm": body.break_cm,
                    "over_target": body.over_target == "over_target",
                    "fresh": fresh and (known.on - day).days <= FRESH_DAYS,
                }
            )
        case Sign() if body.present and body.sign == EGG_MASSES:
            case["egg_masses_seen_on"] = day.isoformat()
        case Sign() if body.present and body.sign in FUNGI_SEEN:
            case["fungus_seen_on"] = day.isoformat()
        case Diagnosis() if body.cause:
            case["fungus_seen_on"] = None  # it has been told what it is
            if body.standing != "ruled_out" and (body.probability is None or body.probability >= FOUND):
                known.found_in.setdefault(body.cause, set()).add(day.year)
            known.diagnoses[body.cause] = {
                "agent": body.cause,
                "probability": body.probability if body.probability is not None else 0.5,
                "standing": body.standing,
                "years": sorted(known.found_in.get(body.cause, ())),
            }
        case StormLook() if body.under_it == "wires":
            known.wires_on = day
            case |= {"on_wires": True, "wires_m": 0.0}


def _apply_figure(known: Known, day: datetime.date, body: Measurement) -> None:
    if not body.stems or body.out_of_leaf or body.value is None:
        return
    if body.quantity in FIGURES:
        known.case[FIGURES[body.quantity]] = body.value
    if body.quantity == "dieback_pct":
        known.losses.append({"on": day.isoformat(), "percent": body.value})
    if body.quantity == "dbh_cm":
        known.diameters.append(body)
        known.taped_on.append(day)
    if body.quantity == "crown_spread_m":
        known.crown_radii_m = tuple(body.raw.radii_m or ())
        known.spread_m = body.value


def _apply_file(known: Known, day: datetime.date, body: Body) -> None:
    """What the file holds besides, and the work."""
    case = known.case
    match body:
        case Status():
            case["boundary"] = body.on_boundary
            case["owner"] = body.owner
            case["worth"] = body.worth
        case Place():
            if body.overhead_m is not None:
                case["wires_m"] = known.overhead_m = body.overhead_m
            case["rooting_m3"] = body.rooting_m3
        case Enquiry() if body.about == "wish_to_work_on_it":
            case["wanted"] = [] if body.done_on else ["live_pruning", "size_pruning"]
        case Planting():
            case["planted_on"] = body.planted_on.isoformat()
        case Constraint() if body.constraint in PROTECTED:
            if body.until is None or known.on <= body.until:
                known.protected.append(PROTECTED[body.constraint])
        case Habitat():
            known.habitats.append(body.feature)
            if body.feature in ("nest", "roost") and body.in_use == "in_use":
                case["nest_in_use_on"] = day.isoformat()
        case Headroom():
            known.headroom[body.over] = {"over": body.over, "clear_m": body.clear_m}
        case Climber() if body.cut_on:
            known.climbers.pop(body.climber, None)
        case Climber():
            known.climbers[body.climber] = {"climber": body.climber, "hides": body.hides}
        case NearbyWorks():
            known.works.append(
                {
                    "works": body.works,
                    "distance_m": body.distance_m,
                    "begins": body.begins.isoformat() if body.begins else None,
                    "ends": body.ends.isoformat() if body.ends else None,
                    "fenced": body.fenced,
                }
            )
        case Clearance():
            known.clearances.append(
                {
                    "check": body.check_closed,
                    "by": body.by,
                    "on": day.isoformat(),
                    "reference": body.reference,
                    "until": body.until.isoformat() if body.until else None,
                    **({"what": body.what} if body.what else {}),
                }
            )
        case Work() if body.step == "refused" and body.facts:
            known.refused[body.rule] = body.facts
        case Work() if body.route:
            case["disposal_route"] = body.route
