"""What a site plans its work with, and the runs that made plans of it."""

from __future__ import annotations

import uuid

from django.db import models

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import append_only, same_organisation, settled
from apps.sites.models import Site


class SiteWorkSettings(models.Model):
    """Crews, licences, weather, rates and money of a site as they were set at a moment; the newest stands."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="work_settings")
    body = models.JSONField(help_text="a WorkSettings of the core, as it writes it")
    set_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    set_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-id"], name="work_settings_newest")]
        triggers = [
            *append_only("work_settings_append_only"),
            same_organisation("site_id", "sites_site", "work_settings_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"work settings of {self.site_id}, {self.set_at}"


class MovedJob(models.Model):
    """A job that somebody put on a day by hand: the plan goes round it. on: none: given back to the plan."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="moved_jobs")
    job = models.UUIDField()
    on = models.DateField(null=True)
    moved_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    moved_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-id"], name="moved_job_newest")]
        triggers = [
            *append_only("moved_job_append_only"),
            same_organisation("site_id", "sites_site", "moved_job_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.job} on {self.on}"


class LookUp(models.Model):
    """Evidence that covers more than a tree: withdrawn it closes nothing more, and stays to be read."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="look_ups")
    body = models.JSONField(help_text="a LookUp of the core, as it writes it")
    made_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    withdrawn_by = models.ForeignKey(Member, on_delete=models.PROTECT, null=True, related_name="+")
    withdrawn_at = models.DateTimeField(null=True)
    withdrawn_why = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["site", "made_at"], name="look_up_of_site")]
        triggers = [
            same_organisation("site_id", "sites_site", "look_up_same_organisation"),
            *settled(
                "look_up_settled",
                "withdrawn_by_id",
                "withdrawn_at",
                "withdrawn_why",
                until="OLD.withdrawn_at IS NULL",
            ),
        ]

    def __str__(self) -> str:
        return f"look-up of {self.site_id}, {self.made_at}"


class AreaAsked(models.Model):
    """That somebody asked for other areas of a site while jobs are open; a second person settles it."""

    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="areas_asked")
    areas = models.JSONField(help_text="TDWG level 3 codes")
    asked_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-id"], name="area_asked_newest")]
        triggers = [
            *append_only("area_asked_append_only"),
            same_organisation("site_id", "sites_site", "area_asked_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.areas} for {self.site_id}"


IN_THE_MAKING = ("state", "began_at", "ended_at", "attempts", "cancel_asked", "progress", "body")


class PlanRun(models.Model):
    """A year plan that was asked for: waiting, running, ready, cancelled or failed. The newest that is ready
    is the plan of its site; a run that ends otherwise leaves it as it is.
    """

    class State(models.TextChoices):
        """Where it stands."""

        WAITING = "waiting", "waiting"
        RUNNING = "running", "running"
        READY = "ready", "ready"
        CANCELLED = "cancelled", "cancelled"
        FAILED = "failed", "failed"

    OPEN = (State.WAITING, State.RUNNING)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="plan_runs")
    starts = models.DateField(help_text="the day it was asked for; the plan begins with its week")
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    asked_by = models.ForeignKey(Member, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    began_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    attempts = models.PositiveSmallIntegerField(default=0, help_text="a worker that died makes another")
    cancel_asked = models.BooleanField(default=False)
    progress = models.JSONField(default=dict, help_text="how many jobs the best plan so far holds")
    body = models.JSONField(null=True, help_text="the plan, once it is ready")

    class Meta:
        indexes = [models.Index(fields=["site", "-asked_at"], name="plan_run_newest")]
        constraints = [
            models.UniqueConstraint(
                fields=["site"],
                condition=models.Q(state__in=("waiting", "running")),
                name="one_plan_run_at_a_time",
            ),
            models.CheckConstraint(
                condition=models.Q(state="ready", body__isnull=False)
                | (~models.Q(state="ready") & models.Q(body__isnull=True)),
                name="plan_run_ready_has_its_plan",
            ),
        ]
        triggers = [
            same_organisation("site_id", "sites_site", "plan_run_same_organisation"),
            *settled("plan_run_settled", *IN_THE_MAKING, until="OLD.state IN ('waiting', 'running')"),
        ]

    def __str__(self) -> str:
        return f"plan of {self.site_id} from {self.starts}, {self.state}"
