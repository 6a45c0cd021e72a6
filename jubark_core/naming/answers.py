"""What each answer to a look not made yet would say: chances of the answers by hypothesis.

Rows of chances are worked out once per taxon, character and season and kept with the view of the flora;
putting them side by side for the candidates of a case is then cheap.
"""

from __future__ import annotations

import itertools
import math
from array import array
from bisect import bisect_left
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from operator import mul
from typing import Any

from jubark_core.flora.shows import Shows
from jubark_core.flora.tables import INAPPLICABLE
from jubark_core.flora.views import marginal
from jubark_core.naming.likelihood import FLOOR, GENUS_SHARE, SLIP_NEXT, leaflet_for_leaf, misreading
from jubark_core.naming.samples import split_variance

LEAVES_PER_SAMPLE = 5
BINS, GRID = 12, 90
MANY = 20  # candidates from which the bins are the flora's, not fitted to them
MOST_WHOLE = 60  # a count that can go beyond is binned like a measure
NO_SENSE = "does not apply"

Row = tuple[float, ...]
Curve = Sequence[float]  # of doubles: a curve is long and kept


@dataclass(frozen=True)
class Answers:
    """The answers to a look, one column each over the live hypotheses.

    chances: P' of the answer, untempered, floor included. tempered: P'^w. surprise: P'^w · log P'^w.
    """

    names: list[str]
    chances: list[Row]
    tempered: list[Row]
    surprise: list[Row]


def answers(view: Shows, character: str, keyed: list[tuple[str, str]], odds: list[float]) -> Answers | None:
    """The answers to a look and their chances for the live hypotheses; None where no taxon knows anything of
    it.

    keyed: live hypotheses with the season each is in on the day. odds: their probabilities. Counts: integers
    with the tails pooled; measures: the mean of five leaves in 12 bins of about equal predictive mass;
    many-state characters: the best single state, present or absent.
    """
    c = view.flora.characters[character]
    weight = view.flora.weight_of_group(character)
    if c["kind"] in ("count", "measure"):
        return _of_samples(view, character, c, keyed, odds, weight)
    if not any(view.weights(t, character, s) for t, s in keyed if t in view.flora.taxa):
        return None
    rows = [_state_row(view, h, character, s) for h, s in keyed]
    if c["kind"] == "one":
        return Answers([*c["states"], NO_SENSE], *_columns(rows))
    return _best_state(c["states"], [row for row, _, _ in rows], odds, weight)


def _columns(rows: list[tuple[Row, Row, Row]]) -> list[list[Row]]:
    """Rows (chances, tempered, surprise) of the hypotheses, turned into columns of the answers."""
    return [list(zip(*part, strict=True)) for part in zip(*rows, strict=True)]


def _tempered(row: Row, weight: float) -> tuple[Row, Row, Row]:
    tempered = tuple(q**weight for q in row)
    return row, tempered, tuple(r * math.log(r) if r > 0 else 0.0 for r in tempered)


def _prepared(names: list[str], chances: list[Row], weight: float) -> Answers:
    return Answers(names, *map(list, zip(*[_tempered(column, weight) for column in chances], strict=True)))


def _state_row(view: Shows, hypothesis: str, character: str, season: str) -> tuple[Row, Row, Row]:
    """Chance of each report (of each state's being reported, for many-state characters), then of 'does not
    apply'; tempered; surprise.
    """
    key = (hypothesis, character, season)
    if key not in view.rows:
        view.rows[key] = _tempered(_find_state_row(view, *key), view.flora.weight_of_group(character))
    found: tuple[Row, Row, Row] = view.rows[key]
    return found


def _find_state_row(view: Shows, hypothesis: str, character: str, season: str) -> Row:
    flora = view.flora
    c = flora.characters[character]
    weights = view.weights(hypothesis, character, season) if hypothesis in flora.taxa else None
    p0 = _marginal_row(view, character)
    if hypothesis in flora.taxa and (weights or view.applies(hypothesis, character, season) < 0.5):
        extra = leaflet_for_leaf(hypothesis, view, c, season)
        row = _reported(c, weights, view.applies(hypothesis, character, season), extra)
    else:
        row = _from_relatives(view, hypothesis, p0, lambda t: _known_row(view, t, character, season))
    return tuple((1 - FLOOR) * p + FLOOR * q for p, q in zip(row, p0, strict=True))


def _known_row(view: Shows, taxon: str, character: str, season: str) -> Row | None:
    known = view.weights(taxon, character, season) or view.applies(taxon, character, season) < 0.5
    return _state_row(view, taxon, character, season)[0] if known else None


