"""Visits and their entries: added, never changed. An entry has one JSON body, judged by the core."""

from __future__ import annotations

from django.db import models

from apps.organisations.models import Contact, Member, Organisation
from apps.organisations.triggers import append_only, in_calendar, same_organisation
from apps.plants.models.plant import Plant
from config.choices import choices
from jubark_core.records import words


class Visit(models.Model):
    """One person at one plant at one time."""

    id = models.UUIDField(primary_key=True, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    plant = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="visits")
    author = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    observer_member = models.ForeignKey(Member, on_delete=models.PROTECT, null=True, related_name="+")
    observer_contact = models.ForeignKey(Contact, on_delete=models.PROTECT, null=True, related_name="+")
    mode = models.CharField(max_length=6, choices=choices(words.MODES), default="field")
    local_date = models.DateField()
    observed_at = models.DateTimeField()
    utc_offset_min = models.SmallIntegerField(default=0)
    received_at = models.DateTimeField(auto_now_add=True)
    stage = models.CharField(max_length=10, choices=choices(words.STAGES), default="mature")
    setting = models.CharField(max_length=20, default="unknown")
    origin = models.CharField(max_length=8, choices=choices(words.ORIGINS), default="unknown")
    light = models.CharField(max_length=8, default="unknown")
    sex = models.CharField(max_length=8, choices=choices(words.SEXES), default="unknown")
    clock_doubtful = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["plant", "local_date"])]
        constraints = [
            in_calendar("local_date", "visit_date_in_calendar"),
            in_calendar("observed_at", "visit_time_in_calendar"),
        ]
        triggers = [
            *append_only("visit_append_only"),
            same_organisation("plant_id", "plants_plant", "visit_same_organisation"),
            same_organisation(
                "observer_member_id", "organisations_member", "visit_observer_same_organisation"
            ),
            same_organisation(
                "observer_contact_id", "organisations_contact", "visit_contact_same_organisation"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.local_date} {self.plant_id}"

    @property
    def observer(self) -> str:
        """Who was there, by the name they have now."""
        return observer_of(self)


class Entry(models.Model):
    """One thing recorded on a visit. A correction is a new entry that names the one it replaces."""

    id = models.UUIDField(primary_key=True, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    plant = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="entries")
    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="entries")
    kind = models.CharField(max_length=20, help_text="one of the kinds of jubark_core.records")
    version = models.PositiveSmallIntegerField(help_text="the record version its body was written at")
    body = models.JSONField(
        default=dict, help_text="as the core wrote it; upgraded when read, never rewritten"
    )
    author = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    observer_member = models.ForeignKey(Member, on_delete=models.PROTECT, null=True, related_name="+")
    observer_contact = models.ForeignKey(Contact, on_delete=models.PROTECT, null=True, related_name="+")
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)
    replaces = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="replaced_by")
    retracts = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="retracted_by")
    reason = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["plant", "kind"])]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(replaces__isnull=True) | models.Q(retracts__isnull=True),
                name="entry_replaces_or_retracts",
            ),
            in_calendar("recorded_at", "entry_time_in_calendar"),
        ]
        triggers = [
            *append_only("entry_append_only"),
            same_organisation("plant_id", "plants_plant", "entry_plant_same_organisation"),
            same_organisation("visit_id", "plants_visit", "entry_visit_same_organisation"),
            same_organisation(
                "observer_member_id", "organisations_member", "entry_observer_same_organisation"
            ),
            same_organisation(
                "observer_contact_id", "organisations_contact", "entry_contact_same_organisation"
            ),
            same_organisation("replaces_id", "plants_entry", "entry_replaces_same_organisation"),
            same_organisation("retracts_id", "plants_entry", "entry_retracts_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"

    @property
    def observer(self) -> str:
        """Who saw it, by the name they have now."""
        return observer_of(self)


def observer_of(row: Visit | Entry) -> str:
    """The observer named, a member or somebody outside; else the author. Names stand in their own rows, so
    that who leaves, and who asks to be erased, is gone from every record.
    """
    named = row.observer_member or row.observer_contact or row.author
    return named.shown_name if named else ""
