"""The bark panel: a piece of trunk from its textures and colours, one way of drawing for each texture; light
from the upper left.
"""

from __future__ import annotations

import math

from jubark_core.plates.colours import BARK, Tones, first_of
from jubark_core.plates.pen import FINE, Page, Point, Scatter
from jubark_core.plates.specimen import Specimen

WIDE, TALL = 200.0, 300.0
# Textures from the ground of the picture to what lies on it: drawn in this order.
LAYERS = (
    "smooth",
    "striped",
    "fluted",
    "mottled_flaking",
    "lenticel_banded",
    "papery_peel",
    "fibrous_stringy",
    "shallow_fissures",
    "interlacing_ridges",
    "blocky",
    "plated",
    "scaly",
    "shaggy_strips",
    "flaky_curls",
    "corky_ridges",
    "corky_warts",
)
FURROW = {"orange_red": "#a5552c", "tan": "#b79a6c", "pink": "#c08a80"}
MOST_LAYERS = 2


def bark_plate(specimen: Specimen) -> str:
    """The bark of a specimen at its stage as SVG, the same every time for the same taxon and stage."""
    page = Page(WIDE, TALL, cut=True)
    textures = specimen.many("bark.texture", 0.4)[:MOST_LAYERS] or ["smooth"]
    tones = first_of(specimen, "bark.colour", BARK, "dark_grey")
    seconds = specimen.many("bark.colour", 0.4)
    other = BARK.get(seconds[1], tones) if len(seconds) > 1 else tones
    rng = Scatter(f"{specimen.taxon} {specimen.stage}")
    furrow = FURROW.get(specimen.one("bark.furrow_colour"), tones[1])
    ground = tones[0] if textures[0] in LAYERS[:6] else furrow
    page.shape("ground", [(0, 0), (WIDE, 0), (WIDE, TALL), (0, TALL)], ground)
    for texture in sorted(textures, key=LAYERS.index):
        DRAWN[texture](page, rng, tones, other)
    name = specimen.name
    labels = specimen.flora.characters["bark.texture"]["labels"]
    return page.svg(f"Bark of {name}, {specimen.stage}", ", ".join(labels[t] for t in textures))


