"""The conventions of a site: how its figures are taken from now on. Old figures keep theirs."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from jubark_core.records.fields import read_as
from jubark_core.records.things import Conventions


@transaction.atomic
def set_conventions(*, actor: Member, site: Site, changes: dict[str, Any]) -> Site:
    """Change conventions of a site. No figure is rewritten: each carries the height it was taken at and the
    rule it was made by.

    Raises NotAllowed below steward, InputError naming the field, the value and what is allowed.
    """
    require_role(actor, Role.STEWARD, "Changing the conventions of a site")
    read = read_as(Conventions, "", changes, {})
    for key in changes:
        value = getattr(read, key)
        setattr(site, key, list(value) if isinstance(value, tuple) else value)
    site.save(update_fields=list(changes))
    note(actor, "conventions_changed", thing=site.id, fields=sorted(changes))
    return Site.objects.get(pk=site.pk)
