"""Refuses over-long bodies before anything reads them."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

LIMITS = (("/api/outbox/", 1024 * 1024), ("/api/photos/", 15 * 1024 * 1024), ("/api/imports/", 64 * 1024 * 1024), ("/api/", 1024 * 1024))


class RequestSizeMiddleware:
    """413 with the limit in the message when Content-Length is over the path's limit."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        length = request.META.get("CONTENT_LENGTH") or "0"
        limit = next((size for path, size in LIMITS if request.path.startswith(path)), None)
        if limit is not None and length.isdigit() and int(length) > limit:
            return JsonResponse(
                {"code": "too_large", "message": f"The request has {int(length)} bytes; at most {limit} are taken here."}, status=413
            )
        return self.get_response(request)
