"""Signs on broad leaves; bands and felt are drawn as they look against the light."""

from __future__ import annotations

import math

from jubark_core.plates.pen import Page, Scatter
from jubark_core.plates.signs.scenes import (
    BLACK,
    BROWN,
    INK,
    LEAF,
    LEAF_LINE,
    ORANGE,
    PALE,
    RED,
    WHITE,
    YELLOW,
    Scene,
    blade,
    on_leaf,
    scattered,
    shoot,
    veins,
)
from jubark_core.plates.tiles.whole_plant import STEM

LIT = "#a9c46a"  # a leaf against the light


def _bands(page: Page) -> None:
    blade(page, LIT)
    for k in (0, 1, 3, 4):
        y = 32 + 13 * k
        reach = 30 * math.sin(math.pi * ((y - 4) / 100) ** 0.8)
        for side in (-1, 1):
            far = 60 + side * max(6.0, reach)
            page.shape(
                "band",
                [(60 + side * 3, y + 8), (far, y - 5), (far, y - 13), (60 + side * 3, y - 1)],
                "#2f4a24",
            )
    veins(page)


def _felt(page: Page) -> None:
    blade(page, LIT)
    rng = Scatter("felt")
    for x, y in ((44, 38), (76, 52), (52, 74), (70, 84)):
        edge = [
            (
                x + 11 * rng.between(0.7, 1.2) * math.cos(a / 2.5),
                y + 8 * rng.between(0.7, 1.2) * math.sin(a / 2.5),
            )
            for a in range(16)
        ]
        page.shape("felt", edge, "#e6dcc0", "#b98a52")


def _spots(
    seed: str,
    n: int,
    radius: float,
    fill: str,
    line: str = "none",
    inner: str = "",
    inner_radius: float = 0.0,
) -> Scene:
    def scene(page: Page) -> None:
        blade(page)
        for at in on_leaf(seed, n):
            page.dot("spot", at, radius, fill, line)
            if inner:
                page.dot("spot", at, inner_radius, inner)

    return scene


def _rings(page: Page) -> None:
    blade(page)
    for at in on_leaf("rings", 5):
        for r, colour in ((10, "#6b4a2a"), (7, "#b98a52"), (4, "#5a3a20"), (1.6, "#d9c39a")):
            page.dot("ring", at, r, colour)


def _veins_brown(page: Page) -> None:
    blade(page)
    for k in range(6):
        y = 26 + 13 * k
        reach = 30 * math.sin(math.pi * ((y - 4) / 100) ** 0.8)
        for side in (-1, 1):
            page.line("brown", [(60, y + 6), (60 + side * max(6.0, reach) * 0.8, y - 6)], BROWN, 6)
    page.line("brown", [(60, 20), (60, 96)], BROWN, 7)


def _margin(line: str = "") -> Scene:
    def scene(page: Page) -> None:
        blade(page, BROWN)
        for scale, colour in ((0.76, line), (0.7, LEAF)):
            if not colour:
                continue
            edge = []
            for i in range(41):
                t = i / 40
                half = 40 * scale * math.sin(math.pi * t**0.8) ** 0.9 if 0 < t < 1 else 0.0
                edge.append((60 - half, 22 + 82 * t))
            page.shape("green", [*edge, *((120 - x, y) for x, y in reversed(edge))], colour)
        veins(page)

    return scene


def _tip(page: Page) -> None:
    blade(page)
    page.shape(
        "bronze", [(60, 8), (36, 34), (28, 52), (50, 46), (60, 56), (72, 46), (92, 52), (84, 34)], "#9a6a34"
    )
    veins(page)


def _between(page: Page) -> None:
    blade(page, YELLOW)
    for k in range(6):
        y = 26 + 13 * k
        reach = 34 * math.sin(math.pi * ((y - 4) / 100) ** 0.8)
        for side in (-1, 1):
            page.line("green", [(60, y + 6), (60 + side * max(6.0, reach), y - 8)], LEAF_LINE, 4)
    page.line("green", [(60, 12), (60, 104)], LEAF_LINE, 5)


def _winding(page: Page) -> None:
    blade(page)
    points = [(34 + 0.5 * k + 9 * math.sin(k / 6), 36 + 0.55 * k) for k in range(90)]
    for i in range(0, 88, 4):
        page.line("mine", points[i : i + 6], PALE, 1.6 + i / 22)


