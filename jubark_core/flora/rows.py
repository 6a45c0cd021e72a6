"""What every hypothesis shows of a character, side by side: the taxa that describe it, and what is held of
those that are silent and of species the flora does not hold.

A character is described where it is remarkable; silence mostly means the ordinary. Where the vocabulary
calls a state ordinary, a silent taxon has it, with a fifth of what the describing taxa show. Where it does
not, a silent taxon is like its relatives, shrunk toward the whole flora: relatives that disagree count
less, and one never lends its certainty.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from jubark_core.flora.shows import Shows

ORDINARY_SHARE = 0.8
# How much the wider circle counts against relatives. The flora's own one-state descriptions, each predicted
# from the other species of its genus, are foretold best at about this (and far worse at 2).
KAPPA = 0.3
COMPOUND = ("pinnate", "trifoliate", "palmate_compound", "bipinnate")

Weights = tuple[float, ...]


@dataclass(frozen=True)
class Row:
    """What one or several hypotheses show. weights: of the states in the vocabulary's order; for many-state
    characters presences as reported, which do not sum to 1. applies: chance that the character makes sense.
    compound: chance that leaflets can be taken for leaves, where the character suffers from that.
    """

    weights: Weights
    applies: float
    compound: float = 0.0


@dataclass(frozen=True)
class StateRows:
    """The distinct rows of a character, and which of them each hypothesis has, in the order of
    `flora.hypotheses`.

    leaves: how many taxa of the flora have each row (0 for rows of unlisted species alone). described:
    whether any taxon says something of the character.
    """

    rows: list[Row]
    of: list[int]
    leaves: list[int]
    described: bool


def state_rows(view: Shows, character: str, season: str, where: str) -> StateRows:
    """The rows of a one- or many-state character in a season; where: height on the trunk, or ''."""
    flora, c = view.flora, view.flora.characters[character]
    own = [_own(view, t, character, season, where, c) for t in flora.leaves]
    applies = [view.applies(t, character, season) for t in flora.leaves]
    compound = [_compound(view, t, season) if c.get("leaflet_for_leaf") else 0.0 for t in flora.leaves]
    telling = [w for w, a in zip(own, applies, strict=True) if w is not None and a > 0.5]
    described = mean(telling)
    known = own if described is None else _with_ordinary(own, c, described)
    flat = tuple([1 / len(c["states"])] * len(c["states"]))
    marginal = mean([w for w, a in zip(known, applies, strict=True) if w is not None and a > 0.5]) or flat
    found = []
    sense = view.sense(character, season)
    for h, (_, place, genus, family) in enumerate(flora.relatives):
        weights = known[place] if place is not None else None
        if weights is None:
            in_family = shrunk(
                [w for i in family if (w := known[i]) is not None and applies[i] > 0.5], marginal
            )
            weights = shrunk(
                [w for i in genus if (w := known[i]) is not None and applies[i] > 0.5], in_family
            )
        if place is not None:
            found.append(Row(weights, applies[place], compound[place]))
        else:
            kin = genus or range(len(applies))
            found.append(Row(weights, sense[h], _mean_of(compound, kin)))
    return _distinct(found, [place is not None for _, place, _, _ in flora.relatives], bool(telling))


def _own(
    view: Shows, taxon: str, character: str, season: str, where: str, c: dict[str, Any]
) -> Weights | None:
    weights = view.weights(taxon, character, season, where)
    if weights is None:
        return None
    shown = view.reported(taxon, character, season, where) if c["kind"] == "many" else weights
    return tuple(shown[s] for s in c["states"])


def _with_ordinary(own: list[Weights | None], c: dict[str, Any], described: Weights) -> list[Weights | None]:
    ordinary = c.get("ordinary")
    if ordinary is None:
        return own
    row = tuple(
        ORDINARY_SHARE * (s == ordinary) + (1 - ORDINARY_SHARE) * p
        for s, p in zip(c["states"], described, strict=True)
    )
    return [row if weights is None else weights for weights in own]


def mean(rows: Sequence[Weights]) -> Weights | None:
    """Mean of rows, column by column; None for none."""
    return tuple(math.fsum(column) / len(rows) for column in zip(*rows, strict=True)) if rows else None


def shrunk(relatives: Sequence[Weights], toward: Weights) -> Weights:
    """(Σ relatives + κ·toward) / (n + κ) with κ = KAPPA / Σ m², m the relatives' mean row: n relatives that
    agree count n, relatives that disagree count less against what is held of the wider circle.
    """
    middle = mean(relatives)
    if middle is None:
        return toward
    total = math.fsum(middle) or 1.0
    weight = KAPPA / math.fsum((p / total) ** 2 for p in middle)
    n = len(relatives)
    return tuple((n * p + weight * q) / (n + weight) for p, q in zip(middle, toward, strict=True))


def _compound(view: Shows, taxon: str, season: str) -> float:
    types = view.weights(taxon, "leaf.type", season) or {}
    return math.fsum(types.get(kind, 0.0) for kind in COMPOUND)


def _mean_of(values: Sequence[float], places: Sequence[int]) -> float:
    return math.fsum(values[i] for i in places) / len(places)


def _distinct(found: list[Row], is_leaf: list[bool], described: bool) -> StateRows:
    place: dict[Row, int] = {}
    of = [place.setdefault(row, len(place)) for row in found]
    leaves = [0] * len(place)
    for i, leaf in zip(of, is_leaf, strict=True):
        leaves[i] += leaf
    return StateRows(list(place), of, leaves, described)
