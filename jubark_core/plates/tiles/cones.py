"""Tiles of cones."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import FRUIT, WOOD
from jubark_core.plates.pen import Page

BROWN, DARK = WOOD["brown"]
TAN = FRUIT["brown"]


def _cone(page: Page, top: float, bottom: float, x: float = 60, wide: float = 20) -> None:
    for k in range(7):
        y = top + (bottom - top) * (k + 0.5) / 7
        half = wide * math.sin(math.pi * (0.14 + 0.76 * k / 6)) ** 0.6
        for j in range(-1, 2):
            page.dot(
                "scale",
                (x + j * half * 0.66 + (half * 0.3 if k % 2 else -half * 0.1), y),
                half * 0.42,
                *TAN,
                0.9,
            )


def _posture(page: Page, state: str) -> None:
    if state == "upright":
        page.line("branch", [(8, 96), (112, 90)], BROWN, 6)
        _cone(page, 14, 90)
    else:
        page.line("branch", [(8, 24), (112, 28)], BROWN, 6)
        page.line("stalk", [(60, 26), (60, 36)], BROWN, 3)
        _cone(page, 34, 110)


def _breaks_up(page: Page, state: str) -> None:
    page.line("branch", [(8, 100), (112, 96)], BROWN, 6)
    if state == "no":
        _cone(page, 14, 92)
        return
    page.line("spindle", [(60, 96), (60, 14)], DARK, 3)
    for k in range(3):
        for sign in (-1, 1):
            page.dot("scale", (60 + sign * 9, 84 - 10 * k), 8, *TAN, 0.6)
    for at in ((24, 60), (94, 44), (98, 72), (30, 84)):
        page.dot("fallen-scale", at, 7, *TAN, 0.6)


def _scale_edge(page: Page, state: str) -> None:
    top = []
    for i in range(31):
        a = math.pi * (1 + i / 30)
        r = 46 + (4.5 * (-1) ** i if state == "wavy_jagged" else 0)
        top.append((60 + r * math.cos(a), 66 + r * math.sin(a)))
    page.shape("scale", [*top, (74, 112), (46, 112)], *TAN, 1.6)


def _stalk(page: Page, state: str) -> None:
    page.line("branch", [(8, 16), (112, 16)], BROWN, 7)
    low = 44 if state == "yes" else 20
    if state == "yes":
        page.line("stalk", [(60, 16), (60, 46)], BROWN, 5)
    _cone(page, low, low + 68)


def _stays(page: Page, state: str) -> None:
    page.line("branch", [(8, 40), (112, 26)], BROWN, 13)
    page.line("young", [(88, 28), (114, 8)], BROWN, 4)
    for x in (24, 60, 96) if state == "stays_years" else ():
        _cone(page, 46, 92, x, 16)
        page.line("lichen", [(x - 6, 60), (x + 4, 62)], "#b9c2a8", 2)
    if state == "falls":
        page.line("ground", [(6, 112), (114, 112)], DARK, 1.4)
        for x in (32, 66):
            page.dot("cone", (x, 104), 12, *TAN, 0.55)


CONES: dict[str, Callable[[Page, str], None]] = {
    "cone.posture": _posture,
    "cone.breaks_up": _breaks_up,
    "cone.scale_edge": _scale_edge,
    "cone.stalked": _stalk,
    "cone.stays": _stays,
}
