"""Dry mass above ground, carbon and CO2 equivalent of a tree, shoot by shoot; refused where the equation was
never made for it, and counted as refused in a total.
"""

from __future__ import annotations

import math
import tomllib
from collections import Counter
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.checks import require_between
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.units import shown

GROUPS_FILE = Path(__file__).with_name("biomass.toml")
CARBON_SHARE = 0.5  # of dry mass, by convention
CO2_PER_CARBON = 44 / 12  # ratio of the molar masses
OPEN_GROWN_FACTOR = 0.8  # Nowak (1994), in Chicago's Urban Forest Ecosystem, USDA Forest Service NE-186
SMALLEST_CM = 2.5
MOST_TREES, MOST_SHOOTS = 20_000, 50
TREE_FORMS = {"tree", "small_tree"}
OTHER_HARDWOODS = "mixed_hardwood"  # the national group of hardwoods that have none of their own
NO_HARDWOODS = {
    "araucariaceae",
    "cephalotaxaceae",
    "cupressaceae",
    "ginkgoaceae",
    "pinaceae",
    "podocarpaceae",
    "sciadopityaceae",
    "taxaceae",
}
# exp(b0 + b1 / dbh) of the mass above ground. Jenkins et al. (2003), table 6, from memory.
RATIOS = {
    "hardwood": {"coarse roots": (-1.6911, 0.8160), "foliage": (-4.0813, 5.8816)},
    "softwood": {"coarse roots": (-1.5619, 0.6614), "foliage": (-2.9584, 4.4766)},
}
SOFTWOOD_GROUPS = ("cedar_larch", "douglas_fir", "true_fir_hemlock", "pine", "spruce")
SOURCE = "Jenkins et al. 2003, tables 4 and 6; carbon 0.5 of dry mass; CO2 44/12 of carbon"


class TreeIn(TypedDict):
    """A tree as it stands."""

    taxon: Annotated[str, "Empty: not named."]
    stems_cm: Annotated[list[float], "The diameter of every stem or shoot."]
    life: NotRequired[Annotated[str, "Alive where it is not given."]]
    topped: NotRequired[
        Annotated[bool, "Its top is broken, dead, cut or clipped: no equation was made for it."]
    ]


class CarbonIn(TypedDict):
    """One tree or many."""

    trees: list[TreeIn]
    open_grown: NotRequired[Annotated[bool, "Times 0.8, for trees in the open carry less wood."]]
    units: NotRequired[Literal["metric", "us_customary"]]


class Component(TypedDict):
    """A part of the tree as a share of its mass above ground."""

    part: str
    kg: float


class TreeCarbon(TypedDict):
    """Dry mass, carbon and CO2 equivalent; or why there is no figure."""

    refused: Annotated[str, "Why there is no figure; empty where there is one."]
    group: str
    biomass_kg: float
    carbon_kg: float
    co2e_kg: float
    components: list[Component]
    shoots: Annotated[int, "How many shoots were counted in."]
    shoots_refused: Annotated[int, "How many were too thin for the equation."]
    outside: Annotated[str, "Where the figure goes beyond the equation's range."]
    source: str


class RefusedOf(TypedDict):
    """How many trees had no figure for one reason."""

    why: str
    trees: int


class CarbonTotal(TypedDict):
    """Of all trees that have a figure, and how many have none."""

    biomass_kg: float
    carbon_kg: float
    co2e_kg: float
    trees: int
    refused: list[RefusedOf]


class Carbon(TypedDict):
    """Each tree in its order, and the total."""

    trees: list[TreeCarbon]
    total: CarbonTotal


@lru_cache(maxsize=1)
def groups() -> dict[str, dict[str, Any]]:
    """Group -> label, b0, b1, largest_cm, genera, taxa."""
    return tomllib.loads(GROUPS_FILE.read_text(encoding="utf-8"))


def biomass_kg(group: str, dbh_cm: float) -> float:
    """Dry mass above ground in kg of a stem: exp(b0 + b1 ln dbh), dbh in cm from 2.5.

    Raises OutOfRangeError. Source: Jenkins, Chojnacky, Heath & Birdsey (2003), Forest Science 49:12-35, table
    4.
    """
    g = groups()[group]
    return math.exp(g["b0"] + g["b1"] * math.log(require_between("dbh_cm", dbh_cm, SMALLEST_CM, 1500, "cm")))


def component_ratio(kind: str, part: str, dbh_cm: float) -> float:
    """Share of the mass above ground: exp(b0 + b1 / dbh). kind: hardwood or softwood; part: of RATIOS."""
    b0, b1 = RATIOS[kind][part]
    return math.exp(b0 + b1 / require_between("dbh_cm", dbh_cm, SMALLEST_CM, 1500, "cm"))