def _blotch(page: Page) -> None:
    blade(page)
    for edge in ([(38, 34), (56, 30), (58, 52), (42, 58)], [(66, 54), (88, 46), (84, 74), (66, 78)]):
        page.shape("blotch", edge, "#c9a46a", BROWN)
        page.dot("larva", (sum(x for x, _ in edge) / 4, sum(y for _, y in edge) / 4), 3.4, "#7d6a3a")


def _lace(page: Page) -> None:
    page.line("midrib", [(60, 8), (60, 116)], LEAF_LINE, 2)
    blade(page, "none")
    for x, y in on_leaf("lace", 12):
        page.dot("left", (x, y), 4, LEAF, LEAF_LINE, 0.6)


def _eaten(page: Page) -> None:
    blade(page)
    for at, r in (((28, 40), 14), ((94, 56), 17), ((34, 78), 13), ((78, 26), 11), ((56, 58), 8)):
        page.dot("hole", at, r, "#fdfaf2")


def _notched(page: Page) -> None:
    blade(page)
    for at in ((24, 52), (30, 72), (96, 48), (92, 70), (34, 32), (84, 30)):
        page.dot("notch", at, 6, "#fdfaf2")


def _nipples(page: Page) -> None:
    blade(page, "#8fae6c")
    for x, y in on_leaf("nipple", 9):
        page.shape("gall", [(x - 5, y), (x - 4, y - 9), (x + 4, y - 9), (x + 5, y)], "#c9c48a", "#6b7a3a")
        page.dot("tip", (x, y - 10), 2.6, "#e3dca8", "#6b7a3a")


def _bladders(page: Page) -> None:
    blade(page)
    for i, (x, y) in enumerate(on_leaf("bladder", 16)):
        page.line("stalk", [(x, y + 4), (x, y)], "#6b7a3a", 1.4)
        page.dot("gall", (x, y - 2), 3.6, RED if i % 2 else "#8fae4a", INK)


def _spindles(page: Page) -> None:
    blade(page)
    for x, y in on_leaf("spindle", 14):
        page.shape("gall", [(x - 1.6, y + 3), (x + 1.6, y + 3), (x + 0.4, y - 11)], "#c9b04a", INK, 0.5)


def _balls(page: Page) -> None:
    blade(page)
    page.dot("gall", (46, 52), 17, "#c9b06a", "#7d5a2e")
    page.dot("gall", (78, 76), 10, "#d9825a", "#7d3a1e")


def _galls(page: Page) -> None:
    blade(page)
    scattered(page, "gall", on_leaf("galls", 12), 3.4, "#d9b45a", "#7d5a2e")


def _powder(colour: str) -> Scene:
    def scene(page: Page) -> None:
        blade(page)
        rng = Scatter(colour)
        for at in on_leaf(colour, 16):
            page.dot("powder", at, rng.between(5, 9), colour)
        page.line("wiped", [(40, 40), (84, 64)], LEAF, 9)

    return scene


def _film(page: Page) -> None:
    blade(page, "#3a3a34")
    page.line("wiped", [(36, 44), (86, 60)], LEAF, 11)


def _drops(page: Page) -> None:
    blade(page)
    for at in on_leaf("honey", 12):
        page.dot("drop", at, 4, "#e9d48a", "#b99a3a")
        page.dot("shine", (at[0] - 1.3, at[1] - 1.3), 1.2, WHITE)


def _lerps(page: Page) -> None:
    blade(page)
    for x, y in on_leaf("lerps", 8):
        page.shape("lerp", [(x, y - 6), (x + 7, y + 4), (x - 7, y + 4)], WHITE, "#a59f8c")
        page.line("ridge", [(x, y - 6), (x, y + 4)], "#c9c4b4", 1)


def _cupped(page: Page) -> None:
    page.line("shoot", [(60, 118), (60, 20)], STEM, 3)
    for x, y, side in ((60, 28, -1), (60, 52, 1), (60, 78, -1)):
        edge = [
            (x, y),
            (x + side * 14, y - 20),
            (x + side * 34, y - 22),
            (x + side * 44, y - 8),
            (x + side * 30, y - 10),
            (x + side * 14, y - 2),
        ]
        page.shape("leaf", edge, LEAF, LEAF_LINE)
        for k in range(3):
            page.line("vein", [(x + side * 4, y - 2), (x + side * 36, y - 10 - 4 * k)], LEAF_LINE, 1)


