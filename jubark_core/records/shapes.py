"""What a field can hold. Each shape reads what came in, writes it back, and describes itself in JSON Schema.

read: raw JSON, checked; raises InputError naming the place, the value and what is allowed.
write: the value as JSON, always the same for the same value.
load: a value from its own `write`, unchecked: what is stored was judged when it came in.
"""

from __future__ import annotations

import datetime
import re
import uuid
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from jubark_core.checks import (
    ONE_LINE,
    require_between,
    require_date,
    require_line,
    require_moment,
    require_one_of,
)
from jubark_core.errors import InputError

Words = Mapping[str, Any]  # vocabulary -> its words; any container that knows `in` and can be listed
Schema = dict[str, Any]
UUID = re.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")  # as RFC 9562 writes it
LONGEST_WORD = 80


class Shape(Protocol):
    """What every shape can do."""

    def read(self, place: str, raw: Any, words: Words) -> Any:
        """The value of what came in."""

    def write(self, value: Any) -> Any:
        """The value as JSON."""

    def load(self, stored: Any) -> Any:
        """The value of what was written."""

    def schema(self) -> Schema:
        """JSON Schema 2020-12."""

    def allowed(self) -> str:
        """What may stand there, for people."""


class _Plain:
    """A value that is its own JSON."""

    def write(self, value: Any) -> Any:
        return value

    def load(self, stored: Any) -> Any:
        return stored


@dataclass(frozen=True)
class Text(_Plain):
    """Text of `least` to `most` characters."""

    most: int
    least: int = 0

    def read(self, place: str, raw: Any, words: Words) -> str:
        if not isinstance(raw, str) or len(raw) > self.most or len(raw.strip()) < self.least:
            raise InputError(place, raw, self.allowed())
        if "\x00" in raw:
            raise InputError(place, raw, self.allowed())
        return raw

    def schema(self) -> Schema:
        return {"type": "string", "maxLength": self.most} | ({"minLength": self.least} if self.least else {})

    def allowed(self) -> str:
        return f"a text of {self.least} to {self.most} characters"


@dataclass(frozen=True)
class Line(Text):
    """A name: text in one line. What breaks a line, or is no character at all, breaks the files it stands
    in.
    """

    def read(self, place: str, raw: Any, words: Words) -> str:
        return require_line(place, super().read(place, raw, words), self.allowed())

    def schema(self) -> Schema:
        return super().schema() | {"pattern": ONE_LINE}

    def allowed(self) -> str:
        return f"{super().allowed()} in one line"


@dataclass(frozen=True)
class Digest(_Plain):
    """SHA-256 in hexadecimal."""

    def read(self, place: str, raw: Any, words: Words) -> str:
        if not isinstance(raw, str) or not re.fullmatch("[0-9a-f]{64}", raw):
            raise InputError(place, raw, self.allowed())
        return raw

    def schema(self) -> Schema:
        return {"type": "string", "pattern": "^[0-9a-f]{64}$"}

    def allowed(self) -> str:
        return "64 hexadecimal digits in lower case"


@dataclass(frozen=True)
class Word(_Plain):
    """One word of a fixed list."""

    words: tuple[str, ...]

    def read(self, place: str, raw: Any, words: Words) -> str:
        return require_one_of(place, raw, self.words)

    def schema(self) -> Schema:
        return {"type": "string", "enum": list(self.words)}

    def allowed(self) -> str:
        return "one of " + ", ".join(self.words)


@dataclass(frozen=True)
class Listed(_Plain):
    """One word of a vocabulary the caller passes in: it grows with the flora, so it is no enum of the API."""

    vocabulary: str

    def read(self, place: str, raw: Any, words: Words) -> str:
        if not isinstance(raw, str) or raw not in words[self.vocabulary]:
            known = sorted(words[self.vocabulary])
            shown = ", ".join(known) if len(known) <= 40 else f"{', '.join(known[:3])} …"
            raise InputError(place, raw, f"one of the {self.vocabulary}: {shown}")
        return raw

    def schema(self) -> Schema:
        return {"type": "string", "maxLength": LONGEST_WORD}

    def allowed(self) -> str:
        return f"one of the {self.vocabulary}"


