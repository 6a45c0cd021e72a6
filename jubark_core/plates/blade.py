"""One blade (a simple leaf or a leaflet): outline, margin and veins from its numbers, base at the origin, tip
upwards.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise

from jubark_core.plates.pen import FINE, LINE, Page, Point, bezier, turned

STEPS = 64
WIDEST = {"below": 0.32, "middle": 0.47, "above": 0.66}
OF_SHAPE = {
    "heart": 0.28,
    "triangular": 0.2,
    "ovate": 0.33,
    "lanceolate": 0.38,
    "obovate": 0.66,
    "spoon": 0.74,
    "round": 0.5,
}
TIP_BEND = {"blunt": 0.5, "notched": 0.42, "pointed": 1.15, "drawn_out": 1.25, "bristle": 1.1, "spine": 1.1}
BASE_BEND = {
    "rounded": 0.5,
    "heart": 0.45,
    "eared": 0.5,
    "straight": 0.28,
    "wedge": 1.0,
    "running_down": 1.5,
    "unequal": 0.6,
}
TEETH_PER_VEIN = {"coarse_teeth": 1, "double_teeth": 3, "fine_teeth": 3, "spiny": 1, "toothed_mid_only": 1}


@dataclass(frozen=True)
class Blade:
    """Length and width in mm; the words of the vocabulary for the rest. side_veins: on one side."""

    length: float
    width: float
    shape: str = "ovate"
    widest_at: str = ""
    base: str = "rounded"
    tip: str = "pointed"
    margin: str = "entire"
    tooth_form: str = ""
    venation: str = "pinnate"
    side_veins: int = 8
    vein_ends: str = ""
    lobes: str = "none"
    lobe_count: int = 0
    lobe_tip: str = "rounded"
    sinus: str = "open_v"
    sinus_depth: float = 0.5
    unequal: bool = False

    @property
    def widest(self) -> float:
        """Where it is widest, as a share of its length from the base."""
        return WIDEST.get(self.widest_at) or OF_SHAPE.get(self.shape, 0.47)


ROLL = 0.045  # how far a rolled edge lies inside, as a share of the width


def profile(blade: Blade, t: float) -> float:
    """Half-width at a share t of the length (0 base, 1 tip), as a share of the greatest half-width: 1 at the
    widest point.
    """
    p = blade.widest
    flat = 0.55 if blade.shape in ("linear", "oblong") else 1.0
    if t <= p:
        u = t / p
        return float((u * (2 - u)) ** (BASE_BEND.get(blade.base, 0.6) * flat))
    v = (1 - t) / (1 - p)
    bend = TIP_BEND.get(blade.tip, 0.9) * (flat if blade.tip in ("blunt", "notched") else 1.0)
    width = (v * (2 - v)) ** bend
    if blade.tip == "drawn_out" and v < 0.35:  # a long point: the last third runs out thin
        width = (0.35 * 1.65) ** bend * (v / 0.35) ** 1.6
    return float(width)


def outline(blade: Blade) -> list[Point]:
    """The edge from the base up the right side to the tip and down the left, closed; teeth and lobes
    included.
    """
    if blade.shape == "fan":
        return _fan(blade)
    if blade.lobes == "palmate":
        return _toothed(_palmate(blade), blade)
    right = _side(blade)
    left = [
        (-x, y)
        for x, y in _side(
            replace(blade, base="rounded") if blade.unequal and blade.base == "heart" else blade
        )
    ]
    if blade.unequal:  # one half starts higher on the midrib and is a little narrower
        left = [
            (
                x * 0.9,
                y
                - 0.07
                * blade.length
                * (1 - min(1.0, -y / (0.4 * blade.length)))
                * min(1.0, -x / (0.1 * blade.width)),
            )
            for x, y in left
        ]
    if blade.lobes == "pinnate":
        return _toothed([*right, *left[::-1]], blade)
    return [*_edged(right, blade), *[(-x, y) for x, y in _edged([(-x, y) for x, y in left], blade)][::-1]]


def _side(blade: Blade) -> list[Point]:
    half = blade.width / 2
    points = []
    if blade.base in ("heart", "eared") and blade.shape != "linear":
        joint = 0.2
        x = profile(replace(blade, base="rounded"), joint) * half
        drop = (0.13 if blade.base == "heart" else 0.06) * blade.length
        points = bezier(
            (0, 0), (0.12 * half, drop * 1.5), (x * 1.02, drop * 1.25), (x, -joint * blade.length), 14
        )[:-1]
        start = joint
        blade = replace(blade, base="rounded")
    else:
        start = 0.0
    for i in range(STEPS + 1):
        t = start + (1 - start) * i / STEPS
        x = profile(blade, t) * half
        y = -t * blade.length
        if blade.lobes == "pinnate":
            x, y = _lobed(blade, t, x, y)
        points.append((x, y))
    if blade.tip == "notched":
        top = max(0.0, blade.length * 0.08)
        points = [(x, max(y, -blade.length + top * 0.2)) for x, y in points[:-4]] + [
            (half * 0.12, -blade.length + top * 0.3),
            (0, -blade.length + top),
        ]
    return points


def _lobed(blade: Blade, t: float, x: float, y: float) -> Point:
    """Pinnate lobes: the half-width cut in by the sinuses, arms leaning to the tip; they cannot overlap."""
    n = max(1, round((blade.lobe_count - 1) / 2))
    phase = (t * (n + 0.5)) % 1.0
    power = {"closing_c": 0.45, "shallow": 1.2}.get(blade.sinus, 0.8)
    round_tip = blade.lobe_tip == "rounded"
    if round_tip:  # a flat top between two sinuses, and arms that lean less
        power = {"closing_c": 1.5, "shallow": 2.2}.get(blade.sinus, 1.8)
    cut = math.sin(math.pi * phase) ** power
    if t < 0.1 or t > 0.97:
        cut *= max(0.0, min(t / 0.1, (1 - t) / 0.03, 1.0))
    x *= 1 - min(0.9, blade.sinus_depth) * cut
    return x, y - (0.2 if round_tip else 0.32) * x * (1 - t)


def _arms(blade: Blade) -> tuple[list[tuple[float, float]], float]:
    """(angle in degrees, share of the length) of the lobes of one side from the middle one down; the widening
    that gives the width.

    A notched tip has no middle lobe: the lobes stand in pairs, and the first arm is the notch between the
    upper two.
    """
    if blade.tip == "notched":
        lobes = ((0.0, 0.72), (24.0, 0.98), (74.0, 0.78))
        return list(lobes), blade.width / (
            2 * blade.length * max(r * math.sin(math.radians(a)) for a, r in lobes)
        )
    n = max(3, blade.lobe_count + (blade.lobe_count % 2 == 0))
    angles, lengths = {
        3: ((0, 48), (1, 0.78)),
        5: ((0, 46, 98), (1, 0.86, 0.56)),
        7: ((0, 36, 72, 112), (1, 0.94, 0.78, 0.5)),
    }.get(n, ((0, 30, 60, 90, 120), (1, 0.96, 0.88, 0.74, 0.5)))
    wide = blade.width / (
        2 * blade.length * max(r * math.sin(math.radians(a)) for a, r in zip(angles, lengths, strict=True))
    )
    return list(zip(angles, lengths, strict=True)), wide


def _palmate(blade: Blade) -> list[Point]:
    """Lobes about the top of the stalk: arms at their angles, sinuses between."""
    arms, wide = _arms(blade)
    power = {"closing_c": 0.45, "shallow": 1.3}.get(blade.sinus, 0.75)
    half: list[Point] = []
    for (a, r), (b, q) in pairwise(arms):
        for i in range(24):
            phase = i / 24
            notch = blade.tip == "notched" and a == 0
            cut = 0.0 if notch else min(0.88, blade.sinus_depth) * math.sin(math.pi * phase) ** power
            reach = (r + (q - r) * phase) * (1 - cut)
            half.append(_polar(a + (b - a) * phase, reach * blade.length, wide))
    half.append(_polar(arms[-1][0], arms[-1][1] * blade.length, wide))
    x, y = half[-1]
    if len(arms) == 2:  # the side lobes of three stand high: a full flank and a rounded base under them
        half += bezier(
            (x, y), (1.02 * x, y + 0.42 * blade.length), (0.28 * blade.width, 0.12 * blade.length), (0, 0), 14
        )[1:]
    else:
        half += bezier(
            (x, y), (x * 0.55, y + 0.12 * blade.length), (0.1 * blade.width, 0.02 * blade.length), (0, 0), 8
        )[1:]
    return [*half[::-1], *[(-x, y) for x, y in half]]


def _polar(degrees: float, reach: float, wide: float) -> Point:
    a = math.radians(degrees)
    return wide * reach * math.sin(a), -reach * math.cos(a)


def _fan(blade: Blade) -> list[Point]:
    """A fan with a cleft in the middle of its wavy upper edge."""
    half = []
    for i in range(30):
        a = math.radians(4 + 62 * i / 29)
        reach = blade.length * (0.96 + 0.03 * math.sin(i * 1.7)) * (0.82 if i == 0 else 1)
        half.append((reach * math.sin(a) * blade.width / (1.8 * blade.length), -reach * math.cos(a)))
    return [(0, 0), *half[::-1], *[(-x, y) for x, y in half]]


def _edged(side: list[Point], blade: Blade) -> list[Point]:
    """One side with its teeth or waves, set along the outline's own normal and leaning to the tip."""
    kind = blade.margin
    if kind == "wavy":
        return _displaced(
            side,
            blade,
            max(4, blade.side_veins),
            lambda phase: 0.5 * math.sin(2 * math.pi * phase),
            0.02 * blade.width,
        )
    if kind not in TEETH_PER_VEIN:
        return side
    count = teeth(blade)
    height = 0.42 * blade.length / max(1, count)
    height = min(height, 0.09 * blade.width) if kind != "spiny" else 0.11 * blade.width
    if kind == "double_teeth":
        return _displaced(
            side,
            blade,
            count,
            lambda phase: _saw(phase, blade) * (1.0 if int(phase * 3) % 3 == 2 else 0.6),
            height * 1.4,
        )
    return _displaced(side, blade, count, lambda phase: _saw(phase, blade), height)