def _leathery(page: Page) -> None:
    blade(page, "#4f6b34")
    for k in range(4):
        page.line(
            "fold",
            [(28 + 4 * k, 36 + 15 * k), (50, 30 + 15 * k), (72, 38 + 15 * k), (94 - 4 * k, 32 + 15 * k)],
            "#2f4a24",
            2.6,
        )


def _hang(page: Page) -> None:
    page.line("shoot", [(14, 30), (106, 22)], STEM, 4)
    for x in (28, 50, 72, 94):
        page.line("stalk", [(x, 28), (x, 44)], STEM, 1.6)
        page.dot("leaf", (x, 70), 10, BROWN, "#5a3a20", 2.5)


def _rolled(page: Page) -> None:
    page.line("shoot", [(60, 6), (60, 40)], STEM, 5)
    for x in (30, 44, 60, 76, 90):
        page.line("leaf", [(60, 38), (x, 52), (x, 108)], LEAF_LINE, 7)


def _black_new(page: Page) -> None:
    shoot(page, colour="#2f2a24")
    for at in ((40, 84), (70, 64), (96, 44)):
        page.line("limp", [at, (at[0] + 4, at[1] + 22)], BLACK, 5)


def _drop_spring(page: Page) -> None:
    shoot(page, ((58, 50), (80, 36), (98, 24)))
    for at in ((28, 104), (52, 110), (80, 106)):
        page.dot("fallen", at, 10, YELLOW, BROWN, 0.5)


def _scabby(page: Page) -> None:
    page.dot("fruit", (60, 64), 42, "#b5483a", "#5a2a20", 0.95)
    page.line("stalk", [(60, 26), (64, 8)], STEM, 3)
    rng = Scatter("scab")
    for _ in range(9):
        page.dot(
            "scab",
            (60 + rng.between(-28, 28), 64 + rng.between(-26, 26)),
            rng.between(3, 7),
            "#5a4a3a",
            BLACK,
        )
    page.lines("crack", [[(46, 60), (60, 66)], [(66, 50), (76, 44)]], BLACK, 1.6)


def _two(fill: str) -> Scene:
    """A leaf all of one colour."""

    def scene(page: Page) -> None:
        blade(page, fill)

    return scene


def _small(page: Page) -> None:
    blade(page, "none")
    page.dot("leaf", (60, 74), 15, "#c9cf8a", LEAF_LINE, 1.5)


DRAWN: dict[str, Scene] = {
    "bands_dark_between_veins": _bands,
    "felt_patches": _felt,
    "spots_black_raised": _spots("tar", 7, 7, YELLOW, "none", BLACK, 4.8),
    "spots_purple_rim": _spots("purple", 9, 5, "#6b3a5a", "none", "#c9b48a", 3),
    "spots_ringed": _rings,
    "spots_orange_tubes": _spots("rust", 8, 6, ORANGE, RED, "#7d3a1e", 1.6),
    "spots_velvety_olive": _spots("scab", 8, 7, "#5a5a34", "#3a3a24"),
    "spots_other": _spots("other", 12, 3.6, BROWN),
    "blotch_along_veins": _veins_brown,
    "margin_scorch": _margin(),
    "margin_scorch_yellow_line": _margin("#e0c030"),
    "bronzed_from_tip": _tip,
    "yellow_between_veins": _between,
    "yellow_all": _two(YELLOW),
    "small_pale": _small,
    "mine_winding": _winding,
    "mine_blotch": _blotch,
    "skeletonised": _lace,
    "eaten": _eaten,
    "notched_edge": _notched,
    "galls_nipple": _nipples,
    "galls_bladder": _bladders,
    "galls_spindle": _spindles,
    "galls_ball": _balls,
    "galls_other": _galls,
    "powder_white": _powder("#f0eee4"),
    "powder_yellow": _powder("#e8c020"),
    "rust_orange_powder": _powder("#d9822b"),
    "honeydew": _drops,
    "sooty_mould": _film,
    "lerps": _lerps,
    "cupped_strapped": _cupped,
    "leathery_curled": _leathery,
    "leaves_hang_dead": _hang,
    "leaves_rolled": _rolled,
    "blackened_new_leaves": _black_new,
    "leaf_drop_spring": _drop_spring,
    "fruit_scabby": _scabby,
}
