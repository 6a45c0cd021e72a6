"""A slip put right: a new entry that names the one it replaces, or takes it back."""

from __future__ import annotations

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import BadEntry, WaitingOn
from apps.plants.models import BODIES, Entry, Plant
from apps.plants.read_items import EntryIn
from apps.plants.selectors import bodies_of, entries_visible_to
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.store_records import store_entries
from apps.plants.shown_bodies import shown_body

FOLLOWS = {  # fields that follow from others of the entry, or belong to the value that is replaced
    "determination": {
        "taxon",
        "name",
        "name_rank",
        "probability",
        "not_told_from",
        "reason",
        "flora",
        "engine",
    },
    "measurement": {"value", "error", "shoots", "thinner"},
    "condition": {"word", "health", "structure"},
    "risk": {"rating", "residual"},
}


@transaction.atomic
def correct_entry(*, actor: Member, entry: EntryIn) -> None:
    """Store a correction or a retraction. It stands on the visit of the entry it names, with its own author
    and time.

    Surveyors put right what they wrote, stewards anything. Raises NotAllowed, WaitingOn the entry named,
    BadEntry for another kind, a taken id, or fields it would drop.
    """
    named = entry.replaces or entry.retracts
    if named is None:
        raise BadEntry("A correction names the entry it replaces or retracts.", field="replaces")
    target = entries_visible_to(actor).select_related("visit").filter(pk=named).first()
    if target is None:
        raise WaitingOn(named)
    require_role(
        actor, Role.SURVEYOR if target.author_id == actor.id else Role.STEWARD, "Correcting this entry"
    )
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
    if entry.replaces is not None:
        _require_nothing_dropped(target, entry)
    plant = Plant.objects.select_for_update().get(pk=target.plant_id)
    at = entry.recorded_at
    if at is None:
        raise BadEntry("A correction carries the time it was made.", field="recorded_at")
    store_entries(actor, [(target.visit_id, plant.id, actor.shown_name, at, entry)])
    refresh_current([plant.id])
    number_changes(actor.organisation_id, [plant.id], [plant.block_id])


def _require_nothing_dropped(target: Entry, entry: EntryIn) -> None:
    """Raises BadEntry naming the fields the old entry has and the new one lacks: what is left out would be
    lost unseen.
    """
    before = shown_body(bodies_of([target.id], [target.kind]).get(target.id))
    after = shown_body(BODIES[entry.kind](entry_id=entry.id, **entry.body)) if entry.kind in BODIES else {}
    lost = [name for name in before if name not in after and name not in FOLLOWS.get(entry.kind, ())]
    for name, value in before.items():
        if isinstance(value, dict) and isinstance(after.get(name), dict):
            lost += [f"{name}.{key}" for key, old in value.items() if _says_less(old, after[name].get(key))]
    if lost:
        raise BadEntry(
            f"The correction would drop {', '.join(lost)}. Send the whole entry, or withdraw it and "
            "record it anew.",
            field=lost[0],
            allowed="every field of the entry that is replaced",
        )


def _says_less(old: object, new: object) -> bool:
    """Whether readings went missing: of a list some, of anything else all."""
    return new is None or (isinstance(old, list) and isinstance(new, list) and len(new) < len(old))
