"""JSON as it comes in: nested beyond reason, or holding what no database can hold, it is refused here, once
for every door.
"""

from __future__ import annotations

from typing import IO, Any

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

from jubark_core.checks import MOST_NESTED, require_storable


class AnyJsonParser(JSONParser):
    """JSON of any content; only what cannot be parsed at all is refused."""

    def parse(self, stream: IO[Any], media_type: str | None = None, parser_context: Any = None) -> Any:
        """The parsed body. Raises ParseError."""
        try:
            return super().parse(stream, media_type, parser_context)
        except RecursionError:
            raise ParseError(
                f"body: nested too deep; lists and objects are nested at most {MOST_NESTED} deep"
            ) from None


class StorableJsonParser(AnyJsonParser):
    """JSON that can be stored and sent back: the parser of every door but the outbox, which judges item by
    item.
    """

    def parse(self, stream: IO[Any], media_type: str | None = None, parser_context: Any = None) -> Any:
        """The parsed body. Raises ParseError, InputError naming the place."""
        body = super().parse(stream, media_type, parser_context)
        require_storable("body", body)
        return body
