"""Links that let somebody in: made, looked at, used once, withdrawn."""

from __future__ import annotations

import datetime
import hashlib
import secrets
from typing import Any

from django.db import transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.errors import LinkUnusable
from apps.organisations.models import AccessLink, Member, Purpose, Role
from apps.organisations.permissions import require_role
from apps.organisations.services.accounts import (
    checked_end,
    checked_password,
    checked_role,
    checked_text,
    new_user,
)
from apps.organisations.services.end_sign_ins import end_all_sign_ins
from config.errors import BadInput

HOURS = 72


@transaction.atomic
def invite_member(
    *, actor: Member, role: str, shown_name: str = "", access_until: Any = None
) -> tuple[AccessLink, str]:
    """A link by which one person joins with a role; (the link, its token: shown now and never again).

    Raises NotAllowed below owner, BadInput.
    """
    require_role(actor, Role.OWNER, "Inviting a member")
    shown = checked_text("shown_name", shown_name, 80) if shown_name else ""
    link, token = _issue(
        actor,
        Purpose.INVITATION,
        role=checked_role(role),
        shown_name=shown,
        access_until=checked_end(access_until),
    )
    note(actor, "member_invited", thing=link.id, role=link.role)
    return link, token


@transaction.atomic
def make_password_link(*, actor: Member, member: Member) -> tuple[AccessLink, str]:
    """A link by which a member sets a new password. Raises NotAllowed below owner, BadInput for a former
    member. Earlier ones for the same member are withdrawn.
    """
    require_role(actor, Role.OWNER, "Making a link for a new password")
    if not member.has_access:
        raise BadInput("member", member.shown_name, "a member whose access has not ended")
    AccessLink.objects.filter(member=member, purpose=Purpose.PASSWORD, used_at=None, revoked_at=None).update(
        revoked_at=timezone.now()
    )
    link, token = _issue(actor, Purpose.PASSWORD, member=member)
    note(actor, "password_link_made", subject=member, thing=link.id)
    return link, token


@transaction.atomic
def revoke_link(*, actor: Member, link: AccessLink) -> None:
    """Withdraw a link that has not been used. Raises NotAllowed below owner, LinkUnusable."""
    require_role(actor, Role.OWNER, "Withdrawing a link")
    locked = _usable(AccessLink.objects.select_for_update().get(pk=link.pk))
    locked.revoked_at = timezone.now()
    locked.save(update_fields=["revoked_at"])
    note(actor, "link_revoked", thing=link.id)


def link_behind(token: Any) -> AccessLink:
    """The link of a token. Raises LinkUnusable saying why; a token nobody made looks like a mistyped one."""
    found = AccessLink.objects.select_related("organisation", "member", "issued_by").filter(
        token_hash=_hash(token)
    )
    if not (link := found.first()):
        raise LinkUnusable("This link is not known here. Open it again whole, or ask for a new one.")
    return _usable(link)


@transaction.atomic
def accept_invitation(*, token: Any, username: Any, shown_name: Any, password: Any) -> Member:
    """Join by a link. Raises LinkUnusable, BadInput naming the field: then the link stays good."""
    link = _locked(token, Purpose.INVITATION)
    shown = checked_text("shown_name", shown_name or link.shown_name, 80)
    member = Member.objects.create(
        organisation=link.organisation,
        user=new_user(username, password, shown),
        role=link.role,
        shown_name=shown,
        access_until=link.access_until,
    )
    _use(link, member)
    note(member, "invitation_accepted", subject=link.issued_by, thing=link.id, role=member.role)
    return member


@transaction.atomic
def set_password_by_link(*, token: Any, password: Any) -> Member:
    """A new password by a link: every device is signed out. Raises LinkUnusable, BadInput."""
    link = _locked(token, Purpose.PASSWORD)
    member = link.member
    assert member is not None  # a link of this purpose has one
    member.user.set_password(checked_password(password, member.user))
    member.user.save(update_fields=["password"])
    end_all_sign_ins(member)
    _use(link, member)
    note(member, "password_changed", subject=member, thing=link.id)
    return member


def _issue(actor: Member, purpose: Purpose, **more: Any) -> tuple[AccessLink, str]:
    token = secrets.token_urlsafe(32)
    link = AccessLink.objects.create(
        organisation_id=actor.organisation_id,
        purpose=purpose,
        token_hash=_hash(token),
        issued_by=actor,
        expires_at=timezone.now() + datetime.timedelta(hours=HOURS),
        **more,
    )
    return link, token


def _hash(token: Any) -> str:
    return hashlib.sha256(str(token).encode("utf-8", "replace")).hexdigest()


def _locked(token: Any, purpose: Purpose) -> AccessLink:
    """The link, locked, so that of two who use it at once one finds it used."""
    link = _usable(AccessLink.objects.select_for_update().get(pk=link_behind(token).pk))
    if link.purpose != purpose:
        raise LinkUnusable(f"This link is for {Purpose(link.purpose).label}, not for {purpose.label}.")
    return link


def _usable(link: AccessLink) -> AccessLink:
    """Raises LinkUnusable. Whoever made it must still be an owner, and whom it is for still a member."""
    issuer = link.issued_by
    if link.used_at is not None:
        why = (
            f"This link was used on {link.used_at:%Y-%m-%d at %H:%M} UTC. If that was not you, tell an owner."
        )
    elif link.revoked_at is not None:
        why = "This link was withdrawn. Ask an owner for a new one."
    elif link.expires_at <= timezone.now():
        why = f"This link was good for {HOURS} hours and has expired. Ask an owner for a new one."
    elif issuer is not None and not (issuer.has_access and issuer.reaches(Role.OWNER)):
        why = "Who made this link is no owner any more. Ask an owner for a new one."
    elif link.purpose == Purpose.PASSWORD and not (link.member and link.member.has_access):
        why = "The access of this member has ended."
    else:
        return link
    raise LinkUnusable(why)


def _use(link: AccessLink, member: Member) -> None:
    link.used_at = timezone.now()
    link.member = member
    link.save(update_fields=["used_at", "member"])
