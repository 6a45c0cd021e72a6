"""Ids in a record that name another record: each must be of the plant it says, and visible."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from apps.organisations.models import Member
from apps.plants.errors import WaitingOn
from apps.plants.selectors import entries_visible_to
from jubark_core.records.fields import references
from jubark_core.records.things import Entry


def require_references(actor: Member, plant: UUID, entries: Sequence[Entry]) -> None:
    """Raises WaitingOn the first entry that another rests on and that is not among the plant's.

    Unknown and foreign get the same answer, so that nobody learns what another organisation holds.
    """
    own = {e.id for e in entries}
    named = [
        id_
        for entry in entries
        if entry.body is not None
        for _, ref, id_ in references(entry.body)
        if ref.to == "entry" and id_ not in own
    ]
    if not named:
        return
    stored = entries_visible_to(actor).filter(pk__in=named, plant_id=plant)
    known = set(stored.values_list("pk", flat=True))
    for id_ in named:
        if id_ not in known:
            raise WaitingOn(id_)