def _from_relatives(view: Shows, hypothesis: str, p0: Row, row_of: Callable[[str], Row | None]) -> Row:
    """Unknown data: the mean of the genus, then of the family, then P0; an unlisted species is part genus,
    part anything.
    """
    flora = view.flora
    unlisted_in = flora.genus_of_unlisted.get(hypothesis)
    nodes = (
        [unlisted_in] if unlisted_in else [flora.genus_of.get(hypothesis), flora.family_of.get(hypothesis)]
    )
    for node in nodes:
        rows = [
            r for t in flora.below.get(node or "", ()) if t != hypothesis and (r := row_of(t)) is not None
        ]
        if rows:
            mean = tuple(math.fsum(column) / len(rows) for column in zip(*rows, strict=True))
            return (
                tuple(GENUS_SHARE * p + (1 - GENUS_SHARE) * q for p, q in zip(mean, p0, strict=True))
                if unlisted_in
                else mean
            )
    return p0


def _reported(c: dict[str, Any], weights: dict[str, float] | None, applies: float, extra: float = 0.0) -> Row:
    n = len(c["states"])
    row = [INAPPLICABLE / n] * n
    if weights is not None:
        if c["kind"] == "many":
            seen = [(1 - SLIP_NEXT) * weights[s] + SLIP_NEXT / n for s in c["states"]]
        else:
            table = {
                s: [misreading(c, s, r, SLIP_NEXT, extra if s == "alternate" else 0.0) for r in c["states"]]
                for s in weights
            }
            seen = [math.fsum(p * table[s][i] for s, p in weights.items()) for i in range(n)]
        row = [applies * p + (1 - applies) * q for p, q in zip(seen, row, strict=True)]
    return (*row, (1 - applies) * (1 - INAPPLICABLE))


def _marginal_row(view: Shows, character: str) -> Row:
    """P0 over the whole flora: what would be reported of nobody knows what."""
    key = ("P0", character)
    if key not in view.rows:
        flora = view.flora
        applies = 1.0
        for other, states in flora.characters[character].get("requires", {}).items():
            applies *= min(1.0, math.fsum(marginal(flora, other)[s] for s in states))
        view.rows[key] = _reported(flora.characters[character], marginal(flora, character), applies)
    row: Row = view.rows[key]
    return row


def _best_state(states: list[str], rows: list[Row], odds: list[float], weight: float) -> Answers:
    """The state whose presence divides the candidates best, as present, absent or without sense."""
    columns = list(zip(*rows, strict=True))

    def divided(i: int) -> float:
        column = columns[i]
        mean = math.fsum(map(mul, odds, column))
        return math.fsum(map(mul, odds, map(mul, column, column))) - mean * mean

    best = max(range(len(states)), key=lambda i: (divided(i), states[i]))
    chosen, senseless = columns[best], columns[-1]
    pairs = list(zip(chosen, senseless, strict=True))
    chances = [tuple(p * (1 - q) for p, q in pairs), tuple((1 - p) * (1 - q) for p, q in pairs), senseless]
    return _prepared([states[best], "not " + states[best], NO_SENSE], chances, weight)


def _of_samples(
    view: Shows,
    character: str,
    c: dict[str, Any],
    keyed: list[tuple[str, str]],
    odds: list[float],
    weight: float,
) -> Answers | None:
    """Bins fitted to the candidates; with many of them their mixture is as broad as the flora's, and its bins
    serve.
    """
    if len(keyed) > MANY:
        if not any(view.spread(h, character) for h, _ in keyed if h in view.flora.taxa):
            return None
        return Answers(
            _flora_bins(view, character)[0],
            *_columns([_binned_row(view, h, character, season) for h, season in keyed]),
        )
    grid = _grid(c)
    curves = [_curve(view, h, character, grid) for h, _ in keyed]
    known = [(p, curve) for p, curve in zip(odds, curves, strict=True) if curve is not None]
    if not known:
        return None
    total = math.fsum(p for p, _ in known)
    shares = [p / total for p, _ in known]
    middle = [
        math.fsum(map(mul, shares, column)) for column in zip(*(curve for _, curve in known), strict=True)
    ]
    cuts, names = (_whole_cuts if _is_whole(c) else _equal_cuts)(c, grid, middle)
    p0 = _pieces(middle, cuts)
    rows = [
        _sample_row(view, h, character, season, curve, cuts, p0)
        for (h, season), curve in zip(keyed, curves, strict=True)
    ]
    return _prepared([*names, NO_SENSE], list(zip(*rows, strict=True)), weight)


def _sample_row(
    view: Shows,
    hypothesis: str,
    character: str,
    season: str,
    curve: Curve | None,
    cuts: list[int],
    p0: list[float],
) -> Row:
    applies = view.applies(hypothesis, character, season) if hypothesis in view.flora.taxa else 1.0
    own = p0 if curve is None else _pieces(curve, cuts)
    rest = applies * FLOOR + (1 - applies) * INAPPLICABLE
    return (
        *[applies * (1 - FLOOR) * q + rest * m for q, m in zip(own, p0, strict=True)],
        (1 - applies) * (1 - INAPPLICABLE),
    )


