"""Planting on a site: vacant planting sites, how one-sided the stand is, what survived."""

from __future__ import annotations

import datetime
from typing import Any

from apps.organisations.models import Member
from apps.plants.selectors import current_visible_to, trees_visible_to
from apps.plants.tree_files import tree_files
from apps.sites.models import Block, Site
from apps.work.around import round_of
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.records.file import Planting
from jubark_core.tree_file.life import ALIVE
from jubark_core.work.facts import read_facts
from jubark_core.work.planting import (
    FEW_TREES,
    Planted,
    Share,
    StandingTree,
    not_here_again,
    planting_would_exceed,
    shares,
    survival,
)
from jubark_core.work.programme import rule_of
from jubark_core.work.seasons import windows_until

RULE = "R37"


def planting_of(actor: Member, site: Site, on: datetime.date, taxon: str) -> dict[str, Any]:
    """Vacant planting sites, shares over what is advised, survival; of a taxon, what one more of it would do.

    Raises BadInput for a taxon the flora does not know.
    """
    flora = shipped_flora()
    if taxon and flora.resolve.get(taxon, taxon) not in flora.taxa:
        raise BadInput("taxon", taxon, "the id of a taxon, as acer-rubrum")
    blocks = list(Block.objects.filter(site=site))
    standing = [
        StandingTree(c.taxon, c.crown_spread_m)
        for c in trees_visible_to(actor).filter(block__in=blocks, life__in=ALIVE)
    ]
    return {
        "on": on.isoformat(),
        "season": _season(site, on),
        "vacant": _vacant(actor, site, blocks, on),
        "trees": len(standing),
        "few": len(standing) < FEW_TREES,
        "over": [_shown(s) for s in shares(standing, flora) if s.over],
        "exceeds": [_shown(s) for s in planting_would_exceed(standing, taxon, flora)] if taxon else [],
        "survival": _survival(actor, blocks),
    }


def _season(site: Site, on: datetime.date) -> list[str]:
    """The next window of the planting rule at the place."""
    case = {"on": on.isoformat(), "lat": site.lat, "lon": site.lon, "elevation_m": site.elevation_m}
    facts = read_facts({**case, "host": []}, shipped_flora())
    spans = windows_until(rule_of(RULE), facts, on, on + datetime.timedelta(days=366), shipped_flora())
    return [spans[0][0].isoformat(), spans[0][1].isoformat()] if spans else []


def _vacant(actor: Member, site: Site, blocks: list[Block], on: datetime.date) -> list[dict[str, Any]]:
    rows = current_visible_to(actor).filter(block__in=blocks, plant__form="vacant").exclude(life="removed")
    around = round_of(actor, site, blocks, on)
    return [
        {
            "not_here": not_here_again(around.died_here(c.plant), shipped_flora()),
            "plant": str(c.pk),
            "tag": c.tag,
            "name": "",
            "block": str(c.block_id),
            "block_name": c.block.name,
            "row_name": c.plant.row_name,
            "row_position": c.plant.row_position,
        }
        for c in rows.select_related("plant", "block").order_by(
            "block__name", "plant__row_name", "plant__row_position", "pk"
        )
    ]


def _shown(share: Share) -> dict[str, Any]:
    return {
        "rank": share.rank,
        "name": share.name,
        "stems": share.stems,
        "of_stems": round(share.of_stems, 4),
        "of_crown": round(share.of_crown, 4),
        "limit": share.limit,
    }


def _survival(actor: Member, blocks: list[Block]) -> list[dict[str, Any]]:
    """Of trees with a planting on record."""
    currents = {c.pk: c for c in trees_visible_to(actor).filter(block__in=blocks).select_related("block")}
    planted = [
        Planted((now := currents[pk]).name or "not named", now.block.name, now.life in ALIVE)
        for pk, file in tree_files(currents, "planting")
        if file.all_of(Planting)
    ]
    return [
        {"name": s.taxon, "block": s.block, "planted": s.planted, "alive": s.alive} for s in survival(planted)
    ]
