"""JSON Schema 2020-12 of TypedDicts: what operations take and answer."""

from __future__ import annotations

import types
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


def typed_components(*roots: Any) -> dict[str, Schema]:
    """Component name -> schema, for the TypedDicts given and for all they hold."""
    found: dict[str, Schema] = {}
    for root in roots:
        _add(root, found)
    return found


def _add(of: Any, found: dict[str, Schema]) -> None:
    if of.__name__ in found:
        return
    found[of.__name__] = {}  # so that one that holds itself ends
    hints = get_type_hints(of, include_extras=True)
    schema: Schema = {
        "type": "object",
        "description": " ".join((of.__doc__ or "").split()),
        "properties": {name: _schema(hint, found) for name, hint in hints.items()},
        "additionalProperties": False,
    }
    # not by __required_keys__, which cannot see NotRequired in postponed annotations
    if needed := [name for name, hint in hints.items() if get_origin(hint) is not NotRequired]:
        schema["required"] = needed
    found[of.__name__] = schema


def _schema(hint: Any, found: dict[str, Schema]) -> Schema:
    if hint in _PLAIN:
        return dict(_PLAIN[hint])
    origin, inner = get_origin(hint), get_args(hint)
    if origin is NotRequired:
        return _schema(inner[0], found)
    if origin is Annotated:
        return {**_schema(inner[0], found), "description": inner[1]}
    if origin is Literal:
        return {"type": "string", "enum": list(inner)}
    if origin is list:
        return {"type": "array", "items": _schema(inner[0], found)}
    if origin is dict:
        return {"type": "object", "additionalProperties": _schema(inner[1], found)}
    if origin in (Union, types.UnionType):
        return {"oneOf": [_schema(one, found) for one in inner]}
    if is_typeddict(hint):
        _add(hint, found)
        return {"$ref": REF + hint.__name__}
    raise TypeError(f"{hint} cannot be said in JSON Schema")
