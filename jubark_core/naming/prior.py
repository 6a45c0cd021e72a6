"""What can stand here before anyone looks: wild by area, planted by region and zone, the site's own tally,
and a floor under every hazard.

Two sides, each a share of the stock here: what grows wild, by how common it is in the area, and what is
planted, by how often it is planted in the region and whether it is hardy. They are mixed by the chance that
somebody planted the plant. Where the flora says nothing of an area, nativity and trade give the value
('common practice').
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from jubark_core.flora.areas import WORLD, said
from jubark_core.flora.model import Flora
from jubark_core.flora.words import COMMONNESS
from jubark_core.naming.case import Case

# Wild, nothing said for the area: on the scale of COMMONNESS.
NATIVE, INVASIVE, NATURALISED, NEXT_DOOR, SAME_REGION, ELSEWHERE = 0.10, 0.35, 0.03, 0.02, 0.01, 0.001
# Planted, nothing said for the region.
OF_WORLD = 0.5  # a value said of the world, or the mean of other regions, counts by half
NATIVE_TREE, NATIVE_SHRUB = 0.03, 0.01
TRADE = {"commerce": 0.015, "collections": 0.003, "never": 0.0005}
HARDY = (1.0, 0.2, 0.02)  # inside the taxon's zones, one out, two or more out, at both ends
TREE_FROM_M = 6.0
OFF_HABITAT = 0.35
UNLISTED_WILD, UNLISTED_PLANTED = 0.008, 0.002  # weight of one species the flora does not hold
LEAST_MISSING = 0.05  # nothing becomes zero: there may always be one more
TALLY_STRENGTH = 20.0  # the place's own list counts as this many stems
TALLY_FLOOR = 2.0**-3  # the tally never costs a taxon more than 3 bits
MOST_FLOOR, SUM_OF_FLOORS = 0.01, 0.08  # of one hazard, and of all
MOST_PLACES = 16  # kept for the places asked for last
HARMFUL = ("deadly", "serious")

Factors = dict[str, float]
Parts = dict[str, tuple[float, Factors]]  # hypothesis -> (share of one side, the factors behind it)


@dataclass(frozen=True)
class Prior:
    """log-probabilities by hypothesis (natural logs, normalised) and the factors that made them."""

    log: dict[str, float]
    factors: dict[str, Factors]


def prior_of(case: Case, flora: Flora, planted: float | None = None) -> Prior:
    """The normalised prior of every hypothesis. Every factor is in `factors`, 1 where it is switched off.

    planted: chance that somebody planted the plant, when another one than the case's own is wanted.
    """
    share = 0.5 if "origin" in case.prior_off else case.planted if planted is None else planted
    wild, stock = _sides(place_of(case), flora)
    weights = {h: math.fsum([(1 - share) * wild[h][0], share * stock[h][0]]) for h in flora.hypotheses}
    leading, odds = (stock, share) if share > 0.5 else (wild, 1 - share)
    factors = {h: {**leading[h][1], "origin": 1.0 if "origin" in case.prior_off else odds} for h in weights}
    _apply_tally(weights, factors, case, flora)
    total = math.fsum(weights.values())
    weights = _floored({h: weight / total for h, weight in weights.items()}, factors, case, flora)
    return Prior({h: math.log(p) if p > 0 else -745.0 for h, p in weights.items()}, factors)


@dataclass(frozen=True)
class Place:
    """What of a case the wild and the planted stock hang on. off: factors switched off."""

    areas: tuple[str, ...]
    zone: int | None
    setting: str
    off: frozenset[str]


def place_of(case: Case) -> Place:
    """What of the case its prior hangs on."""
    return Place(case.areas, case.zone, case.setting, case.prior_off)


@lru_cache(maxsize=MOST_PLACES)
def _sides(place: Place, flora: Flora) -> tuple[Parts, Parts]:
    """What grows wild and what is planted there."""
    return _wild_side(place, flora), _planted_side(place, flora)


def _wild_side(place: Place, flora: Flora) -> Parts:
    def parts(taxon: str) -> Factors:
        t = flora.taxa[taxon]
        found = {**_commonness(place, lambda off: _wild(t, place, flora, off)), "habitat": 1.0}
        if "habitat" not in place.off and place.setting != "unknown" and "habitat" in t:
            found["habitat"] = 1.0 if place.setting in t["habitat"] else OFF_HABITAT
        return found

    return _side(place, flora, parts, "wild", UNLISTED_WILD)


def _planted_side(place: Place, flora: Flora) -> Parts:
    def parts(taxon: str) -> Factors:
        t = flora.taxa[taxon]
        found = _commonness(place, lambda off: _planted(t, place, flora, off))
        return {**found, "zone": 1.0 if "zone" in place.off else hardy(t, place, flora)}

    return _side(place, flora, parts, "planted", UNLISTED_PLANTED)


def _side(place: Place, flora: Flora, parts: Callable[[str], Factors], side: str, unlisted: float) -> Parts:
    """Each hypothesis's share of the wild or of the planted stock here."""
    found = {t: parts(t) for t in flora.leaves}
    for h in flora.hypotheses:
        if h not in found:
            genus = flora.genus_of_unlisted.get(h)
            missing = flora.missing(genus) if genus is not None else flora.root_missing
            found[h] = {"unlisted": unlisted * _missing(missing.get(side, {}), side, place, flora)}
    products = {h: math.prod(p.values()) for h, p in found.items()}
    total = math.fsum(products.values()) or 1.0
    return {h: (products[h] / total, found[h]) for h in found}


