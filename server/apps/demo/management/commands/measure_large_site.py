"""`manage.py measure_large_site --stems N`: times on a generated site beside a yardstick of the run."""

from __future__ import annotations

import argparse
import datetime
import statistics
import time
import uuid
from collections.abc import Callable
from typing import Any

from django.core.management.base import BaseCommand
from django.db import connection, transaction
from django.utils import timezone

from apps.demo.large_site import make_large_site
from apps.inspections.coverage_report import coverage_report
from apps.inspections.today import Asked, plan_of_day
from apps.organisations.models import Member
from apps.plants.incoming import read_visit
from apps.plants.inventory import counted, cursor_after, inventory_page
from apps.plants.models import Current, Plant
from apps.plants.selectors import trees_visible_to
from apps.plants.services.refresh_current import refresh_current
from apps.plants.services.take_records import take_records
from apps.sites.models import Block

TIMES = 20
YARDSTICK_ROWS = 50_000


def stems(text: str) -> int:
    """A number of stems from 1,000 to 2,000,000."""
    if not text.isascii() or not text.isdigit() or not 1_000 <= int(text) <= 2_000_000:
        raise argparse.ArgumentTypeError(f"{text!r} is not allowed; a whole number from 1000 to 2000000")
    return int(text)


class Command(BaseCommand):
    """Make a site of N stems in this database and measure what the records promise."""

    help = __doc__

    def add_arguments(self, parser: Any) -> None:
        """--stems N."""
        parser.add_argument("--stems", type=stems, default=100_000, metavar="N")

    def handle(self, *args: Any, **options: Any) -> None:
        """Prints a table."""
        started = time.perf_counter()
        steward = make_large_site(options["stems"])
        self.stdout.write(f"{options['stems']} stems made in {time.perf_counter() - started:.0f} s")
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_size_pretty(pg_database_size(current_database()))")
            self.stdout.write(f"database of {cursor.fetchone()[0]}")
        yardstick = timed(copy_of_bare_rows, 3)[0]
        self.stdout.write(f"yardstick: COPY of {YARDSTICK_ROWS} bare rows, {1000 * yardstick:.0f} ms")
        block = Block.objects.order_by("name")[0]
        rows = trees_visible_to(steward)
        for what, act in (
            ("inventory, first page by tag", lambda: page(rows, "tag")),
            ("inventory, a page in the middle by diameter", lambda: page(rows, "dbh_cm", middle(steward))),
            (
                "inventory, one block by diameter, downwards",
                lambda: page(rows.filter(block=block), "-dbh_cm"),
            ),
            (
                "inventory, poor trees by the day last seen",
                lambda: page(rows.filter(condition="poor"), "last_seen"),
            ),
            ("inventory, words in tag or name", lambda: page(rows.filter(name__icontains="quercus"), "tag")),
        ):
            self.show(what, timed(act, TIMES), yardstick)
        plants = list(Plant.objects.filter(block=block).values_list("id", flat=True))
        self.show(
            f"rebuild of both projections of {len(plants)} plants",
            timed(transaction.atomic(lambda: refresh_current(plants)), 3),
            yardstick,
        )
        today = datetime.date(2026, 11, 20)
        asked = Asked(on=today, minutes=420, remeasure_years=5)
        self.show(
            f"coverage of a block of {len(plants)} plants, as it is known now",
            timed(lambda: coverage_report(block.site, [block], today, timezone.now()), 3),
            yardstick,
        )
        self.show(
            f"the plan of a day in a block of {len(plants)} plants",
            timed(lambda: plan_of_day(steward, block.site, [block], asked), 3),
            yardstick,
        )
        visits = [bulk_visit(plant) for plant in plants]
        self.show(
            f"bulk of {len(visits)} visits read, stored and projected",
            timed(lambda: take_records(actor=steward, plants=[], visits=[read_visit(v) for v in visits]), 1),
            yardstick,
        )

    def show(self, what: str, times: tuple[float, float], yardstick: float) -> None:
        """One line: median, 95th percentile, and the median by the yardstick."""
        median, late = times
        self.stdout.write(
            f"{what}: {1000 * median:.0f} ms in the median, {1000 * late:.0f} ms at p95, "
            f"{median / yardstick:.2f} ×"
        )


def timed(act: Callable[[], Any], times: int) -> tuple[float, float]:
    """(median, 95th percentile) in seconds."""
    taken = []
    for _ in range(times):
        started = time.perf_counter()
        act()
        taken.append(time.perf_counter() - started)
    return statistics.median(taken), sorted(taken)[-1 - len(taken) // 20]


def page(rows: Any, sort: str, cursor: str | None = None) -> Any:
    """A page with its count, as the API gives it."""
    return inventory_page(rows, sort, cursor), counted(rows)


def middle(steward: Member) -> str | None:
    """A cursor in the midst of the site by diameter."""
    value = Current.objects.filter(organisation_id=steward.organisation_id).order_by("-dbh_cm")
    half = value.filter(dbh_cm__lt=50)[:1]
    return cursor_after(half[0].dbh_cm, half[0].plant_id) if half else None


def bulk_visit(plant: uuid.UUID) -> dict[str, Any]:
    """A visit of a bulk edit: a diameter and a condition."""
    return {
        "id": str(uuid.uuid4()),
        "plant": str(plant),
        "mode": "bulk",
        "local_date": "2026-11-01",
        "observed_at": "2026-11-01T12:00:00+00:00",
        "entries": [
            {
                "id": str(uuid.uuid4()),
                "kind": "measurement",
                "body": {"quantity": "dbh_cm", "raw": {"value": 40.0}, "at_height_m": 1.37},
            },
            {"id": str(uuid.uuid4()), "kind": "condition", "body": {"word": "good"}},
        ],
    }


def copy_of_bare_rows() -> None:
    """Rows as wide as an entry, copied into a table without index, key or trigger."""
    with connection.cursor() as cursor:
        cursor.execute("CREATE TEMP TABLE IF NOT EXISTS bare (id uuid, plant uuid, kind text, body jsonb)")
        cursor.execute("TRUNCATE bare")
        row = f"{uuid.uuid4()}\t{uuid.uuid4()}\tmeasurement\t" + '{"quantity": "dbh_cm", "value": 40.0}\n'
        with cursor.copy("COPY bare FROM STDIN") as copy:
            for _ in range(YARDSTICK_ROWS):
                copy.write(row)
