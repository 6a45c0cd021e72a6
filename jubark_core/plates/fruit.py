"""The fruit plate: each kind of the vocabulary with its own form, in its colours, in its number, to scale."""

from __future__ import annotations

import math
from collections.abc import Callable

from jubark_core.plates.colours import FRUIT, Tones, first_of
from jubark_core.plates.cone import draw_cone
from jubark_core.plates.pen import FINE, Page, Point, bezier, oval, turned
from jubark_core.plates.specimen import Specimen

PAGE = 240.0
Draw = Callable[
    [Page, Specimen, Point, float, Tones], None
]  # page, specimen, where the stalk joins, length in mm, colours


def fruit_plate(specimen: Specimen) -> str:
    """Fruit or cone of a specimen as SVG; several where they hang together."""
    kind = specimen.one("fruit.kind", "drupe")
    cone = kind.startswith("cone_")
    length = specimen.number("cone.length_cm", 4) * 10 if cone else specimen.number("fruit.length_mm", 12)
    number = _number(specimen, kind)
    reach = max(length * (3.6 if kind == "nutlet_bract" else 2.0 if number == 1 else 3.4), 14.0)
    page = Page(PAGE, PAGE, PAGE / reach)
    tones = first_of(specimen, "fruit.colour", FRUIT, "brown")
    top = (reach / 2, reach * 0.12)
    for at in _hung(page, top, number, length, reach, specimen):
        (draw_cone if cone else DRAWN.get(kind, _berry))(page, specimen, at, length, tones)
    _ruler(page, reach)
    name = specimen.name
    c = specimen.flora.characters["fruit.kind"]
    return page.svg(f"Fruit of {name}", f"{c['labels'].get(kind, kind)}, about {length:.0f} mm")


def _number(specimen: Specimen, kind: str) -> int:
    cluster = specimen.one("fruit.cluster", "single")
    if cluster in ("single", "") or kind in ("ball_of_capsules", "burr", "pod") or kind.startswith("cone_"):
        return 1
    if kind in ("samara_pair", "nutlet_bract", "nutlet_sac"):
        return 1
    return {"few": 3, "axil_cluster": 3, "end_cluster": 7, "drooping_chain": 5, "spaced_on_stalks": 2}.get(
        cluster, 1
    )


def _hung(
    page: Page, top: Point, number: int, length: float, reach: float, specimen: Specimen
) -> list[Point]:
    """Where each fruit joins its stalk; stalks are drawn here."""
    stalk = min(specimen.number("fruit.stalk_mm", length * 0.4), reach * 0.35)
    if number == 1:
        foot = (top[0], top[1] + min(stalk, reach * 0.2))
        page.line("stalk", [top, foot], "#6a4a35", 2)
        return [foot]
    chain = specimen.one("fruit.cluster") == "drooping_chain"
    places = []
    for i in range(number):
        if chain:
            at = (top[0] + (-1) ** i * reach * 0.13, top[1] + reach * (0.08 + 0.6 * i / number))
            page.line("stalk", [(top[0], at[1] - reach * 0.05), at], "#6a4a35", 1.4)
        else:
            a = math.radians(-62 + 124 * (i + 0.5) / number)
            at = (
                top[0] + reach * 0.32 * math.sin(a),
                top[1] + reach * (0.16 + 0.16 * math.cos(a) + 0.1 * (i % 2)),
            )
            page.line("stalk", [top, at], "#6a4a35", 1.4)
        places.append(at)
    if chain:
        page.line("stalk", [top, (top[0], top[1] + reach * 0.62)], "#6a4a35", 1.8)
    return places


def _broad(specimen: Specimen) -> float:
    """Width over length by the shape named."""
    return {
        "round": 1.0,
        "oval": 0.74,
        "egg": 0.72,
        "oblong": 0.5,
        "long_narrow": 0.12,
        "half_sphere": 1.05,
        "flat": 1.0,
        "urn": 0.8,
        "cup": 0.85,
        "barrel": 0.75,
    }.get(specimen.one("fruit.shape", "round"), 0.9)


