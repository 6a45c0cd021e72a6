"""The twig plate: a winter twig with its buds, and one leaf scar enlarged with the bud above it."""

from __future__ import annotations

import math

from jubark_core.plates.blade import draw_blade
from jubark_core.plates.colours import WOOD, Tones, first_of, leaf_colours
from jubark_core.plates.leaf import blade_of, scaled
from jubark_core.plates.pen import FINE, Page, Point, Scatter, turned
from jubark_core.plates.specimen import Pretend, Specimen
from jubark_core.plates.tiles.conifer import CONIFER

WIDE, TALL = 260.0, 320.0
NODES = 5
CONIFERS = ("needle", "scale", "awl")
LENS = 120.0
PALMS = ("trifoliate", "palmate_compound", "two_leaflets_tendril")
LEAFED = 62.0  # page units of a leaf on the leafy twig
SCALES = {"naked": 0, "single_cap": 1, "two_meeting": 2, "few_overlapping": 4, "many_overlapping": 8}


def twig_plate(specimen: Specimen) -> str:
    """The twig of a specimen in its season as SVG: the twig, one scar as a lens shows it, and a cut."""
    page = Page(WIDE, TALL)
    wood = first_of(specimen, "twig.colour", WOOD, "brown")
    draw_twig(page, specimen, wood)
    kind = specimen.one("leaf.type", "simple")
    if kind in CONIFERS:
        _foot_or_scale(page, specimen, kind)
    else:
        draw_scar(
            page, specimen, (WIDE * 0.72, TALL * 0.3), wood, first_of(specimen, "bud.colour", WOOD, "brown")
        )
    draw_cut(page, specimen, (WIDE * 0.72, TALL * 0.78), wood)
    said = [
        specimen.flora.characters[c]["labels"][s]
        for c in ("leaf.arrangement", "bud.form", "bud.scales", "twig.leaf_scar", "twig.bundle_scars")
        if (s := specimen.one(c))
    ]
    return page.svg(f"Twig of {specimen.name}", "; ".join(said))


def draw_twig(page: Page, specimen: Specimen, wood: Tones) -> None:
    """The twig alone, on the left of the page."""
    bud = first_of(specimen, "bud.colour", WOOD, "brown")
    rng = Scatter(specimen.taxon)
    stem = _stem(specimen)
    thick = 13.0
    page.line("stem", stem, wood[1], thick + 2.4)
    page.line("stem", stem, wood[0], thick)
    _skin(page, specimen, stem, wood, rng)
    opposite = specimen.one("leaf.arrangement", "alternate") in ("opposite", "subopposite", "whorled")
    leafy, tones = (
        specimen.season == "summer" and not isinstance(specimen, Pretend),
        leaf_colours(specimen, autumn=False),
    )
    for i, node in enumerate(stem[1:-1], 1):
        for sign in (-1, 1) if opposite else ((-1) ** i,):
            _armed(page, specimen, node, sign, wood)
            at = (node[0] + sign * thick * 0.5, node[1])
            if leafy:
                _leafed(page, specimen, at, sign, tones)
            if specimen.one("leaf.type") == "scale":
                continue  # scales clothe the shoot: neither scar nor bud is seen at a node
            if specimen.one("leaf.type") not in CONIFERS:
                page.dot("leaf-scar", (at[0] - sign * 1.5, at[1] + 5), 4.2, "#d8c9a4", wood[1], 0.7)
            draw_bud(
                page, specimen, at, sign * _lean(specimen), 0.4 if leafy else 0.75, bud
            )  # in summer they only form
    if specimen.one("leaf.type") != "scale":
        _tip(page, specimen, stem, bud)
    if specimen.one("twig.spur_shoots") == "yes":
        _spur(page, specimen, stem[0], wood, bud)


def _foot_or_scale(page: Page, specimen: Specimen, kind: str) -> None:
    """In the place of the leaf scar: how a needle sits on the twig, or the scales of the shoot, as a lens
    shows them.
    """
    character = "spray.gland" if kind == "scale" else "needle.base"
    state = specimen.one(character)
    if state in ("", *(() if kind == "scale" else ("none",))):
        return
    lens = Page(LENS, LENS)
    CONIFER[character](lens, state)
    page.marks += [
        f'<g data-part="lens" transform="translate({WIDE * 0.5:.0f} 24) scale(0.95)">',
        *lens.marks,
        "</g>",
    ]


