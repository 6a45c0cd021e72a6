"""People outside the organisation."""

from __future__ import annotations

import uuid

from django.db import models

from apps.organisations.models.member import Organisation

PERSONAL = ("name", "role", "email", "phone", "address", "note")  # what erasing empties


class Contact(models.Model):
    """An observer who is no member, an owner, a caller: records name them by id alone, so that erasing the
    contact leaves every record where it is.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="contacts")
    name = models.CharField(max_length=80, blank=True)
    role = models.CharField(max_length=80, blank=True, help_text="owner, contractor, observer")
    email = models.CharField(max_length=254, blank=True)
    phone = models.CharField(max_length=40, blank=True)
    address = models.CharField(max_length=300, blank=True)
    note = models.CharField(max_length=500, blank=True)
    papers = models.JSONField(
        default=list, blank=True, help_text="Competences of the core, as it writes them"
    )
    made_at = models.DateTimeField(auto_now_add=True)
    erased_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(erased_at__isnull=True, name__gt="")
                | models.Q(erased_at__isnull=False, **dict.fromkeys(PERSONAL, "")),
                name="contact_named_or_erased",
            ),
        ]

    def __str__(self) -> str:
        return self.shown_name

    @property
    def shown_name(self) -> str:
        """The name, or that it was erased and when."""
        return self.name or (f"erased contact, {self.erased_at:%Y-%m-%d}" if self.erased_at else "")
