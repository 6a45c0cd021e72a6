"""Tiles of what a fruit holds and what a lens shows on it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable

from jubark_core.plates.colours import FRUIT, WOOD
from jubark_core.plates.pen import Page, turned
from jubark_core.plates.tiles.fruits import cut_fruit

BROWN, DARK = WOOD["brown"]
RED = FRUIT["red"]
PINK = FRUIT["pink"]
TAN = FRUIT["brown"]


def _stones(page: Page, state: str) -> None:
    cut_fruit(page, FRUIT["purple"], "#d8a9b5")
    if state == "one":
        page.dot("stone", (60, 68), 17, TAN[0], TAN[1], 1.2)
        return
    number, far, size = (4, 15.0, 8.5) if state == "few" else (14, 27.0, 4.2)
    for k in range(number):
        a = k * 2.4 if state == "many" else math.pi * k / 2 + 0.8
        r = far * math.sqrt((k + 0.6) / number) if state == "many" else far
        page.dot("stone", (60 + r * math.cos(a), 67 + r * math.sin(a)), size, TAN[0], TAN[1], 1.2)


def _aril(page: Page, state: str) -> None:
    page.line("stalk", [(60, 4), (60, 26)], DARK, 2.4)
    if state == "cup":
        page.shape(
            "aril", [(44, 26), (76, 26), (94, 54), (90, 92), (76, 104), (44, 104), (30, 92), (26, 54)], *RED
        )
        page.dot("opening", (60, 97), 20, "#7a231a", DARK, 0.5)
        page.dot("seed", (60, 95), 11, "#5a5a34", DARK, 1.2)
    elif state == "coat":
        for sign in (-1, 0, 1):
            page.shape(
                "valve",
                turned(
                    [(-16, -30), (16, -30), (20, 4), (0, 14), (-20, 4)],
                    sign * 1.0,
                    shift=(60 + 26 * sign, 56),
                ),
                *PINK,
                1.2,
            )
        for sign in (-1, 1):
            page.line("thread", [(60, 52), (60 + sign * 17, 84)], DARK, 1.4)
            page.dot("aril", (60 + sign * 18, 92), 14, *FRUIT["orange"], 1.15)
    else:
        page.dot("fruit", (60, 66), 40, *RED)


def _seed_shape(page: Page, state: str) -> None:
    if state == "crescent":
        outer = [
            (60 + 44 * math.cos(a), 60 + 44 * math.sin(a)) for a in (0.7 + 4.9 * k / 20 for k in range(21))
        ]
        inner = [
            (66 + 22 * math.cos(a), 60 + 22 * math.sin(a)) for a in (5.4 - 4.5 * k / 20 for k in range(21))
        ]
        page.shape("seed", outer + inner, *TAN, 1.6)
        for k in range(1, 20, 2):
            page.line("ridge", [outer[k], inner[20 - k]], TAN[1], 1)
        return
    if state == "three_sided":
        page.shape("seed", [(60, 10), (98, 84), (60, 108), (22, 84)], *TAN, 1.6)
        page.line("edge", [(60, 10), (60, 108)], TAN[1], 1.6)
        return
    if state == "pear":
        half = [(6, 12), (12, 34), (30, 62), (34, 84), (22, 102)]
        page.shape("seed", [(60 + x, y) for x, y in half] + [(60 - x, y) for x, y in half[::-1]], *TAN, 1.6)
        return
    if state == "flat":
        page.dot("seed", (42, 60), 32, TAN[0], TAN[1])
        page.dot("seed-from-the-side", (98, 60), 6, TAN[0], TAN[1], 5.3)
        return
    page.dot(
        "seed", (60, 60), 40 if state == "round" else 31, TAN[0], TAN[1], 1.0 if state == "round" else 1.45
    )


def _wing_edge(page: Page, state: str) -> None:
    wing = [(60 + 44 * math.cos(a), 60 + 50 * math.sin(a)) for a in (math.pi * k / 24 for k in range(48))]
    page.shape("wing", wing, "#d8d0a0", DARK, 1.2)
    page.dot("seed", (60, 62), 17, TAN[0], TAN[1], 1.3)
    for x, y in wing if state == "hair_fringed" else ():
        page.line("hair", [(x, y), (60 + (x - 60) * 1.16, 60 + (y - 60) * 1.16)], DARK, 1.1)


def _ball_surface(page: Page, state: str) -> None:
    page.line("stalk", [(60, 2), (60, 24)], DARK, 2.4)
    page.dot("ball", (60, 66), 38, TAN[0], TAN[1])
    for k in range(30):
        a = 2 * math.pi * k / 30
        near = (60 + 37 * math.cos(a), 66 + 37 * math.sin(a))
        if state == "bristly":
            page.line("bristle", [near, (60 + 50 * math.cos(a), 66 + 50 * math.sin(a))], TAN[1], 1)
        elif state == "beaked" and k % 3 == 0:
            left, right = a - 0.13, a + 0.13
            page.shape(
                "beak",
                [
                    (60 + 36 * math.cos(left), 66 + 36 * math.sin(left)),
                    (60 + 52 * math.cos(a), 66 + 52 * math.sin(a)),
                    (60 + 36 * math.cos(right), 66 + 36 * math.sin(right)),
                ],
                *TAN,
                1,
            )
    for k in range(24):
        r, a = 32 * math.sqrt((k + 0.5) / 24), k * 2.4
        page.dot("nutlet", (60 + r * math.cos(a), 66 + r * math.sin(a)), 3, TAN[1])


def _bract_edge(page: Page, state: str) -> None:
    half = [(6, 108), (8, 78), (44, 62), (48, 40), (20, 52), (14, 30)]
    bract = [(60 + x, y) for x, y in half] + [(60, 8)] + [(60 - x, y) for x, y in half[::-1]]
    page.shape("bract", bract, *TAN, 1.4)
    for (ax, ay), (bx, by) in itertools.pairwise(bract) if state == "hair_fringed" else ():
        for k in range(5):
            x, y = ax + (bx - ax) * k / 5, ay + (by - ay) * k / 5
            page.line("hair", [(x, y), (60 + (x - 60) * 1.2, y - 5)], DARK, 1)


def _tip_rings(page: Page, state: str) -> None:
    """The acorn from its tip."""
    page.dot("nut", (60, 60), 50, *TAN)
    page.dot("point", (60, 60), 5, DARK)
    for r in (13, 19, 25) if state == "yes" else ():
        ring = [(60 + r * math.cos(a), 60 + r * math.sin(a)) for a in (math.pi * k / 16 for k in range(33))]
        page.line("ring", ring, DARK, 1.3)


def _capsule_lobes(page: Page, state: str) -> None:
    """The capsule from its end."""
    depth = {"round": 0.0, "shallow": 0.16, "deep": 0.44}[state]
    points = []
    for k in range(80):
        a = 2 * math.pi * k / 80
        r = 48 * (1 - depth * (0.5 + 0.5 * math.cos(4 * a)) ** 2)
        points.append((60 + r * math.cos(a), 60 + r * math.sin(a)))
    page.shape("capsule", points, *PINK, 1.6)
    for k in range(4):
        a = math.pi * k / 2
        r = 46 * (1 - depth)
        page.line("seam", [(60, 60), (60 + r * math.cos(a), 60 + r * math.sin(a))], PINK[1], 1.4)


SEEDS: dict[str, Callable[[Page, str], None]] = {
    "fruit.stones": _stones,
    "fruit.aril": _aril,
    "fruit.seed_shape": _seed_shape,
    "fruit.wing_edge": _wing_edge,
    "fruit.ball_surface": _ball_surface,
    "fruit.bract_edge": _bract_edge,
    "fruit.tip_rings": _tip_rings,
    "fruit.capsule_lobes": _capsule_lobes,
}
