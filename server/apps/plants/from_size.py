"""What follows from a plant's figures: growth, zones, carbon, crown, change, each with its doubt or the
reason it is refused.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.contrib.gis.db.models.functions import Distance
from django.contrib.gis.measure import D

from apps.organisations.models import Member
from apps.plants.models import Current, Plant
from apps.plants.selectors import current_visible_to
from apps.plants.tree_files import tree_file_of, tree_files
from apps.sites.models import Site
from jubark_core.condition.change import change_in_words, vigour
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import rated
from jubark_core.records.bodies import Measurement
from jubark_core.records.judged import Defect, Risk
from jubark_core.signs.load import signs
from jubark_core.size.biomass import TreeCarbon, TreeIn, carbon
from jubark_core.size.compute import stems_of
from jubark_core.size.crown import crown_area, live_crown_ratio, overlap_share
from jubark_core.size.diameter import basal_area_m2
from jubark_core.size.growth import Taken as TakenDiameter
from jubark_core.size.growth import diameter_error_cm, growth
from jubark_core.size.protect import Protection, protection, structural_root_radius
from jubark_core.tree_file.file import TreeFile
from jubark_core.tree_file.filed import Dated
from jubark_core.tree_file.life import STANDING
from jubark_core.tree_file.now import gravity

NEAR_M = 40.0
MOST_NEIGHBOURS, MOST_PEERS, MOST_OVERLAPS = 30, 200, 4
TOP_GONE = ("topped", "broken_top")  # defects after which no equation of mass holds


def from_size(actor: Member, plant: Plant) -> dict[str, Any]:
    """Everything computed from the standing entries of a plant. Nothing is stored: it follows anew from the
    record each time.
    """
    file = tree_file_of(plant.id)
    taken = file.taken
    site = plant.block.site
    current = plant.current
    dbh = current.dbh_cm
    last = {q: rows[-1].body.value for q, rows in taken.items() if rows}
    return {
        "basal_area_m2": basal_area_m2(dbh) if dbh else None,
        "protection": protection_of_file(site, file, file.stage) if taken.get("dbh_cm") else None,
        "structural_root": structural_root_radius(last["buttress_cm"])._asdict()
        if "buttress_cm" in last
        else None,
        "carbon": carbon_of(current, file) if dbh else None,
        "growth": _growth(actor, plant, taken.get("dbh_cm", [])),
        "rings": {"per_cm": last["rings_per_cm"], "cm_a_year": 2 / last["rings_per_cm"]}
        if "rings_per_cm" in last
        else None,
        "crown_area_m2": crown_area(current.crown_spread_m) if current.crown_spread_m else None,
        "crown_overlaps": _overlaps(actor, current),
        "live_crown_ratio": _ratio(current.height_m, last.get("crown_base_m")),
        "changes": _changes(file, site.units),
        "risk": _risk(file, site.high_days),
    }


def protection_of_file(site: Site, file: TreeFile, stage: str) -> Protection:
    """By the standard of the site, from the stems as they were taped, whatever the inventory made of them;
    the file has a diameter.
    """
    body = file.taken["dbh_cm"][-1].body
    spreads = [row.body for row in file.taken.get("crown_spread_m", [])]
    half = (spreads[-1].value or 0.0) / 2 if spreads else 0.0
    edge = max(spreads[-1].raw.radii_m or [], default=half) if spreads else half
    return protection(
        {
            "standard": site.protection,
            "stems_cm": stems_of(body),
            "at_height_m": body.at_height_m,
            "combined": body.combine if body.stems > 1 else "",
            "crown_edge_m": edge or None,
            "veteran": stage == "veteran",
            "units": "us_customary" if site.units == "us_customary" else "metric",
        }
    )


def carbon_of(current: Current, file: TreeFile) -> TreeCarbon:
    """Of one tree, shoot by shoot."""
    site = current.block.site
    tree = tree_of(current, file)
    units: Any = site.units
    return carbon({"trees": [tree], "open_grown": site.open_grown, "units": units}, shipped_flora())["trees"][
        0
    ]


def tree_of(current: Current, file: TreeFile) -> TreeIn:
    """A tree as the equations of mass ask for it."""
    sizes = [row.body for row in file.all_of(Measurement) if row.body.quantity == "dbh_cm"]
    cut = any(row.body.defect in TOP_GONE for row in file.all_of(Defect))
    broken = bool(sizes) and sizes[-1].stem_form == "broken"
    return {
        "taxon": current.taxon,
        "stems_cm": stems_of(sizes[-1]) if sizes else [],
        "life": current.life,
        "topped": cut or broken or file.stage in ("clipped", "resprout"),
    }


def _growth(actor: Member, plant: Plant, rows: Sequence[Dated[Measurement]]) -> dict[str, Any] | None:
    days = {row.on: row.body for row in rows}
    if len(days) < 2:
        return None
    (before_on, before), (now_on, now) = sorted(days.items())[-2:]
    units = plant.block.site.units
    found = growth(_taken(before, before_on), _taken(now, now_on), units)
    told = "" if found.doubt or found.none else vigour(found.cm_a_year, _peers(actor, plant), units)["says"]
    return {**found._asdict(), "against_its_kind": told, "from": before_on, "to": now_on}


def _taken(body: Measurement, on: datetime.date) -> TakenDiameter:
    return TakenDiameter(body.value, on, body.at_height_m, diameter_error_cm(body.value, body.method))


def _peers(actor: Member, plant: Plant) -> list[float]:
    """Growth, cm a year, of others of its kind on this site that were measured twice at one height."""
    if not plant.current.taxon:
        return []
    others = (
        current_visible_to(actor)
        .filter(taxon=plant.current.taxon, block__site=plant.block.site)
        .exclude(pk=plant.pk)
    )
    ids = list(others.values_list("plant_id", flat=True)[:MOST_PEERS])
    rates = []
    for _, file in tree_files(ids, "measurement"):
        days = sorted({row.on: row.body for row in file.taken.get("dbh_cm", [])}.items())
        if len(days) > 1:
            found = growth(_taken(days[-2][1], days[-2][0]), _taken(days[-1][1], days[-1][0]))
            if not found.doubt:
                rates.append(found.cm_a_year)
    return rates


def _overlaps(actor: Member, current: Current) -> list[dict[str, Any]]:
    """Crowns that reach into this one, the deepest first: the neighbour's tag and the share of the smaller
    crown.
    """
    place, spread = current.plant.place, current.crown_spread_m
    if place is None or not spread:
        return []
    near = (
        current_visible_to(actor)
        .filter(crown_spread_m__gt=0, life__in=STANDING, plant__place__dwithin=(place, D(m=NEAR_M)))
        .exclude(pk=current.pk)
    )
    rows: list[dict[str, Any]] = []
    for other in near.annotate(metres=Distance("plant__place", place)).order_by("metres", "pk")[
        :MOST_NEIGHBOURS
    ]:
        share = overlap_share(other.metres.m, spread, other.crown_spread_m or 0)
        if share > 0.01:
            rows.append({"tag": other.tag, "name": other.name, "share": share})
    return sorted(rows, key=lambda row: -row["share"])[:MOST_OVERLAPS]


def _ratio(height_m: float | None, base_m: float | None) -> float | None:
    return (
        live_crown_ratio(height_m, base_m) if height_m and base_m is not None and base_m <= height_m else None
    )


def _changes(file: TreeFile, units: str) -> list[str]:
    """What the last visit found changed against all that was known before it."""
    days = sorted({e.visit.local_date for e in file.live})
    if len(days) < 2:
        return []
    known = [replace(file, on=day) for day in days[-2:]]
    before, now = ({**then.now, "errors": _errors(then)} for then in known)
    labels = signs()
    for values in (before, now):
        values["signs"] = [labels[s].label if s in labels else s for s in values["signs"]]
    return change_in_words(before, now, units)


def _errors(file: TreeFile) -> dict[str, float | None]:
    """Figure -> the error of its newest reading; None where a diameter was judged by eye."""
    found: dict[str, float | None] = {}
    for quantity, rows in file.taken.items():
        body = rows[-1].body
        if quantity == "dbh_cm":
            found[quantity] = diameter_error_cm(body.value, body.method)
        else:
            found[quantity] = body.error_m or 0.0
    return found


def _risk(file: TreeFile, high_days: int) -> dict[str, Any] | None:
    """The worksheet that leads, in short: the newest, or of several records the gravest."""
    sheets = file.of_each_record(Risk)
    if not sheets:
        return None
    on, sheet = max(((row.on, row.body) for row in sheets), key=lambda pair: gravity(pair[1]))
    found: dict[str, Any] = {**rated(sheet, high_days)}
    return {
        **{key: found[key] for key in ("reads", "residual_reads", "act", "proposed")},
        "on": on,
        "next_inspection": sheet.next_inspection,
        "years": sheet.years,
    }
