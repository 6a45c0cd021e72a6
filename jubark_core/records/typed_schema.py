"""JSON Schema 2020-12 of TypedDicts, and the check that what came in has their shape."""

from __future__ import annotations

import math
import types
from dataclasses import dataclass
from typing import (
    Annotated,
    Any,
    Literal,
    NotRequired,
    Union,
    get_args,
    get_origin,
    get_type_hints,
    is_typeddict,
)

from jubark_core.errors import InputError
from jubark_core.records.shapes import Schema

REF = "#/components/schemas/"
_PLAIN: dict[Any, Schema] = {
    str: {"type": "string"},
    int: {"type": "integer"},
    float: {"type": "number"},
    bool: {"type": "boolean"},
    type(None): {"type": "null"},
    Any: {},
    object: {},
}
_WORDS = {
    str: "a text",
    int: "a whole number",
    float: "a number",
    bool: "true or false",
    type(None): "null",
    list: "a list",
    dict: "an object",
}
LONGEST_TEXT, MOST_MEMBERS = 100_000, 5_000


@dataclass(frozen=True)
class Recorded:
    """Metadata of a hint: the component of the records that describes it, which its own reader checks."""

    component: str


@dataclass(frozen=True)
class Between:
    """Metadata of a hint: the numbers that are allowed."""

    low: float
    high: float


def typed_components(*roots: Any) -> dict[str, Schema]:
    """Component name -> schema, for the TypedDicts given (or lists of them) and for all they hold."""
    found: dict[str, Schema] = {}
    for root in roots:
        hint_schema(root, found)
    return found


def hint_schema(hint: Any, found: dict[str, Schema] | None = None) -> Schema:
    """The schema of a hint; components it needs are added to `found`."""
    found = {} if found is None else found
    if (isinstance(hint, type) and hint in _PLAIN) or hint is Any:
        return dict(_PLAIN[hint])
    origin, inner = get_origin(hint), get_args(hint)
    if origin is NotRequired:
        return hint_schema(inner[0], found)
    if origin is Annotated:
        return _annotated(inner[0], inner[1:], found)
    if origin is Literal:
        return {"type": "string", "enum": list(inner)}
    if origin is list:
        return {"type": "array", "items": hint_schema(inner[0], found)}
    if origin is dict:
        return {"type": "object", "additionalProperties": hint_schema(inner[1], found)}
    if origin in (Union, types.UnionType):
        return {"oneOf": [hint_schema(one, found) for one in inner]}
    if is_typeddict(hint):
        _add(hint, found)
        return {"$ref": REF + hint.__name__}
    raise TypeError(f"{hint} cannot be said in JSON Schema")


def _annotated(hint: Any, said: tuple[Any, ...], found: dict[str, Schema]) -> Schema:
    schema = hint_schema(hint, found)
    for more in said:
        if isinstance(more, Recorded):
            return {"$ref": REF + more.component}
        if isinstance(more, Between):
            schema |= {"minimum": more.low, "maximum": more.high}
        else:
            schema["description"] = more
    return schema


def _add(of: Any, found: dict[str, Schema]) -> None:
    if of.__name__ in found:
        return
    found[of.__name__] = {}  # so that one that holds itself ends
    hints = get_type_hints(of, include_extras=True)
    schema: Schema = {
        "type": "object",
        "description": " ".join((of.__doc__ or "").split()),
        "properties": {name: hint_schema(hint, found) for name, hint in hints.items()},
        "additionalProperties": False,
    }
    if needed := _needed(hints):
        schema["required"] = needed
    found[of.__name__] = schema


def _needed(hints: dict[str, Any]) -> list[str]:
    # not by __required_keys__, which cannot see NotRequired in postponed annotations
    return [name for name, hint in hints.items() if get_origin(hint) is not NotRequired]


def require_shape(hint: Any, raw: Any, at: str = "") -> None:
    """Checks what came in against a hint. Raises InputError naming the place, the value and what is allowed.

    What a hint marks as Recorded is left to the reader of the records.
    """
    place = at or "body"
    origin, inner = get_origin(hint), get_args(hint)
    if origin is Annotated:
        if any(isinstance(more, Recorded) for more in inner[1:]):
            return
        require_shape(inner[0], raw, at)
        for more in inner[1:]:
            if isinstance(more, Between) and raw is not None and not more.low <= raw <= more.high:
                raise InputError(place, raw, f"from {more.low:g} to {more.high:g}")
    elif origin is NotRequired:
        require_shape(inner[0], raw, at)
    elif origin is Literal:
        if not isinstance(raw, str) or raw not in inner:
            raise InputError(place, raw, "one of " + ", ".join(inner))
    elif origin in (Union, types.UnionType):
        _require_any(inner, raw, at)
    elif origin in (list, dict):
        _require_members(origin, inner, raw, at)
    elif is_typeddict(hint):
        _require_object(hint, raw, at)
    elif hint not in (Any, object) and not _is_plain(hint, raw):
        raise InputError(place, raw, _WORDS[hint])


def _is_plain(hint: Any, raw: Any) -> bool:
    if hint is float:
        return isinstance(raw, int | float) and not isinstance(raw, bool) and _finite(raw)
    if hint is int:
        return isinstance(raw, int) and not isinstance(raw, bool)
    if hint is str:
        return isinstance(raw, str) and len(raw) <= LONGEST_TEXT
    return isinstance(raw, hint)


def _finite(number: float) -> bool:
    try:
        return math.isfinite(number)
    except OverflowError:
        return False


def _require_any(hints: tuple[Any, ...], raw: Any, at: str) -> None:
    wanted = [hint for hint in hints if (hint is type(None)) == (raw is None)]
    refusals = []
    for hint in wanted or hints:
        try:
            return require_shape(hint, raw, at)
        except InputError as error:
            refusals.append(error)
    if len(refusals) == 1:
        raise refusals[0]
    raise InputError(at or "body", raw, " or ".join(dict.fromkeys(e.allowed for e in refusals)))


def _require_members(origin: Any, inner: tuple[Any, ...], raw: Any, at: str) -> None:
    if not isinstance(raw, origin):
        raise InputError(at or "body", raw, _WORDS[origin])
    if len(raw) > MOST_MEMBERS:
        raise InputError(at or "body", len(raw), f"at most {MOST_MEMBERS} members")
    if origin is list:
        for i, one in enumerate(raw):
            require_shape(inner[0], one, f"{at or 'body'}[{i}]")
    else:
        for key, one in raw.items():
            require_shape(inner[1], one, f"{at}.{key}".lstrip("."))


def _require_object(hint: Any, raw: Any, at: str) -> None:
    if not isinstance(raw, dict):
        raise InputError(at or "body", raw, "an object")
    hints = get_type_hints(hint, include_extras=True)
    for name in raw:
        if name not in hints:
            named = f"{at}.{name or 'an empty key'}".lstrip(".")
            raise InputError(named, "an unknown key", "one of " + ", ".join(hints))
    for name in _needed(hints):
        if name not in raw:
            raise InputError(f"{at}.{name}".lstrip("."), "nothing", "it is required")
    for name, one in raw.items():
        require_shape(hints[name], one, f"{at}.{name}".lstrip("."))
