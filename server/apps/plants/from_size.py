"""What follows from a plant's figures: growth, zones, carbon, crown, change, each with its doubt or the
reason it is refused.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any

from django.contrib.gis.db.models.functions import Distance
from django.contrib.gis.measure import D

from apps.organisations.models import Member
from apps.plants.models import Current, Entry, Plant
from apps.plants.projection import current_values, standing_entries
from apps.plants.selectors import current_visible_to, entries_by_plant
from apps.plants.stored import body_of
from jubark_core.condition.change import change_in_words, vigour
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.records.bodies import Measurement, Risk
from jubark_core.signs.load import signs
from jubark_core.size.biomass import carbon_of
from jubark_core.size.crown import crown_area, live_crown_ratio, overlap_share
from jubark_core.size.diameter import basal_area_m2
from jubark_core.size.growth import growth
from jubark_core.size.protect import protection_zone, structural_root_radius

NEAR_M = 40.0
MOST_NEIGHBOURS, MOST_PEERS, MOST_OVERLAPS = 30, 200, 4
STANDING = ("alive", "resprout", "standing_dead")


def from_size(actor: Member, plant: Plant) -> dict[str, Any]:
    """Everything computed from the standing entries of a plant. Nothing is stored: it follows anew from the
    record each time.
    """
    entries = entries_by_plant([plant.id]).get(plant.id, [])
    taken = taken_by_quantity(entries)
    site = plant.block.site
    current = plant.current
    dbh = current.dbh_cm
    last = {q: rows[-1][2].value for q, rows in taken.items() if rows}
    visit = max((e.visit for e in entries), key=lambda v: v.local_date, default=None)
    stage = visit.stage if visit else "mature"
    return {
        "basal_area_m2": basal_area_m2(dbh) if dbh else None,
        "protection": _zone(lambda: protection_zone(site.protection, dbh or 0, stage == "veteran"))
        if dbh
        else None,
        "structural_root": _zone(lambda: structural_root_radius(last["buttress_cm"]))
        if "buttress_cm" in last
        else None,
        "carbon": _carbon(current, stage, taken.get("dbh_cm", []), site.units) if dbh else None,
        "growth": _growth(actor, plant, taken.get("dbh_cm", [])),
        "rings": {"per_cm": last["rings_per_cm"], "cm_a_year": 2 / last["rings_per_cm"]}
        if "rings_per_cm" in last
        else None,
        "crown_area_m2": crown_area(current.crown_spread_m) if current.crown_spread_m else None,
        "crown_overlaps": _overlaps(actor, current),
        "live_crown_ratio": _ratio(current.height_m, last.get("crown_base_m")),
        "changes": _changes(entries, site.units),
        "risk": _risk(entries),
    }


Taken = dict[str, list[tuple[datetime.date, Entry, Measurement]]]


def taken_by_quantity(entries: Sequence[Entry]) -> Taken:
    """Quantity -> standing measurements, oldest first."""
    found: Taken = {}
    for entry in standing_entries(entries).live:
        body = body_of(entry)
        if isinstance(body, Measurement):
            found.setdefault(body.quantity, []).append((entry.visit.local_date, entry, body))
    return found


def _zone(computed: Any) -> dict[str, Any]:
    return dict(computed()._asdict())


def _carbon(
    current: Current, stage: str, rows: list[tuple[datetime.date, Entry, Measurement]], units: str
) -> dict[str, Any]:
    flora = shipped_flora()
    node = flora.taxa.get(current.taxon, {})
    forms = (node.get("states", {}).get("habit.form") or [{}])[0].get("weights", {"tree": 1.0})
    if current.life not in ("alive", "resprout"):
        return {
            "refused": f"No figure for a tree that is {current.life.replace('_', ' ')}: the equations "
            "were made for living trees."
        }
    broken = bool(rows) and rows[-1][2].stem_form == "broken"
    try:
        return {
            "refused": "",
            **carbon_of(
                flora,
                current.taxon,
                current.dbh_cm or 0,
                max(forms, key=lambda f: forms[f]),
                broken,
                stage in ("clipped", "resprout"),
                units,
            ),
        }
    except InputError as error:
        # a name the flora does not hold has no taxon, and is a name all the same
        what = (current.name or error.value) if error.place == "taxon" else error.value
        return {"refused": f"No figure for {what}: {error.allowed}."}


def _growth(
    actor: Member, plant: Plant, rows: list[tuple[datetime.date, Entry, Measurement]]
) -> dict[str, Any] | None:
    days = {on: body for on, _, body in rows}
    if len(days) < 2:
        return None
    (before_on, before), (now_on, now) = sorted(days.items())[-2:]
    units = plant.block.site.units
    found = growth(before.value, before_on, now.value, now_on, before.at_height_m, now.at_height_m, units)
    told = "" if found.doubt else vigour(found.cm_a_year, _peers(actor, plant), units)["says"]
    return {
        "cm_a_year": found.cm_a_year,
        "years": found.years,
        "doubt": found.doubt,
        "against_its_kind": told,
        "from": before_on,
        "to": now_on,
    }


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
    by_plant = entries_by_plant(ids)
    rates = []
    for entries in by_plant.values():
        taken = taken_by_quantity(entries).get("dbh_cm", [])
        days = sorted({on: body for on, _, body in taken}.items())
        if len(days) > 1:
            found = growth(
                days[-2][1].value,
                days[-2][0],
                days[-1][1].value,
                days[-1][0],
                days[-2][1].at_height_m,
                days[-1][1].at_height_m,
            )
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


def _changes(entries: Sequence[Entry], units: str) -> list[str]:
    """What the last visit found changed against all that was known before it."""
    days = sorted({e.visit.local_date for e in standing_entries(entries).live})
    if len(days) < 2:
        return []
    before, now = (current_values([e for e in entries if e.visit.local_date <= day]) for day in days[-2:])
    labels = signs()
    for values in (before, now):
        values["signs"] = [labels.get(s, {}).get("label", s) for s in values["signs"]]
    return change_in_words(before, now, units)


def _risk(entries: Sequence[Entry]) -> dict[str, Any] | None:
    """The newest standing worksheet in short."""
    sheets = [(e, b) for e in standing_entries(entries).live if isinstance(b := body_of(e), Risk)]
    if not sheets:
        return None
    entry, sheet = sheets[-1]
    return {
        "rating": sheet.rating,
        "residual": sheet.residual,
        "on": entry.visit.local_date,
        "next_inspection": sheet.next_inspection,
        "years": sheet.years,
    }
