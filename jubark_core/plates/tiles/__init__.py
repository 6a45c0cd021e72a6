"""Answer tiles drawn by hand: what no plate of a taxon shows, one small drawing for each state. 120 page
units square.
"""

from __future__ import annotations

from jubark_core.plates.pen import Page
from jubark_core.plates.tiles.bark import BARK_TILES
from jubark_core.plates.tiles.buds import BUDS
from jubark_core.plates.tiles.cones import CONES
from jubark_core.plates.tiles.conifer import CONIFER
from jubark_core.plates.tiles.flowers import FLOWERS
from jubark_core.plates.tiles.foliage import FOLIAGE
from jubark_core.plates.tiles.fruits import FRUITS
from jubark_core.plates.tiles.seeds import SEEDS
from jubark_core.plates.tiles.whole_plant import WHOLE_PLANT
from jubark_core.plates.tiles.wood import WOOD_TILES

SIZE = 120.0
TILES = {
    **WHOLE_PLANT,
    **BARK_TILES,
    **WOOD_TILES,
    **BUDS,
    **FOLIAGE,
    **CONIFER,
    **FLOWERS,
    **FRUITS,
    **SEEDS,
    **CONES,
}
UNDRAWN = (
    "twig.smell",
    "leaf.smell",
    "leaf.texture",
    "leaf.upper_feel",
    "flower.scent",
)  # nose and finger only: a drawing would show nothing true


def tile(character: str, state: str, title: str) -> str | None:
    """The drawing of a state as SVG, or None where this room has none of it. A room may hold all of a
    character, or one state of it.
    """
    draw = TILES.get(character) or TILES.get(f"{character} {state}")
    if draw is None:
        return None
    page = Page(SIZE, SIZE)
    draw(page, state)
    return page.svg(title, title)
