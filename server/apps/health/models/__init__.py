"""What is known of the health of a site beside its plants. Nothing here is overwritten; the newest stands."""

from __future__ import annotations

from django.contrib.gis.db import models
from django.contrib.postgres.fields import ArrayField

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import append_only, same_organisation
from apps.sites.models import Block, Site
from config.choices import choices
from jubark_core.records import words


class StationRecord(models.Model):
    """Daily readings of a weather station for a site, from a first day on without a gap; null: missing."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="station_records")
    name = models.CharField(max_length=120)
    simulated = models.BooleanField(default=False, help_text="no real station: for demonstration")
    first_day = models.DateField()
    min_c = ArrayField(models.FloatField(null=True))
    max_c = ArrayField(models.FloatField(null=True))
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-id"])]
        triggers = [
            *append_only("station_append_only"),
            same_organisation("site_id", "sites_site", "station_same_organisation"),
        ]

    def __str__(self) -> str:
        return self.name


class BiosecurityStatus(models.Model):
    """The biosecurity status of a block from a day on, why, and what lifts it."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    block = models.ForeignKey(Block, on_delete=models.PROTECT, related_name="biosecurity_statuses")
    status = models.CharField(max_length=10, choices=choices(words.BIOSECURITY))
    cause = models.CharField(max_length=60, blank=True)
    since = models.DateField()
    lifted_by = models.CharField(max_length=300, blank=True, help_text="what would lift it")
    remark = models.CharField(max_length=300, blank=True)
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["block", "-id"])]
        triggers = [
            *append_only("biosecurity_append_only"),
            same_organisation("block_id", "sites_block", "biosecurity_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.block_id}: {self.status} since {self.since}"


class HoldLifted(models.Model):
    """That the movement hold of a block for a cause ended on a day, by the reference of who ended it. A hold
    begins with the suspicion itself and has no row of its own.
    """

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    block = models.ForeignKey(Block, on_delete=models.PROTECT, related_name="holds_lifted")
    cause = models.CharField(max_length=60)
    on = models.DateField()
    reference = models.CharField(max_length=120)
    remark = models.CharField(max_length=300, blank=True)
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["block", "cause", "-on"])]
        triggers = [
            *append_only("hold_lifted_append_only"),
            same_organisation("block_id", "sites_block", "hold_lifted_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.cause} in {self.block_id}, lifted {self.on}"
