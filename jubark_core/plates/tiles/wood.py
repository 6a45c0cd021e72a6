"""Tiles of bark, twig and bud: what a lens or a cut shows."""

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
FURROW = {
    "same": BARK["dark_grey"][0],
    "tan": "#c2a06a",
    "pink": "#cf9a86",
    "orange_red": BARK["orange_red"][0],
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


def _flattened(page: Page, state: str) -> None:
    bud(page, (34, 108), 88, 18)
    page.line("scale", [(34, 108), (34, 22)], BUD_LINE, 1)
    page.dot("section", (88, 62), 22, "#d9c3a0", BUD_LINE, 0.42)


def pith_swatch(page: Page, state: str) -> None:
    """The pith in a cross-cut, in its colour."""
    page.dot("cut", (60, 60), 50, "#e6d9b8", DARK)
    page.dot("pith", (60, 60), 22, PITH[state], DARK)


WOOD_TILES: dict[str, Callable[[Page, str], None]] = {
    "bark.ridge_top": _ridge_top,
    "bark.furrow_colour": _furrow,
    "bark.cut_layers": _cut_layers,
    "twig.armed": _armed,
    "twig.armed_base": _armed_base,
    "twig.armed_curve": _armed_curve,
    "twig.armed_branched": _armed_branched,
    "twig.armed_where": _armed_where,
    "bud.form flattened": _flattened,
    "twig.hairs": _hairs,
    "twig.glands": _glands,
    "twig.pith_where": _pith_where,
    "twig.pith_colour": pith_swatch,
    "twig.scars_meet": _scars_meet,
    "twig.stipules": _stipules,
    "twig.spur_shoots": _spurs,
    "bud.section": _section,
    "bud.outer_scales_shed": _shed,
    "bud.end_gap": _end_gap,
    "bud.hairs_where": _hairs_where,
    "bud.sticky": _sticky,
    "bud.side_buds": _side_buds,
    "bud.flower_buds": _flower_buds,
    "leaf.pairs": _pairs,
}
