"""Tiles of flowers."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import FRUIT, LEAF, WOOD
from jubark_core.plates.pen import Page, Point

BROWN, DARK = WOOD["brown"]
PINK = FRUIT["pink"]
GREEN, LINE = LEAF["green"]


def stalked(
    page: Page, foot: Point, tip: Point, part: str, tones: tuple[str, str], size: float = 4.6
) -> None:
    """A flower or fruit on its stalk."""
    page.line("stalk", [foot, tip], LINE, 1.2)
    page.dot(part, tip, size, *tones)


def _flower_cluster(page: Page, state: str) -> None:
    if state == "along_bare_twig":
        page.line("twig", [(14, 104), (106, 22)], BROWN, 5)
        for k in range(9):
            x, y = 22.0 + 10 * k, 97.0 - 9 * k
            page.dot("flower", (x + (4 if k % 2 else -4), y + (4 if k % 2 else -4)), 4.4, *PINK)
        return
    if state in ("raceme_drooping", "catkin"):
        page.line("twig", [(20, 14), (100, 14)], BROWN, 4)
        page.line("axis", [(60, 14), (60, 110)], LINE, 1.6)
        for k in range(10):
            sign, y = (1 if k % 2 else -1), 28.0 + 8.4 * k
            if state == "catkin":
                for side in (-1, 1):
                    page.dot("flower", (60 + side * 4, y), 5, *FRUIT["yellow"], 0.8)
            else:
                stalked(page, (60, y - 5), (60 + sign * 13, y + 2), "flower", PINK)
        return
    page.line("axis", [(60, 116), (60, 66 if state in ("umbel", "corymb") else 26)], LINE, 2)
    if state in ("single", "few"):
        for k in range(1 if state == "single" else 3):
            lean = 0.0 if state == "single" else (k - 1) * 0.5
            stalked(page, (60, 70), (60 + 44 * math.sin(lean), 70 - 44 * math.cos(lean)), "flower", PINK, 10)
    elif state == "axil_cluster":
        page.line("stem", [(60, 116), (60, 8)], BROWN, 4)
        for y in (88, 44):
            page.dot("leaf", (90, y - 12), 16, GREEN, LINE, 0.5)
            for k in range(4):
                stalked(page, (62, y), (70 + 5 * (k % 2), y + 4 - 6 * k), "flower", PINK)
    elif state == "umbel":
        for k in range(9):
            a = -1.15 + 2.3 * k / 8
            stalked(page, (60, 66), (60 + 44 * math.sin(a), 66 - 44 * math.cos(a)), "flower", PINK)
    elif state == "corymb":
        for k in range(9):
            stalked(page, (60, 100 - 4 * abs(k - 4) if k != 4 else 66), (20 + 10 * k, 40), "flower", PINK)
    elif state == "raceme_upright":
        for k in range(11):
            sign = 1 if k % 2 else -1
            stalked(page, (60, 100 - 7 * k), (60 + sign * (16 - k), 95 - 7 * k), "flower", PINK)
        page.dot("flower", (60, 22), 4, *PINK)
    else:  # panicle
        for k in range(5):
            for sign in (-1, 1):
                y, long = 98 - 16 * k, 40 - 7 * k
                tip = (60 + sign * long, y - long * 0.5)
                page.line("branch", [(60, y), tip], LINE, 1.2)
                for j in range(1, 4):
                    at = (60 + sign * long * j / 3, y - long * 0.5 * j / 3)
                    page.dot("flower", (at[0], at[1] - 4), 3.6, *PINK)
        page.dot("flower", (60, 22), 4, *PINK)


def _before_leaves(page: Page, state: str) -> None:
    page.line("twig", [(20, 108), (100, 16)], BROWN, 5)
    for k in range(5):
        x, y = 32 + 14 * k, 94 - 16 * k
        page.dot("flower", (x - 9, y - 2), 7, *PINK)
        if state == "no":
            page.dot("leaf", (x + 13, y + 5), 11, GREEN, LINE, 0.55)


def _ten_in_pockets(page: Page, state: str) -> None:
    page.dot("corolla", (60, 60), 50, *PINK)
    for k in range(10):
        a = math.pi * k / 5
        far = (60 + 40 * math.cos(a), 60 + 40 * math.sin(a))
        page.line("stamen", [(60, 60), far], DARK, 1.4)
        page.dot("pocket", far, 6, "#e6b8bd", DARK)
        page.dot("anther", far, 2.6, "#8a5a1c")
    page.dot("style", (60, 60), 4, GREEN, LINE)


def _ten(page: Page, state: str) -> None:
    for k in range(5):
        a = 2 * math.pi * k / 5
        page.dot("petal", (60 + 28 * math.cos(a), 60 + 28 * math.sin(a)), 24, *PINK)
    for k in range(10):
        a = math.pi * k / 5 + 0.3
        tip = (60 + 34 * math.cos(a), 60 + 34 * math.sin(a))
        page.line("stamen", [(60, 60), tip], DARK, 1.3)
        page.dot("anther", tip, 3.6, "#c9a02f", DARK)


def _tube(page: Page, state: str) -> None:
    """A flower from the side, its stalk below."""
    page.line("stalk", [(60, 118), (60, 100)], LINE, 3)
    if state == "no_tube":
        for k in range(-2, 3):
            page.line("petal-foot", [(60, 98), (60 + 10 * k, 80)], PINK[1], 2)
            page.dot("petal", (60 + 21 * k, 60 + 6 * abs(k)), 14, *PINK, 1.4)
        page.dot("cup", (60, 100), 9, GREEN, LINE, 0.8)
        return
    top = {"shorter": 84.0, "equal": 66.0, "longer": 40.0}[state]
    page.shape("tube", [(55, 102), (65, 102), (70, top), (50, top)], *PINK, 1.2)
    for sign in (-1, 1):
        page.shape(
            "lobe",
            [
                (60, top + 3),
                (60 + sign * 10, top - 2),
                (60 + sign * 40, top - 12),
                (60 + sign * 34, top - 26),
                (60 + sign * 8, top - 10),
            ],
            *PINK,
            1.2,
        )
    page.shape("lobe", [(52, top), (68, top), (70, top - 24), (60, top - 34), (50, top - 24)], *PINK, 1.2)
    page.dot("cup", (60, 104), 9, GREEN, LINE, 0.8)


def _catkins_stand(page: Page, state: str) -> None:
    up = state == "erect"
    page.line("twig", [(12, 74), (108, 62)] if up else [(12, 24), (108, 14)], BROWN, 5)
    for k in range(3):
        x = 30 + 28 * k
        y = (72 - 3.5 * k) if up else (24 - 3 * k)
        for j in range(9):
            page.dot(
                "flower", (x + (2 * (j % 2)), y + (-1 if up else 1) * (8 + 6.6 * j)), 5, *FRUIT["yellow"], 0.8
            )


FLOWERS: dict[str, Callable[[Page, str], None]] = {
    "flower.stamens ten_in_pockets": _ten_in_pockets,
    "flower.cluster": _flower_cluster,
    "flower.before_leaves": _before_leaves,
    "flower.stamens ten": _ten,
    "flower.tube": _tube,
    "flower.catkins_stand": _catkins_stand,
}
