"""Who did what. Names of people stand in none of it: they are looked up by id, so that they can be erased."""

from __future__ import annotations

from django.db import models

from apps.organisations.models.member import Member, Organisation
from apps.organisations.triggers import append_only, same_organisation


class AuditEvent(models.Model):
    """One act: added by the service that did it, never changed."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    at = models.DateTimeField(auto_now_add=True)
    actor = models.ForeignKey(
        Member, on_delete=models.PROTECT, null=True, related_name="+", help_text="none: the machine's own"
    )
    act = models.CharField(max_length=40)
    subject = models.ForeignKey(
        Member, on_delete=models.PROTECT, null=True, related_name="+", help_text="the member it is about"
    )
    thing = models.UUIDField(null=True, help_text="site, block, contact, link or file it is about")
    detail = models.JSONField(default=dict)
    request_id = models.CharField(max_length=36, blank=True)

    class Meta:
        indexes = [models.Index(fields=["organisation", "-id"])]
        triggers = [
            *append_only("audit_append_only"),
            same_organisation("actor_id", "organisations_member", "audit_actor_same_organisation"),
            same_organisation("subject_id", "organisations_member", "audit_subject_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.at} {self.act}"
