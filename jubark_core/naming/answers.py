"""What each answer to a look not made yet would say: chances of the answers by class of hypotheses.

Live candidates share few distinct rows per character, and what is needed of them is linear in the sums of p
and of p·log p: rows of chances are worked out once per distinct row and kept with the view of the flora.
"""

from __future__ import annotations

import itertools
import math
from array import array
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from operator import mul
from typing import Any

from jubark_core.flora.shows import Shows
from jubark_core.flora.words import SLIP
from jubark_core.naming.likelihood import FLOOR, RELATIVES, report_row
from jubark_core.naming.samples import split_variance
from jubark_core.naming.states import INAPPLICABLE

SLIP_NEXT = SLIP["likely"]  # a look not made yet is taken as likely
LEAVES_PER_SAMPLE = 5
BINS, GRID = 12, 90
MANY = 20  # candidates from which the bins are the flora's, not fitted to them
MOST_WHOLE = 60  # a count that can go beyond is binned like a measure
NO_SENSE = "does not apply"

Row = tuple[float, ...]
Curve = Sequence[float]  # of doubles: a curve is long and kept
Parts = tuple[Row, Row, Row]  # chances of the answers, tempered, and tempered · log tempered


@dataclass(frozen=True)
class Answers:
    """The answers to a look by class of hypotheses that show the same.

    rows: per class its chances P' of the answers, untempered, floor included; the same to the power of the
    weight; and that times its logarithm. of: the class of each live hypothesis.
    """

    names: list[str]
    rows: list[Parts]
    of: list[int]


def answers(
    view: Shows, character: str, keyed: list[tuple[int, str]], odds: list[float], weight: float
) -> Answers | None:
    """The answers to a look and their chances for the live hypotheses; None where no taxon knows anything of
    it.

    keyed: places in `flora.hypotheses` of the live ones, with the season each is in on the day. odds: their
    probabilities. weight: what the look would enter with. Counts: integers with the tails pooled; measures:
    the mean of five leaves in 12 bins of about equal predictive mass; many-state characters: the best
    single state, present or absent.
    """
    c = view.flora.characters[character]
    if c["kind"] in ("count", "measure"):
        return _of_samples(view, character, c, keyed, odds, weight)
    classes: dict[tuple[str, int], int] = {}
    if character in view.flora.by_season:
        by_season = {season: view.rows(character, season) for season in {season for _, season in keyed}}
        if not any(rows.described for rows in by_season.values()):
            return None
        of = [classes.setdefault((season, by_season[season].of[h]), len(classes)) for h, season in keyed]
    else:
        rows = view.rows(character, "summer")
        if not rows.described:
            return None
        place: dict[int, int] = {}
        of = [place.setdefault(rows.of[h], len(place)) for h, _ in keyed]
        classes = {("summer", row): i for row, i in place.items()}
    if c["kind"] == "one":
        found = [_state_row(view, character, season, row, weight) for season, row in classes]
        return Answers([*c["states"], NO_SENSE], found, of)
    plain = [_state_row(view, character, season, row, 1.0)[0] for season, row in classes]
    return _best_state(c["states"], plain, of, odds, weight)


def _tempered(row: Row, weight: float) -> Parts:
    tempered = row if weight == 1 else tuple(q**weight for q in row)
    return row, tempered, tuple(r * math.log(r) if r > 0 else 0.0 for r in tempered)


def _state_row(view: Shows, character: str, season: str, row: int, weight: float) -> Parts:
    """Chance of each report (of each state's being reported, for many-state characters), then of 'does not
    apply'; tempered; surprise.
    """
    key = (character, season if character in view.flora.by_season else "", row, weight)
    if key not in view.reports:
        rows = view.rows(character, season)
        own = report_row(view.flora, character, rows.rows[row], SLIP_NEXT)
        p0 = _marginal_row(view, character, season)
        floored = tuple((1 - FLOOR) * p + FLOOR * q for p, q in zip(own, p0, strict=True))
        view.reports[key] = _tempered(floored, weight)
    found: Parts = view.reports[key]
    return found


def _marginal_row(view: Shows, character: str, season: str) -> Row:
    """P0: the mean report over all taxa."""
    key = ("P0", character, season if character in view.flora.by_season else "")
    if key not in view.reports:
        rows = view.rows(character, season)
        leaves = sum(rows.leaves)
        shares = [n / leaves for n in rows.leaves]
        reports = [report_row(view.flora, character, row, SLIP_NEXT) for row in rows.rows]
        view.reports[key] = tuple(
            math.fsum(map(mul, shares, column)) for column in zip(*reports, strict=True)
        )
    found: Row = view.reports[key]
    return found


def _best_state(
    states: list[str], rows: list[Row], of: list[int], odds: list[float], weight: float
) -> Answers:
    """The state whose presence divides the candidates best, as present, absent or without sense."""
    shares = class_sums(of, odds, len(rows))
    columns = list(zip(*rows, strict=True))

    def divided(i: int) -> float:
        column = columns[i]
        mean: float = sum(map(mul, shares, column))
        squares: float = sum(map(mul, shares, map(mul, column, column)))
        return squares - mean * mean

    best = max(range(len(states)), key=lambda i: (divided(i), states[i]))
    found = [
        _tempered((row[best] * (1 - row[-1]), (1 - row[best]) * (1 - row[-1]), row[-1]), weight)
        for row in rows
    ]
    return Answers([states[best], "not " + states[best], NO_SENSE], found, of)


def class_sums(of: Sequence[int], values: Sequence[float], classes: int) -> list[float]:
    """Sums of values by class: a few dozen terms of one sign, whose order is fixed."""
    sums = [0.0] * classes
    for i, value in zip(of, values, strict=True):
        sums[i] += value
    return sums


