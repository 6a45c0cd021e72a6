"""Staged files a member may see."""

from __future__ import annotations

from django.db.models import QuerySet

from apps.exchange.models import ImportBatch
from apps.organisations.models import Member
from apps.organisations.permissions import visible_to


def batches_visible_to(actor: Member) -> QuerySet[ImportBatch]:
    """Files read in by the actor's organisation, newest first."""
    return visible_to(actor, ImportBatch.objects.all()).order_by("-staged_at", "id")
