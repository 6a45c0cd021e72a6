"""Site, block and plot: where the stems stand."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.gis.db import models
from django.contrib.postgres.fields import ArrayField

from apps.organisations.models import Organisation
from apps.organisations.triggers import same_organisation
from apps.sites.time_zone import zone_of
from config.choices import choices
from jubark_core.records import words


class Site(models.Model):
    """A property, with the conventions its figures follow."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="sites")
    name = models.CharField(max_length=120)
    areas = ArrayField(models.CharField(max_length=3), default=list, help_text="TDWG level 3 codes")
    lat = models.FloatField()
    lon = models.FloatField()
    hardiness_zone = models.CharField(
        max_length=3, blank=True, choices=choices(words.HARDINESS_ZONES), help_text="as 6b; empty: not known"
    )
    elevation_m = models.FloatField(default=0)
    time_zone = models.CharField(max_length=40, editable=False, help_text="IANA name, by its place")
    breast_height_m = models.FloatField(default=1.37)
    region = models.CharField(max_length=2, default="us", choices=choices(words.REGIONS))
    units = models.CharField(max_length=12, default="metric", choices=choices(words.UNITS))
    several_stems = models.CharField(max_length=20, default="squares", choices=choices(words.SEVERAL_STEMS))
    fork_by = models.CharField(max_length=8, default="crotch", choices=choices(words.FORK_BY))
    low_fork = models.CharField(max_length=16, default="above_fork", choices=choices(words.LOW_FORK))
    limbs_as = models.CharField(max_length=16, default="shoots_of_one", choices=choices(words.LIMBS_AS))
    slope_from = models.CharField(max_length=8, default="uphill", choices=choices(words.SLOPE_FROM))
    swelling = models.CharField(max_length=8, default="above", choices=choices(words.SWELLING))
    high_days = models.PositiveSmallIntegerField(
        default=28, help_text="days within which the owner deals with a high risk"
    )
    open_grown = models.BooleanField(default=False, help_text="carbon of trees in the open, times 0.8")
    smallest_cm = models.FloatField(default=0, help_text="stems thinner than this are counted, not measured")
    protection = models.CharField(
        max_length=24, default="bs5837", choices=choices(words.PROTECTION_STANDARDS)
    )
    condition_scale = models.CharField(
        max_length=12, default="words", choices=choices(words.CONDITION_SCALES)
    )
    sections = ArrayField(
        models.CharField(max_length=12), default=list, help_text="what a tree's file holds besides"
    )
    survey_steps = ArrayField(
        models.CharField(max_length=12),
        default=list,
        help_text="order of the survey; empty: as the app has it",
    )

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(lat__gte=-90, lat__lte=90, lon__gte=-180, lon__lte=180),
                name="site_on_earth",
            ),
            models.UniqueConstraint(fields=["organisation", "name"], name="site_name_once"),
        ]

    def __str__(self) -> str:
        return self.name

    def save(self, *args: Any, **kwargs: Any) -> None:
        """As it is, with the time zone of its place."""
        self.time_zone = zone_of(self.lat, self.lon)
        super().save(*args, **kwargs)


class Block(models.Model):
    """A part of a site, walked and reported as one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="blocks")
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="blocks")
    name = models.CharField(max_length=120)
    boundary = models.PolygonField(geography=True)
    setting = models.CharField(max_length=20, default="unknown", choices=choices(words.SETTINGS))
    biosecurity = models.CharField(
        max_length=10,
        default="clean",
        choices=choices(words.BIOSECURITY),
    )
    note = models.CharField(max_length=300, blank=True)
    revision = models.BigIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "name"], name="block_name_once")]
        triggers = [same_organisation("site_id", "sites_site", "block_same_organisation")]

    def __str__(self) -> str:
        return self.name


class Plot(models.Model):
    """A sample plot inside a block."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="plots")
    block = models.ForeignKey(Block, on_delete=models.PROTECT, related_name="plots")
    name = models.CharField(max_length=60)
    centre = models.PointField(geography=True)
    kind = models.CharField(
        max_length=10,
        default="fixed",
        choices=[("fixed", "fixed radius"), ("nested", "nested"), ("prism", "prism")],
    )
    radius_m = models.FloatField(null=True)
    factor = models.FloatField(null=True, help_text="basal area factor of a prism plot, m²/ha")
    slope_percent = models.FloatField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["block", "name"], name="plot_name_once")]
        triggers = [same_organisation("block_id", "sites_block", "plot_same_organisation")]

    def __str__(self) -> str:
        return self.name
