"""What does not fit: looks that contradict the leader or each other, and how well the leader's description
holds.
"""

from __future__ import annotations

import math
from dataclasses import replace
from statistics import NormalDist
from typing import Any

from jubark_core.naming.absence import none_is_a_state
from jubark_core.naming.weigh import LN2, Weighed

BADLY = -4.0  # bits against the flora-wide marginal from which a look is said to fit badly
NO_TAXON = 6.0  # bits by which every taxon loses from which two looks are said to fit no listed one together
SELDOM = 0.02  # weight of a state in a description under which a report of it asks for a second look
FITS_FROM = 1.0  # percentile under which the answer asks 'not in this list?'


def contradictions(w: Weighed) -> list[dict[str, Any]]:
    """Looks that fit the leader badly, pairs no listed taxon fits, and an organ both seen and said to be
    missing.
    """
    if not w.ranked_taxa or not w.logs:
        return []
    leader = w.ranked_taxa[0]
    found = _organ_both_ways(w)
    bad = [i for i in sorted(w.logs) if _fits_badly(w, i, leader)]
    for i in bad:
        c = w.flora.characters[w.looks[i].character]
        mistake = _lower(c.get("mistake", "a slip"))
        why = (
            f"{c.get('label', w.looks[i].character)} does not fit {w.flora.taxa[leader]['name']}. Look "
            f"again; the usual mistake: {mistake}"
        )
        found.append({"observations": [i], "why": why})
    return found + _pairs_no_taxon_fits(w, bad)


def _fits_badly(w: Weighed, i: int, taxon: str) -> bool:
    """Whether the taxon's own description hardly ever shows what was reported, or the look is far below the
    flora's average.
    """
    look = w.looks[i]
    weights = w.evidence.view(look).weights(
        taxon, look.character, w.evidence.season(taxon, look.on), look.where
    )
    if weights is not None and look.states and look.k is None:
        return min(weights[s] for s in look.states) < SELDOM
    return _against_marginal(w, i, taxon) <= BADLY


def _against_marginal(w: Weighed, look: int, taxon: str) -> float:
    """Bits of a look for the taxon against the mean over all listed taxa."""
    logs = w.logs[look]
    listed = [logs[t] for t in w.flora.leaves]
    top = max(listed)
    mean = top + math.log(math.fsum(math.exp(v - top) for v in listed) / len(listed))
    return (logs[taxon] - mean) / LN2


def _pairs_no_taxon_fits(w: Weighed, bad: list[int]) -> list[dict[str, Any]]:
    """Pairs with a badly fitting look where each look has a taxon that fits, and none fits both."""
    best = {i: max(w.logs[i][t] for t in w.flora.leaves) for i in w.logs} if bad else {}
    pairs = []
    for i in bad:
        for j in sorted(w.logs):
            if j == i or (j in bad and j < i):
                continue
            loss = min((best[i] - w.logs[i][t] + best[j] - w.logs[j][t]) / LN2 for t in w.flora.leaves)
            if loss >= NO_TAXON:
                one, two = (w.flora.characters[w.looks[k].character].get("label", "") for k in (i, j))
                pairs.append(
                    {
                        "observations": sorted((i, j)),
                        "why": f"No listed taxon fits both: {one}, and {_lower(two)}. Recheck both.",
                    }
                )
    return pairs


def _organ_both_ways(w: Weighed) -> list[dict[str, Any]]:
    found = []
    for absent in (k for k in w.case.looks if k.none and not none_is_a_state(k, w.flora)):
        organ = w.flora.characters[absent.character]["organ"]
        for seen in w.case.looks:
            there = seen.shows_organ and seen.on == absent.on and seen.seen == "plant"
            if there and w.flora.characters[seen.character]["organ"] == organ:
                why = f"The {organ} is said to be missing and is described on the same day."
                found.append({"observations": sorted((absent.index, seen.index)), "why": why})
    return found


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def fit(w: Weighed) -> dict[str, Any]:
    """The leader's percentile: how often its own description would produce looks as odd as these.

    Sum of log-probabilities against its mean and variance under the description (normal approximation).
    """
    unknown = {"percentile": None, "fits": None}
    if not w.ranked_taxa or not w.logs:
        return unknown
    leader = w.ranked_taxa[0]
    expected = [e for i in sorted(w.logs) if (e := _expectation(w, i, leader)) is not None]
    total, mean, variance = (
        (math.fsum(column) for column in zip(*expected, strict=True)) if expected else (0.0, 0.0, 0.0)
    )
    if variance <= 0:
        return unknown
    percentile = 100 * NormalDist().cdf((total - mean) / math.sqrt(variance))
    return {"percentile": percentile, "fits": percentile >= FITS_FROM}


def _expectation(w: Weighed, i: int, taxon: str) -> tuple[float, float, float] | None:
    """(log-probability of the look, its mean, its variance) under the taxon's description; None where it
    cannot be told.
    """
    look = w.looks[i]
    c = w.flora.characters[look.character]
    if look.values:
        return _of_sample(w, i, taxon)
    if not look.shows_organ or look.k is not None:
        return None
    season = w.evidence.season(taxon, look.on)
    if c["kind"] == "many":
        return _of_presences(w, i, taxon, season)
    chances = [
        w.evidence.state_probability(taxon, replace(look, states=(s,), again=()), season) for s in c["states"]
    ]
    known = [max(p, 1e-12) for p in chances if p is not None]
    if len(known) < len(chances):
        return None
    scale = math.fsum(known)
    ps = [p / scale for p in known]
    mean = math.fsum(p * math.log(p) for p in ps)
    variance = math.fsum(p * (math.log(p) - mean) ** 2 for p in ps)
    return math.log(ps[c["states"].index(look.states[0])]), mean, variance


def _of_presences(w: Weighed, i: int, taxon: str, season: str) -> tuple[float, float, float] | None:
    """A many-state look as independent reports, one for each state."""
    look = w.looks[i]
    c = w.flora.characters[look.character]
    weights = w.evidence.view(look).weights(taxon, look.character, season, look.where)
    if weights is None:
        return None
    rate, stray = float(c["report_rate"]), look.slip / len(weights)
    total, mean, variance = [], [], []
    for state, presence in weights.items():
        p = min(0.999, rate * ((1 - look.slip) * presence + stray))
        told, untold = math.log(p), math.log(1 - p)
        expected = p * told + (1 - p) * untold
        total.append(told if state in look.states else untold)
        mean.append(expected)
        variance.append(p * (told - expected) ** 2 + (1 - p) * (untold - expected) ** 2)
    return math.fsum(total), math.fsum(mean), math.fsum(variance)


def _of_sample(w: Weighed, i: int, taxon: str) -> tuple[float, float, float] | None:
    """The average of a sample as a chi-square of one degree: mean −1/2, variance 1/2 on the log scale."""
    look = w.looks[i]
    c = w.flora.characters[look.character]
    spread = w.evidence.view(look).spread(taxon, look.character)
    if spread is None or c.get("grows"):
        return None
    values = [math.log(v) for v in look.values] if c.get("scale") == "log" else list(look.values)
    sd = spread[1] * math.sqrt(c["between"] + (1 - c["between"]) / len(values))
    z = (math.fsum(values) / len(values) - spread[0]) / sd
    return -0.5 * z * z, -0.5, 0.5
