"""The compiled flora as the engine reads it: nodes, leaves of the tree, and what each taxon shows when."""

from __future__ import annotations

import math
from functools import cached_property
from typing import Any

from jubark_core.flora.words import UNNAMED_STATE

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
Z90 = 1.6448536269514722  # a central 90 % range reaches this many sd to each side
COUNT_SD_FLOOR = 0.3
LOG_SD_FLOOR = 0.03


class Flora:
    """Read-only view of a compiled flora. Safe to share between threads: caches only ever gain equal values."""

    def __init__(self, compiled: dict[str, Any]) -> None:
        self.compiled = compiled
        self.version: str = str(compiled.get("version", "unversioned"))
        self.characters: dict[str, dict[str, Any]] = compiled["characters"]
        self.taxa: dict[str, dict[str, Any]] = compiled["taxa"]
        self.areas = frozenset(compiled.get("areas", ()))
        self.group_weights: dict[str, float] = compiled.get("group_weights", {})
        self.root_missing = float(compiled.get("root_missing", 0))
        self.readings: dict[tuple[str, float], dict[str, dict[str, float]]] = {}
        self._applies: dict[tuple[str, str, str, str], float] = {}
        self._weights: dict[tuple[str, str, str, str], dict[str, float] | None] = {}
        self._spread: dict[tuple[str, str, str], tuple[float, float] | None] = {}

    @cached_property
    def leaves(self) -> list[str]:
        """Ids of taxa that carry a description, sorted."""
        return sorted(tid for tid, t in self.taxa.items() if "states" in t)

    @cached_property
    def resolve(self) -> dict[str, str]:
        """Slug of every accepted name and synonym -> accepted id."""
        found = {slug(s): tid for tid, t in self.taxa.items() for s in t.get("synonyms", ())}
        return found | {tid: tid for tid in self.taxa}

    def ancestors(self, taxon: str) -> list[str]:
        """The node itself, then its parents up to the family."""
        chain: list[str] = []
        node: str | None = taxon
        while node is not None and node in self.taxa:
            chain.append(node)
            node = self.taxa[node].get("parent")
        return chain

    @cached_property
    def genus_of(self) -> dict[str, str | None]:
        """Leaf -> genus, or None where the flora has no genera."""
        return {t: next((a for a in self.ancestors(t) if self.taxa[a]["rank"] == "genus"), None) for t in self.leaves}

    @cached_property
    def family_of(self) -> dict[str, str | None]:
        """Leaf -> family, or None."""
        return {t: next((a for a in self.ancestors(t) if self.taxa[a]["rank"] == "family"), None) for t in self.leaves}

    def weight_of_group(self, character: str) -> float:
        """w_g of the character's group; 1 where the data file says nothing."""
        return self.group_weights.get(self.characters[character].get("group", ""), 1.0)

    def variant(self, taxon: str, character: str, stage: str, season: str) -> tuple[dict[str, Any], bool] | None:
        """What the taxon says of the character then, and whether it was borrowed from another stage."""
        variants = self.taxa[taxon]["states"].get(character)
        if not variants:
            return None
        for wanted, borrowed in ((stage, False), (NEAREST_STAGE.get(stage, stage), stage in ("mature", "young", "seedling"))):
            for v in variants:
                if v.get("stage", wanted) == wanted and v.get("season", season) == season:
                    return v, borrowed and "stage" in v
        return variants[0], True

    def weights(self, taxon: str, character: str, stage: str, season: str) -> dict[str, float] | None:
        """State -> weight for one- and many-state characters; None where the taxon says nothing.

        `one`: normalised with 0.01 for each unnamed state. `many`: presences, never normalised.
        """
        key = (taxon, character, stage, season)
        if key not in self._weights:
            self._weights[key] = self._find_weights(*key)
        return self._weights[key]

    def _find_weights(self, taxon: str, character: str, stage: str, season: str) -> dict[str, float] | None:
        found = self.variant(taxon, character, stage, season)
        if found is None or "weights" not in found[0]:
            return None
        named, borrowed = found[0]["weights"], found[1]
        c = self.characters[character]
        full = {s: named.get(s, UNNAMED_STATE) for s in c["states"]}
        if c["kind"] == "many":
            return {s: 0.7 * p + 0.3 * 0.3 for s, p in full.items()} if borrowed else full
        total = math.fsum(full.values())
        share = 0.3 / len(full) if borrowed else 0.0
        return {s: (1 - (0.3 if borrowed else 0)) * p / total + share for s, p in full.items()}

    def spread(self, taxon: str, character: str, stage: str) -> tuple[float, float] | None:
        """(mean, sd) of single leaves, twigs or fruits, in log where the character's scale is log."""
        key = (taxon, character, stage)
        if key not in self._spread:
            self._spread[key] = self._find_spread(*key)
        return self._spread[key]

    def _find_spread(self, taxon: str, character: str, stage: str) -> tuple[float, float] | None:
        found = self.variant(taxon, character, stage, "summer")
        if found is None:
            return None
        v, borrowed = found
        c = self.characters[character]
        log = c.get("scale") == "log"
        if "mean" in v:
            mean, sd = v["mean"], v["sd"]
        elif "low" in v:
            low, high = (math.log(v["low"]), math.log(v["high"])) if log else (v["low"], v["high"])
            mean, sd = (low + high) / 2, (high - low) / (2 * Z90)
        else:
            return None
        if borrowed or stage in ("seedling", "resprout"):
            sd *= 1.5
        floor = COUNT_SD_FLOOR if c["kind"] == "count" else LOG_SD_FLOOR if log else LOG_SD_FLOOR * max(abs(mean), 1e-9)
        return mean, max(sd, floor)

    def applies(self, taxon: str, character: str, stage: str, season: str) -> float:
        """Chance that the character makes sense on this taxon (leaflets only where leaves are compound)."""
        key = (taxon, character, stage, season)
        if key not in self._applies:
            self._applies[key] = self._find_applies(*key)
        return self._applies[key]

    def _find_applies(self, taxon: str, character: str, stage: str, season: str) -> float:
        chance = 1.0
        for other, states in self.characters[character].get("requires", {}).items():
            weights = self.weights(taxon, other, stage, season)
            if weights is not None:
                chance *= min(1.0, math.fsum(weights[s] for s in states))
        return chance


def slug(name: str) -> str:
    """Lower-case ASCII slug of a scientific name: 'Forsythia × intermedia' -> 'forsythia-x-intermedia'."""
    plain = name.replace("×", "x").replace("'", "").replace(".", "")
    return "-".join(word for word in "".join(ch if ch.isascii() and ch.isalnum() else " " for ch in plain.lower()).split())