def group_of(flora: Flora, taxon: str) -> str | None:
    """The group that covers a taxon: by the taxon itself, else by its genus, else, for a hardwood tree, the
    group of hardwoods that have none of their own; None for a conifer or a ginkgo without one.
    """
    for key, g in groups().items():
        if taxon in g.get("taxa", ()):
            return key
    genus = taxon if flora.taxa.get(taxon, {}).get("rank") == "genus" else flora.genus_of.get(taxon)
    found = next((key for key, g in groups().items() if genus in g["genera"]), None)
    if found or taxon not in flora.taxa or NO_HARDWOODS & set(flora.ancestors(taxon)):
        return found
    return OTHER_HARDWOODS if genus else None


def carbon(given: CarbonIn, flora: Flora) -> Carbon:
    """The operation: every tree and their total, with what was refused counted. Raises InputError."""
    if len(given["trees"]) > MOST_TREES:
        raise InputError("trees", len(given["trees"]), f"at most {MOST_TREES} trees")
    open_grown, units = given.get("open_grown", False), given.get("units", "metric")
    found = [_tree(f"trees[{i}]", t, flora, open_grown, units) for i, t in enumerate(given["trees"])]
    counted = [t for t in found if not t["refused"]]
    refused = Counter(t["refused"] for t in found if t["refused"])
    return {
        "trees": found,
        "total": {
            "biomass_kg": math.fsum(t["biomass_kg"] for t in counted),
            "carbon_kg": math.fsum(t["carbon_kg"] for t in counted),
            "co2e_kg": math.fsum(t["co2e_kg"] for t in counted),
            "trees": len(counted),
            "refused": [{"why": why, "trees": n} for why, n in refused.most_common()],
        },
    }


def _tree(place: str, tree: TreeIn, flora: Flora, open_grown: bool, units: str) -> TreeCarbon:
    """One tree, shoot by shoot: the mass of several is not that of one of their combined diameter."""
    stems = tree["stems_cm"]
    if len(stems) > MOST_SHOOTS:
        raise InputError(f"{place}.stems_cm", len(stems), f"at most {MOST_SHOOTS} shoots")
    read = [require_between(f"{place}.stems_cm[{i}]", d, 0.1, 1500, "cm") for i, d in enumerate(stems)]
    thick = [d for d in read if d >= SMALLEST_CM]
    group = group_of(flora, tree["taxon"])
    refused = _refused(tree, flora, group, thick)
    if refused or group is None:
        return _no_figure(refused, len(read))
    factor = OPEN_GROWN_FACTOR if open_grown else 1.0
    masses = [biomass_kg(group, d) * factor for d in thick]
    mass = math.fsum(masses)
    kind = "softwood" if group in SOFTWOOD_GROUPS else "hardwood"
    own = groups()[group]
    genus = flora.genus_of.get(tree["taxon"]) or tree["taxon"]
    by_itself = tree["taxon"] in own.get("taxa", ()) or genus in own["genera"]
    return {
        "refused": "",
        "group": own["label"]
        if by_itself
        else f"{own['label']}, the group of hardwoods without one of their own",
        "biomass_kg": mass,
        "carbon_kg": mass * CARBON_SHARE,
        "co2e_kg": mass * CARBON_SHARE * CO2_PER_CARBON,
        "components": [
            {
                "part": part,
                "kg": math.fsum(
                    m * component_ratio(kind, part, d) for m, d in zip(masses, thick, strict=True)
                ),
            }
            for part in RATIOS[kind]
        ],
        "shoots": len(thick),
        "shoots_refused": len(read) - len(thick),
        "outside": _outside(max(thick), own["largest_cm"], units),
        "source": SOURCE + ("; open-grown × 0.8 (Nowak 1994)" if open_grown else ""),
    }


def _refused(tree: TreeIn, flora: Flora, group: str | None, thick: Sequence[float]) -> str:
    """Why there is no figure for a tree; empty where there is one."""
    life, taxon = tree.get("life", "alive"), tree["taxon"]
    if life not in ("alive", "resprout"):
        return f"it is {life.replace('_', ' ')}, and the equations were made for living trees"
    if tree.get("topped") or life == "resprout":
        return "its top is broken, dead, cut or clipped, and the equations assume a whole crown"
    if not taxon:
        return "it has no name that the flora holds"
    forms = (flora.taxa.get(taxon, {}).get("states", {}).get("habit.form") or [{}])[0].get("weights", {})
    if forms and max(forms, key=lambda f: forms[f]) not in TREE_FORMS:
        return "it is no tree, and the equations were made for trees"
    if group is None:
        return "none of the groups the equations cover holds it"
    return "" if thick else f"no shoot reaches {SMALLEST_CM:g} cm, from which the equations hold"


def _no_figure(refused: str, shoots: int) -> TreeCarbon:
    return {
        "refused": refused,
        "group": "",
        "biomass_kg": 0.0,
        "carbon_kg": 0.0,
        "co2e_kg": 0.0,
        "components": [],
        "shoots": 0,
        "shoots_refused": shoots,
        "outside": "",
        "source": "",
    }


def _outside(widest_cm: float, largest_cm: float, units: str) -> str:
    if widest_cm <= largest_cm:
        return ""
    return (
        f"Outside the range this equation was made for: {shown(widest_cm, 'cm', units)}, and its widest stem "
        f"was {shown(largest_cm, 'cm', units, 0)}."
    )
