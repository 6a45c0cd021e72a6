"""Records in the API description: taken verbatim from the core, so that there is one description."""

from typing import Any

from jubark_core.records.json_schema import components
from jubark_core.records.typed_schema import REF


def component(name: str) -> Any:
    """A JSON body that is one of the core's components."""
    return {"application/json": {"$ref": REF + name}}


def add_records(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """The core's components beside those of the serializers; no name may be used by both."""
    own = result["components"]["schemas"]
    if twice := own.keys() & components().keys():
        raise ValueError(f"components described twice: {sorted(twice)}")
    result["components"]["schemas"] = dict(sorted({**own, **components()}.items()))
    return result
