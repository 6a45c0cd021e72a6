"""A new site, and what is changed of one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import IntegrityError, transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.records.fields import fields_of, read_as, read_change
from jubark_core.records.office import Site as SiteIn
from jubark_core.records.shapes import Words
from jubark_core.records.things import Conventions


def make_site(*, actor: Member, given: Any) -> Site:
    """Store a site with its conventions. Raises NotAllowed below steward, InputError naming the field,
    BadInput for a name taken.
    """
    require_role(actor, Role.STEWARD, "Making a site")
    with transaction.atomic():
        made = _stored(Site(organisation_id=actor.organisation_id), read_as(SiteIn, "", given, _words()))
        note(actor, "site_made", thing=made.id, name=made.name)
    return made


def change_site(*, actor: Member, site: Site, given: Any) -> Site:
    """Change fields of a site; what is left out stays. No figure is rewritten: each carries the convention it
    was taken by. Raises as `make_site`.
    """
    require_role(actor, Role.STEWARD, "Changing a site")
    with transaction.atomic():
        locked = Site.objects.select_for_update().get(pk=site.pk)
        read, fields = read_change(SiteIn, _as_given(locked), given, _words())
        changed = _stored(locked, read)
        note(actor, "site_changed", thing=site.id, fields=fields)
    return changed


def _words() -> Words:
    return {"areas": shipped_flora().areas}


def _stored(site: Site, read: SiteIn) -> Site:
    for name, value in {**_values(read), **_values(read.conventions)}.items():
        setattr(site, name, list(value) if isinstance(value, tuple) else value)
    site.name = site.name.strip()
    try:
        with transaction.atomic():
            site.save()
    except IntegrityError:
        raise BadInput("name", read.name, "a name no other site of this organisation has") from None
    return site


def _values(record: SiteIn | Conventions) -> Mapping[str, Any]:
    return {name: getattr(record, name) for name in fields_of(type(record)) if name != "conventions"}


def _as_given(site: Site) -> dict[str, Any]:
    own = {name: getattr(site, name) for name in fields_of(SiteIn) if name != "conventions"}
    return {**own, "conventions": {name: getattr(site, name) for name in fields_of(Conventions)}}
