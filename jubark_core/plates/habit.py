"""The habit plate: a grown plant's outline against a person, branches by crown level, bare or in leaf."""

from __future__ import annotations

import math

from jubark_core.plates.colours import leaf_colours
from jubark_core.plates.pen import Page, Point, Scatter
from jubark_core.plates.specimen import Specimen

PAGE = 280.0
PERSON_M = 1.7
RISE = {
    "ascending": 58.0,
    "spreading": 28.0,
    "arching": 40.0,
    "weeping": 15.0,
    "horizontal": 4.0,
    "twisted": 30.0,
}


def habit_plate(specimen: Specimen, bare: bool) -> str:
    """The grown plant as SVG, height and spread from the flora. bare: without its leaves (never an
    evergreen).
    """
    t = specimen.flora.taxa[specimen.taxon]
    tall = (t["height_m"][0] + t["height_m"][1]) / 2
    wide = sum(t.get("spread_m") or (tall * 0.6, tall * 0.6)) / 2
    reach = max(tall, wide * 0.9, 2.2) * 1.15
    page = Page(PAGE, PAGE, PAGE / reach)
    foot = (reach * 0.56, reach * 0.95)
    page.line("ground", [(reach * 0.05, foot[1]), (reach * 0.95, foot[1])], "#8a7a5c", 1)
    _person(page, (reach * 0.1, foot[1]))
    rng = Scatter(specimen.taxon)
    single = specimen.one("habit.stems", "single") == "single" and specimen.one("habit.form") in (
        "tree",
        "small_tree",
        "",
    )
    bare = bare and not specimen.flora.evergreen[specimen.taxon]
    tones = leaf_colours(specimen, autumn=False)
    if single:
        _tree(page, specimen, foot, tall, wide, bare, tones, rng)
    else:
        _shrub(page, specimen, foot, tall, wide, bare, tones, rng)
    return page.svg(
        f"Habit of {t['name']}", f"about {tall:.0f} m high and {wide:.0f} m wide, beside a person"
    )


def _person(page: Page, foot: Point) -> None:
    x, y = foot
    page.dot("person", (x, y - PERSON_M * 0.92), PERSON_M * 0.075, "#5b5547")
    page.line("person", [(x, y - PERSON_M * 0.84), (x, y - PERSON_M * 0.45)], "#5b5547", 3)
    for sign in (-1, 1):
        page.line("person", [(x, y - PERSON_M * 0.45), (x + sign * 0.12, y)], "#5b5547", 2.4)
        page.line("person", [(x, y - PERSON_M * 0.78), (x + sign * 0.2, y - PERSON_M * 0.45)], "#5b5547", 2)


def _crown_share(specimen: Specimen, h: float) -> float:
    """Half-width of the crown at a share h of the crown's own height, 0..1."""
    kind = specimen.one("habit.branching", "spreading")
    if specimen.one("leaf.type") in ("needle", "scale", "awl"):
        flat = kind in ("spreading", "horizontal") and specimen.one("fruit.kind") != "cone_papery" and h > 0.8
        return float(max(0.05, (1 - h) ** 0.85) * min(1.0, 0.55 + h * 4)) + (0.12 if flat else 0.0)
    if kind == "down_level_up":
        return float(max(0.05, (1 - h) ** 0.6) * min(1.0, 0.6 + h * 3))
    broadest = {"ascending": 0.5, "arching": 0.62, "weeping": 0.42}.get(kind, 0.4)
    t = h / broadest if h < broadest else (1 - h) / (1 - broadest)
    return float(math.sqrt(max(0.0, 1 - (1 - t) ** 2)) * 0.94 + 0.06)


def _tree(
    page: Page,
    specimen: Specimen,
    foot: Point,
    tall: float,
    wide: float,
    bare: bool,
    tones: tuple[str, str],
    rng: Scatter,
) -> None:
    x, y = foot
    conifer = specimen.one("leaf.type") in ("needle", "scale", "awl")
    clear = tall * (0.08 if conifer else 0.2)
    kind = specimen.one("habit.branching", "spreading")
    top = y - tall if conifer or kind == "down_level_up" else y - tall * 0.9
    thick = max(0.12, tall * 0.02)
    page.shape(
        "trunk",
        [(x - thick, y), (x + thick, y), (x + thick * 0.25, top), (x - thick * 0.25, top)],
        "#7d6a54",
        "#4a3a28",
        0.8,
    )
    levels = 13
    for i in range(levels):
        h = (i + 0.3) / levels
        half = wide / 2 * _crown_share(specimen, h) * rng.between(0.9, 1.0)
        tip_y = y - clear - (tall - clear) * h
        rise = RISE.get(kind, 30.0) if kind != "down_level_up" else -28.0 + 76.0 * h
        for sign in (-1, 1):
            _limb(page, (x, tip_y), sign * half, rise, kind, tall, bare, rng, lowest=y - clear * 0.7)
    if not bare:
        _foliage(page, specimen, foot, tall, wide, clear, tones, rng)
        if kind == "weeping":
            _curtain(page, specimen, foot, tall, wide, clear, tones, rng)


