"""Records in the API description: taken verbatim from the core, so that there is one description."""

from typing import Any

from jubark_core.door import door_components
from jubark_core.records.typed_schema import REF


def component(name: str) -> Any:
    """A JSON body that is one of the core's components."""
    return {"application/json": {"$ref": REF + name}}


def add_records(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """The core's components beside those of the serializers; no name may be used by both."""
    own, core = result["components"]["schemas"], door_components()
    if twice := own.keys() & core.keys():
        raise ValueError(f"components described twice: {sorted(twice)}")
    result["components"]["schemas"] = dict(sorted({**own, **core}.items()))
    return result


REFUSAL: dict[str, Any] = {
    "type": "object",
    "description": "Why nothing was done. For bad input: where, which value, and what is allowed.",
    "properties": {
        "code": {"type": "string"},
        "message": {"type": "string"},
        "field": {"type": "string"},
        "value": {"description": "As a reader would recognise it."},
        "allowed": {"description": "What may stand there."},
        "fields": {"description": "Every field that is refused, as the framework has it."},
        "role": {"description": "The role of who asked."},
        "needs": {"description": "The role it needs."},
    },
    "required": ["code", "message"],
    "additionalProperties": False,
}
SIGN_IN, FORBIDDEN, BAD_INPUT, NOT_FOUND = "401", "403", "400", "404"
TOO_LARGE, OTHER_TYPE, TOO_MANY, AWAY = "413", "415", "429", "503"
BEFORE, GONE = "409", "410"
WORDS = {
    BAD_INPUT: "Something in it cannot be used; the answer names it.",
    SIGN_IN: "Nobody is signed in.",
    FORBIDDEN: "The role does not reach, or the page's token does not belong to the session.",
    NOT_FOUND: "Unknown, or of another organisation: the two look the same.",
    "405": "Not at this address.",
    "406": "Not as this kind of answer.",
    BEFORE: "It was decided, taken or erased before, or an owner would be missing.",
    GONE: "A link that was used, withdrawn or has expired.",
    TOO_LARGE: "More than one request may carry.",
    OTHER_TYPE: "Not as this kind of content.",
    TOO_MANY: "Too many wrong sign-ins, or more asked of the core than hands can.",
    AWAY: "The database does not answer just now.",
}


def add_refusals(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Every status an operation gives stands in the description, each with the one shape of a refusal."""
    result["components"]["schemas"]["Refusal"] = REFUSAL
    for path, operations in result["paths"].items():
        for method, operation in operations.items():
            statuses = [BAD_INPUT, SIGN_IN, FORBIDDEN, "406", AWAY]
            named = [p for p in operation.get("parameters", []) if p["in"] == "path" or p["name"] == "block"]
            if named or "block" in path or "site" in str(operation.get("requestBody", "")):
                statuses.append(NOT_FOUND)
            if method in ("post", "put", "patch"):
                statuses += [TOO_LARGE, OTHER_TYPE, NOT_FOUND, BEFORE]
            if path.startswith(("/api/session/", "/api/core/", "/api/first-run/", "/api/links/")):
                statuses.append(TOO_MANY)
            if path.startswith("/api/links/"):
                statuses.append(GONE)
            if method == "delete":
                statuses.append(BEFORE)
            for status in sorted(set(statuses)):
                operation["responses"].setdefault(
                    status,
                    {
                        "description": WORDS[status],
                        "content": {"application/json": {"schema": {"$ref": REF + "Refusal"}}},
                    },
                )
    return result