def _berry(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * _broad(specimen)
    page.shape("fruit", oval(at, length, wide), *tones)
    page.line(
        "gleam",
        [(at[0] - wide * 0.22, at[1] + length * 0.28), (at[0] - wide * 0.12, at[1] + length * 0.18)],
        "#fdfaf2",
        2,
    )
    if specimen.one("fruit.kind") in ("pome", "hip") or specimen.one("fruit.tip") == "dark_remains":
        for k in range(5):
            page.line(
                "calyx",
                [(at[0], at[1] + length), (at[0] + (k - 2) * wide * 0.07, at[1] + length * 1.08)],
                tones[1],
                1.6,
            )


def _samara(page: Page, at: Point, length: float, tones: Tones, angle: float, to_base: bool = False) -> None:
    seed = length * 0.3
    wing = [
        (0.0, 0.0),
        *bezier(
            (0.0, 0.0), (length * 0.2, seed * 0.2), (length * 0.19, length * 0.9), (0.02 * length, length)
        ),
        *bezier((0.02 * length, length), (-0.12 * length, length * 0.95), (-0.1 * length, seed), (0.0, 0.0)),
    ]
    page.shape("wing", turned(wing, angle, shift=at), "#c9b489", tones[1], FINE)
    for k in range(4):
        page.line(
            "wing-vein",
            turned([(0.02 * length, seed), (0.05 * length * (k - 0.6), length * 0.92)], angle, shift=at),
            tones[1],
            0.4,
        )
    page.shape(
        "seed",
        turned(
            [(x, y) for x, y in oval((0, 0), seed * (1.6 if to_base else 1), seed * 0.42)], angle, shift=at
        ),
        *tones,
    )


def _samara_single(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    if (
        specimen.one("fruit.shape") in ("flat", "round") or specimen.one("fruit.kind") == "winged_disc"
    ):  # a seed in the middle of a round wing, as elms have
        page.shape("wing", oval(at, length, length * 0.85), "#d3c79a", tones[1], FINE)
        page.dot("seed", (at[0], at[1] + length * 0.55), length * 0.16, *tones)
        return
    _samara(page, at, length, tones, 0.05, specimen.one("fruit.wing_reach") == "to_base")


def _samara_pair(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    spread = {"parallel": 0.12, "acute": 0.5, "right": 0.8, "straight": 1.45}.get(
        specimen.one("fruit.wing_angle"), 0.6
    )
    for sign in (-1, 1):
        _samara(page, at, length, tones, sign * spread)


def _acorn(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * max(0.55, _broad(specimen))
    cover = specimen.number("fruit.cap_cover", 0.3)
    page.shape("nut", oval((at[0], at[1] + length * 0.08), length, wide), "#a9834f", "#4f3720")
    page.line("nut-tip", [(at[0], at[1] + length * 1.06), (at[0], at[1] + length * 1.13)], "#4f3720", 2)
    deep = length * (0.1 + cover)
    cap = [
        (at[0] + wide * 0.56 * math.sin(a), at[1] + deep - deep * math.cos(a))
        for a in (math.pi / 2 * (i / 10 - 1) for i in range(21))
    ]
    page.shape(
        "cap",
        [(at[0] - wide * 0.56, at[1] + deep), *cap, (at[0] + wide * 0.56, at[1] + deep)],
        "#8a6b48",
        "#43301d",
    )
    rows = 4
    for row in range(1, rows + 1):
        y = at[1] + deep * row / (rows + 0.3)
        half = wide * 0.53 * math.sin(math.acos(max(-1.0, 1 - row / (rows + 0.3))))
        count = max(3, int(half / wide * 16))
        for k in range(count):
            x = at[0] - half + 2 * half * (k + 0.5) / count
            if specimen.one("fruit.cap_scales") == "knobbly":
                page.dot("cap-scale", (x, y), wide * 0.035, "#a78760", "#43301d")
            else:
                loose = 0.1 if specimen.one("fruit.cap_scales") == "loose_tips" else 0.045
                page.line("cap-scale", [(x, y), (x + 0.02 * wide, y + loose * length)], "#43301d", 0.9)
    if specimen.one("fruit.cap") == "fringed":
        for k in range(22):
            x = at[0] - wide * 0.56 + wide * 1.12 * k / 21
            page.line(
                "fringe",
                [(x, at[1] + deep), (x + (k - 10.5) * wide * 0.012, at[1] + deep + length * 0.16)],
                "#8a6b48",
                1.6,
            )


def _nut(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    husk = specimen.one("fruit.husk", "smooth")
    wide = length * max(0.62, _broad(specimen))
    page.shape("husk", oval(at, length * 1.18, wide * 1.2), *FRUIT["green"])
    reach = {"splits_to_base": 1.0, "splits_part": 0.5}.get(husk, 0.0)
    for sign in (-1, 0, 1) if reach else ():
        page.line(
            "seam",
            bezier(
                (at[0], at[1] + length * 1.18),
                (at[0] + sign * wide * 0.7, at[1] + length),
                (at[0] + sign * wide * 0.7, at[1] + length * (1.1 - reach)),
                (at[0] + sign * wide * 0.2, at[1] + length * 1.18 * (1 - reach)),
            ),
            FRUIT["green"][1],
            1.8,
        )
    if husk == "sticky":
        for x, y in oval(at, length * 1.18, wide * 1.2, 34):
            page.line("hair", [(x, y), (x + (x - at[0]) * 0.09, y + 0.4)], FRUIT["green"][1], 0.7)


def _burr(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    page.shape("burr", oval(at, length * 1.2, length * 1.15), "#a98a58", "#54401f")
    for i in range(46):
        a = 2 * math.pi * i / 46
        x, y = at[0] + length * 0.55 * math.sin(a), at[1] + length * 0.6 - length * 0.58 * math.cos(a)
        page.line(
            "spine",
            [(x, y), (x + length * 0.16 * math.sin(a + 0.15), y - length * 0.16 * math.cos(a + 0.15))],
            "#54401f",
            1,
        )


def _pod(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * (0.12 if specimen.one("fruit.shape") == "long_narrow" else 0.26)
    mid = [(at[0] + 0.13 * length * math.sin(math.pi * i / 16), at[1] + length * i / 16) for i in range(17)]
    half = [wide / 2 * math.sin(math.pi * min(1, max(0, i / 16))) ** 0.4 for i in range(17)]
    page.shape(
        "pod",
        [(x + h, y) for (x, y), h in zip(mid, half, strict=True)]
        + [(x - h, y) for (x, y), h in zip(mid, half, strict=True)][::-1],
        *tones,
    )
    for i in range(2, 15, 2):
        page.dot("seed", (mid[i][0], mid[i][1]), wide * 0.2, tones[0], tones[1], 1.3)


def _capsule(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    if specimen.one("fruit.shape") == "long_narrow":
        page.line(
            "capsule",
            bezier(
                at,
                (at[0] + 3, at[1] + length * 0.3),
                (at[0] - 4, at[1] + length * 0.7),
                (at[0] + 2, at[1] + length),
            ),
            tones[1],
            6,
        )
        page.line(
            "capsule",
            bezier(
                at,
                (at[0] + 3, at[1] + length * 0.3),
                (at[0] - 4, at[1] + length * 0.7),
                (at[0] + 2, at[1] + length),
            ),
            tones[0],
            4,
        )
        return
    page.shape("capsule", oval(at, length, length * _broad(specimen)), *tones)
    for sign in (-0.3, 0.3):
        page.line(
            "seam",
            [(at[0], at[1]), (at[0] + sign * length * 0.6, at[1] + length * 0.5), (at[0], at[1] + length)],
            tones[1],
            1,
        )
    if specimen.one("fruit.husk") == "spiny":
        for x, y in oval(at, length, length * _broad(specimen), 22):
            page.line(
                "spine",
                [(x, y), (x + (x - at[0]) * 0.16, y + (y - at[1] - length / 2) * 0.16)],
                tones[1],
                1.6,
            )


def _gum(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * 0.85
    urn = specimen.one("fruit.shape") == "urn"
    page.shape(
        "capsule",
        [
            (at[0] - wide * 0.12, at[1]),
            (at[0] + wide * 0.12, at[1]),
            (at[0] + wide * 0.5, at[1] + length * 0.6),
            (at[0] + wide * (0.3 if urn else 0.48), at[1] + length),
            (at[0] - wide * (0.3 if urn else 0.48), at[1] + length),
            (at[0] - wide * 0.5, at[1] + length * 0.6),
        ],
        *tones,
    )
    if specimen.one("fruit.valves") == "standing_out":
        for k in (-1, 0, 1):
            page.shape(
                "valve",
                [
                    (at[0] + k * wide * 0.25 - 0.8, at[1] + length),
                    (at[0] + k * wide * 0.25 + 0.8, at[1] + length),
                    (at[0] + k * wide * 0.2, at[1] + length * 1.22),
                ],
                tones[1],
            )


def _ball(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    page.dot("ball", (at[0], at[1] + length / 2), length / 2, *tones)
    spiky = specimen.one("fruit.kind") == "ball_of_capsules"
    for i in range(40):
        a, r = i * 2.4, length / 2 * math.sqrt((i + 0.5) / 40)
        x, y = at[0] + r * math.cos(a), at[1] + length / 2 + r * math.sin(a)
        if spiky:
            page.line("beak", [(x, y), (x + 0.3 * r * math.cos(a), y + 0.3 * r * math.sin(a))], tones[1], 1.8)
        else:
            page.dot("nutlet", (x, y), length * 0.03, tones[1])


def _little_cone(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * (0.28 if specimen.one("fruit.shape") in ("long_narrow", "oblong") else 0.55)
    page.shape("cone", oval(at, length, wide), *tones)
    for row in range(1, 9):
        y = at[1] + length * row / 9
        half = wide / 2 * math.sin(math.acos(1 - 2 * row / 9))
        for k in range(5):
            x = at[0] - half + 2 * half * (k + (0.5 if row % 2 else 0.2)) / 5
            page.line(
                "scale", [(x - wide * 0.07, y), (x, y + length * 0.045), (x + wide * 0.07, y)], tones[1], 0.9
            )


def _nutlet_bract(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    bract = max(length * 2.2, 8.0)
    page.shape("bract", turned(oval((0, 0), bract, bract * 0.26), 0.5, shift=at), "#c8c184", "#5c5a2c", FINE)
    for k in (-1, 0, 1):
        page.line("stalk", [at, (at[0] + k * length * 0.9, at[1] + bract * 0.75)], "#6a4a35", 1)
        page.dot("nutlet", (at[0] + k * length * 0.9, at[1] + bract * 0.75), length * 0.36, *FRUIT["green"])


def _sac(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    for i in range(9):
        y = at[1] + length * i / 10
        for sign in (-1, 1):
            page.shape(
                "sac",
                turned(oval((0, 0), length * 0.2, length * 0.12), sign * 0.7, shift=(at[0], y)),
                "#d9d4ae",
                "#77734c",
                FINE,
            )


def _drupelets(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    wide = length * max(0.3, _broad(specimen)) * (1 if length < 40 else 0.6)
    page.shape("fruit", oval(at, length, wide), *tones)
    for i in range(38):
        a, r = i * 2.4, math.sqrt((i + 0.5) / 38)
        page.dot(
            "drupelet",
            (at[0] + wide * 0.45 * r * math.cos(a), at[1] + length / 2 + length * 0.45 * r * math.sin(a)),
            min(wide, length) * 0.09,
            tones[0],
            tones[1],
        )


def _key_cone(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    """An upright cone of narrow keys that overlap upwards."""
    for row in range(6):
        y = at[1] + length * (0.98 - 0.12 * row)
        for k in range(-2, 3):
            x = at[0] + length * 0.075 * k * (1 - 0.1 * row)
            key = [(x - length * 0.05, y), (x, y - length * 0.4), (x + length * 0.05, y)]
            page.shape("key", turned(key, 0.1 * k, origin=(x, y)), *tones, FINE)


def _follicle_cone(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    """A knobbly cone whose pods open and show a coloured seed each."""
    page.shape("fruit", oval(at, length, length * 0.45), "#94714b", "#46321d")
    for i in range(16):
        a, r = i * 2.4, math.sqrt((i + 0.5) / 16)
        x = at[0] + length * 0.19 * r * math.cos(a)
        y = at[1] + length / 2 + length * 0.42 * r * math.sin(a)
        page.dot("pod", (x, y), length * 0.055, "#b08a5c", "#46321d", 1.3)
        if i % 3 == 0:
            page.dot("seed", (x + length * 0.02, y + length * 0.02), length * 0.035, *FRUIT["red"], 1.2)


def _follicles(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    """Several pods from one flower, each open down one side."""
    middle = (at[0], at[1] + length * 0.5)
    for k in range(5):
        angle = 2 * math.pi * k / 5
        page.shape(
            "follicle",
            turned(oval((0, -length * 0.5), length * 0.5, length * 0.2), angle, shift=middle),
            *tones,
        )
        page.line(
            "slit", turned([(0, -length * 0.46), (0, -length * 0.08)], angle, shift=middle), tones[1], 1.6
        )


def _aril(page: Page, specimen: Specimen, at: Point, length: float, tones: Tones) -> None:
    """A fleshy cup, open at its end, with the seed to be seen in it."""
    page.shape("fruit", oval((at[0], at[1] + length / 2), length, length * 0.9), *tones)
    page.dot("opening", (at[0], at[1] + length * 0.86), length * 0.26, tones[1], tones[1], 0.5)
    page.dot("seed", (at[0], at[1] + length * 0.84), length * 0.15, "#5a5a34", "#2c2c1a", 1.2)


DRAWN: dict[str, Draw] = {
    "samara_single": _samara_single,
    "winged_disc": _samara_single,
    "samara_pair": _samara_pair,
    "acorn": _acorn,
    "nut_in_husk": _nut,
    "burr": _burr,
    "pod": _pod,
    "capsule": _capsule,
    "gum_capsule": _gum,
    "ball_of_nutlets": _ball,
    "ball_of_capsules": _ball,
    "catkin_cone": _little_cone,
    "nutlet_bract": _nutlet_bract,
    "nutlet_sac": _sac,
    "drupelets": _drupelets,
    "key_cone": _key_cone,
    "follicle_cone": _follicle_cone,
    "follicles": _follicles,
    "aril": _aril,
}


def _ruler(page: Page, reach: float) -> None:
    """A centimetre, or ten of them for what is long."""
    unit = 10.0 if reach < 160 else 100.0
    y = reach * 0.975
    page.line("ruler", [(reach * 0.04, y), (reach * 0.04 + unit, y)], "#211f18", 1.4)
    for x in (reach * 0.04, reach * 0.04 + unit):
        page.line("ruler-mark", [(x, y), (x, y - reach * 0.02)], "#211f18", 1.4)
