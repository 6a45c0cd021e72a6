"""Targets of a site: made, changed, taken off. Each change ends the row that was and makes the next."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID, uuid4

from django.db import IntegrityError, transaction
from django.utils import timezone

from apps.inspections.models import Target
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from apps.sites.shapes import read_shape
from config.errors import BadInput
from jubark_core.records.fields import read_as, read_change
from jubark_core.records.office import Target as TargetIn

SHAPES = ("Point", "LineString", "Polygon")
PLAIN = ("name", "kind", "occupancy", "note")
NAME_ONCE = "a name no other target of this site has"


def make_target(*, actor: Member, site: Site, given: Any) -> Target:
    """Store a target. Raises NotAllowed below steward, InputError naming the field, BadInput for a name that
    is taken.
    """
    require_role(actor, Role.STEWARD, "Setting a target")
    return _stored(actor, site, uuid4(), read_as(TargetIn, "", given, {}))


def change_target(*, actor: Member, target: Target, given: Any) -> Target:
    """Change fields of a target; what is left out stays. Raises as `make_target`."""
    require_role(actor, Role.STEWARD, "Changing a target")
    now = {name: getattr(target, name) for name in PLAIN} | {"shape": json.loads(target.shape.json)}
    read, _ = read_change(TargetIn, now, given, {})
    with transaction.atomic():
        _end(target)
        return _stored(actor, target.site, target.thing, read)


@transaction.atomic
def end_target(*, actor: Member, target: Target) -> None:
    """Take a target off. What was known of it stands in earlier reports. Raises NotAllowed below steward."""
    require_role(actor, Role.STEWARD, "Taking a target off")
    _end(target)
    note(actor, "target_ended", thing=target.thing, name=target.name)


def _end(target: Target) -> None:
    ended = Target.objects.filter(pk=target.pk, ended_at=None).update(ended_at=timezone.now())
    if not ended:
        raise BadInput("target", target.name, "the target as it stands now; it was changed meanwhile")


def target_of(actor: Member, site: Site, thing: UUID, read: TargetIn) -> Target:
    """The row of a target, not stored. Raises InputError for a shape that is none."""
    return Target(
        thing=thing,
        organisation_id=actor.organisation_id,
        site=site,
        shape=read_shape("shape", read.shape, SHAPES),
        set_by=actor,
        **{name: getattr(read, name) for name in PLAIN},
    )


def _stored(actor: Member, site: Site, thing: UUID, read: TargetIn) -> Target:
    made = target_of(actor, site, thing, read)
    try:
        with transaction.atomic():
            made.save(force_insert=True)
    except IntegrityError:
        raise BadInput("name", read.name, NAME_ONCE) from None
    note(actor, "target_set", thing=thing, name=made.name)
    return made
