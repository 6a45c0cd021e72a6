"""The leaf plate: simple and compound leaves, needles and scale sprays, to scale, with a ruler."""

from __future__ import annotations

import math

from jubark_core.flora.views import shows
from jubark_core.plates.blade import Blade, draw_blade, outline
from jubark_core.plates.colours import leaf_colours, underside_colours
from jubark_core.plates.pen import FINE, Page, Point, turned
from jubark_core.plates.specimen import Pretend, Specimen
from jubark_core.plates.tiles.conifer import CONIFER

PAGE = 320.0  # page units, both ways
LENS = 120.0
INSET = 74.0  # page units of the corner that shows the leaf on a hand
Z80 = 1.2816  # standard normal deviate with a tenth of the values beyond it
# A grown hand 190 mm long in strokes: from, to (mm from the wrist), thickness. About the middle of grown
# people ('common practice').
HAND = (
    ((0, 25), (0, 92), 74.0),
    ((-24, 90), (-30, 168), 17.0),
    ((-8, 95), (-9, 181), 18.0),
    ((10, 95), (12, 172), 17.0),
    ((27, 88), (33, 146), 15.0),
    ((-30, 40), (-62, 108), 20.0),
)
STALKS = {"red_brown": "#8a4a38", "whitish": "#b9b59d"}
MOST_PINNAE, MOST_ON_PINNA = 7, 7  # of a feather of feathers hundreds of leaflets are only hinted at
COMPOUND = ("pinnate", "bipinnate", "trifoliate", "palmate_compound", "two_leaflets_tendril")


def leaf_plate(specimen: Specimen, autumn: bool = False, tallest_mm: float | None = None) -> str:
    """The leaf of a specimen as SVG. tallest_mm: height of the page in mm of the plant, so that plates side
    by side share one scale.
    """
    kind = specimen.one("leaf.type", "simple")
    reach = tallest_mm or _reach(specimen, kind) * 1.25
    page = Page(PAGE, PAGE, PAGE / reach)
    middle = reach / 2
    colours = leaf_colours(specimen, autumn)
    if kind in ("needle", "awl"):
        _needles(page, specimen, (middle, reach * 0.9), colours)
    elif kind == "scale":
        _spray(page, specimen, (middle, reach * 0.92), colours)
        bloom = specimen.one("spray.underside_bloom", "none")
        if bloom != "none" and not isinstance(specimen, Pretend):
            _under_the_lens(page, bloom)
    elif kind in COMPOUND:
        _compound(page, specimen, kind, (middle, reach * 0.96), reach, colours)
    else:
        blade = blade_of(specimen)
        stalk = specimen.number("leaf.petiole_cm", 1.5) * 10
        foot = (middle, reach * 0.94 - min(stalk, reach * 0.3))
        end = (middle + 0.04 * reach, foot[1] + min(stalk, reach * 0.3))
        _stalk(page, foot, end, STALKS.get(next(iter(specimen.many("leaf.petiole", 0.5)), ""), colours[1]))
        _stalk_features(page, specimen, foot, end, colours)
        low, high = _size_range(specimen)
        plain = Blade(**{**blade.__dict__, "margin": "entire"})
        for part, size in (("range-large", high), ("range-small", low)):
            page.shape(
                part,
                [(x + foot[0], y + foot[1]) for x, y in outline(scaled(plain, size))],
                "none",
                "#b3a88c",
                FINE,
            )
        draw_blade(page, blade, colours, at=foot)
        if specimen.one("leaf.two_toned") == "strongly" or specimen.one("leaf.underside") in (
            "silvery",
            "whitish",
            "rusty",
        ):
            small = scaled(blade, 0.34)
            draw_blade(
                page,
                small,
                underside_colours(specimen),
                turn=0.5,
                at=(reach * 0.1, reach * 0.94),
                part="underside",
                fine=True,
            )
    if not isinstance(specimen, Pretend):
        _on_a_hand(page, (middle, reach * 0.94), reach)
    _ruler(page, reach)
    return page.svg(f"Leaf of {specimen.name}", told_leaf(specimen, kind))


