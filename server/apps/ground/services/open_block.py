"""A new, empty block on a ground."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.gis.geos import GEOSException, GEOSGeometry, Polygon
from django.db import IntegrityError, transaction

from apps.crews.models import Member, Role
from apps.crews.permissions import require_role
from apps.ground.models import Block, Ground
from config.errors import BadInput
from jubark_core.checks import require_between, require_one_of
from jubark_core.flora.words import SETTINGS

LARGEST_HA = 20_000


def open_block(*, actor: Member, ground: Ground, name: str, boundary: dict[str, Any], setting: str = "unknown") -> Block:
    """Store a block. Raises NotAllowed below steward, BadInput for a name taken or a boundary that is no polygon on the earth."""
    require_role(actor, Role.STEWARD, "Opening a block")
    if not name.strip():
        raise BadInput("name", name, "a name of 1 to 120 characters")
    require_one_of("setting", setting, SETTINGS)
    shape = _polygon(boundary)
    try:
        with transaction.atomic():
            return Block.objects.create(crew_id=actor.crew_id, ground=ground, name=name.strip()[:120], boundary=shape, setting=setting)
    except IntegrityError:
        raise BadInput("name", name, "a name no other block of this ground has") from None


def _polygon(boundary: dict[str, Any]) -> Polygon:
    allowed = "a GeoJSON Polygon in longitude and latitude that does not cross itself"
    if not isinstance(boundary, dict) or boundary.get("type") != "Polygon":
        raise BadInput("boundary", boundary, allowed)
    try:
        shape = GEOSGeometry(json.dumps(boundary), srid=4326)
    except (GEOSException, ValueError, TypeError):
        raise BadInput("boundary", boundary, allowed) from None
    west, south, east, north = shape.extent
    for place, value, low, high in (
        ("boundary.lon", west, -180, 180),
        ("boundary.lon", east, -180, 180),
        ("boundary.lat", south, -90, 90),
        ("boundary.lat", north, -90, 90),
    ):
        require_between(place, value, low, high, "degrees")
    if not shape.valid or shape.empty:
        raise BadInput("boundary", boundary, allowed)
    assert isinstance(shape, Polygon)
    return shape
