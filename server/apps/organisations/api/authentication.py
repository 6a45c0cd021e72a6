"""Session sign-in with CSRF; a request without one gets 401, so that the device asks to sign in and keeps its
outbox.
"""

from typing import Any

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class MemberSession(SessionAuthentication):
    """As REST framework's session authentication, but says `Session` in WWW-Authenticate so that 401 is sent,
    not 403.
    """

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class MemberSessionScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """The session cookie, for the API description."""

    target_class = MemberSession
    name = "session"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
