"""Tiles of the whole plant: what kind it is, how it branches, holds its leaves, climbs and spreads."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import AUTUMN, LEAF, WOOD
from jubark_core.plates.pen import Page, Point, Scatter

SOIL, DARK = "#8a7a5c", "#4a3a28"
STEM = "#6b563f"
GREEN, GREEN_LINE = LEAF["green"]
GROUND_Y = 106.0
PERSON = 15.0  # page units high: 1.7 m


def ground(page: Page, y: float = GROUND_Y) -> None:
    """The line of the soil."""
    page.line("ground", [(6, y), (114, y)], SOIL, 1.4)


def person(page: Page, x: float, tall: float = PERSON) -> None:
    """Someone standing on the ground, for the size."""
    page.dot("person", (x, GROUND_Y - tall * 0.9), tall * 0.1, "#5b5547")
    page.line(
        "person", [(x, GROUND_Y - tall * 0.8), (x, GROUND_Y - tall * 0.4)], "#5b5547", max(1.6, tall * 0.14)
    )
    for sign in (-1, 1):
        page.line("person", [(x, GROUND_Y - tall * 0.42), (x + sign * tall * 0.12, GROUND_Y)], "#5b5547", 1.4)


def crown(page: Page, centre: Point, wide: float, tall: float, seed: str) -> None:
    """A leafy outline, uneven as crowns are."""
    rng = Scatter(seed)
    points = []
    for i in range(30):
        a = 2 * math.pi * i / 30
        r = rng.between(0.88, 1.06)
        points.append((centre[0] + wide / 2 * r * math.cos(a), centre[1] + tall / 2 * r * math.sin(a)))
    page.shape("crown", points, GREEN, GREEN_LINE, 1)


def leaves(
    page: Page, places: list[Point], size: float = 3.4, tones: tuple[str, str] = LEAF["green"]
) -> None:
    """Small leaves at places."""
    for x, y in places:
        page.dot("leaf", (x, y), size, tones[0], tones[1], 0.62)


def _form(page: Page, state: str) -> None:
    ground(page)
    tall = {"groundcover": 34.0, "subshrub": 34.0, "shrub": 26.0}.get(
        state, 12.0 if state == "tree" else 18.0
    )
    person(page, 14, tall)
    if state in ("tree", "small_tree"):
        high = 92.0 if state == "tree" else 62.0
        page.shape(
            "trunk",
            [(64, GROUND_Y), (72, GROUND_Y), (70, GROUND_Y - high * 0.6), (66, GROUND_Y - high * 0.6)],
            STEM,
            DARK,
            0.8,
        )
        crown(page, (68, GROUND_Y - high * 0.64), 62 if state == "tree" else 46, high * 0.68, state)
    elif state in ("shrub", "subshrub"):
        high = 62.0 if state == "shrub" else 24.0
        for k in range(7):
            x = 68 + (k - 3) * 9
            page.line(
                "stem",
                [(68 + (k - 3) * 2, GROUND_Y), (x, GROUND_Y - high * 0.8)],
                STEM,
                2 if state == "shrub" else 1.4,
            )
        crown(page, (68, GROUND_Y - high * 0.66), 72, high * 0.66, state)
    elif state == "groundcover":
        page.line("stem", [(34, GROUND_Y - 3), (112, GROUND_Y - 4)], STEM, 1.8)
        leaves(page, [(36 + 6 * k, GROUND_Y - 4 - 5 * (k % 2)) for k in range(13)], 4)
    elif state == "climber":
        page.line("support", [(74, GROUND_Y), (74, 10)], "#c5b697", 11)
        stem = [(74 + 7 * math.sin(k / 3), GROUND_Y - 3.2 * k) for k in range(29)]
        page.line("stem", stem, STEM, 2)
        leaves(page, [(x + (9 if i % 2 else -9), y) for i, (x, y) in enumerate(stem[3::2])], 4.4)
    elif state == "scrambler":
        for k in range(5):
            bow = [
                (44 + 4 * k + 5.5 * t * (1 if k % 2 else 0.9), GROUND_Y - (30 + 7 * k) * math.sin(t * 0.283))
                for t in range(11)
            ]
            page.line("stem", bow, STEM, 1.8)
        leaves(page, [(50 + 8 * k, GROUND_Y - 26 - 14 * math.sin(k / 8 * math.pi)) for k in range(8)], 4)
    else:
        for k in range(7):
            x = 40 + 11 * k
            page.line("culm", [(x, GROUND_Y), (x + 2, 24 + 5 * (k % 3))], "#8d9a5b", 2.6)
            for j in range(4):
                page.line(
                    "node", [(x - 2, GROUND_Y - 14 - 17 * j), (x + 3, GROUND_Y - 14 - 17 * j)], "#3f4a24", 1
                )
            leaves(page, [(x + (8 if j % 2 else -6), 34 + 11 * j) for j in range(4)], 5)


def _stems(page: Page, state: str) -> None:
    ground(page)
    if state == "single":
        page.shape("trunk", [(54, GROUND_Y), (66, GROUND_Y), (62, 30), (58, 30)], STEM, DARK, 0.8)
    for k in range({"single": 0, "few": 3, "many_from_base": 11}[state]):
        n = 3 if state == "few" else 11
        lean = (k - (n - 1) / 2) / n
        page.line(
            "trunk",
            [(60 + lean * 20, GROUND_Y), (60 + lean * 44, 66), (60 + lean * 84, 30)],
            STEM,
            6 if state == "few" else 2.2,
        )
    crown(page, (60, 26), 92, 36, state)


def _branching(page: Page, state: str) -> None:
    ground(page)
    page.shape("trunk", [(57, GROUND_Y), (63, GROUND_Y), (61, 12), (59, 12)], STEM, DARK, 0.8)
    for level in range(6):
        h = level / 5
        at = (60.0, 92 - 70 * h)
        half = 44 * (1 - 0.72 * h) if state != "ascending" else 30 * (1 - 0.5 * h)
        rise = {
            "ascending": 62,
            "spreading": 30,
            "horizontal": 2,
            "down_level_up": -26 + 64 * h,
            "twisted": 30,
        }.get(state, 40)
        for sign in (-1, 1):
            end = (at[0] + sign * half, at[1] - half * math.tan(math.radians(min(rise, 62))) * 0.9)
            points: list[Point] = [at, end]
            if state == "weeping":
                points = [
                    (at[0] + sign * half * t, at[1] - 16 * math.sin(t * 2.2) + 44 * t**3)
                    for t in (i / 8 for i in range(9))
                ]
            elif state == "arching":
                points = [
                    (at[0] + sign * half * t, at[1] - 26 * math.sin(t * 2.6))
                    for t in (i / 8 for i in range(9))
                ]
            elif state == "twisted":
                points = [
                    (at[0] + sign * half * t, at[1] - half * 0.5 * t + 6 * math.sin(t * 13))
                    for t in (i / 14 for i in range(15))
                ]
            page.line("branch", points, STEM, 2)


def _retention(page: Page, state: str) -> None:
    page.line("twig", [(20, 104), (52, 62), (98, 22)], WOOD["brown"][0], 3.4)
    for k in range(7):
        x, y = 28 + 11 * k, 96 - 12.5 * k
        sign = 1 if k % 2 else -1
        if state == "deciduous" or (state == "semi_evergreen" and k < 4):
            page.dot("bud", (x + sign * 3, y + sign * 2), 2.2, WOOD["brown"][1])
            continue
        tones = AUTUMN["brown"] if state == "marcescent" else LEAF["green"]
        page.line("stalk", [(x, y), (x + sign * 7, y + sign * 6)], WOOD["brown"][1], 1)
        page.dot("leaf", (x + sign * 12, y + sign * 9), 8, *tones, 0.55)
    for k in range(4):  # snow under it: this is what it looks like in winter
        page.dot("snow", (20 + 26 * k, 112), 1.6, "#b9c4c8")


def _climbs(page: Page, state: str) -> None:
    page.line("support", [(66, 116), (66, 4)], "#c5b697", 16)
    if state == "twining":
        for k in range(5):
            y = 108 - 22 * k
            page.line("stem", [(54, y), (66, y - 9), (78, y - 15)], STEM, 3.4)
            page.line("stem-behind", [(78, y - 15), (54, y - 22)], "#a8967a", 1.4)
        return
    x = 50.0 if state == "leaning" else 52.0
    lean = 26.0 if state == "leaning" else 2.0
    stem = [(x - lean + lean * k / 10, 114 - 10.6 * k) for k in range(11)]
    page.line("stem", stem, STEM, 3)
    for i, (sx, sy) in enumerate(stem[1:-1:2]):
        if state == "tendrils":
            page.line(
                "tendril",
                [(sx + 2.2 * t, sy - 5 + 3.4 * math.sin(t * 1.1)) for t in range(10)],
                GREEN_LINE,
                1.2,
            )
        elif state == "rootlets":
            for j in range(6):
                page.line("rootlet", [(sx, sy - 2 * j), (sx + 7, sy - 2 * j - 1)], DARK, 0.9)
        elif state == "discs":
            page.line("tendril", [(sx, sy), (sx + 6, sy - 4)], GREEN_LINE, 1.2)
            for j in range(3):
                page.line("tendril", [(sx + 6, sy - 4), (sx + 10, sy - 8 + 4 * j)], GREEN_LINE, 1)
                page.dot("disc", (sx + 11, sy - 8 + 4 * j), 2, DARK)
        page.dot("leaf", (sx - 9, sy - 4 + i % 2), 6, GREEN, GREEN_LINE, 0.7)


def _suckers(page: Page, state: str) -> None:
    ground(page, 82)
    page.shape("trunk", [(30, 82), (42, 82), (39, 8), (33, 8)], STEM, DARK, 0.8)
    page.line("root", [(38, 84), (70, 94), (112, 92)], STEM, 3)
    page.line("root", [(34, 84), (14, 98)], STEM, 3)
    if state == "yes":
        for x in (62, 82, 102):
            page.line("sucker", [(x, 92), (x, 52)], STEM, 1.8)
            leaves(page, [(x + 5, 56), (x - 5, 63), (x + 5, 70)], 4)


def _rhizome(page: Page, state: str) -> None:
    ground(page, 76)
    places = {"none": [60.0], "clumping": [46.0, 53, 60, 67, 74], "running": [20.0, 50, 82, 108]}[state]
    for x in places:
        page.line("culm", [(x, 76), (x + 1, 12)], "#8d9a5b", 3)
        leaves(page, [(x + 6, 24), (x - 5, 36)], 5)
    if state == "running":
        page.line("rhizome", [(12, 88), (50, 92), (82, 88), (114, 92)], "#a08355", 4)
        for x in places:
            page.line("rhizome", [(x, 76), (x, 90)], "#a08355", 3)
    else:
        for x in places:
            for k in (-1, 0, 1):
                page.line("root", [(x, 77), (x + 7 * k, 98)], "#a08355", 1.4)


def _groove(page: Page, state: str) -> None:
    page.shape("culm", [(42, 4), (66, 4), (66, 116), (42, 116)], "#a6a95a", "#4d5021", 1.4)
    page.line("node", [(38, 62), (70, 62)], "#4d5021", 4)
    page.line("branch", [(66, 58), (100, 30)], "#8d9a5b", 4)
    if state == "yes":
        page.shape("groove", [(55, 4), (62, 4), (62, 58), (55, 58)], "#7f8344", "#4d5021", 0.8)


def _rough_extent(page: Page, state: str) -> None:
    ground(page)
    page.shape("trunk", [(48, GROUND_Y), (72, GROUND_Y), (66, 14), (54, 14)], "#b6b2a6", "#6b675c", 1)
    limbs = [((64, 50), (104, 22)), ((56, 44), (16, 18)), ((63, 32), (92, 8))]
    for a, b in limbs:
        page.line("limb", [a, b], "#b6b2a6", 7)
    top = {
        "none": GROUND_Y,
        "base_stocking": 88.0,
        "lower_trunk": 62.0,
        "whole_trunk": 20.0,
        "to_small_branches": 16.0,
    }[state]
    rng = Scatter("rough")
    for _ in range(int((GROUND_Y - top) * 1.6)):
        x, y = rng.between(51, 69), rng.between(top, GROUND_Y - 2)
        page.line("rough", [(x, y), (x + rng.between(-1.5, 1.5), y + 5)], DARK, 1.3)
    if state == "to_small_branches":
        for (ax, ay), (bx, by) in limbs:
            for k in range(12):
                t = k / 12
                page.line(
                    "rough",
                    [
                        (ax + (bx - ax) * t, ay + (by - ay) * t - 2),
                        (ax + (bx - ax) * (t + 0.05), ay + (by - ay) * t + 2),
                    ],
                    DARK,
                    1.2,
                )


def _leader(page: Page, state: str) -> None:
    ground(page)
    drop = 0.0 if state == "upright" else 1.0
    page.line("trunk", [(60, GROUND_Y), (60, 34)], STEM, 4)
    page.line("leader", [(60, 36), (60 + 6 * drop, 18), (60 + 20 * drop, 8 + 4 * drop)], STEM, 2)
    for k in range(7):
        y, wide = GROUND_Y - 8 - 10 * k, 42 - 5 * k
        for sign in (-1, 1):
            page.line("branch", [(60, y), (60 + sign * wide, y + 5)], GREEN_LINE, 3)


def _tip_roots(page: Page, state: str) -> None:
    ground(page, 92)
    if state == "yes":
        page.line("stem", [(22, 92), (30, 46), (60, 28), (88, 52), (98, 92)], STEM, 3)
        for k in range(-2, 3):
            page.line("root", [(98, 92), (98 + 5 * k, 110)], DARK, 1.3)
        page.line("young", [(100, 92), (108, 70)], GREEN_LINE, 2)
    else:
        page.line("stem", [(22, 92), (30, 46), (56, 26), (92, 40)], STEM, 3)
    for k in range(-2, 3):
        page.line("root", [(22, 92), (22 + 5 * k, 112)], DARK, 1.3)
    leaves(page, [(34, 38), (46, 26), (64, 26), (78, 34)], 5)


def _knees(page: Page, state: str) -> None:
    page.line("water", [(4, 98), (116, 98)], "#8aa0a6", 1.6)
    page.shape("trunk", [(34, 98), (42, 70), (46, 6), (64, 6), (68, 70), (76, 98)], STEM, DARK, 1)
    for x, high in ((14, 16), (24, 24), (88, 26), (100, 18), (110, 12)) if state == "yes" else ():
        page.shape(
            "knee", [(x - 5, 102), (x - 3, 98 - high), (x + 3, 98 - high), (x + 6, 102)], STEM, DARK, 1
        )


def _rope(page: Page, state: str) -> None:
    page.shape("support", [(40, 4), (94, 4), (94, 116), (40, 116)], "#c5b697", "#8a7a5c", 1)
    stem = [(66 + 4 * math.sin(k / 2), 114 - 11 * k) for k in range(11)]
    page.line("stem", stem, STEM, 13)
    rng = Scatter("rope")
    for x, y in stem:
        if state == "bare" or (state == "few_rootlets" and round(y) % 3):
            continue
        for _ in range(22 if state == "shaggy_rope" else 7):
            sign, at = 1 if rng.next() > 0.5 else -1, y + rng.between(-6, 6)
            page.line("rootlet", [(x + sign * 5, at), (x + sign * rng.between(9, 17), at - 2)], DARK, 0.9)


def _lower_nodes(page: Page, state: str) -> None:
    ground(page, 112)
    page.shape("culm", [(46, 4), (74, 4), (76, 112), (44, 112)], "#a6a95a", "#4d5021", 1.4)
    even = state == "even"
    for k, y in enumerate((92, 62, 30) if even else (104, 96, 86, 78, 66, 34)):
        tilt = 0 if even or k > 4 else 5 * (1 if k % 2 else -1)
        page.line("node", [(42, y - tilt), (78, y + tilt)], "#4d5021", 3.4)


WHOLE_PLANT: dict[str, Callable[[Page, str], None]] = {
    "habit.form": _form,
    "habit.stems": _stems,
    "habit.branching": _branching,
    "habit.leaf_retention": _retention,
    "habit.climbs_by": _climbs,
    "habit.suckers": _suckers,
    "habit.rhizome": _rhizome,
    "stem.culm_groove": _groove,
    "bark.rough_extent": _rough_extent,
    "habit.leader": _leader,
    "habit.tip_roots": _tip_roots,
    "habit.knees": _knees,
    "habit.rope": _rope,
    "stem.lower_nodes": _lower_nodes,
}
