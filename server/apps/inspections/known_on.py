"""Trees as they were known at a moment: what had been received by then of what was seen up to a day."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.db.models import Q

from apps.inspections.models import Target
from apps.inspections.selectors import nearest_targets
from apps.plants.models import Entry, Merge, Plant
from apps.plants.tree_files import tree_files
from apps.sites.models import Block, Site
from jubark_core.records.office import Regime
from jubark_core.records.words import RATINGS
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.life import STANDING

KINDS = ("inspection", "risk", "life", "measurement", "tag", "determination")


@dataclass
class KnownTree:
    """A standing tree, and what was known of it. inspectors: entry of a look -> (member, contact)."""

    plant: UUID
    block: UUID
    row_name: str
    recorded_on: datetime.date
    file: TreeFile
    inspectors: dict[UUID, tuple[UUID | None, UUID | None]] = field(default_factory=dict)
    targets: list[dict[str, Any]] = field(default_factory=list)

    @property
    def height_m(self) -> float | None:
        """The newest height."""
        return self.file.now["height_m"]  # type: ignore[no-any-return]

    @property
    def rating(self) -> str:
        """The rating that leads, or ''."""
        rank = self.file.now["risk_order"]
        return "" if rank is None else RATINGS[rank // 2]


def end_of_day(site: Site, day: datetime.date) -> datetime.datetime:
    """When a day ends at a site, by the clock there."""
    return datetime.datetime.combine(
        day + datetime.timedelta(days=1), datetime.time(), ZoneInfo(site.time_zone)
    )


def trees_known(blocks: Sequence[Block], on: datetime.date, at: datetime.datetime) -> list[KnownTree]:
    """The trees that stood in the blocks on a day, as they were known at a moment; one that was recorded
    twice and merged by then, once.
    """
    merged = Merge.objects.filter(Q(undone_at=None) | Q(undone_at__gt=at), merged_at__lte=at)
    rows = Plant.objects.filter(block__in=blocks, received_at__lte=at).exclude(form="vacant")
    plants = {p.id: p for p in rows.exclude(pk__in=merged.values("plant")).order_by("pk")}
    known = [
        KnownTree(plant, (p := plants[plant]).block_id, p.row_name, p.recorded_at.date(), file)
        for plant, file in tree_files(plants, *KINDS, on=on, at=at)
        if file.now["life"] in STANDING
    ]
    _name_inspectors(known)
    return known


def _name_inspectors(trees: Sequence[KnownTree]) -> None:
    """Who inspected: the observer that is named, else the author of the entry."""
    by_entry = {look.entry: tree for tree in trees for look in tree.file.looks}
    people = Entry.objects.filter(pk__in=by_entry).values_list(
        "pk", "author_id", "observer_member_id", "observer_contact_id"
    )
    for entry, author, member, contact in people:
        by_entry[entry].inspectors[entry] = (None if contact else member or author, contact)


def put_targets(trees: Sequence[KnownTree], targets: Iterable[Target], regime: Regime) -> None:
    """Beside each tree the nearest target of each occupancy, with how far it is from its place or outline: as
    far as any of the trees reaches by the owner's table.
    """
    farthest = max((regime.reach_heights * (tree.height_m or 0) for tree in trees), default=0)
    near = nearest_targets([tree.plant for tree in trees], targets, max(farthest, regime.reach_m))
    for tree in trees:
        for occupancy, metres in near.get(tree.plant, ()):
            tree.targets.append({"distance_m": metres, "occupancy": occupancy})
