"""A site's plant health at a glance: what is present, suspected and expected; holds, hosts, samples."""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterable, Sequence
from typing import Any
from uuid import UUID

from apps.health.selectors import (
    Hold,
    case_of_site,
    ill_plants,
    in_short,
    open_holds,
    record_for_core,
    station_of,
    statuses_of,
)
from apps.organisations.models import Member
from apps.plants.models import Current
from apps.plants.selectors import trees_visible_to
from apps.plants.tree_files import tree_files
from apps.sites.models import Block, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.records.file import Sample
from jubark_core.signs.clock import clock
from jubark_core.signs.exposure import exposure
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.load import called, health
from jubark_core.signs.prior import notifiable_here, status_here
from jubark_core.tree_file.life import GONE

MOST_LISTED = 200


def health_at_a_glance(
    actor: Member, site: Site, blocks: Sequence[Block], on: datetime.date
) -> dict[str, Any]:
    """What is known of the health of the blocks on a day."""
    case = case_of_site(site, on)
    standing = list(
        trees_visible_to(actor)
        .filter(block__in=blocks)
        .exclude(life__in=GONE)
        .values_list(
            "pk", "taxon", "dbh_cm", "crown_spread_m", "signs", "verdict", "cause", "block_id", "tag", "name"
        )
    )
    counts: dict[str, int] = {}
    for row in standing:
        if row[1] in shipped_flora().taxa:
            counts[row[1]] = counts.get(row[1], 0) + 1
    ill = ill_plants(actor, blocks)
    holds = open_holds(ill, case)
    station = station_of(site)
    where = {"lat": site.lat, "lon": site.lon, "elevation_m": site.elevation_m}
    asked: dict[str, Any] = {"on": on.isoformat(), "place": where, "counts": counts, "areas": site.areas}
    now = clock(asked | ({"record": record_for_core(station)} if station else {}), shipped_flora())
    return {
        "on": on.isoformat(),
        "plants": len(standing),
        "causes": _by_cause(ill),
        "unexplained": _unexplained(standing),
        "look_for": [row for row in now["look_for"] if row["soon"]],
        "later": [row for row in now["look_for"] if not row["soon"] and not row["reached"]],
        "clock": {"phenology": now["phenology"], "pests": now["pests"]},
        "station": in_short(station) if station else None,
        "holds": [_hold(h) for h in holds],
        "blocks": _blocks(blocks),
        "exposure": exposure({"plants": _hosts(standing)}, shipped_flora()),
        "watch": _watch(counts, case),
        "samples": _samples([row[0] for row in standing]),
    }


def _by_cause(ill: Iterable[Current]) -> list[dict[str, Any]]:
    """Cause -> plants by standing, by block and by name."""
    found: dict[str, list[Current]] = {}
    for row in ill:
        found.setdefault(row.cause, []).append(row)
    causes = health().causes
    rows = []
    for cause, plants in found.items():
        known = causes.get(cause)
        by_block: dict[str, int] = {}
        by_host: dict[str, int] = {}
        for plant in plants:
            by_block[plant.block.name] = by_block.get(plant.block.name, 0) + 1
            by_host[plant.name] = by_host.get(plant.name, 0) + 1
        rows.append(
            {
                "cause": cause,
                "name": known.name if known else cause,
                "latin": known.latin if known else "",
                "harm": known.harm if known else "",
                "plants": len(plants),
                "confirmed": sum(p.cause_standing == "confirmed" for p in plants),
                "probable": sum(p.cause_standing == "probable" for p in plants),
                "suspected": sum(p.cause_standing == "suspicion" for p in plants),
                "by_block": _counted(by_block),
                "by_host": _counted(by_host),
                "newest": max((p.diagnosed_on for p in plants if p.diagnosed_on), default=None),
            }
        )
    worst = ("kills", "serious", "minor", "harmless", "")
    return sorted(rows, key=lambda r: (worst.index(r["harm"]), -r["plants"], r["name"]))


def _counted(counts: dict[str, int]) -> list[dict[str, Any]]:
    return [{"name": name, "plants": n} for name, n in sorted(counts.items(), key=lambda p: (-p[1], p[0]))]


def _unexplained(standing: Iterable[tuple[Any, ...]]) -> list[dict[str, Any]]:
    """Plants that show a sign and of which nobody has said what it is."""
    rows = [
        {"plant": str(pk), "tag": tag, "name": name, "block": str(block), "signs": signs}
        for pk, _, _, _, signs, verdict, _, block, tag, name in standing
        if signs and not verdict
    ]
    return rows[:MOST_LISTED]


def _hosts(standing: Iterable[tuple[Any, ...]]) -> list[dict[str, Any]]:
    found: dict[str, dict[str, Any]] = {}
    for _, taxon, dbh_cm, spread_m, *_ in standing:
        if taxon not in shipped_flora().taxa:
            continue
        row = found.setdefault(
            taxon, {"taxon": taxon, "stems": 0, "basal_area_m2": 0.0, "crown_area_m2": 0.0}
        )
        row["stems"] += 1
        row["basal_area_m2"] += math.pi * (dbh_cm / 200) ** 2 if dbh_cm else 0.0
        row["crown_area_m2"] += math.pi * (spread_m / 2) ** 2 if spread_m else 0.0
    return list(found.values())


def _watch(counts: dict[str, int], case: Any) -> list[dict[str, Any]]:
    """What is not here yet, has hosts here, and would have to be told."""
    rows = []
    for cause in health().causes.values():
        if status_here(cause, case, shipped_flora()) == "present" or cause.harm not in ("serious", "kills"):
            continue
        plants = sum(n for taxon, n in counts.items() if susceptibility(cause, taxon, shipped_flora()) > 0.05)
        how, tell = notifiable_here(cause, case, shipped_flora())
        if plants and how and "any" not in cause.hosts and "broadleaves" not in cause.hosts:
            rows.append(
                {
                    "cause": cause.id,
                    "name": cause.name,
                    "plants": plants,
                    "must_report": how,
                    "tell": tell,
                    "look": cause.next,
                }
            )
    return sorted(rows, key=lambda r: (-r["plants"], r["name"]))


def _hold(hold: Hold) -> dict[str, Any]:
    return {
        "block": str(hold.block.id),
        "block_name": hold.block.name,
        "cause": hold.cause,
        "name": called(hold.cause),
        "since": hold.since.isoformat(),
        "plants": [str(plant) for plant in hold.plants],
        "tell": hold.tell,
        "says": health().holds,
    }


def _blocks(blocks: Sequence[Block]) -> list[dict[str, Any]]:
    statuses = statuses_of(blocks)
    rows = []
    for block in blocks:
        told = statuses.get(block.id)
        rows.append(
            {
                "block": str(block.id),
                "name": block.name,
                "status": block.biosecurity,
                "cause": told.cause if told else "",
                "since": told.since.isoformat() if told else "",
                "lifted_by": told.lifted_by if told else "",
                "set_by": told.set_by.shown_name if told else "",
            }
        )
    return rows


def _samples(plants: list[UUID]) -> list[dict[str, Any]]:
    """Samples that were sent and have no result yet."""
    found = [
        {
            "plant": str(plant),
            "number": row.body.number,
            "sent_to": row.body.sent_to,
            "sent_on": row.body.sent_on.isoformat() if row.body.sent_on else "",
        }
        for plant, file in tree_files(plants, "sample")
        for row in file.all_of(Sample)
        if not row.body.result
    ]
    return sorted(found, key=lambda s: (s["sent_on"], s["number"]))[:MOST_LISTED]
