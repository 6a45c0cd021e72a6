"""What can stand here before anyone looks: area × commonness × habitat × origin × the site's own tally."""

from __future__ import annotations

import math
from dataclasses import dataclass

from jubark_core.flora.model import Flora
from jubark_core.flora.words import COMMONNESS
from jubark_core.naming.case import Case

OUT_OF_AREA_WILD = 0.003
OUT_OF_AREA_PLANTED = 0.5
OFF_HABITAT = 0.35
UNLISTED_SPECIES = (
    0.008  # weight of one species the flora does not hold, on the scale of COMMONNESS: well under `rare`
)
TALLY_STRENGTH = 20.0  # the place's own list counts as this many stems
TALLY_FLOOR = 2.0**-3  # the tally never costs a taxon more than 3 bits
ORDINARY = {"area": 1.0, "commonness": 1.0, "habitat": 1.0}


@dataclass(frozen=True)
class Prior:
    """log-probabilities by hypothesis (natural logs, normalised) and the factors that made them."""

    log: dict[str, float]
    factors: dict[str, dict[str, float]]


def prior_of(case: Case, flora: Flora, planted: float | None = None) -> Prior:
    """The normalised prior of every hypothesis. Every factor is in `factors`, 1 where it is switched off.

    planted: chance that somebody planted the plant, when another one than the case's own is wanted.
    """
    planted = case.planted if planted is None else planted
    flat_origin = "origin" in case.prior_off
    share = 0.5 if flat_origin else planted
    sides = [
        (weight, _side(case, flora, planted=bool(side)))
        for side, weight in ((0, 1 - share), (1, share))
        if weight > 0
    ]
    weights = {t: math.fsum(weight * side[t][0] for weight, side in sides) for t in flora.leaves}
    leading = max(sides, key=lambda pair: pair[0])
    factors = {t: {**leading[1][t][1], "origin": 1.0 if flat_origin else leading[0]} for t in flora.leaves}
    _apply_tally(weights, factors, case, flora)
    total = math.fsum(weights.values())
    typical = total / max(1.0, math.fsum(_strength(t, flora, case) for t in flora.leaves))
    for leaf in flora.hypotheses:
        if leaf not in weights:
            genus = flora.genus_of_unlisted.get(leaf)
            missing = float(flora.taxa[genus]["missing"]) if genus is not None else flora.root_missing
            weights[leaf] = typical * UNLISTED_SPECIES * missing
            factors[leaf] = {"unlisted": UNLISTED_SPECIES * missing}
    total = math.fsum(weights.values())
    return Prior(
        {t: math.log(weights[t] / total) if weights[t] > 0 else -745.0 for t in flora.hypotheses}, factors
    )


def _side(case: Case, flora: Flora, *, planted: bool) -> dict[str, tuple[float, dict[str, float]]]:
    """Leaf -> (share of the wild or of the planted stock here, the factors behind it)."""
    parts = {t: _parts(t, case, flora, planted=planted) for t in flora.leaves}
    products = {t: math.prod(p.values()) for t, p in parts.items()}
    total = math.fsum(products.values()) or 1.0
    return {t: (products[t] / total, parts[t]) for t in flora.leaves}


def _strength(taxon: str, flora: Flora, case: Case) -> float:
    """Size of a taxon on the scale on which one unlisted species weighs UNLISTED_SPECIES."""
    if "commonness" in case.prior_off:
        return 1.0
    classes = flora.taxa[taxon].get("commonness", {})
    return max(COMMONNESS[classes.get("wild", "absent")], COMMONNESS[classes.get("planted", "absent")])


def _parts(taxon: str, case: Case, flora: Flora, *, planted: bool) -> dict[str, float]:
    t = flora.taxa[taxon]
    parts = dict(ORDINARY)
    if case.areas and "area" not in case.prior_off and flora.grows_in[taxon].isdisjoint(case.areas):
        parts["area"] = OUT_OF_AREA_PLANTED if planted else OUT_OF_AREA_WILD
    if "commonness" not in case.prior_off and "commonness" in t:
        parts["commonness"] = COMMONNESS[t["commonness"].get("planted" if planted else "wild", "absent")]
    if not planted and "habitat" not in case.prior_off and case.setting != "unknown" and "habitat" in t:
        parts["habitat"] = 1.0 if case.setting in t["habitat"] else OFF_HABITAT
    return parts


def _apply_tally(
    weights: dict[str, float], factors: dict[str, dict[str, float]], case: Case, flora: Flora
) -> None:
    """The site's own list of accepted species names, as a Dirichlet update, at most 3 bits against any
    taxon.

    Off in recheck and practice, and for rare and protected taxa: what is rare is not made rarer by not having
    been found.
    """
    counted = {t: n for t, n in case.tally.items() if t in weights and n > 0}
    if not counted or "tally" in case.prior_off or case.purpose != "name":
        return
    total, stems = math.fsum(weights.values()), sum(counted.values())
    for taxon in weights:
        base = weights[taxon] / total
        t = flora.taxa[taxon]
        factors[taxon]["tally"] = 1.0
        if base <= 0 or t.get("protected_note") or "rare" in t.get("commonness", {}).values():
            continue
        factor = (TALLY_STRENGTH * base + counted.get(taxon, 0)) / (TALLY_STRENGTH + stems) / base
        factors[taxon]["tally"] = max(TALLY_FLOOR, factor)
        weights[taxon] *= factors[taxon]["tally"]
