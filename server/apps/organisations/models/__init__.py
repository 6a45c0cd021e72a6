"""Organisations and their members. Every row of the application belongs to an organisation."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class Role(models.TextChoices):
    """What a member may do; each reaches further than the one before."""

    VIEWER = "viewer", "viewer"
    SURVEYOR = "surveyor", "surveyor"
    STEWARD = "steward", "steward"
    OWNER = "owner", "owner"


REACH = {Role.VIEWER: 0, Role.SURVEYOR: 1, Role.STEWARD: 2, Role.OWNER: 3}


class Organisation(models.Model):
    """The tenant: people who keep one set of records."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)

    def __str__(self) -> str:
        return self.name


class Member(models.Model):
    """A person in an organisation, with a role."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="members")
    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="member")
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.VIEWER)
    shown_name = models.CharField(max_length=80)

    def __str__(self) -> str:
        return f"{self.shown_name}, {self.role}"

    def reaches(self, role: str) -> bool:
        """Whether the member's role is this one or further."""
        return REACH[Role(self.role)] >= REACH[Role(role)]
