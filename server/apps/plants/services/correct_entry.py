"""A slip put right: a new entry that names the one it takes the place of, or withdraws it."""

from __future__ import annotations

from django.db import transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.errors import BadEntry, WaitingOn
from apps.plants.models import Entry, Plant
from apps.plants.selectors import entries_visible_to
from apps.plants.services.as_in_season import Row
from apps.plants.services.number_changes import number_changes
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.require_references import require_references
from apps.plants.services.store_records import store_entries
from apps.plants.stored import body_of, kind_of, shown_body
from jubark_core.recording import require_in_leaf
from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import fields_of, write
from jubark_core.records.inspected import StormLook
from jubark_core.records.things import Entry as EntryIn
from jubark_core.records.upgrade import VERSION
from jubark_core.tree_file.filed import standing_entries
from jubark_core.tree_file.holds import is_on_wires

FIRST_VERSION = 1
# Fields of a name that belong to the value that is replaced.
OF_THE_OLD_NAME = {"taxon", "name_rank", "probability", "not_separated_from", "reason", "flora", "engine"}


@transaction.atomic
def correct_entry(*, actor: Member, entry: EntryIn, version: int = VERSION) -> None:
    """Store a correction or a withdrawal. It belongs to the visit of the entry it names, with its own author
    and time.

    version: the record version it was made with. An app of version 1 sent only what it showed; what it left
    out would be lost, so it is refused. Surveyors correct what they wrote, stewards anything, and stewards
    alone, with a reason, a look that saw wires. Raises NotAllowed, WaitingOn the
    entry named, BadEntry for another kind, a taken id, or fields it would drop.
    """
    named = entry.head.replaces or entry.head.retracts
    if named is None:
        raise BadEntry("A correction names the entry it replaces or retracts.", field="replaces")
    target = entries_visible_to(actor).select_related("visit").filter(pk=named).first()
    if target is None:
        raise WaitingOn(named)
    require_role(
        actor, Role.SURVEYOR if target.author_id == actor.id else Role.STEWARD, "Correcting this entry"
    )
    _require_steward_for_wires(actor, target, entry)
    if kind_of(target) != entry.kind:
        raise BadEntry(
            f"kind: {entry.kind} cannot replace a {kind_of(target)}; same plant and kind only.",
            field="kind",
            value=entry.kind,
            allowed=kind_of(target),
        )
    if target.retracts_id is not None:
        raise BadEntry("A withdrawal is not corrected; record the matter anew.", field="replaces")
    if Entry.objects.filter(pk=entry.id).exists():
        raise BadEntry(f"The entry id {entry.id} is taken by another entry.", field="id", value=str(entry.id))
    if version == FIRST_VERSION and entry.body is not None:
        _require_nothing_dropped(target, entry)
    if entry.body is not None:
        _require_in_leaf(target, entry)
    require_references(actor, target.plant_id, [entry])
    plant = Plant.objects.select_for_update().get(pk=target.plant_id)
    at = entry.head.recorded_at
    if at is None:
        raise BadEntry("A correction carries the time it was made.", field="recorded_at")
    store_entries(actor, [Row(target.visit_id, plant.id, actor.shown_name, at, entry, version)], version)
    refresh_current([plant.id])
    number_changes(actor.organisation_id, [plant.id], [plant.block_id])


def _require_steward_for_wires(actor: Member, target: Entry, entry: EntryIn) -> None:
    """A look that saw wires holds the tree: only a steward, saying why, takes that away."""
    before = body_of(target)
    if not isinstance(before, StormLook) or not is_on_wires(before):
        return
    if isinstance(entry.body, StormLook) and is_on_wires(entry.body):
        return
    require_role(actor, Role.STEWARD, "Taking back a look that saw wires")
    if not entry.head.reason.strip():
        raise BadEntry(
            "A look that saw wires holds the tree; who takes it back says why.",
            field="reason",
            allowed="why no wire touches it, in a few words",
        )


def _require_in_leaf(target: Entry, entry: EntryIn) -> None:
    """Raises InputError where the visit as corrected would judge without leaves what needs them."""
    others = standing_entries(list(Entry.objects.filter(visit=target.visit_id).select_related("visit"))).live
    bodies = [body_of(e) for e in others if e.id != target.id]
    require_in_leaf([*bodies, entry.body], f"entry.{entry.kind}.quantity")


def _require_nothing_dropped(target: Entry, entry: EntryIn) -> None:
    """Raises BadEntry naming the fields the old entry has and the new one lacks: what is left out would be
    lost unseen.
    """
    follows = {name for name, what in fields_of(KINDS[entry.kind].body).items() if what.computed}
    if entry.kind == "determination":
        follows |= OF_THE_OLD_NAME
    before, after = shown_body(target), write(entry.body)
    lost = [name for name in before if name not in after and name not in follows]
    for name, value in before.items():
        if isinstance(value, dict) and isinstance(after.get(name), dict):
            lost += [f"{name}.{key}" for key, old in value.items() if _says_less(old, after[name].get(key))]
    if lost:
        raise BadEntry(
            f"The correction would drop {', '.join(lost)}. Reload the app, which sends the whole "
            "entry, or withdraw it and record it anew.",
            field=lost[0],
            allowed="every field of the entry that is replaced",
        )


def _says_less(old: object, new: object) -> bool:
    """Whether readings went missing: of a list some, of anything else all."""
    return new is None or (isinstance(old, list) and isinstance(new, list) and len(new) < len(old))
