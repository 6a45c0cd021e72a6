"""Tiles of fruit, cone and sap."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import FRUIT, LEAF, WOOD
from jubark_core.plates.pen import Page, Point, turned
from jubark_core.plates.tiles.flowers import stalked

BROWN, DARK = WOOD["brown"]
RED = FRUIT["red"]
TAN = FRUIT["brown"]
GREEN, LINE = LEAF["green"]


def fruit_outline(state: str) -> list[Point]:
    """A fruit by the name of its shape, in a square of 100 around (60, 60)."""
    turn = [2 * math.pi * i / 40 for i in range(40)]
    wide, tall = {
        "round": (36, 36),
        "oval": (28, 40),
        "oblong": (24, 44),
        "flat": (46, 20),
        "long_narrow": (11, 52),
    }.get(state, (30, 38))
    if state == "half_sphere":
        return [
            (60 - 44, 44),
            (60 + 44, 44),
            *[
                (60 + 44 * math.cos(a), 44 + 44 * math.sin(a))
                for a in (math.pi * i / 16 for i in range(1, 16))
            ],
        ]
    if state == "egg":
        return [
            (
                60 + (30 - 6 * math.sin(a - 1.57)) * math.cos(a) * (1 + 0.18 * math.sin(a)),
                60 + 42 * math.sin(a),
            )
            for a in turn
        ]
    if state == "urn":
        half = [(14, 14), (11, 24), (22, 42), (32, 66), (28, 92), (14, 106)]
        return [*[(60 + x, y) for x, y in half], *[(60 - x, y) for x, y in half[::-1]]]
    if state == "cup":
        half = [(40, 26), (36, 60), (24, 92), (10, 104)]
        return [*[(60 + x, y) for x, y in half], *[(60 - x, y) for x, y in half[::-1]]]
    if state == "barrel":
        half = [(22, 18), (34, 44), (34, 76), (22, 102)]
        return [*[(60 + x, y) for x, y in half], *[(60 - x, y) for x, y in half[::-1]]]
    if state == "oblong":
        return [
            (
                60 + wide * math.copysign(abs(math.cos(a)) ** 0.6, math.cos(a)),
                60 + tall * math.copysign(abs(math.sin(a)) ** 0.8, math.sin(a)),
            )
            for a in turn
        ]
    return [(60 + wide * math.cos(a), 60 + tall * math.sin(a)) for a in turn]


def _fruit_shape(page: Page, state: str) -> None:
    page.line("stalk", [(60, 4), (60, 30)], DARK, 2)
    if state == "winged":
        page.shape(
            "wing", [(60, 30), (82, 50), (84, 92), (66, 112), (54, 108), (50, 60)], "#cdb98a", DARK, 1.2
        )
        page.dot("seed", (60, 40), 11, TAN[0], DARK)
        return
    page.shape("fruit", fruit_outline(state), TAN[0], TAN[1], 1.6)


def _fruit_cluster(page: Page, state: str) -> None:
    if state == "drooping_chain":
        page.line("axis", [(60, 4), (62, 112)], LINE, 1.6)
        for k in range(11):
            stalked(page, (60, 10 + 9 * k), (60 + (11 if k % 2 else -11), 16 + 9 * k), "fruit", RED, 5)
        return
    page.line("twig", [(60, 118), (60, 60 if state == "end_cluster" else 6)], BROWN, 4)
    if state in ("single", "few"):
        for k in range(1 if state == "single" else 3):
            stalked(page, (60, 50), (84 + 6 * (k % 2), 58 + 15 * k), "fruit", RED, 8)
    elif state == "axil_cluster":
        for y in (92, 48):
            page.dot("leaf", (92, y - 16), 16, GREEN, LINE, 0.5)
            for k in range(5):
                page.dot("fruit", (68 + 6 * (k % 2), y + 6 - 5 * k), 5, *RED)
    elif state == "end_cluster":
        for k in range(15):
            a, r = k * 2.4, 26 * math.sqrt((k + 0.5) / 15)
            stalked(page, (60, 64), (60 + r * math.cos(a) * 1.2, 34 + r * math.sin(a) * 0.8), "fruit", RED, 5)
    else:
        for k in range(5):
            sign = 1 if k % 2 else -1
            stalked(page, (60, 20 + 20 * k), (60 + sign * 34, 28 + 20 * k), "fruit", RED, 6)


def _acorn(page: Page, at: Point, size: float) -> None:
    x, y = at
    page.shape(
        "nut",
        [
            (x - size, y),
            (x + size, y),
            (x + size * 0.8, y + size * 1.6),
            (x, y + size * 2.2),
            (x - size * 0.8, y + size * 1.6),
        ],
        *TAN,
        1,
    )
    page.dot("cup", (x, y), size * 1.2, BROWN, DARK, 0.6)


def _young_on_twig(page: Page, state: str) -> None:
    page.line("old-wood", [(16, 112), (62, 66)], DARK, 7)
    page.line("new-wood", [(62, 66), (104, 22)], WOOD["green"][0], 4.5)
    page.dot("ring", (62, 66), 5, BROWN, DARK)
    if state == "yes":
        _acorn(page, (34, 78), 11)
        for at in ((78, 38), (92, 26)):
            _acorn(page, at, 3.4)
    else:
        for at in ((74, 46), (90, 34)):
            _acorn(page, at, 11)


def _wing_reach(page: Page, state: str) -> None:
    foot = {"tip": 66.0, "half": 88.0, "to_base": 108.0}[state]
    page.shape(
        "wing",
        [(60, foot), (48, min(foot, 70)), (46, 34), (60, 8), (74, 34), (72, min(foot, 70))],
        "#cdb98a",
        DARK,
        1.2,
    )
    page.shape("seed", [(60, 112), (54, 96), (54, 78), (60, 64), (66, 78), (66, 96)], *TAN, 1.4)


def _sap(page: Page, state: str) -> None:
    page.shape("stalk", [(48, 4), (72, 4), (70, 52), (50, 52)], GREEN, LINE, 1.4)
    page.dot("break", (60, 52), 10, "#dfe6c2", LINE, 0.4)
    colour = {"watery": "#d5e2e6", "milky": "#fdfdf8", "resin": "#e2ad4a", "mucilage": "#dfe3c8"}[state]
    if state == "mucilage":
        for k in range(4):
            page.line("thread", [(52 + 5 * k, 56), (46 + 9 * k, 104)], "#8a9a72", 1.4)
        page.line("finger", [(36, 108), (84, 108)], "#c99a7a", 12)
        return
    for x, y, r in ((60, 70, 8), (57, 96, 10)):
        page.shape(
            "drop",
            [
                *turned([(0, -r * 1.7)], 0, shift=(x, y)),
                *[
                    (x + r * math.cos(a), y + r * math.sin(a))
                    for a in (math.pi * i / 12 - 0.5 for i in range(18))
                ],
            ],
            colour,
            "#5b5547",
            1.2,
        )


def cut_fruit(page: Page, flesh: tuple[str, str], pale: str) -> None:
    """A fleshy fruit cut lengthwise on its stalk."""
    page.line("stalk", [(60, 4), (60, 24)], DARK, 2.4)
    page.dot("skin", (60, 66), 44, *flesh)
    page.dot("flesh", (60, 66), 39, pale)


def _drupe(page: Page, state: str) -> None:
    cut_fruit(page, FRUIT["purple"], "#d8a9b5")
    page.dot("stone", (60, 68), 17, TAN[0], TAN[1], 1.25)


def _berry(page: Page, state: str) -> None:
    cut_fruit(page, RED, "#dd9285")
    for k in range(6):
        a = math.pi * k / 3
        page.dot("seed", (60 + 19 * math.cos(a), 66 + 19 * math.sin(a)), 5.5, "#efe0b0", DARK, 1.2)


def _pome(page: Page, state: str) -> None:
    cut_fruit(page, RED, "#f0e6c0")
    page.shape("core", [(60, 40), (76, 62), (60, 90), (44, 62)], "#f7f1d8", DARK, 1)
    for sign in (-1, 1):
        page.shape("seed", [(60 + sign * 4, 60), (60 + sign * 11, 66), (60 + sign * 4, 76)], DARK)
    for sign in (-1, 0, 1):
        page.line("calyx", [(60, 108), (60 + sign * 8, 117)], DARK, 2)


def _hip(page: Page, state: str) -> None:
    page.line("stalk", [(60, 4), (60, 22)], DARK, 2.4)
    page.shape(
        "skin", [(50, 22), (70, 22), (94, 50), (92, 82), (72, 100), (48, 100), (28, 82), (26, 50)], *RED, 1.4
    )
    page.shape(
        "hollow",
        [(52, 34), (68, 34), (82, 54), (80, 78), (68, 92), (52, 92), (40, 78), (38, 54)],
        "#f0d9b0",
        DARK,
        0.8,
    )
    for k in range(7):
        page.dot("nutlet", (48 + 12 * (k % 3), 48 + 14 * (k // 3)), 4.6, TAN[0], DARK, 1.3)
    for sign in (-1.6, -0.7, 0.7, 1.6):
        page.line("sepal", [(60 + sign * 6, 100), (60 + sign * 12, 117)], LINE, 2.4)


def _husk(page: Page, state: str) -> None:
    if state == "none":
        page.dot("nut", (60, 62), 34, *TAN, 1.1)
        return
    page.dot("husk", (60, 62), 44, *FRUIT["green"], 1.05)
    for k in range(34 if state == "spiny" else 0):
        a = 2 * math.pi * k / 34
        page.line(
            "spine",
            [(60 + 44 * math.cos(a), 62 + 46 * math.sin(a)), (60 + 55 * math.cos(a), 62 + 57 * math.sin(a))],
            DARK,
            1.4,
        )
    for k in range(16 if state == "sticky" else 0):
        page.dot(
            "sticky-hair",
            (60 + 34 * math.cos(k * 2.4) * (k / 16) ** 0.5, 62 + 36 * math.sin(k * 2.4) * (k / 16) ** 0.5),
            3.4,
            "#d99a3c",
            DARK,
        )
    if state in ("splits_part", "splits_to_base"):
        foot = 66.0 if state == "splits_part" else 108.0
        for sign in (-1, 1):
            page.shape(
                "nut",
                [(60 + sign * 20, 22), (60 + sign * 24, 20), (60 + sign * 2, foot), (60 + sign * 1, foot)],
                TAN[0],
                DARK,
                1,
            )
        page.line("seam", [(60, 17), (60, foot)], DARK, 2.6)


def _cap(page: Page, state: str) -> None:
    low = {"shallow": 46.0, "bowl": 62.0, "deep": 88.0, "fringed": 70.0}[state]
    page.line("stalk", [(60, 4), (60, 26)], DARK, 3)
    page.shape("nut", [(32, 40), (88, 40), (86, 80), (72, 104), (60, 114), (48, 104), (34, 80)], *TAN, 1.4)
    page.shape("cap", [(28, low), (30, 36), (44, 25), (76, 25), (90, 36), (92, low)], BROWN, DARK, 1.4)
    for row in range(int((low - 30) / 9)):
        for k in range(6):
            page.line(
                "cap-scale",
                [(34 + 9 * k, 34 + 9 * row), (38 + 9 * k, 38 + 9 * row), (42 + 9 * k, 34 + 9 * row)],
                DARK,
                1,
            )
    for k in range(17 if state == "fringed" else 0):
        page.line("fringe", [(28 + 4 * k, low), (26 + 4.25 * k, low + 12)], DARK, 1.6)


def _valves(page: Page, state: str) -> None:
    rim = 52.0
    page.shape("capsule", [(22, rim), (98, rim), (88, 92), (68, 116), (52, 116), (32, 92)], *TAN, 1.6)
    page.dot("disc", (60, rim), 38, TAN[0], DARK, 0.28)
    top = {"standing_out": rim - 26, "level": rim - 2, "enclosed": rim + 18}[state]
    for k in range(3):
        x = 38 + 22 * k
        page.shape(
            "valve",
            [
                (x - 9, rim + (8 if state == "enclosed" else 2)),
                (x, top + (12 if state == "enclosed" else 0)),
                (x + 9, rim + (8 if state == "enclosed" else 2)),
            ],
            DARK if state == "enclosed" else "#6a4a30",
            DARK,
            1,
        )


def _yew_fruit(page: Page, state: str) -> None:
    page.line("twig", [(12, 20), (108, 20)], BROWN, 5)
    for k in range(9):
        page.line("needle", [(16 + 11 * k, 20), (12 + 11 * k, 44 if k % 2 else 4)], LINE, 3)
    page.shape("aril", [(46, 32), (74, 32), (88, 56), (84, 88), (36, 88), (32, 56)], *RED, 1.4)
    page.dot("opening", (60, 86), 18, "#7a231a", DARK, 0.45)
    page.dot("seed", (60, 84), 9, "#5a5a34", DARK, 1.2)


FRUITS: dict[str, Callable[[Page, str], None]] = {
    "fruit.kind drupe": _drupe,
    "fruit.kind berry": _berry,
    "fruit.kind pome": _pome,
    "fruit.kind hip": _hip,
    "fruit.husk": _husk,
    "fruit.cap": _cap,
    "fruit.valves": _valves,
    "fruit.shape": _fruit_shape,
    "fruit.cluster": _fruit_cluster,
    "fruit.young_on_twig": _young_on_twig,
    "fruit.wing_reach": _wing_reach,
    "sap.kind": _sap,
    "fruit.kind aril": _yew_fruit,
}
