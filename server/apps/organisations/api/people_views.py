"""People of the organisation, their ways in and competences, and the people outside."""

from typing import Any
from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.api import serializers as s
from apps.organisations.models import Member
from apps.organisations.permissions import actor_of
from apps.organisations.selectors import (
    competences_visible_to,
    contacts_visible_to,
    links_visible_to,
    members_visible_to,
)
from apps.organisations.services.access_links import invite_member, make_password_link, revoke_link
from apps.organisations.services.change_member import change_member
from apps.organisations.services.competences import add_competence, remove_competence
from apps.organisations.services.contacts import change_contact, erase_contact, make_contact
from apps.organisations.services.end_membership import end_membership
from apps.organisations.services.end_sign_ins import end_sign_ins_of
from config.api_components import component

NOTHING = status.HTTP_204_NO_CONTENT


def _person(actor: Member, member_id: UUID) -> dict[str, Any]:
    return dict(s.PersonSerializer(members_visible_to(actor).get(pk=member_id)).data)


class PeopleView(APIView):
    """Everybody of the organisation."""

    @extend_schema(operation_id="people_list", responses=s.PersonSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(s.PersonSerializer(members_visible_to(actor_of(request)), many=True).data)


class PersonView(APIView):
    """One member."""

    @extend_schema(
        operation_id="person_change", request=s.ChangeMemberSerializer, responses=s.PersonSerializer
    )
    def patch(self, request: Request, member_id: UUID) -> Response:
        """Role and end of access."""
        actor = actor_of(request)
        given = s.ChangeMemberSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        member = members_visible_to(actor).get(pk=member_id)
        change_member(actor=actor, member=member, changes=dict(given.validated_data))
        return Response(_person(actor, member_id))

    @extend_schema(operation_id="person_end", request=None, responses={200: s.PersonSerializer})
    def delete(self, request: Request, member_id: UUID) -> Response:
        """Ends the membership; what the member recorded stays as that of 'former member n'."""
        actor = actor_of(request)
        end_membership(actor=actor, member=members_visible_to(actor).get(pk=member_id))
        return Response(_person(actor, member_id))


class PersonSignInsView(APIView):
    """Where a member is signed in."""

    @extend_schema(operation_id="person_sign_out", request=None, responses={200: s.EndedSerializer})
    def delete(self, request: Request, member_id: UUID) -> Response:
        """Signs the member out everywhere, as when a device is lost."""
        actor = actor_of(request)
        ended = end_sign_ins_of(actor=actor, member=members_visible_to(actor).get(pk=member_id))
        return Response({"ended": ended})


class PasswordLinkView(APIView):
    """A way back in for who has forgotten the password."""

    @extend_schema(operation_id="password_link_make", request=None, responses={201: s.MadeLinkSerializer})
    def post(self, request: Request, member_id: UUID) -> Response:
        actor = actor_of(request)
        link, token = make_password_link(actor=actor, member=members_visible_to(actor).get(pk=member_id))
        return Response(s.MadeLinkSerializer({"link": link, "token": token}).data, status=201)


class InvitationsView(APIView):
    """Links that let somebody in."""

    @extend_schema(operation_id="links_list", responses=s.LinkSerializer(many=True))
    def get(self, request: Request) -> Response:
        """Those that can still be used."""
        return Response(s.LinkSerializer(links_visible_to(actor_of(request)), many=True).data)

    @extend_schema(
        operation_id="member_invite", request=s.InviteSerializer, responses={201: s.MadeLinkSerializer}
    )
    def post(self, request: Request) -> Response:
        given = s.InviteSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        link, token = invite_member(actor=actor_of(request), **given.validated_data)
        return Response(s.MadeLinkSerializer({"link": link, "token": token}).data, status=201)


class InvitationView(APIView):
    """One link."""

    @extend_schema(operation_id="link_revoke", request=None, responses={204: None})
    def delete(self, request: Request, link_id: UUID) -> Response:
        """Withdraws it."""
        actor = actor_of(request)
        revoke_link(actor=actor, link=links_visible_to(actor).get(pk=link_id))
        return Response(status=NOTHING)


class CompetencesView(APIView):
    """Licences and qualifications of a member."""

    @extend_schema(
        operation_id="competence_add",
        request=component("CompetenceIn"),
        responses={201: s.CompetenceSerializer},
    )
    def post(self, request: Request, member_id: UUID) -> Response:
        actor = actor_of(request)
        member = members_visible_to(actor).get(pk=member_id)
        made = add_competence(actor=actor, member=member, given=request.data)
        return Response(s.CompetenceSerializer(made).data, status=201)


class CompetenceView(APIView):
    """One licence or qualification."""

    @extend_schema(operation_id="competence_remove", request=None, responses={204: None})
    def delete(self, request: Request, competence_id: UUID) -> Response:
        actor = actor_of(request)
        remove_competence(actor=actor, competence=competences_visible_to(actor).get(pk=competence_id))
        return Response(status=NOTHING)


class ContactsView(APIView):
    """People outside the organisation."""

    @extend_schema(operation_id="contacts_list", responses=s.ContactSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(s.ContactSerializer(contacts_visible_to(actor_of(request)), many=True).data)

    @extend_schema(
        operation_id="contact_make", request=component("ContactIn"), responses={201: s.ContactSerializer}
    )
    def post(self, request: Request) -> Response:
        made = make_contact(actor=actor_of(request), given=request.data)
        return Response(s.ContactSerializer(made).data, status=201)


class ContactView(APIView):
    """One contact."""

    @extend_schema(
        operation_id="contact_change", request=component("ContactChange"), responses=s.ContactSerializer
    )
    def patch(self, request: Request, contact_id: UUID) -> Response:
        actor = actor_of(request)
        contact = contacts_visible_to(actor).get(pk=contact_id)
        return Response(
            s.ContactSerializer(change_contact(actor=actor, contact=contact, given=request.data)).data
        )

    @extend_schema(operation_id="contact_erase", request=None, responses={200: s.ContactSerializer})
    def delete(self, request: Request, contact_id: UUID) -> Response:
        """Empties everything personal; records that name it stay, with the date."""
        actor = actor_of(request)
        contact = contacts_visible_to(actor).get(pk=contact_id)
        return Response(s.ContactSerializer(erase_contact(actor=actor, contact=contact)).data)