def teeth(blade: Blade) -> int:
    """Teeth on one side: one at each vein, several between for finer margins."""
    return max(3, blade.side_veins) * TEETH_PER_VEIN.get(blade.margin, 1)


def _saw(phase: float, blade: Blade) -> float:
    phase %= 1.0
    if blade.tooth_form == "blunt":
        return float(math.sin(math.pi * phase) ** 0.7)
    return phase / 0.8 if phase < 0.8 else (1 - phase) / 0.2


def _displaced(
    side: list[Point], blade: Blade, count: int, wave: Callable[[float], float], height: float
) -> list[Point]:
    lengths = [0.0]
    for (x, y), (u, v) in pairwise(side):
        lengths.append(lengths[-1] + math.hypot(u - x, v - y))
    total = lengths[-1] or 1.0
    found: list[Point] = []
    per_tooth = 6
    for i in range(count * per_tooth + 1):
        s = total * i / (count * per_tooth)
        k = next((j for j in range(1, len(lengths)) if lengths[j] >= s), len(lengths) - 1)
        share = (s - lengths[k - 1]) / ((lengths[k] - lengths[k - 1]) or 1.0)
        (x, y), (u, v) = side[k - 1], side[k]
        px, py = x + (u - x) * share, y + (v - y) * share
        run = math.hypot(u - x, v - y) or 1.0
        along = s / total
        fade = min(1.0, along / 0.12, (1 - along) / 0.1)
        if blade.margin == "toothed_mid_only":
            fade *= float(along > 0.45)
        d = height * fade * wave(i / per_tooth % 1.0)
        nx, ny = -(v - y) / run, (u - x) / run  # outward on the right side, which runs upwards
        found.append((px + d * nx + 0.35 * d * (u - x) / run, py + d * ny + 0.35 * d * (v - y) / run))
    return found


