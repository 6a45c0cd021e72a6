"""A generated site of n stems with three visits each: what speed and size are measured on.

A few dozen plants are recorded by the core, so that every body is what the core writes; SQL multiplies them.
"""

from __future__ import annotations

import datetime
import json
import uuid
from random import Random
from typing import Any

from django.contrib.auth.models import User
from django.contrib.gis.geos import Polygon
from django.db import connection

from apps.demo import sql
from apps.organisations.models import Member, Organisation, Role
from apps.plants.incoming import read_visit
from apps.sites.models import Block, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.records.things import Visit, write_entry
from jubark_core.records.upgrade import VERSION

STEMS_A_BLOCK = 5_000
TEMPLATES = 40
VISIT_DAYS = (datetime.date(2020, 6, 1), datetime.date(2023, 6, 1), datetime.date(2026, 6, 1))
STEP_DEG = 0.01  # of the grid of blocks
CONDITIONS = ("good", "good", "good", "fair", "poor")


def make_large_site(stems: int, seed: int = 1) -> Member:
    """Make an organisation with one site of so many stems in blocks of 5,000; its steward.

    Triggers and foreign keys are passed over while the rows are written (session_replication_role), which
    needs
    a superuser of the database: it is for measuring, never for an installation.
    """
    organisation = Organisation.objects.create(name=f"Site of {stems} stems")
    user = User.objects.create_user(f"steward of {stems}", password=uuid.uuid4().hex)
    steward = Member.objects.create(
        organisation=organisation, user=user, role=Role.STEWARD, shown_name="Steward"
    )
    site = Site.objects.create(organisation=organisation, name="Large site", lat=40.0, lon=-80.0)
    blocks = _blocks(site, -(-stems // STEMS_A_BLOCK))
    with connection.cursor() as cursor:
        cursor.execute(sql.PASS_OVER_TRIGGERS)
        cursor.execute(sql.TEMPLATE_TABLE)
        cursor.executemany(sql.TEMPLATE_ROW, list(_template_rows(Random(seed))))
        cursor.execute("ANALYZE template_entry")
        for i, block in enumerate(blocks):
            first = i * STEMS_A_BLOCK
            given: dict[str, Any] = {
                "organisation": organisation.id,
                "block": block.id,
                "author": steward.id,
                "first": first,
                "last": min(stems, first + STEMS_A_BLOCK) - 1,
                "lon": -80.0 + (i % 20) * STEP_DEG,
                "lat": 40.0 + (i // 20) * STEP_DEG,
                "templates": TEMPLATES,
                "version": VERSION,
            }
            for statement in sql.FILL_BLOCK:
                cursor.execute(statement, given)
        cursor.execute(sql.HEED_TRIGGERS)
        cursor.execute("ANALYZE")
    return steward


def _blocks(site: Site, number: int) -> list[Block]:
    made = []
    for i in range(number):
        west, south = -80.0 + (i % 20) * STEP_DEG, 40.0 + (i // 20) * STEP_DEG
        east, north = west + STEP_DEG * 0.95, south + STEP_DEG * 0.95
        ring = ((west, south), (east, south), (east, north), (west, north), (west, south))
        made.append(
            Block(
                organisation_id=site.organisation_id,
                site=site,
                name=f"Block {i + 1:03d}",
                boundary=Polygon(ring, srid=4326),
                setting="street",
            )
        )
    return Block.objects.bulk_create(made)


def _template_rows(rng: Random) -> Any:
    """(template, visit, place in the visit, kind, body) of every entry of the plants that are multiplied."""
    species = sorted(t for t, node in shipped_flora().taxa.items() if node["rank"] == "species")
    for template in range(TEMPLATES):
        taxon, dbh = rng.choice(species), rng.uniform(5, 90)
        for number, day in enumerate(VISIT_DAYS):
            visit = _visit(rng, taxon, dbh + 1.5 * number, number, day)
            for place, entry in enumerate(visit.entries):
                written = write_entry(entry)
                yield template, number, place, entry.kind, json.dumps(written["body"])


def _visit(rng: Random, taxon: str, dbh: float, number: int, day: datetime.date) -> Visit:
    entries: list[tuple[str, dict[str, Any]]] = [
        ("measurement", {"quantity": "dbh_cm", "raw": {"value": round(dbh, 1)}, "at_height_m": 1.37}),
        ("condition", {"word": rng.choice(CONDITIONS)}),
    ]
    if number != 1:
        height = round(4 + 0.3 * dbh, 1)
        entries.append(
            ("measurement", {"quantity": "height_m", "raw": {"value": height}, "method": "estimated"})
        )
    if number == 0:
        entries.append(("tag", {"number": "0"}))
        entries.append(("determination", {"entered": taxon, "taxon": taxon}))
    if number == 2 and rng.random() < 0.3:
        entries.append(("sign", {"sign": "dieback_tips", "extent_percent": 10}))
    raw = {
        "id": str(uuid.UUID(int=rng.getrandbits(128), version=4)),
        "plant": str(uuid.UUID(int=rng.getrandbits(128), version=4)),
        "local_date": day.isoformat(),
        "observed_at": f"{day}T12:00:00+00:00",
        "entries": [
            {"id": str(uuid.UUID(int=rng.getrandbits(128), version=4)), "kind": kind, "body": body}
            for kind, body in entries
        ],
    }
    return read_visit(raw)
