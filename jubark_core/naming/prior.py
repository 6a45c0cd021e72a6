"""What can stand here before anyone looks: area × commonness × habitat × origin × the ground's own tally."""

from __future__ import annotations

import math
from dataclasses import dataclass

from jubark_core.flora.model import Flora
from jubark_core.flora.words import COMMONNESS
from jubark_core.naming.case import Case

# Share of plants that somebody planted, by setting ('common practice', from memory; used only for unknown origin).
PLANTED_SHARE = {
    "woodland": 0.03, "floodplain": 0.03, "wet_flat": 0.05, "dry_slope": 0.03, "poor_rocky_soil": 0.03, "coastal": 0.1,
    "hedgerow": 0.3, "disturbed": 0.1, "made_ground": 0.3, "street": 0.97, "park": 0.9, "garden": 0.95, "hedge": 0.95,
    "glasshouse": 0.999, "unknown": 0.5,
}  # fmt: skip
OUT_OF_AREA_WILD = 0.003
OUT_OF_AREA_PLANTED = 0.5
OFF_HABITAT = 0.35
UNLISTED_SPECIES = 0.01  # weight of one species the flora does not hold, on the scale of COMMONNESS
TALLY_STRENGTH = 20.0  # the place's own list counts as this many stems
TALLY_FLOOR = 2.0**-3  # the tally never costs a taxon more than 3 bits


@dataclass(frozen=True)
class Prior:
    """log-probabilities by leaf (natural logs, normalised) and the factors that made them."""

    log: dict[str, float]
    factors: dict[str, dict[str, float]]


def hypotheses(flora: Flora) -> list[str]:
    """Every leaf of the tree: the listed taxa, `<genus>-unlisted` for genera with missing species, `unlisted`."""
    genera = {g for g in flora.genus_of.values() if g is not None}
    unlisted = [f"{g}-unlisted" for g in genera if flora.taxa[g].get("missing", 0) > 0]
    return sorted(flora.leaves + unlisted) + (["unlisted"] if flora.root_missing > 0 else [])


def prior_of(case: Case, flora: Flora) -> Prior:
    """The normalised prior of every hypothesis. Every factor is in `factors`, 1 where it is switched off."""
    weights: dict[str, float] = {}
    factors: dict[str, dict[str, float]] = {}
    planted = PLANTED_SHARE[case.setting] if case.origin == "unknown" else float(case.origin == "planted")
    wild_parts = {t: _parts(t, case, flora, planted=False) for t in flora.leaves}
    planted_parts = {t: _parts(t, case, flora, planted=True) for t in flora.leaves}
    wild_total = math.fsum(math.prod(p.values()) for p in wild_parts.values()) or 1.0
    planted_total = math.fsum(math.prod(p.values()) for p in planted_parts.values()) or 1.0
    flat_origin = "origin" in case.prior_off
    for taxon in flora.leaves:
        wild = math.prod(wild_parts[taxon].values()) / wild_total
        set_out = math.prod(planted_parts[taxon].values()) / planted_total
        weights[taxon] = (wild + set_out) / 2 if flat_origin else (1 - planted) * wild + planted * set_out
        leading = planted_parts if planted > 0.5 and not flat_origin else wild_parts
        factors[taxon] = dict(leading[taxon])
        factors[taxon]["origin"] = 1.0 if flat_origin else planted if planted > 0.5 else 1 - planted
    _apply_tally(weights, factors, case)
    typical = math.fsum(weights.values()) / max(1.0, math.fsum(_strength(t, flora, case) for t in flora.leaves))
    for leaf in hypotheses(flora):
        if leaf not in weights:
            genus = flora.taxa.get(leaf.removesuffix("-unlisted"))
            missing = float(genus["missing"]) if genus is not None else flora.root_missing
            weights[leaf] = typical * UNLISTED_SPECIES * missing
            factors[leaf] = {"unlisted": UNLISTED_SPECIES * missing}
    total = math.fsum(weights.values())
    return Prior({t: math.log(w / total) if w > 0 else -745.0 for t, w in sorted(weights.items())}, factors)


def _strength(taxon: str, flora: Flora, case: Case) -> float:
    """Size of a taxon on the scale on which one unlisted species weighs UNLISTED_SPECIES."""
    if "commonness" in case.prior_off:
        return 1.0
    classes = flora.taxa[taxon].get("commonness", {})
    return max(COMMONNESS[classes.get("wild", "absent")], COMMONNESS[classes.get("planted", "absent")])


def _parts(taxon: str, case: Case, flora: Flora, *, planted: bool) -> dict[str, float]:
    t = flora.taxa[taxon]
    parts = {"area": 1.0, "commonness": 1.0, "habitat": 1.0}
    if case.areas and "area" not in case.prior_off:
        known = set(t.get("native", ())) | set(t.get("introduced", ()))
        if not known.intersection(case.areas):
            parts["area"] = OUT_OF_AREA_PLANTED if planted else OUT_OF_AREA_WILD
    if "commonness" not in case.prior_off and "commonness" in t:
        parts["commonness"] = COMMONNESS[t["commonness"].get("planted" if planted else "wild", "absent")]
    if not planted and "habitat" not in case.prior_off and case.setting != "unknown" and "habitat" in t:
        parts["habitat"] = 1.0 if case.setting in t["habitat"] else OFF_HABITAT
    return parts


def _apply_tally(weights: dict[str, float], factors: dict[str, dict[str, float]], case: Case) -> None:
    """The ground's own list of accepted names, as a Dirichlet update, at most 3 bits against any taxon."""
    counted = {t: n for t, n in case.tally.items() if t in weights and n > 0}
    if not counted or "tally" in case.prior_off:
        return
    total, stems = math.fsum(weights.values()), sum(counted.values())
    for taxon in weights:
        base = weights[taxon] / total
        if base <= 0:
            continue
        factor = (TALLY_STRENGTH * base + counted.get(taxon, 0)) / (TALLY_STRENGTH + stems) / base
        factors[taxon]["tally"] = max(TALLY_FLOOR, factor)
        weights[taxon] *= factors[taxon]["tally"]
