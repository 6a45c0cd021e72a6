"""Session sign-in with CSRF; a request without one gets 401, so that the device asks to sign in and keeps its outbox."""

from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class CrewSession(SessionAuthentication):
    """As REST framework's session authentication, but says `Session` in WWW-Authenticate so that 401 is sent, not 403."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"
