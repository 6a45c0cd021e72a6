"""Targets from a GeoJSON file: all of them, or none."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.inspections.models import Target
from apps.inspections.services.set_target import PLAIN, make_target
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from config.errors import BadInput, DomainError
from jubark_core.errors import InputError

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
    return [_taken(actor, site, f"features[{i}]", feature) for i, feature in enumerate(features)]


def _taken(actor: Member, site: Site, place: str, feature: Any) -> Target:
    properties = feature.get("properties") if isinstance(feature, dict) else None
    if not isinstance(properties, dict):
        raise BadInput(f"{place}.properties", properties, "an object with name, kind and occupancy")
    told = {name: properties[name] for name in PLAIN if properties.get(name) not in (None, "")}
    try:
        return make_target(actor=actor, site=site, given={**told, "shape": feature.get("geometry")})
    except InputError as error:
        raise InputError(f"{place}.{error.place}", error.value, error.allowed) from None
    except DomainError as error:
        told_of = error.details
        raise BadInput(
            f"{place}.{told_of.get('field')}", told_of.get("value"), str(told_of.get("allowed"))
        ) from None
