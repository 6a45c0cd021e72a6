"""Both projections of every plant made anew from the entries."""

from __future__ import annotations

from django.db import transaction

from apps.plants.models import Plant
from apps.plants.services.refresh_current import refresh_current

AT_ONCE = 1000


def rebuild_current() -> int:
    """Rebuild Current and PlantSpan, a thousand plants at a time; returns how many.

    Each thousand is one transaction: readers see old or new, never half.
    """
    ids = list(Plant.objects.order_by("id").values_list("id", flat=True))
    for start in range(0, len(ids), AT_ONCE):
        with transaction.atomic():
            refresh_current(ids[start : start + AT_ONCE], every_tag=True)
    return len(ids)
