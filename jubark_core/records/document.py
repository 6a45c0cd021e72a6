"""docs/records.md, made from the description: every kind of entry, field by field, and every quantity."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import Row, fields_of
from jubark_core.records.office import Block, Competence, Contact, Site
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import Several, Shape
from jubark_core.records.things import ClockConfirmation, Conventions, EntryHead, Plant, Visit
from jubark_core.records.upgrade import VERSION

HEAD = f"""# Records

Made from `jubark_core/records/` by `./jubark schema`; do not edit. Record version {VERSION}.

Units are SI, coordinates WGS 84 with longitude first, times UTC. *Computed* fields follow from the
others: what is sent along is checked or replaced. A field that equals its default is not written.
"""


def document() -> str:
    """The whole document."""
    return "\n".join([HEAD, *_lines()]).rstrip() + "\n"


def _lines() -> Iterator[str]:
    yield "## Things"
    for cls in (Plant, Visit, EntryHead, ClockConfirmation, Conventions, Site, Block, Contact, Competence):
        yield from _table(cls.__name__, cls)
    yield "## Kinds of entry"
    for kind, what in KINDS.items():
        yield from _table(f"{what.label} (`{kind}`)", what.body)
    yield "## Quantities"
    yield ""
    yield "| quantity | label | meaning | unit | US customary | range | computed from |"
    yield "|---|---|---|---|---|---|---|"
    for name, q in QUANTITIES.items():
        readings = ", ".join(f"`{r}`" for r in q.readings)
        limits = f"{q.low:g} to {q.high:g}"
        yield f"| `{name}` | {q.label} | {q.meaning} | {q.unit} | {q.customary} | {limits} | {readings} |"


def _table(title: str, cls: type[Any], depth: int = 3) -> Iterator[str]:
    yield ""
    yield f"{'#' * depth} {title}"
    yield ""
    yield " ".join((cls.__doc__ or "").split())
    yield ""
    inner: list[type[Any]] = []
    if fields_of(cls):
        yield "| field | label | meaning | holds | since |"
        yield "|---|---|---|---|---|"
    for name, what in fields_of(cls).items():
        held: Shape = what.holds.of if isinstance(what.holds, Several) else what.holds
        if isinstance(held, Row):
            inner.append(held.of)
        marks = "*computed*; " if what.computed else "required; " if what.required else ""
        yield f"| `{name}` | {what.label} | {what.meaning} | {marks}{what.holds.allowed()} | {what.since} |"
    yield ""
    for one in inner:
        yield from _table(f"{one.__name__} (in {cls.__name__})", one, depth + 1)
