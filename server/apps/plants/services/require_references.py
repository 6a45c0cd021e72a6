"""Ids in a record that name another: an entry of the same plant, a place, a contact; each must be visible."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from uuid import UUID

from apps.organisations.models import Contact, Member
from apps.organisations.permissions import visible_to
from apps.plants.errors import BadEntry, WaitingOn
from apps.plants.selectors import entries_visible_to, plants_visible_to
from jubark_core.records.fields import references
from jubark_core.records.shapes import Id
from jubark_core.records.things import Entry

PEOPLE: dict[str, type[Contact] | type[Member]] = {"contact": Contact, "member": Member}


def require_references(actor: Member, plant: UUID, entries: Sequence[Entry]) -> None:
    """Raises WaitingOn the first entry that another rests on and that is not among the plant's, or a place
    that has not arrived; BadEntry for a contact that is none.

    Unknown and foreign get the same answer, so that nobody learns what another organisation holds.
    """
    own = {e.id for e in entries}
    named = [id_ for _, ref, id_ in _named(entries) if ref.to == "entry" and id_ not in own]
    if named:
        stored = entries_visible_to(actor).filter(pk__in=named, plant_id=plant)
        known = set(stored.values_list("pk", flat=True))
        for id_ in named:
            if id_ not in known:
                raise WaitingOn(id_)
    places = [id_ for _, ref, id_ in _named(entries) if ref.to == "plant"]
    seen = (
        set(plants_visible_to(actor).filter(pk__in=places).values_list("pk", flat=True)) if places else set()
    )
    for id_ in places:
        if id_ not in seen:
            raise WaitingOn(id_)
    require_contacts(actor, entries)


def require_contacts(actor: Member, entries: Sequence[Entry]) -> None:
    """Raises BadEntry naming the first contact or member that is none of the organisation's."""
    for what, model in PEOPLE.items():
        named = [(field, id_) for field, ref, id_ in _named(entries) if ref.to == what]
        ids = {id_ for _, id_ in named}
        known = set(visible_to(actor, model.objects.filter(pk__in=ids)).values_list("pk", flat=True))
        for field, id_ in named:
            if id_ not in known:
                raise BadEntry(
                    f"{field}: {id_} is not allowed; a {what} of this organisation, or nothing.",
                    field=field,
                    value=str(id_),
                    allowed=f"a {what} of this organisation, or nothing",
                )


def _named(entries: Sequence[Entry]) -> Iterator[tuple[str, Id, UUID]]:
    for entry in entries:
        if entry.body is not None:
            for field, ref, id_ in references(entry.body):
                yield f"{entry.kind}.{field}", ref, id_
