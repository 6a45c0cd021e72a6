"""Tiles of leaf, needle and spray."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.blade import Blade, draw_blade
from jubark_core.plates.colours import LEAF, UNDER, WOOD
from jubark_core.plates.pen import Page, Point, Scatter

GREEN, LINE = LEAF["green"]
BROWN, DARK = WOOD["brown"]
WHITE = "#f1f3ea"
NEEDLE = ("#5f7d4a", "#26371f")


def blade(
    page: Page,
    long: float = 92,
    wide: float = 58,
    at: Point = (60, 110),
    tones: tuple[str, str] = LEAF["green"],
    **more: str,
) -> None:
    """A plain leaf."""
    draw_blade(page, Blade(long, wide, shape="elliptic", side_veins=6, **more), tones, at=at)  # type: ignore[arg-type]


def _leaflet_stalk(page: Page, state: str) -> None:
    page.line("rachis", [(24, 114), (30, 6)], LINE, 4)
    stalk = {"none": 2.0, "winged": 20.0, "plain": 22.0}[state]
    for y in (92, 50):
        page.line("leaflet-stalk", [(28, y), (28 + stalk, y - 4)], LINE, 2)
        if state == "winged":
            page.shape("wing", [(30, y - 4), (48, y - 9), (48, y + 1), (30, y + 3)], GREEN, LINE, 0.8)
        draw_blade(
            page,
            Blade(62, 30, shape="elliptic", side_veins=5),
            LEAF["green"],
            turn=math.radians(78),
            at=(28 + stalk, y - 4),
            part="leaflet",
        )


def _lobing(page: Page, state: str) -> None:
    page.line("twig", [(60, 116), (60, 8)], BROWN, 4)
    plain = Blade(46, 30, shape="elliptic", side_veins=5)
    lobed = Blade(
        46,
        36,
        shape="elliptic",
        side_veins=5,
        lobes="pinnate",
        lobe_count=5,
        sinus_depth=0.55,
        lobe_tip="rounded",
    )
    for i, y in enumerate((96, 66, 36)):
        sign = 1 if i % 2 else -1
        chosen = plain if i == 1 and state == "yes" else lobed
        draw_blade(page, chosen, LEAF["green"], turn=sign * 1.0, at=(60 + sign * 3, y), part="leaf")


def _two_toned(page: Page, state: str) -> None:
    below = {"alike": LEAF["green"], "slightly": UNDER["paler_green"], "strongly": UNDER["silvery"]}[state]
    blade(page, 84, 46, (34, 108))
    blade(page, 84, 46, (86, 108), below)


def _same_green(page: Page, state: str) -> None:
    blade(page, tones=LEAF["green"] if state == "same_green" else UNDER[state])


def _hairs_below(page: Page, state: str) -> None:
    """A piece of the underside under the lens: midrib, two side veins, hairs."""
    page.dot("lens", (60, 60), 54, GREEN, LINE)
    page.line("midrib", [(60, 112), (60, 8)], LINE, 4)
    veins = [[(60, 92), (104, 66)], [(60, 92), (16, 66)], [(60, 56), (98, 30)], [(60, 56), (22, 30)]]
    for vein in veins:
        page.line("vein", vein, LINE, 2.2)
    rng = Scatter("below")
    if state == "veins_only":
        for vein in [*veins, [(60, 108), (60, 14)]]:
            (ax, ay), (bx, by) = vein
            for k in range(10):
                x, y = ax + (bx - ax) * k / 10, ay + (by - ay) * k / 10
                page.line("hair", [(x, y), (x + 5, y - 6)], WHITE, 1.3)
        return
    for _ in range(
        {"none": 0, "sparse": 26, "dense": 210, "star_shaped": 34, "sticky": 40, "scales": 60}[state]
    ):
        r, a = 50 * math.sqrt(rng.next()), rng.between(0, 2 * math.pi)
        x, y = 60 + r * math.cos(a), 60 + r * math.sin(a)
        if state == "star_shaped":
            for k in range(3):
                dx, dy = 4 * math.cos(k * 1.05), 4 * math.sin(k * 1.05)
                page.line("star", [(x - dx, y - dy), (x + dx, y + dy)], WHITE, 1.2)
        elif state == "scales":
            page.dot("scale", (x, y), 3, "#d6b892", "#8a6a42")
        else:
            page.line("hair", [(x, y), (x + 6, y - 5)], WHITE, 1.2)
            if state == "sticky":
                page.dot("gland", (x + 6, y - 5), 1.7, "#c77b3a")


def _tufts(page: Page, state: str) -> None:
    page.dot("lens", (60, 60), 54, GREEN, LINE)
    page.line("midrib", [(60, 112), (60, 8)], LINE, 4)
    for y in (92, 60, 34):
        for sign in (-1, 1):
            page.line("vein", [(60, y), (60 + sign * 42, y - 24)], LINE, 2.2)
            for k in range(12 if state != "none" else 0):
                tip = (60 + sign * (3 + k * 0.9), y - 7 - (k % 4) * 2.4)
                page.line("tuft", [(60 + sign * 2, y - 3), tip], WHITE if state == "pale" else "#a5642c", 1.4)


def _fringe(page: Page, state: str) -> None:
    page.dot("lens", (60, 60), 54, GREEN, LINE)
    page.line("midrib", [(60, 112), (60, 8)], LINE, 6)
    for y in (86, 50):
        for sign in (-1, 1):
            page.line("vein", [(60, y), (60 + sign * 46, y - 22)], LINE, 2)
    for k in range(24 if state != "none" else 0):
        for sign in (-1, 1):
            y = 104 - 4 * k
            page.line(
                "fringe",
                [(60 + sign * 3, y), (60 + sign * 11, y - 4)],
                WHITE if state == "pale" else "#a5642c",
                1.3,
            )


def _cupping(page: Page, state: str) -> None:
    """The blade cut across, seen on its edge."""
    bend = {"flat": 0.0, "edges_down": 26.0, "edges_up": -26.0}[state]
    edge = [(60 + 46 * t, 60 + bend * t * t) for t in (i / 10 for i in range(-10, 11))]
    page.shape("section", [*edge, *[(x, y + 5) for x, y in edge[::-1]]], GREEN, LINE, 1.2)
    page.dot("midrib", (60, 64), 5, GREEN, LINE)


def _gloss(page: Page, state: str) -> None:
    blade(page)
    if state == "glossy":
        page.shape("shine", [(46, 84), (44, 60), (50, 38), (54, 34), (50, 58), (51, 84)], "#e9f0d8")
        page.shape("shine", [(70, 74), (68, 56), (72, 48), (75, 62)], "#e9f0d8")


def _petiole(page: Page, state: str) -> None:
    draw_blade(page, Blade(62, 46, shape="elliptic", side_veins=5), LEAF["green"], at=(60, 66))
    colour = {"red_brown": "#8a4a38", "whitish": "#e5e2cf"}.get(state, LINE)
    if state == "flattened":
        page.shape("stalk", [(59, 66), (61, 66), (66, 84), (62, 112), (58, 112), (54, 84)], GREEN, LINE, 1)
        return
    page.line("stalk", [(60, 66), (61, 90), (60, 114)], LINE, 4)
    page.line("stalk", [(60, 66), (61, 90), (60, 114)], colour, 2.6)
    if state == "swollen_ends":
        page.dot("swelling", (60, 69), 5, GREEN, LINE)
        page.dot("swelling", (60, 111), 6, GREEN, LINE)
    elif state == "winged":
        page.shape("wing", [(60, 68), (72, 80), (66, 106), (60, 112), (54, 106), (48, 80)], GREEN, LINE, 1)
    elif state == "glands":
        for sign in (-1, 1):
            page.dot("gland", (60 + sign * 5, 72), 4, "#b2402f", DARK)


def _galls(page: Page, state: str) -> None:
    blade(page)
    for k, (x, y) in enumerate(((48, 80), (70, 74), (52, 52), (68, 46), (60, 94)) if state != "none" else ()):
        if state == "nipple_galls":
            page.shape("gall", [(x - 4, y), (x + 4, y), (x + 1, y - 13)], "#b3665a", "#5a2a22", 1)
        else:
            page.dot("gall", (x, y), 5 + k % 2, "#c9a25c", "#6a4a20")


def _rachis(page: Page, state: str) -> None:
    page.line("rachis", [(60, 118), (60, 4)], LINE, 5)
    for y in (96.0, 56.0):
        for sign in (-1, 1):
            page.line("leaflet-stalk", [(60, y), (60 + sign * 12, y - 4)], LINE, 2)
            draw_blade(
                page,
                Blade(40, 22, shape="elliptic", side_veins=4),
                LEAF["green"],
                turn=sign * 1.2,
                at=(60 + sign * 12, y - 4),
                part="leaflet",
            )
    if state == "winged":
        for high in (116, 92, 52):
            low = max(6, high - 34)
            page.shape(
                "wing",
                [(60, high), (69, (high + low) / 2), (60, low), (51, (high + low) / 2)],
                GREEN,
                LINE,
                1,
            )
    for k in range({"hairy": 26, "prickly": 6}.get(state, 0)):
        sign, y = (1 if k % 2 else -1), 114.0 - k * (4.2 if state == "hairy" else 18)
        if state == "hairy":
            page.line("hair", [(60 + sign * 2, y), (60 + sign * 9, y - 3)], LINE, 0.8)
        else:
            page.shape(
                "prickle", [(60 + sign * 2, y - 4), (60 + sign * 13, y + 5), (60 + sign * 2, y + 4)], DARK
            )


def _margin_rolled(page: Page, state: str) -> None:
    blade(page, 96, 52, (60, 112))
    half = [(25 * math.sin(math.pi * t) ** 0.8, 112 - 96 * t) for t in (i / 20 for i in range(1, 20))]
    for sign in (-1, 1):
        page.line("rolled-edge", [(60 + sign * (x - 5), y) for x, y in half if x > 7], LINE, 1)
        page.line("roll", [(60 + sign * x, y) for x, y in half], LINE, 3.4)


def tip(page: Page, end: list[Point]) -> None:
    """The end of a blade, enlarged; `end` are the points that make its tip, left to right."""
    page.shape(
        "blade", [(18, 118), (26, 80), (44, 48), *end, (76, 48), (94, 80), (102, 118)], GREEN, LINE, 1.4
    )
    page.line("midrib", [(60, 118), (60, 44)], LINE, 2)


def _tip_bristle(page: Page, state: str) -> None:
    tip(page, [(56, 36), (64, 36)])
    page.line("bristle", [(60, 36), (60, 4)], LINE, 1.1)


def _tip_spine(page: Page, state: str) -> None:
    tip(page, [(56, 36), (64, 36)])
    page.shape("spine", [(54, 38), (60, 6), (66, 38)], "#c7b06a", DARK, 1)


def _lobe_spine(page: Page, state: str) -> None:
    lobed = Blade(
        96,
        66,
        shape="elliptic",
        side_veins=5,
        lobes="pinnate",
        lobe_count=7,
        sinus_depth=0.5,
        lobe_tip="pointed",
    )
    draw_blade(page, lobed, LEAF["green"], at=(60, 112))
    for sign in (-1, 1):
        for y, x in ((86, 20), (65, 25), (44, 19)):
            page.shape(
                "spine",
                [(60 + sign * (x - 5), y - 4), (60 + sign * (x + 9), y - 10), (60 + sign * (x - 5), y + 1)],
                "#c7b06a",
                DARK,
                0.8,
            )


def _tooth(page: Page, state: str) -> None:
    """The edge of a blade under the lens: the blade on the left, three teeth on the right, the tip of the
    leaf upwards.
    """
    edge: list[Point] = []
    for k in range(3):
        y = 112 - 36 * k
        edge += {
            "blunt": [(60, y), (82, y - 8), (88, y - 18), (80, y - 26), (62, y - 32)],
            "sharp_spreading": [(60, y), (104, y - 18), (62, y - 32)],
            "incurved": [(60, y), (80, y - 12), (86, y - 24), (78, y - 38), (72, y - 28), (62, y - 32)],
            "gland_at_base": [(60, y), (84, y - 26), (62, y - 32)],
            "bristle": [(60, y), (84, y - 26), (62, y - 32)],
        }[state]
    page.shape("blade", [(8, 118), *edge, (60, 2), (8, 2)], GREEN, LINE, 1.6)
    for k in range(3):
        page.line("vein", [(12, 118 - 36 * k), (62, 96 - 36 * k)], LINE, 1.4)
        if state == "gland_at_base":
            page.dot("gland", (62, 110 - 36 * k), 5, "#b2402f", DARK)
        elif state == "bristle":
            page.line("bristle", [(82, 86 - 36 * k), (106, 74 - 36 * k)], LINE, 1.6)


def _linear(page: Page, state: str) -> None:
    blade(page, 104, 9, (60, 114))


def _end_leaflet_stalk(page: Page, state: str) -> None:
    page.line("stalk", [(60, 116), (60, 84)], LINE, 3)
    high = 84.0 if state == "none" else 56.0
    page.line("end-stalk", [(60, 84), (60, high)], LINE, 2.4)
    small = Blade(50, 28, shape="elliptic", side_veins=4)
    for turn, at in ((-1.15, (60.0, 84.0)), (1.15, (60.0, 84.0)), (0.0, (60.0, high))):
        draw_blade(page, small, LEAF["green"], turn=turn, at=at, part="leaflet")


def _dots_below(page: Page, state: str) -> None:
    """A piece of the underside under the lens; clear dots let the sky through."""
    pale = UNDER["paler_green"]
    page.dot("lens", (60, 60), 54, pale[0], pale[1])
    page.line("midrib", [(60, 112), (60, 8)], pale[1], 4)
    for y, sign in ((92, 1), (92, -1), (54, 1), (54, -1)):
        page.line("vein", [(60, y), (60 + sign * 42, y - 26)], pale[1], 2)
    rng = Scatter("dots")
    for _ in range(0 if state == "none" else 44):
        r, a = 48 * math.sqrt(rng.next()), rng.between(0, 2 * math.pi)
        at = (60 + r * math.cos(a), 60 + r * math.sin(a))
        page.dot("dot", at, 2.4, *(("#d9a21c", "#6b4d0a") if state == "resin" else ("#fbfdf4", "none")))


FLUSH = {"green": LEAF["green"], "bronze": ("#a9825a", "#553a20"), "red": ("#b5604f", "#571f16")}


def _flush(page: Page, colour: tuple[str, str], hairs: int) -> None:
    """A shoot that unfolds, its leaves half grown."""
    page.line("shoot", [(60, 116), (60, 40)], BROWN, 4)
    half = Blade(46, 22, shape="elliptic", side_veins=5)
    for turn, y in ((-0.95, 92), (0.95, 76), (-0.45, 54), (0.4, 48)):
        draw_blade(page, half, colour, turn=turn, at=(60, y), part="leaf")
    rng = Scatter("flush")
    for _ in range(hairs):
        foot = (rng.between(26, 94), rng.between(12, 88))
        page.line("hair", [foot, (foot[0] + 5, foot[1] - 4)], WHITE, 1.3)


def _flush_colour(page: Page, state: str) -> None:
    _flush(page, FLUSH.get(state, UNDER["silvery"]), 0)


def _flush_wool(page: Page, state: str) -> None:
    _flush(page, LEAF["green"], {"none": 0, "silky": 40, "woolly": 230}[state])


def _winter_colour(page: Page, state: str) -> None:
    tones = {"green": LEAF["green"], "bronze": ("#93764a", "#46351c"), "purple": LEAF["purple"]}[state]
    page.line("twig", [(60, 116), (60, 14)], BROWN, 4)
    small = Blade(40, 20, shape="elliptic", side_veins=4)
    for k in range(3):
        for sign in (-1, 1):
            draw_blade(page, small, tones, turn=sign * 1.05, at=(60, 106 - 30 * k), part="leaf")
    for k in range(3):
        a = math.pi * k / 3
        page.line(
            "snow",
            [(104 - 8 * math.cos(a), 16 - 8 * math.sin(a)), (104 + 8 * math.cos(a), 16 + 8 * math.sin(a))],
            "#8aa0a6",
            1.4,
        )


FOLIAGE: dict[str, Callable[[Page, str], None]] = {
    "leaf.shape linear": _linear,
    "leaf.rachis": _rachis,
    "leaf.margin rolled_under": _margin_rolled,
    "leaf.tip bristle": _tip_bristle,
    "leaf.tip spine": _tip_spine,
    "leaf.lobe_tip spine": _lobe_spine,
    "leaf.tooth_form": _tooth,
    "leaf.leaflet_stalk": _leaflet_stalk,
    "leaf.lobing_mixed": _lobing,
    "leaf.two_toned": _two_toned,
    "leaf.underside": _same_green,
    "leaf.hairs_below": _hairs_below,
    "leaf.axil_tufts": _tufts,
    "leaf.midrib_fringe": _fringe,
    "leaf.cupping": _cupping,
    "leaf.gloss": _gloss,
    "leaf.petiole": _petiole,
    "leaf.galls": _galls,
    "leaf.end_leaflet_stalk": _end_leaflet_stalk,
    "leaf.dots_below": _dots_below,
    "leaf.flush_colour": _flush_colour,
    "leaf.flush_wool": _flush_wool,
    "leaf.winter_colour": _winter_colour,
}