def _commonness(place: Place, value: Callable[[frozenset[str]], float]) -> Factors:
    """`area` and `commonness`: what is said of the area counts under one, what nativity and trade give
    under the other.

    With `commonness` off, only nativity and trade speak; with `area` off, the taxon competes as it does
    somewhere.
    """
    off = frozenset({"area", "commonness"} & place.off)
    if len(off) == 2:
        return {"area": 1.0, "commonness": 1.0}
    of_area = value(off | {"commonness"}) if "area" not in off and place.areas else 1.0
    whole = value(off)
    return {"area": of_area, "commonness": whole / of_area}


def _wild(t: dict[str, Any], place: Place, flora: Flora, off: frozenset[str]) -> float:
    """How common the taxon grows wild in the case's areas, in the best of several."""
    classes = {} if "commonness" in off else t.get("commonness", {}).get("wild", {})
    if not place.areas or "area" in off:
        return max((COMMONNESS[word] for word in classes.values()), default=NATIVE)
    return max(_wild_in(area, t, classes, flora) for area in place.areas)


def _wild_in(area: str, t: dict[str, Any], classes: dict[str, str], flora: Flora) -> float:
    if "native" not in t:
        return NATIVE
    native, invasive, naturalised = (t.get(key, ()) for key in ("native", "invasive", "introduced"))
    here = flora.area[area]
    grows = area in native or area in naturalised or area in invasive
    # what is said of a region holds in those of its areas in which the taxon grows
    word = said(classes, here["said_under"] if grows else [area])
    if word is not None:
        return COMMONNESS[word]
    if area in native:
        return max(NATIVE, INVASIVE if area in invasive else 0.0)
    if grows:
        return INVASIVE if area in invasive else NATURALISED
    if not set(here["near"]).isdisjoint(native):
        return NEXT_DOOR
    near = any(flora.area[a]["region"] == here["region"] for a in (*native, *naturalised))
    return SAME_REGION if near else ELSEWHERE


def _planted(t: dict[str, Any], place: Place, flora: Flora, off: frozenset[str]) -> float:
    """How often the taxon is planted in the case's areas, in the best of several."""
    classes = {} if "commonness" in off else t.get("commonness", {}).get("planted", {})
    trade = TRADE[t.get("trade", "commerce")]
    if not place.areas or "area" in off:
        return max((COMMONNESS[word] for word in classes.values()), default=trade)
    return max(_planted_in(area, t, classes, trade, flora) for area in place.areas)


def _planted_in(area: str, t: dict[str, Any], classes: dict[str, str], trade: float, flora: Flora) -> float:
    word = said(classes, [key for key in flora.area[area]["planted_under"] if key != WORLD])
    if word is not None:
        return COMMONNESS[word]
    if t.get("trade") == "never":
        return trade
    elsewhere = (
        [COMMONNESS[classes[WORLD]]] if WORLD in classes else [COMMONNESS[w] for w in classes.values()]
    )
    known = OF_WORLD * math.fsum(elsewhere) / len(elsewhere) if elsewhere else 0.0
    own = 0.0
    if area in t.get("native", ()):
        own = NATIVE_TREE if t.get("height_m", (0, TREE_FROM_M))[1] >= TREE_FROM_M else NATIVE_SHRUB
    return max(known or trade, own)


