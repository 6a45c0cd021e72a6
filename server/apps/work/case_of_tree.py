"""The case of a tree as the rules of work take it: from its entries, and from what stands round it."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from apps.health.selectors import case_of_site, ill_plants, open_holds
from apps.inspections.models import Target
from apps.organisations.models import Member
from apps.plants.models import Plant
from apps.sites.models import Block, Site
from apps.work.selectors import settings_of
from jubark_core.records.ailing import Diagnosis
from jubark_core.records.bodies import Body, Determination, Life, Measurement
from jubark_core.records.file import Constraint, Enquiry, Habitat, Place, Planting
from jubark_core.records.inspected import StormLook
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.working import Clearance, Work
from jubark_core.size.bearing import metres_between

NAMED_BY_PEOPLE = 0.97  # a name without a probability: people err
NEAR_M = 60.0
STORM_DAYS = 30
FRESH_DAYS = 400
FIGURES = ("dbh_cm", "height_m", "dieback_pct")
PROTECTED = {
    "preservation_order": "protected",
    "conservation_area": "conservation_area",
    "heritage": "protected",
}


@dataclass(frozen=True)
class Round:
    """What stands round the trees of some blocks: targets of the site, blocks that are held, pests near."""

    site: Site
    targets: tuple[tuple[str, str, float, float], ...] = ()
    held: frozenset[UUID] = field(default_factory=frozenset)
    ill: tuple[tuple[str, UUID, float, float], ...] = ()
    near: dict[str, float] = field(default_factory=dict)

    def causes_km(self, plant: Plant) -> dict[str, float]:
        """How near each cause is: by what the site's settings say, and by its own ill trees but this one."""
        found = dict(self.near)
        for cause, other, lon, lat in self.ill:
            if other == plant.pk or plant.place is None:
                continue
            km = metres_between(plant.place.x, plant.place.y, lon, lat) / 1000
            found[cause] = round(min(km, found.get(cause, km)), 3)
        return found


def round_of(actor: Member, site: Site, blocks: Sequence[Block], on: datetime.date) -> Round:
    """Read once for many trees."""
    targets = tuple(
        (t.kind, t.occupancy, *t.shape.centroid.coords)
        for t in Target.objects.filter(site=site, ended_at=None)
    )
    ill = ill_plants(actor, blocks)
    holds = open_holds(ill, case_of_site(site, on))
    placed = tuple((c.cause, c.pk, c.plant.place.x, c.plant.place.y) for c in ill if c.plant.place)
    near = {row.cause: row.km for row in settings_of(site).causes_near}
    return Round(site, targets, frozenset(h.block.id for h in holds), placed, near)


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


def case_of_tree(
    plant: Plant, bodies: Sequence[tuple[datetime.date, Body]], around: Round, on: datetime.date
) -> dict[str, Any] | None:
    """The case on a day; None for a tree without a name the flora knows. bodies: standing, oldest first."""
    known = Known(on)
    for day, body in bodies:
        if day <= on:
            _apply(known, day, body)
    if "host" not in known.case:
        return None
    site = around.site
    place = plant.place
    targets = [
        {"kind": kind, "occupancy": occupancy, "distance_m": round(metres, 1)}
        for kind, occupancy, lon, lat in around.targets
        if place and (metres := metres_between(place.x, place.y, lon, lat)) <= NEAR_M
    ]
    newest = max(known.defects, default=None)
    return {
        "on": on.isoformat(),
        "lat": site.lat,
        "lon": site.lon,
        "elevation_m": site.elevation_m,
        "areas": list(site.areas),
        "region": site.region,
        "form": plant.form,
        "targets": targets,
        "defects": known.defects[newest] if newest else [],
        "diagnoses": list(known.diagnoses.values()),
        "clearances": known.clearances,
        "refused": known.refused,
        "protected": sorted(set(known.protected)),
        "habitats": sorted(set(known.habitats)),
        "held_wood": plant.block_id in around.held,
        "causes_km": around.causes_km(plant),
        "setting": plant.block.setting,
        **known.case,
    }


def _apply(known: Known, day: datetime.date, body: Body) -> None:
    case = known.case
    match body:
        case Determination() if body.taxon:
            case["host"] = [{"taxon": body.taxon, "probability": body.probability or NAMED_BY_PEOPLE}]
            case["named_by_person"] = body.probability is None
        case Life():
            case["life"] = body.state
        case Measurement() if (
            body.quantity in ("dbh_cm", "height_m", "dieback_pct") and body.value is not None
        ):
            case["crown_loss_percent" if body.quantity == "dieback_pct" else body.quantity] = body.value
        case Risk():
            case["risk"] = {
                "rating": body.rating,
                "imminent": any(r.failure == "imminent" and r.consequence != "negligible" for r in body.rows),
                "base_seen": body.base_seen,
                "crown_seen": body.crown_seen,
            }
        case Condition():
            case["no_defect"] = body.no_defect
            if body.no_defect:
                known.defects[day] = []
        case Defect():
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
        case Diagnosis() if body.cause:
            known.diagnoses[body.cause] = {
                "agent": body.cause,
                "probability": body.probability if body.probability is not None else 0.5,
                "standing": body.standing,
            }
        case StormLook() if body.under_it == "wires":
            case["on_wires"] = (known.on - day).days <= STORM_DAYS
            case["wires_m"] = 0.0
        case Place() if body.overhead_m is not None:
            case["wires_m"] = body.overhead_m
        case Enquiry() if body.about == "wish_to_work_on_it":
            case["wanted"] = [] if body.done_on else ["live_pruning", "size_pruning"]
        case Planting():
            case["planted_on"] = body.planted_on.isoformat()
        case Constraint() if body.constraint in PROTECTED:
            known.protected.append(PROTECTED[body.constraint])
        case Habitat():
            known.habitats.append(body.feature)
            if body.feature in ("nest", "roost") and body.in_use == "in_use":
                case["nest_in_use_on"] = day.isoformat()
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
    case.pop("no_defect", None)
