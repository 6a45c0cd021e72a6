"""The end of a movement hold, by its reference."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.health.models import HoldLifted
from apps.health.selectors import case_of_site, ill_plants, open_holds
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block
from config.errors import BadInput
from jubark_core.records.fields import read_as
from jubark_core.records.office import HoldEnd
from jubark_core.signs.load import health


@transaction.atomic
def lift_hold(*, actor: Member, block: Block, given: Any) -> HoldLifted:
    """End the hold of a block for a cause; a later suspicion begins it anew. Raises NotAllowed below steward,
    InputError naming the field, BadInput where no such hold stands.
    """
    require_role(actor, Role.STEWARD, "Ending a movement hold")
    read = read_as(HoldEnd, "", given, {"causes": health().causes})
    Block.objects.select_for_update().get(pk=block.pk)
    holds = open_holds(ill_plants(actor, [block]), case_of_site(block.site, read.on))
    if read.cause not in {hold.cause for hold in holds}:
        raise BadInput("cause", read.cause, "a cause for which this block is held")
    made = HoldLifted.objects.create(
        organisation_id=actor.organisation_id,
        block=block,
        cause=read.cause,
        on=read.on,
        reference=read.reference,
        remark=read.remark,
        set_by=actor,
    )
    note(actor, "hold_lifted", thing=block.id, name=block.name, cause=read.cause, reference=read.reference)
    return made
