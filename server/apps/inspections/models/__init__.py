"""What makes inspections fall due, and reports of them. Nothing here is overwritten, so that it can be said
of any day what was known on it.
"""

from __future__ import annotations

import uuid

from django.contrib.gis.db import models

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import append_only, same_organisation, settled
from apps.sites.models import Site
from config.choices import choices
from jubark_core.records import words


class Target(models.Model):
    """Something a tree may fall on, as it was known from one moment to another. A change ends a row and makes
    the next, of the same thing.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    thing = models.UUIDField(default=uuid.uuid4, help_text="the target itself, through all its changes")
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="targets")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=20, choices=choices(words.TARGET_KINDS))
    occupancy = models.CharField(max_length=12, choices=choices(words.OCCUPANCY))
    shape = models.GeometryField(geography=True)
    note = models.CharField(max_length=300, blank=True)
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["thing"], condition=models.Q(ended_at=None), name="target_known_one_way"
            ),
            models.UniqueConstraint(
                fields=["site", "name"], condition=models.Q(ended_at=None), name="target_name_once"
            ),
        ]
        triggers = [
            same_organisation("site_id", "sites_site", "target_same_organisation"),
            *settled("target_settled", "ended_at", until="OLD.ended_at IS NULL"),
        ]

    def __str__(self) -> str:
        return self.name


class SiteRegime(models.Model):
    """The owner's table of inspections as it was set at a moment; the newest stands."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="regimes")
    body = models.JSONField(help_text="a Regime of the core, as it writes it")
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-id"])]
        triggers = [
            *append_only("regime_append_only"),
            same_organisation("site_id", "sites_site", "regime_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"table of {self.site_id}, {self.set_at}"


class Report(models.Model):
    """A coverage report as it was made: numbered, never changed, printed again the same. People stand in it
    by id, so that who leaves is not named in it any more.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    number = models.PositiveIntegerField()
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="reports")
    as_of = models.DateField()
    author = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    body = models.JSONField()
    sha256 = models.CharField(max_length=64, help_text="of the canonical JSON of its body")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["organisation", "number"], name="report_number_once")]
        triggers = [
            *append_only("report_append_only"),
            same_organisation("site_id", "sites_site", "report_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"report {self.number}"
