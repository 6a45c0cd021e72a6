"""A small drawing for a state of a character: the answer tiles of Identify. Where a state cannot be drawn
honestly, there is none.
"""

from __future__ import annotations

import math

from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.plates.bark import bark_plate
from jubark_core.plates.blade import Blade, draw_blade
from jubark_core.plates.colours import AUTUMN, BARK, FRUIT, LEAF, UNDER, WOOD, Tones
from jubark_core.plates.flower import flower_plate
from jubark_core.plates.fruit import fruit_plate
from jubark_core.plates.leaf import blade_of, leaf_plate
from jubark_core.plates.pen import Page
from jubark_core.plates.specimen import Pretend
from jubark_core.plates.tiles import tile
from jubark_core.plates.twig import draw_bud, draw_cut, draw_scar, draw_twig

TILE = 120.0
GREEN = LEAF["green"]
SWATCHES: dict[str, dict[str, Tones]] = {
    "bark.colour": BARK,
    "bark.inner_colour": FRUIT,
    "twig.colour": WOOD,
    "bud.colour": WOOD,
    "twig.pith_colour": WOOD,
    "leaf.summer_colour": LEAF,
    "leaf.autumn_colour": AUTUMN,
    "leaf.underside": UNDER,
    "flower.colour": FRUIT,
    "fruit.colour": FRUIT,
}
ON_A_BLADE = (
    "leaf.shape",
    "leaf.widest_at",
    "leaf.base",
    "leaf.tip",
    "leaf.margin",
    "leaf.lobes",
    "leaf.lobe_tip",
    "leaf.sinus",
    "leaf.venation",
    "leaf.vein_ends",
)
ON_A_SCAR = (
    "twig.leaf_scar",
    "twig.leaf_scar_top",
    "twig.leaf_scar_fringe",
    "twig.bundle_scars",
    "twig.stipule_scar",
)
ON_A_CUT = ("twig.pith", "twig.pith_section", "twig.section")
ON_A_TWIG = (
    "twig.zigzag",
    "twig.corky_wings",
    "twig.lenticels",
    "twig.bloom",
    "bud.terminal",
    "bud.clustered_at_tip",
    "bud.posture",
)
ON_A_BUD = ("bud.form", "bud.scales", "bud.stalked")
ON_A_LEAF = ("leaf.type", "leaf.end_leaflet", "leaf.rachis")
ON_A_NEEDLE = ("needle.ranks", "needle.on_spurs", "needle.twisted", "needle.inverted_row")
ON_A_FRUIT = (
    "fruit.kind",
    "fruit.cap_scales",
    "fruit.wing_angle",
    "fruit.tip",
    "cone.form",
    "cone.prickle",
    "cone.bracts",
)
ON_A_FLOWER = ("flower.form", "flower.stamens")
SETTINGS: dict[str, dict[str, str]] = {  # what else must be so for the state to be seen
    "leaf.lobe_tip": {"leaf.lobes": "pinnate", "leaf.lobe_count": "7"},
    "leaf.sinus": {"leaf.lobes": "pinnate", "leaf.lobe_count": "7", "leaf.sinus_depth": "0.6"},
    "leaf.lobes": {"leaf.lobe_count": "5", "leaf.sinus_depth": "0.55"},
    "leaf.vein_ends": {"leaf.margin": "coarse_teeth"},
    "leaf.end_leaflet": {"leaf.type": "pinnate", "leaf.leaflets": "9"},
    "leaf.rachis": {"leaf.type": "pinnate", "leaf.leaflets": "9"},
    "leaf.type": {
        "leaf.leaflets": "9",
        "leaf.pinnae": "8",
        "leaf.leaflet_length_cm": "3",
        "leaf.leaflet_width_cm": "1.3",
        "leaf.length_cm": "16",
        "needle.per_bundle": "1",
    },
    "fruit.kind": {"fruit.shape": "oblong"},
    "fruit.cap_scales": {"fruit.kind": "acorn", "fruit.cap_cover": "0.4"},
    "fruit.wing_angle": {"fruit.kind": "samara_pair"},
    "fruit.tip": {"fruit.kind": "drupe"},
    "cone.form": {"fruit.kind": "cone_woody"},
    "cone.prickle": {"fruit.kind": "cone_woody"},
    "cone.bracts": {"fruit.kind": "cone_woody"},
    "needle.on_spurs": {"leaf.type": "needle", "needle.per_bundle": "16"},
    "needle.ranks": {"leaf.type": "needle", "needle.section": "flat"},
    "needle.twisted": {"leaf.type": "needle", "needle.per_bundle": "2", "needle.length_cm": "6"},
    "needle.inverted_row": {"leaf.type": "needle", "needle.ranks": "two_ranked"},
    "twig.leaf_scar_fringe": {"twig.leaf_scar": "shield"},
    "flower.stamens": {"flower.form": "rose_five"},
}
DEFAULTS = {
    "leaf.length_cm": "9",
    "leaf.width_cm": "5.5",
    "leaf.side_veins": "7",
    "leaf.shape": "elliptic",
    "leaf.base": "wedge",
    "bud.length_mm": "7",
    "twig.lenticels": "none",
}
BY_KIND = {"palmate_compound": "5", "trifoliate": "3"}


