"""`manage.py bare_photographs`: photographs that an earlier version took as they came, made bare."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from apps.plants.services.bare_photographs import bare_photographs


class Command(BaseCommand):
    """Take off stored photographs whatever is not the picture: it may say where they were taken."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Says how many were changed, and which could not be."""
        changed, broken = bare_photographs()
        self.stdout.write(f"{changed} photographs made bare.")
        for path in broken:
            self.stdout.write(f"{path}: missing, or no picture that can be read; left as it is.")
