"""Checks shared by every room that takes numbers from people."""

from __future__ import annotations

import datetime
import math
import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from jubark_core.errors import EmptySampleError, InputError, OutOfRangeError

EARLIEST_YEAR, LATEST_YEAR = (
    1700,
    2200,
)  # outside, a date is a slip; inside, shifts by a year stay in the calendar
LARGEST_OFFSET = datetime.timedelta(hours=14)  # UTC+14, the Line Islands
MOST_NESTED = 32  # levels of lists and objects; a GeoJSON MultiPolygon in an outbox item needs 9
_DATE = re.compile(r"\d{4}-\d{2}-\d{2}", re.ASCII)
_MOMENT = re.compile(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(\.\d{1,9})?(Z|[+-]\d{2}:\d{2})", re.ASCII)
_NOT_STORABLE = re.compile("[\x00\ud800-\udfff]")


def require_number(place: str, value: object) -> float:
    """The value as a finite float. Raises InputError for anything else (booleans and NaN too)."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise InputError(place, value, "a number is needed")
    try:
        number = float(value)
    except OverflowError:
        raise OutOfRangeError(place, value, "the number is too large") from None
    if not math.isfinite(number):
        raise InputError(place, value, "a finite number is needed")
    return number


def require_between(place: str, value: object, low: float, high: float, unit: str = "") -> float:
    """The value as a float within [low, high]. Raises OutOfRangeError otherwise."""
    number = require_number(place, value)
    if not low <= number <= high:
        raise OutOfRangeError(place, value, f"from {low:g} to {high:g}{' ' + unit if unit else ''}")
    return number


def require_sample(place: str, values: Sequence[float], low: float, high: float, unit: str) -> list[float]:
    """Every value within [low, high]; raises EmptySampleError for none, OutOfRangeError naming the
    bad one.
    """
    if not values:
        raise EmptySampleError(place)
    return [require_between(f"{place}[{i}]", v, low, high, unit) for i, v in enumerate(values)]


def require_one_of(place: str, value: object, allowed: Iterable[str]) -> str:
    """The value if it is one of the allowed words. Raises InputError listing them."""
    words = list(allowed)
    if not isinstance(value, str) or value not in words:
        raise InputError(place, value, "one of " + ", ".join(words))
    return value


def require_whole(place: str, value: object, low: int, high: int) -> int:
    """A whole number within [low, high]. Raises InputError."""
    number = require_number(place, value)
    if number != int(number) or not low <= number <= high:
        raise InputError(place, value, f"a whole number from {low} to {high}")
    return int(number)


def require_flag(place: str, value: object) -> bool:
    """True or false and nothing else. Raises InputError."""
    if not isinstance(value, bool):
        raise InputError(place, value, "true or false")
    return value


def require_short_text(place: str, value: object, most: int = 100) -> str:
    """A text of at most so many characters. Raises InputError."""
    if not isinstance(value, str) or len(value) > most:
        raise InputError(place, value, f"a text of at most {most} characters")
    return value


def require_known_keys(prefix: str, given: Mapping[str, object], allowed: Iterable[str]) -> None:
    """Every key is one of the allowed. Raises InputError with `prefix` before the key."""
    words = set(allowed)
    for key in given:
        if key not in words:
            raise InputError(
                prefix + (str(key) or "an empty key"),
                "an unknown key",
                "one of " + ", ".join(sorted(words)),
            )


def require_words(place: str, value: object, allowed: Sequence[str], least: int = 1) -> tuple[str, ...]:
    """A list of at least so many of the allowed words, each once. Raises InputError."""
    if not isinstance(value, list) or len(value) < least:
        raise InputError(place, value, f"a list of at least {least} of " + ", ".join(allowed))
    words = tuple(require_one_of(f"{place}[{i}]", word, allowed) for i, word in enumerate(value))
    if len(set(words)) != len(words):
        raise InputError(place, value, "each word once")
    return words


def require_list(place: str, value: object, most: int) -> list[Any]:
    """A list of at most so many. Raises InputError."""
    if not isinstance(value, list):
        raise InputError(place, value, "a list")
    if len(value) > most:
        raise InputError(place, len(value), f"at most {most}")
    return value


def require_date(place: str, value: object) -> datetime.date:
    """A date written YYYY-MM-DD, 1700 to 2200 (ISO 8601 week dates and the like are refused). Raises
    InputError.
    """
    try:
        found = (
            datetime.date.fromisoformat(value) if isinstance(value, str) and _DATE.fullmatch(value) else None
        )
    except ValueError:
        found = None
    if found is None or not EARLIEST_YEAR <= found.year <= LATEST_YEAR:
        raise InputError(place, value, f"a date as YYYY-MM-DD, from {EARLIEST_YEAR} to {LATEST_YEAR}")
    return found


def require_moment(place: str, value: object) -> datetime.datetime:
    """An RFC 3339 time with its offset, converted to UTC, 1700 to 2200. Raises InputError."""
    allowed = f"a time with offset from {EARLIEST_YEAR} to {LATEST_YEAR}, e.g. 2026-10-20T14:05:00+00:00"
    try:
        if not isinstance(value, str) or not _MOMENT.fullmatch(value):
            raise InputError(place, value, allowed)
        found = datetime.datetime.fromisoformat(value)
        if abs(found.utcoffset() or datetime.timedelta()) > LARGEST_OFFSET:
            raise InputError(place, value, "an offset of at most 14 hours")
        found = found.astimezone(datetime.UTC)
    except (ValueError, OverflowError):
        raise InputError(place, value, allowed) from None
    if not EARLIEST_YEAR <= found.year <= LATEST_YEAR:
        raise InputError(place, value, allowed)
    return found


def require_storable(place: str, value: object) -> None:
    """JSON that any database and any file can hold: no zero character, no lone surrogate, no infinite number,
    not nested beyond reason. Raises InputError naming the place. Without recursion, so that no depth can
    break it.
    """
    rest: list[tuple[str, object, int]] = [(place, value, 0)]
    while rest:
        at, part, depth = rest.pop()
        if isinstance(part, str):
            _require_storable_text(at, part)
        elif isinstance(part, float) and not math.isfinite(part):
            raise InputError(at, part, "a finite number is needed")
        elif isinstance(part, list | dict):
            if depth >= MOST_NESTED:
                raise InputError(
                    place, f"nested {depth} deep", f"lists and objects nested at most {MOST_NESTED} deep"
                )
            if isinstance(part, list):
                rest += [(f"{at}[{i}]", inner, depth + 1) for i, inner in enumerate(part)]
                continue
            for key, inner in part.items():
                _require_storable_text(f"{at}: a key", key)
                rest.append((f"{at}.{key}"[-200:], inner, depth + 1))


# control characters (C0, DEL, C1) and the two separators of Unicode that break a line
ONE_LINE = "^[^\\u0000-\\u001f\\u007f-\\u009f\\u2028\\u2029]*$"


def require_line(place: str, text: str, allowed: str) -> str:
    """The text, without a line break or another control character in it. Raises InputError."""
    if not re.fullmatch(ONE_LINE.strip("^$"), text):
        raise InputError(place, text, allowed)
    return text


def _require_storable_text(place: str, text: str) -> None:
    if _NOT_STORABLE.search(text):
        raise InputError(place, text, "text without zero characters and without half surrogate pairs")
