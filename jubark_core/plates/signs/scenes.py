"""What signs are drawn on: bark with a ruler, a leaf, a twig, needles, a tree, the base of a stem."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.tiles.whole_plant import DARK, SOIL, STEM, crown, ground

BARK, FURROW, WOOD, HOLE, DUST = "#8f8676", "#6d6455", "#d9c39a", "#221b14", "#d8b98a"
LEAF, LEAF_LINE, VEIN, PALE = "#6f9a4e", "#3f5f34", "#4e7a3a", "#c9d68f"
BROWN, YELLOW, BLACK, WHITE, RED, ORANGE = "#8a5a2e", "#d9c04a", "#2a2520", "#f4f1e8", "#a14a26", "#d9822b"
PAPER, INK, RUST = "#fdfaf2", "#211f18", "#9a5b2c"
Scene = Callable[[Page], None]


def bark(page: Page, colour: str = BARK) -> None:
    """Bark from near, with furrows."""
    page.shape("bark", [(0, 0), (120, 0), (120, 120), (0, 120)], colour)
    for i, x in enumerate((10, 34, 60, 86, 110)):
        sway = 5 if i % 2 else -5
        page.line("furrow", [(x, 0), (x + sway, 40), (x - sway, 80), (x, 120)], FURROW, 2.4)


def smooth(page: Page) -> None:
    """Smooth grey bark."""
    page.shape("bark", [(0, 0), (120, 0), (120, 120), (0, 120)], "#a9a294")
    for y in (22, 61, 97):
        page.line("lenticel", [(20, y), (34, y + 1)], "#8b8474", 1.6)
        page.line("lenticel", [(78, y + 8), (94, y + 7)], "#8b8474", 1.6)


def ruler(page: Page, mm: int, units_per_mm: float, y: float = 108.0, left: float = 12.0) -> None:
    """A ruler of so many millimetres."""
    right = left + mm * units_per_mm
    page.shape(
        "ruler",
        [(left - 3, y - 6), (right + 3, y - 6), (right + 3, y + 8), (left - 3, y + 8)],
        PAPER,
        INK,
        0.6,
    )
    for k in range(mm + 1):
        x = left + k * units_per_mm
        page.line("mark", [(x, y - 6), (x, y + (2 if k % 5 == 0 else -2))], INK, 0.7)


def blade(page: Page, fill: str = LEAF) -> None:
    """A leaf with its veins."""
    edge: list[Point] = []
    for i in range(41):
        t = i / 40
        half = 40 * math.sin(math.pi * t**0.8) ** 0.9 if 0 < t < 1 else 0.0
        edge.append((60 - half, 8 + 96 * t))
    page.shape("leaf", [*edge, *((120 - x, y) for x, y in reversed(edge))], fill, LEAF_LINE, 1.2)
    veins(page)


def veins(page: Page, colour: str = VEIN) -> None:
    """Midrib and side veins of the leaf."""
    page.line("midrib", [(60, 8), (60, 116)], colour, 1.8)
    for k in range(6):
        y = 26 + 13 * k
        reach = 34 * math.sin(math.pi * ((y - 4) / 100) ** 0.8)
        for side in (-1, 1):
            page.line("vein", [(60, y + 6), (60 + side * max(6.0, reach), y - 8)], colour, 1.1)


def on_leaf(seed: str, n: int, inside: float = 26.0) -> list[Point]:
    """Places on the leaf, the same for the same seed."""
    rng = Scatter(seed)
    found: list[Point] = []
    while len(found) < n:
        x, y = rng.between(60 - inside, 60 + inside), rng.between(26, 88)
        half = 40 * math.sin(math.pi * ((y - 8) / 96) ** 0.8)
        if abs(x - 60) < half - 6:
            found.append((x, y))
    return found


def twig(page: Page, thick: float = 9.0) -> None:
    """A bare twig aslant."""
    page.line("twig", [(8, 96), (60, 66), (114, 24)], STEM, thick)
    page.line("twig", [(60, 66), (88, 84)], STEM, thick * 0.6)
    for x, y in ((30, 84), (84, 48), (112, 26)):
        page.dot("bud", (x, y - 5), 3.2, "#8a5a3a", DARK)


def shoot(
    page: Page, leaves_at: Iterable[Point] = ((34, 70), (58, 52), (80, 38)), colour: str = LEAF
) -> None:
    """A leafy shoot."""
    page.line("shoot", [(14, 100), (54, 62), (104, 22)], STEM, 3)
    for x, y in leaves_at:
        page.dot("leaf", (x, y), 13, colour, LEAF_LINE, 0.55)


def needles(page: Page, inner: str = LEAF, outer: str = LEAF, tip: str = LEAF) -> None:
    """A conifer twig: needles of older years to the left, of this year to the right."""
    page.line("twig", [(8, 66), (112, 54)], STEM, 4)
    for k in range(24):
        x = 14 + 4.1 * k
        y = 66 - 0.115 * (x - 8)
        colour = inner if k < 9 else outer if k < 17 else tip
        for side in (-1, 1):
            page.line("needle", [(x, y), (x + 7, y + side * 26)], colour, 2.1)


def tree(page: Page, seed: str = "tree") -> None:
    """A leafy tree."""
    ground(page)
    page.shape("trunk", [(55, 106), (65, 106), (63, 56), (57, 56)], STEM, DARK, 0.8)
    crown(page, (60, 42), 78, 70, seed)


def bare_tree(page: Page) -> list[list[Point]]:
    """A tree without leaves; gives its branch ends."""
    ground(page)
    page.shape("trunk", [(54, 106), (66, 106), (62, 40), (58, 40)], STEM, DARK, 0.8)
    limbs: list[list[Point]] = [
        [(59, 66), (34, 46), (18, 40)],
        [(61, 66), (86, 46), (104, 42)],
        [(59, 54), (42, 28), (32, 12)],
        [(61, 54), (78, 28), (88, 12)],
        [(60, 44), (60, 22), (58, 6)],
    ]
    for limb in limbs:
        page.line("limb", limb, STEM, 3)
    return limbs


def base(page: Page) -> None:
    """The base of a stem with its root flare."""
    page.line("ground", [(4, 92), (116, 92)], SOIL, 1.6)
    page.shape("trunk", [(30, 94), (42, 78), (46, 0), (74, 0), (78, 78), (90, 94)], "#8b7a62", DARK)


def scattered(
    page: Page,
    part: str,
    places: Iterable[Point],
    radius: float,
    fill: str,
    line: str = "none",
    flat: float = 1.0,
) -> None:
    """The same mark at many places."""
    for place in places:
        page.dot(part, place, radius, fill, line, flat)


def caterpillar(page: Page, at: Point, length: float, colour: str) -> None:
    """A caterpillar."""
    for k in range(7):
        page.dot("caterpillar", (at[0] + k * length / 7, at[1] + 1.5 * math.sin(k)), length / 11, colour, INK)
