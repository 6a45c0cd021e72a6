"""Two tones of one hue for every part: a fill and a dark line, readable in greyscale."""

from __future__ import annotations

from jubark_core.plates.specimen import Specimen

Tones = tuple[str, str]
LEAF = {
    "green": ("#8ea567", "#37482a"),
    "purple": ("#7d5566", "#3a2430"),
    "variegated": ("#c3c58f", "#4a5530"),
    "blue_green": ("#8aa691", "#2f4a44"),
    "yellow_green": ("#b3b866", "#535a22"),
}
AUTUMN = {
    "yellow": ("#d9b64e", "#6e5413"),
    "red": ("#b5553d", "#571f16"),
    "orange": ("#cf8140", "#663811"),
    "purple": ("#86556a", "#3d2230"),
    "brown": ("#a88258", "#4f3922"),
    "stays_green": ("#7f9660", "#33442a"),
    "falls_green": ("#93a06a", "#3c472a"),
}
UNDER = {
    "whitish": ("#dfe3d0", "#6e7660"),
    "silvery": ("#e3e7e2", "#6b7678"),
    "bluish_matte": ("#bccbc6", "#4f6562"),
    "rusty": ("#b98a5a", "#5e3d20"),
    "paler_green": ("#b6c497", "#4d5c38"),
    "glossy_green": ("#9fb579", "#3c4f2c"),
    "purple": ("#8a5a72", "#43263a"),
}
WOOD = {
    "green": ("#8d9a5b", "#3f4a24"),
    "brown": ("#8b6b4b", "#412e1c"),
    "red_brown": ("#8a5240", "#43231a"),
    "grey": ("#9a968a", "#4b4942"),
    "purple": ("#7c5a66", "#3a2630"),
    "red": ("#a3473a", "#4f1d17"),
    "yellow_green": ("#a6a95a", "#4d5021"),
    "olive": ("#84804f", "#3d3a20"),
    "yellow": ("#c7a951", "#62511d"),
    "orange": ("#b97840", "#593516"),
    "black": ("#4a443d", "#1e1b17"),
    "silvery": ("#c3c3b9", "#5d5d55"),
    "dark_brown": ("#5f4534", "#2a1c13"),
    "white": ("#dcd8c8", "#77725f"),
}
BARK = {
    "light_grey": ("#b6b2a6", "#6b675c"),
    "dark_grey": ("#8a857b", "#44413a"),
    "brown": ("#94795c", "#4a3a28"),
    "red_brown": ("#95664f", "#4a2d20"),
    "orange_red": ("#b8744b", "#5f351c"),
    "black": ("#5d5751", "#252220"),
    "whitish": ("#e2ddd0", "#8d877a"),
    "green": ("#98a183", "#4b553c"),
    "yellowish": ("#c2ad78", "#685931"),
}
FRUIT = {
    "green": ("#8fa05c", "#3f4a22"),
    "red": ("#b2402f", "#561a12"),
    "orange": ("#cf7f35", "#653a11"),
    "yellow": ("#d6b84f", "#6b5716"),
    "blue": ("#5a6b8c", "#262f45"),
    "purple": ("#6c4a66", "#2f1d2c"),
    "black": ("#3d3a3d", "#171517"),
    "brown": ("#94714b", "#46321d"),
    "white": ("#e9e4d6", "#857f6d"),
    "pink": ("#cf8b92", "#6d3a42"),
    "cream": ("#e9dfbd", "#857a54"),
    "maroon": ("#71343a", "#351518"),
    "lavender": ("#a898bd", "#4f4463"),
}


def leaf_colours(specimen: Specimen, autumn: bool) -> Tones:
    """Fill and line of the leaf, in summer or in autumn."""
    if autumn:
        return AUTUMN.get(next(iter(specimen.many("leaf.autumn_colour", 0.3)), "yellow"), AUTUMN["yellow"])
    return LEAF.get(specimen.one("leaf.summer_colour", "green"), LEAF["green"])


def underside_colours(specimen: Specimen) -> Tones:
    """Fill and line of the lower face."""
    return UNDER.get(specimen.one("leaf.underside", "paler_green"), UNDER["paler_green"])


def first_of(specimen: Specimen, character: str, table: dict[str, Tones], default: str) -> Tones:
    """The colours of the likeliest state of a colour character."""
    return table.get(next(iter(specimen.many(character, 0.3)), default), table[default])
