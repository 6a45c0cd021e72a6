"""Trees as they were known at a moment: what had been received by then of what was seen up to a day."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from itertools import chain
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.db.models import Q

from apps.inspections.models import Target
from apps.inspections.selectors import nearest_targets
from apps.plants.from_size import STANDING
from apps.plants.models import Entry, Merge, Plant
from apps.plants.projection import projected_with, standing_entries
from apps.plants.selectors import entry_rows_by_plant, of_kinds
from apps.plants.stored import EntryRow, body_of
from apps.sites.models import Block, Site
from apps.sites.time_zone import today_in
from jubark_core.records.inspected import Inspection
from jubark_core.records.judged import Risk
from jubark_core.records.office import Regime
from jubark_core.records.words import RATINGS

KINDS = ("inspection", "risk", "life", "measurement", "tag", "determination")


@dataclass
class Look:
    """An inspection: of a visit, by somebody, at a level."""

    on: datetime.date
    level: str
    base_visible: str
    crown_visible: str
    no_defect: bool
    walked: bool
    entry: UUID
    member: UUID | None = None
    contact: UUID | None = None


@dataclass
class KnownTree:
    """A standing tree, and what was known of it."""

    plant: UUID
    block: UUID
    row_name: str
    recorded_on: datetime.date
    tag: str
    name: str
    height_m: float | None
    rating: str
    next_inspection: datetime.date | None
    looks: list[Look]
    targets: list[dict[str, Any]] = field(default_factory=list)


def end_of_day(site: Site, day: datetime.date) -> datetime.datetime:
    """When a day ends at a site, by the clock there."""
    return datetime.datetime.combine(
        day + datetime.timedelta(days=1), datetime.time(), ZoneInfo(site.time_zone)
    )


def trees_known(blocks: Sequence[Block], on: datetime.date, at: datetime.datetime) -> list[KnownTree]:
    """The trees that stood in the blocks on a day, as they were known at a moment; one that was recorded
    twice and merged by then, once.
    """
    merges = _merged_by(blocks, at)
    into = {plant: top for plant, (top, _) in merges.items()}
    tops = {plant: _top(plant, into) for plant in into}
    merged_on: dict[UUID, datetime.date] = {}
    for plant, (_, day) in merges.items():
        merged_on[tops[plant]] = max(day, merged_on.get(tops[plant], day))
    held = Q(block__in=blocks) | Q(pk__in=[*tops])
    rows_of = Plant.objects.filter(held, received_at__lte=at).exclude(form="vacant").order_by("pk")
    plants = {p.id: p for p in rows_of}
    own = [p.id for p in plants.values() if p.id not in tops and p.block_id in {b.id for b in blocks}]
    rows = entry_rows_by_plant(
        plants,
        entries=of_kinds(*KINDS) & Q(received_at__lte=at),
        visits_of=Q(local_date__lte=on),
    )
    twice: dict[UUID, list[list[EntryRow]]] = {}
    for plant, entries in rows.items():
        if plant in tops:
            twice.setdefault(tops[plant], []).append(entries)
    known = [_known(plants[top], rows.get(top, []), twice.get(top, []), merged_on.get(top)) for top in own]
    standing = [tree for tree in known if tree is not None]
    _name_inspectors(chain.from_iterable(tree.looks for tree in standing))
    return standing


def _merged_by(blocks: Sequence[Block], at: datetime.datetime) -> dict[UUID, tuple[UUID, datetime.date]]:
    """Duplicate -> the record it was merged into and on what day there, as of a moment, on the sites of the
    blocks: a tree may have been recorded a second time in another block.
    """
    sites = {block.site_id for block in blocks}
    merges = Merge.objects.filter(
        Q(undone_at=None) | Q(undone_at__gt=at), plant__block__site__in=sites, merged_at__lte=at
    )
    rows = merges.values_list("plant_id", "into_id", "merged_at", "plant__block__site__time_zone")
    return {plant: (into, today_in(zone, day)) for plant, into, day, zone in rows}


def _top(plant: UUID, into: dict[UUID, UUID]) -> UUID:
    """The record that stood for a duplicate, through others where need be."""
    while plant in into:
        plant = into[plant]
    return plant


def _known(
    plant: Plant,
    own: list[EntryRow],
    of_duplicates: list[list[EntryRow]],
    merged_on: datetime.date | None,
) -> KnownTree | None:
    """None for a tree that does not stand."""
    now, _ = projected_with(own, of_duplicates, merged_on)
    if now["life"] not in STANDING:
        return None
    looks: dict[UUID, Look] = {}
    for entry in standing_entries([*own, *chain.from_iterable(of_duplicates)]).live:
        body = body_of(entry)
        if isinstance(body, Risk):
            looks.setdefault(entry.visit_id, _of_sheet(entry, body))
        elif isinstance(body, Inspection):
            looks[entry.visit_id] = _of_inspection(entry, body)
    return KnownTree(
        plant=plant.id,
        block=plant.block_id,
        row_name=plant.row_name,
        recorded_on=plant.recorded_at.date(),
        tag=now["tag"],
        name=now["name"],
        height_m=now["height_m"],
        rating="" if now["risk_order"] is None else RATINGS[now["risk_order"] // 2],
        next_inspection=now["next_inspection"],
        looks=sorted(looks.values(), key=lambda look: look.on),
    )


def _of_inspection(entry: EntryRow, body: Inspection) -> Look:
    return Look(
        on=entry.visit.local_date,
        level=body.level,
        base_visible=body.base_visible,
        crown_visible=body.crown_visible,
        no_defect=body.no_defect,
        walked=body.walked,
        entry=entry.id,
    )


def _of_sheet(entry: EntryRow, body: Risk) -> Look:
    """A risk worksheet is an inspection at its own level."""
    return Look(
        on=entry.visit.local_date,
        level=body.level,
        base_visible=body.base_seen,
        crown_visible=body.crown_seen,
        no_defect=False,
        walked=False,
        entry=entry.id,
    )


def _name_inspectors(looks: Iterable[Look]) -> None:
    """Who inspected: the observer that is named, else the author of the entry."""
    by_entry = {look.entry: look for look in looks}
    people = Entry.objects.filter(pk__in=by_entry).values_list(
        "pk", "author_id", "observer_member_id", "observer_contact_id"
    )
    for entry, author, member, contact in people:
        look = by_entry[entry]
        look.contact = contact
        look.member = None if contact else member or author


def put_targets(trees: Sequence[KnownTree], targets: Iterable[Target], regime: Regime) -> None:
    """Beside each tree the nearest target of each occupancy, with how far it is from its place or outline: as
    far as any of the trees reaches by the owner's table.
    """
    farthest = max((regime.reach_heights * (tree.height_m or 0) for tree in trees), default=0)
    near = nearest_targets([tree.plant for tree in trees], targets, max(farthest, regime.reach_m))
    for tree in trees:
        for occupancy, metres in near.get(tree.plant, ()):
            tree.targets.append({"distance_m": metres, "occupancy": occupancy})