def _limb(
    page: Page,
    at: Point,
    reach: float,
    rise: float,
    kind: str,
    tall: float,
    bare: bool,
    rng: Scatter,
    lowest: float,
) -> None:
    """One limb to the edge of the crown: it leaves the trunk below its tip by the angle of its
    crown level.
    """
    x, tip_y = at
    start = (
        min(lowest, tip_y + abs(reach) * math.tan(math.radians(rise)) * 0.75)
        if rise > 0
        else tip_y + abs(reach) * math.tan(math.radians(rise))
    )
    bow = {"weeping": -0.16, "arching": -0.35, "ascending": 0.18}.get(kind, 0.08) * abs(reach)
    points = []
    for k in range(7):
        t = k / 6
        points.append((x + reach * t, start + (tip_y - start) * t + bow * math.sin(math.pi * t)))
    if kind == "weeping":
        points.append((x + reach * 1.03, tip_y + tall * 0.18))
    page.line("branch", points, "#5c4a38", 1.5 if bare else 0.8)
    for px, py in points[2:] if bare else ():
        for turn in (-0.5, 0.15, 0.7):
            long = tall * rng.between(0.04, 0.08)
            a = math.radians(rise) + turn
            down = 1 if kind == "weeping" else -1
            page.line(
                "twig",
                [
                    (px, py),
                    (px + math.copysign(long * math.cos(a), reach), py + down * long * abs(math.sin(a))),
                ],
                "#5c4a38",
                0.6,
            )


def _curtain(
    page: Page,
    specimen: Specimen,
    foot: Point,
    tall: float,
    wide: float,
    clear: float,
    tones: tuple[str, str],
    rng: Scatter,
) -> None:
    """Hanging shoots of a weeping crown, from its lower half almost to the ground."""
    x, y = foot
    for k in range(46):
        across = -1 + 2 * (k + rng.next()) / 46
        top = y - clear - (tall - clear) * rng.between(0.2, 0.55) * (1 - abs(across) * 0.5)
        end = y - tall * rng.between(0.04, 0.16)
        side = x + wide / 2 * across
        page.line(
            "hanging-shoot",
            [(side * 0.98 + x * 0.02, top), (side, (top + end) / 2), (side, end)],
            tones[k % 2],
            1.6,
        )


def _foliage(
    page: Page,
    specimen: Specimen,
    foot: Point,
    tall: float,
    wide: float,
    clear: float,
    tones: tuple[str, str],
    rng: Scatter,
) -> None:
    """The leafy crown as one outline, lumped as its branches lump it, with a few marks of shade."""
    x, y = foot
    conifer = specimen.one("leaf.type") in ("needle", "scale", "awl")
    steps = 34 if conifer else 22
    sides: list[list[Point]] = []
    for sign in (-1, 1):
        side = []
        for i in range(steps + 1):
            h = i / steps
            lump = (1.0 if i % 2 else 0.72) if conifer else rng.between(0.86, 1.04)
            dip = tall * 0.014 if conifer and i % 2 else 0.0
            side.append(
                (x + sign * wide / 2 * _crown_share(specimen, h) * lump, y - clear - (tall - clear) * h + dip)
            )
        sides.append(side)
    page.shape("leaves", [*sides[1], *sides[0][::-1]], *tones, 1)
    for _ in range(60):
        h = rng.between(0.06, 0.94)
        half = wide / 2 * _crown_share(specimen, h) * 0.86
        p = (x + half * rng.between(-1, 1), y - clear - (tall - clear) * h)
        long = tall * 0.016
        mark = [(p[0] - long, p[1]), (p[0], p[1] - long * 0.7), (p[0] + long, p[1])]
        page.line("leaf-mark", mark, tones[1], 0.7)


def _shrub(
    page: Page,
    specimen: Specimen,
    foot: Point,
    tall: float,
    wide: float,
    bare: bool,
    tones: tuple[str, str],
    rng: Scatter,
) -> None:
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
                y
                - top
                * math.sin(math.pi / 2 * s * (1 + bow * abs(share)))
                / math.sin(math.pi / 2 * min(1.0, 1 + bow * abs(share))),
            )
            for s in (k / 8 for k in range(9))
        ]
        page.line("stem", points, "#6b563f", 1.4)
        for px, py in points[3:] if not bare else ():
            page.dot(
                "leaves",
                (px + tall * rng.between(-0.05, 0.05), py),
                max(0.03, tall * 0.045),
                tones[0],
                flat=0.75,
            )
        for px, py in points[4:] if bare else ():
            page.line(
                "twig", [(px, py), (px + tall * rng.between(-0.08, 0.08), py - tall * 0.08)], "#6b563f", 0.7
            )
