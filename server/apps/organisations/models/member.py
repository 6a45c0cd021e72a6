"""An organisation, its members, and what they are qualified for."""

from __future__ import annotations

import datetime
import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from apps.organisations.triggers import same_organisation, settled


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
    """A person in an organisation, with a role. Who leaves stays as 'former member n': what they recorded is
    theirs still, under that name.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="members")
    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="member")
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.VIEWER)
    shown_name = models.CharField(max_length=80)
    joined_at = models.DateTimeField(default=timezone.now)
    access_until = models.DateField(null=True, help_text="the last day of access (UTC); none: no end")
    left_at = models.DateTimeField(null=True)
    former_number = models.PositiveIntegerField(null=True, help_text="n of 'former member n'")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["organisation", "former_number"], name="former_number_once"),
            models.CheckConstraint(
                condition=models.Q(left_at__isnull=True, former_number__isnull=True)
                | models.Q(left_at__isnull=False, former_number__isnull=False),
                name="former_members_are_numbered",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.shown_name}, {self.role}"

    def reaches(self, role: str) -> bool:
        """Whether the member's role is this one or further."""
        return REACH[Role(self.role)] >= REACH[Role(role)]

    @property
    def has_access(self) -> bool:
        """Whether the member may still come in today."""
        today = timezone.now().astimezone(datetime.UTC).date()
        return self.left_at is None and (self.access_until is None or today <= self.access_until)


class Competence(models.Model):
    """A licence or qualification of a member, with its dates: asked for by inspections and by work."""

    class Kind(models.TextChoices):
        """What sort of paper it is."""

        LICENCE = "licence", "licence"
        QUALIFICATION = "qualification", "qualification"
        TRAINING = "training", "training"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    member = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="competences")
    kind = models.CharField(max_length=14, choices=Kind.choices, default=Kind.QUALIFICATION)
    skill = models.CharField(max_length=24, blank=True, help_text="what of work it shows")
    name = models.CharField(max_length=120)
    issuer = models.CharField(max_length=120, blank=True)
    number = models.CharField(max_length=60, blank=True)
    valid_from = models.DateField(null=True)
    valid_until = models.DateField(null=True, help_text="the last day it is valid; none: it does not expire")
    recorded_at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True, help_text="entered wrong; reports of before still name it")

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(valid_from__isnull=True)
                | models.Q(valid_until__isnull=True)
                | models.Q(valid_from__lte=models.F("valid_until")),
                name="competence_from_before_until",
            )
        ]
        triggers = [
            same_organisation("member_id", "organisations_member", "competence_same_organisation"),
            # who leaves takes the number of the paper along
            *settled(
                "competence_settled",
                "removed_at",
                "number",
                until="(NEW.number = OLD.number OR NEW.number = '') "
                "AND (OLD.removed_at IS NULL OR NEW.removed_at = OLD.removed_at)",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.name}"

    def valid_on(self, day: datetime.date) -> bool:
        """Whether it was valid on a day, its first and last included."""
        return (self.valid_from is None or self.valid_from <= day) and (
            self.valid_until is None or day <= self.valid_until
        )