def _shade(page: Page, part: str, points: list[Point], tones: Tones) -> None:
    """A raised piece: fill, and a dark edge on the side away from the light."""
    page.shape(part, points, tones[0], tones[1], FINE)
    middle = len(points) // 2
    page.line("shadow", points[middle // 2 : middle + middle // 2 + 1], tones[1], 1.6)


def _smooth(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for _ in range(26):
        x, y, w = rng.between(0, WIDE), rng.between(0, TALL), rng.between(5, 22)
        page.line(
            "fleck",
            [(x, y), (x + w, y + rng.between(-1.5, 1.5))],
            tones[1] if rng.next() > 0.5 else other[0],
            0.9,
        )


def _striped(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for i in range(9):
        x = WIDE * (i + rng.between(0.2, 0.8)) / 9
        points = [
            (x + 5 * math.sin(y / 50 + i) + rng.between(-1, 1), y) for y in range(0, int(TALL) + 12, 12)
        ]
        page.line("stripe", points, "#e9e6d8" if i % 3 else tones[1], rng.between(1.2, 3.2))


def _fluted(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for i in range(5):
        x = WIDE * (i + 0.5) / 5
        points = [(x + 14 * math.sin(y / 70 + i * 1.7), y) for y in range(0, int(TALL) + 10, 10)]
        for shift, width, colour in ((0, 9, tones[1]), (-9, 5, other[0])):
            page.marks.append('<g opacity="0.45">')
            page.line("flute", [(px + shift, py) for px, py in points], colour, width)
            page.marks.append("</g>")


def _blob(rng: Scatter, x: float, y: float, rx: float, ry: float, n: int = 11) -> list[Point]:
    return [
        (
            x + rx * rng.between(0.7, 1.1) * math.cos(2 * math.pi * i / n),
            y + ry * rng.between(0.7, 1.1) * math.sin(2 * math.pi * i / n),
        )
        for i in range(n)
    ]


def _mottled(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    shades = ("#e3dfcf", "#b8b690", "#9c937c", other[0])
    for i in range(34):
        page.shape(
            "patch",
            _blob(
                rng, rng.between(-10, WIDE), rng.between(-10, TALL), rng.between(12, 34), rng.between(14, 40)
            ),
            shades[i % 4],
            tones[1] if i % 5 == 0 else "none",
            0.5,
        )


def _lenticels(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for row in range(15):
        y = TALL * (row + rng.between(0.2, 0.8)) / 15
        for _ in range(3):
            x, w = rng.between(0, WIDE), rng.between(10, 42)
            page.shape("lenticel", [(x, y), (x + w / 2, y - 1.9), (x + w, y), (x + w / 2, y + 1.9)], tones[1])


def _papery(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for row in range(7):
        y = TALL * (row + rng.between(0.1, 0.9)) / 7
        x, w, h = rng.between(-20, WIDE * 0.5), rng.between(70, 150), rng.between(12, 26)
        edge = [(x + w * i / 8, y + rng.between(-2.5, 2.5)) for i in range(9)]
        curl = [(px, py + h * (0.5 + 0.5 * math.sin(i))) for i, (px, py) in enumerate(edge)]
        page.shape("curl", edge + curl[::-1], other[0] if row % 2 else "#efe0c8", tones[1], FINE)


def _fibres(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    page.shape("ground", [(0, 0), (WIDE, 0), (WIDE, TALL), (0, TALL)], tones[0])
    for _ in range(90):
        x, y, h = rng.between(-5, WIDE), rng.between(-40, TALL), rng.between(40, 150)
        points = [(x + rng.between(-2, 2), y + h * i / 5) for i in range(6)]
        page.line("fibre", points, tones[1] if rng.next() > 0.35 else other[0], rng.between(0.7, 2.4))


def _fissures(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    page.shape("ground", [(0, 0), (WIDE, 0), (WIDE, TALL), (0, TALL)], tones[0])
    for _ in range(26):
        x, y, h = rng.between(0, WIDE), rng.between(-30, TALL), rng.between(30, 90)
        page.line(
            "fissure",
            [(x + rng.between(-3, 3), y + h * i / 5) for i in range(6)],
            tones[1],
            rng.between(1.0, 2.2),
        )


def _ridges(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    columns, tall = 6, 74.0
    for column in range(-1, columns + 1):
        for row in range(-1, 6):
            x = WIDE * (column + 0.5) / columns + (16 if row % 2 else -2) + rng.between(-3, 3)
            y = row * tall * 0.82 + (tall * 0.4 if column % 2 else 0) + rng.between(-6, 6)
            half, bend = rng.between(9, 14), rng.between(-10, 10)
            left = [
                (
                    x - half * math.sin(math.pi * i / 8) + bend * math.sin(math.pi * i / 16),
                    y + tall * 1.25 * i / 8,
                )
                for i in range(9)
            ]
            right = [
                (
                    x + half * math.sin(math.pi * i / 8) + bend * math.sin(math.pi * i / 16),
                    y + tall * 1.25 * i / 8,
                )
                for i in range(9)
            ]
            _shade(
                page,
                "ridge",
                left + right[::-1],
                (other[0] if (row + column) % 4 == 0 else tones[0], tones[1]),
            )


def _cells(page: Page, rng: Scatter, tones: Tones, part: str, columns: int, rows: int, gap: float) -> None:
    wide, tall = WIDE / columns, TALL / rows
    for row in range(-1, rows + 1):
        for column in range(-1, columns + 1):
            x, y = (column + (0.5 if row % 2 else 0)) * wide, row * tall
            j = [rng.between(-0.14, 0.14) for _ in range(8)]
            corners = [
                (x + gap + j[0] * wide, y + gap + j[1] * tall),
                (x + wide - gap + j[2] * wide, y + gap + j[3] * tall),
                (x + wide - gap + j[4] * wide, y + tall - gap + j[5] * tall),
                (x + gap + j[6] * wide, y + tall - gap + j[7] * tall),
            ]
            _shade(page, part, corners, tones)


def _blocks(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    _cells(page, rng, tones, "block", 6, 9, 2.4)


def _plates(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    _cells(page, rng, tones, "plate", 3, 4, 3.6)


def _scales(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for row in range(-1, 17):
        for column in range(-1, 9):
            x, y = (column + (0.5 if row % 2 else 0)) * 25 + rng.between(-4, 4), row * 19 + rng.between(-4, 4)
            points = [
                (x, y),
                (x + 24, y + rng.between(-2, 2)),
                (x + 21 + rng.between(-3, 3), y + 17),
                (x + 9, y + 22),
                (x + 1, y + 15),
            ]
            _shade(page, "scale", points, (other[0] if (row * 3 + column) % 5 == 0 else tones[0], tones[1]))


def _strips(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for i in range(20):
        x, y, w, h = (
            rng.between(-10, WIDE),
            rng.between(-70, TALL - 40),
            rng.between(10, 19),
            rng.between(90, 170),
        )
        lift = rng.between(4, 15) * (1 if i % 2 else -1)
        points = [
            (x, y),
            (x + w, y),
            (x + w, y + h * 0.6),
            (x + w + lift, y + h),
            (x + lift + 2, y + h + 4),
            (x, y + h * 0.6),
        ]
        _shade(page, "strip", points, (other[0] if i % 3 == 0 else tones[0], tones[1]))


def _curls(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for i in range(40):
        x, y, r = rng.between(0, WIDE), rng.between(0, TALL), rng.between(6, 15)
        points = [(x + r * math.cos(a / 5), y + r * 0.7 * math.sin(a / 5)) for a in range(0, 17, 2)]
        page.shape("flake", points, other[0] if i % 2 else tones[0], tones[1], FINE)


def _warts(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for _ in range(34):
        x, y = rng.between(8, WIDE - 8), rng.between(5, TALL - 8)
        for k in range(3):
            page.dot("wart", (x, y - 2.6 * k), 8 - 2.2 * k, tones[0] if k % 2 else other[0], tones[1], 0.55)


def _corky(page: Page, rng: Scatter, tones: Tones, other: Tones) -> None:
    for _ in range(12):
        x, y, h = rng.between(0, WIDE), rng.between(-30, TALL), rng.between(50, 120)
        points = [(x + rng.between(-3, 3), y + h * i / 7) for i in range(8)]
        page.line("cork", points, tones[1], 8)
        page.line("cork", [(px - 1.6, py - 1) for px, py in points], other[0], 5)


DRAWN = {
    "smooth": _smooth,
    "striped": _striped,
    "fluted": _fluted,
    "mottled_flaking": _mottled,
    "lenticel_banded": _lenticels,
    "papery_peel": _papery,
    "fibrous_stringy": _fibres,
    "shallow_fissures": _fissures,
    "interlacing_ridges": _ridges,
    "blocky": _blocks,
    "plated": _plates,
    "scaly": _scales,
    "shaggy_strips": _strips,
    "flaky_curls": _curls,
    "corky_ridges": _corky,
    "corky_warts": _warts,
}
