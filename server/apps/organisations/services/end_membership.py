"""Leaving, or being let go: the person goes, what they recorded stays as that of 'former member n'."""

from __future__ import annotations

from typing import Any

from axes.models import AccessAttempt
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.errors import WrongPassword
from apps.organisations.models import AccessLink, Competence, Member, Organisation, Role
from apps.organisations.permissions import require_role
from apps.organisations.services.end_sign_ins import end_all_sign_ins
from apps.organisations.services.require_owner import require_another_owner
from config.errors import BadInput


@transaction.atomic
def leave_organisation(*, actor: Member, password: Any) -> Member:
    """End one's own membership. Raises WrongPassword, LastOwner."""
    if not isinstance(password, str) or not actor.user.check_password(password):
        raise WrongPassword
    return _end(actor, actor)


@transaction.atomic
def end_membership(*, actor: Member, member: Member) -> Member:
    """End somebody's membership. Raises NotAllowed below owner, LastOwner, BadInput for one who has left."""
    require_role(actor, Role.OWNER, "Ending a membership")
    return _end(actor, member)


def _end(actor: Member, member: Member) -> Member:
    """Name, account and whatever opens it are gone; role, dates and competences stay, for the reports that
    rest on them.
    """
    Organisation.objects.select_for_update().get(pk=member.organisation_id)
    locked = Member.objects.select_for_update().get(pk=member.pk)
    if locked.left_at is not None:
        raise BadInput("member", locked.shown_name, "a member who has not left")
    require_another_owner(locked)
    highest = Member.objects.filter(organisation_id=locked.organisation_id).aggregate(n=Max("former_number"))[
        "n"
    ]
    now = timezone.now()
    locked.former_number = (highest or 0) + 1
    locked.left_at = now
    locked.shown_name = f"former member {locked.former_number}"
    locked.save(update_fields=["former_number", "left_at", "shown_name"])
    Competence.objects.filter(member=locked).update(number="")
    AccessLink.objects.filter(member=locked).update(shown_name="")
    AccessLink.objects.filter(issued_by=locked, used_at=None, revoked_at=None).update(revoked_at=now)
    end_all_sign_ins(locked)
    _close_account(locked)
    note(actor, "membership_ended", subject=locked)
    return locked


def _close_account(member: Member) -> None:
    user = User.objects.get(pk=member.user_id)
    AccessAttempt.objects.filter(username=user.username).delete()
    user.username = f"former-{member.id}"
    user.is_active = False
    user.set_unusable_password()
    user.save(update_fields=["username", "is_active", "password"])
