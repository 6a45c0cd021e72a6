"""What devices and files send, read by the core with the shipped flora. Every door reads here."""

from __future__ import annotations

from typing import Any

from apps.sites.shapes import read_shape
from jubark_core import recording
from jubark_core.flora.load import shipped_flora
from jubark_core.records import things
from jubark_core.records.things import ClockConfirmation, Entry, Plant, Visit
from jubark_core.records.upgrade import VERSION

OUTLINES = ("Polygon", "MultiPolygon", "LineString")


def read_plant(raw: Any) -> Plant:
    """A plant, its outline a shape that can be stored. Raises InputError naming the field."""
    found = things.read_plant(raw)
    if found.outline is not None:
        read_shape("outline", found.outline, OUTLINES)
    return found


def read_visit(raw: Any, version: int = VERSION) -> Visit:
    """A visit, every entry judged and computed by the rules of its version. Raises InputError naming entry
    and field.
    """
    return recording.record_visit(raw, shipped_flora(), version)


def read_entry(raw: Any, version: int = VERSION) -> Entry:
    """One entry, judged and computed by the rules of its version. Raises InputError naming the field."""
    return recording.record_entry(raw, shipped_flora(), version=version)


def read_clock(raw: Any) -> ClockConfirmation:
    """The confirmation of a doubted date. Raises InputError naming the field."""
    return things.read_clock(raw)
