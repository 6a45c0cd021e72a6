"""How a field of a record is described, and how a described record is read, written and loaded."""

from __future__ import annotations

import dataclasses
import uuid
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from jubark_core.errors import InputError
from jubark_core.records.shapes import Id, Schema, Several, Shape, Words

T = TypeVar("T")
REQUIRED = dataclasses.MISSING
_EMPTY: tuple[tuple[type, Any], ...] = ((list, ()), (dict, {}))  # empty JSON that stands for the default


@dataclass(frozen=True)
class Described:
    """One field: what people call it, what it means, what it holds, since which record version it exists.

    computed: follows from other fields; what is sent along is replaced by what the core computes.
    """

    label: str
    meaning: str
    holds: Shape
    default: Any = REQUIRED
    since: int = 1
    computed: bool = False

    @property
    def required(self) -> bool:
        """Whether a record without it is refused."""
        return self.default is REQUIRED


_KNOWN: dict[type[Any], Mapping[str, Described]] = {}


def described(
    label: str,
    meaning: str,
    holds: Shape,
    default: Any = REQUIRED,
    *,
    since: int = 1,
    computed: bool = False,
) -> Any:
    """A dataclass field with its description."""
    what = {"described": Described(label, meaning, holds, default, since, computed)}
    if default is REQUIRED:
        return field(metadata=what)
    if isinstance(default, dict):
        return field(default_factory=dict, metadata=what)
    return field(default=default, metadata=what)


def fields_of(cls: type[Any]) -> Mapping[str, Described]:
    """Field name -> its description, in the order in which it is shown."""
    found = _KNOWN.get(cls)
    if found is None:
        found = {f.name: f.metadata["described"] for f in dataclasses.fields(cls)}
        _KNOWN[cls] = found
    return found


def one_of_its_fields(cls: type[T]) -> type[T]:
    """Marks a record of which exactly one field is given."""
    cls.exactly_one = True  # type: ignore[attr-defined]
    return cls


def read_as(cls: type[T], place: str, raw: Any, words: Words) -> T:
    """A record of a class from raw JSON. `place` goes before every field in an error; empty at the top.

    Raises InputError for anything but an object, an unknown key, a missing or a bad field, or what the
    record's own `check` refuses.
    """
    if not isinstance(raw, dict):
        raise InputError(place or "body", raw, "an object")
    known = fields_of(cls)
    before = f"{place}." if place else ""
    for key in raw:
        if key not in known:
            named = f"{before}{key or 'an empty key'}"
            raise InputError(named, "an unknown key", "one of " + ", ".join(sorted(known)))
    values = {}
    for name, what in known.items():
        given = raw.get(name)
        if name not in raw or _is_default(given, what.default):
            if what.required:
                raise InputError(before + name, "nothing", what.holds.allowed())
            continue
        values[name] = what.holds.read(before + name, given, words)
    if getattr(cls, "exactly_one", False) and len(values) != 1:
        raise InputError(place, ", ".join(values) or "nothing", "exactly one of " + ", ".join(known))
    found = cls(**values)
    check = getattr(found, "check", None)
    if check is not None:
        check(before)
    return found


def read_change(cls: type[T], now: Mapping[str, Any], given: Any, words: Words) -> tuple[T, list[str]]:
    """(the record after a change, the fields that were given). now: the record as raw JSON; what is left out
    stays as it is, a record inside is changed field by field.

    Raises InputError as `read_as`, and for a change of nothing.
    """
    if not isinstance(given, dict) or not given:
        raise InputError("body", given, "an object with at least one field to change")
    merged = dict(now)
    for name, value in given.items():
        inner = now.get(name) if isinstance(value, dict) else None
        known = fields_of(cls).get(name)
        of_rows = known is not None and isinstance(known.holds, Row)
        merged[name] = {**inner, **value} if of_rows and isinstance(inner, dict) else value
    return read_as(cls, "", merged, words), sorted(given)


