"""People outside the organisation: made, changed, erased."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.errors import AlreadyErased
from apps.organisations.models import Contact, Member, Role
from apps.organisations.models.contact import PERSONAL
from apps.organisations.permissions import require_role
from jubark_core.records.fields import read_as, read_change, write
from jubark_core.records.office import Contact as ContactIn


@transaction.atomic
def make_contact(*, actor: Member, given: Any) -> Contact:
    """Make a contact. Raises NotAllowed below steward, InputError naming the field."""
    require_role(actor, Role.STEWARD, "Making a contact")
    read = read_as(ContactIn, "", given, {})
    made = Contact.objects.create(
        organisation_id=actor.organisation_id,
        papers=[write(paper) for paper in read.papers],
        **{name: getattr(read, name) for name in PERSONAL},
    )
    note(actor, "contact_made", thing=made.id)
    return made


@transaction.atomic
def change_contact(*, actor: Member, contact: Contact, given: Any) -> Contact:
    """Change fields of a contact; what is left out stays. Raises NotAllowed, AlreadyErased, InputError."""
    require_role(actor, Role.STEWARD, "Changing a contact")
    locked = _locked(contact)
    before = {name: getattr(locked, name) for name in (*PERSONAL, "papers")}
    read, fields = read_change(ContactIn, before, given, {})
    for name in PERSONAL:
        setattr(locked, name, getattr(read, name))
    locked.papers = [write(paper) for paper in read.papers]
    locked.save(update_fields=[*PERSONAL, "papers"])
    note(actor, "contact_changed", thing=locked.id, fields=fields)
    return locked


@transaction.atomic
def erase_contact(*, actor: Member, contact: Contact) -> Contact:
    """Empty everything personal of a contact. Records that name it stay, with the date of the erasure.

    Raises NotAllowed below steward, AlreadyErased.
    """
    require_role(actor, Role.STEWARD, "Erasing a contact")
    locked = _locked(contact)
    for name in PERSONAL:
        setattr(locked, name, "")
    locked.papers = []
    locked.erased_at = timezone.now()
    locked.save(update_fields=[*PERSONAL, "papers", "erased_at"])
    note(actor, "contact_erased", thing=locked.id)
    return locked


def observers_named(organisation: UUID, names: Iterable[str]) -> dict[str, tuple[UUID | None, UUID | None]]:
    """Name -> (member, contact) it stands for; a contact is made for a name nobody has. Of two members of one
    name the one who joined first is meant.
    """
    wanted = {name for name in names if name}
    if not wanted:
        return {}
    members = Member.objects.filter(organisation_id=organisation, shown_name__in=wanted).order_by(
        "-joined_at"
    )
    found: dict[str, tuple[UUID | None, UUID | None]] = {m.shown_name: (m.id, None) for m in members}
    known = Contact.objects.filter(organisation_id=organisation, name__in=wanted - found.keys())
    found |= {c.name: (None, c.id) for c in known.order_by("-made_at")}
    new = [
        Contact(organisation_id=organisation, name=name, role="observer") for name in wanted - found.keys()
    ]
    found |= {c.name: (None, c.id) for c in Contact.objects.bulk_create(new)}
    return found


def _locked(contact: Contact) -> Contact:
    locked = Contact.objects.select_for_update().get(pk=contact.pk)
    if locked.erased_at is not None:
        raise AlreadyErased
    return locked
