"""Entries as a tree's file holds them, and which of them stand."""

from __future__ import annotations

import datetime
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar
from uuid import UUID

from jubark_core.records.bodies import Body
from jubark_core.records.upgrade import VERSION

CONFIRMS = "clock_confirmed"
LONG_AGO = datetime.datetime.min.replace(tzinfo=datetime.UTC)


@dataclass(frozen=True, slots=True)
class SeenOn:
    """What a file needs of a visit."""

    local_date: datetime.date
    observed_at: datetime.datetime
    mode: str
    clock_doubtful: bool
    stage: str = "mature"


@dataclass(frozen=True, slots=True)
class Filed:
    """An entry of a tree's file at the current record version; body: None where it only withdraws another.

    record: the id it was recorded under, which may be that of a duplicate.
    """

    id: UUID
    record: UUID
    kind: str
    body: Body | None
    replaces_id: UUID | None
    retracts_id: UUID | None
    received_at: datetime.datetime
    visit_id: UUID
    visit: SeenOn
    by: UUID | None = None  # the member who was signed in
    version: int = VERSION  # the record version it was stored at


B = TypeVar("B")
E = TypeVar("E", bound=Any)  # `Filed`, or a row of a database with the same fields


@dataclass(frozen=True, slots=True)
class Dated(Generic[B]):
    """What an entry records, and the day of its visit."""

    on: datetime.date
    body: B
    entry: UUID
    at: datetime.datetime = LONG_AGO
    by: UUID | None = None


@dataclass
class Standing(Generic[E]):
    """Entries that count, the oldest first, and which of them are disputed."""

    live: list[E] = field(default_factory=list)
    contested: set[UUID] = field(default_factory=set)


def standing_entries(entries: Sequence[E], doubted: bool = False) -> Standing[E]:
    """The newest of each chain of corrections, without what was withdrawn or waits for its clock to be
    confirmed. doubted: with what waits for it.

    Where two corrections name the same entry, the later received wins and the chain is contested.
    """
    by_id = {e.id: e for e in entries}
    chains: dict[UUID, list[E]] = {}
    retracted: set[UUID] = set()
    for entry in entries:
        if entry.retracts_id is not None:
            retracted.add(_root(entry.retracts_id, by_id))
        else:
            chains.setdefault(_root(entry.id, by_id), []).append(entry)
    confirmed = confirmed_visits(entries)
    found: Standing[E] = Standing()
    for root, chain in chains.items():
        replaced = {e.replaces_id for e in chain}
        heads = sorted((e for e in chain if e.id not in replaced), key=lambda e: (e.received_at, e.id))
        if len(heads) > 1:
            found.contested.update(e.id for e in heads)
        head = heads[-1]
        trusted = doubted or not head.visit.clock_doubtful or head.visit_id in confirmed
        if root not in retracted and trusted:
            found.live.append(head)
    found.live.sort(key=_order)
    return found


def confirmed_visits(entries: Sequence[Any]) -> set[UUID]:
    """Visits whose doubted date somebody confirmed."""
    return {e.visit_id for e in entries if e.kind == CONFIRMS}


def _order(entry: Any) -> tuple[Any, ...]:
    return (entry.visit.local_date, entry.visit.observed_at, entry.received_at, entry.id)


def roots_of(entries: Sequence[Any]) -> Callable[[UUID], UUID]:
    """Entry -> the first of its chain of corrections."""
    by_id = {e.id: e for e in entries}
    return lambda entry_id: _root(entry_id, by_id)


def _root(entry_id: UUID, by_id: Mapping[UUID, Any]) -> UUID:
    while (
        (entry := by_id.get(entry_id)) is not None
        and entry.replaces_id is not None
        and entry.replaces_id in by_id
    ):
        entry_id = entry.replaces_id
    return entry_id