def told_leaf(specimen: Specimen, kind: str) -> str:
    """The drawing in words, for those who cannot see it."""
    labels = specimen.flora.characters["leaf.type"]["labels"]
    words = [labels.get(kind, kind)]
    for cid in ("leaf.shape", "leaf.margin", "leaf.base", "leaf.tip"):
        if states := specimen.many(cid):
            words.append(specimen.flora.characters[cid]["labels"][states[0]])
    return ", ".join(words) + "; scale bar 1 cm a mark"


def blade_of(specimen: Specimen, leaflet: bool = False) -> Blade:
    """The blade's numbers and words from the description; of one leaflet where asked."""

    def first(character: str, default: str) -> str:
        return next(iter(specimen.many(character, 0.3)), default)

    length = specimen.number("leaf.leaflet_length_cm" if leaflet else "leaf.length_cm", 6) * 10
    width = specimen.number("leaf.leaflet_width_cm" if leaflet else "leaf.width_cm", length / 25) * 10
    lobes = "none" if leaflet else specimen.one("leaf.lobes", "none")
    bases = specimen.many("leaf.base", 0.3)
    margins = specimen.many("leaf.margin", 0.3)
    return Blade(
        length=length,
        width=width,
        shape=first("leaf.shape", "ovate"),
        widest_at=specimen.one("leaf.widest_at"),
        base=next((b for b in bases if b != "unequal"), "wedge"),
        tip=first("leaf.tip", "pointed"),
        margin=(margins or ["entire"])[0],
        tooth_form=specimen.one("leaf.tooth_form"),
        venation=specimen.one("leaf.venation", "pinnate"),
        side_veins=max(1, specimen.whole("leaf.side_veins", 7)),
        vein_ends=specimen.one("leaf.vein_ends"),
        lobes=lobes,
        lobe_count=specimen.whole("leaf.lobe_count", 5) if lobes != "none" else 0,
        lobe_tip=specimen.one("leaf.lobe_tip", "rounded") if lobes != "none" else "",
        sinus=specimen.one("leaf.sinus", "open_v"),
        sinus_depth=specimen.number("leaf.sinus_depth", 0.4),
        unequal="unequal" in bases,
    )


def _size_range(specimen: Specimen) -> tuple[float, float]:
    """A small and a large leaf of the taxon as shares of the usual one: one in ten is smaller, one in ten
    larger.
    """
    usual = specimen.number("leaf.length_cm", 6)
    spread = shows(specimen.flora, specimen.stage).spread(specimen.taxon, "leaf.length_cm")
    if spread is None:
        return 1.0, 1.0
    step = Z80 * spread[1]
    if specimen.flora.characters["leaf.length_cm"].get("scale") == "log":
        return math.exp(-step), math.exp(step)
    return max(0.2, 1 - step / usual), 1 + step / usual


def _under_the_lens(page: Page, bloom: str) -> None:
    """The underside of a spray enlarged, with the pattern of its bloom, in the upper right corner."""
    corner = Page(LENS, LENS)
    CONIFER["spray.underside_bloom"](corner, bloom)
    page.marks += [
        f'<g data-part="bloom-pattern" transform="translate({PAGE - 84:.0f} 4) scale(0.66)">',
        *corner.marks,
        "</g>",
    ]


def _on_a_hand(page: Page, foot: Point, reach: float) -> None:
    """The same leaf small in the corner, lying on a grown hand, so that its size is felt before the ruler is
    read.
    """
    tall = max(230.0, reach)
    k = INSET / tall  # page units per mm in the corner
    x, y = INSET / 2 + 6, INSET + 2
    leaf = page.marks
    page.marks = []
    page.shape(
        "hand-paper",
        [
            (v / page.scale, w / page.scale)
            for v, w in ((4, 4), (INSET + 8, 4), (INSET + 8, INSET + 8), (4, INSET + 8))
        ],
        "#fdfaf2",
    )
    for a, b, wide in HAND:
        points = [(x + a[0] * k, y - a[1] * k), (x + b[0] * k, y - b[1] * k)]
        page.line("hand", [(v / page.scale, w / page.scale) for v, w in points], "#dccfb6", wide * k)
    hand, f = page.marks, k / page.scale
    on_palm = (
        f'<use href="#leaf" transform="translate({x - foot[0] * page.scale * f:.2f} '
        f'{y - foot[1] * page.scale * f:.2f}) scale({f:.4f})"/>'
    )
    page.marks = ['<g id="leaf">', *leaf, "</g>", *hand, on_palm]