def _toothed(edge: list[Point], blade: Blade) -> list[Point]:
    """A lobed edge with the teeth of its margin (maples), or plain (oaks)."""
    if blade.lobes != "palmate" or blade.margin not in TEETH_PER_VEIN:
        return edge
    middle = len(edge) // 2
    right = _displaced(
        edge[: middle + 1],
        blade,
        9 if blade.margin == "coarse_teeth" else 20,
        lambda phase: _saw(phase, blade),
        0.022 * blade.length,
    )
    return [*right, *[(-x, y) for x, y in right][::-1]]


def veins(blade: Blade) -> list[tuple[str, list[Point]]]:
    """(part, stroke) of the midrib and of every side vein; palmate, three-from-base, arching, parallel and
    forked have their own way.
    """
    length, half = blade.length, blade.width / 2
    found: list[tuple[str, list[Point]]] = []
    if blade.venation == "forked":
        return [
            ("vein", [(0, 0), _polar(a, length * 0.93, blade.width / (1.8 * length))])
            for a in range(-60, 61, 8)
        ]
    if blade.venation == "parallel":
        return [("vein", _follow(blade, share)) for share in (-0.75, -0.5, -0.25, 0.0, 0.25, 0.5, 0.75)]
    found.append(("midrib", [(0, 0), (0, -length * 0.985)]))
    if blade.lobes == "palmate":
        arms, wide = _arms(blade)
        tips = [_polar(a, 0.95 * r * length, wide) for a, r in arms[1:]]
        return found + [("side-vein", [(0, 0), (sign * x, y)]) for x, y in tips for sign in (-1, 1)]
    if blade.venation == "palmate" and blade.lobes == "none":
        for a, r in ((30, 0.72), (62, 0.46)):
            x, y = _polar(a, r * length, half / (length * 0.62))
            found += [("side-vein", [(0, 0), (sign * x, y)]) for sign in (-1, 1)]
    starts = 3 if blade.venation == "three_from_base" else 0
    n = max(1, blade.side_veins)
    for i in range(n):
        t = 0.06 + 0.84 * i / n
        if starts and i == 0:
            t = 0.0
        for sign in (-1, 1):
            found.append(
                ("side-vein", [(sign * x, y) for x, y in _side_vein(blade, t, i < 1 and bool(starts))])
            )
    return found


