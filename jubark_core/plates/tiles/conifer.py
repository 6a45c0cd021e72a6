"""Tiles of needle and spray."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import LEAF, WOOD
from jubark_core.plates.pen import Page, Point, turned

GREEN, LINE = LEAF["green"]
BROWN, DARK = WOOD["brown"]
NEEDLE = ("#5f7d4a", "#26371f")


def _needle_section(page: Page, state: str) -> None:
    page.line("needle", [(26, 112), (26, 8)], NEEDLE[0], 8)
    shapes: dict[str, list[Point]] = {
        "flat": [(46, 54), (110, 54), (114, 60), (110, 66), (46, 66), (42, 60)],
        "four_sided": [(78, 34), (104, 60), (78, 86), (52, 60)],
        "three_sided": [(78, 30), (108, 82), (48, 82)],
        "half_round": [
            (46, 52),
            (110, 52),
            *[(78 + 32 * math.cos(a), 52 + 28 * math.sin(a)) for a in (math.pi * i / 10 for i in range(11))],
        ],
    }
    page.shape("section", shapes[state], NEEDLE[0], NEEDLE[1], 1.6)


def _needle_base(page: Page, state: str) -> None:
    page.shape("twig", [(14, 4), (46, 4), (46, 116), (14, 116)], BROWN, DARK, 1.4)
    for k, y in enumerate((30, 66, 100)):
        bare = k == 1
        if state == "running_down":
            page.shape("foot", [(30, y + 26), (34, y + 26), (46, y), (40, y)], NEEDLE[0], NEEDLE[1], 1)
            page.line("needle", [(44, y), (104, y - 22)], NEEDLE[0], 5)
            continue
        if state == "peg":
            page.shape("peg", [(46, y + 4), (57, y - 2), (57, y - 8), (46, y - 4)], DARK, DARK, 1)
        elif state == "stalked_on_small_peg":
            page.shape("peg", [(46, y + 3), (51, y), (51, y - 4), (46, y - 3)], DARK, DARK, 1)
        elif state == "raised_oval_scar":
            page.dot("scar", (44, y - 2), 6, "#d8c9a4", DARK, 1.3)
        else:
            page.dot("scar", (40, y - 2), 6, "#e6d9b8", DARK)
        if not bare:
            start = {"peg": 57.0, "stalked_on_small_peg": 51.0}.get(state, 47.0)
            if state == "stalked_on_small_peg":
                page.line("needle-stalk", [(start, y - 2), (start + 10, y - 6)], NEEDLE[1], 1.6)
                start += 10
            page.line("needle", [(start, y - 5), (108, y - 26)], NEEDLE[0], 6)


def _needle_tip(page: Page, state: str) -> None:
    tips: dict[str, list[Point]] = {
        "notched": [(44, 34), (52, 26), (60, 36), (68, 26), (76, 34)],
        "blunt": [(44, 36), (50, 26), (60, 22), (70, 26), (76, 36)],
        "pointed": [(44, 48), (54, 28), (60, 18), (66, 28), (76, 48)],
        "sharp": [(44, 60), (56, 32), (60, 4), (64, 32), (76, 60)],
    }
    page.shape("needle", [(44, 118), *tips[state], (76, 118)], *NEEDLE, 1.6)
    page.line("midrib", [(60, 118), (60, 46)], NEEDLE[1], 1.4)


def _bands(page: Page, state: str) -> None:
    for x, below in ((34, False), (86, True)):
        page.shape("needle", [(x - 16, 114), (x - 16, 26), (x, 8), (x + 16, 26), (x + 16, 114)], *NEEDLE, 1.4)
        shown = {"none": 0, "two_below": 2 if below else 0, "both_faces": 2, "all_sides": 3}[state]
        for k in range(shown):
            at = x + (k - (shown - 1) / 2) * (16 if shown == 2 else 9)
            page.line("band", [(at, 110), (at, 28)], "#e9efe3", 4.5 if shown == 2 else 2)


def _needle_edge(page: Page, state: str) -> None:
    edge: list[Point] = [(44.0, 116.0)]
    for k in range(13):
        y = 112 - 8 * k
        edge += [(44, y), (39, y - 4), (44, y - 5)] if state == "toothed" else [(44, y)]
    page.shape("needle", [*edge, (60, 4), *[(120 - x, y) for x, y in edge[::-1]]], *NEEDLE, 1.4)


def _sheath(page: Page, state: str) -> None:
    for lean in (-0.22, 0.0, 0.22):
        page.line("needle", [(60, 96), (60 + 88 * math.sin(lean), 96 - 88 * math.cos(lean))], NEEDLE[0], 4)
    page.line("twig", [(20, 108), (100, 108)], BROWN, 12)
    if state == "persistent":
        page.shape("sheath", [(53, 104), (67, 104), (66, 76), (54, 76)], "#b08a5c", DARK, 1.2)
        for k in range(4):
            page.line("sheath-ring", [(54, 98 - 6 * k), (66, 98 - 6 * k)], DARK, 0.8)


def _bend(page: Page, state: str) -> None:
    bow = [(60 - 44 * math.cos(a), 100 - 70 * math.sin(a)) for a in (math.pi * i / 12 for i in range(13))]
    if state == "bends":
        page.line("needle", bow, NEEDLE[0], 5)
    else:
        page.line("needle", [(16, 100), (57, 32)], NEEDLE[0], 5)
        page.line("needle", [(66, 34), (104, 100)], NEEDLE[0], 5)
        for dx, dy in ((-6, -8), (2, -12), (8, -6)):
            page.line("splinter", [(61, 34), (61 + dx, 34 + dy)], NEEDLE[1], 1.2)


def scales(page: Page, long: float, wide: float, tones: tuple[str, str] = LEAF["green"]) -> list[Point]:
    """An axis of overlapping scales enlarged; the middle of each is given back."""
    places = []
    count = int(104 / long)
    for k in range(count):
        y = 114 - k * long
        for sign in (-1, 1):
            page.shape(
                "scale",
                [
                    (60, y),
                    (60 + sign * wide, y - long * 0.5),
                    (60 + sign * wide * 0.6, y - long),
                    (60, y - long * 0.7),
                ],
                *tones,
                1,
            )
        page.shape(
            "scale",
            [
                (60 - wide * 0.45, y - long * 0.3),
                (60, y + 1),
                (60 + wide * 0.45, y - long * 0.3),
                (60, y - long),
            ],
            *tones,
            1,
        )
        places.append((60.0, y - long * 0.4))
    return places


def _bloom(page: Page, state: str) -> None:
    for x, y in scales(page, 25, 26):
        mark: list[list[Point]] = {
            "none": [],
            "bow_tie": [
                [(x - 17, y - 9), (x, y - 3), (x - 17, y + 3)],
                [(x + 17, y - 9), (x, y - 3), (x + 17, y + 3)],
            ],
            "crosses": [
                [(x - 14, y - 11), (x - 11, y - 13), (x + 14, y + 5), (x + 11, y + 7)],
                [(x + 14, y - 11), (x + 11, y - 13), (x - 14, y + 5), (x - 11, y + 7)],
            ],
            "stripes": [
                [(x - 15, y - 12), (x - 11, y - 12), (x - 11, y + 6), (x - 15, y + 6)],
                [(x + 11, y - 12), (x + 15, y - 12), (x + 15, y + 6), (x + 11, y + 6)],
            ],
            "both_faces": [[(x - 20, y - 11), (x + 20, y - 11), (x + 14, y + 4), (x - 14, y + 4)]],
        }[state]
        for points in mark:
            page.shape("bloom", points, "#f0f4ee")


def _spray_segment(page: Page, state: str) -> None:
    scales(page, 34 if state == "longer_than_wide" else 20, 14 if state == "longer_than_wide" else 20)


def _spray_gland(page: Page, state: str) -> None:
    for x, y in scales(page, 25, 26):
        if state == "raised":
            page.dot("gland", (x, y), 3.4, "#c9cf9a", LINE)
        elif state == "resin_drop":
            page.dot("gland", (x, y), 4, "#e2ad4a", "#8a5a1c", 1.4)


def _spray_flat(page: Page, state: str) -> None:
    for k in range(7):
        y = 104 - 13 * k
        for sign in (-1, 1) if state == "yes" else (-1, 1, -0.35, 0.35):
            long = 40 - 3 * k
            page.line(
                "branchlet",
                [(60, y), *turned([(60, y - long)], sign * 0.95, (60, y))],
                GREEN,
                5 if abs(sign) == 1 else 3.4,
            )
    page.line("axis", [(60, 114), (60, 10)], LINE, 3)


def _spray_droops(page: Page, state: str) -> None:
    for k in range(3):
        x = 20 + 14 * k
        down = 54.0 if state == "yes" else 6.0
        page.line("branch", [(14, 40 + 24 * k), (56, 34 + 24 * k), (70 + x * 0.4, 40 + 24 * k)], BROWN, 3)
        for j in range(5):
            a = 30 + 14 * j
            page.line("spray", [(a, 37 + 24 * k), (a + 7, 37 + 24 * k + down * 0.6)], GREEN, 3.4)


def _awl(page: Page, state: str) -> None:
    page.line("shoot", [(60, 116), (60, 8)], BROWN, 4)
    for k in range(7):
        y = 106 - 15 * k
        for sign in (-1, 1):
            page.shape(
                "awl",
                [(60, y + 6), (60 + sign * 5, y - 2), (60 + sign * 16, y - 20), (60, y - 6)],
                *NEEDLE,
                0.9,
            )


def _band_colour(page: Page, state: str) -> None:
    page.line("shoot", [(60, 116), (60, 6)], BROWN, 5)
    band = "#eef3ee" if state == "white" else "#b9bd7c"
    for k in range(4):
        y = 104 - 27 * k
        for sign in (-1, 1):
            tip = (60 + sign * 50, y - 12)
            page.line("needle", [(60 + sign * 4, y), tip], NEEDLE[1], 13)
            page.line("needle", [(60 + sign * 4, y), tip], NEEDLE[0], 11)
            for off in (-2.6, 2.6):
                page.line(
                    "band", [(60 + sign * 8, y + off - 1), (tip[0] - sign * 4, tip[1] + off)], band, 2.4
                )


CONIFER: dict[str, Callable[[Page, str], None]] = {
    "leaf.type awl": _awl,
    "needle.section": _needle_section,
    "needle.base": _needle_base,
    "needle.tip": _needle_tip,
    "needle.bands": _bands,
    "needle.edge": _needle_edge,
    "needle.sheath": _sheath,
    "needle.bend": _bend,
    "spray.flat": _spray_flat,
    "spray.underside_bloom": _bloom,
    "spray.segment": _spray_segment,
    "spray.droops": _spray_droops,
    "spray.gland": _spray_gland,
    "needle.band_colour": _band_colour,
}
