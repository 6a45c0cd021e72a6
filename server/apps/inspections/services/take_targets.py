"""Targets from a GeoJSON file: all of them, or none."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from django.db import IntegrityError, transaction

from apps.inspections.models import Target
from apps.inspections.services.set_target import NAME_ONCE, PLAIN, target_of
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from apps.sites.shapes import require_wgs84
from config.errors import BadInput
from jubark_core.errors import InputError
from jubark_core.records.fields import read_as
from jubark_core.records.office import Target as TargetIn

MOST = 2_000


@transaction.atomic
def take_targets(*, actor: Member, site: Site, given: Any) -> list[Target]:
    """Store every target of a FeatureCollection, as `targets.geojson` writes them. Raises NotAllowed below
    steward, and naming the feature what `make_target` raises; then none is stored.
    """
    require_role(actor, Role.STEWARD, "Setting targets")
    features = given.get("features") if isinstance(given, dict) else None
    if not isinstance(features, list) or not 1 <= len(features) <= MOST:
        raise BadInput("features", features, f"a GeoJSON FeatureCollection of 1 to {MOST} targets")
    require_wgs84(given.get("crs"))
    taken = set(Target.objects.filter(site=site, ended_at=None).values_list("name", flat=True))
    made = []
    for i, feature in enumerate(features):
        target = _read(actor, site, f"features[{i}]", feature)
        if target.name in taken:
            raise BadInput(f"features[{i}].name", target.name, NAME_ONCE)
        taken.add(target.name)
        made.append(target)
    try:
        with transaction.atomic():
            Target.objects.bulk_create(made)
    except IntegrityError:  # of a target that somebody has set meanwhile
        raise BadInput("features", "a name", NAME_ONCE) from None
    note(actor, "targets_read_in", thing=site.id, targets=len(made))
    return made


def _read(actor: Member, site: Site, place: str, feature: Any) -> Target:
    properties = feature.get("properties") if isinstance(feature, dict) else None
    if not isinstance(properties, dict):
        raise BadInput(f"{place}.properties", properties, "an object with name, kind and occupancy")
    told = {name: properties[name] for name in PLAIN if properties.get(name) not in (None, "")}
    try:
        return target_of(
            actor, site, uuid4(), read_as(TargetIn, "", told | {"shape": feature.get("geometry")}, {})
        )
    except InputError as error:
        raise InputError(f"{place}.{error.place}", error.value, error.allowed) from None
