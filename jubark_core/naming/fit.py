"""How well the best match's own description holds: would it produce observations as odd as these?"""

from __future__ import annotations

import math
from dataclasses import replace
from statistics import NormalDist
from typing import Any

from jubark_core.flora.rows import Row
from jubark_core.naming.pooling import Item
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
    item = w.items[i]
    c = w.flora.characters[item.character]
    if item.kind == "values":
        return _of_sample(item, w, taxon)
    view, season = w.evidence.view(item.look), w.evidence.season(taxon, item.on)
    if item.kind not in ("state", "many") or not view.weights(taxon, item.character, season, item.look.where):
        return None
    rows = view.rows(item.character, season, item.look.where)
    row = rows.rows[rows.of[w.flora.hypotheses.index(taxon)]]
    if item.kind == "many":
        return _of_presences(c, row, item)
    said = next((r for r in item.readings if len(r.states) == 1 and not r.senseless), None)
    if said is None:
        return None
    alone = [replace(item, readings=(replace(said, states=(s,)),)) for s in c["states"]]
    chances = [max(w.evidence.chance(one, row), 1e-12) for one in alone]
    scale = math.fsum(chances)
    ps = [p / scale for p in chances]
    mean = math.fsum(p * math.log(p) for p in ps)
    variance = math.fsum(p * (math.log(p) - mean) ** 2 for p in ps)
    return math.log(ps[c["states"].index(said.states[0])]), mean, variance


def _of_presences(c: dict[str, Any], row: Row, item: Item) -> tuple[float, float, float]:
    """A many-state look as independent reports, one for each state."""
    rate, slip = float(c["report_rate"]), item.readings[0].slip
    stray = slip / len(c["states"])
    total, mean, variance = [], [], []
    for state, presence in zip(c["states"], row.weights, strict=True):
        p = min(0.999, rate * ((1 - slip) * presence + stray))
        told, untold = math.log(p), math.log(1 - p)
        expected = p * told + (1 - p) * untold
        total.append(told if state in item.states else untold)
        mean.append(expected)
        variance.append(p * (told - expected) ** 2 + (1 - p) * (untold - expected) ** 2)
    return math.fsum(total), math.fsum(mean), math.fsum(variance)


def _of_sample(item: Item, w: Weighed, taxon: str) -> tuple[float, float, float] | None:
    """The average of a sample as a chi-square of one degree: mean −1/2, variance 1/2 on the log scale."""
    c = w.flora.characters[item.character]
    spread = w.evidence.view(item.look).spread(taxon, item.character)
    if spread is None or c.get("grows"):
        return None
    values = [math.log(v) for v in item.values] if c.get("scale") == "log" else list(item.values)
    sd = spread[1] * math.sqrt(c["between"] + (1 - c["between"]) / len(values))
    z = (math.fsum(values) / len(values) - spread[0]) / sd
    return -0.5 * z * z, -0.5, 0.5
