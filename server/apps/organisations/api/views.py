"""Signing in and out, and what members do with their own account."""

from uuid import UUID

from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions, status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.api import serializers as s
from apps.organisations.models import Member
from apps.organisations.permissions import actor_of
from apps.organisations.selectors import sign_ins_of
from apps.organisations.services.change_member import change_own_name
from apps.organisations.services.change_password import change_password
from apps.organisations.services.end_membership import leave_organisation
from apps.organisations.services.end_sign_ins import end_other_sign_ins, end_sign_in
from apps.organisations.services.open_session import close_session, open_session, sign_in


def shown_member(member: Member) -> Response:
    """Who is signed in."""
    return Response(s.MemberSerializer(member).data)


@method_decorator(csrf_protect, name="dispatch")
class SessionView(APIView):
    """The session: who am I, sign in, sign out."""

    permission_classes = (AllowAny,)

    @extend_schema(operation_id="session_read", responses=s.MemberSerializer)
    def get(self, request: Request) -> Response:
        """The signed-in member; 401 without one."""
        member = (
            Member.objects.filter(user_id=request.user.pk).select_related("user", "organisation").first()
            if request.user.is_authenticated
            else None
        )
        if member is None or not member.has_access:
            raise exceptions.NotAuthenticated("Nobody is signed in.")
        return shown_member(member)

    @extend_schema(operation_id="session_open", request=s.SignInSerializer, responses=s.MemberSerializer)
    def post(self, request: Request) -> Response:
        """Sign in. Eight wrong tries with a name lock that name for the address they came from, for a quarter
        of an hour; forty across all names lock the address.
        """
        given = s.SignInSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        member = sign_in(request._request, **given.validated_data)
        if member is None:
            raise exceptions.AuthenticationFailed("Wrong name or password.")
        return shown_member(member)

    @extend_schema(operation_id="session_close", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out. What waits in the device's outbox stays there."""
        close_session(request._request)
        return Response(status=status.HTTP_204_NO_CONTENT)


class AccountView(APIView):
    """One's own account."""

    @extend_schema(operation_id="account_rename", request=s.OwnNameSerializer, responses=s.MemberSerializer)
    def patch(self, request: Request) -> Response:
        """The name others see, also on what was recorded before."""
        given = s.OwnNameSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return shown_member(change_own_name(actor=actor_of(request), **given.validated_data))


class AccountPasswordView(APIView):
    """One's own password."""

    @extend_schema(
        operation_id="account_password", request=s.ChangePasswordSerializer, responses=s.MemberSerializer
    )
    def post(self, request: Request) -> Response:
        """A new password; every other device is signed out."""
        given = s.ChangePasswordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        actor = actor_of(request)
        change_password(
            actor=actor, session_key=request._request.session.session_key or "", **given.validated_data
        )
        open_session(request._request, actor)  # the old session belongs to the old password
        return shown_member(actor)


class LeaveView(APIView):
    """Leaving the organisation."""

    @extend_schema(operation_id="account_leave", request=s.PasswordSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """Ends the membership; what the member recorded stays as that of 'former member n'."""
        given = s.PasswordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        leave_organisation(actor=actor_of(request), **given.validated_data)
        return Response(status=status.HTTP_204_NO_CONTENT)


class SignInsView(APIView):
    """The devices on which the member is signed in."""

    @extend_schema(operation_id="sign_ins_list", responses=s.SignInShownSerializer(many=True))
    def get(self, request: Request) -> Response:
        context = {"session_key": request._request.session.session_key}
        rows = sign_ins_of(actor_of(request))
        return Response(s.SignInShownSerializer(rows, many=True, context=context).data)

    @extend_schema(operation_id="sign_ins_end_others", request=None, responses={200: s.EndedSerializer})
    def delete(self, request: Request) -> Response:
        """Sign out everywhere but here."""
        key = request._request.session.session_key or ""
        return Response({"ended": end_other_sign_ins(actor=actor_of(request), session_key=key)})


class SignInView(APIView):
    """One device."""

    @extend_schema(operation_id="sign_in_end", request=None, responses={204: None})
    def delete(self, request: Request, sign_in_id: UUID) -> Response:
        """Sign out there; what is saved on that device stays on it."""
        end_sign_in(actor=actor_of(request), sign_in=sign_in_id)
        return Response(status=status.HTTP_204_NO_CONTENT)
