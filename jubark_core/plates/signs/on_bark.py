"""Signs on bark and wood."""

from __future__ import annotations

import math

from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.signs.scenes import (
    BLACK,
    BROWN,
    DUST,
    HOLE,
    ORANGE,
    RED,
    RUST,
    WHITE,
    WOOD,
    Scene,
    bark,
    ruler,
    scattered,
    smooth,
)
from jubark_core.plates.tiles.whole_plant import DARK

PER_MM = 9.0  # page units a millimetre, of holes


def _round(page: Page, at: Point, mm: float, per_mm: float = PER_MM) -> None:
    page.dot("hole", at, mm / 2 * per_mm, HOLE)


def _hole_d(page: Page) -> None:
    bark(page)
    r = 3.5 / 2 * PER_MM
    arc = [(60 + r * math.sin(math.pi * k / 16), 52 - r * math.cos(math.pi * k / 16)) for k in range(17)]
    page.shape("hole", arc, HOLE)
    ruler(page, 10, PER_MM)


def _hole_round(page: Page) -> None:
    bark(page)
    _round(page, (60, 52), 5)
    ruler(page, 10, PER_MM)


def _hole_oval(page: Page) -> None:
    bark(page)
    page.dot("hole", (60, 52), 4 * PER_MM, HOLE, flat=0.5)
    ruler(page, 10, PER_MM)


def _rows(page: Page) -> None:
    bark(page)
    for y in (30, 54, 78):
        scattered(page, "hole", [(14 + 15 * k, y + (k % 2)) for k in range(7)], 4, HOLE)


def _pins(page: Page) -> None:
    bark(page)
    rng = Scatter("pins")
    scattered(
        page, "hole", [(rng.between(14, 106), rng.between(10, 92)) for _ in range(16)], 1.5 / 2 * 4, HOLE
    )
    ruler(page, 20, 4.6)


def _pits(page: Page) -> None:
    bark(page)
    for at in ((38, 36), (80, 62)):
        page.dot("pit", at, 17, "#a98f6c", DARK, 0.7)
        page.dot("pit", at, 6, HOLE, flat=0.7)
    ruler(page, 30, 3.1)


def _skin(page: Page) -> None:
    bark(page)
    _round(page, (52, 56), 4.5)
    page.shape("skin", [(52, 48), (88, 40), (96, 46), (88, 54), (54, 62)], "#b98a52", DARK)
    page.lines("ring", [[(62, 46), (63, 60)], [(72, 44), (73, 58)], [(82, 42), (83, 56)]], DARK)


def _toothpicks(page: Page) -> None:
    bark(page)
    for x, y in ((30, 40), (54, 70), (78, 30), (92, 78)):
        _round(page, (x, y), 0.8)
        page.line("dust", [(x, y), (x + 16, y - 6)], DUST, 3)


def _pitch(page: Page) -> None:
    bark(page)
    for at in ((36, 34), (74, 56), (46, 84)):
        scattered(
            page,
            "pitch",
            [(at[0] + dx, at[1] + dy) for dx, dy in ((0, 0), (8, 3), (-6, 5), (3, 9))],
            7,
            "#ead9a6",
            RUST,
        )
        page.dot("hole", at, 2.4, HOLE)


def _dust(page: Page) -> None:
    bark(page)
    rng = Scatter("dust")
    _round(page, (58, 40), 1)
    scattered(
        page, "dust", [(58 + rng.between(-26, 26), 66 + rng.between(0, 44)) for _ in range(90)], 1.8, DUST
    )


def _wood(page: Page) -> None:
    page.shape("wood", [(0, 0), (120, 0), (120, 120), (0, 120)], WOOD)
    page.shape("bark", [(0, 0), (22, 0), (18, 60), (26, 120), (0, 120)], "#8f8676", DARK)


def _galleries_winding(page: Page) -> None:
    _wood(page)
    for x in (52, 88):
        points = [(x + 14 * math.sin(y / 7), float(y)) for y in range(6, 116, 2)]
        page.line("gallery", points, "#7d5a36", 5)
        page.line("dust", points, "#b9935f", 2.4)


def _galleries_other(page: Page) -> None:
    _wood(page)
    page.line("mother", [(36, 60), (108, 60)], "#6b4a2a", 5)
    for k in range(9):
        x = 40 + 8 * k
        page.line("larval", [(x, 60), (x - 4, 30)], "#7d5a36", 2)
        page.line("larval", [(x, 60), (x + 4, 90)], "#7d5a36", 2)


