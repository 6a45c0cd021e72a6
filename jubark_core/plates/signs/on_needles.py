"""Signs on needles and scale leaves."""

from __future__ import annotations

from jubark_core.plates.pen import Page, Scatter
from jubark_core.plates.signs.scenes import BLACK, BROWN, LEAF, WHITE, YELLOW, Scene, needles, scattered

PURPLE_BROWN, BRONZE = "#7d4a3a", "#8a6a3a"


def _one_needle(page: Page, fill: str = LEAF) -> None:
    for y in (36, 66, 96):
        page.shape("needle", [(6, y - 6), (104, y - 7), (116, y), (104, y + 7), (6, y + 6)], fill, "#3f5f34")


def _inner(page: Page) -> None:
    needles(page, inner=YELLOW)


def _inside_out(page: Page) -> None:
    needles(page, inner=PURPLE_BROWN, outer=PURPLE_BROWN)


def _banded(page: Page) -> None:
    _one_needle(page)
    for y in (36, 66, 96):
        for x in (46, 74):
            page.shape("band", [(x, y - 6), (x + 14, y - 6), (x + 14, y + 6), (x, y + 6)], "#8a2e1e")


def _dots(page: Page) -> None:
    _one_needle(page, "#9a7a4a")
    for y in (36, 66, 96):
        scattered(page, "dot", [(14 + 6 * k, y + side) for k in range(15) for side in (-3, 3)], 1.3, BLACK)


def _wool(page: Page) -> None:
    needles(page)
    scattered(page, "wool", [(16 + 12 * k, 65 - 1.4 * k) for k in range(8)], 5, WHITE, "#bdb8a6")


def _covers(page: Page) -> None:
    _one_needle(page)
    for y in (36, 66, 96):
        for x in (34, 62, 90):
            page.dot("cover", (x, y), 6, "#a5724a", "#5a3a20", 0.55)


def _flecks(page: Page) -> None:
    _one_needle(page)
    for y in (36, 66, 96):
        for x in (26, 48, 70, 92):
            page.dot("fleck", (x, y), 4.5, WHITE, "#a59f8c", 0.5)


def _webbing(page: Page) -> None:
    needles(page)
    rng = Scatter("web")
    page.lines(
        "thread",
        [
            [(rng.between(14, 104), rng.between(30, 56)), (rng.between(14, 104), rng.between(66, 96))]
            for _ in range(20)
        ],
        "#f4f1e8",
        0.9,
    )


def _stipple(page: Page) -> None:
    _one_needle(page)
    rng = Scatter("stipple")
    for y in (36, 66, 96):
        scattered(
            page, "dot", [(rng.between(10, 104), y + rng.between(-5, 5)) for _ in range(34)], 1.1, "#e3dca8"
        )


def _bronze(page: Page) -> None:
    needles(page, BRONZE, BRONZE, "#7d5a4a")


def _one_side(page: Page) -> None:
    needles(page)
    for k in range(24):
        x = 14 + 4.1 * k
        y = 66 - 0.115 * (x - 8)
        page.line("brown", [(x, y), (x + 7, y - 26)], BROWN, 2.6)


DRAWN: dict[str, Scene] = {
    "needles_inner_yellow": _inner,
    "needles_brown_inside_out": _inside_out,
    "needles_banded": _banded,
    "needles_dots_rows": _dots,
    "wool_needle_base": _wool,
    "covers_under_needle": _covers,
    "flecks_white_needles": _flecks,
    "fine_webbing": _webbing,
    "stipple_bronze": _stipple,
    "bronzed_winter": _bronze,
    "browned": _one_side,
}
