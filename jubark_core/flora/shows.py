"""What a taxon shows at a stage of life: weights of states, spread of counts and measures, and what applies
at all.

One view per stage, share of planted stock and kind of shoot (views.py keeps the last ones). They only ever
gain equal values, so that threads can share them.
"""

from __future__ import annotations

import math
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.rows import StateRows, state_rows
from jubark_core.flora.words import FREQUENCY, MOST_UNNAMED, UNNAMED_STATE

# Where a taxon describes other stages than the one asked for, the nearest is used and widened.
NEAREST_STAGE = {
    "seedling": "young",
    "sapling": "young",
    "resprout": "young",
    "veteran": "mature",
    "clipped": "mature",
    "young": "mature",
    "mature": "young",
}
BORROWED = 0.3  # share of 'anything' in what is borrowed from another stage
# The same for a description that tells no stages apart: it was written of grown plants ('common practice').
UNTOLD = {"seedling": 0.25, "sapling": 0.08, "young": 0.04, "resprout": 0.2, "clipped": 0.08}
SETTLED_EARLY = 0.2  # arrangement and leaf type hold from the first true leaves: a fifth of that widening
WIDER_SD = {"seedling": 1.5, "resprout": 1.5, "sapling": 1.2, "clipped": 1.25}
ODD_SHOOTS = ("vigorous", "spur", "epicormic")
Z90 = 1.6448536269514722  # a central 90 % range reaches this many sd to each side
COUNT_SD_FLOOR = 0.3
RELATIVE_SD_FLOOR = 0.03


