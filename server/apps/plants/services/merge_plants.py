"""Two records of one tree are made one: the duplicate stays, with its visits, and counts no more."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.merged import ends_at
from apps.plants.models import Merge, Plant
from apps.plants.selectors import plants_visible_to
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.sites.models import Site
from config.errors import BadInput
from jubark_core.records.fields import read_as
from jubark_core.records.office import MergeIn


@transaction.atomic
def merge_plants(*, actor: Member, plant: Plant, given: Any) -> Merge:
    """Record that a plant is a duplicate of another of the same site. What was recorded of either counts for
    the other from now on. Raises NotAllowed below steward, BadInput naming the field.
    """
    require_role(actor, Role.STEWARD, "Merging two records")
    read = read_as(MergeIn, "", given, {})
    # one merge of a site after the other: two at once could close a ring
    Site.objects.select_for_update().get(pk=plant.block.site_id)
    locked = _locked(actor, [plant.id, read.into])
    if read.into not in locked or plant.id == read.into:
        raise BadInput("into", read.into, "another plant of the same site")
    duplicate, into = locked[plant.id], locked[read.into]
    if duplicate.block.site_id != into.block.site_id or duplicate.form != into.form:
        raise BadInput("into", read.into, "another plant of the same site, tree to tree or group to group")
    if duplicate.merged_into_id is not None:
        raise BadInput("plant", plant.id, "a plant that is no duplicate yet; take the first merge back")
    if ends_at(into.id) == plant.id:
        raise BadInput("into", read.into, "a plant that is not itself a duplicate of this one")
    made = Merge.objects.create(
        organisation_id=actor.organisation_id,
        plant=duplicate,
        into=into,
        reason=read.reason,
        merged_by=actor,
    )
    _point(duplicate, into.id)
    note(actor, "plants_merged", thing=duplicate.id, into=str(into.id))
    return made


@transaction.atomic
def undo_merge(*, actor: Member, plant: Plant) -> None:
    """Take a merge back: both count again. Raises NotAllowed below steward, BadInput where there is none."""
    require_role(actor, Role.STEWARD, "Taking a merge back")
    duplicate = _locked(actor, [plant.id])[plant.id]
    was = duplicate.merged_into_id
    if was is None:
        raise BadInput("plant", plant.id, "a plant that was merged into another")
    Merge.objects.filter(plant=duplicate, undone_at=None).update(undone_at=timezone.now())
    _point(duplicate, None)
    refresh_current([was])
    note(actor, "merge_undone", thing=duplicate.id, into=str(was))


def _locked(actor: Member, ids: list[UUID]) -> dict[UUID, Plant]:
    rows = plants_visible_to(actor).filter(pk__in=ids).order_by("pk")
    return {p.id: p for p in rows.select_for_update(of=("self",)).select_related("block")}


def _point(duplicate: Plant, into: UUID | None) -> None:
    duplicate.merged_into_id = into
    duplicate.save(update_fields=["merged_into"])
    refresh_current([duplicate.id], every_tag=True)
    number_changes(duplicate.organisation_id, [duplicate.id], [duplicate.block_id])
