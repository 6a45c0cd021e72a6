"""The files of trees: a tree that was recorded twice has the entries of both records, whoever asks."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Iterator, Sequence
from uuid import UUID

from django.db.models import Q

from apps.plants.merged import duplicates_of, last_merged
from apps.plants.selectors import filed_by_plant, of_kinds
from jubark_core.tree_file.file import TreeFile, tree_file

AT_ONCE = 1_000


def tree_files(
    trees: Iterable[UUID],
    *kinds: str,
    on: datetime.date | None = None,
    at: datetime.datetime | None = None,
    duplicates: bool = False,
) -> Iterator[tuple[UUID, TreeFile]]:
    """(tree, its file), in the order given; a record is left out where another of those given stands for it.

    kinds: of entries that are read; none: all. on: the day up to which the files are read; at: the moment up
    to which what had been received, and which records had been found to be of one tree, is known.
    duplicates: those too that another stands for, each with what was merged into it.
    """
    wanted = list(trees)
    merged = duplicates_of(wanted, at)
    twice = {record for records in merged.values() for record in records}
    own = wanted if duplicates else [tree for tree in wanted if tree not in twice]
    for start in range(0, len(own), AT_ONCE):
        yield from _read(own[start : start + AT_ONCE], merged, kinds, on, at)


def tree_file_of(tree: UUID, *kinds: str, on: datetime.date | None = None) -> TreeFile:
    """The file of one tree."""
    return next(file for _, file in tree_files([tree], *kinds, on=on))


def _read(
    trees: Sequence[UUID],
    merged: dict[UUID, list[UUID]],
    kinds: Sequence[str],
    on: datetime.date | None,
    at: datetime.datetime | None,
) -> Iterator[tuple[UUID, TreeFile]]:
    several = {tree: merged[tree] for tree in trees if tree in merged}
    merged_on = last_merged(several, at)
    entries = filed_by_plant(
        [*trees, *(record for records in several.values() for record in records)],
        entries=(of_kinds(*kinds) if kinds else Q()) & (Q(received_at__lte=at) if at else Q()),
        visits_of=Q(local_date__lte=on) if on and at else Q(),
    )
    for tree in trees:
        records = [entries.get(record, []) for record in (tree, *several.get(tree, ()))]
        yield tree, tree_file(records, on, merged_on.get(tree))


def tree_of_each(trees: Iterable[UUID]) -> dict[UUID, UUID]:
    """Record -> the tree among those given that it is of: each itself, and its duplicates."""
    own = list(trees)
    found = {tree: tree for tree in own}
    return found | {record: tree for tree, records in duplicates_of(own).items() for record in records}
