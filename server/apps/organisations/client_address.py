"""The address a request comes from, behind as many proxies as the settings say and no more."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The address the outermost trusted proxy saw; without proxies, or without their header, the peer of the
    connection.

    With n trusted proxies it is the n-th address from the right of X-Forwarded-For: what stands further left
    was written by the client.
    """
    peer = str(request.META.get("REMOTE_ADDR", ""))
    trusted = settings.TRUSTED_PROXIES
    seen = [
        part.strip() for part in str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",") if part.strip()
    ]
    return seen[-trusted] if trusted and len(seen) >= trusted else peer
