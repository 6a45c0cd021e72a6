"""P(all the readings of an item | a taxon with a row of states): one truth behind them."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from operator import mul
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.rows import Row
from jubark_core.flora.words import STRIKING_SLIP
from jubark_core.naming.pooling import Item, Reading
from jubark_core.naming.reading import column

BETWEEN = 0.9  # share of plants on which all readings of a character are readings of one state
LEAF_CORRELATION = 0.3  # k of n leaves of one plant: share of the variance between plants
INAPPLICABLE = 0.02  # how readily a look is reported that makes no sense on the taxon


def chance_by_row(flora: Flora, item: Item) -> Callable[[Row], float]:
    """P(all the readings of the item | a taxon with a row, where the character makes sense)."""
    c = flora.characters[item.character]
    if c["kind"] == "many" and item.kind == "many":
        return _many(c, item.readings)
    if item.kind == "share":
        return lambda row: _share(flora, c, row, item)
    return _one(flora, c, item)


def chance_senseless(flora: Flora, item: Item) -> float:
    """P(all the readings of the item | the character makes no sense on the plant)."""
    n = len(flora.characters[item.character]["states"])
    return math.prod(1.0 if r.senseless else INAPPLICABLE / n for r in item.readings)


def chance_inside(flora: Flora, fork: Item, row: Row, inside: Sequence[str]) -> tuple[float, float]:
    """(chance before the readings, after them) that a taxon with that row shows a state in `inside`."""
    c = flora.characters[fork.character]
    among = [s in inside for s in c["states"]]
    prior = min(1.0, math.fsum(w for w, there in zip(row.weights, among, strict=True) if there))
    if fork.kind == "state":
        columns = _columns(flora, c, row.compound, fork)
        told = [w * math.prod(ps) for w, ps in zip(row.weights, zip(*columns, strict=True), strict=True)]
        total = math.fsum(told)
        return prior, math.fsum(t for t, there in zip(told, among, strict=True) if there) / total
    there, missing = 1.0, 1.0
    for r in fork.readings:
        if set(r.states) & set(inside):
            there, missing = there * float(c["report_rate"]), missing * r.slip
        elif set(inside) <= set(r.absent):
            there, missing = there * r.slip, missing * (1 - r.slip)
        elif r.whole:
            there *= 1 - float(c["report_rate"])
    total = prior * there + (1 - prior) * missing
    return prior, prior * there / total if total > 0 else prior


def _columns(flora: Flora, c: dict[str, Any], compound: float, item: Item) -> list[tuple[float, ...]]:
    extra = float(c["leaflet_for_leaf"]["alternate"]) * compound if compound else 0.0
    return [column(flora, item.character, r.states, r.slip, r.confused, extra) for r in item.readings]


def _one(flora: Flora, c: dict[str, Any], item: Item) -> Callable[[Row], float]:
    """One truth behind all readings in the share `between` of plants, several in the rest."""
    between = float(c.get("between", BETWEEN))
    by_compound: dict[float, list[tuple[float, ...]]] = {}

    def told(row: Row) -> float:
        columns = by_compound.get(row.compound)
        if columns is None:
            columns = by_compound[row.compound] = _columns(flora, c, row.compound, item)
        if len(columns) == 1:
            return math.fsum(map(mul, row.weights, columns[0]))
        one = math.fsum(
            w * math.prod(ps) for w, ps in zip(row.weights, zip(*columns, strict=True), strict=True)
        )
        apart = math.prod(math.fsum(map(mul, row.weights, column)) for column in columns)
        return between * one + (1 - between) * apart

    return told


def _share(flora: Flora, c: dict[str, Any], row: Row, item: Item) -> float:
    """K of N leaves, a single reading being 1 of 1; by each state of which a share was counted."""
    counted = sorted({s for r in item.readings if r.n > 1 or r.k == 0 for s in r.states} or item.states)
    told = []
    for state in counted:
        k = sum(r.k if state in r.states else 0 for r in item.readings)
        n = sum(r.n for r in item.readings if state in r.states or r.n == 1)
        place = c["states"].index(state)
        reads = []
        for r in item.readings:
            if c["kind"] == "many":
                p = row.weights[place]
                reads.append((r.n, (1 - r.slip) * p + (1 - p) * r.slip / len(c["states"])))
            else:
                of = column(flora, item.character, (state,), r.slip, r.confused)
                reads.append((r.n, math.fsum(w * p for w, p in zip(row.weights, of, strict=True))))
        share = math.fsum(m * p for m, p in reads) / sum(m for m, _ in reads)
        told.append(beta_binomial(k, n, min(1.0, share), LEAF_CORRELATION))
    return math.prod(told)


def _many(c: dict[str, Any], readings: Sequence[Reading]) -> Callable[[Row], float]:
    """P(these states named, those said to be absent, the rest not named | a taxon with a row), over all
    lookings at one truth.

    A state not named is weak evidence: the vocabulary's report rate says how readily one that is there is
    named.
    """
    rate, striking = float(c["report_rate"]), c.get("striking", ())
    readings_of: list[tuple[float, float]] = []  # of each state: P(what was said of it | there), | missing
    for state in c["states"]:
        there = missing = 1.0
        share = (STRIKING_SLIP if state in striking else 1.0) / len(c["states"])
        for r in readings:
            if state in r.states:
                there *= rate
                missing *= r.slip * share
            elif state in r.absent:
                there *= r.slip
                missing *= 1 - r.slip
            elif r.whole:
                there *= 1 - rate
                missing *= 1 - r.slip * share
        readings_of.append((there, missing))

    def told(row: Row) -> float:
        total = 1.0
        for p, (there, missing) in zip(row.weights, readings_of, strict=True):
            total *= p * there + (1 - p) * missing
        return total

    return told


def beta_binomial(k: int, n: int, p: float, correlation: float) -> float:
    """P(k of n) when the share varies between plants: mean p, intra-plant correlation ρ (Skellam 1948)."""
    p = min(max(p, 1e-6), 1 - 1e-6)
    a, b = p * (1 - correlation) / correlation, (1 - p) * (1 - correlation) / correlation
    log_choose = math.lgamma(n + 1) - math.lgamma(k + 1) - math.lgamma(n - k + 1)
    return math.exp(log_choose + _log_beta(k + a, n - k + b) - _log_beta(a, b))


def _log_beta(a: float, b: float) -> float:
    return math.lgamma(a) + math.lgamma(b) - math.lgamma(a + b)
