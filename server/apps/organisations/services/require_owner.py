"""An organisation never stands without an owner."""

from __future__ import annotations

from apps.organisations.errors import LastOwner
from apps.organisations.models import Member, Role


def require_another_owner(member: Member) -> None:
    """Raises LastOwner where this member is the only owner whose access has no end. The organisation's row is
    locked by who calls, so that two owners cannot leave at once.
    """
    stored = Member.objects.get(pk=member.pk)
    if stored.role != Role.OWNER or stored.access_until is not None:
        return  # it was not counted on
    others = Member.objects.filter(
        organisation_id=member.organisation_id, role=Role.OWNER, left_at=None, access_until=None
    ).exclude(pk=member.pk)
    if not others.exists():
        raise LastOwner
