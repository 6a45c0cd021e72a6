"""What an owner changes of a member: role and end of access; and what everybody changes of themselves."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Organisation, Role
from apps.organisations.permissions import require_role
from apps.organisations.services.accounts import checked_end, checked_role, checked_text
from apps.organisations.services.require_owner import require_another_owner
from config.errors import BadInput

FIELDS = ("role", "access_until")


@transaction.atomic
def change_member(*, actor: Member, member: Member, changes: dict[str, Any]) -> Member:
    """Change role or end of access of a member. Raises NotAllowed below owner, LastOwner, BadInput."""
    require_role(actor, Role.OWNER, "Changing a member's access")
    Organisation.objects.select_for_update().get(pk=actor.organisation_id)
    locked = Member.objects.select_for_update().get(pk=member.pk)
    if locked.left_at is not None:
        raise BadInput("member", locked.shown_name, "a member who has not left")
    for key in changes:
        if key not in FIELDS:
            raise BadInput(key, "an unknown key", "one of " + ", ".join(FIELDS))
    before = {"role": locked.role, "access_until": _iso(locked)}
    if "role" in changes:
        locked.role = checked_role(changes["role"])
    if "access_until" in changes:
        locked.access_until = checked_end(changes["access_until"])
    if locked.role != Role.OWNER or locked.access_until is not None:
        require_another_owner(locked)
    locked.save(update_fields=list(FIELDS))
    after = {"role": locked.role, "access_until": _iso(locked)}
    note(actor, "member_changed", subject=locked, before=before, after=after)
    return locked


@transaction.atomic
def change_own_name(*, actor: Member, shown_name: Any) -> Member:
    """How others see the member: also on what was recorded before. Raises BadInput."""
    actor.shown_name = checked_text("shown_name", shown_name, 80)
    actor.save(update_fields=["shown_name"])
    note(actor, "name_changed", subject=actor)
    return actor


def _iso(member: Member) -> str | None:
    return member.access_until.isoformat() if member.access_until else None
