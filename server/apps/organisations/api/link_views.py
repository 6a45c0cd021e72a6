"""Doors for who holds a link and is not signed in."""

from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from apps.organisations.api import serializers as s
from apps.organisations.api.views import shown_member
from apps.organisations.client_address import client_address
from apps.organisations.services.access_links import accept_invitation, link_behind, set_password_by_link
from apps.organisations.services.open_session import open_session


class LinkThrottle(SimpleRateThrottle):
    """How often one address may try links."""

    scope = "link"

    def get_cache_key(self, request: Request, view: APIView) -> str:
        return f"link-{client_address(request._request)}"


@method_decorator(csrf_protect, name="dispatch")
class OpenDoor(APIView):
    """A door without a session; the token is posted, so that no log and no history holds it."""

    permission_classes = (AllowAny,)
    throttle_classes = (LinkThrottle,)


class LookView(OpenDoor):
    """What a link is for."""

    @extend_schema(operation_id="link_look", request=s.TokenSerializer, responses=s.LinkShownSerializer)
    def post(self, request: Request) -> Response:
        given = s.TokenSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return Response(s.LinkShownSerializer(link_behind(given.validated_data["token"])).data)


class JoinView(OpenDoor):
    """Joining by an invitation."""

    @extend_schema(operation_id="link_join", request=s.JoinSerializer, responses=s.MemberSerializer)
    def post(self, request: Request) -> Response:
        """Makes the account and signs in."""
        given = s.JoinSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        member = accept_invitation(**given.validated_data)
        open_session(request._request, member)
        return shown_member(member)


class NewPasswordView(OpenDoor):
    """A new password by a link."""

    @extend_schema(
        operation_id="link_password", request=s.NewPasswordSerializer, responses=s.MemberSerializer
    )
    def post(self, request: Request) -> Response:
        """Sets it, signs out every device, and signs in here."""
        given = s.NewPasswordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        member = set_password_by_link(**given.validated_data)
        open_session(request._request, member)
        return shown_member(member)