def hardy(t: dict[str, Any], place: Place, flora: Flora) -> float:
    """1 where the site's zone, else one of the area's zones, lies in the taxon's range; 0.2 one out; 0.02
    farther out.
    """
    ranges = (
        [(place.zone, place.zone)]
        if place.zone is not None
        else [(zone[0], zone[1]) for area in place.areas if (zone := flora.area[area]["zone"])]
    )
    if not ranges or "hardiness" not in t:
        return 1.0
    low, high = t["hardiness"]
    out = min(max(0, low - warmest, coldest - high) for coldest, warmest in ranges)
    return HARDY[min(out, 2)]


def _missing(counts: dict[str, int], side: str, place: Place, flora: Flora) -> float:
    """Species the flora does not hold, in the case's areas; without areas, or with the area switched off,
    the most that are missing anywhere.
    """
    if not place.areas or "area" in place.off:
        return max(counts.values(), default=LEAST_MISSING)
    under = "said_under" if side == "wild" else "planted_under"
    return max(
        max(LEAST_MISSING, said(counts, flora.area[a][under]) or 0)  # type: ignore[literal-required]
        for a in place.areas
    )


def _apply_tally(weights: dict[str, float], factors: dict[str, Factors], case: Case, flora: Flora) -> None:
    """The site's own list of accepted species names, as a Dirichlet update, at most 3 bits against any
    taxon.

    Off in recheck and practice, and for rare and protected taxa: what is rare is not made rarer by not having
    been found.
    """
    counted = {t: n for t, n in case.tally.items() if t in weights and n > 0}
    if not counted or "tally" in case.prior_off or case.purpose != "name":
        return
    leaves = flora.leaves
    total, stems = math.fsum(weights[t] for t in leaves), sum(counted.values())
    for taxon in leaves:
        base = weights[taxon] / total
        factors[taxon]["tally"] = 1.0
        if base <= 0 or flora.taxa[taxon].get("protected_note") or _is_rare(taxon, case, flora):
            continue
        factor = (TALLY_STRENGTH * base + counted.get(taxon, 0)) / (TALLY_STRENGTH + stems) / base
        factors[taxon]["tally"] = max(TALLY_FLOOR, factor)
        weights[taxon] *= factors[taxon]["tally"]


def _is_rare(taxon: str, case: Case, flora: Flora) -> bool:
    """Said to be rare where the case is, wild or planted."""
    classes = flora.taxa[taxon].get("commonness", {})
    if not case.areas:
        return "rare" in {w for side in classes.values() for w in side.values()}
    return any(
        said(classes.get(side, {}), flora.area[a][under]) == "rare"  # type: ignore[literal-required]
        for a in case.areas
        for side, under in (("wild", "said_under"), ("planted", "planted_under"))
    )


def hazards(case: Case, flora: Flora) -> list[str]:
    """Taxa that can do serious harm and whose native, introduced or planted range takes in the case's area
    and zone; none without areas.
    """
    return [t for t in flora.leaves if is_harmful(flora.taxa[t]) and _in_range(flora.taxa[t], case, flora)]


def is_harmful(t: dict[str, Any]) -> bool:
    """Whether the taxon can do people serious harm by its poison or its sap; thorns are cautions only."""
    poison = t.get("poison", {})
    return bool(t.get("irritant")) or (poison.get("level") in HARMFUL and "people" in poison["harms"])


def _in_range(t: dict[str, Any], case: Case, flora: Flora) -> bool:
    if any(area in t.get(key, ()) for area in case.areas for key in ("native", "introduced", "invasive")):
        return True
    words = {
        said(t.get("commonness", {}).get("planted", {}), flora.area[a]["planted_under"]) for a in case.areas
    }
    return bool(words - {None, "absent"}) and hardy(t, place_of(case), flora) == 1.0


def _floored(
    prior: dict[str, float], factors: dict[str, Factors], case: Case, flora: Flora
) -> dict[str, float]:
    """Every hazard of the place at f or more, what is not raised scaled to sum to 1, until none is under."""
    exposed = [] if "floor" in case.prior_off else hazards(case, flora)
    if not exposed:
        return prior
    least = min(MOST_FLOOR, SUM_OF_FLOORS / len(exposed))
    raised: set[str] = set()
    found = prior
    while under := [h for h in exposed if h not in raised and found[h] < least]:
        raised.update(under)
        rest = math.fsum(p for h, p in prior.items() if h not in raised)
        scale = (1 - least * len(raised)) / rest
        found = {h: least if h in raised else p * scale for h, p in prior.items()}
    for h in raised:
        factors[h]["floor"] = found[h] / prior[h]
    return found
