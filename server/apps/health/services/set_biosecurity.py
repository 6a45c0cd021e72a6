"""The biosecurity status of a block, set with its reason."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.health.models import BiosecurityStatus
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block
from jubark_core.records.fields import read_as
from jubark_core.records.office import Biosecurity
from jubark_core.signs.load import health


@transaction.atomic
def set_biosecurity(*, actor: Member, block: Block, given: Any) -> BiosecurityStatus:
    """Store the status and set it on the block: rounds go from clean to infested by it. Earlier ones stay.
    Raises NotAllowed below steward, InputError naming the field.
    """
    require_role(actor, Role.STEWARD, "Setting the biosecurity status")
    read = read_as(Biosecurity, "", given, {"causes": health().causes})
    locked = Block.objects.select_for_update().get(pk=block.pk)
    locked.biosecurity = read.status
    locked.save(update_fields=["biosecurity"])
    made = BiosecurityStatus.objects.create(
        organisation_id=actor.organisation_id,
        block=locked,
        status=read.status,
        cause=read.cause,
        since=read.since,
        lifted_by=read.lifted_by,
        remark=read.remark,
        set_by=actor,
    )
    note(actor, "biosecurity_set", thing=block.id, name=block.name, status=read.status, cause=read.cause)
    return made
