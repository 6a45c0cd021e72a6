"""What stands round the trees of some blocks, read once for many of them: targets, pests, holds, storms, what
is asked of inspections.
"""

from __future__ import annotations

import datetime
import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from django.utils import timezone

from apps.health.selectors import case_of_site, ill_plants, open_holds
from apps.inspections.selectors import regime_known, targets_near, targets_visible_to
from apps.organisations.models import Member
from apps.plants.models import Current, Plant
from apps.sites.models import Block, Site
from apps.sites.time_zone import zone_info
from apps.work.egg_masses import egg_mass_plots_of
from apps.work.models import LookUp as LookUpRow
from apps.work.people import Papers, crews_of, people_of
from apps.work.selectors import look_ups_visible_to, settings_of
from jubark_core.inspection.regime import months_of, rule_of, zone_of
from jubark_core.records.fields import load
from jubark_core.records.office import LookUp, Regime
from jubark_core.signs.load import health
from jubark_core.size.bearing import metres_between
from jubark_core.tree_file.life import GONE
from jubark_core.work.case_of_tree import evidence_row
from jubark_core.work.planting import STAYS_IN_THE_SOIL

NEAR_M = 60.0
SAME_PLACE_M = 3.0  # a tree stood where a new one is to be planted
SOIL = "soil and water"


@dataclass(frozen=True)
class Ill:
    """A plant of which a cause is suspected or more; gone: it is a stump, or removed."""

    plant: UUID
    block: UUID
    taxon: str
    cause: str
    lon: float
    lat: float
    gone: bool


@dataclass(frozen=True)
class Told:
    """Evidence for many trees, and which of them it covers."""

    scope: LookUp
    row: dict[str, Any]

    def covers(self, plant: Plant) -> bool:
        """Whether the tree is one of those it was given for."""
        scope = self.scope
        return (
            (not scope.blocks or plant.block_id in scope.blocks)
            and (not scope.row or scope.row.casefold() == plant.row_name.casefold())
            and (not scope.plants or plant.pk in scope.plants)
        )


@dataclass(frozen=True)
class Round:
    """What stands round trees of a site. near: cause -> km, by the site's settings."""

    site: Site
    targets: dict[UUID, list[dict[str, Any]]] = field(default_factory=dict)
    held: frozenset[UUID] = frozenset()
    ill: tuple[Ill, ...] = ()
    near: dict[str, float] = field(default_factory=dict)
    storms: tuple[datetime.date, ...] = ()
    regime: Regime = field(default_factory=Regime)
    egg_mass_plots: dict[UUID, list[dict[str, Any]]] = field(default_factory=dict)
    egg_masses_limit_per_ha: float | None = None
    people: Papers = field(default_factory=dict)
    crews: dict[str, list[str]] = field(default_factory=dict)
    look_ups: tuple[Told, ...] = ()

    def look_ups_for(self, plant: Plant) -> list[dict[str, Any]]:
        """Evidence for many trees that covers this one: not where it was recorded after the look."""
        recorded = plant.recorded_at.astimezone(zone_info(self.site.time_zone)).date()
        return [told.row for told in self.look_ups if told.covers(plant) and recorded <= told.scope.on]

    def causes_km(self, plant: Plant) -> dict[str, float]:
        """How near each cause is: by what the site's settings say, and by its own ill trees but this one."""
        found = dict(self.near)
        if plant.place is None:
            return found
        lon, lat = plant.place.coords
        for other in self.ill:
            if other.plant != plant.pk:
                km = metres_between(lon, lat, other.lon, other.lat) / 1000
                if km < found.get(other.cause, math.inf):
                    found[other.cause] = km
        return {cause: round(km, 3) for cause, km in found.items()}

    def died_here(self, plant: Plant) -> list[dict[str, str]]:
        """What died where a new one is to be planted, of a disease that stays in the soil."""
        if plant.place is None:
            return []
        lon, lat = plant.place.coords
        return [
            {"taxon": other.taxon, "agent": other.cause}
            for other in self.ill
            if other.gone
            and other.cause in STAYS_IN_THE_SOIL
            and metres_between(lon, lat, other.lon, other.lat) <= SAME_PLACE_M
        ]

    def inspection_months(self, plant: UUID, height_m: float | None, rating: str) -> int | None:
        """Months between two inspections by the owner's table; None where it says nothing of the tree."""
        near: Any = self.targets.get(plant, [])
        rule = rule_of(zone_of(height_m, near, self.regime), self.regime)
        return months_of(rule, rating) if rule else None


def round_of(actor: Member, site: Site, blocks: Sequence[Block], on: datetime.date) -> Round:
    """What stands round the trees of the blocks. Of pests the whole site counts."""
    near = targets_near(blocks, targets_visible_to(actor).filter(site=site), NEAR_M)
    rows = ill_plants(actor, list(Block.objects.filter(site=site)))
    holds = open_holds(rows, case_of_site(site, on))
    settings = settings_of(site)
    return Round(
        site,
        {plant: [_target(t.kind, t.occupancy, m) for t, m in some] for plant, some in near.items()},
        frozenset(h.block.id for h in holds),
        tuple(_ill(row) for row in rows if row.plant.place),
        {row.cause: row.km for row in settings.causes_near},
        tuple(row.on for row in settings.storms),
        regime_known(site, timezone.now())[0],
        egg_mass_plots_of(blocks, on),
        settings.egg_masses_limit_per_ha,
        people_of(actor, settings),
        crews_of(settings),
        tuple(_told(row) for row in look_ups_visible_to(actor).filter(site=site, withdrawn_at=None)),
    )


def _told(row: LookUpRow) -> Told:
    scope = load(LookUp, row.body)
    # at the beginning of its day there: it was known before the work of that day
    at = datetime.datetime.combine(scope.on, datetime.time(), zone_info(row.site.time_zone))
    return Told(scope, evidence_row(str(row.id), scope.evidence, at, scope.on, row.made_by_id))


def order_of_blocks(around: Round, blocks: Sequence[Block]) -> list[dict[str, Any]]:
    """Of a site with a disease that travels in soil (R31): its blocks in the order of rounds, clean before
    sick; none where there is no such disease, or one block alone.
    """
    sick: dict[UUID, set[str]] = {}
    for other in around.ill:
        if not other.gone and SOIL in health().causes[other.cause].spread:
            sick.setdefault(other.block, set()).add(health().causes[other.cause].name)
    if not sick or len(blocks) < 2:
        return []
    ordered = sorted(blocks, key=lambda b: (b.pk in sick, b.biosecurity != "clean", b.name.casefold()))
    return [{"block": str(b.pk), "block_name": b.name, "causes": sorted(sick.get(b.pk, ()))} for b in ordered]


def _target(kind: str, occupancy: str, metres: float) -> dict[str, Any]:
    return {"kind": kind, "occupancy": occupancy, "distance_m": round(metres, 1)}


def _ill(row: Current) -> Ill:
    place = row.plant.place
    assert place is not None  # asked for above
    return Ill(row.pk, row.block_id, row.taxon, row.cause, place.x, place.y, row.life in GONE)
