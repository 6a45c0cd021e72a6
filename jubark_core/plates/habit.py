"""The habit plate: a grown plant's outline against a person, branches by crown level, bare or in leaf."""

from __future__ import annotations

import math

from jubark_core.plates.colours import leaf_colours
from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.specimen import Specimen

PAGE = 280.0
PERSON_M = 1.7
RISE = {"ascending": 58.0, "spreading": 28.0, "arching": 40.0, "weeping": 15.0, "horizontal": 4.0, "twisted": 30.0}


def habit_plate(specimen: Specimen, bare: bool) -> str:
    """The grown plant as SVG, height and spread from the flora. bare: without its leaves (never an evergreen)."""
    t = specimen.flora.taxa[specimen.taxon]
    tall = (t["height_m"][0] + t["height_m"][1]) / 2
    wide = sum(t.get("spread_m") or (tall * 0.6, tall * 0.6)) / 2
    reach = max(tall, wide * 0.9, 2.2) * 1.15
    page = Page(PAGE, PAGE, PAGE / reach)
    foot = (reach * 0.56, reach * 0.95)
    page.line("ground", [(reach * 0.05, foot[1]), (reach * 0.95, foot[1])], "#8a7a5c", 1)
    _person(page, (reach * 0.1, foot[1]))
    rng = Scatter(specimen.taxon)
    single = specimen.one("habit.stems", "single") == "single" and specimen.one("habit.form") in ("tree", "small_tree", "")
    bare = bare and not specimen.flora.evergreen[specimen.taxon]
    tones = leaf_colours(specimen, autumn=False)
    if single:
        _tree(page, specimen, foot, tall, wide, bare, tones, rng)
    else:
        _shrub(page, specimen, foot, tall, wide, bare, tones, rng)
    return page.svg(f"Habit of {t['name']}", f"about {tall:.0f} m high and {wide:.0f} m wide, beside a person")


def _person(page: Page, foot: Point) -> None:
    x, y = foot
    page.dot("person", (x, y - PERSON_M * 0.92), PERSON_M * 0.075, "#5b5547")
    page.line("person", [(x, y - PERSON_M * 0.84), (x, y - PERSON_M * 0.45)], "#5b5547", 3)
    for sign in (-1, 1):
        page.line("person", [(x, y - PERSON_M * 0.45), (x + sign * 0.12, y)], "#5b5547", 2.4)
        page.line("person", [(x, y - PERSON_M * 0.78), (x + sign * 0.2, y - PERSON_M * 0.45)], "#5b5547", 2)


def _crown_share(specimen: Specimen, h: float) -> float:
    """Half-width of the crown at a share h of its height, 0..1."""
    kind = specimen.one("habit.branching", "spreading")
    conifer = specimen.one("leaf.type") in ("needle", "scale", "awl")
    if conifer or kind == "down_level_up":
        return float(max(0.04, (1 - h) ** (0.8 if conifer else 0.55)) * min(1.0, 0.4 + h * 4))
    if kind == "ascending":
        return float(math.sin(math.pi * (0.12 + 0.86 * h)) ** 0.8 * 0.9)
    return float(math.sin(math.pi * (0.1 + 0.84 * h ** (1.25 if kind in ("spreading", "arching", "weeping") else 1))) ** 0.6)


def _tree(page: Page, specimen: Specimen, foot: Point, tall: float, wide: float, bare: bool, tones: tuple[str, str], rng: Scatter) -> None:
    x, y = foot
    clear = tall * (0.12 if specimen.one("leaf.type") in ("needle", "scale") else 0.24)
    kind = specimen.one("habit.branching", "spreading")
    page.shape(
        "trunk",
        [(x - tall * 0.02, y), (x + tall * 0.02, y), (x + tall * 0.005, y - tall * 0.95), (x - tall * 0.005, y - tall * 0.95)],
        "#7d6a54",
        "#4a3a28",
        0.8,
    )
    levels = 13
    for i in range(levels):
        h = i / (levels - 1)
        at = (x, y - clear - (tall - clear) * 0.92 * h)
        half = wide / 2 * _crown_share(specimen, h)
        rise = RISE.get(kind, 30.0) if kind != "down_level_up" else -28.0 + 70.0 * h
        for sign in (-1, 1):
            bend = -half * math.tan(math.radians(rise)) * 0.5
            tip = (at[0] + sign * half * rng.between(0.85, 1.05), at[1] + (half * 0.5 if kind == "weeping" else bend))
            middle = (at[0] + sign * half * 0.5, at[1] + bend * 0.7)
            if bare:
                page.line("branch", [at, middle, tip], "#5c4a38", 1.6)
                for k in range(4):
                    start = (middle[0] + (tip[0] - middle[0]) * k / 4, middle[1] + (tip[1] - middle[1]) * k / 4)
                    page.line("twig", [start, (start[0] + sign * half * 0.2, start[1] - tall * rng.between(-0.02, 0.06))], "#5c4a38", 0.7)
            else:
                for k in range(4):
                    p = (at[0] + (tip[0] - at[0]) * (k + 0.6) / 4, at[1] + (tip[1] - at[1]) * (k + 0.6) / 4)
                    page.dot("leaves", p, max(0.16, half * 0.2 + tall * 0.018), tones[0], flat=0.75)
    if not bare:
        for _ in range(46):
            h = rng.next()
            half = wide / 2 * _crown_share(specimen, h)
            p = (x + half * rng.between(-0.85, 0.85), y - clear - (tall - clear) * 0.95 * h)
            page.line("leaf-mark", [(p[0] - tall * 0.012, p[1]), (p[0] + tall * 0.012, p[1] + tall * 0.006)], tones[1], 0.8)


def _shrub(page: Page, specimen: Specimen, foot: Point, tall: float, wide: float, bare: bool, tones: tuple[str, str], rng: Scatter) -> None:
    x, y = foot
    kind = specimen.one("habit.branching", "spreading")
    bow = {"arching": 0.5, "weeping": 0.8, "horizontal": 0.6}.get(kind, 0.18)
    climbing = specimen.one("habit.form") in ("climber",)
    if climbing:
        page.line("support", [(x, y), (x, y - tall)], "#b8a98a", 9)
    for i in range(15):
        share = (i + 0.5) / 15 * 2 - 1
        reach = wide / 2 * share * (0.25 if climbing else 1)
        top = tall * (1 - (0.15 if climbing else 0.45) * share * share) * rng.between(0.85, 1.0)
        points = [
            (
                x + reach * s**1.2,
                y - top * math.sin(math.pi / 2 * s * (1 + bow * abs(share))) / math.sin(math.pi / 2 * min(1.0, 1 + bow * abs(share))),
            )
            for s in (k / 8 for k in range(9))
        ]
        page.line("stem", points, "#6b563f", 1.4)
        for px, py in points[3:] if not bare else ():
            page.dot("leaves", (px + tall * rng.between(-0.05, 0.05), py), max(0.03, tall * 0.045), tones[0], flat=0.75)
        for px, py in points[4:] if bare else ():
            page.line("twig", [(px, py), (px + tall * rng.between(-0.08, 0.08), py - tall * 0.08)], "#6b563f", 0.7)
