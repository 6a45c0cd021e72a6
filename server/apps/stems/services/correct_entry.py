"""A slip put right: a new entry that names the one it replaces, or takes it back."""

from __future__ import annotations

from django.db import transaction

from apps.crews.models import Member, Role
from apps.crews.permissions import require_role
from apps.stems.errors import BadEntry, WaitingOn
from apps.stems.models import Entry, Plant
from apps.stems.read_items import EntryIn
from apps.stems.selectors import entries_visible_to
from apps.stems.services.number_changes import number_changes
from apps.stems.services.refresh_current import refresh_current
from apps.stems.services.store_records import store_entries


@transaction.atomic
def correct_entry(*, actor: Member, entry: EntryIn) -> None:
    """Store a correction or a retraction. It stands on the visit of the entry it names, with its own author and time.

    Surveyors put right what they wrote, stewards anything. Raises NotAllowed, WaitingOn the entry named,
    BadEntry for another kind or a taken id.
    """
    named = entry.replaces or entry.retracts
    if named is None:
        raise BadEntry("A correction names the entry it replaces or retracts.", field="replaces")
    target = entries_visible_to(actor).select_related("visit").filter(pk=named).first()
    if target is None:
        raise WaitingOn(named)
    require_role(actor, Role.SURVEYOR if target.author_id == actor.id else Role.STEWARD, "Correcting this entry")
    if target.kind != entry.kind:
        raise BadEntry(
            f"kind: {entry.kind} cannot replace a {target.kind}; same plant and kind only.",
            field="kind",
            value=entry.kind,
            allowed=target.kind,
        )
    if target.retracts_id is not None:
        raise BadEntry("A retraction is not corrected; record the matter anew.", field="replaces")
    if Entry.objects.filter(pk=entry.id).exists():
        raise BadEntry(f"The entry id {entry.id} is taken by another entry.", field="id", value=str(entry.id))
    plant = Plant.objects.select_for_update().get(pk=target.plant_id)
    at = entry.recorded_at
    if at is None:
        raise BadEntry("A correction carries the time it was made.", field="recorded_at")
    store_entries(actor, [(target.visit_id, plant.id, actor.shown_name, at, entry)])
    refresh_current([plant.id])
    number_changes(actor.crew_id, [plant.id], [plant.block_id])