def _is_default(given: Any, default: Any) -> bool:
    """Whether what is given says no more than leaving it out. A zero is no false, a one no true."""
    if type(given) is type(default):
        return bool(given == default)
    return any(isinstance(given, kind) and not given and default == empty for kind, empty in _EMPTY)


def write(record: Any) -> dict[str, Any]:
    """The canonical JSON of a record: what differs from its default, and every computed figure."""
    given = ((name, what, getattr(record, name)) for name, what in fields_of(type(record)).items())
    return {
        name: what.holds.write(value)
        for name, what, value in given
        if what.required
        or not _is_default(value, what.default)
        # a zero that follows from readings is a figure; a no that follows is what leaving it out says
        or (what.computed and isinstance(value, int | float) and not isinstance(value, bool))
    }


def load(cls: type[T], stored: Mapping[str, Any]) -> T:
    """A record from its own `write`, unchecked and quick: what is stored was judged when it came in."""
    known = fields_of(cls)
    return cls(**{name: known[name].holds.load(value) for name, value in stored.items()})


@dataclass(frozen=True)
class Row:
    """A record inside a record."""

    of: type

    def read(self, place: str, raw: Any, words: Words) -> Any:
        """The inner record."""
        return read_as(self.of, place, raw, words)

    def write(self, value: Any) -> dict[str, Any]:
        """As the inner record is written."""
        return write(value)

    def load(self, stored: dict[str, Any]) -> Any:
        """The inner record."""
        return load(self.of, stored)

    def schema(self) -> Schema:
        """As the inner record is described."""
        return object_schema(self.of)

    def allowed(self) -> str:
        """Its fields."""
        one = "exactly one of " if getattr(self.of, "exactly_one", False) else ""
        return "an object with " + one + ", ".join(fields_of(self.of))


def object_schema(cls: type) -> Schema:
    """JSON Schema of a described record: no key but those described."""
    known = fields_of(cls)
    found: Schema = {
        "type": "object",
        "description": " ".join((cls.__doc__ or "").split()),
        "properties": {name: _property(what) for name, what in known.items()},
        "additionalProperties": False,
    }
    if needed := [name for name, what in known.items() if what.required]:
        found["required"] = needed
    if getattr(cls, "exactly_one", False):
        found |= {"minProperties": 1, "maxProperties": 1}
    return found


def _property(what: Described) -> Schema:
    shape = what.holds.schema()
    if what.default == "" and "enum" in shape:
        shape = {**shape, "enum": [*shape["enum"], ""]}
    if what.default is None:
        shape = {"oneOf": [shape, {"type": "null"}]}
    said = f"{what.label}: {what.meaning}"
    return {**shape, "description": said, **({"readOnly": True} if what.computed else {})}


def references(record: Any) -> Iterator[tuple[str, Id, uuid.UUID]]:
    """(field, its declaration, id) for every id in a record that names something else."""
    for name, what in fields_of(type(record)).items():
        holds, value = what.holds, getattr(record, name)
        if isinstance(holds, Id) and holds.to and value is not None:
            yield name, holds, value
        elif isinstance(holds, Several) and isinstance(holds.of, Id) and holds.of.to:
            for i, one in enumerate(value):
                yield f"{name}[{i}]", holds.of, one


def renamed(cls: type[Any], raw: Any, named: Callable[[str], str]) -> Any:
    """Raw JSON of a record with every id that names another record replaced by `named` of it; people outside
    keep theirs.
    """
    if not isinstance(raw, dict):
        return raw
    found = dict(raw)
    for name, what in fields_of(cls).items():
        holds = what.holds
        if isinstance(holds, Id) and holds.to not in ("", "contact") and found.get(name):
            found[name] = named(found[name])
        elif isinstance(holds, Several) and isinstance(holds.of, Id) and isinstance(found.get(name), list):
            found[name] = [named(one) for one in found[name]]
    return found
