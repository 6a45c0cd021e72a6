"""Refuses what no door takes before anything reads it: over-long bodies, and addresses with a zero character
in them.
"""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import unquote

from django.http import HttpRequest, HttpResponse

from config.error_pages import refusal

LIMITS = (
    ("/api/outbox/", 1024 * 1024),
    ("/api/photos/", 15 * 1024 * 1024),
    ("/api/imports/", 32 * 1024 * 1024),
    ("/api/", 1024 * 1024),
)


class PlainRequestsMiddleware:
    """413 with the limit when Content-Length is over the path's limit; 400 for a zero character in the
    address.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """The answer of the door behind, or the refusal."""
        length = request.META.get("CONTENT_LENGTH") or "0"
        limit = next((size for path, size in LIMITS if request.path.startswith(path)), None)
        if limit is not None and length.isdigit() and int(length) > limit:
            return refusal(
                413, "too_large", f"The request has {int(length)} bytes; at most {limit} are taken here."
            )
        if "\x00" in request.path or "\x00" in unquote(request.META.get("QUERY_STRING", "")):
            said = "The address holds a zero character; leave it out."
            return refusal(
                400,
                "bad_input",
                said,
                field="address",
                value="a zero character",
                allowed="an address without it",
            )
        return self.get_response(request)
