"""Carbon of the trees of a block, tree by tree and shoot by shoot; what has no figure is counted."""

from __future__ import annotations

from typing import Any

from apps.organisations.models import Member
from apps.plants.from_size import STANDING, stage_of, tree_of
from apps.plants.selectors import trees_visible_to
from apps.plants.tree_files import entries_of_trees
from apps.sites.models import Block
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.size.biomass import MOST_TREES, CarbonTotal, TreeIn, carbon

AT_ONCE = 500


def block_carbon(actor: Member, block: Block) -> CarbonTotal:
    """The total of the trees that stand in a block, by the convention of its site. Raises BadInput for a
    block with more than 20,000 of them.
    """
    currents = list(trees_visible_to(actor).filter(block=block, life__in=STANDING).order_by("pk"))
    if len(currents) > MOST_TREES:
        raise BadInput("block", block.name, f"a block with at most {MOST_TREES} standing trees")
    trees: list[TreeIn] = []
    for start in range(0, len(currents), AT_ONCE):
        some = currents[start : start + AT_ONCE]
        entries = entries_of_trees([c.pk for c in some])
        trees += [tree_of(c, entries.get(c.pk, []), stage_of(entries.get(c.pk, []))) for c in some]
    units: Any = block.site.units
    given: Any = {"trees": trees, "open_grown": block.site.open_grown, "units": units}
    return carbon(given, shipped_flora())["total"]
