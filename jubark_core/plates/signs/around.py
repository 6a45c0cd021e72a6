"""Signs at the base, in the soil and round the plant."""

from __future__ import annotations

from jubark_core.plates.pen import Page, Scatter
from jubark_core.plates.signs.scenes import BLACK, BROWN, WHITE, Scene, base, scattered
from jubark_core.plates.tiles.whole_plant import DARK, STEM, crown, ground

SLATE, SICK = "#35566a", "#a14a26"


def _bracket(page: Page) -> None:
    base(page)
    page.shape("bracket", [(70, 70), (106, 74), (108, 84), (74, 88)], "#8b5a34", DARK)
    page.line("rim", [(74, 88), (106, 84)], WHITE, 2.4)


def _crust(page: Page) -> None:
    base(page)
    page.shape("crust", [(40, 92), (46, 74), (58, 82), (66, 74), (76, 92)], BLACK, "#cfc9b6")


def _tufts(page: Page) -> None:
    base(page)
    for x, y in ((28, 92), (36, 86), (44, 92), (84, 90), (92, 84)):
        page.line("stalk", [(x, y + 12), (x, y)], "#d9c39a", 3)
        page.dot("cap", (x, y - 1), 7, "#c98b3a", BROWN, 0.55)
        page.line("ring", [(x - 3, y + 5), (x + 3, y + 5)], WHITE, 1.6)


def _on_soil(page: Page) -> None:
    base(page)
    for x, r in ((98, 15), (108, 10), (88, 10)):
        page.dot("fruit body", (x, 94), r, "#b98a52", DARK, 0.5)


def _bootlaces(page: Page) -> None:
    base(page)
    page.shape("bare", [(48, 40), (74, 40), (78, 92), (42, 92)], "#d9c39a", DARK)
    for points in ([(52, 44), (58, 66), (50, 92)], [(66, 42), (60, 64), (70, 92)], [(58, 66), (60, 64)]):
        page.line("bootlace", [(float(x), float(y)) for x, y in points], BLACK, 3)


def _fan(page: Page) -> None:
    base(page)
    page.shape("bare", [(46, 44), (76, 44), (80, 92), (40, 92)], "#8a5a34", DARK)
    page.shape("fan", [(60, 90), (46, 56), (56, 50), (62, 58), (70, 50), (76, 60)], WHITE, "#bdb8a6")


def _post(page: Page) -> None:
    page.line("ground", [(4, 92), (116, 92)], "#8a7a5c", 1.6)
    page.shape("trunk", [(46, 94), (46, 0), (74, 0), (74, 94)], "#8b7a62", DARK)


def _girdling(page: Page) -> None:
    base(page)
    page.line("root", [(24, 96), (56, 82), (100, 92)], "#6b563f", 9)


def _rotten(page: Page) -> None:
    base(page)
    for x, to in ((40, 16), (60, 60), (80, 104)):
        page.line("root", [(float(x), 92.0), (float(to), 116.0)], "#3a2a20", 6)


def _dug(page: Page) -> None:
    base(page)
    page.shape("trench", [(88, 92), (112, 92), (110, 118), (92, 118)], "#4a3a28")
    page.shape("heap", [(4, 92), (14, 76), (26, 92)], "#8a6a44", DARK)


def _gas(page: Page) -> None:
    page.line("ground", [(4, 84), (116, 84)], "#8a7a5c", 1.6)
    page.line("main", [(4, 106), (116, 106)], "#c9a020", 7)
    for x in (40, 60, 80):
        page.line("gas", [(x, 98), (x + 6, 86), (x - 4, 70), (x + 6, 52)], "#7d8a6a", 2.4)


def _salt(page: Page) -> None:
    page.shape("road", [(0, 84), (120, 84), (120, 120), (0, 120)], "#6d6a64")
    page.shape("kerb", [(0, 74), (120, 74), (120, 84), (0, 84)], "#b9b4a8", DARK)
    rng = Scatter("salt")
    scattered(page, "salt", [(rng.between(4, 116), rng.between(68, 100)) for _ in range(60)], 1.8, WHITE)
    page.line("stem", [(60, 74), (60, 6)], STEM, 10)


def _stand(page: Page, kinds: tuple[str, ...], sick: tuple[bool, ...]) -> None:
    ground(page)
    for i, (kind, is_sick) in enumerate(zip(kinds, sick, strict=True)):
        x = 22.0 + 38 * i
        page.line("trunk", [(x, 106), (x, 70)], STEM, 4)
        if kind == "round":
            crown(page, (x, 56), 32, 36, f"near{i}")
        else:
            page.shape("crown", [(x - 15, 78), (x, 18), (x + 15, 78)], "#5f8a46", "#3f5f34", 1)
        if is_sick:
            page.line("mark", [(x - 6, 50), (x + 6, 62)], SICK, 3)
            page.line("mark", [(x + 6, 50), (x - 6, 62)], SICK, 3)


def _same(page: Page) -> None:
    _stand(page, ("round", "round", "round"), (True, True, True))


def _others(page: Page) -> None:
    _stand(page, ("round", "cone", "round"), (True, True, True))


def _direction(page: Page) -> None:
    _stand(page, ("round", "cone", "round"), (False, False, False))
    for y in (30, 50, 70):
        page.line("from", [(4, y), (24, y)], SLATE, 2.4)
        page.lines("from", [[(24, y), (18, y - 4)], [(24, y), (18, y + 4)]], SLATE, 2.4)


DRAWN: dict[str, Scene] = {
    "bracket_base": _bracket,
    "crust_black_brittle": _crust,
    "mushrooms_tufts": _tufts,
    "fruit_body_on_soil": _on_soil,
    "bootlaces": _bootlaces,
    "fan_under_bark": _fan,
    "flare_buried": _post,
    "girdling_root_seen": _girdling,
    "roots_rotten": _rotten,
    "soil_raised_or_dug": _dug,
    "gas_smell": _gas,
    "salt_crust": _salt,
    "same_host_affected": _same,
    "other_hosts_affected": _others,
    "one_direction": _direction,
}
