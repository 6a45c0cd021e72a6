"""People, ways in and the audit, as the front end sees them."""

from __future__ import annotations

import os
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.organisations.audit import ACTS
from apps.organisations.models import AccessLink, AuditEvent, Competence, Contact, Member, SignIn


class SignInSerializer(serializers.Serializer[dict[str, str]]):
    """Name and password."""

    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class MemberSerializer(serializers.ModelSerializer[Member]):
    """Who is signed in."""

    username = serializers.CharField(source="user.username")
    organisation_name = serializers.CharField(source="organisation.name")
    organisation = serializers.UUIDField(source="organisation_id")
    today = serializers.SerializerMethodField(help_text="fixed date of a demonstration, else empty")

    class Meta:
        model = Member
        fields = (
            "id",
            "username",
            "shown_name",
            "role",
            "organisation",
            "organisation_name",
            "access_until",
            "today",
        )
        read_only_fields = fields

    def get_today(self, member: Member) -> str:
        return os.environ.get("JUBARK_TODAY", "")


class CompetenceSerializer(serializers.ModelSerializer[Competence]):
    """A licence or qualification."""

    class Meta:
        model = Competence
        fields = ("id", "kind", "skill", "name", "issuer", "number", "valid_from", "valid_until")
        read_only_fields = fields


class PersonSerializer(serializers.ModelSerializer[Member]):
    """A member as stewards and owners see them."""

    username = serializers.SerializerMethodField(help_text="to sign in with; empty for a former member")
    competences = CompetenceSerializer(many=True)
    devices = serializers.IntegerField(help_text="on how many devices they are signed in")
    has_access = serializers.BooleanField()

    class Meta:
        model = Member
        fields = (
            "id",
            "username",
            "shown_name",
            "role",
            "joined_at",
            "access_until",
            "left_at",
            "has_access",
            "devices",
            "competences",
        )
        read_only_fields = fields

    def get_username(self, member: Member) -> str:
        return "" if member.left_at else member.user.username


class InviteSerializer(serializers.Serializer[dict[str, Any]]):
    """Whom an invitation is for."""

    role = serializers.CharField(max_length=10)
    shown_name = serializers.CharField(max_length=80, required=False, allow_blank=True, default="")
    access_until = serializers.CharField(
        max_length=10, required=False, allow_null=True, allow_blank=True, help_text="YYYY-MM-DD"
    )


class LinkSerializer(serializers.ModelSerializer[AccessLink]):
    """A link that can still be used; its token is not stored."""

    role = serializers.CharField(help_text="of an invitation")
    issued_by = serializers.CharField(source="issued_by.shown_name", default="")
    member = serializers.CharField(source="member.shown_name", default="")

    class Meta:
        model = AccessLink
        fields = (
            "id",
            "purpose",
            "role",
            "shown_name",
            "access_until",
            "member",
            "issued_by",
            "issued_at",
            "expires_at",
        )
        read_only_fields = fields


class MadeLinkSerializer(serializers.Serializer[dict[str, Any]]):
    """A link just made: its token is told this once."""

    link = LinkSerializer()
    token = serializers.CharField()


class TokenSerializer(serializers.Serializer[dict[str, str]]):
    """The token of a link."""

    token = serializers.CharField(max_length=100)


class JoinSerializer(TokenSerializer):
    """What joining takes."""

    username = serializers.CharField(max_length=150)
    shown_name = serializers.CharField(max_length=80)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class NewPasswordSerializer(TokenSerializer):
    """What a new password by a link takes."""

    password = serializers.CharField(max_length=200, trim_whitespace=False)


class LinkShownSerializer(serializers.ModelSerializer[AccessLink]):
    """What a link is for, shown to who holds it before it is used."""

    organisation_name = serializers.CharField(source="organisation.name")
    role = serializers.CharField(help_text="of an invitation")
    member = serializers.CharField(source="member.shown_name", default="")

    class Meta:
        model = AccessLink
        fields = (
            "purpose",
            "organisation_name",
            "role",
            "shown_name",
            "member",
            "access_until",
            "expires_at",
        )
        read_only_fields = fields


class ChangeMemberSerializer(serializers.Serializer[dict[str, Any]]):
    """What may be changed of a member."""

    role = serializers.CharField(max_length=10, required=False)
    access_until = serializers.CharField(
        max_length=10, required=False, allow_null=True, allow_blank=True, help_text="YYYY-MM-DD, or nothing"
    )


class OwnNameSerializer(serializers.Serializer[dict[str, str]]):
    """The name others see."""

    shown_name = serializers.CharField(max_length=80)


class ChangePasswordSerializer(serializers.Serializer[dict[str, str]]):
    """The old password and the new one."""

    old = serializers.CharField(max_length=200, trim_whitespace=False)
    new = serializers.CharField(max_length=200, trim_whitespace=False)


class PasswordSerializer(serializers.Serializer[dict[str, str]]):
    """One's own password, asked for once more."""

    password = serializers.CharField(max_length=200, trim_whitespace=False)


class SignInShownSerializer(serializers.ModelSerializer[SignIn]):
    """A device on which the member is signed in."""

    this_one = serializers.SerializerMethodField()

    class Meta:
        model = SignIn
        fields = ("id", "device", "signed_in_at", "last_seen_at", "this_one")
        read_only_fields = fields

    def get_this_one(self, row: SignIn) -> bool:
        return bool(row.session_key == self.context["session_key"])


class EndedSerializer(serializers.Serializer[dict[str, int]]):
    """How many were ended."""

    ended = serializers.IntegerField()


class ContactSerializer(serializers.ModelSerializer[Contact]):
    """A person outside the organisation."""

    class Meta:
        model = Contact
        fields = ("id", "name", "role", "email", "phone", "address", "note", "papers", "made_at", "erased_at")
        read_only_fields = fields


class AuditSerializer(serializers.ModelSerializer[AuditEvent]):
    """One act."""

    actor = serializers.SerializerMethodField(help_text="empty: the machine, or somebody not signed in")
    subject = serializers.SerializerMethodField()
    words = serializers.SerializerMethodField()
    detail = serializers.SerializerMethodField()

    class Meta:
        model = AuditEvent
        fields = ("id", "at", "actor", "act", "words", "subject", "thing", "detail", "request_id")
        read_only_fields = fields

    def get_actor(self, row: AuditEvent) -> str:
        return row.actor.shown_name if row.actor else ""

    def get_subject(self, row: AuditEvent) -> str:
        return row.subject.shown_name if row.subject else ""

    def get_words(self, row: AuditEvent) -> str:
        return ACTS.get(row.act, row.act)

    @extend_schema_field(serializers.DictField())
    def get_detail(self, row: AuditEvent) -> dict[str, Any]:
        return dict(row.detail)


class AuditPageSerializer(serializers.Serializer[dict[str, Any]]):
    """A page of the audit, newest first; `before` of the next page, or none."""

    rows = AuditSerializer(many=True)
    before = serializers.IntegerField(allow_null=True)
