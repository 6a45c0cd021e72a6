"""`manage.py rebuild_current`: both projections made anew from the entries."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from apps.plants.services.rebuild_current import rebuild_current


class Command(BaseCommand):
    """Rebuild Current and PlantSpan of every plant."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Says how many."""
        self.stdout.write(f"{rebuild_current()} plants rebuilt.")
