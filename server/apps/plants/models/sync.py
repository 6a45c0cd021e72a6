"""What came in from devices, what changed since, and the photographs' files."""

from __future__ import annotations

from django.db import models

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import append_only, settled


class Received(models.Model):
    """One item of a device's outbox: its digest as sent tells a repeat from a reused id.

    A body is stored only for a reused id: what was accepted is in the records.
    """

    item = models.UUIDField()
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    author = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    kind = models.CharField(max_length=10)
    digest = models.CharField(max_length=64)
    body = models.JSONField(null=True)
    outcome = models.CharField(max_length=10, choices=[("accepted", "accepted"), ("id_reused", "id reused")])
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["item"], condition=models.Q(outcome="accepted"), name="accepted_once"
            ),
            models.UniqueConstraint(fields=["item", "organisation", "digest"], name="received_body_once"),
        ]
        triggers = append_only("received_append_only")

    def __str__(self) -> str:
        return f"{self.kind} {self.item}"


class Change(models.Model):
    """Numbered under a lock per organisation at the end of every writing transaction, so that no late commit
    is
    skipped.
    """

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    number = models.BigIntegerField()
    kind = models.CharField(max_length=10)
    what = models.UUIDField(help_text="plant or block that changed")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["organisation", "number"], name="change_number_once")]

    def __str__(self) -> str:
        return f"{self.number} {self.kind}"


class PhotoFile(models.Model):
    """The bytes of a photograph, stored under their hash. One that an earlier version took as it came has
    been made bare since: then what its visit announced and what is stored differ.
    """

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    sha256 = models.CharField(max_length=64, help_text="as it was announced")
    stored_sha256 = models.CharField(max_length=64, blank=True, help_text="of the file, where it is another")
    taken_bare = models.BooleanField(
        default=False, db_default=False, help_text="known to hold the picture alone, in what it has stored"
    )
    bytes = models.PositiveIntegerField()
    media_type = models.CharField(max_length=30)
    path = models.CharField(max_length=200)
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["organisation", "sha256"], name="photo_file_once")]
        triggers = settled(
            "photo_file_settled", "stored_sha256", "taken_bare", "bytes", "path", until="NOT OLD.taken_bare"
        )

    def __str__(self) -> str:
        return self.sha256[:12]
