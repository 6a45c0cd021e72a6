"""Signs on twigs and shoots."""

from __future__ import annotations

import math

from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.signs.scenes import (
    BLACK,
    BROWN,
    INK,
    LEAF,
    LEAF_LINE,
    ORANGE,
    RED,
    WHITE,
    Scene,
    caterpillar,
    needles,
    ruler,
    scattered,
    shoot,
    twig,
)
from jubark_core.plates.tiles.whole_plant import DARK, STEM

WEB = "#e9e6dc"


def _knot(page: Page) -> None:
    twig(page)
    page.shape("knot", [(34, 74), (54, 56), (84, 42), (92, 56), (66, 76), (42, 90)], BLACK, INK)


def _horned(page: Page) -> None:
    twig(page)
    for at in ((40, 76), (82, 50)):
        page.dot("knot", at, 15, "#7d6a4c", DARK)
        for k in range(5):
            a = -math.pi * (k + 0.5) / 5
            tip = (at[0] + 22 * math.cos(a), at[1] + 22 * math.sin(a))
            page.line("horn", [(at[0] + 13 * math.cos(a), at[1] + 13 * math.sin(a)), tip], DARK, 2.4)


def _egg_band(page: Page) -> None:
    twig(page, 7)
    page.shape("band", [(46, 66), (74, 50), (82, 60), (54, 78)], BLACK, INK)
    page.line("shine", [(52, 66), (74, 54)], "#8b8474", 2)


def _egg_pits(page: Page) -> None:
    twig(page, 12)
    for k in range(7):
        at = (24 + 9 * k, 86.5 - 5.4 * k)
        page.dot("cap", at, 3, BLACK)


def _domes(page: Page) -> None:
    twig(page)
    for at, r in (((34, 74), 10), ((52, 62), 12), ((78, 44), 11), ((96, 32), 9)):
        page.dot("dome", at, r, "#a5724a", DARK, 0.8)
    ruler(page, 20, 4.5)


def _girdled(page: Page) -> None:
    page.line("twig", [(8, 96), (58, 66)], STEM, 10)
    page.line("twig", [(66, 61), (114, 30)], STEM, 10)
    page.line("ring", [(58, 58), (66, 72)], WHITE, 3)


def _browsed(page: Page) -> None:
    for x in (30, 60, 90):
        page.line("twig", [(60, 116), (x, 50)], STEM, 4)
        page.lines(
            "ragged", [[(x, 50), (x - 4, 42)], [(x, 50), (x + 2, 40)], [(x, 50), (x + 6, 44)]], "#d9c39a", 1.6
        )


def _crook(page: Page) -> None:
    page.line("shoot", [(40, 116), (46, 60), (56, 30), (72, 22), (84, 32), (82, 48)], "#4a3226", 5)
    for at in ((82, 50), (74, 40), (60, 46), (52, 72)):
        page.dot("leaf", (at[0], at[1] + 12), 8, "#3a2a20", INK, 1.6)


def _gouty(page: Page) -> None:
    needles(page)
    for at in ((44, 62), (76, 58), (106, 55)):
        page.dot("node", at, 9, "#8b6a44", DARK)


def _broom(page: Page) -> None:
    page.line("twig", [(60, 118), (60, 78)], STEM, 6)
    rng = Scatter("broom")
    page.lines(
        "shoot", [[(60, 80), (60 + rng.between(-44, 44), rng.between(12, 46))] for _ in range(34)], STEM, 1.6
    )


def _thorny(page: Page) -> None:
    page.line("shoot", [(60, 118), (58, 10)], RED, 5)
    rng = Scatter("thorns")
    for k in range(46):
        y = 14 + 2.1 * k
        side = 1 if k % 2 else -1
        page.line("thorn", [(59, y), (59 + side * rng.between(7, 12), y - 3)], RED, 1.4)
    for at in ((38, 30), (84, 44), (36, 70)):
        page.dot("leaf", at, 10, "#b5563a", DARK, 0.6)


def _tent(page: Page) -> None:
    page.line("limb", [(60, 118), (60, 84)], STEM, 9)
    page.line("limb", [(60, 86), (24, 20)], STEM, 6)
    page.line("limb", [(60, 86), (98, 24)], STEM, 6)
    page.shape("tent", [(60, 88), (40, 54), (60, 34), (82, 56)], WEB, "#bdb8a6")
    caterpillar(page, (50, 60), 18, BLACK)


def _web_ends(page: Page) -> None:
    shoot(page)
    page.shape("web", [(42, 66), (70, 26), (112, 10), (114, 44), (78, 70)], WEB, "#bdb8a6")
    for at in ((66, 52), (86, 40), (100, 26)):
        page.dot("leaf", at, 9, "#9a8a5a", DARK, 0.6)


def _web_tips(page: Page) -> None:
    page.line("twig", [(12, 112), (60, 66), (96, 30)], STEM, 4)
    page.shape("web", [(84, 40), (88, 18), (110, 14), (112, 34), (98, 46)], "#d9d4c2", "#a59f8c")
    page.dot("leaf", (98, 30), 8, BROWN, DARK, 0.6)


def _procession(page: Page) -> None:
    page.shape("stem", [(36, 0), (84, 0), (86, 120), (34, 120)], "#8b7a62", DARK)
    page.dot("nest", (60, 32), 24, WEB, "#bdb8a6", 0.8)
    for k in range(5):
        caterpillar(page, (38 + 3 * k, 62 + 11 * k), 14, "#6b5a48")


