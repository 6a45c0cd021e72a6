"""Signing in and out."""

from django.contrib.auth import authenticate, login, logout
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.api.serializers import MemberSerializer, SignInSerializer
from apps.organisations.client_address import client_address
from apps.organisations.models import Member
from apps.organisations.services.require_patience import require_patience


@method_decorator(csrf_protect, name="dispatch")
class SessionView(APIView):
    """The session: who am I, sign in, sign out."""

    permission_classes = (AllowAny,)

    @extend_schema(operation_id="session_read", responses=MemberSerializer)
    def get(self, request: Request) -> Response:
        """The signed-in member; 401 without one."""
        member = (
            Member.objects.filter(user_id=request.user.pk).select_related("user", "organisation").first()
            if request.user.is_authenticated
            else None
        )
        if member is None:
            raise exceptions.NotAuthenticated("Nobody is signed in.")
        return Response(self._shown(member))

    @extend_schema(operation_id="session_open", request=SignInSerializer, responses=MemberSerializer)
    def post(self, request: Request) -> Response:
        """Sign in. Eight wrong tries with a name lock that name for the address they came from, for a quarter
        of an hour; forty across all names lock the address.
        """
        given = SignInSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        require_patience(client_address(request._request))
        user = authenticate(request._request, **given.validated_data)
        member = (
            Member.objects.filter(user=user).select_related("user", "organisation").first() if user else None
        )
        if user is None or member is None:
            raise exceptions.AuthenticationFailed("Wrong name or password.")
        login(request._request, user)
        return Response(self._shown(member))

    @extend_schema(operation_id="session_close", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out. What waits in the device's outbox stays there."""
        logout(request._request)
        return Response(status=status.HTTP_204_NO_CONTENT)

    @staticmethod
    def _shown(member: Member) -> dict[str, object]:
        return dict(MemberSerializer(member).data)