def _flora_bins(view: Shows, character: str) -> tuple[list[str], list[int], list[float]]:
    """(names with 'does not apply', cuts, P0) of 12 bins of equal mass over the whole flora; kept with the
    view.
    """
    key = ("bins", character)
    if key not in view.rows:
        c = view.flora.characters[character]
        grid = _grid(c)
        known = [
            r
            for t in view.flora.leaves
            if view.spread(t, character) and (r := _curve(view, t, character, grid))
        ]
        middle = [math.fsum(column) / len(known) for column in zip(*known, strict=True)]
        cuts, names = _equal_cuts(c, grid, middle)
        view.rows[key] = ([*names, NO_SENSE], cuts, _pieces(middle, cuts))
    found: tuple[list[str], list[int], list[float]] = view.rows[key]
    return found


def _binned_row(view: Shows, hypothesis: str, character: str, season: str) -> tuple[Row, Row, Row]:
    key = (hypothesis, character, season, "binned")
    if key not in view.rows:
        _, cuts, p0 = _flora_bins(view, character)
        curve = _curve(view, hypothesis, character, _grid(view.flora.characters[character]))
        row = _sample_row(view, hypothesis, character, season, curve, cuts, p0)
        view.rows[key] = _tempered(row, view.flora.weight_of_group(character))
    found: tuple[Row, Row, Row] = view.rows[key]
    return found


def _pieces(curve: Sequence[float], cuts: list[int]) -> list[float]:
    """Chance of lying between consecutive cuts, the tails with the first and the last."""
    return [max(0.0, b - a) for a, b in itertools.pairwise([0.0, *[curve[i] for i in cuts], 1.0])]


def _is_whole(c: dict[str, Any]) -> bool:
    return c["kind"] == "count" and c.get("scale") != "log" and c["range"][1] <= MOST_WHOLE


def _grid(c: dict[str, Any]) -> Sequence[float]:
    """Where the curves are known: between whole numbers, or at even steps of the character's own scale."""
    low, high = c["range"]
    if _is_whole(c):
        return [k + 0.5 for k in range(int(low), int(high))]
    if c.get("scale") == "log":
        low, high = math.log(max(low, 1e-6)), math.log(high)
    return [low + (high - low) * i / GRID for i in range(1, GRID)]


def _curve(view: Shows, hypothesis: str, character: str, grid: Sequence[float]) -> Curve | None:
    """Chance that the mean of five leaves lies under each point of the grid; unknown ones from their
    relatives.
    """
    key = (hypothesis, character, "curve")
    if key not in view.rows:
        flora = view.flora
        spread = view.spread(hypothesis, character) if hypothesis in flora.taxa else None
        if spread is None:
            genus = flora.genus_of_unlisted.get(hypothesis, flora.genus_of.get(hypothesis))
            rows = [
                r
                for t in flora.below.get(genus or "", ())
                if view.spread(t, character) and (r := _curve(view, t, character, grid))
            ]
            view.rows[key] = (
                array("d", [math.fsum(column) / len(rows) for column in zip(*rows, strict=True)])
                if rows
                else None
            )
        else:
            c = flora.characters[character]
            mean, sd = spread
            plant, leaf = split_variance(sd, float(c["between"]), c["kind"], c.get("scale") == "log", mean)
            width = math.sqrt(plant**2 + leaf**2 / LEAVES_PER_SAMPLE) * math.sqrt(2)
            view.rows[key] = array("d", [0.5 * math.erfc((mean - x) / width) for x in grid])
    curve: Curve | None = view.rows[key]
    return curve


def _whole_cuts(c: dict[str, Any], grid: Sequence[float], middle: list[float]) -> tuple[list[int], list[str]]:
    """Cuts between whole numbers, the tails (a thousandth each) pooled."""
    low = min(bisect_left(middle, 0.001), len(grid) - 1)
    high = max(min(bisect_left(middle, 0.999), len(grid) - 1), low)
    cuts = list(range(low, high + 1))
    first = int(c["range"][0])
    return cuts, [
        f"{first + low} or fewer",
        *[str(first + i) for i in cuts[1:]],
        f"{first + high + 1} or more",
    ]


def _equal_cuts(c: dict[str, Any], grid: Sequence[float], middle: list[float]) -> tuple[list[int], list[str]]:
    """Cuts at the grid points next to equal shares of the predictive mass."""
    cuts = sorted({min(bisect_left(middle, i / BINS), len(grid) - 1) for i in range(1, BINS)})
    read = [math.exp(grid[i]) if c.get("scale") == "log" else grid[i] for i in cuts]
    if _is_whole(c):
        whole = [
            f"{a + 0.5:g}" if b == a + 1 else f"{a + 0.5:g} to {b - 0.5:g}"
            for a, b in itertools.pairwise(read)
        ]
        return cuts, [f"{read[0] - 0.5:g} or fewer", *whole, f"{read[-1] + 0.5:g} or more"]
    return cuts, [
        f"under {read[0]:.3g}",
        *[f"{a:.3g} to {b:.3g}" for a, b in itertools.pairwise(read)],
        f"over {read[-1]:.3g}",
    ]
