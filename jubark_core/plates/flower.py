"""The flower plate: one flower or catkin enlarged, and how the flowers stand together."""

from __future__ import annotations

import math

from jubark_core.plates.colours import FRUIT, Tones, first_of
from jubark_core.plates.fruit import PAGE
from jubark_core.plates.pen import FINE, Page, oval, turned
from jubark_core.plates.specimen import Specimen
from jubark_core.plates.tiles.flowers import FLOWERS

TILE, CORNER_SHARE = 120.0, 0.3


def flower_plate(specimen: Specimen) -> str:
    """One flower, or a catkin, enlarged, in its colour and with its number of petals."""
    page = Page(PAGE, PAGE, PAGE / 100)
    tones = first_of(specimen, "flower.colour", FRUIT, "white")
    form = specimen.one("flower.form", "rose_five")
    if form in ("catkin", "no_petals", "tuft"):
        if form == "catkin" and specimen.one("leaf.type") in ("needle", "scale", "awl"):
            _pollen_cones(page, tones)
        else:
            _tassel(page, form, tones)
    else:
        _petals(page, specimen, form, tones)
    grouped = specimen.one("flower.cluster")
    if grouped and grouped != "single" and form != "catkin":
        _cluster(page, grouped)
    name = specimen.name
    labels = specimen.flora.characters["flower.form"]["labels"]
    cluster = specimen.flora.characters["flower.cluster"]["labels"].get(specimen.one("flower.cluster"), "")
    return page.svg(f"Flower of {name}", f"{labels.get(form, form)}; {cluster}")


def _cluster(page: Page, grouped: str) -> None:
    """How the flowers stand together, small in the lower corner."""
    corner = Page(TILE, TILE)
    FLOWERS["flower.cluster"](corner, grouped)
    side = PAGE * CORNER_SHARE
    page.marks += [
        f'<g data-part="cluster" transform="translate({PAGE - side:.0f} {PAGE - side:.0f}) '
        f'scale({side / TILE:.2f})">',
        *corner.marks,
        "</g>",
    ]


def _petals(page: Page, specimen: Specimen, form: str, tones: Tones) -> None:
    n = {"cross_four": 4, "pea": 5}.get(form, max(3, min(12, specimen.whole("flower.petals", 5))))
    middle = (50.0, 52.0)
    if form in ("bell", "urn", "trumpet"):
        deep, mouth = {"bell": (44, 30), "urn": (38, 13), "trumpet": (60, 32)}[form]
        throat = 8 if form == "trumpet" else 20
        page.shape(
            "corolla",
            [
                (50 - throat * 0.5, 20),
                (50 + throat * 0.5, 20),
                (50 + throat, 20 + deep * 0.55),
                (50 + mouth, 20 + deep),
                (50 - mouth, 20 + deep),
                (50 - throat, 20 + deep * 0.55),
            ],
            *tones,
        )
        for k in range(n):
            x = 50 - mouth + 2 * mouth * (k + 0.5) / n
            page.dot("petal", (x, 20 + deep), mouth / n, *tones)
        return
    if form == "pea":
        page.shape("standard", oval((50, 16), 40, 46), *tones)
        for sign in (-1, 1):
            page.shape("petal", turned(oval((0, 0), 32, 17), sign * 0.5, shift=(50 + sign * 4, 46)), *tones)
        page.shape("keel", oval((50, 50), 26, 14), tones[0], tones[1])
        return
    wide = {"star": 11.0, "cross_four": 22.0, "saucer": 26.0}.get(form, 23.0) * min(1.0, 6 / n + 0.25)
    for k in range(n):
        a = 2 * math.pi * k / n
        page.shape("petal", turned(oval((0, -34), 34, wide), a, shift=middle), *tones)
    many = specimen.one("flower.stamens") in ("many_short", "many_long")
    for k in range(26 if many else 6):
        a, r = (
            k * 2.4,
            (14 if specimen.one("flower.stamens") == "many_long" else 8)
            * math.sqrt((k + 1) / 26 if many else 1),
        )
        tip = (middle[0] + r * math.cos(a), middle[1] + r * math.sin(a))
        page.line("stamen", [middle, tip], "#8a7a3a", 0.8)
        page.dot("anther", tip, 1.2, "#c9a02f")


def _tassel(page: Page, form: str, tones: Tones) -> None:
    if form == "tuft":
        for k in range(44):
            a = math.radians(-80 + 160 * k / 43)
            page.line("stamen", [(50, 70), (50 + 44 * math.sin(a), 70 - 44 * math.cos(a))], tones[0], 1.4)
        page.shape("cup", [(38, 68), (62, 68), (55, 84), (45, 84)], "#8a9a62", "#3f4a24")
        return
    if form == "catkin":
        _catkin(page, tones)
        return
    for k in range(7):  # no petals: stamens on a small disc
        a = 2 * math.pi * k / 7
        tip = (50 + 26 * math.cos(a), 48 + 26 * math.sin(a))
        page.line("stamen", [(50, 48), tip], tones[1], 1.2)
        page.dot("anther", tip, 4.2, *tones)
    page.dot("disc", (50, 48), 7, "#8a9a62", "#3f4a24")
    page.line("stalk", [(50, 55), (51, 94)], "#3f4a24", 1.6)


def _pollen_cones(page: Page, tones: Tones) -> None:
    """Pollen cones of a conifer: short and egg-shaped, crowded at the foot of the new shoot."""
    page.line("shoot", [(50, 96), (50, 12)], "#7a5a40", 4)
    for k in range(9):
        sign = 1 if k % 2 else -1
        at = (50 + sign * 3, 84 - 6.5 * k)
        page.shape("pollen-cone", turned(oval((0, -17), 17, 9), sign * 0.85, shift=at), *tones, FINE)
        for j in range(3):
            page.line(
                "scale-row",
                turned([(-3.4, -5 - 4 * j), (0, -7 - 4 * j), (3.4, -5 - 4 * j)], sign * 0.85, shift=at),
                tones[1],
                0.6,
            )


def _catkin(page: Page, tones: Tones) -> None:
    """A hanging catkin: bracts in rows on a thin axis, thickest above the middle, loose at its end."""
    page.line("twig", [(18, 8), (84, 5)], "#6b4a32", 5)
    page.line("axis", [(50, 7), (52, 95)], tones[1], 1.2)
    rows = 19
    for i in range(rows):
        y, half = 15 + i * 4.2, 8.5 * math.sin(math.pi * (0.16 + 0.78 * i / rows)) ** 0.6
        for k in (-1, 0, 1):
            page.dot(
                "floret",
                (50.5 + 0.08 * i + k * half * 0.72, y + (1.4 if k else 0)),
                half * 0.38,
                *tones,
                0.72,
            )
        if i % 3 == 2:
            for sign in (-1, 1):
                page.dot("anther", (50.5 + sign * (half + 2), y + 2), 1.1, "#c9a02f", tones[1])
