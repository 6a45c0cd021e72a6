"""Comparison cards for a crown: transparency and dieback in steps of five per cent, each drawn to its share.

The crown is made of some four hundred cells of one size that do not overlap, so that the share that is gone
is the share one sees. Transparency takes cells away all over; dieback takes the outer and upper ones and
leaves their bare twigs: it is recent death from the tips, never that of limbs shaded out below.
"""

from __future__ import annotations

import math
from typing import TypedDict

from jubark_core.checks import require_one_of
from jubark_core.errors import InputError
from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.tiles.whole_plant import DARK, GREEN, STEM

STEP = 5
QUANTITIES = ("transparency_pct", "dieback_pct")
CENTRE, WIDE, TALL = (60.0, 46.0), 96.0, 84.0
CELL = 4.0


class CrownCard(TypedDict):
    """A crown of a share of transparency or dieback."""

    percent: int
    svg: str


def crown_cards(quantity: str) -> list[CrownCard]:
    """A card for every five per cent. quantity: transparency_pct or dieback_pct. Raises InputError."""
    return [{"percent": p, "svg": crown_card(quantity, p)} for p in range(0, 101, STEP)]


def crown_card(quantity: str, percent: int) -> str:
    """SVG of a crown of that share. percent: 0 to 100 in steps of five. Raises InputError."""
    require_one_of("quantity", quantity, QUANTITIES)
    if isinstance(percent, bool) or not isinstance(percent, int) or percent not in range(0, 101, STEP):
        raise InputError("percent", percent, f"0 to 100 in steps of {STEP}")
    page = Page(120.0, 120.0)
    page.shape("trunk", [(56, 118), (64, 118), (62, 54), (58, 54)], STEM, DARK, 1)
    page.lines("limb", [[(60, 80), tip] for tip in ((26, 40), (44, 18), (76, 18), (94, 40))], STEM, 2.4)
    cells = _cells()
    order = _first_to_go(quantity, cells)
    gone, left = order[: round(len(cells) * percent / 100)], order[round(len(cells) * percent / 100) :]
    if left:
        page.shapes("leaves", [_square(cells[i]) for i in sorted(left)], GREEN, GREEN, 0.2)
    if quantity == "dieback_pct":
        page.lines("dead-twig", [_twig(cells[i]) for i in sorted(gone)], "#8d857a", 0.9)
    word = "transparent" if quantity == "transparency_pct" else "died back"
    return page.svg(f"{percent} % {word}", f"A crown of which {percent} % is {word}.")


def _cells() -> list[Point]:
    """The middles of the cells that lie in the crown."""
    found = []
    for row in range(int(TALL / CELL) + 1):
        for column in range(int(WIDE / CELL) + 1):
            x, y = CENTRE[0] - WIDE / 2 + CELL * column, CENTRE[1] - TALL / 2 + CELL * row
            if _far((x, y)) < 0.99:
                found.append((x, y))
    return found


def _square(at: Point) -> list[Point]:
    x, y, half = *at, CELL / 2
    return [(x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)]


def _far(at: Point) -> float:
    """How far out a point lies: 1 on the outline of the crown."""
    return math.hypot((at[0] - CENTRE[0]) / (WIDE / 2), (at[1] - CENTRE[1]) / (TALL / 2))


def _first_to_go(quantity: str, cells: list[Point]) -> list[int]:
    rng = Scatter(quantity)
    if quantity == "transparency_pct":
        return sorted(range(len(cells)), key=lambda i: rng.next())
    high = [(CENTRE[1] + TALL / 2 - y) / TALL for _, y in cells]
    return sorted(range(len(cells)), key=lambda i: -(_far(cells[i]) + 0.9 * high[i] + rng.between(0, 0.12)))


def _twig(at: Point) -> list[Point]:
    """A bare twig that points away from the middle of the crown."""
    x, y = at[0] - CENTRE[0], at[1] - 80.0
    length = math.hypot(x, y) or 1.0
    return [at, (at[0] + 4 * x / length, at[1] + 4 * y / length)]
