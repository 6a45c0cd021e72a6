"""Crews, licences, weather, rates and money of a site, set anew."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role, visible_to
from apps.sites.models import Site
from apps.work.models import SiteWorkSettings
from config.errors import BadInput
from jubark_core.records.fields import read_as, write
from jubark_core.records.office import WorkSettings
from jubark_core.signs.load import health


@transaction.atomic
def set_work_settings(*, actor: Member, site: Site, given: Any) -> WorkSettings:
    """Store them whole; earlier ones stay. Raises NotAllowed below steward, InputError naming the field,
    BadInput for a member of another organisation.
    """
    require_role(actor, Role.STEWARD, "Setting crews and rates")
    read = read_as(WorkSettings, "", given, {"causes": health().causes})
    known = set(visible_to(actor, Member.objects.filter(left_at=None)).values_list("id", flat=True))
    for i, crew in enumerate(read.crews):
        for j, member in enumerate(crew.members):
            if member not in known:
                raise BadInput(f"crews[{i}].members[{j}]", member, "a member of the organisation")
    SiteWorkSettings.objects.create(
        organisation_id=actor.organisation_id, site=site, body=write(read), set_by=actor
    )
    note(actor, "work_settings_set", thing=site.id, crews=[crew.name for crew in read.crews])
    return read