def _of_samples(
    view: Shows,
    character: str,
    c: dict[str, Any],
    keyed: list[tuple[int, str]],
    odds: list[float],
    weight: float,
) -> Answers | None:
    """Bins fitted to the candidates; with many of them their mixture is as broad as the flora's, and its bins
    serve.
    """
    if not _is_measured(view, character):
        return None
    if len(keyed) > MANY:
        rows = [_binned_row(view, h, character, season, weight) for h, season in keyed]
        return Answers(_flora_bins(view, character)[0], rows, list(range(len(rows))))
    grid = _grid(c)
    curves = [_curve(view, h, character, grid) for h, _ in keyed]
    total = math.fsum(odds)
    shares = [p / total for p in odds]
    middle = [math.fsum(map(mul, shares, column)) for column in zip(*curves, strict=True)]
    cuts, names = (_whole_cuts if _is_whole(c) else _equal_cuts)(c, grid, middle)
    p0 = _pieces(middle, cuts)
    rows = [
        _tempered(_sample_row(view, h, character, season, curve, cuts, p0), weight)
        for (h, season), curve in zip(keyed, curves, strict=True)
    ]
    return Answers([*names, NO_SENSE], rows, list(range(len(rows))))


def _is_measured(view: Shows, character: str) -> bool:
    key = ("measured", character)
    if key not in view.reports:
        view.reports[key] = any(view.spread(t, character) for t in view.flora.leaves)
    return bool(view.reports[key])


def _sample_row(
    view: Shows,
    hypothesis: int,
    character: str,
    season: str,
    curve: Curve,
    cuts: list[int],
    p0: list[float],
) -> Row:
    applies = view.sense(character, season)[hypothesis]
    rest = applies * FLOOR + (1 - applies) * INAPPLICABLE
    return (
        *[applies * (1 - FLOOR) * q + rest * m for q, m in zip(_pieces(curve, cuts), p0, strict=True)],
        (1 - applies) * (1 - INAPPLICABLE),
    )


def _flora_bins(view: Shows, character: str) -> tuple[list[str], list[int], list[float]]:
    """(names with 'does not apply', cuts, P0) of 12 bins of equal mass over the whole flora; kept with the
    view.
    """
    key = ("bins", character)
    if key not in view.reports:
        c = view.flora.characters[character]
        grid = _grid(c)
        middle = _flora_curve(view, character, grid)
        cuts, names = _equal_cuts(c, grid, list(middle))
        view.reports[key] = ([*names, NO_SENSE], cuts, _pieces(middle, cuts))
    found: tuple[list[str], list[int], list[float]] = view.reports[key]
    return found


def _binned_row(view: Shows, hypothesis: int, character: str, season: str, weight: float) -> Parts:
    key = (hypothesis, character, season, weight, "binned")
    if key not in view.reports:
        _, cuts, p0 = _flora_bins(view, character)
        curve = _curve(view, hypothesis, character, _grid(view.flora.characters[character]))
        row = _sample_row(view, hypothesis, character, season, curve, cuts, p0)
        view.reports[key] = _tempered(row, weight)
    found: Parts = view.reports[key]
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


def _curve(view: Shows, hypothesis: int, character: str, grid: Sequence[float]) -> Curve:
    """Chance that the mean of five leaves lies under each point of the grid; unknown ones from their
    relatives, shrunk toward the whole flora.
    """
    key = (hypothesis, character, "curve")
    if key not in view.reports:
        _, place, genus, family = view.flora.relatives[hypothesis]
        own = _leaf_curve(view, place, character, grid) if place is not None else None
        if own is None:
            overall = _flora_curve(view, character, grid)
            own = _shrunk(view, genus, character, grid, _shrunk(view, family, character, grid, overall))
        view.reports[key] = own
    curve: Curve = view.reports[key]
    return curve


def _leaf_curve(view: Shows, place: int, character: str, grid: Sequence[float]) -> Curve | None:
    key = (place, character, "leaf curve")
    if key not in view.reports:
        spread = view.spread(view.flora.leaves[place], character)
        if spread is None:
            view.reports[key] = None
        else:
            c = view.flora.characters[character]
            mean, sd = spread
            plant, leaf = split_variance(sd, float(c["between"]), c["kind"], c.get("scale") == "log", mean)
            width = math.sqrt(plant**2 + leaf**2 / LEAVES_PER_SAMPLE) * math.sqrt(2)
            view.reports[key] = array("d", [0.5 * math.erfc((mean - x) / width) for x in grid])
    curve: Curve | None = view.reports[key]
    return curve


def _shrunk(view: Shows, places: list[int], character: str, grid: Sequence[float], toward: Curve) -> Curve:
    kin = [curve for i in places if (curve := _leaf_curve(view, i, character, grid)) is not None]
    if not kin:
        return toward
    n = len(kin)
    sums = map(sum, zip(*kin, strict=True))
    return array(
        "d", [(total + RELATIVES * q) / (n + RELATIVES) for total, q in zip(sums, toward, strict=True)]
    )


def _flora_curve(view: Shows, character: str, grid: Sequence[float]) -> Curve:
    key = ("flora curve", character)
    if key not in view.reports:
        found = [_leaf_curve(view, i, character, grid) for i in range(len(view.flora.leaves))]
        known = [own for own in found if own is not None]
        view.reports[key] = array(
            "d", [math.fsum(column) / len(known) for column in zip(*known, strict=True)]
        )
    curve: Curve = view.reports[key]
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
