"""A new, empty block on a site, and what is changed of one."""

from __future__ import annotations

from typing import Any

from django.contrib.gis.geos import Polygon
from django.db import IntegrityError, transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block, Site
from apps.sites.shapes import read_shape
from config.errors import BadInput
from jubark_core.records.fields import fields_of, read_as, read_change
from jubark_core.records.office import Block as BlockIn


def make_block(*, actor: Member, site: Site, given: Any) -> Block:
    """Store a block. Raises NotAllowed below steward, BadInput for a name taken, InputError for a boundary
    that is no polygon on the earth.
    """
    require_role(actor, Role.STEWARD, "Making a block")
    with transaction.atomic():
        made = _stored(
            Block(organisation_id=actor.organisation_id, site=site), read_as(BlockIn, "", given, {})
        )
        note(actor, "block_made", thing=made.id, name=made.name)
    return made


def change_block(*, actor: Member, block: Block, given: Any) -> Block:
    """Change fields of a block; what is left out stays. Plants keep their block, also where they stand
    outside its new boundary. Raises as `make_block`.
    """
    require_role(actor, Role.STEWARD, "Changing a block")
    with transaction.atomic():
        locked = Block.objects.select_for_update().get(pk=block.pk)
        now = {name: getattr(locked, name) for name in fields_of(BlockIn) if name != "boundary"}
        now["boundary"] = {"type": "Polygon", "coordinates": _rings(locked.boundary)}
        read, fields = read_change(BlockIn, now, given, {})
        changed = _stored(locked, read)
        note(actor, "block_changed", thing=block.id, fields=fields)
    return changed


def _rings(boundary: Polygon) -> list[list[list[float]]]:
    return [[list(position[:2]) for position in ring] for ring in boundary.coords]


def _stored(block: Block, read: BlockIn) -> Block:
    shape = read_shape("boundary", read.boundary, ("Polygon",))
    assert isinstance(shape, Polygon)  # the one kind that was allowed
    block.boundary = shape
    for name in fields_of(BlockIn):
        if name != "boundary":
            setattr(block, name, getattr(read, name))
    block.name = block.name.strip()
    try:
        with transaction.atomic():
            block.save()
    except IntegrityError:
        raise BadInput("name", read.name, "a name no other block of this site has") from None
    return block
