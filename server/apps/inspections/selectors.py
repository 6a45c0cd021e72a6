"""What a member may read of targets, tables and reports, and how they were known at a moment."""

from __future__ import annotations

import datetime
import json
from collections.abc import Iterable, Sequence
from typing import Any
from uuid import UUID

from django.db import connection
from django.db.models import Q, QuerySet

from apps.inspections import sql
from apps.inspections.models import Report, SiteRegime, Target
from apps.organisations.models import Competence, Member
from apps.organisations.permissions import visible_to
from apps.sites.models import Block, Site
from jubark_core.records.fields import load
from jubark_core.records.office import Regime


def targets_visible_to(actor: Member) -> QuerySet[Target]:
    """Targets of the organisation as they stand now."""
    return visible_to(actor, Target.objects.filter(ended_at=None)).order_by("name", "thing")


def as_geojson(targets: QuerySet[Target]) -> str:
    """Targets as a GeoJSON FeatureCollection (RFC 7946), for other programs and for `take_targets`."""
    features = [
        {
            "type": "Feature",
            "geometry": json.loads(target.shape.json),
            "properties": {name: getattr(target, name) for name in ("name", "kind", "occupancy", "note")},
        }
        for target in targets
    ]
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False)


def reports_visible_to(actor: Member) -> QuerySet[Report]:
    """Reports of the organisation, newest first."""
    return visible_to(actor, Report.objects.select_related("author", "site")).order_by("-number")


def targets_known(site: Site, at: datetime.datetime) -> QuerySet[Target]:
    """Targets of a site as they were known at a moment."""
    return Target.objects.filter(Q(ended_at=None) | Q(ended_at__gt=at), site=site, set_at__lte=at)


def regime_known(site: Site, at: datetime.datetime) -> tuple[Regime, datetime.date]:
    """(the owner's table as it was known at a moment, the day from which it applies); an empty table that
    applies from no day on where none was set.
    """
    rows = SiteRegime.objects.filter(site=site, set_at__lte=at)
    newest, first = rows.order_by("-id").first(), rows.order_by("id").first()
    if newest is None or first is None:
        return Regime(), datetime.date.max
    regime = load(Regime, newest.body)
    return regime, regime.since or first.set_at.date()


def competences_known(organisation: UUID, at: datetime.datetime) -> dict[object, list[Competence]]:
    """Member -> licences and qualifications on record at a moment."""
    found: dict[object, list[Competence]] = {}
    for row in Competence.objects.filter(
        Q(removed_at=None) | Q(removed_at__gt=at), organisation=organisation, recorded_at__lte=at
    ).order_by("id"):
        found.setdefault(row.member_id, []).append(row)
    return found


def targets_near(
    blocks: Sequence[Block], targets: Iterable[Target], metres: float
) -> dict[UUID, list[tuple[Target, float]]]:
    """Plant of the blocks -> targets within so many metres of its place or outline, with how far each is."""
    by_id = {target.pk: target for target in targets}
    found: dict[UUID, list[tuple[Target, float]]] = {}
    given: dict[str, Any] = {"metres": metres, "blocks": [b.pk for b in blocks], "targets": [*by_id]}
    with connection.cursor() as cursor:
        cursor.execute(sql.NEAR, given)
        for plant, target, away in cursor.fetchall():
            found.setdefault(plant, []).append((by_id[target], round(away, 2)))
    order = {pk: i for i, pk in enumerate(by_id)}
    return {plant: sorted(near, key=lambda pair: order[pair[0].pk]) for plant, near in found.items()}


def nearest_targets(
    plants: Sequence[UUID], targets: Iterable[Target], metres: float
) -> dict[UUID, list[tuple[str, float]]]:
    """Plant -> (occupancy, metres) of the nearest target of each occupancy within so many metres."""
    found: dict[UUID, list[tuple[str, float]]] = {}
    given: dict[str, Any] = {
        "metres": metres,
        "plants": [*plants],
        "targets": [target.pk for target in targets],
    }
    with connection.cursor() as cursor:
        cursor.execute(sql.NEAREST, given)
        for plant, occupancy, away in cursor.fetchall():
            found.setdefault(plant, []).append((occupancy, round(away, 2)))
    return found
