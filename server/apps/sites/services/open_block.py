"""A new, empty block on a site."""

from __future__ import annotations

from typing import Any

from django.contrib.gis.geos import Polygon
from django.db import IntegrityError, transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block, Site
from apps.sites.shapes import read_shape
from config.errors import BadInput
from jubark_core.checks import require_one_of
from jubark_core.records.words import SETTINGS


def open_block(
    *, actor: Member, site: Site, name: str, boundary: dict[str, Any], setting: str = "unknown"
) -> Block:
    """Store a block. Raises NotAllowed below steward, BadInput for a name taken, InputError for a boundary
    that is no polygon on the earth.
    """
    require_role(actor, Role.STEWARD, "Opening a block")
    if not 1 <= len(name.strip()) <= 120:
        raise BadInput("name", name, "a name of 1 to 120 characters")
    require_one_of("setting", setting, SETTINGS)
    shape = read_shape("boundary", boundary, ("Polygon",))
    assert isinstance(shape, Polygon)  # the one kind that was allowed
    try:
        with transaction.atomic():
            return Block.objects.create(
                organisation_id=actor.organisation_id,
                site=site,
                name=name.strip(),
                boundary=shape,
                setting=setting,
            )
    except IntegrityError:
        raise BadInput("name", name, "a name no other block of this site has") from None
