"""Drawings of the measuring guide: where the tape goes, one for each form of the stem. 120 page units square;
the tape is the rust line.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.pen import Page, Point
from jubark_core.plates.tiles.whole_plant import DARK, SOIL, STEM, ground, leaves
from jubark_core.size.where import sentence, stem_forms

TAPE = "#a14a26"
BREAST = 46.0  # page units above the ground: breast height in these drawings
SOIL_Y = 106.0
WOOD = "#8b6b4b"


def measuring_drawings() -> dict[str, str]:
    """Form of the stem, with the word of the rule where schools differ ("slope uphill") -> SVG."""
    found = {}
    for form, guide in stem_forms().items():
        for word in guide.get("rules", {"": ""}):
            page = Page(120.0, 120.0)
            DRAWN[f"{form} {word}".strip()](page)
            told = sentence(form, "breast height", {guide["by"]: word} if word else {})
            found[f"{form} {word}".strip()] = page.svg(f"Where to measure: {guide['label']}", told)
    return found


def _stem(page: Page, left: list[Point], right: list[Point]) -> None:
    page.shape("stem", [*left, *right[::-1]], WOOD, DARK, 1.2)


def _tape(page: Page, a: Point, b: Point) -> None:
    page.line("tape", [a, b], TAPE, 4)


def _height(page: Page, x: float, foot: float, top: float) -> None:
    """The measured height as a thin line with its two ends."""
    page.line("height", [(x, foot), (x, top)], "#211f18", 1)
    for y in (foot, top):
        page.line("height-end", [(x - 4, y), (x + 4, y)], "#211f18", 1)


def _upright(page: Page) -> None:
    ground(page)
    _stem(page, [(50, SOIL_Y), (52, 4)], [(70, SOIL_Y), (68, 4)])
    _tape(page, (49, SOIL_Y - BREAST), (71, SOIL_Y - BREAST))
    _height(page, 34, SOIL_Y, SOIL_Y - BREAST)


def _slope_average(page: Page) -> None:
    page.line("ground", [(4, 116), (116, 76)], SOIL, 1.6)
    _stem(page, [(50, 102), (52, 4)], [(70, 94), (68, 4)])
    _tape(page, (49, 96 - BREAST), (71, 96 - BREAST))
    for x, y in ((40, 103), (80, 89)):
        page.line("mark", [(x - 6, y), (x + 6, y)], TAPE, 1.6)
    _height(page, 100, 96, 96 - BREAST)


def _slope(page: Page) -> None:
    page.line("ground", [(4, 116), (116, 76)], SOIL, 1.6)
    _stem(page, [(50, 102), (52, 4)], [(70, 94), (68, 4)])
    _tape(page, (49, 92 - BREAST), (71, 92 - BREAST))
    _height(page, 90, 86, 92 - BREAST)


def _leaning(page: Page) -> None:
    ground(page)
    lean = math.radians(26)
    axis = (math.sin(lean), -math.cos(lean))
    across = (math.cos(lean), math.sin(lean))
    foot = (38.0, SOIL_Y)
    along = [(foot[0] + axis[0] * t, foot[1] + axis[1] * t) for t in (0, 112)]
    _stem(
        page,
        [(x - across[0] * 10, y - across[1] * 10) for x, y in along],
        [(x + across[0] * 10, y + across[1] * 10) for x, y in along],
    )
    at = (foot[0] + axis[0] * BREAST, foot[1] + axis[1] * BREAST)
    _tape(
        page,
        (at[0] - across[0] * 11, at[1] - across[1] * 11),
        (at[0] + across[0] * 11, at[1] + across[1] * 11),
    )
    page.line(
        "height",
        [(foot[0] + across[0] * 18, foot[1]), (at[0] + across[0] * 18, at[1] + across[1] * 18)],
        "#211f18",
        1,
    )


def _fork(page: Page, crotch: float) -> None:
    ground(page)
    for sign in (-1, 1):
        _stem(
            page,
            [(60 + sign * 1, crotch), (60 + sign * 26, 4)],
            [(60 + sign * 13, crotch + 4), (60 + sign * 40, 4)],
        )
    _stem(page, [(46, SOIL_Y), (47, crotch)], [(74, SOIL_Y), (73, crotch)])


def _fork_below(page: Page) -> None:
    _fork(page, 86)
    y = 86 - BREAST * 1.07 / 1.37  # above the fork, not above the ground
    for sign in (-1, 1):
        _tape(page, (60 + sign * 7, y + sign * 0), (60 + sign * 24, y))
    _height(page, 110, 86, y)


def _fork_narrowest(page: Page) -> None:
    _fork(page, 86)
    _tape(page, (45, 98), (75, 98))
    _height(page, 96, SOIL_Y, 98)


def _fork_at(page: Page) -> None:
    _fork(page, 54)
    _tape(page, (45, 74), (75, 74))
    _height(page, 96, SOIL_Y, 74)


def _swelling(page: Page) -> None:
    ground(page)
    bulge = [(50.0, SOIL_Y), (50, 76), (42, 66), (42, 56), (50, 46), (52, 4)]
    _stem(page, bulge, [(120 - x, y) for x, y in bulge])
    _tape(page, (49, 40), (71, 40))
    _height(page, 28, SOIL_Y, 40)


def _swelling_below(page: Page) -> None:
    ground(page)
    bulge = [(50.0, SOIL_Y), (50, 78), (42, 62), (42, 52), (50, 40), (52, 4)]
    _stem(page, bulge, [(120 - x, y) for x, y in bulge])
    _tape(page, (49, 84), (71, 84))
    _height(page, 28, SOIL_Y, 84)


def _buttressed(page: Page) -> None:
    ground(page)
    flare = [(24.0, SOIL_Y), (38, 92), (46, 72), (50, 54), (52, 4)]
    _stem(page, flare, [(120 - x, y) for x, y in flare])
    for sign in (-1, 1):
        page.line("fin", [(60 + sign * 4, 58), (60 + sign * 14, SOIL_Y)], DARK, 1.2)
    _tape(page, (50, 34), (70, 34))
    _height(page, 94, 54, 34)


def _several(page: Page) -> None:
    ground(page)
    for k in range(4):
        x = 36 + 16 * k
        _stem(page, [(54 + 4 * k - 5, SOIL_Y), (x - 5, 4)], [(54 + 4 * k + 2, SOIL_Y), (x + 4, 4)])
        at = x + (54 + 4 * k - x) * 0.56
        _tape(page, (at - 6, SOIL_Y - BREAST), (at + 6, SOIL_Y - BREAST))
    _height(page, 106, SOIL_Y, SOIL_Y - BREAST)


def _root_collar(page: Page) -> None:
    ground(page)
    for k in range(5):
        lean = (k - 2) * 16
        _stem(page, [(56 + 4 * k - 12, SOIL_Y), (50 + lean, 12)], [(56 + 4 * k - 6, SOIL_Y), (57 + lean, 12)])
        _tape(page, (44 + 4 * k - 1 + lean * 0.06, SOIL_Y - 8), (52 + 4 * k + lean * 0.06, SOIL_Y - 8))


def _climber(page: Page) -> None:
    _upright(page)
    for k in range(8):
        leaves(
            page, [(56 + 9 * math.sin(k * 1.9), 100 - 12 * k), (64 + 8 * math.cos(k * 1.3), 96 - 12 * k)], 4.4
        )
    _tape(page, (49, SOIL_Y - BREAST), (71, SOIL_Y - BREAST))


def _irritant(page: Page) -> None:
    ground(page)
    _stem(page, [(70, SOIL_Y), (72, 4)], [(90, SOIL_Y), (88, 4)])
    for k in range(8):
        leaves(
            page,
            [(76 + 8 * math.sin(k * 1.9), 100 - 12 * k), (84 + 7 * math.cos(k * 1.3), 96 - 12 * k)],
            4.4,
            ("#b5553d", "#571f16"),
        )
    page.line("rod", [(24, SOIL_Y), (24, 40)], "#211f18", 3)
    for k in range(4):
        page.line("rod-mark", [(20, 100 - 16 * k), (28, 100 - 16 * k)], TAPE, 2)
    page.line("sight", [(24, SOIL_Y - BREAST), (68, SOIL_Y - BREAST)], TAPE, 1.2)


def _prostrate(page: Page) -> None:
    ground(page)
    _stem(
        page, [(14, SOIL_Y), (26, 88), (104, 82), (112, 74)], [(26, SOIL_Y), (34, 102), (104, 96), (114, 82)]
    )
    leaves(page, [(100, 76), (108, 70), (112, 90), (96, 72)], 6)
    _tape(page, (70, 84), (71, 101))
    page.line("height", [(24, 112), (70, 112)], "#211f18", 1)


def _broken(page: Page) -> None:
    ground(page)
    _stem(page, [(48, SOIL_Y), (49, 32), (54, 40), (58, 24)], [(72, SOIL_Y), (71, 28), (66, 36), (60, 24)])
    _tape(page, (47, SOIL_Y - BREAST), (73, SOIL_Y - BREAST))
    _height(page, 32, SOIL_Y, SOIL_Y - BREAST)
    page.line("fallen", [(82, 102), (114, 96)], STEM, 7)


DRAWN: dict[str, Callable[[Page], None]] = {
    "upright": _upright,
    "slope uphill": _slope,
    "slope average": _slope_average,
    "leaning": _leaning,
    "fork_below above_fork": _fork_below,
    "fork_below narrowest_below": _fork_narrowest,
    "fork_at": _fork_at,
    "swelling above": _swelling,
    "swelling below": _swelling_below,
    "buttressed": _buttressed,
    "several_stems": _several,
    "root_collar": _root_collar,
    "climber_clad": _climber,
    "irritant_climber": _irritant,
    "prostrate": _prostrate,
    "broken": _broken,
}
