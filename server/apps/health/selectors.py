"""What a member may read of plant health: stations, statuses, holds, and plants that are ill."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from apps.health.models import BiosecurityStatus, HoldLifted, StationRecord
from apps.organisations.models import Member
from apps.plants.models import Current
from apps.plants.selectors import trees_visible_to
from apps.sites.models import Block, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.season.place import Place
from jubark_core.signs.case import HealthCase
from jubark_core.signs.load import health
from jubark_core.signs.prior import is_reported_now, notifiable_here

HELD = ("suspicion", "probable", "confirmed")


@dataclass(frozen=True)
class Hold:
    """A movement hold of a block: for which cause, since when, on how many plants' account."""

    block: Block
    cause: str
    since: datetime.date
    plants: tuple[UUID, ...]
    tell: str


def station_of(site: Site) -> StationRecord | None:
    """The newest record of the site's station."""
    return StationRecord.objects.filter(site=site).order_by("-id").first()


def statuses_of(blocks: Iterable[Block]) -> dict[UUID, BiosecurityStatus]:
    """Block -> its newest status; none where nobody set one."""
    found: dict[UUID, BiosecurityStatus] = {}
    for row in (
        BiosecurityStatus.objects.filter(block__in=list(blocks)).select_related("set_by").order_by("id")
    ):
        found[row.block_id] = row
    return found


def ill_plants(actor: Member, blocks: Sequence[Block]) -> list[Current]:
    """Plants of the blocks of which a cause is suspected or more."""
    rows = trees_visible_to(actor).filter(block__in=blocks, cause_standing__in=HELD)
    return list(rows.select_related("block", "plant").order_by("cause", "tag", "pk"))


def case_of_site(site: Site, on: datetime.date) -> HealthCase:
    """The site as the core's rules of areas and seasons need it."""
    return HealthCase(
        on=on,
        place=Place(site.lat, site.lon, site.elevation_m),
        hosts=(),
        signs=(),
        areas=tuple(sorted(site.areas)),
    )


def open_holds(ill: Iterable[Current], case: HealthCase) -> list[Hold]:
    """Holds that stand: one for each block and notifiable cause suspected since it was last lifted."""
    found: dict[tuple[UUID, str], list[Current]] = {}
    for row in ill:
        if row.cause in health().causes and is_reported_now(
            health().causes[row.cause], case, shipped_flora()
        ):
            found.setdefault((row.block_id, row.cause), []).append(row)
    lifted: dict[tuple[UUID, str], datetime.date] = {}
    for lift in HoldLifted.objects.filter(block__in={block for block, _ in found}).order_by("on"):
        lifted[lift.block_id, lift.cause] = lift.on
    holds = []
    for (block, cause), rows in sorted(found.items(), key=lambda pair: str(pair[0])):
        ended = lifted.get((block, cause))
        since = [r for r in rows if ended is None or (r.diagnosed_on or datetime.date.max) > ended]
        if since:
            holds.append(
                Hold(
                    rows[0].block,
                    cause,
                    min(r.diagnosed_on or case.on for r in since),
                    tuple(r.pk for r in since),
                    notifiable_here(health().causes[cause], case, shipped_flora())[1],
                )
            )
    return holds


def withheld_from_the_public(actor: Member, block: Block, on: datetime.date) -> set[UUID]:
    """Plants whose notifiable find and place are not for the public."""
    case = case_of_site(block.site, on)
    causes = health().causes
    return {
        row.pk
        for row in ill_plants(actor, [block])
        if row.cause in causes and notifiable_here(causes[row.cause], case, shipped_flora())[0]
    }


def record_for_core(station: StationRecord) -> dict[str, Any]:
    """The readings as the core's clock takes them."""
    return {
        "start": station.first_day.isoformat(),
        "min_c": station.min_c,
        "max_c": station.max_c,
        "source": station.name,
    }


def in_short(station: StationRecord) -> dict[str, Any]:
    """The record of a station in a few words."""
    last = station.first_day + datetime.timedelta(days=len(station.min_c) - 1)
    pairs = zip(station.min_c, station.max_c, strict=True)
    return {
        "name": station.name,
        "simulated": station.simulated,
        "first_day": station.first_day,
        "last_day": last,
        "missing": sum(low is None or high is None for low, high in pairs),
    }