def scaled(blade: Blade, share: float) -> Blade:
    """The same blade at a share of its size."""
    return Blade(**{**blade.__dict__, "length": blade.length * share, "width": blade.width * share})


def _reach(specimen: Specimen, kind: str) -> float:
    """Height the plate must hold, in mm."""
    if kind in ("needle", "awl"):
        return max(40.0, specimen.number("needle.length_cm", 2) * 13)
    if kind == "scale":
        return 70.0
    if kind == "palmate_compound":
        return specimen.number("leaf.leaflet_length_cm", 8) * 19
    if kind == "trifoliate":
        return specimen.number("leaf.leaflet_length_cm", 6) * 26
    if kind == "two_leaflets_tendril":
        return specimen.number("leaf.leaflet_length_cm", 10) * 18
    stalk = min(specimen.number("leaf.petiole_cm", 1.5) * 10, 60.0)
    tall = specimen.number("leaf.length_cm", 8) * 10
    wide = specimen.number("leaf.width_cm", 4) * 10 if kind == "simple" else tall * 0.55
    largest = _size_range(specimen)[1] if kind == "simple" else 1.0
    return max(tall * largest + stalk, wide * largest)


def _stalk(page: Page, top: Point, foot: Point, colour: str) -> None:
    page.line("stalk", [top, ((top[0] + foot[0]) / 2 - 0.5, (top[1] + foot[1]) / 2), foot], colour, 2.2)


def _stalk_features(page: Page, specimen: Specimen, top: Point, end: Point, colours: tuple[str, str]) -> None:
    """What the leaf stalk bears: wings, swellings at its ends, glands below the blade, or flat sides."""
    shown = specimen.many("leaf.petiole", 0.5)
    unit = 1 / page.scale  # one page unit in mm of the plant
    middle = ((top[0] + end[0]) / 2, (top[1] + end[1]) / 2)
    if "winged" in shown or "flattened" in shown:
        half = (9 if "winged" in shown else 4) * unit
        part = "stalk-wing" if "winged" in shown else "stalk-flat"
        page.shape(
            part,
            [top, (middle[0] + half, middle[1]), end, (middle[0] - half, middle[1])],
            colours[0],
            colours[1],
            FINE,
        )
    if "swollen_ends" in shown:
        for at in (top, end):
            page.dot("stalk-swelling", at, 4.5 * unit, colours[0], colours[1])
    if "glands" in shown:
        for sign in (-1, 1):
            page.dot(
                "stalk-gland", (top[0] + sign * 4 * unit, top[1] + 7 * unit), 3 * unit, "#b2402f", colours[1]
            )


def _compound(
    page: Page, specimen: Specimen, kind: str, foot: Point, reach: float, colours: tuple[str, str]
) -> None:
    leaflet = blade_of(specimen, leaflet=True)
    x, y = foot
    if kind in ("palmate_compound", "two_leaflets_tendril"):
        n = 2 if kind == "two_leaflets_tendril" else specimen.whole("leaf.leaflets", 5) // 2 * 2 + 1
        hub = (x, y - reach * 0.34)
        _stalk(page, hub, foot, colours[1])
        for i in range(n):
            angle = (
                math.radians(-118 + 236 * (i + 0.5) / n)
                if kind == "palmate_compound"
                else math.radians(-70 + 140 * i)
            )
            size = 1 - 0.4 * abs(2 * (i + 0.5) / n - 1)
            draw_blade(page, scaled(leaflet, size), colours, turn=angle, at=hub, part="leaflet", fine=True)
        if kind == "two_leaflets_tendril":
            page.line(
                "tendril", [(hub[0] + 6 * math.sin(k / 4), hub[1] - 4 * k) for k in range(14)], colours[1]
            )
        return
    if kind == "trifoliate":
        hub = (x, y - reach * 0.3)
        _stalk(page, hub, foot, colours[1])
        stalk = (
            0.22 * leaflet.length
            if specimen.one("leaf.leaflet_stalk") != "none" or specimen.taxon.startswith("toxicodendron")
            else 0.0
        )
        _stalk(page, (x, hub[1] - stalk), hub, colours[1])
        draw_blade(page, leaflet, colours, at=(x, hub[1] - stalk), part="leaflet", fine=True)
        for sign in (-1, 1):
            draw_blade(
                page, scaled(leaflet, 0.85), colours, turn=sign * 1.15, at=hub, part="leaflet", fine=True
            )
        return
    _pinnate(page, specimen, kind, foot, leaflet, colours)


