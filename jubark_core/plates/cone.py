"""Cones, each form with its scales, prickles and bracts."""

from __future__ import annotations

import math

from jubark_core.plates.colours import Tones
from jubark_core.plates.pen import FINE, Page, Point, oval, turned
from jubark_core.plates.specimen import Specimen


def draw_cone(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    """A cone of `length` mm that hangs from `at`."""
    form = specimen.one("cone.form", "egg")
    fleshy = specimen.one("fruit.kind") == "cone_fleshy"
    if fleshy:
        page.dot("cone", (at[0], at[1] + length / 2), length / 2, *tones)
        return
    brown = ("#9c7a52", "#46321d")
    wide = {"long_cylinder": 0.3, "egg": 0.66, "ball_of_shields": 0.98, "rosebud": 0.55, "beak": 0.36}.get(
        form, 0.6
    ) * length
    if form == "ball_of_shields":
        page.dot("cone", (at[0], at[1] + length / 2), length / 2, *brown)
        for i in range(min(16, specimen.whole("cone.scales", 8))):
            a = 2 * math.pi * i / min(16, specimen.whole("cone.scales", 8))
            page.dot(
                "shield",
                (at[0] + length * 0.27 * math.cos(a), at[1] + length / 2 + length * 0.27 * math.sin(a)),
                length * 0.15,
                *brown,
            )
        return
    if form in ("rosebud", "beak"):
        pairs = 3 if form == "beak" else max(3, specimen.whole("cone.scales", 10) // 2)
        for i in range(pairs):
            for sign in (-1, 1):
                lean = sign * (0.12 + 0.5 * (1 - i / pairs))
                page.shape(
                    "scale",
                    turned(
                        [(x, y) for x, y in oval((0, 0), length * (0.75 + 0.25 * i / pairs), wide * 0.4)],
                        lean,
                        shift=at,
                    ),
                    *brown,
                    FINE,
                )
        return
    rows = max(5, round(length / (4.5 if length > 30 else 2.4)))
    for row in range(rows):
        y = at[1] + length * (row + 0.4) / rows
        half = wide / 2 * math.sin(math.pi * (0.12 + 0.8 * row / rows)) ** (0.5 if form == "egg" else 0.25)
        for k in range(-2, 3):
            x = at[0] + half * (k + (0.5 if row % 2 else 0)) / 2.4
            h, w = length / rows * 1.5, wide * 0.22
            if specimen.one("fruit.kind") == "cone_papery":
                page.shape("scale", oval((x, y - h / 2), h * 1.1, w * 1.5), "#b99a6c", brown[1], FINE)
                continue
            page.shape(
                "scale",
                [
                    (x - w / 2, y - h / 2),
                    (x + w / 2, y - h / 2),
                    (x + w / 2.4, y + h / 4),
                    (x, y + h / 2),
                    (x - w / 2.4, y + h / 4),
                ],
                *brown,
                FINE,
            )
            if specimen.one("cone.bracts") in ("out_three_pointed", "out_straight"):
                page.line("bract", [(x, y + h / 3), (x, y + h * 1.1)], brown[1], 1.2)
                if specimen.one("cone.bracts") == "out_three_pointed":
                    page.line(
                        "bract",
                        [(x - w / 3, y + h * 0.8), (x, y + h / 3), (x + w / 3, y + h * 0.8)],
                        brown[1],
                        0.9,
                    )
            if specimen.one("cone.prickle") in ("strong", "slight"):
                page.line(
                    "prickle",
                    [
                        (x, y + h / 3),
                        (x + w * (0.5 if specimen.one("cone.prickle") == "strong" else 0.25), y + h * 0.1),
                    ],
                    brown[1],
                    1.3,
                )
