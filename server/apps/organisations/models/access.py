"""Ways in: links that are used once, and the sign-ins of each member."""

from __future__ import annotations

import uuid

from django.db import models

from apps.organisations.models.member import Member, Organisation, Role
from apps.organisations.triggers import same_organisation


class Purpose(models.TextChoices):
    """What a link is for."""

    INVITATION = "invitation", "invitation"
    PASSWORD = "password", "new password"


class AccessLink(models.Model):
    """An invitation, or leave to set a new password: used once, within its hours. Only the hash is stored, so
    that whoever reads the database cannot use one.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    purpose = models.CharField(max_length=10, choices=Purpose.choices)
    token_hash = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=10, choices=Role.choices, blank=True)
    shown_name = models.CharField(max_length=80, blank=True)
    access_until = models.DateField(null=True)
    member = models.ForeignKey(
        Member, on_delete=models.PROTECT, null=True, help_text="whose password; or who came by the invitation"
    )
    issued_by = models.ForeignKey(Member, on_delete=models.PROTECT, null=True, related_name="issued_links")
    issued_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        triggers = [
            same_organisation("member_id", "organisations_member", "link_member_same_organisation"),
            same_organisation("issued_by_id", "organisations_member", "link_issuer_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.purpose} {self.id}"


class SignIn(models.Model):
    """A member signed in on a device, until signed out, ended or expired."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    member = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    device = models.CharField(max_length=60, help_text="browser and system, as they name themselves")
    signed_in_at = models.DateTimeField(auto_now_add=True)
    last_seen_at = models.DateTimeField()

    class Meta:
        triggers = [same_organisation("member_id", "organisations_member", "sign_in_same_organisation")]

    def __str__(self) -> str:
        return f"{self.member_id} on {self.device}"
