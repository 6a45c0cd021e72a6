"""Ending sign-ins: one device, all others, or everywhere. What is saved on a device stays there."""

from __future__ import annotations

from uuid import UUID

from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import QuerySet

from apps.organisations.audit import note
from apps.organisations.models import Member, Role, SignIn
from apps.organisations.permissions import require_role


@transaction.atomic
def end_sign_in(*, actor: Member, sign_in: UUID) -> None:
    """End one of the member's own sign-ins. Raises SignIn.DoesNotExist for anybody else's."""
    _end(SignIn.objects.filter(pk=actor.sign_ins.get(pk=sign_in).pk))
    note(actor, "sign_ins_ended", subject=actor, number=1)


@transaction.atomic
def end_other_sign_ins(*, actor: Member, session_key: str) -> int:
    """End the member's own sign-ins but the one of this session. Returns how many."""
    ended = _end(actor.sign_ins.exclude(session_key=session_key))
    if ended:
        note(actor, "sign_ins_ended", subject=actor, number=ended)
    return ended


@transaction.atomic
def end_sign_ins_of(*, actor: Member, member: Member) -> int:
    """Sign a member out everywhere, as when a device is lost. Raises NotAllowed below owner."""
    require_role(actor, Role.OWNER, "Signing somebody out")
    ended = end_all_sign_ins(member)
    note(actor, "sign_ins_ended", subject=member, number=ended)
    return ended


def end_all_sign_ins(member: Member, but: str = "") -> int:
    """End every sign-in of a member, but that of one session."""
    return _end(member.sign_ins.exclude(session_key=but))


def _end(sign_ins: QuerySet[SignIn]) -> int:
    keys = list(sign_ins.values_list("session_key", flat=True))
    Session.objects.filter(session_key__in=keys).delete()
    sign_ins.delete()
    return len(keys)
