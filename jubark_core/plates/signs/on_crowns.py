"""Signs of the whole crown."""

from __future__ import annotations

from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.signs.scenes import BROWN, LEAF, YELLOW, Scene, bare_tree, tree
from jubark_core.plates.tiles.whole_plant import DARK, STEM, crown, leaves

DEAD = "#9a938a"


def _thin(page: Page) -> None:
    bare_tree(page)
    rng = Scatter("thin")
    leaves(page, [(rng.between(20, 100), rng.between(46, 78)) for _ in range(46)], 4)
    leaves(page, [(rng.between(34, 86), rng.between(12, 40)) for _ in range(5)], 4)


def _tips(page: Page) -> None:
    tree(page, "tips")
    for tip in ((14, 24), (34, 2), (62, 0), (90, 4), (108, 28)):
        page.line("dead", [(60 + (tip[0] - 60) * 0.68, 42 + (tip[1] - 42) * 0.68), tip], DEAD, 2.6)


def _one_side(page: Page) -> None:
    bare_tree(page)
    crown(page, (40, 46), 52, 66, "half")


def _epicormic(page: Page) -> None:
    tree(page, "epicormic")
    for y in (64, 74, 84, 94):
        for side in (-1, 1):
            page.line("shoot", [(60 + side * 4, y), (60 + side * 16, y - 9)], STEM, 1.6)
    leaves(page, [(60 + side * 17, y - 10) for y in (64, 74, 84, 94) for side in (-1, 1)], 4.4)


def _flag(colour: str) -> Scene:
    def scene(page: Page) -> None:
        tree(page, "flag")
        rng = Scatter("flag")
        leaves(page, [(rng.between(80, 100), rng.between(22, 42)) for _ in range(22)], 4.4, (colour, DARK))

    return scene


def _limp(page: Page) -> None:
    tree(page, "limp")
    for x in (84, 90, 96):
        page.line("limp", [(x, 30), (x + 2, 52)], "#7d8a4a", 4)


def _wilt(page: Page) -> None:
    bare_tree(page)
    rng = Scatter("wilt")
    for _ in range(40):
        x, y = rng.between(16, 104), rng.between(10, 60)
        page.line("leaf", [(x, y), (x + 1, y + 9)], BROWN, 3.4)


def _fall(colour: str, dense: bool) -> Scene:
    def scene(page: Page) -> None:
        bare_tree(page)
        rng = Scatter("fall" + colour)
        leaves(page, [(rng.between(18, 102), rng.between(12, 66)) for _ in range(60 if dense else 20)], 4)
        leaves(page, [(rng.between(10, 110), rng.between(100, 110)) for _ in range(18)], 4.4, (colour, DARK))

    return scene


def _early(page: Page) -> None:
    tree(page, "early")
    rng = Scatter("early")
    spots: list[Point] = [(rng.between(60, 94), rng.between(16, 66)) for _ in range(40)]
    leaves(page, spots, 4.6, ("#c96a2e", "#7d3a1e"))


def _late(page: Page) -> None:
    bare_tree(page)
    crown(page, (104, 76), 26, 40, "neighbour")


def _leafless(page: Page) -> None:
    bare_tree(page)


def _stag(page: Page) -> None:
    bare_tree(page)
    crown(page, (60, 62), 76, 42, "stag")


def _no_growth(page: Page) -> None:
    page.line("twig", [(8, 84), (112, 40)], STEM, 5)
    for x in (40, 70, 92, 100, 106):
        y = 84 - 0.423 * (x - 8)
        page.line("bud scar", [(x - 3, y - 6), (x + 3, y + 6)], DARK, 2)
    page.dot("leaf", (56, 44), 12, LEAF, DARK, 0.55)


def _limb(page: Page) -> None:
    tree(page, "limb")
    page.line("limb", [(78, 100), (112, 86)], STEM, 5)
    leaves(page, [(90 + 5 * (k % 5), 80 + 5 * (k // 5)) for k in range(15)], 4.6)
    page.dot("break", (76, 50), 4, "#e6d3ab", DARK)


def _yellow(page: Page) -> None:
    bare_tree(page)
    rng = Scatter("all")
    leaves(page, [(rng.between(16, 104), rng.between(8, 70)) for _ in range(110)], 4.4, (YELLOW, "#8a7a2a"))


DRAWN: dict[str, Scene] = {
    "thinning_from_top": _thin,
    "dieback_tips": _tips,
    "dieback_one_side": _one_side,
    "epicormic_shoots": _epicormic,
    "flag_yellow": _flag("#d9c04a"),
    "flag_brown": _flag("#8a5a2e"),
    "wilting_flags": _limp,
    "wilt_sudden": _wilt,
    "leaf_fall_green": _fall("#7d9a4a", False),
    "leaf_fall_early": _fall("#c9a44a", True),
    "early_colour": _early,
    "late_leaf_out": _late,
    "leafless": _leafless,
    "stag_head": _stag,
    "no_new_growth": _no_growth,
    "green_limb_drop": _limb,
    "yellow_all": _yellow,
}
