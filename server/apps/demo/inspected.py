"""Targets, the owner's table and two years of inspections of Brindle Fold. Invented."""

from __future__ import annotations

import datetime
from typing import Any

from apps.demo.layout import SitePlan, Stand, to_degrees
from apps.inspections.services.set_regime import set_regime
from apps.inspections.services.set_target import make_target
from apps.organisations.models import Member
from apps.organisations.services.competences import add_competence
from apps.sites.models import Site

QUALIFICATION = "Tree inspection"
# name, kind, occupancy, corners in metres; a ring where the first is the last
TARGETS: tuple[tuple[str, str, str, tuple[tuple[float, float], ...]], ...] = (
    ("Gate road", "road", "constant", ((0, 6), (190, 6))),
    ("Avenue path", "path", "frequent", ((10, 59), (150, 59))),
    ("Loading bay", "parking", "occasional", ((20, 108), (110, 108), (110, 116), (20, 116), (20, 108))),
    ("Towpath", "path", "occasional", ((-50, -28), (120, -24), (340, -22))),
    ("Garden seat", "seat_or_shelter", "frequent", ((80, 180),)),
)
RULES: tuple[dict[str, Any], ...] = (
    {
        "zone": "constant",
        "level": "basic",
        "months": 12,
        "moderate_months": 6,
        "high_months": 1,
        "qualification": QUALIFICATION,
    },
    {
        "zone": "frequent",
        "level": "basic",
        "months": 18,
        "moderate_months": 12,
        "high_months": 3,
        "qualification": QUALIFICATION,
    },
    {"zone": "occasional", "level": "limited_visual", "months": 36, "high_months": 6},
    {"zone": "rare", "level": "limited_visual", "months": 60, "high_months": 12},
)
SINCE_YEARS = 2
# role -> the last day of the paper, in days from the day of the demonstration
PAPERS = {"surveyor": 400, "steward": -50}
STREETS = ("Gate row", "Ash avenue", "Loading bank", "Forecourt", "Chimney corner")


def set_up(site: Site, plan: SitePlan, people: dict[str, Member], today: datetime.date) -> None:
    """Targets, table and papers, through the doors a steward uses."""
    steward = people["steward"]
    for name, kind, occupancy, corners in TARGETS:
        shape = _shape([list(to_degrees(plan, *corner)) for corner in corners])
        given = {"name": name, "kind": kind, "occupancy": occupancy, "shape": shape}
        make_target(actor=steward, site=site, given=given)
    since = today.replace(year=today.year - SINCE_YEARS, day=1)
    regime = {"rules": [*RULES], "otherwise": "rare", "since": since.isoformat()}
    set_regime(actor=steward, site=site, given=regime)
    for role, days in PAPERS.items():
        until = today + datetime.timedelta(days=days)
        paper = {"name": QUALIFICATION, "valid_until": until.isoformat()}
        add_competence(actor=steward, member=people[role], given=paper)


def _shape(corners: list[list[float]]) -> dict[str, Any]:
    if len(corners) == 1:
        return {"type": "Point", "coordinates": corners[0]}
    if corners[0] == corners[-1]:
        return {"type": "Polygon", "coordinates": [corners]}
    return {"type": "LineString", "coordinates": corners}


def inspection(stand: Stand, number: int, clean: bool) -> dict[str, Any] | None:
    """How a tree was inspected on a visit of these two years; clean: no defect was found on it."""
    street = stand.row.startswith(STREETS)
    if stand.outline or number % 11 == 0 or not (street or number % 5 == 0):
        return None
    if number % 7 == 0:
        return {
            "level": "limited_visual",
            "walked": True,
            "walk": stand.row or stand.block,
            "daylight": "full",
        }
    seen = {"base_visible": "partly" if number % 9 == 0 else "all_round", "crown_visible": "whole"}
    return {"level": "basic", **seen, "no_defect": clean}
