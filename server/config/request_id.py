"""Every request has an id: in the answer's headers, in every line logged on the way, and in the audit."""

from __future__ import annotations

import logging
import re
import time
import uuid
from collections.abc import Callable
from contextvars import ContextVar

from django.conf import settings
from django.core.signals import request_finished
from django.http import HttpRequest, HttpResponse

HEADER = "X-Request-ID"
_SOUND = re.compile(r"[A-Za-z0-9._-]{8,36}")
_current: ContextVar[str] = ContextVar("request_id", default="")
logger = logging.getLogger("jubark.requests")


def request_id() -> str:
    """The id of the request that is being answered; empty outside one."""
    return _current.get()


def _forget(**_: object) -> None:
    _current.set("")


# Not when the middleware ends: Django logs what was refused after that, before the answer is closed.
request_finished.connect(_forget, dispatch_uid="request id")


class RequestIdMiddleware:
    """Takes the id a proxy of one's own gave, else makes one; logs each request when it has been answered."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """The answer, with the id in its headers."""
        given = request.headers.get(HEADER, "") if settings.TRUSTED_PROXIES else ""
        own = given if _SOUND.fullmatch(given) else str(uuid.uuid4())
        _current.set(own)
        started = time.monotonic()
        response = self.get_response(request)
        response[HEADER] = own
        self.log(request, response, time.monotonic() - started)
        return response

    @staticmethod
    def log(request: HttpRequest, response: HttpResponse, seconds: float) -> None:
        """One line: the route, not the address, which may hold what somebody searched for."""
        if not request.path.startswith("/api/"):
            return
        match = request.resolver_match
        told = {
            "method": request.method,
            "route": match.route if match else "",
            "status": response.status_code,
            "ms": round(seconds * 1000),
            "member": getattr(request, "member_id", ""),  # as the permission found it: nothing is asked here
        }
        logger.info("request", extra=told)


class RequestIdFilter(logging.Filter):
    """Puts the id of the request into every record that is logged while it is answered."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Always true: nothing is left out."""
        record.request_id = request_id()
        return True
