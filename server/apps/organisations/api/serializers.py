"""What signing in takes and gives."""

import os

from rest_framework import serializers

from apps.organisations.models import Member


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
        fields = ("id", "username", "shown_name", "role", "organisation", "organisation_name", "today")
        read_only_fields = fields

    def get_today(self, member: Member) -> str:
        return os.environ.get("JUBARK_TODAY", "")
