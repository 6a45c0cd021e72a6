"""Tiles of buds."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import WOOD
from jubark_core.plates.pen import Page, Scatter
from jubark_core.plates.tiles.wood import BUD, BUD_LINE, bud, twig

BROWN, DARK = WOOD["brown"]


def _flattened(page: Page, state: str) -> None:
    bud(page, (34, 108), 88, 18)
    page.line("scale", [(34, 108), (34, 22)], BUD_LINE, 1)
    page.dot("section", (88, 62), 22, "#d9c3a0", BUD_LINE, 0.42)


def _section(page: Page, state: str) -> None:
    bud(page, (34, 104), 84, 17)
    n = 24 if state == "round" else 5
    ring = [
        (86 + 20 * math.cos(2 * math.pi * i / n - 1.57), 62 + 20 * math.sin(2 * math.pi * i / n - 1.57))
        for i in range(n)
    ]
    page.shape("section", ring, "#d9c3a0", BUD_LINE, 2)
    if state == "angled":
        page.line("edge", [(34, 104), (34, 24)], BUD_LINE, 1)


def _shed(page: Page, state: str) -> None:
    if state == "yes":
        bud(page, (60, 108), 92, 19)
        page.shape("bare", [(52, 100), (68, 100), (66, 40), (60, 22), (54, 40)], "#d9cdb2", BUD_LINE, 0.8)
        for k in range(5):
            page.line("silk", [(54 + 3 * k, 96), (57 + 1.6 * k, 40)], "#a7987a", 0.6)
        page.shape("scale", [(78, 112), (98, 104), (92, 92)], BUD, BUD_LINE, 1)
        page.shape("scale", [(20, 104), (38, 112), (26, 94)], BUD, BUD_LINE, 1)
        return
    bud(page, (60, 108), 92, 22)
    for k in range(4):
        y = 92 - 19 * k
        page.line("scale", [(40 + 3 * k, y), (60, y - 16), (80 - 3 * k, y)], BUD_LINE, 1.4)


def _end_gap(page: Page, state: str) -> None:
    top = 46 if state == "yes" else 62
    page.shape("twig", [(50, 116), (70, 116), (66, top), (54, top)], BROWN, DARK, 1.2)
    bud(page, (60, top + 2), 36, 11)
    for sign in (-1, 1):
        bud(page, (60 + sign * 8, 72 if state == "yes" else 66), 24, 7, sign * 0.3)


def _hairs_where(page: Page, state: str) -> None:
    bud(page, (60, 110), 96, 24)
    edges = [[(38 + 3.5 * k, 92 - 20 * k), (60, 76 - 20 * k), (82 - 3.5 * k, 92 - 20 * k)] for k in range(4)]
    for edge in edges:
        page.line("scale", edge, BUD_LINE, 1.3)
    rng = Scatter("bud hairs")
    if state == "scale_edges":
        for left, middle, right in edges:
            for a, b in ((left, middle), (middle, right)):
                for k in range(7):
                    x, y = a[0] + (b[0] - a[0]) * k / 7, a[1] + (b[1] - a[1]) * k / 7
                    page.line("hair", [(x, y), (x + 1, y - 5)], "#f0e6cc", 1)
    for _ in range({"upper_half": 60, "all_over": 120}.get(state, 0)):
        y = rng.between(22, 62 if state == "upper_half" else 106)
        x = 60 + rng.between(-1, 1) * 20 * math.sin(math.pi * (110 - y) / 96) ** 0.7
        page.line("hair", [(x, y), (x + 1.4, y - 6)], "#f0e6cc", 1)


def _sticky(page: Page, state: str) -> None:
    bud(page, (60, 110), 92, 22)
    for k in range(4):
        page.line(
            "scale", [(40 + 3 * k, 92 - 19 * k), (60, 76 - 19 * k), (80 - 3 * k, 92 - 19 * k)], BUD_LINE, 1.3
        )
    if state == "yes":
        page.shape("shine", [(50, 88), (53, 50), (57, 34), (56, 60), (53, 90)], "#f0d9a8")
        for at in ((76, 74), (68, 40), (84, 96)):
            page.dot("resin", at, 4, "#d99a3c", "#8a5a1c", 1.4)


def _side_buds(page: Page, state: str) -> None:
    twig(page, 18, 40)
    if state == "stacked":
        for k, long in enumerate((26, 18, 12)):
            bud(page, (50, 46 + 20 * k), long, long * 0.3, 0.6)
    elif state == "hidden":
        page.dot("scar", (44, 74), 7, "#d8c9a4", DARK, 0.8)
        page.line("slit", [(40, 62), (48, 62)], DARK, 2)
    else:
        bud(page, (49, 70), 34 if state == "pointed" else 22, 8 if state == "pointed" else 12, 0.6)
    if state != "hidden":
        page.dot("scar", (46, 108 if state == "stacked" else 78), 5, "#d8c9a4", DARK, 0.7)


def _flower_buds(page: Page, state: str) -> None:
    page.line("twig", [(36, 116), (60, 12)], BROWN, 7)
    bud(page, (60, 14), 12, 4, 0.1)
    if state == "catkins":
        for k, x in enumerate((74, 88, 101)):
            page.line("stalk", [(54, 40), (x, 44)], DARK, 1.2)
            for j in range(9):
                page.dot("catkin", (x, 47 + 4.6 * j), 4.2 - 0.2 * k, "#a88a5c", DARK, 0.7)
        return
    for i, (x, y) in enumerate(((47, 70), (41, 96), (54, 42))):
        if state == "round_clusters":
            for dx, dy in ((10, 0), (17, -5), (15, 6), (23, 1)):
                page.dot("flower-bud", (x + dx, y + dy), 4.6, BUD, BUD_LINE)
        elif state == "larger_overlapping":
            bud(page, (x + 4, y), 26, 10, 0.75, "flower-bud")
        elif state == "stalked":
            page.line("stalk", [(x, y), (x + 18, y - 12)], DARK, 1.4)
            page.dot("flower-bud", (x + 22, y - 15), 7, BUD, BUD_LINE)
        elif state in ("long_capped", "short_capped"):
            long = 22.0 if state == "long_capped" else 8.0
            page.shape(
                "flower-bud",
                [(x + 8, y + 5), (x + 20, y - 1), (x + 16, y - 12), (x + 4, y - 6)],
                "#9aa368",
                "#3f4a24",
                1,
            )
            page.shape(
                "cap",
                [(x + 4, y - 6), (x + 16, y - 12), (x + 10 + long * 0.3, y - 10 - long)],
                "#c7a951",
                "#62511d",
                1,
            )
        else:
            bud(page, (x + 4, y), 15, 5, 0.75, "leaf-bud" if i else "bud")


def _accessory(page: Page, state: str) -> None:
    page.line("twig", [(42, 116), (42, 4)], BROWN, 22)
    page.shape("scar", [(44, 92), (62, 86), (64, 98), (54, 106), (44, 104)], "#d8c9a4", DARK, 1.2)
    bud(page, (56, 86), 26, 9, 0.6)
    if state == "superposed":
        bud(page, (54, 50), 30, 10, 0.6)
    elif state == "collateral":
        bud(page, (48, 86), 24, 8, -0.25)
        bud(page, (62, 90), 24, 8, 1.3)


def _scale_tips(page: Page, state: str) -> None:
    page.line("twig", [(60, 116), (60, 92)], BROWN, 16)
    bud(page, (60, 96), 84, 27)
    for row in range(3):
        for sign in (-1, 1):
            y, x = 88 - 24 * row, 26 - 5 * row
            out = 15 if state == "bent_back" else -6
            edge = [(60 + sign * 4, y), (60 + sign * x, y - 14), (60 + sign * (x + out), y - 25)]
            page.line("scale", edge, BUD_LINE, 2.2 if state == "bent_back" else 1.4)


def _winter_catkins(page: Page, state: str) -> None:
    page.line("twig", [(34, 116), (62, 34)], BROWN, 6)
    for x, y, lean in ((44, 86, 0.9), (54, 58, -0.9)):
        bud(page, (x, y), 16, 5, lean)
    bud(page, (62, 36), 18, 6, 0.3)
    for k in range(3 if state == "shown" else 0):
        a = 0.35 + 0.5 * k
        for j in range(8):
            r = 6 + 5.2 * j
            page.dot("catkin", (64 + r * math.sin(a), 34 - r * math.cos(a)), 4, "#a88a5c", DARK, 0.8)


BUDS: dict[str, Callable[[Page, str], None]] = {
    "bud.form flattened": _flattened,
    "bud.section": _section,
    "bud.outer_scales_shed": _shed,
    "bud.end_gap": _end_gap,
    "bud.hairs_where": _hairs_where,
    "bud.sticky": _sticky,
    "bud.side_buds": _side_buds,
    "bud.flower_buds": _flower_buds,
    "bud.accessory": _accessory,
    "bud.scale_tips": _scale_tips,
    "bud.winter_catkins": _winter_catkins,
}
