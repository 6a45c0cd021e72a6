"""Session sign-in with CSRF; a request without one gets 401, so that the device asks to sign in and keeps its
outbox.
"""

from typing import Any

from django.core.cache import cache
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

from apps.organisations.services.open_session import SEEN_EVERY, seen


class MemberSession(SessionAuthentication):
    """As REST framework's session authentication, but says `Session` in WWW-Authenticate so that 401 is sent,
    not 403.
    """

    def authenticate(self, request: Request) -> tuple[Any, Any] | None:
        found: tuple[Any, Any] | None = super().authenticate(request)
        if found is not None:
            key = request._request.session.session_key
            # a process writes it down once in a while; none of it matters to the second
            if cache.add(f"seen-{key}", True, SEEN_EVERY.total_seconds()):
                seen(key)
        return found

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class MemberSessionScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """The session cookie, for the API description."""

    target_class = MemberSession
    name = "session"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
