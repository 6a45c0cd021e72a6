"""A small pen that writes SVG: points in millimetres of the plant, strokes in units of the page."""

from __future__ import annotations

import math
import zlib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from xml.sax.saxutils import escape, quoteattr

Point = tuple[float, float]
LINE, FINE = 1.4, 0.8  # stroke widths in page units, whatever the scale


@dataclass
class Page:
    """A drawing in the making. scale: page units per millimetre; parts carry their name, so that a test can
    count them.
    """

    width: float
    height: float
    scale: float = 1.0
    marks: list[str] = field(default_factory=list)
    cut: bool = False  # whether what reaches over the page is cut off, where the drawing fills it

    def at(self, p: Point) -> str:
        """A point of the plant on the page."""
        return f"{p[0] * self.scale:.1f} {p[1] * self.scale:.1f}"

    def shape(
        self, part: str, points: Sequence[Point], fill: str, line: str = "none", stroke: float = LINE
    ) -> None:
        """A closed outline."""
        self.marks.append(
            f'<path data-part="{part}" d="M{"L".join(map(self.at, points))}Z" fill="{fill}" '
            f'stroke="{line}" stroke-width="{stroke}"/>'
        )

    def line(self, part: str, points: Sequence[Point], colour: str, stroke: float = FINE) -> None:
        """An open stroke."""
        d = "L".join(map(self.at, points))
        self.marks.append(
            f'<path data-part="{part}" d="M{d}" fill="none" stroke="{colour}" stroke-width="{stroke}" '
            'stroke-linecap="round"/>'
        )

    def shapes(
        self, part: str, outlines: Sequence[Sequence[Point]], fill: str, line: str, stroke: float = FINE
    ) -> None:
        """Many small closed outlines of one kind in one path; their number stands in data-count."""
        d = "".join(f"M{'L'.join(map(self.at, points))}Z" for points in outlines)
        self.marks.append(
            f'<path data-part="{part}" data-count="{len(outlines)}" d="{d}" fill="{fill}" '
            f'stroke="{line}" stroke-width="{stroke}"/>'
        )

    def lines(self, part: str, strokes: Sequence[Sequence[Point]], colour: str, stroke: float = FINE) -> None:
        """Many open strokes of one kind in one path; their number stands in data-count."""
        if strokes:
            d = "".join(f"M{'L'.join(map(self.at, points))}" for points in strokes)
            self.marks.append(
                f'<path data-part="{part}" data-count="{len(strokes)}" d="{d}" fill="none" '
                f'stroke="{colour}" stroke-width="{stroke}"/>'
            )

    def dot(
        self, part: str, centre: Point, radius_mm: float, fill: str, line: str = "none", flat: float = 1.0
    ) -> None:
        """A circle, or an ellipse where `flat` is not 1 (height over width)."""
        x, y = centre[0] * self.scale, centre[1] * self.scale
        r = radius_mm * self.scale
        self.marks.append(
            f'<ellipse data-part="{part}" cx="{x:.1f}" cy="{y:.1f}" rx="{r:.1f}" ry="{r * flat:.1f}" '
            f'fill="{fill}" stroke="{line}" stroke-width="{FINE}"/>'
        )

    def svg(self, title: str, told: str, left: float = 0.0, top: float = 0.0) -> str:
        """The finished drawing with its title and description for those who cannot see it."""
        drawn = "".join(self.marks)
        if self.cut:
            box = f'x="{left:.0f}" y="{top:.0f}" width="{self.width:.0f}" height="{self.height:.0f}"'
            drawn = f'<clipPath id="page"><rect {box}/></clipPath><g clip-path="url(#page)">{drawn}</g>'
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" role="img" viewBox="{left:.0f} {top:.0f} '
            f'{self.width:.0f} {self.height:.0f}" aria-label={quoteattr(title)}>'
            f"<title>{escape(title)}</title><desc>{escape(told)}</desc>{drawn}</svg>"
        )


def turned(
    points: Iterable[Point], angle: float, origin: Point = (0.0, 0.0), shift: Point = (0.0, 0.0)
) -> list[Point]:
    """Points turned about an origin by an angle in radians (clockwise on the page), then shifted."""
    c, s = math.cos(angle), math.sin(angle)
    return [
        (
            origin[0] + c * (x - origin[0]) - s * (y - origin[1]) + shift[0],
            origin[1] + s * (x - origin[0]) + c * (y - origin[1]) + shift[1],
        )
        for x, y in points
    ]


def bezier(a: Point, b: Point, c: Point, d: Point, steps: int = 12) -> list[Point]:
    """A cubic curve as points, both ends included."""
    found = []
    for i in range(steps + 1):
        t = i / steps
        u = 1 - t
        found.append(
            tuple(
                u**3 * p + 3 * u * u * t * q + 3 * u * t * t * r + t**3 * s
                for p, q, r, s in zip(a, b, c, d, strict=True)
            )
        )
    return [(x, y) for x, y in found]


def oval(at: Point, length: float, wide: float, n: int = 26) -> list[Point]:
    """An oval hanging from a point, in mm: its length downwards, its width across."""
    return [
        (
            at[0] + wide / 2 * math.sin(2 * math.pi * i / n),
            at[1] + length / 2 - length / 2 * math.cos(2 * math.pi * i / n),
        )
        for i in range(n)
    ]


class Scatter:
    """Repeatable numbers in 0..1 from a word: the same taxon is always drawn with the same jitter. No
    randomness.
    """

    def __init__(self, word: str) -> None:
        self._state = zlib.crc32(word.encode()) or 1

    def next(self) -> float:
        """The next number in 0..1 (a linear congruence; good enough for bark)."""
        self._state = (1103515245 * self._state + 12345) % 2**31
        return self._state / 2**31

    def between(self, low: float, high: float) -> float:
        """The next number in low..high."""
        return low + (high - low) * self.next()
