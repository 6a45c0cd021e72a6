"""Licences and qualifications of members: added and removed. A paper that was renewed is a further one, so
that on each day it can be said what was valid then.
"""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.models import Competence, Member, Role
from apps.organisations.permissions import require_role
from config.errors import BadInput
from jubark_core.records.fields import fields_of, read_as
from jubark_core.records.office import Competence as CompetenceIn


@transaction.atomic
def add_competence(*, actor: Member, member: Member, given: Any) -> Competence:
    """Add one to a member. Raises NotAllowed below steward, InputError naming the field."""
    require_role(actor, Role.STEWARD, "Adding a competence")
    if member.left_at is not None:
        raise BadInput("member", member.shown_name, "a member who has not left")
    read = read_as(CompetenceIn, "", given, {})
    made = Competence.objects.create(
        organisation_id=actor.organisation_id,
        member=member,
        **{name: getattr(read, name) for name in fields_of(CompetenceIn)},
    )
    note(actor, "competence_added", subject=member, thing=made.id, name=made.name)
    return made


@transaction.atomic
def remove_competence(*, actor: Member, competence: Competence) -> None:
    """Remove one that was entered wrong. Raises NotAllowed below steward."""
    require_role(actor, Role.STEWARD, "Removing a competence")
    note(actor, "competence_removed", subject=competence.member, thing=competence.id, name=competence.name)
    Competence.objects.filter(pk=competence.pk).update(removed_at=timezone.now())