class Shows:
    """The descriptions of a flora as they stand for one stage, share of planted stock and kind of shoot."""

    def __init__(self, flora: Flora, stage: str, planted: float, shoot: str = "normal") -> None:
        self.flora, self.stage, self.planted, self.shoot = flora, stage, planted, shoot
        self._weights: dict[tuple[str, str, str, str], dict[str, float] | None] = {}
        self._spread: dict[tuple[str, str], tuple[float, float] | None] = {}
        self._applies: dict[tuple[str, str, str], float] = {}
        self._sense: dict[tuple[str, str], list[float]] = {}
        self._rows: dict[tuple[str, str, str], StateRows] = {}
        self.reports: dict[tuple[Any, ...], Any] = {}  # kept by naming/answers.py
        self.apart: dict[tuple[str, str, str], list[str]] = {}  # kept by flora/separation.py

    def variant(
        self, taxon: str, character: str, season: str, where: str = ""
    ) -> tuple[dict[str, Any], float] | None:
        """What the taxon says of the character then, and the share of 'anything' to mix in; None where it is
        silent.
        """
        variants = self.flora.taxa[taxon]["states"].get(character)
        if not variants:
            return None
        for places in ({where}, {"", "breast"}, {where, "", "base", "breast", "upper", "limb"}):
            for stage in (self.stage, NEAREST_STAGE.get(self.stage, self.stage)):
                for v in variants:
                    if (
                        v.get("stage", stage) == stage
                        and v.get("season", season) == season
                        and v.get("where", "") in places
                    ):
                        return v, self._untold(
                            character
                        ) if "stage" not in v else BORROWED if stage != self.stage else 0.0
        return variants[0], BORROWED

    def _untold(self, character: str) -> float:
        wider = UNTOLD.get(self.stage, 0.0)
        if self.flora.characters[character]["organ"] == "bark":
            return min(BORROWED, 2 * wider)
        return (
            wider * SETTLED_EARLY if self.flora.characters[character].get("group") == "arrangement" else wider
        )

    def weights(self, taxon: str, character: str, season: str, where: str = "") -> dict[str, float] | None:
        """State -> weight for one- and many-state characters; None where the taxon says nothing.

        `one`: they sum to 1. `many`: presences, never normalised. Cultivars of the taxon widen it by their
        share of the planted stock.
        """
        key = (taxon, character, season, where)
        if key not in self._weights:
            self._weights[key] = self._find_weights(*key)
        return self._weights[key]

    def _find_weights(self, taxon: str, character: str, season: str, where: str) -> dict[str, float] | None:
        found = self.variant(taxon, character, season, where)
        if found is None or "weights" not in found[0]:
            return None
        c = self.flora.characters[character]
        weights = full_weights(c, found[0]["weights"])
        if self.planted > 0:
            for cultivar in self.flora.taxa[taxon].get("cultivars", ()):
                for v in cultivar["states"].get(character, ()):
                    share = self.planted * cultivar["share"]
                    own = full_weights(c, v["weights"])
                    weights = {s: (1 - share) * p + share * own[s] for s, p in weights.items()}
        any_state = 0.3 if c["kind"] == "many" else 1 / len(weights)
        return (
            {s: (1 - found[1]) * p + found[1] * any_state for s, p in weights.items()}
            if found[1]
            else weights
        )

    def reported(self, taxon: str, character: str, season: str, where: str = "") -> dict[str, float]:
        """Presences of a many-state character of a taxon that knows it, after the usual confusions."""
        weights = self.weights(taxon, character, season, where) or {}
        confusions: dict[str, dict[str, float]] = self.flora.characters[character].get("confusions", {})
        presence = dict(weights)
        for state, own in weights.items() if confusions else ():
            from_others = math.fsum(
                weights[s] * row.get(state, 0.0) for s, row in confusions.items() if s != state
            )
            presence[state] = min(
                0.99, own * (1 - math.fsum(confusions.get(state, {}).values())) + from_others
            )
        return presence

    def spread(self, taxon: str, character: str) -> tuple[float, float] | None:
        """(mean, sd) of single leaves, twigs or fruits, in log where the character's scale is log."""
        key = (taxon, character)
        if key not in self._spread:
            self._spread[key] = self._find_spread(taxon, character)
        return self._spread[key]

    def _find_spread(self, taxon: str, character: str) -> tuple[float, float] | None:
        found = self.variant(taxon, character, "summer")
        if found is None:
            return None
        v, borrowed = found
        c = self.flora.characters[character]
        log = c.get("scale") == "log"
        if "mean" in v:
            mean, sd = v["mean"], v["sd"]
        elif "low" in v:
            low, high = (math.log(v["low"]), math.log(v["high"])) if log else (v["low"], v["high"])
            mean, sd = (low + high) / 2, (high - low) / (2 * Z90)
        else:
            return None
        sd *= 1.5 if borrowed == BORROWED or self.shoot in ODD_SHOOTS else WIDER_SD.get(self.stage, 1.0)
        floor = (
            COUNT_SD_FLOOR
            if c["kind"] == "count"
            else RELATIVE_SD_FLOOR
            if log
            else RELATIVE_SD_FLOOR * max(abs(mean), 1e-9)
        )
        return mean, max(sd, floor)

    def applies(self, taxon: str, character: str, season: str) -> float:
        """Chance that the character makes sense on this taxon (leaflets only where leaves are compound)."""
        key = (taxon, character, season)
        if key not in self._applies:
            own = self.flora.taxa[taxon]["states"].get(character)
            chance = float(own[0].get("applies", True)) if own else 1.0
            for other, states in self.flora.characters[character].get("requires", {}).items():
                weights = self.weights(taxon, other, season)
                if weights is not None:
                    chance *= min(1.0, math.fsum(weights[s] for s in states))
            self._applies[key] = chance
        return self._applies[key]

    def rows(self, character: str, season: str, where: str = "") -> StateRows:
        """What every hypothesis shows of the character, the silent ones and the unlisted included."""
        key = (character, season if character in self.flora.by_season else "summer", where)
        if key not in self._rows:
            self._rows[key] = state_rows(self, *key)
        return self._rows[key]

    def sense(self, character: str, season: str) -> list[float]:
        """Chance that the character makes sense on each hypothesis; on unlisted species as on their genus."""
        key = (character, season)
        if key not in self._sense:
            known = [self.applies(t, character, season) for t in self.flora.leaves]
            overall = math.fsum(known) / len(known)
            self._sense[key] = [
                known[place]
                if place is not None
                else math.fsum(known[i] for i in genus) / len(genus)
                if genus
                else overall
                for _, place, genus, _ in self.flora.relatives
            ]
        return self._sense[key]

    def odd_share(self, taxon: str, character: str) -> float | None:
        """Share of odd numbers where the character's counts are mostly odd or mostly even; None where they
        run freely.

        Leaflets come in pairs, and one more where there is an end leaflet; a reduced one is counted about
        every other time.
        """
        decided_by = self.flora.characters[character].get("parity")
        if not decided_by:
            return None
        weights = self.weights(taxon, decided_by["character"], "summer")
        return None if weights is None else 0.45 + 0.5 * weights[decided_by["odd"]]


def full_weights(c: dict[str, Any], named: dict[str, float]) -> dict[str, float]:
    """Named weights over every state of the character.

    Many-state characters: presences, 0.01 where not named. One-state characters sum to 1: the unnamed
    states share 0.01 where one is always there or the words say it all, else what the words leave, at most
    0.2; a long list of states must not eat into `always`.
    """
    if c["kind"] == "many":
        return {s: named.get(s, UNNAMED_STATE) for s in c["states"]}
    said = math.fsum(named.values())
    unnamed = len(c["states"]) - len(named)
    told = said >= 0.99 or any(w >= FREQUENCY["always"] for w in named.values())
    left = 0.0 if not unnamed else UNNAMED_STATE if told else min(MOST_UNNAMED, 1 - said)
    return {s: named[s] / said * (1 - left) if s in named else left / unnamed for s in c["states"]}
