"""A sketch of where trees stand: boundaries of blocks and numbered points, north up, with a scale."""

from __future__ import annotations

import math
from collections.abc import Sequence
from html import escape

WIDE, HIGH, MARGIN = 700, 420, 24
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
    for label, x, y in dots:
        a, b = at(x, y)
        parts.append(f'<circle cx="{a:.1f}" cy="{b:.1f}" r="4" fill="#3f5f34"/>')
        parts.append(f'<text x="{a + 6:.1f}" y="{b + 4:.1f}" font-size="11">{escape(label)}</text>')
    return "".join([*parts, _scale_bar(scale), "</svg>"])


def _scale_bar(scale: float) -> str:
    metres = max((m for m in SCALES_M if m * scale <= WIDE / 4), default=SCALES_M[0])
    y, end = HIGH - 14, MARGIN + metres * scale
    return (
        f'<path d="M{MARGIN},{y} H{end:.1f}" stroke="#211f18" stroke-width="2"/>'
        f'<text x="{end + 6:.1f}" y="{y + 4}" font-size="11">{metres} m</text>'
        f'<text x="{WIDE - MARGIN - 40}" y="{y + 4}" font-size="11">north up</text>'
    )
