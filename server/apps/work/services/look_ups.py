"""Evidence that covers a site, blocks, a row or a list of trees: told once, withdrawn with a reason."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.models import Contact, Member, Role
from apps.organisations.permissions import require_role, visible_to
from apps.plants.models import Plant
from apps.sites.models import Site
from apps.sites.time_zone import today_in
from apps.work.models import LookUp
from config.errors import BadInput
from jubark_core.recording import require_evidence_of
from jubark_core.records.fields import read_as, write
from jubark_core.records.office import LookUp as LookUpIn
from jubark_core.work.before.acts import acts


@transaction.atomic
def make_look_up(*, actor: Member, site: Site, given: Any) -> LookUp:
    """Store it. Raises NotAllowed below steward, InputError or BadInput naming the field."""
    require_role(actor, Role.STEWARD, "Evidence for many trees")
    read = read_as(LookUpIn, "", given, {"acts": acts()})
    require_evidence_of(read.evidence, "evidence.")
    today = today_in(site.time_zone)
    if read.on > today:
        raise BadInput("on", read.on.isoformat(), f"{today} or an earlier day")
    _require_known(
        "blocks", read.blocks, set(site.blocks.values_list("id", flat=True)), "a block of this site"
    )
    if read.plants:
        trees = set(Plant.objects.filter(block__site=site, pk__in=read.plants).values_list("id", flat=True))
        _require_known("plants", read.plants, trees, "a tree of this site")
    for name, model in (("member", Member), ("contact", Contact)):
        if (person := getattr(read.evidence, name)) is not None:
            known = visible_to(actor, model.objects.filter(pk=person)).exists()
            if not known:
                raise BadInput(f"evidence.{name}", person, f"a {name} of the organisation")
    made = LookUp.objects.create(
        organisation_id=actor.organisation_id, site=site, body=write(read), made_by=actor
    )
    note(actor, "look_up_made", thing=made.id, check=read.evidence.check_closed, kind=read.evidence.what)
    return made


@transaction.atomic
def withdraw_look_up(*, actor: Member, look_up: LookUp, reason: str) -> None:
    """It closes nothing from now on, nor did it; what was begun on it is marked. Raises NotAllowed below
    steward, BadInput without a reason or where it is withdrawn already.
    """
    require_role(actor, Role.STEWARD, "Withdrawing evidence")
    if not reason.strip():
        raise BadInput("reason", "nothing", "why, in a few words")
    locked = LookUp.objects.select_for_update().get(pk=look_up.pk)
    if locked.withdrawn_at is not None:
        raise BadInput("look_up", str(locked.id), "one that has not been withdrawn")
    locked.withdrawn_by, locked.withdrawn_at, locked.withdrawn_why = actor, timezone.now(), reason[:300]
    locked.save(update_fields=["withdrawn_by", "withdrawn_at", "withdrawn_why"])
    note(actor, "look_up_withdrawn", thing=locked.id, reason=reason[:300])


def _require_known(field: str, given: tuple[UUID, ...], known: set[UUID], allowed: str) -> None:
    for i, one in enumerate(given):
        if one not in known:
            raise BadInput(f"{field}[{i}]", one, allowed)