@dataclass(frozen=True)
class Number(_Plain):
    """A finite number from `low` to `high`, in `unit`."""

    low: float
    high: float
    unit: str = ""

    def read(self, place: str, raw: Any, words: Words) -> float:
        return require_between(place, raw, self.low, self.high, self.unit)

    def schema(self) -> Schema:
        return {"type": "number", "minimum": self.low, "maximum": self.high}

    def allowed(self) -> str:
        return f"a number from {self.low:g} to {self.high:g}{' ' + self.unit if self.unit else ''}"


@dataclass(frozen=True)
class Whole(_Plain):
    """A whole number from `low` to `high`."""

    low: int
    high: int

    def read(self, place: str, raw: Any, words: Words) -> int:
        number = require_between(place, raw, self.low, self.high)
        if number != int(number):
            raise InputError(place, raw, self.allowed())
        return int(number)

    def schema(self) -> Schema:
        return {"type": "integer", "minimum": self.low, "maximum": self.high}

    def allowed(self) -> str:
        return f"a whole number from {self.low} to {self.high}"


@dataclass(frozen=True)
class OneNumber(_Plain):
    """One of a few numbers, to 2 mm."""

    numbers: tuple[float, ...]

    def read(self, place: str, raw: Any, words: Words) -> float:
        given = require_between(place, raw, self.numbers[0] - 0.01, self.numbers[-1] + 0.01)
        for number in self.numbers:
            if abs(number - given) < 0.002:
                return number
        raise InputError(place, raw, self.allowed())

    def schema(self) -> Schema:
        return {"type": "number", "minimum": self.numbers[0], "maximum": self.numbers[-1]}

    def allowed(self) -> str:
        return "one of " + ", ".join(f"{n:.2f}" for n in self.numbers)


@dataclass(frozen=True)
class Flag(_Plain):
    """True or false and nothing else."""

    def read(self, place: str, raw: Any, words: Words) -> bool:
        if not isinstance(raw, bool):
            raise InputError(place, raw, self.allowed())
        return raw

    def schema(self) -> Schema:
        return {"type": "boolean"}

    def allowed(self) -> str:
        return "true or false"


@dataclass(frozen=True)
class Day:
    """A day of the calendar, 1700 to 2200."""

    def read(self, place: str, raw: Any, words: Words) -> datetime.date:
        return require_date(place, raw)

    def write(self, value: datetime.date) -> str:
        return value.isoformat()

    def load(self, stored: str) -> datetime.date:
        return datetime.date.fromisoformat(stored)

    def schema(self) -> Schema:
        return {"type": "string", "format": "date"}

    def allowed(self) -> str:
        return "a date as YYYY-MM-DD, from 1700 to 2200"


@dataclass(frozen=True)
class Moment:
    """A time with its offset, in UTC once read."""

    def read(self, place: str, raw: Any, words: Words) -> datetime.datetime:
        return require_moment(place, raw)

    def write(self, value: datetime.datetime) -> str:
        return value.isoformat()

    def load(self, stored: str) -> datetime.datetime:
        return datetime.datetime.fromisoformat(stored)

    def schema(self) -> Schema:
        return {"type": "string", "format": "date-time"}

    def allowed(self) -> str:
        return "a time with offset, e.g. 2026-10-20T14:05:00+00:00"


