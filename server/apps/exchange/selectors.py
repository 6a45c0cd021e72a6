"""Staged files a member may see."""

from __future__ import annotations

from django.db.models import QuerySet

from apps.crews.models import Member
from apps.crews.permissions import visible_to
from apps.exchange.models import ImportBatch


def batches_visible_to(actor: Member) -> QuerySet[ImportBatch]:
    """Files read in by the actor's crew, newest first."""
    return visible_to(actor, ImportBatch.objects.all()).order_by("-staged_at", "id")