def _spur(page: Page, specimen: Specimen, foot: Point, wood: Tones, bud: Tones) -> None:
    """A short spur shoot on the older wood, ringed with the scars of its years, a bud at its end."""
    x, y = foot[0] + 6, foot[1] - 14
    page.shape(
        "spur-shoot", [(x, y + 6), (x + 20, y - 8), (x + 16, y - 17), (x - 2, y - 6)], wood[0], wood[1]
    )
    for k in range(4):
        page.line(
            "spur-ring",
            [(x + 2 + 4.6 * k, y + 3 - 3.4 * k), (x - 1 + 4.6 * k, y - 6 - 3.2 * k)],
            wood[1],
            FINE,
        )
    draw_bud(page, specimen, (x + 18, y - 13), 0.95, 0.6, bud, "spur-bud")


def _leafed(page: Page, specimen: Specimen, at: Point, sign: int, tones: Tones) -> None:
    """A leaf at its node, small: its outline if simple, its leaflets in their number, or a tuft of
    needles.
    """
    kind = specimen.one("leaf.type", "simple")
    if kind in ("needle", "awl", "scale"):
        for k in range(5 if kind != "scale" else 0):
            lean = sign * (0.5 + 0.25 * k)
            page.line("leaf", [at, (at[0] + 26 * math.sin(lean), at[1] - 26 * math.cos(lean))], tones[0], 2)
        return
    reach = 22.0 if kind in PALMS else 9.0  # the stalk
    lean, foot = sign * 0.95, (at[0] + sign * reach, at[1] - reach * 0.65)
    page.line("leaf-stalk", [at, foot], tones[1], 1.4)
    if kind == "simple":
        blade = blade_of(specimen)
        size = LEAFED / max(blade.length, blade.width, 1.0)
        draw_blade(page, scaled(blade, size), tones, turn=lean, at=foot, part="leaf", fine=True)
        return
    count = {"trifoliate": 3, "palmate_compound": 5, "two_leaflets_tendril": 2}.get(
        kind, specimen.whole("leaf.leaflets", 9)
    )
    palm = kind in PALMS
    size = LEAFED * (1.5 if palm else 1.0)
    lens = [
        (size * 0.07 * math.sin(math.pi * i / 4), -size * 0.18 * (1 - math.cos(math.pi * i / 4)))
        for i in range(8)
    ]
    end = foot if palm else turned([(foot[0], foot[1] - LEAFED * 0.7)], lean, foot)[0]
    page.line("rachis", [foot, end], tones[1], 1.2)
    leaflets = []
    for k in range(count):
        last = not palm and count % 2 == 1 and k == count - 1
        along = 0.0 if palm else 1.0 if last else (k // 2 + 1) / (count // 2 + 1)
        where = (foot[0] + (end[0] - foot[0]) * along, foot[1] + (end[1] - foot[1]) * along)
        spread = (k - (count - 1) / 2) * 0.62 if palm else 0.0 if last else (1.05 if k % 2 else -1.05)
        leaflets.append(turned(lens, lean + spread, shift=where))
    page.shapes("leaflets", leaflets, *tones)


def _stem(specimen: Specimen) -> list[Point]:
    bend = 9.0 if specimen.one("twig.zigzag") == "yes" else 1.5
    return [(WIDE * 0.26 + bend * (-1) ** i, TALL - 12 - i * (TALL - 75) / NODES) for i in range(NODES + 1)]


def _lean(specimen: Specimen) -> float:
    return {"appressed": 0.18, "spreading": 0.75, "bent": 0.5}.get(specimen.one("bud.posture"), 0.42)


def bud_outline(specimen: Specimen, long: float) -> list[Point]:
    """A bud's outline, foot at the origin, tip upwards."""
    form = specimen.one("bud.form", "ovoid")
    broad = {
        "long_pointed": 0.17,
        "round": 0.5,
        "blunt": 0.42,
        "brush": 0.2,
        "flattened": 0.36,
        "conical": 0.34,
    }.get(form, 0.36) * long
    low, high = {
        "round": (0.5, 0.5),
        "blunt": (0.5, 0.45),
        "conical": (0.35, 1.1),
        "long_pointed": (0.6, 1.0),
        "brush": (0.8, 0.9),
    }.get(form, (0.5, 0.85))
    side = []
    for i in range(13):
        t = i / 12
        u, v = min(1.0, t / 0.36), min(1.0, (1 - t) / 0.64)
        side.append((broad * (u * (2 - u)) ** low * (v * (2 - v)) ** high, -t * long))
    return [*side, *[(-x, y) for x, y in side[::-1]]]


def draw_bud(
    page: Page, specimen: Specimen, at: Point, lean: float, size: float, tones: Tones, part: str = "bud"
) -> None:
    """One bud with its scales; `at` is where it sits, `lean` its angle from the upright, `size` a share of
    the plate's bud.
    """
    long = min(46.0, max(11.0, specimen.number("bud.length_mm", 5) * 3.1)) * size
    foot = at
    if specimen.one("bud.stalked") == "yes":
        foot = (at[0] + 7 * math.sin(lean), at[1] - 7 * math.cos(lean))
        page.line("bud-stalk", [at, foot], tones[1], 3)
    page.shape(part, turned(bud_outline(specimen, long), lean, shift=foot), tones[0], tones[1])
    for edge in scale_edges(specimen, long):
        page.line("bud-scale", turned(edge, lean, shift=foot), tones[1], FINE)
    if specimen.one("bud.scales") == "naked" or specimen.one("bud.hairs_where") == "all_over":
        for k in range(5):
            page.line(
                "bud-hair",
                turned(
                    [((k - 2) * long * 0.06, -long * 0.25), ((k - 2) * long * 0.04, -long * 0.85)],
                    lean,
                    shift=foot,
                ),
                tones[1],
                0.5,
            )


def scale_edges(specimen: Specimen, long: float) -> list[list[Point]]:
    """Edges of the bud's scales: overlapping in their number, meeting along a seam, or one cap."""
    kind = specimen.one("bud.scales", "few_overlapping")
    n = SCALES.get(kind, 4)
    if kind == "two_meeting":
        return [[(0, 0), (0, -long * 0.95)]]
    if n < 2:
        return []
    half = long * 0.3
    edges = []
    for i in range(n // 2):
        y = -long * (0.16 + 0.62 * i / max(1, n // 2))
        edges.append([(-half * (1 - i / n), y), (0, y - long * 0.2), (half * (1 - i / n), y)])
    return edges


def _tip(page: Page, specimen: Specimen, stem: list[Point], tones: Tones) -> None:
    top = stem[-1]
    kind = specimen.one("bud.terminal", "true")
    if kind == "thorn" or "twig_tip" in specimen.many("twig.armed_where", 0.5):
        page.shape(
            "thorn", [(top[0] - 3.5, top[1]), (top[0] + 3.5, top[1]), (top[0], top[1] - 30)], "#5b4636"
        )
    elif kind == "true":
        draw_bud(page, specimen, (top[0], top[1] - 3), 0.0, 1.0, tones, "end-bud")
        if specimen.one("bud.clustered_at_tip") == "yes":
            for sign in (-1, 1):
                draw_bud(page, specimen, (top[0] + sign * 5, top[1]), sign * 0.45, 0.72, tones, "end-bud")
    else:
        page.dot("twig-scar", (top[0] + 4, top[1] - 2), 3, "#d8c9a4", tones[1])
        draw_bud(page, specimen, (top[0] - 2, top[1]), -0.35, 0.85, tones, "end-bud")


def _skin(page: Page, specimen: Specimen, stem: list[Point], wood: Tones, rng: Scatter) -> None:
    """Lenticels, hairs, bloom, corky wings."""
    lenticels = {"conspicuous": 26, "faint": 8}.get(specimen.one("twig.lenticels"), 0)
    for _ in range(lenticels):
        x, y = _on(stem, rng.next(), rng.between(-4.5, 4.5))
        page.dot("lenticel", (x, y), 1.4, "#efe6cc", flat=1.6)
    if specimen.one("twig.hairs") in ("dense", "sparse", "rough", "sticky"):
        for _ in range(90 if specimen.one("twig.hairs") == "dense" else 30):
            sign = 1 if rng.next() > 0.5 else -1
            x, y = _on(stem, rng.next(), sign * 6.5)
            page.line("hair", [(x, y), (x + sign * 4, y - 1.5)], wood[1], 0.6)
    if specimen.one("twig.bloom") == "yes":
        page.line("bloom", [(x - 3, y) for x, y in stem], "#dfe4e2", 2.6)
    wings = {"two": 2, "four": 4, "irregular": 3}.get(specimen.one("twig.corky_wings"), 0)
    for k in range(wings):
        offset = (-11, 11, -5, 5)[k]
        page.line(
            "corky-wing",
            [_on(stem, 0.05 + 0.8 * i / 10, offset + (2 if i % 2 else -1)) for i in range(11)],
            "#b99b74",
            3.4,
        )


def _on(stem: list[Point], share: float, across: float) -> Point:
    place = share * (len(stem) - 1)
    i = min(int(place), len(stem) - 2)
    (x, y), (u, v) = stem[i], stem[i + 1]
    return x + (u - x) * (place - i) + across, y + (v - y) * (place - i)


def _armed(page: Page, specimen: Specimen, node: Point, sign: int, wood: Tones) -> None:
    kinds = [k for k in specimen.many("twig.armed", 0.5) if k != "none"]
    where = specimen.many("twig.armed_where", 0.4)
    if not kinds or where == ["twig_tip"]:
        return
    long = min(48.0, max(9.0, specimen.number("twig.armed_length_mm", 8) * 1.1))
    curve = 0.5 if specimen.one("twig.armed_curve") == "recurved" else 0.0
    base = 5.0 if specimen.one("twig.armed_base") == "broad" or kinds[0] == "thorn" else 2.6
    for side in (-1, 1) if "node_pair" in where else (sign,):
        x, y = (
            node[0] + side * 6,
            node[1] + (14 if "between_nodes" in where and "node_pair" not in where else -4),
        )
        points = [(x, y - base), (x + side * long, y - 3 + curve * long * 0.6), (x, y + base)]
        page.shape("armature", points, wood[1])
        if specimen.one("twig.armed_branched") in ("three_forked", "branched"):
            for turn in (-0.55, 0.55):
                page.shape("armature", turned(points, turn, (x, y)), wood[1])


def draw_scar(page: Page, specimen: Specimen, at: Point, wood: Tones, bud: Tones) -> None:
    """One leaf scar as a lens shows it: its outline, its bundle scars, the stipule scars and the
    bud above.
    """
    page.shape(
        "lens-wood",
        [
            (at[0] - 46, at[1] - 88),
            (at[0] + 46, at[1] - 88),
            (at[0] + 46, at[1] + 62),
            (at[0] - 46, at[1] + 62),
        ],
        wood[0],
        wood[1],
    )
    draw_bud(page, specimen, (at[0], at[1] - 4), 0.0, 1.7, bud, "lens-bud")
    shape = specimen.one("twig.leaf_scar", "half_round")
    outline = scar_outline(shape, specimen.one("twig.leaf_scar_top") == "notched")
    page.shape("lens-scar", [(at[0] + x, at[1] + y) for x, y in outline], "#d8c9a4", wood[1])
    for x, y in bundle_scars(specimen.one("twig.bundle_scars", "three")):
        page.dot("bundle-scar", (at[0] + x, at[1] + y), 2.3, wood[1])
    if specimen.one("twig.leaf_scar_fringe") == "yes":
        for k in range(13):
            page.line(
                "fringe", [(at[0] - 24 + 4 * k, at[1] + 2), (at[0] - 25 + 4 * k, at[1] - 5)], "#5d4a34", 1
            )
    stipule = specimen.one("twig.stipule_scar")
    if stipule == "ring":
        page.line(
            "stipule-scar",
            [
                (at[0] - 46, at[1] - 8),
                (at[0] - 30, at[1] - 4),
                (at[0] + 30, at[1] - 4),
                (at[0] + 46, at[1] - 8),
            ],
            wood[1],
            1.6,
        )
    elif stipule == "slit":
        for sign in (-1, 1):
            page.line(
                "stipule-scar", [(at[0] + sign * 32, at[1] - 2), (at[0] + sign * 37, at[1] + 9)], wood[1], 2.2
            )


def scar_outline(shape: str, notched: bool) -> list[Point]:
    """A leaf scar by its name, 56 wide, hanging below the bud."""
    deep = {
        "narrow": 9.0,
        "crescent": 16.0,
        "half_round": 28.0,
        "round": 44.0,
        "shield": 42.0,
        "triangular": 40.0,
        "notched": 34.0,
        "horseshoe": 34.0,
    }.get(shape, 28.0)
    top = [
        (-28.0, 0.0),
        (-10.0, 0.0),
        (0.0, 9.0 if notched or shape == "notched" else 0.0),
        (10.0, 0.0),
        (28.0, 0.0),
    ]
    if shape == "triangular":
        return [*top, (0.0, deep)]
    if shape == "shield":
        return [(-26, -4), (-9, 0), (0, 4), (9, 0), (26, -4), (24, 16), (0, deep), (-24, 16)]
    if shape == "horseshoe":
        outer = [
            (32 * math.cos(a), -12 + 38 * math.sin(a)) for a in (math.pi * i / 12 - 0.3 for i in range(15))
        ]
        inner = [
            (23 * math.cos(a), -12 + 28 * math.sin(a)) for a in (math.pi * i / 12 - 0.3 for i in range(15))
        ]
        return outer + inner[::-1]
    below = [(28 * math.cos(math.pi * i / 12), deep * math.sin(math.pi * i / 12)) for i in range(1, 12)]
    if shape in ("crescent", "narrow"):
        return [*below, *[(x, y * 0.35) for x, y in below[::-1]]]
    return [*top, *below]


def bundle_scars(kind: str) -> list[Point]:
    """Where the bundle scars lie in the enlarged scar."""
    arc = [(18 * math.cos(math.pi * i / 8), 5 + 14 * math.sin(math.pi * i / 8)) for i in range(9)]
    places: dict[str, list[Point]] = {
        "one": [(0, 10)],
        "two": [(-6, 9), (6, 9)],
        "three": [(-15, 6), (0, 13), (15, 6)],
        "five_to_seven": [arc[i] for i in (0, 2, 4, 6, 8)],
        "three_groups": [
            (x + dx, y + dy)
            for x, y in ((-15, 7), (0, 22), (15, 7))
            for dx, dy in ((-2.6, 0), (2.6, 0), (0, 4))
        ],
        "curved_line": arc,
        "ring": [(13 * math.cos(math.pi * i / 6), 17 + 11 * math.sin(math.pi * i / 6)) for i in range(12)],
        "many": [(-16 + 6.4 * (i % 6), 6 + 7 * (i // 6)) for i in range(12)],
    }
    return places.get(kind, places["three"])


def draw_cut(page: Page, specimen: Specimen, at: Point, wood: Tones) -> None:
    """A cross-cut with the pith, and a long cut beside it where the pith has chambers."""
    section = specimen.one("twig.section", "round")
    corners = {"square": 4, "angled": 5}.get(section, 28)
    ring = [
        (
            at[0] + 22 * math.cos(2 * math.pi * i / corners + 0.78),
            at[1] + 22 * math.sin(2 * math.pi * i / corners + 0.78) * (0.62 if section == "flattened" else 1),
        )
        for i in range(corners)
    ]
    for k in range(4 if section == "winged" else 0):
        a = math.pi * k / 2 + 0.78
        tip, side = (at[0] + 34 * math.cos(a), at[1] + 34 * math.sin(a)), 0.16
        foot = [(at[0] + 20 * math.cos(a + d), at[1] + 20 * math.sin(a + d)) for d in (-side, side)]
        page.shape("wing", [foot[0], tip, foot[1]], "#b99b74", wood[1], 1)
    page.shape("cut", ring, "#e6d9b8", wood[1], 4)
    pith = {
        "white": "#f6f2e4",
        "tan": "#cfae7c",
        "dark_brown": "#5e4331",
        "salmon": "#d39a7e",
        "green": "#b4bf86",
    }.get(specimen.one("twig.pith_colour"), "#f1ead4")
    kind = specimen.one("twig.pith", "solid")
    points = {"star": 5, "triangular": 3}.get(specimen.one("twig.pith_section"), 20)
    reach = [8 if points != 5 or i % 2 == 0 else 4 for i in range(points * (2 if points == 5 else 1))]
    star = [
        (
            at[0] + r * math.cos(2 * math.pi * i / len(reach) - 1.57),
            at[1] + r * math.sin(2 * math.pi * i / len(reach) - 1.57),
        )
        for i, r in enumerate(reach)
    ]
    page.shape("pith", star, "#3b2f26" if kind == "hollow" else pith, wood[1], FINE)
    if kind in ("chambered", "diaphragmed", "hollow"):
        x, y = at[0] + 34, at[1] - 24
        page.shape("long-cut", [(x, y), (x + 18, y), (x + 18, y + 48), (x, y + 48)], "#e6d9b8", wood[1])
        page.shape(
            "pith",
            [(x + 5, y), (x + 13, y), (x + 13, y + 48), (x + 5, y + 48)],
            pith if kind == "diaphragmed" else "#3b2f26",
        )
        for k in range(7 if kind != "hollow" else 0):
            page.line(
                "pith-wall",
                [(x + 5, y + 4 + 6.6 * k), (x + 13, y + 4 + 6.6 * k)],
                pith if kind == "chambered" else wood[1],
                1.6,
            )
