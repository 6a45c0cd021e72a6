"""Checks shared by every room that takes numbers from people."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from jubark_core.errors import EmptySampleError, InputError, OutOfRangeError


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
    """Every value within [low, high]; raises EmptySampleError for none, OutOfRangeError naming the bad one."""
    if not values:
        raise EmptySampleError(place)
    return [require_between(f"{place}[{i}]", v, low, high, unit) for i, v in enumerate(values)]


def require_one_of(place: str, value: object, allowed: Iterable[str]) -> str:
    """The value if it is one of the allowed words. Raises InputError listing them."""
    words = list(allowed)
    if not isinstance(value, str) or value not in words:
        raise InputError(place, value, "one of " + ", ".join(words))
    return value
