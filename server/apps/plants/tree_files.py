"""The entries of whole trees: a tree that was recorded twice has those of both records, whoever asks."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import TypeVar
from uuid import UUID

from django.db.models import Q

from apps.plants.merged import duplicates_of, last_merged
from apps.plants.models import Entry
from apps.plants.projection import seen_whole_since
from apps.plants.selectors import EVERY, entries_by_plant, entry_rows_by_plant
from apps.plants.stored import EntryRow

E = TypeVar("E")


def entry_rows_of_trees(
    trees: Iterable[UUID], entries: Q = EVERY, visits_of: Q = EVERY
) -> dict[UUID, list[EntryRow]]:
    """As `entry_rows_by_plant`, with what was recorded of each tree under another id."""
    merged, wanted = _with_duplicates(trees)
    return _joined(entry_rows_by_plant(wanted, entries, visits_of), merged)


def records_of_trees(
    trees: Iterable[UUID], entries: Q = EVERY, visits_of: Q = EVERY
) -> dict[UUID, list[list[EntryRow]]]:
    """Tree -> the entries of each of its records, its own first; one without entries is an empty list."""
    merged, wanted = _with_duplicates(trees)
    rows = entry_rows_by_plant(wanted, entries, visits_of)
    duplicates = {record for records in merged.values() for record in records}
    return {
        tree: [rows.get(record, []) for record in (tree, *merged.get(tree, ()))]
        for tree in wanted
        if tree not in duplicates
    }


def still_apart(records: Mapping[UUID, Sequence[Sequence[EntryRow]]]) -> set[UUID]:
    """The trees of which each record still has its own say: nobody has seen the whole tree since the last of
    them was found to be a duplicate.
    """
    several = [tree for tree, of_each in records.items() if len(of_each) > 1]
    merged_on = last_merged(duplicates_of(several))
    return {
        tree
        for tree in several
        if not seen_whole_since([e for rows in records[tree] for e in rows], merged_on.get(tree))
    }


def entries_of_trees(trees: Iterable[UUID]) -> dict[UUID, list[Entry]]:
    """As `entries_by_plant`, with what was recorded of each tree under another id; oldest first."""
    merged, wanted = _with_duplicates(trees)
    found = _joined(entries_by_plant(wanted), merged)
    for tree in merged.keys() & found.keys():
        found[tree].sort(key=lambda e: (e.visit.local_date, e.visit.observed_at, e.received_at, e.id))
    return found


def tree_of_each(trees: Iterable[UUID]) -> dict[UUID, UUID]:
    """Record -> the tree among those given that it is of: each itself, and its duplicates."""
    merged, wanted = _with_duplicates(trees)
    top = {record: tree for tree, records in merged.items() for record in records}
    return {record: top.get(record, record) for record in wanted}


def _with_duplicates(trees: Iterable[UUID]) -> tuple[dict[UUID, list[UUID]], list[UUID]]:
    own = list(trees)
    merged = duplicates_of(own)
    return merged, [*own, *(record for records in merged.values() for record in records)]


def _joined(rows: Mapping[UUID, list[E]], merged: Mapping[UUID, list[UUID]]) -> dict[UUID, list[E]]:
    top = {record: tree for tree, records in merged.items() for record in records}
    found: dict[UUID, list[E]] = {}
    for record, own in rows.items():
        found.setdefault(top.get(record, record), []).extend(own)
    return found
