"""`manage.py demo_site`: the demonstration sites, made once."""

from __future__ import annotations

import datetime
import os
from typing import Any

from django.core.management.base import BaseCommand

from apps.demo.make import PASSWORD, make_demo


class Command(BaseCommand):
    """Make Brindle Fold, Saltmarrow Point and Thistle Holt. Repeating it changes nothing."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """JUBARK_TODAY (YYYY-MM-DD) fixes the date the six years end on."""
        fixed = os.environ.get("JUBARK_TODAY")
        today = datetime.date.fromisoformat(fixed) if fixed else datetime.date.today()
        made = make_demo(today)
        self.stdout.write(
            "Brindle Fold, Saltmarrow Point and Thistle Holt are made."
            if made
            else "The demonstration sites are there already."
        )
        self.stdout.write(f"Sign in as  steward  with  {PASSWORD}   (also: surveyor, viewer, owner)")
