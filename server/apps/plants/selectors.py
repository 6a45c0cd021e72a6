"""What a member may read of plants, visits and entries."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.db.models import Count, Q, QuerySet

from apps.organisations.models import Member
from apps.organisations.permissions import visible_to
from apps.plants.models import Current, Entry, PhotoFile, Plant, Visit
from apps.plants.stored import FILED_FIELDS, OBSERVERS, filed
from jubark_core.tree_file.filed import Filed, SeenOn


def plants_visible_to(actor: Member) -> QuerySet[Plant]:
    """Plants of the actor's organisation."""
    return visible_to(actor, Plant.objects.all())


def entries_visible_to(actor: Member) -> QuerySet[Entry]:
    """Entries of the actor's organisation."""
    return visible_to(actor, Entry.objects.all())


def visits_visible_to(actor: Member) -> QuerySet[Visit]:
    """Visits of the actor's organisation."""
    return visible_to(actor, Visit.objects.all())


def current_visible_to(actor: Member) -> QuerySet[Current]:
    """The inventory's rows: current values of the organisation's plants, a tree with two records once."""
    rows = Current.objects.filter(plant__merged_into=None).select_related("plant")
    return visible_to(actor, rows)


def trees_visible_to(actor: Member) -> QuerySet[Current]:
    """Trees and groups of the organisation: the inventory without places that are vacant."""
    return current_visible_to(actor).exclude(plant__form="vacant")


def plants_by_taxon(actor: Member, **narrowed: Any) -> dict[str, int]:
    """Taxon -> how many plants bear its name now; narrowed: further conditions on Current, as `block=...`."""
    rows = current_visible_to(actor).filter(**narrowed).exclude(taxon="").order_by().values("taxon")
    return {row["taxon"]: row["plants"] for row in rows.annotate(plants=Count("pk"))}


def photo_files_visible_to(actor: Member) -> QuerySet[PhotoFile]:
    """Stored photographs of the organisation."""
    return visible_to(actor, PhotoFile.objects.all())


def entries_by_plant(plants: Iterable[UUID]) -> dict[UUID, list[Entry]]:
    """All entries of the plants with their visits, oldest first."""
    rows: dict[UUID, list[Entry]] = {}
    for entry in (
        Entry.objects.filter(plant__in=list(plants))
        .select_related("visit", *OBSERVERS)
        .order_by("visit__local_date", "visit__observed_at", "received_at", "id")
    ):
        rows.setdefault(entry.plant_id, []).append(entry)
    return rows


EVERY = Q()


def of_kinds(*kinds: str) -> Q:
    """Entries of the kinds, with those that decide whether they stand: withdrawals and confirmed clocks."""
    return Q(kind__in=(*kinds, "clock_confirmed")) | Q(retracts__isnull=False)


def filed_by_plant(
    plants: Iterable[UUID], entries: Q = EVERY, visits_of: Q = EVERY
) -> dict[UUID, list[Filed]]:
    """All entries of the plants as their files take them, in no order. entries, visits_of: further
    conditions on either.
    """
    wanted = list(plants)
    visits = {
        row[0]: SeenOn(*row[1:])
        for row in Visit.objects.filter(visits_of, plant__in=wanted).values_list(
            "id", "local_date", "observed_at", "mode", "clock_doubtful", "stage"
        )
    }
    rows: dict[UUID, list[Filed]] = {}
    for plant, *row in Entry.objects.filter(entries, plant__in=wanted).values_list("plant_id", *FILED_FIELDS):
        if (visit := visits.get(row[-1])) is not None:
            rows.setdefault(plant, []).append(filed(plant, visit, row))
    return rows
