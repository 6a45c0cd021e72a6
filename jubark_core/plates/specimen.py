"""The numbers a drawing needs, read off a taxon's description: the typical plant, or one individual of it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from jubark_core.flora.model import Flora
from jubark_core.flora.views import shows

Quantile = Callable[[str], float]  # character -> 0..1: where in the taxon's range this plant lies


def typical(character: str) -> float:
    """The middle of every range."""
    return 0.5


@dataclass(frozen=True)
class Specimen:
    """One plant of a taxon as it is drawn. season: `summer` or `winter`; quantile: typical, or an
    individual's own.
    """

    flora: Flora
    taxon: str
    season: str = "summer"
    stage: str = "mature"
    quantile: Quantile = typical

    @property
    def name(self) -> str:
        """What the drawing is of, for its title."""
        return str(self.flora.taxa[self.taxon]["name"])

    def one(self, character: str, default: str = "") -> str:
        """The state shown: the likeliest of the typical plant, drawn by its quantile for an individual."""
        weights = shows(self.flora, self.stage).weights(self.taxon, character, self.season)
        if weights is None or shows(self.flora, self.stage).applies(self.taxon, character, self.season) < 0.3:
            return default
        if self.quantile is typical:
            return max(weights, key=lambda s: (weights[s], -list(weights).index(s)))
        left = self.quantile(character) * math.fsum(weights.values())
        for state, weight in weights.items():
            left -= weight
            if left <= 0:
                return state
        return default

    def many(self, character: str, least: float = 0.5) -> list[str]:
        """States that are usually there, likeliest first."""
        weights = shows(self.flora, self.stage).weights(self.taxon, character, self.season) or {}
        return sorted((s for s, p in weights.items() if p >= least), key=lambda s: -weights[s])

    def number(self, character: str, default: float) -> float:
        """A count or measure: the middle of the range, or the individual's own value."""
        spread = shows(self.flora, self.stage).spread(self.taxon, character)
        if spread is None or shows(self.flora, self.stage).applies(self.taxon, character, self.season) < 0.3:
            return default
        mean, sd = spread
        value = mean + sd * 2 * (self.quantile(character) - 0.5)
        return math.exp(value) if self.flora.characters[character].get("scale") == "log" else value

    def whole(self, character: str, default: int) -> int:
        """A count as a whole number."""
        return round(self.number(character, default))


@dataclass(frozen=True)
class Pretend(Specimen):
    """No plant at all: only the states given, so that one state of a character can be drawn by itself."""

    shown: tuple[tuple[str, str], ...] = ()

    @property
    def name(self) -> str:
        """Pretended plants have none."""
        return "a plant"

    def one(self, character: str, default: str = "") -> str:
        """The state given, or the default."""
        return dict(self.shown).get(character, default)

    def many(self, character: str, least: float = 0.5) -> list[str]:
        """The states given."""
        return [s for c, s in self.shown if c == character]

    def number(self, character: str, default: float) -> float:
        """The number given, or the default."""
        return float(dict(self.shown).get(character, default))
