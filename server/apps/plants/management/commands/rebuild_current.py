"""`manage.py rebuild_current`: both projections made anew from the entries."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from apps.plants.models import Plant
from apps.plants.services.refresh_current import refresh_current

AT_ONCE = 1000


class Command(BaseCommand):
    """Rebuild Current and PlantSpan of every plant, a thousand at a time."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Each thousand is one transaction: readers see old or new, never half."""
        ids = list(Plant.objects.order_by("id").values_list("id", flat=True))
        for start in range(0, len(ids), AT_ONCE):
            with transaction.atomic():
                refresh_current(ids[start : start + AT_ONCE], every_tag=True)
        self.stdout.write(f"{len(ids)} plants rebuilt.")