def _tied(page: Page) -> None:
    shoot(page)
    page.lines(
        "thread",
        [[(30, 66), (84, 34)], [(38, 80), (92, 42)], [(44, 56), (70, 60)], [(58, 40), (82, 54)]],
        WEB,
        1.8,
    )
    caterpillar(page, (48, 56), 24, "#a9b94a")


def _bags(page: Page) -> None:
    needles(page)
    for x in (34, 66, 94):
        page.line("thread", [(x, 64), (x, 74)], DARK, 1.4)
        page.shape("bag", [(x, 72), (x + 9, 88), (x + 4, 108), (x - 4, 108), (x - 9, 88)], "#8b6a44", DARK)
        page.lines("bits", [[(x - 6, 84), (x + 5, 80)], [(x - 6, 94), (x + 6, 92)]], LEAF, 1.8)


def _candles(page: Page) -> None:
    needles(page)
    for k in range(5):
        page.line("candle", [(108, 54), (116, 40 + 6 * k)], BROWN, 4)
    page.dot("resin", (108, 55), 4, "#f0cc74", DARK)


def _dead_buds(page: Page) -> None:
    page.line("twig", [(8, 80), (92, 50)], STEM, 7)
    page.shape("bud", [(88, 46), (114, 32), (94, 58)], "#6b4a32", DARK)
    page.shape("cut bud", [(46, 48), (62, 24), (66, 56)], "#c9b48a", DARK)
    page.shape("dead", [(52, 48), (61, 32), (63, 52)], "#3a2a20")


def _blossoms(page: Page) -> None:
    page.line("twig", [(10, 106), (84, 40)], STEM, 4)
    for at in ((84, 34), (66, 30), (98, 48), (80, 58)):
        scattered(
            page,
            "petal",
            [(at[0] + 6 * math.cos(k), at[1] + 6 * math.sin(k)) for k in range(5)],
            4.6,
            "#3a2a20",
            INK,
        )


def _streaks(page: Page) -> None:
    page.line("stem", [(60, 118), (60, 4)], "#7d9a4a", 18)
    for x, a, b in ((56, 20, 52), (63, 44, 78), (58, 80, 108)):
        page.line("streak", [(x, a), (x + 1, b)], BLACK, 3.4)
    for at in ((34, 40), (88, 70)):
        page.dot("leaf", at, 14, LEAF, LEAF_LINE, 0.6)


def _horns(page: Page) -> None:
    twig(page, 7)
    page.dot("gall", (60, 64), 16, "#7d5a3a", DARK)
    for k in range(9):
        a = 2 * math.pi * k / 9
        page.line(
            "horn",
            [(60 + 13 * math.cos(a), 64 + 13 * math.sin(a)), (60 + 36 * math.cos(a), 64 + 36 * math.sin(a))],
            ORANGE,
            5.5,
        )


def _wool_twigs(page: Page) -> None:
    twig(page)
    scattered(page, "wool", [(26, 82), (38, 76), (50, 68), (64, 58), (78, 48), (92, 38)], 5, WHITE, "#bdb8a6")


def _pineapple(page: Page) -> None:
    needles(page)
    page.dot("gall", (92, 56), 17, "#8a9a5a", DARK, 1.2)
    for k in range(4):
        page.line("scale", [(78, 46 + 7 * k), (106, 42 + 7 * k)], DARK, 1.2)


def _dropped(page: Page) -> None:
    page.line("ground", [(4, 104), (116, 104)], "#8a7a5c", 1.6)
    page.line("twig", [(22, 92), (96, 70)], STEM, 5)
    page.dot("joint", (20, 93), 6, "#c9b48a", DARK)
    for at in ((60, 66), (82, 58), (100, 62)):
        page.dot("leaf", at, 11, LEAF, LEAF_LINE, 0.6)


def _insect(page: Page) -> None:
    places: tuple[tuple[Point, str], ...] = (((22, 30), "egg"), ((40, 56), "larva"))
    scattered(
        page, "egg", [(places[0][0][0] + 6 * k, 30 + 3 * (k % 2)) for k in range(5)], 2.6, "#d9c39a", DARK
    )
    caterpillar(page, (30, 56), 40, "#a9b94a")
    page.dot("body", (78, 84), 12, "#3f5a4a", INK, 1.5)
    page.dot("head", (78, 64), 6, "#2a3a30", INK)
    page.lines(
        "leg",
        [
            [(68, 76), (54, 68)],
            [(68, 86), (52, 88)],
            [(68, 94), (54, 106)],
            [(88, 76), (102, 68)],
            [(88, 86), (104, 88)],
            [(88, 94), (102, 106)],
        ],
        INK,
        1.8,
    )


DRAWN: dict[str, Scene] = {
    "knot_black_swelling": _knot,
    "twig_knots_horned": _horned,
    "egg_band_shiny": _egg_band,
    "egg_pits_capped": _egg_pits,
    "scale_domes": _domes,
    "twig_girdled": _girdled,
    "browsed_tips": _browsed,
    "shoot_crook": _crook,
    "shoot_bases_gouty": _gouty,
    "witches_broom": _broom,
    "broom_thorny_red": _thorny,
    "nest_silk_fork": _tent,
    "web_branch_ends": _web_ends,
    "web_tight_tips": _web_tips,
    "nest_procession": _procession,
    "leaves_tied_webbed": _tied,
    "bags_hanging": _bags,
    "candles_stunted": _candles,
    "buds_dead": _dead_buds,
    "blossom_black": _blossoms,
    "streak_black_green_stem": _streaks,
    "jelly_horns_orange": _horns,
    "wool_on_twigs": _wool_twigs,
    "galls_pineapple": _pineapple,
    "twigs_dropped": _dropped,
    "insect_seen": _insect,
}