def _split(page: Page) -> None:
    bark(page)
    page.shape("split", [(58, 14), (66, 50), (60, 104), (52, 56)], WOOD, DARK)


def _ridges(page: Page) -> None:
    smooth(page)
    for x in (34, 62, 90):
        points = [(x + 10 * math.sin(y / 9), float(y)) for y in range(8, 114, 3)]
        page.line("ridge", points, "#857d6d", 7)
        page.line("ridge", points, "#b9b2a4", 2)


def _flecking(page: Page) -> None:
    bark(page)
    rng = Scatter("fleck")
    for _ in range(9):
        x, y = rng.between(8, 96), rng.between(6, 104)
        page.shape("fleck", [(x, y), (x + 14, y - 4), (x + 18, y + 9), (x + 4, y + 12)], WOOD)


def _sunken(page: Page) -> None:
    bark(page)
    page.dot("edge", (60, 60), 27, "#a59a86", DARK, 1.5)
    page.dot("canker", (60, 60), 20, "#4d4034", DARK, 1.5)
    page.line("crack", [(60, 34), (57, 60), (62, 88)], BLACK, 2)


def _diamond(page: Page) -> None:
    page.shape("bark", [(0, 0), (120, 0), (120, 120), (0, 120)], "#8f9a78")
    page.shape("lesion", [(60, 10), (84, 60), (60, 110), (36, 60)], RUST, DARK)
    page.line("shoot", [(60, 60), (100, 28)], "#5a4634", 6)


def _bleeding(page: Page) -> None:
    bark(page)
    for x, top in ((44, 24), (70, 40), (58, 14)):
        page.shape(
            "bleed",
            [(x - 5, top), (x + 5, top), (x + 3, top + 62), (x, top + 70), (x - 3, top + 62)],
            "#38231a",
        )
        page.dot("bleed", (x, top), 7, "#5a2e1c")


def _orange_dots(page: Page) -> None:
    _sunken(page)
    rng = Scatter("orange")
    scattered(
        page, "dot", [(60 + rng.between(-18, 18), 60 + rng.between(-28, 28)) for _ in range(34)], 2, ORANGE
    )


def _slime(page: Page) -> None:
    bark(page)
    page.shape("crotch", [(40, 0), (60, 30), (80, 0)], HOLE)
    page.shape("slime", [(54, 28), (66, 28), (74, 116), (46, 116)], "#b9ad8e", "#8b8066")
    page.line("slime", [(60, 34), (58, 110)], WHITE, 3)


def _resin(page: Page) -> None:
    bark(page)
    for x, top, low in ((42, 20, 80), (60, 34, 104), (80, 16, 66)):
        page.line("resin", [(x, top), (x + 1, low)], "#e0b04a", 5)
        page.dot("resin", (x + 1, low), 4.5, "#f0cc74")


def _black_crust(page: Page) -> None:
    bark(page)
    page.shape("bare", [(30, 6), (96, 14), (88, 112), (24, 104)], "#d3d0c6", DARK)
    page.shape("crust", [(42, 24), (84, 30), (78, 100), (36, 92)], BLACK)


def _powder(page: Page) -> None:
    bark(page)
    page.shape("bare", [(26, 4), (98, 10), (92, 116), (22, 110)], "#4a382a", DARK)
    rng = Scatter("powder")
    scattered(
        page, "powder", [(rng.between(30, 92), rng.between(12, 108)) for _ in range(120)], 2.2, "#2b211a"
    )
    page.shape("sheet", [(98, 10), (116, 26), (110, 104), (92, 116)], "#b3a992", DARK)


def _mat(page: Page) -> None:
    bark(page)
    page.shape("crack", [(54, 4), (72, 60), (58, 116), (46, 60)], "#3a2c20")
    page.dot("mat", (58, 60), 14, "#cfc9b6", "#8b8474", 1.9)


def _wool(page: Page) -> None:
    smooth(page)
    rng = Scatter("wool")
    scattered(
        page,
        "wool",
        [(30 + 22 * (k % 4) + rng.between(-5, 5), rng.between(8, 112)) for k in range(60)],
        3,
        WHITE,
        "#c9c4b4",
    )


