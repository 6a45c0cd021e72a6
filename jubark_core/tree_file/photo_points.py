"""Photo points of a tree with their pictures, oldest first."""

from __future__ import annotations

import datetime
from dataclasses import dataclass
from uuid import UUID

from jubark_core.records.bodies import Photo
from jubark_core.records.file import PhotoPoint
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.filed import roots_of


@dataclass(frozen=True)
class Point:
    """A photo point. entry: what says it now; pictures: (entry, day)."""

    entry: UUID
    body: PhotoPoint
    pictures: tuple[tuple[UUID, datetime.date], ...]


def photo_points(file: TreeFile) -> list[Point]:
    """Each photo point that stands. A picture of one that was corrected later belongs to it still."""
    root = roots_of(file.entries)
    shown = [(root(row.body.shows), row) for row in file.all_of(Photo) if row.body.shows]
    return [
        Point(
            point.entry,
            point.body,
            tuple((row.entry, row.on) for of, row in shown if of == root(point.entry)),
        )
        for point in file.all_of(PhotoPoint)
    ]
