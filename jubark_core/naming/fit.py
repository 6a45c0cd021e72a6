"""How well the best match's own description holds: would it produce observations as odd as these?"""

from __future__ import annotations

import math
from dataclasses import replace
from statistics import NormalDist
from typing import Any

from jubark_core.naming.weigh import Weighed

FITS_FROM = 1.0  # percentile under which the answer asks 'not in this list?'


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
