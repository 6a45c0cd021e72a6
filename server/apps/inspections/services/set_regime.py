"""The owner's table of inspections, set anew."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.inspections.models import SiteRegime
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from jubark_core.records.fields import read_as, write
from jubark_core.records.office import Regime


@transaction.atomic
def set_regime(*, actor: Member, site: Site, given: Any) -> Regime:
    """Store the table whole; earlier ones stay for the reports of their days. Raises NotAllowed below
    steward, InputError naming the field.
    """
    require_role(actor, Role.STEWARD, "Setting the table of inspections")
    read = read_as(Regime, "", given, {})
    SiteRegime.objects.create(
        organisation_id=actor.organisation_id, site=site, body=write(read), set_by=actor
    )
    note(actor, "regime_set", thing=site.id, zones=[rule.zone for rule in read.rules])
    return read
