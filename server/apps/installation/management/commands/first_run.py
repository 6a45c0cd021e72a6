"""`manage.py first_run [ADDRESS]`: how to make the first organisation, while there is none."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand

from apps.installation.services.first_run import first_run_token, is_first_run


class Command(BaseCommand):
    """Print the address of the first run with its token; nothing once there is an organisation."""

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where the application is reached."""
        parser.add_argument("address", nargs="?", default="http://127.0.0.1:8417")

    def handle(self, *args: Any, **options: Any) -> None:
        """One line, or none."""
        if is_first_run():
            self.stdout.write(f"{options['address'].rstrip('/')}/first-run#{first_run_token()}")
