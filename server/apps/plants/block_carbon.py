"""Carbon of the trees of a block, tree by tree and shoot by shoot; what has no figure is counted."""

from __future__ import annotations

from typing import Any

from apps.organisations.models import Member
from apps.plants.from_size import tree_of
from apps.plants.selectors import trees_visible_to
from apps.plants.tree_files import tree_files
from apps.sites.models import Block
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.size.biomass import MOST_TREES, CarbonTotal, carbon
from jubark_core.tree_file.life import IN_STAND


def block_carbon(actor: Member, block: Block) -> CarbonTotal:
    """The total of the trees that stand in a block, by the convention of its site. Raises BadInput for a
    block with more than 20,000 of them.
    """
    rows = trees_visible_to(actor).filter(block=block, life__in=IN_STAND).order_by("pk")
    currents = {c.pk: c for c in rows}
    if len(currents) > MOST_TREES:
        raise BadInput("block", block.name, f"a block with at most {MOST_TREES} standing trees")
    trees = [tree_of(currents[pk], file) for pk, file in tree_files(currents)]
    units: Any = block.site.units
    given: Any = {"trees": trees, "open_grown": block.site.open_grown, "units": units}
    return carbon(given, shipped_flora())["total"]
