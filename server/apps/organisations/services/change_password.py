"""A new password: by the member, who knows the old one, or on the machine itself."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.errors import WrongPassword
from apps.organisations.models import Member
from apps.organisations.services.accounts import checked_password
from apps.organisations.services.end_sign_ins import end_all_sign_ins
from config.errors import BadInput


@transaction.atomic
def change_password(*, actor: Member, old: Any, new: Any, session_key: str) -> None:
    """Change one's own password; every other device is signed out. Raises WrongPassword, BadInput."""
    if not isinstance(old, str) or not actor.user.check_password(old):
        raise WrongPassword
    actor.user.set_password(checked_password(new, actor.user))
    actor.user.save(update_fields=["password"])
    end_all_sign_ins(actor, but=session_key)
    note(actor, "password_changed", subject=actor)


@transaction.atomic
def reset_password(*, username: str, password: Any) -> Member:
    """Set a member's password from the machine itself; every device is signed out. Raises BadInput."""
    member = Member.objects.select_related("user").filter(user__username=username, left_at=None).first()
    if member is None:
        raise BadInput("username", username, "the name of a member who has not left")
    user = User.objects.get(pk=member.user_id)
    user.set_password(checked_password(password, user))
    user.save(update_fields=["password"])
    end_all_sign_ins(member)
    note(None, "password_changed", organisation=member.organisation_id, subject=member)
    return member
