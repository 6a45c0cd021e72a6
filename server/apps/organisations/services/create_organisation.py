"""The first organisation of an installation, or a further one, with the owner who brings in the others."""

from __future__ import annotations

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Organisation, Role
from apps.organisations.services.accounts import checked_role, checked_text, new_user
from config.errors import BadInput


@transaction.atomic
def create_organisation(
    *, name: str, username: str, shown_name: str, password: str, role: str = Role.OWNER
) -> Member:
    """Make the organisation where it is new, and a member in it. Raises BadInput naming the field; nothing is
    half made.
    """
    called = checked_text("name", name, 120)
    shown = checked_text("shown_name", shown_name, 80)
    organisation, new = Organisation.objects.get_or_create(name=called)
    if new and checked_role(role) != Role.OWNER:
        raise BadInput(
            "role", role, f"owner, for the first member of {called}: nobody else could bring in others"
        )
    member = Member.objects.create(
        organisation=organisation,
        user=new_user(username, password, shown),
        role=checked_role(role),
        shown_name=shown,
    )
    if new:
        note(member, "organisation_made", name=called)
    else:
        note(None, "account_made", organisation=organisation.id, subject=member, role=member.role)
    return member
