"""Tiles of the twig: what a lens or a cut shows."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.blade import Blade, draw_blade
from jubark_core.plates.colours import BARK, LEAF, WOOD
from jubark_core.plates.pen import Page, Point, Scatter, turned

BROWN, DARK = WOOD["brown"]
BUD, BUD_LINE = WOOD["red_brown"]
PITH = {
    "tan": "#cfae7c",
    "salmon": "#d39a7e",
    "white": "#f6f2e4",
    "dark_brown": "#5e4331",
    "green": "#b4bf86",
}


def twig(page: Page, thick: float = 22, x: float = 60) -> None:
    """A length of twig, upright."""
    page.shape(
        "twig",
        [(x - thick / 2, 4), (x + thick / 2, 4), (x + thick / 2, 116), (x - thick / 2, 116)],
        BROWN,
        DARK,
        1.4,
    )


def bud(page: Page, at: Point, long: float, broad: float, lean: float = 0.0, part: str = "bud") -> None:
    """A bud with its foot at a point."""
    side = [(broad * math.sin(math.pi * t) ** 0.7, -long * t) for t in (i / 8 for i in range(1, 8))]
    points = [(broad * 0.5, 0.0), *side, (0.0, -long), *[(-x, y) for x, y in side[::-1]], (-broad * 0.5, 0.0)]
    page.shape(part, turned(points, lean, shift=at), BUD, BUD_LINE, 1.2)


def _hairs(page: Page, state: str) -> None:
    twig(page, 30)
    rng = Scatter("hairs")
    for _ in range({"none": 0, "sparse": 16, "dense": 150, "sticky": 34, "rough": 46, "scales": 60}[state]):
        y, sign = rng.between(8, 112), 1 if rng.next() > 0.5 else -1
        x = 60 + sign * (rng.between(0, 15) if state in ("dense", "scales") else 15)
        if state == "scales":
            page.dot("scale", (x, y), 2.2, "#d8c9a4", DARK)
            continue
        long = {"rough": 5.0, "dense": 12.0}.get(state, 11.0)
        tip = (x + sign * long, y - 3)
        page.line("hair", [(x, y), tip], DARK, 1.5 if state == "rough" else 0.8)
        if state == "sticky":
            page.dot("gland", tip, 1.9, "#c77b3a")


def _glands(page: Page, state: str) -> None:
    twig(page, 34)
    rng = Scatter("glands")
    for _ in range(34 if state == "yes" else 0):
        page.dot("gland", (rng.between(46, 74), rng.between(8, 112)), 2, "#e0b04a", DARK)


def _pith_where(page: Page, state: str) -> None:
    twig(page, 40)
    page.shape("pith", [(52, 4), (68, 4), (68, 116), (52, 116)], PITH["white"])
    page.line("node", [(36, 60), (84, 60)], DARK, 3)
    bud(page, (84, 58), 20, 6, 0.7)
    for low, high in ((52, 68),) if state == "node" else ((8, 46), (74, 112)):
        page.shape("hollow", [(52, low), (68, low), (68, high), (52, high)], "#3b2f26")


def _scars_meet(page: Page, state: str) -> None:
    twig(page, 64)
    gap = 0 if state == "yes" else 11
    for sign in (-1, 1):
        x = 60 + sign * gap
        page.shape(
            "scar", [(x, 66), (60 + sign * 32, 48), (60 + sign * 32, 58), (x, 76)], "#d8c9a4", DARK, 1.2
        )
        bud(page, (60 + sign * 30, 46), 26, 8, sign * 0.35)
        page.dot("bundle", (60 + sign * 20, 60), 1.6, DARK)


def _stipules(page: Page, state: str) -> None:
    page.line("twig", [(60, 116), (60, 6)], BROWN, 7)
    page.line("stalk", [(62, 66), (96, 40)], LEAF["green"][1], 3)
    if state == "none":
        return
    for sign in (-1, 1):
        if state == "spiny":
            page.shape("stipule", [(60 + sign * 3, 62), (60 + sign * 30, 52), (60 + sign * 3, 70)], DARK)
        elif state == "leafy":
            page.dot("stipule", (60 + sign * 13, 68), 12, *LEAF["green"], 0.8)
        else:
            page.shape(
                "stipule",
                [(60 + sign * 3, 70), (60 + sign * 16, 56), (60 + sign * 12, 42), (60 + sign * 3, 60)],
                *LEAF["green"],
                1,
            )
            for k in range(6 if state == "fringed" else 0):
                y = 66 - 4 * k
                page.line("fringe", [(60 + sign * 12, y), (60 + sign * 19, y - 2)], LEAF["green"][1], 0.9)


def _spurs(page: Page, state: str) -> None:
    page.line("twig", [(14, 100), (106, 56)], BROWN, 8)
    for k in range(3):
        at = (34 + 24 * k, 84 - 11.5 * k)
        if state == "yes":
            page.shape(
                "spur",
                [
                    (at[0] - 6, at[1]),
                    (at[0] + 6, at[1] - 4),
                    (at[0] + 3, at[1] - 26),
                    (at[0] - 7, at[1] - 24),
                ],
                BROWN,
                DARK,
                1,
            )
            for j in range(4):
                page.line("ring", [(at[0] - 6, at[1] - 5 - 5 * j), (at[0] + 4, at[1] - 8 - 5 * j)], DARK, 1)
            bud(page, (at[0] - 2, at[1] - 24), 14, 6, -0.1)
        else:
            bud(page, (at[0], at[1] - 4), 16, 5, 0.5)


def _pairs(page: Page, state: str) -> None:
    leaf = Blade(44, 24, shape="elliptic")
    turns = (0, 180, 90, 270) if state == "decussate" else (82, 262, 98, 278)
    for i, degrees in enumerate(turns):
        draw_blade(
            page,
            leaf,
            LEAF["green"] if i > 1 else LEAF["yellow_green"],
            turn=math.radians(degrees),
            at=(60, 60),
            part="leaf",
            fine=True,
        )
    page.dot("tip", (60, 60), 4, BROWN, DARK)


def point(page: Page, foot: Point, tip: Point, wide: float, part: str = "armature") -> None:
    """A thorn, spine or prickle: broad at its foot, sharp at its tip."""
    dx, dy = tip[0] - foot[0], tip[1] - foot[1]
    long = math.hypot(dx, dy) or 1.0
    nx, ny = -dy / long * wide / 2, dx / long * wide / 2
    page.shape(part, [(foot[0] + nx, foot[1] + ny), tip, (foot[0] - nx, foot[1] - ny)], DARK, DARK, 0.8)


def _armed(page: Page, state: str) -> None:
    twig(page, 18, 44)
    for y in (98, 58, 22):
        if state == "thorn":  # a short branch: it bears buds of its own
            point(page, (52, y), (104, y - 20), 9)
            bud(page, (74, y - 9), 9, 3, 0.3)
        elif state == "spine":  # in the place of a leaf or of its stipules, a bud beside it
            for sign in (-1, 1):
                point(page, (44 + sign * 8, y), (44 + sign * 34, y - 8), 5)
            bud(page, (53, y - 6), 11, 4, 0.6)
        elif state == "prickle":  # anywhere on the skin
            for dx, dy in ((0, 0), (0, -17)):
                page.shape(
                    "armature", [(53, y + dy - 7), (74 + dx, y + dy + 5), (53, y + dy + 7)], DARK, DARK, 0.8
                )
        elif state == "bristle":
            for k in range(11):
                sign = 1 if k % 2 else -1
                page.line(
                    "armature", [(44 + sign * 9, y - 3 * k + 12), (44 + sign * 27, y - 3 * k + 9)], DARK, 1
                )
        else:
            bud(page, (52, y), 14, 5, 0.6)


def _armed_branched(page: Page, state: str) -> None:
    twig(page, 16, 30)
    point(page, (38, 80), (112, 50), 10)
    if state != "simple":
        for tip in ((84, 28), (96, 84)):
            point(page, (64, 69), tip, 7)
    if state == "branched":
        for foot, tip in (
            ((86, 60), (100, 36)),
            ((78, 48), (98, 30)),
            ((84, 78), (84, 100)),
            ((52, 74), (60, 98)),
            ((50, 76), (58, 50)),
        ):
            point(page, foot, tip, 5)


def _armed_base(page: Page, state: str) -> None:
    twig(page, 26, 34)
    for y in (96, 56, 18):
        half = 17.0 if state == "broad" else 4.0
        page.shape("armature", [(46, y - half), (104, y - 2), (46, y + half)], DARK, DARK, 0.8)


def _armed_curve(page: Page, state: str) -> None:
    twig(page, 26, 34)
    for y in (88, 48, 12):
        drop = {"recurved": 26.0, "straight": 0.0}.get(state, -22.0)
        bow = [(46 + 50 * t, y + drop * t * t) for t in (i / 8 for i in range(9))]
        page.shape(
            "armature",
            [
                (46, y - 8),
                *[(x, v - 5 * (1 - i / 8)) for i, (x, v) in enumerate(bow)],
                *[(x, v + 5 * (1 - i / 8)) for i, (x, v) in reversed(list(enumerate(bow)))],
                (46, y + 8),
            ],
            DARK,
            DARK,
            0.8,
        )


def _armed_where(page: Page, state: str) -> None:
    if state == "trunk":
        page.shape(
            "trunk", [(34, 4), (86, 4), (90, 116), (30, 116)], BARK["dark_grey"][0], BARK["dark_grey"][1], 1.4
        )
        for x, y in ((46, 30), (72, 52), (52, 78), (76, 96)):
            point(page, (x, y), (x + 24, y - 10), 7)
            point(page, (x + 6, y - 2), (x + 12, y - 22), 5)
        return
    page.shape("twig", [(52, 34), (68, 34), (68, 116), (52, 116)], BROWN, DARK, 1.4)
    if state == "twig_tip":
        point(page, (60, 36), (60, 4), 16)
    for y in (100, 62):
        bud(page, (67, y), 12, 4, 0.6)
        if state == "node_single":
            point(page, (68, y + 4), (100, y - 4), 7)
        elif state == "node_pair":
            for sign in (-1, 1):
                point(page, (60 + sign * 8, y + 4), (60 + sign * 38, y - 4), 6)
        elif state == "between_nodes":
            for dy, sign in ((-12, 1), (-20, -1)):
                point(page, (60 + sign * 8, y + dy), (60 + sign * 30, y + dy - 4), 8)
        elif state == "leaf_cluster":
            for k in range(5):
                draw_blade(
                    page,
                    Blade(26, 11, shape="elliptic", side_veins=2),
                    LEAF["green"],
                    turn=0.35 + 0.36 * k,
                    at=(70, y),
                    part="leaf",
                    fine=True,
                )
            point(page, (68, y + 5), (112, y + 12), 5)


def pith_swatch(page: Page, state: str) -> None:
    """The pith in a cross-cut, in its colour."""
    page.dot("cut", (60, 60), 50, "#e6d9b8", DARK)
    page.dot("pith", (60, 60), 22, PITH[state], DARK)


def _star_hairs(page: Page, state: str) -> None:
    """A twig under the lens: stars of hairs, or single ones."""
    twig(page, 50)
    rng = Scatter("stars")
    for _ in range(26):
        x, y = rng.between(40, 80), rng.between(8, 112)
        if state == "yes":
            for k in range(3):
                dx, dy = 5 * math.cos(k * 1.05), 5 * math.sin(k * 1.05)
                page.line("star", [(x - dx, y - dy), (x + dx, y + dy)], PITH["white"], 1.2)
        else:
            page.line("hair", [(x, y), (x + 7, y - 4)], PITH["white"], 1.2)


def _pith_width(page: Page, state: str) -> None:
    page.dot("cut", (60, 60), 50, "#d9c3a0", DARK)
    page.dot("pith", (60, 60), {"narrow": 8.0, "medium": 19.0, "wide": 35.0}[state], PITH["white"], DARK)


def _brittle(page: Page, state: str) -> None:
    page.line("branch", [(18, 112), (44, 8)], BROWN, 12)
    if state == "yes":
        page.dot("break", (37, 60), 5, PITH["white"], DARK)
        page.line("twig", [(54, 78), (108, 96)], BROWN, 6)
        page.dot("break", (54, 78), 3.6, PITH["white"], DARK)
    else:
        page.line("twig", [(37, 60), (58, 58), (82, 68), (100, 92)], BROWN, 6)
    page.line("push", [(96, 26), (90, 44), (78, 56)], BUD_LINE, 1.6)
    page.shape("push", [(78, 56), (87, 54), (82, 47)], BUD_LINE)


def _tendrils(page: Page, state: str) -> None:
    page.line("shoot", [(60, 116), (60, 6)], BROWN, 5)
    for k in range(5):
        y, sign = 106 - 21 * k, 1 if k % 2 else -1
        page.line("node", [(55, y), (65, y)], DARK, 3)
        page.line("stalk", [(60, y), (60 + sign * 20, y - 8)], LEAF["green"][1], 1.6)
        page.dot("leaf", (60 + sign * 32, y - 10), 11, *LEAF["green"], 0.8)
        if state == "each_node" or k % 3 != 2:
            curl = [(60 - sign * (4 + 3.6 * t), y - 3 - 3.4 * math.sin(t * 0.9)) for t in range(9)]
            page.line("tendril", curl, LEAF["green"][1], 1.3)


def _stipules_stay(page: Page, state: str) -> None:
    page.line("twig", [(60, 116), (60, 62)], BROWN, 14)
    bud(page, (60, 64), 30, 11)
    for sign in (-1, 1):
        bud(page, (60 + sign * 10, 68), 22, 7, sign * 0.5)
        for k in range(3 if state == "yes" else 0):
            foot, reach = (60 + sign * (8 + 3 * k), 68), sign * (14 + 11 * k)
            page.line("stipule", [foot, (60 + reach, 40), (60 + reach * 1.2, 8 + 9 * k)], DARK, 1.5)


WOOD_TILES: dict[str, Callable[[Page, str], None]] = {
    "twig.armed": _armed,
    "twig.armed_base": _armed_base,
    "twig.armed_curve": _armed_curve,
    "twig.armed_branched": _armed_branched,
    "twig.armed_where": _armed_where,
    "twig.hairs": _hairs,
    "twig.glands": _glands,
    "twig.pith_where": _pith_where,
    "twig.pith_colour": pith_swatch,
    "twig.scars_meet": _scars_meet,
    "twig.stipules": _stipules,
    "twig.spur_shoots": _spurs,
    "leaf.pairs": _pairs,
    "twig.star_hairs": _star_hairs,
    "twig.pith_width": _pith_width,
    "twig.brittle_base": _brittle,
    "twig.tendrils": _tendrils,
    "twig.stipules_stay": _stipules_stay,
}
