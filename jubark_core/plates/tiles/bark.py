"""Tiles of bark."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import BARK
from jubark_core.plates.pen import Page, Point, Scatter

FURROW = {
    "same": BARK["dark_grey"][0],
    "tan": "#c2a06a",
    "pink": "#cf9a86",
    "orange_red": BARK["orange_red"][0],
}


def _ridge_top(page: Page, state: str) -> None:
    profile: list[Point] = [(4, 92)]
    for k in range(4):
        x = 8 + 28 * k
        tops: dict[str, list[Point]] = {
            "flat": [(x, 88), (x + 3, 40), (x + 18, 40), (x + 21, 88)],
            "rounded": [
                (x, 88),
                *[
                    (x + 10.5 - 10.5 * math.cos(a), 86 - 46 * math.sin(a))
                    for a in (math.pi * i / 8 for i in range(9))
                ],
                (x + 21, 88),
            ],
            "sharp": [(x, 88), (x + 10.5, 34), (x + 21, 88)],
        }
        profile += tops[state]
    page.shape("ridges", [*profile, (116, 92), (116, 112), (4, 112)], BARK["brown"][0], BARK["brown"][1], 1.4)


def _furrow(page: Page, state: str) -> None:
    page.shape("furrow", [(8, 8), (112, 8), (112, 112), (8, 112)], FURROW[state], "none")
    for x in (8, 46, 84):
        page.shape(
            "ridge",
            [(x, 8), (x + 26, 8), (x + 22, 60), (x + 28, 112), (x, 112), (x + 4, 60)],
            *BARK["dark_grey"],
            1,
        )


def _cut_layers(page: Page, state: str) -> None:
    page.shape("bark", [(10, 18), (110, 18), (110, 102), (10, 102)], BARK["brown"][0], BARK["brown"][1], 1.4)
    for k in range(6 if state == "pale_dark_layers" else 0):
        y = 24 + 13 * k
        page.shape("pale-layer", [(10, y), (110, y - 3), (110, y + 3), (10, y + 6)], "#e6d6b8")


def _furrows(page: Page, state: str) -> None:
    """A slice across the bark with a fingertip laid on it."""
    depth = {"none": 0.0, "shallow": 14.0, "deep": 46.0}[state]
    top: list[Point] = [(4, 56)]
    for x in (22, 60, 98):
        top += [(x - 12, 56), (x - 3, 56 + depth), (x + 3, 56 + depth), (x + 12, 56)]
    page.shape("bark", [*top, (116, 56), (116, 112), (4, 112)], BARK["brown"][0], BARK["brown"][1], 1.4)
    page.line("wood", [(4, 108), (116, 108)], "#e6d9b8", 7)
    foot = 54 + min(depth, 30.0)
    page.shape(
        "finger",
        [(50, 4), (70, 4), (70, foot - 10), (66, foot - 3), (60, foot), (54, foot - 3), (50, foot - 10)],
        "#e2c2a4",
        "#7a5a40",
        1.2,
    )


def _diamonds(page: Page, state: str) -> None:
    pale = BARK["light_grey" if state != "net" else "brown"]
    page.shape("bark", [(10, 8), (110, 8), (110, 112), (10, 112)], *pale, 1.2)
    if state == "pits":
        rng = Scatter("pits")
        for k in range(12):
            x, y = 22 + 25 * (k % 4) + rng.between(-6, 6), 24 + 34 * (k // 4) + rng.between(-8, 8)
            page.shape("diamond", [(x - 6, y), (x, y - 8), (x + 6, y), (x, y + 8)], *BARK["black"], 0.8)
    elif state == "net":
        for row in range(3):
            for k in range(4):
                x, y = 14 + 26 * k + (13 if row % 2 else 0), 26 + 34 * row
                page.shape("diamond", [(x - 8, y), (x, y - 24), (x + 8, y), (x, y + 24)], *BARK["black"], 0.8)
    else:
        for k in range(5):
            page.line("lenticel", [(26 + 15 * k, 30 + 14 * k), (38 + 15 * k, 30 + 14 * k)], pale[1], 1.2)


def _needle_tufts(page: Page, state: str) -> None:
    page.shape("bark", [(34, 4), (86, 4), (86, 116), (34, 116)], *BARK["red_brown"], 1.4)
    for y in range(10, 116, 15):
        for x in (36, 54, 70):
            page.line("plate", [(x, y), (x + 10, y - 2), (x + 14, y + 9)], BARK["red_brown"][1], 1.2)
    for x, y, sign in ((86, 40, 1), (34, 70, -1), (86, 96, 1)) if state == "yes" else ():
        for k in range(7):
            a = -0.9 + 0.3 * k
            page.line("needle", [(x, y), (x + sign * 27 * math.cos(a), y + 27 * math.sin(a))], "#37482a", 1.4)


BARK_TILES: dict[str, Callable[[Page, str], None]] = {
    "bark.ridge_top": _ridge_top,
    "bark.furrow_colour": _furrow,
    "bark.cut_layers": _cut_layers,
    "bark.furrows": _furrows,
    "bark.diamonds": _diamonds,
    "bark.needle_tufts": _needle_tufts,
}