def _pinnate(
    page: Page, specimen: Specimen, kind: str, foot: Point, leaflet: Blade, colours: tuple[str, str]
) -> None:
    """Leaflets in pairs along the rachis, close but not hiding each other; the end one full, small or
    missing.
    """
    x, y = foot
    whole = specimen.number("leaf.length_cm", 20) * 10
    stalk = min(specimen.number("leaf.petiole_cm", whole / 60) * 10, whole * 0.25)
    n = specimen.whole("leaf.leaflets" if kind == "pinnate" else "leaf.pinnae", 9)
    full = specimen.one("leaf.end_leaflet", "full") == "full" and kind == "pinnate"
    pairs = max(1, (n - (1 if full else 0)) // 2 if kind == "pinnate" else min(n // 2, MOST_PINNAE))
    rachis = whole - (leaflet.length * 0.9 if full else 0)
    gap = max(rachis, 1.0) / (pairs + 0.5)
    fitted = scaled(leaflet, min(1.0, 1.45 * gap / max(leaflet.width, 1))) if kind == "pinnate" else leaflet
    top = (x, y - stalk - rachis)
    _stalk(page, top, foot, colours[1])
    winged = specimen.one("leaf.rachis") == "winged"
    if winged:
        page.shape(
            "rachis-wing",
            [(x - 2.5, y - stalk), (x + 2.5, y - stalk), (x + 2, top[1]), (x - 2, top[1])],
            colours[0],
            colours[1],
            FINE,
        )
    for i in range(pairs):
        at = (x, y - stalk - gap * (i + 0.5))
        size = 1 - 0.25 * abs((i + 0.5) / pairs - 0.55)
        for sign in (-1, 1):
            if kind == "bipinnate":
                _pinna(page, at, sign * math.radians(68), whole * 0.3 * size, leaflet, colours)
            else:
                draw_blade(
                    page,
                    scaled(fitted, size),
                    colours,
                    turn=sign * math.radians(66),
                    at=at,
                    part="leaflet",
                    fine=True,
                )
    if full:
        draw_blade(page, fitted, colours, at=top, part="leaflet", fine=True)


def _pinna(
    page: Page, at: Point, angle: float, length: float, leaflet: Blade, colours: tuple[str, str]
) -> None:
    page.line("pinna", turned([(0, 0), (0, -length)], angle, shift=at), colours[1], 1.0)
    count = min(MOST_ON_PINNA, max(4, round(length / (leaflet.width * 1.15))))
    leaflets = []
    for k in range(count):
        for sign in (-1, 1):
            point = turned([(0, -length * (k + 0.6) / count)], angle, shift=at)[0]
            small = [
                (leaflet.width / 2.6 * math.sin(a), -leaflet.length / 2 * 0.5 * (1 - math.cos(a)))
                for a in (i * math.pi / 4 for i in range(8))
            ]
            leaflets.append(turned(small, angle + sign * 1.2, shift=point))
    page.shapes("leaflet", leaflets, colours[0], colours[1], 0.5)


def _needles(page: Page, specimen: Specimen, foot: Point, colours: tuple[str, str]) -> None:
    per_bundle = specimen.whole("needle.per_bundle", 1)
    length = specimen.number("needle.length_cm", 2) * 10
    x, y = foot
    thick = 2.6 if specimen.one("needle.section") == "flat" else 1.9
    if 2 <= per_bundle <= 8:
        page.shape(
            "sheath",
            [(x - 1.2, y), (x + 1.2, y), (x + 0.9, y - 0.09 * length), (x - 0.9, y - 0.09 * length)],
            colours[1],
        )
        for i in range(per_bundle):
            lean = (i - (per_bundle - 1) / 2) * 0.16
            twist = 0.05 if specimen.one("needle.twisted") == "yes" else 0.0
            tip = (x + length * math.sin(lean), y - length * math.cos(lean))
            page.line(
                "needle",
                [(x, y), (x + length * (0.5 * math.sin(lean) + twist), y - length * 0.5), tip],
                colours[0],
                thick,
            )
        return
    if specimen.one("needle.on_spurs") == "yes":
        page.line("shoot", [(x - 14, y), (x + 14, y - 3)], "#6a4a35", 5)
        for i in range(min(40, per_bundle)):
            lean = -1.3 + 2.6 * i / max(1, per_bundle - 1)
            page.line(
                "needle",
                [(x, y - 3), (x + length * math.sin(lean), y - 3 - length * math.cos(lean))],
                colours[0],
                1.6,
            )
        return
    _needled_shoot(page, specimen, foot, length, thick, colours)


def _needled_shoot(
    page: Page, specimen: Specimen, foot: Point, length: float, thick: float, colours: tuple[str, str]
) -> None:
    """A shoot with single needles: two-ranked like a comb, or standing all round."""
    x, y = foot
    tall = min(max(30.0, length * 2.4), y - 0.7 * length - 2)  # the uppermost needles stay on the page
    page.line("shoot", [(x, y), (x, y - tall)], "#7a5a40", 3)
    flat = specimen.one("needle.ranks", "all_round") == "two_ranked"
    opposite = specimen.one("leaf.arrangement") == "opposite"
    pitch = max(1.1, length / 9)
    for i in range(int(tall / pitch)):
        at = (x, y - i * pitch)
        for sign in (-1, 1) if flat else (-1, 1, -0.45, 0.45):
            shift = 0.0 if opposite or sign > 0 else pitch / 2
            lean = sign * math.radians(74 if flat else 58)
            tip = (
                at[0] + length * math.sin(lean),
                at[1] - shift - length * math.cos(lean) * (0.55 if flat else 1),
            )
            page.line("needle", [(at[0], at[1] - shift), tip], colours[0], thick)
    if specimen.one("needle.inverted_row") == "yes":
        for i in range(int(tall / pitch / 1.5)):
            page.line(
                "inverted-row",
                [(x, y - i * pitch * 1.5), (x + 0.8, y - i * pitch * 1.5 - length * 0.5)],
                colours[1],
                1.6,
            )
    if specimen.one("needle.bands") == "two_below":
        for sign in (-1, 1):
            page.line(
                "band",
                [(x + sign * length * 0.5 + 1, y + 3), (x + sign * length * 0.5 + 9, y + 3)],
                "#e9efe3",
                1.2,
            )


def _spray(page: Page, specimen: Specimen, foot: Point, colours: tuple[str, str], depth: int = 3) -> None:
    """A spray of overlapping scales: flat and fern-like, or cord-like branchlets every way."""
    flat = specimen.one("spray.flat", "yes") == "yes"
    droop = 0.25 if specimen.one("spray.droops") == "yes" else 0.0
    long = specimen.one("spray.segment") == "longer_than_wide"
    scales: list[list[Point]] = []

    def branch(at: Point, angle: float, length: float, level: int) -> None:
        step = 3.2 if long else 2.8
        count = max(3, int(length / step))
        end = at
        for i in range(count):
            width = (1.5 if flat else 1.1) * (1 if level == depth else 0.8)
            scale = [(-width, 0), (0, -step * 1.15), (width, 0), (0, step * 0.3)]
            scales.append(turned(scale, angle, shift=end))
            nxt = (end[0] + step * math.sin(angle), end[1] - step * math.cos(angle))
            if level > 1 and i % 2 == 1 and i < count - 1:
                for sign in (-1, 1) if flat else ((-1) ** (i // 2),):
                    branch(nxt, angle + sign * (0.85 if flat else 0.6) + droop, length * 0.42, level - 1)
            end = nxt

    branch(foot, -0.05 + droop, 52, depth)
    page.shapes("scale", scales, colours[0], colours[1], 0.5)


def _ruler(page: Page, reach: float) -> None:
    """Marks of a centimetre along the lower edge, five of them where they fit."""
    count = max(1, min(5, int(reach * 0.4 / 10)))
    y = reach * 0.985
    page.line("ruler", [(reach * 0.03, y), (reach * 0.03 + count * 10, y)], "#211f18", 1)
    for i in range(count + 1):
        page.line(
            "ruler-mark",
            [(reach * 0.03 + i * 10, y), (reach * 0.03 + i * 10, y - reach * 0.012)],
            "#211f18",
            1,
        )