@dataclass(frozen=True)
class Id:
    """A UUID (RFC 9562) of any version, made by whoever makes the record; not nil, not max.

    to: the kind of thing it must name, where it names another one. same: what the two must share.
    """

    to: str = ""
    same: str = "organisation"

    def read(self, place: str, raw: Any, words: Words) -> uuid.UUID:
        found = uuid.UUID(raw) if isinstance(raw, str) and UUID.fullmatch(raw) else raw
        if not isinstance(found, uuid.UUID) or found.int in (0, 2**128 - 1) or found.variant != uuid.RFC_4122:
            raise InputError(place, raw, self.allowed())
        return found

    def write(self, value: uuid.UUID) -> str:
        return str(value)

    def load(self, stored: str) -> uuid.UUID:
        return uuid.UUID(stored)

    def schema(self) -> Schema:
        return {"type": "string", "format": "uuid"}

    def allowed(self) -> str:
        return "a UUID (RFC 9562), not nil or max"


@dataclass(frozen=True)
class Several:
    """A list of `least` to `most` of one shape."""

    of: Shape
    most: int
    least: int = 0

    def read(self, place: str, raw: Any, words: Words) -> tuple[Any, ...]:
        if not isinstance(raw, list | tuple) or not self.least <= len(raw) <= self.most:
            raise InputError(place, raw, self.allowed())
        return tuple(self.of.read(f"{place}[{i}]", value, words) for i, value in enumerate(raw))

    def write(self, value: tuple[Any, ...]) -> list[Any]:
        return [self.of.write(v) for v in value]

    def load(self, stored: list[Any]) -> tuple[Any, ...]:
        return tuple(self.of.load(v) for v in stored)

    def schema(self) -> Schema:
        found = {"type": "array", "items": self.of.schema(), "maxItems": self.most}
        return found | ({"minItems": self.least} if self.least else {})

    def allowed(self) -> str:
        return f"a list of {self.least} to {self.most}"


@dataclass(frozen=True)
class Table:
    """An object whose keys are words of a vocabulary and whose values have one shape."""

    keys: Listed
    of: Shape

    def read(self, place: str, raw: Any, words: Words) -> dict[str, Any]:
        if not isinstance(raw, dict):
            raise InputError(place, raw, self.allowed())
        return {
            self.keys.read(place, key, words): self.of.read(f"{place}.{key}", value, words)
            for key, value in raw.items()
        }

    def write(self, value: Mapping[str, Any]) -> dict[str, Any]:
        return {key: self.of.write(v) for key, v in sorted(value.items())}

    def load(self, stored: dict[str, Any]) -> dict[str, Any]:
        return {key: self.of.load(v) for key, v in stored.items()}

    def schema(self) -> Schema:
        return {"type": "object", "additionalProperties": self.of.schema()}

    def allowed(self) -> str:
        return f"an object of {self.keys.vocabulary}"


@dataclass(frozen=True)
class Grade(_Plain):
    """A grade of a part, 0 (worst) to 4 (best), or not_seen."""

    def read(self, place: str, raw: Any, words: Words) -> int | str:
        if raw == "not_seen":
            return "not_seen"
        if isinstance(raw, bool) or not isinstance(raw, int) or not 0 <= raw <= 4:
            raise InputError(place, raw, self.allowed())
        return raw

    def schema(self) -> Schema:
        return {"oneOf": [{"type": "integer", "minimum": 0, "maximum": 4}, {"const": "not_seen"}]}

    def allowed(self) -> str:
        return "a grade from 0 to 4, or not_seen"


@dataclass(frozen=True)
class Outline(_Plain):
    """A GeoJSON geometry (RFC 7946), in WGS 84. Its rings are judged where it is stored."""

    types: tuple[str, ...]

    def read(self, place: str, raw: Any, words: Words) -> dict[str, Any]:
        if not isinstance(raw, dict):
            raise InputError(place, raw, self.allowed())
        require_one_of(f"{place}.type", raw.get("type"), self.types)
        return raw

    def schema(self) -> Schema:
        return {
            "type": "object",
            "required": ["type", "coordinates"],
            "properties": {
                "type": {"enum": list(self.types)},
                "coordinates": {"type": "array", "items": {}},
            },
        }

    def allowed(self) -> str:
        return "a GeoJSON geometry: " + " or ".join(self.types)
