"""Answers to what fails outside the REST framework: the same JSON shape as inside, and the app's own page for
addresses.
"""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.template.exceptions import TemplateDoesNotExist

from config.shell import shell

NOT_FOUND = {"code": "not_found", "message": "Not found, or you have no access."}
TOO_MANY_TRIES = (
    "Too many wrong sign-ins. Wait a quarter of an hour, then try again, or ask an owner for a new password."
)
BROKEN = "The server failed on this request and has logged it. Nothing of it was stored."
AWAY = "The database does not answer just now. Nothing was stored; try again in a moment."


def refusal(status: int, code: str, message: str, **more: str) -> JsonResponse:
    """A refusal in the one shape all have."""
    return JsonResponse({"code": code, "message": message, **more}, status=status)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """400: a host, a cookie or a form that Django itself refuses."""
    said = "The request cannot be read; send it as the API description says."
    return refusal(
        400, "bad_input", said, field="request", value="what was sent", allowed="a request as described"
    )


def csrf_failed(request: HttpRequest, reason: str = "") -> HttpResponse:
    """403: the token that belongs to the session is missing or old."""
    return refusal(
        403, "sign_in", f"The page's token does not belong to this session; reload and sign in. ({reason})"
    )


def app_outdated(request: HttpRequest) -> HttpResponse:
    """410: an address of an earlier version. No redirect: it would turn a POST into a GET."""
    said = (
        "This app is older than the server. What you saved stays on this device; reload to get the new one."
    )
    return refusal(410, "app_outdated", said)


def locked_out(request: HttpRequest, *rest: Any) -> HttpResponse:
    """429: too many wrong sign-ins with this name from this address."""
    return refusal(429, "too_many_tries", TOO_MANY_TRIES)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404: JSON below /api/, else the app, which says that the address leads nowhere."""
    if request.path.startswith(("/api/", "/static/", "/assets/")):
        return JsonResponse(NOT_FOUND, status=404)
    try:
        return shell(request)
    except TemplateDoesNotExist:
        return JsonResponse(NOT_FOUND, status=404)


def broken(request: HttpRequest) -> HttpResponse:
    """500: logged by Django; the answer says no more than that."""
    return refusal(500, "server_error", BROKEN)