def _red_dots(page: Page) -> None:
    smooth(page)
    rng = Scatter("red")
    for cx, cy in ((38, 36), (76, 58), (48, 88)):
        scattered(
            page, "dot", [(cx + rng.between(-9, 9), cy + rng.between(-9, 9)) for _ in range(10)], 2, RED
        )


def _shells(page: Page) -> None:
    smooth(page)
    rng = Scatter("shells")
    for _ in range(26):
        x, y = rng.between(8, 104), rng.between(8, 90)
        page.shape("shell", [(x, y), (x + 8, y - 3), (x + 9, y + 1), (x + 1, y + 3)], "#5d5142", DARK, 0.5)
    ruler(page, 12, 4.0)


def _lichen(page: Page) -> None:
    bark(page)
    for at, r, colour in (((34, 34), 17, "#b6bfa0"), ((80, 54), 20, "#c9c26a"), ((44, 88), 15, "#9fb08a")):
        rng = Scatter(f"{at}")
        page.shape(
            "lichen",
            [
                (
                    at[0] + r * rng.between(0.8, 1.15) * math.cos(a / 3),
                    at[1] + r * rng.between(0.8, 1.15) * math.sin(a / 3),
                )
                for a in range(19)
            ],
            colour,
            "#7d8a68",
            0.8,
        )


def _egg_buff(page: Page) -> None:
    bark(page)
    for at in ((44, 40), (74, 74)):
        page.dot("egg mass", at, 22, "#d3b684", "#a98a58", 0.6)
    ruler(page, 40, 2.3)


def _egg_mud(page: Page) -> None:
    bark(page)
    page.shape("smear", [(34, 22), (70, 18), (78, 84), (40, 90)], "#9b958a", "#6b665c")
    for k in range(4):
        scattered(page, "egg", [(44 + 8 * k, 34 + 9 * j) for j in range(5)], 2.6, "#6f5d4a")


def _stain(colour: str) -> Scene:
    def scene(page: Page) -> None:
        page.dot("twig", (60, 60), 48, "#8b7a62", DARK)
        page.dot("wood", (60, 60), 39, "#ead9b4", DARK)
        for k in range(16):
            a = 2 * math.pi * k / 16
            page.dot("streak", (60 + 34 * math.cos(a), 60 + 34 * math.sin(a)), 3.6 if k % 3 else 0.8, colour)
        page.dot("pith", (60, 60), 4, "#c9b48a")

    return scene


def _flap(inner: str, edge: bool) -> Scene:
    def scene(page: Page) -> None:
        bark(page)
        page.shape("flap", [(30, 20), (92, 20), (92, 104), (30, 104)], "#e9d9b0", DARK)
        line = [(30, 62), (46, 50), (60, 58), (76, 46), (92, 54)]
        page.shape("dead", [*line, (92, 104), (30, 104)], inner, DARK if edge else "none")

    return scene


def _tongue(page: Page) -> None:
    page.shape("bark", [(0, 0), (120, 0), (120, 120), (0, 120)], "#8f8676")
    page.shape("lesion", [(34, 120), (40, 70), (60, 22), (78, 74), (88, 120)], "#54402f", DARK)
    page.line("ground", [(0, 112), (120, 112)], "#6b5a40", 3)


def _shredded(page: Page) -> None:
    page.shape("stem", [(40, 0), (80, 0), (80, 120), (40, 120)], "#8b7a62", DARK)
    page.shape("bare", [(46, 24), (76, 20), (74, 100), (48, 104)], WOOD)
    for x in (44, 52, 62, 74, 80):
        page.line("shred", [(x, 26), (x + (x - 60) * 0.5, 98)], "#a58a64", 2)


def _gnawed(page: Page) -> None:
    page.shape("stem", [(36, 0), (84, 0), (88, 120), (32, 120)], "#8b7a62", DARK)
    page.shape("bare", [(38, 56), (82, 52), (84, 104), (36, 106)], WOOD, DARK)
    for k in range(12):
        x = 40 + 3.7 * k
        page.line("tooth mark", [(x, 62 + (k % 3) * 12), (x + 4, 66 + (k % 3) * 12)], BROWN, 1.6)


def _low_wound(page: Page) -> None:
    page.line("ground", [(0, 104), (120, 104)], "#6f9a4e", 5)
    page.shape("stem", [(44, 0), (76, 0), (80, 104), (40, 104)], "#8b7a62", DARK)
    page.shape("wound", [(48, 66), (66, 60), (70, 100), (46, 100)], WOOD, DARK)


