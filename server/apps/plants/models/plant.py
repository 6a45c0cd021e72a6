"""Plants: trees with a place, and groups with an outline."""

from __future__ import annotations

import uuid

from django.contrib.gis.db import models
from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db.models.functions import NullIf, Upper

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import in_calendar, same_organisation, settled
from apps.sites.models import Block, Plot
from config.choices import choices
from jubark_core.records import words


class Plant(models.Model):
    """A tree or a group. What is known of it follows from its visits; here is only where it is."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT, related_name="plants")
    block = models.ForeignKey(Block, on_delete=models.PROTECT, related_name="plants")
    plot = models.ForeignKey(Plot, on_delete=models.PROTECT, related_name="plants", null=True)
    form = models.CharField(max_length=6, choices=choices(words.PLANT_FORMS), default="tree")
    place = models.PointField(geography=True, null=True)
    outline = models.GeometryField(geography=True, null=True)
    accuracy_m = models.FloatField(null=True)
    how_taken = models.CharField(max_length=10, choices=choices(words.HOW_TAKEN), default="tapped")
    from_plant = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="sighted")
    bearing_deg = models.FloatField(null=True)
    distance_m = models.FloatField(null=True)
    origin = models.CharField(max_length=8, choices=choices(words.ORIGINS), default="unknown")
    row_name = models.CharField(max_length=60, blank=True)
    row_position = models.PositiveIntegerField(null=True)
    merged_into = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="duplicates")
    recorded_by = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(form="group", outline__isnull=False)
                | (~models.Q(form="group") & models.Q(place__isnull=False)),
                name="plant_has_a_place",
            ),
            in_calendar("recorded_at", "plant_time_in_calendar"),
        ]
        indexes = [models.Index(fields=["block", "id"])]
        triggers = [
            same_organisation("block_id", "sites_block", "plant_block_same_organisation"),
            same_organisation("from_plant_id", "plants_plant", "plant_from_same_organisation"),
            *settled("plant_settled", "merged_into_id"),
        ]

    def __str__(self) -> str:
        return f"{self.form} {self.id}"


class Merge(models.Model):
    """That two records are of one tree: the first is a duplicate of the second, from a moment on."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    plant = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="merges")
    into = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="merged_here")
    reason = models.CharField(max_length=300, blank=True)
    merged_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    merged_at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["plant"], condition=models.Q(undone_at=None), name="merged_once_at_a_time"
            ),
            models.CheckConstraint(condition=~models.Q(plant=models.F("into")), name="merged_into_another"),
        ]
        triggers = [
            same_organisation("plant_id", "plants_plant", "merge_plant_same_organisation"),
            same_organisation("into_id", "plants_plant", "merge_into_same_organisation"),
            *settled("merge_settled", "undone_at", until="OLD.undone_at IS NULL"),
        ]

    def __str__(self) -> str:
        return f"{self.plant_id} into {self.into_id}"


class Current(models.Model):
    """What is known of a plant now: a projection of its entries, rebuilt whole, never patched."""

    plant = models.OneToOneField(Plant, on_delete=models.CASCADE, primary_key=True, related_name="current")
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    block = models.ForeignKey(Block, on_delete=models.PROTECT)
    tag = models.CharField(max_length=20, blank=True)
    tag_clash = models.BooleanField(default=False)
    taxon = models.CharField(max_length=80, blank=True)
    name = models.CharField(max_length=160, blank=True)
    name_rank = models.CharField(max_length=10, blank=True)
    name_probability = models.FloatField(null=True)
    dbh_cm = models.FloatField(null=True)
    dbh_height_m = models.FloatField(null=True)
    height_m = models.FloatField(null=True)
    crown_spread_m = models.FloatField(null=True)
    condition = models.CharField(max_length=10, blank=True)
    condition_at_most = models.BooleanField(default=False, db_default=False)
    condition_in_winter = models.BooleanField(default=False, db_default=False)
    risk_order = models.PositiveSmallIntegerField(
        null=True, help_text="by class, the incomplete above the complete of a class; empty: not assessed"
    )
    risk_reads = models.CharField(max_length=80, blank=True, default="", db_default="")
    next_inspection = models.DateField(null=True)
    life = models.CharField(max_length=15, choices=choices(words.LIFE_STATES), default="alive")
    signs = models.JSONField(default=list)
    verdict = models.CharField(max_length=15, blank=True, default="", db_default="")
    cause = models.CharField(
        max_length=60, blank=True, default="", db_default="", help_text="what is held to be wrong"
    )
    cause_standing = models.CharField(
        max_length=10, blank=True, default="", db_default="", choices=choices(words.STANDINGS)
    )
    diagnosed_on = models.DateField(null=True)
    visits = models.PositiveIntegerField(default=0)
    last_seen = models.DateField(null=True)
    contested = models.BooleanField(default=False)

    class Meta:
        indexes = [
            models.Index(fields=["organisation", "block", "tag"]),
            models.Index(fields=["organisation", "tag"]),
            models.Index(fields=["block", "taxon"]),
            models.Index(fields=["block", "dbh_cm"]),
            models.Index(fields=["block", "last_seen"]),
            models.Index(fields=["block", "cause"], condition=~models.Q(cause=""), name="current_causes"),
            *(
                models.Index(
                    "organisation", NullIf(column, models.Value("")), "plant", name=f"current_by_{column}"
                )
                for column in ("tag", "name")
            ),
            *(
                models.Index("organisation", column, "plant", name=f"current_by_{column}")
                for column in ("dbh_cm", "height_m", "last_seen", "risk_order")
            ),
            # as `icontains` and `istartswith` ask
            GinIndex(
                OpClass(Upper("tag"), "gin_trgm_ops"),
                OpClass(Upper("name"), "gin_trgm_ops"),
                name="current_words",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.tag or 'untagged'} {self.name or 'unnamed'}"


class PlantSpan(models.Model):
    """What was known of a plant over a range of days: answers 'as of any day'. Rebuilt with Current."""

    plant = models.ForeignKey(Plant, on_delete=models.CASCADE, related_name="spans")
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    from_day = models.DateField()
    to_day = models.DateField(null=True, help_text="exclusive; empty for the span that still runs")
    taxon = models.CharField(max_length=80, blank=True)
    dbh_cm = models.FloatField(null=True)
    height_m = models.FloatField(null=True)
    condition = models.CharField(max_length=10, blank=True)
    life = models.CharField(max_length=15, default="alive")
    cause = models.CharField(max_length=60, blank=True, default="", db_default="")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["plant", "from_day"], name="span_once")]

    def __str__(self) -> str:
        return f"{self.plant_id} from {self.from_day}"
