"""Signing in and out: the session, and where it is."""

from __future__ import annotations

import datetime
from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.client_address import client_address
from apps.organisations.device_name import device_name
from apps.organisations.errors import AccessEnded
from apps.organisations.models import Member, SignIn
from apps.organisations.services.require_patience import require_patience

SEEN_EVERY = datetime.timedelta(minutes=5)


def sign_in(request: HttpRequest, username: str, password: str) -> Member | None:
    """Open a session; None for a wrong name or password. Raises TooManyTries, AccessEnded."""
    require_patience(client_address(request))
    user = authenticate(request, username=username, password=password)
    member = Member.objects.filter(user=user).select_related("user", "organisation").first() if user else None
    if user is None or member is None:
        tried = Member.objects.filter(user__username=username).first()
        if tried is not None:
            note(None, "sign_in_refused", organisation=tried.organisation_id, subject=tried)
        return None
    if not member.has_access:
        raise AccessEnded(f"Your access to {member.organisation.name} has ended. Ask an owner of it.")
    open_session(request, member)
    note(member, "signed_in", subject=member)
    return member


def open_session(request: HttpRequest, member: Member) -> None:
    """Sign a member in who has shown who they are, by a password or by a link."""
    SignIn.objects.filter(session_key=request.session.session_key or "").delete()  # the key is changed now
    backend = "django.contrib.auth.backends.ModelBackend"
    login(request, User.objects.get(pk=member.user_id), backend=backend)
    request.session.save()  # after a change of password the key is made here
    session_key: Any = request.session.session_key
    SignIn.objects.update_or_create(
        session_key=session_key,
        defaults={
            "organisation_id": member.organisation_id,
            "member": member,
            "device": device_name(request.META.get("HTTP_USER_AGENT", "")),
            "last_seen_at": timezone.now(),
        },
    )


def close_session(request: HttpRequest) -> None:
    """Sign out on this device."""
    member = getattr(request.user, "member", None)
    SignIn.objects.filter(session_key=request.session.session_key or "").delete()
    logout(request)
    if member is not None:
        note(member, "signed_out", subject=member)


def seen(session_key: str | None) -> None:
    """Write down that a device is still at work; at most every few minutes."""
    now = timezone.now()
    SignIn.objects.filter(session_key=session_key or "", last_seen_at__lt=now - SEEN_EVERY).update(
        last_seen_at=now
    )