def _side_vein(blade: Blade, t: float, from_base: bool) -> list[Point]:
    """A side vein from the midrib at share t: to the edge a little higher, bending to the tip."""
    rise = {"arching": 0.34, "transverse": 0.05}.get(blade.venation, 0.4 if from_base else 0.17)
    end = min(0.97, t + rise)
    reach = {"into_teeth": 0.99, "loop": 0.78}.get(blade.vein_ends, 0.9)
    lobed_x, lobed_y = profile(blade, end) * blade.width / 2 * reach, -end * blade.length
    if blade.lobes == "pinnate":
        lobed_x, lobed_y = _lobed(blade, end, lobed_x, lobed_y)
    start = (0.0, -t * blade.length)
    bend = (lobed_x * 0.6, -(t + rise * (0.25 if blade.venation == "arching" else 0.42)) * blade.length)
    return bezier(start, (lobed_x * 0.25, start[1] - 0.1 * rise * blade.length), bend, (lobed_x, lobed_y), 8)


def _follow(blade: Blade, share: float) -> list[Point]:
    return [(share * profile(blade, i / 20) * blade.width / 2, -i / 20 * blade.length) for i in range(21)]


def draw_blade(
    page: Page,
    blade: Blade,
    colours: tuple[str, str],
    turn: float = 0.0,
    at: Point = (0.0, 0.0),
    part: str = "blade",
    fine: bool = False,
) -> None:
    """A blade on the page: fill and dark line of one hue; turned about its base and set at a point."""
    fill, line = colours
    edge = outline(blade)
    if fine:
        edge = edge[:: max(1, len(edge) // 36)]
    page.shape(part, turned(edge, turn, shift=at), fill, line, FINE if fine else LINE)
    drawn: dict[str, list[list[Point]]] = {}
    for name, stroke in veins(blade):
        if fine and blade.length * page.scale < 62 and name != "midrib":
            continue  # too small on the page for side veins to be read
        stroke = stroke if name == "midrib" else _as_far_as_inside(stroke, edge)
        stroke = [stroke[0], stroke[len(stroke) // 2], stroke[-1]] if fine else stroke
        drawn.setdefault(name, []).append(turned(stroke, turn, shift=at))
    for name, strokes in drawn.items():
        page.lines(name, strokes, line, (1.1 if name == "midrib" else 0.6) * (0.7 if fine else 1))
    if blade.margin == "rolled_under" and not fine:
        inner = [
            (x - math.copysign(min(abs(x), ROLL * blade.width), x), y)
            for x, y in edge
            if abs(x) > 2 * ROLL * blade.width
        ]
        for sign in (-1, 1):
            page.line(
                "rolled-edge", turned([p for p in inner if p[0] * sign > 0], turn, shift=at), line, FINE
            )
    if blade.margin == "hair_fringed":
        for x, y in edge[:: max(1, len(edge) // 60)]:
            page.line(
                "hair", turned([(x, y), (x * 1.05, y - 0.01 * blade.length)], turn, shift=at), line, 0.5
            )
    if blade.tip in ("bristle", "spine") or blade.lobe_tip in ("bristle", "spine"):
        for x, y in _points_of(edge, blade):
            page.line(
                "bristle", turned([(x, y), (x * 1.06, y - 0.035 * blade.length)], turn, shift=at), line, 0.8
            )


def _as_far_as_inside(stroke: list[Point], edge: list[Point]) -> list[Point]:
    """A vein up to where it would leave the blade, as between lobes or at a lopsided base; its first step
    always stays.
    """
    kept = stroke[:2]
    for x, y in stroke[2:]:
        crossings = sum(
            (v > y) != (q > y) and x < (p - u) * (y - v) / (q - v) + u
            for (u, v), (p, q) in pairwise([*edge, edge[0]])
        )
        if crossings % 2 == 0:
            break
        kept.append((x, y))
    return kept


def _points_of(edge: list[Point], blade: Blade) -> list[Point]:
    """Where bristles stand: at the tips of lobes, or at the tip of the blade."""
    if blade.lobes == "none":
        return [(0.0, -blade.length)]
    reach = [math.hypot(x, y * 0.4) for x, y in edge]
    peaks = [
        edge[i]
        for i in range(2, len(edge) - 2)
        if reach[i] > max(reach[i - 2], reach[i - 1]) and reach[i] >= max(reach[i + 1], reach[i + 2])
    ]
    return peaks or [(0.0, -blade.length)]
