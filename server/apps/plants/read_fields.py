"""Single fields of what devices and files send: each refused by name, with the value and what is allowed."""

from __future__ import annotations

import re
import uuid
from typing import Any

from jubark_core.checks import require_between
from jubark_core.errors import InputError

_UUID = re.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")  # as RFC 9562 writes it


def read_id(place: str, raw: Any) -> uuid.UUID:
    """An RFC 9562 UUID, any version but nil and max."""
    found = uuid.UUID(raw) if isinstance(raw, str) and _UUID.fullmatch(raw) else raw
    if not isinstance(found, uuid.UUID) or found.int in (0, 2**128 - 1) or found.variant != uuid.RFC_4122:
        raise InputError(place, raw, "a UUID (RFC 9562), not nil or max")
    return found


def words_of(pairs: list[tuple[str, str]]) -> list[str]:
    """The words of a list of choices."""
    return [word for word, _ in pairs]


def read_object(place: str, raw: Any) -> dict[str, Any]:
    """A JSON object. Raises InputError."""
    if not isinstance(raw, dict):
        raise InputError(place, raw, "an object")
    return raw


def read_list(place: str, raw: Any, most: int) -> list[Any]:
    """A list of at most so many. Raises InputError."""
    if not isinstance(raw, list) or len(raw) > most:
        raise InputError(place, raw, f"a list of at most {most}")
    return raw


def only_keys(data: dict[str, Any], what: str, keys: set[str]) -> None:
    """Refuses keys nobody knows, by name."""
    for key in data:
        if key not in keys:
            raise InputError(
                f"{what}.{key or 'an empty key'}", "an unknown key", "one of " + ", ".join(sorted(keys))
            )


def read_text(place: str, raw: Any, most: int, least: int = 0) -> str:
    """Text of `least` to `most` characters, trimmed. Raises InputError."""
    if not isinstance(raw, str) or not least <= len(raw.strip()) <= most or len(raw) > most or "\x00" in raw:
        raise InputError(place, raw, f"a text of {least} to {most} characters")
    return raw


def read_flag(place: str, raw: Any) -> bool:
    """True or false and nothing else. Raises InputError."""
    if not isinstance(raw, bool):
        raise InputError(place, raw, "true or false")
    return raw


def read_whole(place: str, raw: Any, low: int, high: int) -> int:
    """A whole number in a range. Raises InputError."""
    number = require_between(place, raw, low, high)
    if number != int(number):
        raise InputError(place, raw, f"a whole number from {low} to {high}")
    return int(number)


def read_maybe(place: str, raw: Any, low: float, high: float, unit: str = "") -> float | None:
    """A number in a range, or None. Raises InputError."""
    return None if raw is None else require_between(place, raw, low, high, unit)
