"""What a new figure is held against: the last visit's figures, and the neighbours of the same taxon."""

from __future__ import annotations

import datetime

from django.contrib.gis.db.models.functions import Distance
from django.contrib.gis.measure import D

from apps.organisations.models import Member
from apps.plants.from_size import MOST_NEIGHBOURS, NEAR_M
from apps.plants.models import Current, Plant
from apps.plants.selectors import current_visible_to
from apps.plants.tree_files import tree_file_of
from jubark_core.tree_file.life import STANDING
from jubark_core.visit_check import FigureBefore, KnownOfPlant

AMONG_NEIGHBOURS = ("dbh_cm", "height_m")


def known_figures(actor: Member, plant: Plant, on: datetime.date, taxon: str = "") -> KnownOfPlant:
    """The newest figures of the plant before a day, and those of its neighbours of a taxon (its own name
    where none is given).
    """
    current = current_visible_to(actor).get(plant=plant)
    taxon = taxon or current.taxon
    return {"taxon": taxon, "before": _before(plant, on), "neighbours": _neighbours(actor, current, taxon)}


def _before(plant: Plant, on: datetime.date) -> dict[str, FigureBefore]:
    yesterday = on - datetime.timedelta(days=1)
    taken = tree_file_of(plant.id, "measurement", on=yesterday).taken
    return {
        quantity: {
            "value": rows[-1].body.value,
            "on": rows[-1].on.isoformat(),
            "at_height_m": rows[-1].body.at_height_m,
            "method": rows[-1].body.method,
            "stem_form": rows[-1].body.stem_form,
        }
        for quantity, rows in taken.items()
    }


def _neighbours(actor: Member, current: Current, taxon: str) -> dict[str, list[float]]:
    place = current.plant.place
    if not taxon or place is None:
        return {}
    near = (
        current_visible_to(actor)
        .filter(taxon=taxon, life__in=STANDING, plant__place__dwithin=(place, D(m=NEAR_M)))
        .exclude(pk=current.pk)
    )
    rows = near.annotate(metres=Distance("plant__place", place)).order_by("metres", "pk")
    figures = list(rows.values(*AMONG_NEIGHBOURS)[:MOST_NEIGHBOURS])
    return {quantity: [f[quantity] for f in figures if f[quantity]] for quantity in AMONG_NEIGHBOURS}
