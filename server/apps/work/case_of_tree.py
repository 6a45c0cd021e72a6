"""The case of a tree of a site: its file, with what stands round it."""

from __future__ import annotations

import datetime
from typing import Any

from apps.organisations.models import Member
from apps.plants.from_size import protection_of_file
from apps.plants.models import Plant
from apps.work.around import Round, round_of
from jubark_core.flora.load import shipped_flora
from jubark_core.season.place import Place
from jubark_core.species.side_by_side import shows_now
from jubark_core.tree_file.file import TreeFile
from jubark_core.work.case_of_tree import VACANT, case_of_tree, name_of


def case_of(file: TreeFile, plant: Plant, around: Round) -> dict[str, Any]:
    """The case on the day of the file."""
    site = around.site
    case = case_of_tree(file, {**around_plant(plant, around), "name_shows_now": _shows_now(file, around)})
    rating = (case.get("risk") or {}).get("rating") or ""
    case["inspection_months"] = around.inspection_months(plant.pk, case.get("height_m"), rating)
    if case["works"] and file.taken.get("dbh_cm"):
        case["protection_radius_m"] = protection_of_file(site, file, case["stage"])["radius_m"]
    if plant.form == VACANT:
        case["died_here"] = around.died_here(plant)
    return case


def around_plant(plant: Plant, around: Round) -> dict[str, Any]:
    """What stands round a plant, under the names of `WorkCaseIn`."""
    site = around.site
    return {
        "lat": site.lat,
        "lon": site.lon,
        "elevation_m": site.elevation_m,
        "areas": list(site.areas),
        "region": site.region,
        "units": site.units,
        "form": plant.form,
        "setting": plant.block.setting,
        "targets": around.targets.get(plant.pk, []),
        "held_wood": plant.block_id in around.held,
        "causes_km": around.causes_km(plant),
        "egg_mass_plots": around.egg_mass_plots.get(plant.block_id, []),
        "egg_masses_limit_per_ha": around.egg_masses_limit_per_ha,
        "storms_on": [day.isoformat() for day in around.storms],
        "people": around.people,
        "crews": around.crews,
        "look_ups": around.look_ups_for(plant),
    }


def around_of(actor: Member, plant: Plant, on: datetime.date) -> dict[str, Any]:
    """The same of one plant, read for it alone."""
    block = plant.block
    return around_plant(plant, round_of(actor, block.site, [block], on))


def _shows_now(file: TreeFile, around: Round) -> list[str]:
    """What separates a name that was given with a probability from the others, and can be seen now."""
    name = name_of(file)
    if name is None or name.probability is None or not name.not_separated_from or file.on is None:
        return []
    site = around.site
    taxa = tuple(dict.fromkeys((name.taxon, *name.not_separated_from)))
    return shows_now(shipped_flora(), taxa, file.on, Place(site.lat, site.lon, site.elevation_m))
