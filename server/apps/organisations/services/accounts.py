"""Names and passwords as they come in: checked alike by every service that makes or changes an account."""

from __future__ import annotations

import datetime
from typing import Any

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.utils import timezone

from apps.organisations.models import Role
from config.errors import BadInput
from jubark_core.checks import require_date, require_line, require_storable

MOST_PASSWORD = 200


def checked_text(field: str, value: Any, most: int) -> str:
    """A text of 1 to `most` characters in one line, without space around it. Raises BadInput, InputError."""
    require_storable(field, value)
    allowed = f"a text of 1 to {most} characters in one line"
    if not isinstance(value, str) or not 1 <= len(value.strip()) <= most:
        raise BadInput(field, value, allowed)
    return require_line(field, value.strip(), allowed)


def checked_role(value: Any) -> str:
    """A role. Raises BadInput."""
    if value not in Role.values:
        raise BadInput("role", value, "one of " + ", ".join(Role.values))
    return str(value)


def checked_end(value: Any) -> datetime.date | None:
    """The last day of access: today or later, or none. Raises BadInput, InputError."""
    if value in (None, ""):
        return None
    day = value if isinstance(value, datetime.date) else require_date("access_until", value)
    if day < timezone.now().date():
        raise BadInput("access_until", day.isoformat(), "today or a later day, or nothing")
    return day


def checked_password(value: Any, user: User | None = None) -> str:
    """A password that is long enough, not among the common ones, and not the name it belongs to. Raises
    BadInput; never repeats it.
    """
    if not isinstance(value, str) or len(value) > MOST_PASSWORD or "\x00" in value:
        raise BadInput("password", "the one given", f"a text of at most {MOST_PASSWORD} characters")
    try:
        validate_password(value, user)
    except ValidationError as error:
        raise BadInput("password", "the one given", " ".join(error.messages)) from None
    return value


def new_user(username: Any, password: Any, shown_name: str = "") -> User:
    """An account to sign in with. Raises BadInput for a name that somebody has, whatever its capitals."""
    name = checked_text("username", username, 150)
    sound = checked_password(password, User(username=name, first_name=shown_name))
    taken = BadInput("username", name, "a name nobody has yet")
    if User.objects.filter(username__iexact=name).exists():
        raise taken
    try:
        with transaction.atomic():
            return User.objects.create_user(name, password=sound)
    except IntegrityError:
        raise taken from None