def _strip(page: Page) -> None:
    page.shape("stem", [(38, 0), (82, 0), (84, 120), (36, 120)], "#8b7a62", DARK)
    page.shape("strip", [(76, 0), (82, 0), (66, 60), (48, 120), (38, 120), (58, 56)], WOOD, DARK)


def _plate(page: Page) -> None:
    page.shape("stem", [(34, 0), (86, 0), (88, 120), (32, 120)], "#a08c6c", DARK)
    page.shape("plate", [(40, 18), (60, 12), (64, 104), (42, 108)], "#6b5540", DARK)
    page.line("edge", [(62, 16), (66, 60), (64, 104)], HOLE, 2.4)


def _plates_normal(page: Page) -> None:
    page.shape("bark", [(0, 0), (120, 0), (120, 120), (0, 120)], "#d9d2b8")
    for points, colour in (
        ([(8, 8), (50, 4), (46, 42), (14, 48)], "#9a927a"),
        ([(62, 20), (110, 26), (104, 70), (70, 64)], "#a9b08c"),
        ([(16, 66), (58, 72), (52, 112), (12, 106)], "#8b8268"),
    ):
        page.shape("plate", points, colour, "#6d6455")
    page.line("curl", [(104, 70), (112, 78), (106, 84)], "#6d6455", 2.4)


def _bracket(page: Page) -> None:
    page.shape("stem", [(20, 0), (64, 0), (66, 120), (18, 120)], "#8b7a62", DARK)
    for y, r in ((50, 34), (78, 24)):
        page.shape(
            "bracket", [(60, y), (60 + r, y + 4), (60 + r * 1.05, y + 11), (60, y + 14)], "#b98a52", DARK
        )
        page.line("pores", [(62, y + 14), (60 + r, y + 11)], WHITE, 2)


def _swelling(page: Page) -> None:
    page.line("limb", [(4, 60), (116, 60)], "#8b7a62", 14)
    page.dot("swelling", (60, 60), 32, "#8b7a62", DARK, 0.55)
    rng = Scatter("blister")
    scattered(
        page,
        "blister",
        [(60 + rng.between(-24, 24), 60 + rng.between(-11, 11)) for _ in range(22)],
        3.4,
        ORANGE,
        RUST,
    )


DRAWN: dict[str, Scene] = {
    "exit_hole_d": _hole_d,
    "exit_hole_round": _hole_round,
    "exit_hole_oval": _hole_oval,
    "sap_wells_rows": _rows,
    "pin_holes": _pins,
    "egg_pits_chewed": _pits,
    "pupal_skin_in_hole": _skin,
    "frass_toothpicks": _toothpicks,
    "pitch_tube": _pitch,
    "boring_dust": _dust,
    "galleries_packed_winding": _galleries_winding,
    "galleries_other": _galleries_other,
    "bark_split": _split,
    "bark_ridged_lumpy": _ridges,
    "woodpecker_flecking": _flecking,
    "canker_sunken": _sunken,
    "canker_diamond": _diamond,
    "canker_bleeding": _bleeding,
    "canker_orange_dots": _orange_dots,
    "slime_sour": _slime,
    "resin_flow": _resin,
    "bark_falls_black_crust": _black_crust,
    "bark_powder_brown_black": _powder,
    "mat_under_bark": _mat,
    "limb_swelling_blisters": _swelling,
    "sapwood_streak_brown": _stain("#5a3a20"),
    "sapwood_streak_green": _stain("#6f7a34"),
    "inner_bark_cinnamon_edge": _flap("#a8622e", True),
    "inner_bark_butterscotch": _flap("#c98f3a", False),
    "root_lesion_tongue": _tongue,
    "egg_mass_buff": _egg_buff,
    "egg_mass_mud": _egg_mud,
    "wool_on_bark": _wool,
    "red_dots_in_bark": _red_dots,
    "scale_shells": _shells,
    "lichen_moss": _lichen,
    "wound_low": _low_wound,
    "rub_shredded": _shredded,
    "gnawed": _gnawed,
    "spiral_strip": _strip,
    "bark_dead_plate": _plate,
    "bark_plates_normal": _plates_normal,
    "bracket_stem": _bracket,
}