def state_drawing(flora: Flora, character: str, state: str) -> str | None:
    """The drawing of one state as SVG, or None where drawing it would show nothing true or the state is
    retired. Raises InputError for unknown words.
    """
    c = flora.characters.get(character)
    if c is None or "states" not in c:
        raise InputError("character", character, "a character of the vocabulary that has states")
    if state not in c["states"]:
        raise InputError("state", state, "one of " + ", ".join(c["states"]))
    if state in c.get("retired", {}):
        return None
    title = f"{c['label']}: {c['labels'][state]}"
    if state not in SWATCHES.get(character, {}) and (drawn := tile(character, state, title)):
        return drawn
    if character in SWATCHES:
        tones = SWATCHES[character].get(state)
        return None if tones is None else _swatch(title, tones, leafy=character.startswith("leaf."))
    if character == "leaf.arrangement":
        return _arrangement(title, state)
    shown = {**DEFAULTS, **SETTINGS.get(character, {}), character: state}
    if character == "leaf.type":
        shown["leaf.leaflets"] = BY_KIND.get(state, shown["leaf.leaflets"])
    plant = Pretend(flora, flora.leaves[0], shown=tuple(shown.items()))
    return _drawn(plant, character, title)


def state_drawings(flora: Flora) -> dict[str, dict[str, str]]:
    """Character -> state -> SVG, for every state that can be drawn."""
    found: dict[str, dict[str, str]] = {}
    for cid, c in flora.characters.items():
        for state in c.get("states", ()):
            if svg := state_drawing(flora, cid, state):
                found.setdefault(cid, {})[state] = svg
    return found


def _drawn(plant: Pretend, character: str, title: str) -> str | None:
    if character in ON_A_BLADE:
        page = Page(TILE, TILE, 1.0)
        draw_blade(page, blade_of(plant), GREEN, at=(TILE / 2, TILE - 14))
        return page.svg(title, title)
    if character == "bark.texture":
        return bark_plate(plant)
    if character in ON_A_SCAR:
        page = Page(TILE, 170)
        draw_scar(page, plant, (TILE / 2, 96), WOOD["brown"], WOOD["dark_brown"])
        return page.svg(title, title)
    if character in ON_A_CUT:
        page = Page(TILE, 90)
        draw_cut(page, plant, (TILE / 2 - 14, 45), WOOD["brown"])
        return page.svg(title, title)
    if character in ON_A_BUD:
        page = Page(TILE, TILE)
        draw_bud(page, plant, (TILE / 2, TILE - 18), 0.0, 3.4, WOOD["red_brown"])
        return page.svg(title, title)
    if character in ON_A_TWIG:
        page = Page(126, 170)
        draw_twig(page, plant, WOOD["brown"])
        return page.svg(title, title, left=6, top=30)
    for family, plate in (
        (ON_A_FRUIT, fruit_plate),
        (ON_A_FLOWER, flower_plate),
        (ON_A_LEAF + ON_A_NEEDLE, leaf_plate),
    ):
        if character in family:
            return plate(plant)
    return None


def _swatch(title: str, tones: Tones, leafy: bool) -> str:
    page = Page(TILE, TILE)
    if leafy:
        draw_blade(page, Blade(90, 52, shape="elliptic"), tones, at=(TILE / 2, TILE - 14))
    else:
        page.shape("swatch", [(14, 14), (TILE - 14, 14), (TILE - 14, TILE - 14), (14, TILE - 14)], *tones)
    return page.svg(title, title)


def _arrangement(title: str, state: str) -> str:
    page = Page(TILE, TILE)
    page.line("stem", [(TILE / 2, TILE - 6), (TILE / 2, 14)], WOOD["brown"][0], 5)
    leaf = Blade(34, 17, shape="elliptic")
    for i in range(3):
        y = TILE - 28 - i * 30
        sides = {
            "opposite": ((-1, 0), (1, 0)),
            "subopposite": ((-1, 0), (1, 9)),
            "whorled": ((-1, 0), (1, 0), (0.2, 0)),
            "clustered": (),
        }.get(state, ((1 - 2 * (i % 2), 0),))
        for sign, drop in sides:
            draw_blade(
                page,
                leaf,
                GREEN,
                turn=sign * math.radians(58),
                at=(TILE / 2 + sign * 2, y + drop),
                part="leaf",
                fine=True,
            )
    if state == "clustered":
        for k in range(5):
            draw_blade(
                page, leaf, GREEN, turn=math.radians(-76 + 38 * k), at=(TILE / 2, 40), part="leaf", fine=True
            )
    return page.svg(title, title)
