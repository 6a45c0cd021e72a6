"""A sketch of where trees stand: boundaries of blocks and numbered points, north up, with a scale."""

from __future__ import annotations

import math
from collections.abc import Sequence
from html import escape

WIDE, HIGH, MARGIN = 700, 420, 24
DOT, LINE, LETTER = 4, 12, 6.4  # radius of a dot, height of a label, width of one of its letters at most
FAR = (6, 14, 24, 36, 50)  # how far from its dot a label may stand
TURNS = [math.radians(t) for t in (0, 180, -45, 45, -135, 135, -90, 90)]
Box = tuple[float, float, float, float]
M_PER_DEGREE = 111_320.0
SCALES_M = (5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)


def site_sketch(
    points: Sequence[tuple[str, float, float]], boundaries: Sequence[Sequence[tuple[float, ...]]]
) -> str:
    """SVG of (label, lon, lat) and of the boundaries (lon, lat) of their blocks; '' for no points."""
    if not points:
        return ""
    lat = sum(p[2] for p in points) / len(points)
    east = M_PER_DEGREE * math.cos(math.radians(lat))
    rings = [[(x * east, y * M_PER_DEGREE) for x, y, *_ in ring] for ring in boundaries]
    dots = [(label, x * east, y * M_PER_DEGREE) for label, x, y in points]
    xs = [x for ring in rings for x, _ in ring] + [x for _, x, _ in dots]
    ys = [y for ring in rings for _, y in ring] + [y for _, _, y in dots]
    wide, high = max(max(xs) - min(xs), 10.0), max(max(ys) - min(ys), 10.0)
    scale = min((WIDE - 2 * MARGIN) / wide, (HIGH - 2 * MARGIN - 20) / high)

    def at(x: float, y: float) -> tuple[float, float]:
        return MARGIN + (x - min(xs)) * scale, HIGH - MARGIN - 20 - (y - min(ys)) * scale

    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" width="{WIDE}" height="{HIGH}">'
    ]
    for ring in rings:
        path = " ".join(f"{a:.1f},{b:.1f}" for a, b in (at(x, y) for x, y in ring))
        parts.append(f'<polygon points="{path}" fill="none" stroke="#5b5547" stroke-width="1"/>')
    places = [at(x, y) for _, x, y in dots]
    taken = [(a - DOT, b - DOT, a + DOT, b + DOT) for a, b in places]
    for (label, _, _), (a, b) in zip(dots, places, strict=True):
        box = _free_box(a, b, len(label) * LETTER, taken)
        taken.append(box)
        left, base = box[0], box[3] - 3
        parts.append(f'<circle cx="{a:.1f}" cy="{b:.1f}" r="{DOT}" fill="#3f5f34"/>')
        if math.dist((a, b), _nearest(box, a, b)) > 2 * DOT:
            c, d = _nearest(box, a, b)
            parts.append(f'<path d="M{a:.1f},{b:.1f} L{c:.1f},{d:.1f}" stroke="#5b5547" stroke-width="0.6"/>')
        parts.append(f'<text x="{left:.1f}" y="{base:.1f}" font-size="11">{escape(label)}</text>')
    return "".join([*parts, _scale_bar(scale), "</svg>"])


def _free_box(a: float, b: float, wide: float, taken: Sequence[Box]) -> Box:
    """Where the label of a dot goes: beside it, else farther off on a line; where all is taken, beside it."""
    places = [(a + math.cos(turn) * far, b + math.sin(turn) * far) for far in FAR for turn in TURNS]
    boxes = [
        (x if x >= a else x - wide, y - LINE / 2, x + wide if x >= a else x, y + LINE / 2) for x, y in places
    ]
    inside = [x for x in boxes if x[0] >= 0 and x[2] <= WIDE and x[1] >= 0 and x[3] <= HIGH - 2 * LINE]
    return next((box for box in inside if not any(_overlap(box, other) for other in taken)), boxes[0])


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _nearest(box: Box, a: float, b: float) -> tuple[float, float]:
    return min(max(a, box[0]), box[2]), min(max(b, box[1]), box[3])


def _scale_bar(scale: float) -> str:
    metres = max((m for m in SCALES_M if m * scale <= WIDE / 4), default=SCALES_M[0])
    y, end = HIGH - 14, MARGIN + metres * scale
    return (
        f'<path d="M{MARGIN},{y} H{end:.1f}" stroke="#211f18" stroke-width="2"/>'
        f'<text x="{end + 6:.1f}" y="{y + 4}" font-size="11">{metres} m</text>'
        f'<text x="{WIDE - MARGIN - 40}" y="{y + 4}" font-size="11">north up</text>'
    )
