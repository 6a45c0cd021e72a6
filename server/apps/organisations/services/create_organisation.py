"""The first organisation of an installation, or a further one, with the owner who brings in
everybody else.
"""

from __future__ import annotations

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction

from apps.organisations.models import Member, Organisation, Role
from config.errors import BadInput
from jubark_core.checks import require_storable


@transaction.atomic
def create_organisation(
    *, name: str, username: str, shown_name: str, password: str, role: str = Role.OWNER
) -> Member:
    """Make the organisation where it is new, and a member in it. Raises BadInput naming the field; nothing is
    half made.
    """
    for field, value, most in (
        ("name", name, 120),
        ("username", username, 150),
        ("shown_name", shown_name, 80),
    ):
        require_storable(field, value)
        if not 1 <= len(value.strip()) <= most:
            raise BadInput(field, value, f"a text of 1 to {most} characters")
    if role not in Role.values:
        raise BadInput("role", role, "one of " + ", ".join(Role.values))
    try:
        validate_password(password)
    except ValidationError as error:
        raise BadInput("password", "the one given", " ".join(error.messages)) from None
    organisation, _ = Organisation.objects.get_or_create(name=name.strip())
    try:
        with transaction.atomic():
            user = User.objects.create_user(username.strip(), password=password)
    except IntegrityError:
        raise BadInput("username", username, "a name nobody has yet") from None
    return Member.objects.create(
        organisation=organisation, user=user, role=role, shown_name=shown_name.strip()
    )
