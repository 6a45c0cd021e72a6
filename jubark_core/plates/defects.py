"""A small drawing of every defect: what is looked for, on the part where it is. 120 page units square."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.condition.scores import defects
from jubark_core.plates.pen import Page, Point
from jubark_core.plates.tiles.whole_plant import DARK, SOIL, STEM, crown, ground, leaves

BARK, INNER, HOLLOW, FRESH, FUNGUS, MARK = "#8b6b4b", "#d9c39a", "#2b2117", "#e6d3ab", "#c98b4a", "#a14a26"
SOIL_Y = 106.0
DEAD = "#9a938a"
Scene = Callable[[Page], None]


def defect_drawings() -> dict[str, str]:
    """Defect -> SVG."""
    found = {}
    for defect, told in defects().items():
        page = Page(120.0, 120.0)
        DRAWN[defect](page)
        found[defect] = page.svg(told["label"], told["means"])
    return found


def _trunk(page: Page, foot: float = 17, top: float = 14, to: float = 0) -> None:
    ground(page)
    page.shape(
        "trunk", [(60 - foot, SOIL_Y), (60 + foot, SOIL_Y), (60 + top, to), (60 - top, to)], BARK, DARK
    )


def _tree(page: Page, lean: float = 0.0) -> None:
    ground(page)
    page.shape("trunk", [(54, SOIL_Y), (66, SOIL_Y), (63 + lean, 50), (57 + lean, 50)], STEM, DARK)
    crown(page, (60 + lean * 1.3, 36), 74, 62, "defect")


def _limbs(page: Page) -> None:
    ground(page)
    page.shape("trunk", [(52, SOIL_Y), (68, SOIL_Y), (65, 60), (55, 60)], STEM, DARK)
    for tip in ((18, 20), (44, 8), (78, 10), (104, 26)):
        page.line("limb", [(60, 62), tip], STEM, 6)


def _roots(page: Page) -> None:
    page.line("ground", [(4, 70), (116, 70)], SOIL, 1.6)
    page.shape("trunk", [(46, 70), (74, 70), (68, 6), (52, 6)], BARK, DARK)
    for x, y in ((10, 98), (34, 112), (86, 112), (110, 98)):
        page.line("root", [(60 + (x - 60) * 0.2, 70), (60 + (x - 60) * 0.5, 84), (x, y)], STEM, 5)


def _ring(page: Page, at: Point, wide: float, tall: float, fill: str, line: str = DARK) -> None:
    page.dot("opening", at, wide, fill, line, tall / wide)


def _hanger(page: Page) -> None:
    _limbs(page)
    page.line("broken", [(88, 30), (82, 78)], DEAD, 6)
    page.line("broken", [(82, 78), (76, 88)], DEAD, 2)
    page.line("fall", [(82, 94), (82, 104)], MARK, 1.6)


def _dead_limb(page: Page) -> None:
    _tree(page)
    page.line("dead", [(62, 56), (96, 22), (112, 16)], DEAD, 5)
    page.lines("dead-twig", [[(96, 22), (100, 8)], [(104, 19), (114, 28)], [(88, 30), (84, 16)]], DEAD, 2)


def _broken_top(page: Page) -> None:
    ground(page)
    page.shape("trunk", [(53, SOIL_Y), (67, SOIL_Y), (64, 30), (61, 18), (59, 32), (56, 24)], STEM, DARK)
    crown(page, (60, 66), 70, 46, "broken top")
    page.line("fallen", [(84, 102), (112, 96)], DEAD, 5)


def _cavity(page: Page) -> None:
    _trunk(page)
    _ring(page, (60, 58), 9, 18, HOLLOW)
    page.dot("rim", (60, 58), 13, "none", INNER, 1.7)


def _crack(page: Page) -> None:
    _trunk(page)
    crack = [(60, 18), (56, 34), (62, 50), (57, 68), (61, 88)]
    page.line("crack", crack, HOLLOW, 3.4)
    for sign in (-1, 1):
        page.line("rib", [(x + sign * 5, y) for x, y in crack], INNER, 1.2)


def _decay_fungus(page: Page) -> None:
    _trunk(page)
    for y, wide in ((50, 13), (62, 16), (75, 11)):
        page.shape(
            "bracket", [(73, y), (73 + wide, y + 3), (73 + wide - 2, y + 7), (72, y + 8)], FUNGUS, DARK, 1
        )


def _sap_rot(page: Page) -> None:
    _trunk(page)
    page.shape("bare", [(50, 22), (70, 18), (72, 86), (48, 90)], INNER, DARK, 1)
    for k in range(14):
        page.dot("fruit-body", (52 + 17 * ((k * 7) % 10) / 10, 26 + 4.4 * k), 2.2, FUNGUS, DARK)


def _union(page: Page, gap: float) -> None:
    ground(page)
    for sign in (-1, 1):
        page.shape(
            "stem",
            [
                (60 + sign * 20, SOIL_Y),
                (60, SOIL_Y),
                (60 + sign * gap, 66),
                (60 + sign * 14, 4),
                (60 + sign * 36, 4),
                (60 + sign * 20, 66),
            ],
            BARK,
            DARK,
        )


def _included_bark(page: Page) -> None:
    _union(page, 0.4)
    page.line("bark", [(60, 34), (60, 92)], HOLLOW, 2.4)
    for sign in (-1, 1):
        page.line("fold", [(60 + sign * 4, 40), (60 + sign * 5, 88)], DARK, 1.2)


def _codominant_stems(page: Page) -> None:
    _union(page, 0.4)
    for sign in (-1, 1):
        page.line("width", [(60 + sign * 10, 40), (60 + sign * 28, 36)], MARK, 1.6)


def _poor_union(page: Page) -> None:
    _limbs(page)
    page.dot("swelling", (62, 60), 12, BARK, DARK)
    page.line("crack", [(56, 52), (62, 60), (60, 72)], HOLLOW, 2.6)


def _weak_sprouts(page: Page) -> None:
    _trunk(page, 15, 13, 52)
    page.shape("stub", [(47, 52), (73, 52), (71, 46), (49, 46)], INNER, DARK, 1)
    for x, tip in ((49, 34), (54, 50), (66, 72), (71, 88)):
        page.line("sprout", [(x, 56), (x + (tip - x) * 0.5, 40), (tip, 4)], STEM, 3.4)


def _previous_failure(page: Page) -> None:
    _trunk(page)
    page.shape("torn", [(72, 34), (84, 28), (78, 44), (86, 50), (74, 62)], FRESH, DARK, 1.2)
    page.lines("splinter", [[(74, 40), (92, 36)], [(74, 50), (94, 54)]], INNER, 2)


def _over_extended_limb(page: Page) -> None:
    ground(page)
    page.shape("trunk", [(16, SOIL_Y), (32, SOIL_Y), (29, 4), (19, 4)], STEM, DARK)
    page.line("limb", [(24, 46), (70, 40), (112, 52)], STEM, 6)
    leaves(page, [(98 + 3 * k, 46 + 5 * (k % 3)) for k in range(5)], 7)


def _lion_tailing(page: Page) -> None:
    _limbs(page)
    for x, y in ((18, 20), (44, 10), (78, 12), (102, 28)):
        leaves(page, [(x, y), (x - 6, y + 4), (x + 6, y + 4)], 7)


def _topped(page: Page) -> None:
    ground(page)
    page.shape("trunk", [(52, SOIL_Y), (68, SOIL_Y), (65, 60), (55, 60)], STEM, DARK)
    for x, y in ((32, 40), (52, 34), (72, 34), (90, 42)):
        page.line("stub", [(60, 64), (x, y)], STEM, 7)
        page.dot("cut", (x, y), 4, FRESH, DARK)
        page.lines("sprout", [[(x, y), (x + d, y - 24)] for d in (-5, 0, 5)], "#6c8f4e", 1.6)


def _lean(page: Page) -> None:
    ground(page)
    page.shape("trunk", [(32, SOIL_Y), (46, SOIL_Y), (84, 40), (78, 36)], STEM, DARK)
    crown(page, (88, 30), 52, 44, "lean")
    page.line("upright", [(39, SOIL_Y), (39, 24)], MARK, 1.4)
    page.line("arc", [(39, 66), (52, 70), (62, 78)], MARK, 1.4)


def _root_plate_movement(page: Page) -> None:
    page.line("ground", [(4, 82), (40, 82), (62, 70), (84, 82), (116, 82)], SOIL, 1.8)
    page.shape("trunk", [(56, 78), (72, 76), (94, 8), (84, 6)], BARK, DARK)
    page.shape("gap", [(22, 83), (50, 78), (46, 88)], HOLLOW, "none")
    page.lines("root", [[(58, 78), (34, 84), (20, 80)], [(66, 78), (88, 94), (104, 108)]], STEM, 4)
    page.line("lift", [(30, 76), (30, 58)], MARK, 1.8)


def _soil_crack(page: Page) -> None:
    _roots(page)
    page.line("crack", [(16, 66), (24, 76), (20, 84), (28, 94)], HOLLOW, 3)
    page.line("bulge", [(14, 70), (22, 62), (32, 70)], SOIL, 2)


def _severed_roots(page: Page) -> None:
    _roots(page)
    page.shape("trench", [(86, 70), (118, 70), (118, 116), (86, 116)], "#efe6cf", SOIL, 1.2)
    for y in (82, 90):
        page.dot("cut", (85, y), 3.4, FRESH, DARK)


def _undermined_roots(page: Page) -> None:
    page.line("ground", [(4, 70), (44, 70), (52, 108), (116, 110)], SOIL, 1.6)
    page.shape("trunk", [(46, 70), (74, 70), (68, 6), (52, 6)], BARK, DARK)
    for x, y in ((12, 96), (76, 92), (94, 96), (110, 102)):
        page.line("root", [(62, 70), (60 + (x - 60) * 0.6, 80), (x, y)], STEM, 5)


def _raised_grade(page: Page) -> None:
    _roots(page)
    page.shape("fill", [(4, 50), (116, 50), (116, 70), (4, 70)], "#c9b48a", SOIL, 1.2)
    page.shape("trunk", [(50, 50), (70, 50), (68, 6), (52, 6)], BARK, DARK)
    page.line("rise", [(104, 70), (104, 50)], MARK, 1.8)


def _lowered_grade(page: Page) -> None:
    _roots(page)
    page.line("before", [(4, 58), (116, 58)], MARK, 1)
    page.lines("bare", [[(56, 70), (30, 74), (8, 76)], [(64, 70), (92, 74), (112, 76)]], STEM, 5)


def _girdling_root(page: Page) -> None:
    _trunk(page, 22, 14)
    page.line("girdling", [(22, 108), (38, 94), (62, 90), (84, 95), (98, 108)], "#6b4a2c", 8)
    page.line("groove", [(40, 88), (62, 84), (82, 88)], DARK, 1.6)


def _wound(page: Page) -> None:
    _trunk(page)
    page.dot("rim", (60, 56), 15, "#a5835d", DARK, 1.6)
    page.dot("wood", (60, 56), 10, FRESH, DARK, 1.7)


def _canker(page: Page) -> None:
    _trunk(page)
    page.dot("rim", (62, 56), 14, "#7a5a3c", DARK, 1.4)
    page.dot("sunken", (62, 56), 9, "#3f2f20", DARK, 1.5)
    page.lines("crack", [[(48, 42), (56, 48)], [(76, 42), (69, 48)], [(62, 80), (62, 71)]], HOLLOW, 1.8)


def _lightning(page: Page) -> None:
    _trunk(page)
    strip = [
        (58, 0),
        (66, 0),
        (60, 30),
        (68, 58),
        (58, 84),
        (64, 106),
        (54, 106),
        (50, 84),
        (60, 58),
        (52, 30),
    ]
    page.shape("strip", strip, FRESH, DARK, 1)


def _bulge(page: Page) -> None:
    ground(page)
    side: list[Point] = [(44, SOIL_Y), (44, 78), (34, 62), (36, 46), (46, 32), (47, 0)]
    page.shape("trunk", [*side, *((120 - x, y) for x, y in side[::-1])], BARK, DARK)
    page.lines("rib", [[(56, 100), (54, 66), (56, 20)], [(64, 100), (66, 66), (64, 20)]], INNER, 1.6)


def _insects(page: Page) -> None:
    _cavity(page)
    for k in range(7):
        x, y = 60 + 26 * math.cos(k * 1.1), 58 + 30 * math.sin(k * 1.1)
        page.dot("insect", (x, y), 2.4, HOLLOW, "none", 0.7)
        page.line("wing", [(x - 3, y - 2.5), (x + 3, y - 2.5)], "#8b8577", 1)


def _hardware(page: Page) -> None:
    _trunk(page)
    for y in (46, 62):
        page.line("wire", [(6, y), (44, y)], "#55524b", 2)
        page.line("wire", [(76, y), (114, y)], "#55524b", 2)
        page.shape("grown-over", [(43, y - 5), (77, y - 5), (78, y + 5), (42, y + 5)], "#a5835d", DARK, 1)


def _exposed_edge(page: Page) -> None:
    ground(page)
    for x in (16, 38):
        page.shape("trunk", [(x - 3, SOIL_Y), (x + 3, SOIL_Y), (x + 2, 30), (x - 2, 30)], STEM, DARK, 1)
        crown(page, (x, 28), 24, 36, f"edge {x}")
    for x in (64, 84, 104):
        page.shape("stump", [(x - 4, SOIL_Y), (x + 4, SOIL_Y), (x + 4, 100), (x - 4, 100)], FRESH, DARK, 1)
    page.lines("wind", [[(112, y), (60, y)] for y in (34, 48, 62)], MARK, 1.4)


DRAWN: dict[str, Scene] = {
    "hanger": _hanger,
    "dead_limb": _dead_limb,
    "broken_top": _broken_top,
    "cavity": _cavity,
    "crack": _crack,
    "decay_fungus": _decay_fungus,
    "sap_rot": _sap_rot,
    "included_bark": _included_bark,
    "codominant_stems": _codominant_stems,
    "poor_union": _poor_union,
    "weak_sprouts": _weak_sprouts,
    "previous_failure": _previous_failure,
    "over_extended_limb": _over_extended_limb,
    "lion_tailing": _lion_tailing,
    "topped": _topped,
    "lean": _lean,
    "root_plate_movement": _root_plate_movement,
    "soil_crack": _soil_crack,
    "severed_roots": _severed_roots,
    "undermined_roots": _undermined_roots,
    "raised_grade": _raised_grade,
    "lowered_grade": _lowered_grade,
    "girdling_root": _girdling_root,
    "wound": _wound,
    "canker": _canker,
    "lightning": _lightning,
    "bulge": _bulge,
    "insects_in_cavity": _insects,
    "embedded_hardware": _hardware,
    "exposed_edge": _exposed_edge,
}
