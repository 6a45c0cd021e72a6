"""The compiled flora as the engine reads it: nodes and the tree of taxa."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from jubark_core.flora.areas import WORLD, Area
from jubark_core.season.showing import is_evergreen


class Flora:
    """A compiled flora: plain data with the tree of taxa, read only. What is worked out from it for a case is
    kept outside (views.py).
    """

    def __init__(self, compiled: dict[str, Any], notes: dict[str, str] | None = None) -> None:
        self.compiled = compiled
        self.notes = notes or {}  # taxon -> this installation's own note
        self.version: str = str(compiled.get("version", "unversioned"))
        self.characters: dict[str, dict[str, Any]] = compiled["characters"]
        self.taxa: dict[str, dict[str, Any]] = compiled["taxa"]
        self.areas = frozenset(compiled.get("areas", ()))
        self.group_correlations: dict[str, float] = compiled.get("group_correlations", {})
        self.area: dict[str, Area] = compiled.get("area", {})
        self.planted_share: dict[str, dict[str, float]] = compiled.get("planted_share", {})
        self.root_missing = missing_by_side(compiled.get("root_missing", {}))

    @cached_property
    def leaves(self) -> list[str]:
        """Ids of taxa that carry a description, sorted."""
        return sorted(tid for tid, t in self.taxa.items() if "states" in t)

    @cached_property
    def resolve(self) -> dict[str, str]:
        """Slug of every accepted name and synonym -> accepted id."""
        found = {slug(s): tid for tid, t in self.taxa.items() for s in t.get("synonyms", ())}
        return found | {tid: tid for tid in self.taxa}

    def missing(self, genus: str) -> dict[str, dict[str, int]]:
        """Species of the genus that the flora does not hold: side -> area, region or world -> number."""
        return missing_by_side(self.taxa[genus].get("missing", {}))

    def ancestors(self, taxon: str) -> list[str]:
        """The node itself, then its parents up to the family."""
        return self._ancestors.get(taxon, [])

    @cached_property
    def _ancestors(self) -> dict[str, list[str]]:
        chains: dict[str, list[str]] = {}
        for taxon in self.taxa:
            chain: list[str] = []
            node: str | None = taxon
            while node is not None and node in self.taxa and node not in chain:
                chain.append(node)
                node = self.taxa[node].get("parent")
            chains[taxon] = chain
        return chains

    @cached_property
    def below(self) -> dict[str, list[str]]:
        """Node -> the leaves under it, itself included."""
        found: dict[str, list[str]] = {}
        for leaf in self.leaves:
            for node in self.ancestors(leaf):
                found.setdefault(node, []).append(leaf)
        return found

    @cached_property
    def genus_of(self) -> dict[str, str | None]:
        """Leaf -> genus, or None where the flora has no genera."""
        return {
            t: next((a for a in self.ancestors(t) if self.taxa[a].get("rank") == "genus"), None)
            for t in self.leaves
        }

    @cached_property
    def family_of(self) -> dict[str, str | None]:
        """Leaf -> family, or None."""
        return {
            t: next((a for a in self.ancestors(t) if self.taxa[a].get("rank") == "family"), None)
            for t in self.leaves
        }

    @cached_property
    def evergreen(self) -> dict[str, bool]:
        """Leaf -> whether it keeps green leaves through winter."""
        return {t: is_evergreen(self.taxa[t]) for t in self.leaves}

    @cached_property
    def hypotheses(self) -> list[str]:
        """Every leaf of the tree: the listed taxa, `<genus>-unlisted` for genera with missing species,
        `unlisted`.
        """
        genera = {g for g in self.genus_of.values() if g is not None}
        unlisted = [f"{g}-unlisted" for g in genera if any(self.missing(g).values())]
        return sorted(self.leaves + unlisted) + (["unlisted"] if any(self.root_missing.values()) else [])

    @cached_property
    def genus_of_unlisted(self) -> dict[str, str]:
        """`<genus>-unlisted` -> genus."""
        return {
            h: h.removesuffix("-unlisted") for h in self.hypotheses if h not in self.taxa and h != "unlisted"
        }

    @cached_property
    def relatives(self) -> list[tuple[str, int | None, list[int], list[int]]]:
        """Per hypothesis: its id, its place in `leaves` (None for unlisted ones), the places of its genus and
        of its family.
        """
        place = {t: i for i, t in enumerate(self.leaves)}

        def places(node: str | None) -> list[int]:
            return [place[t] for t in self.below.get(node or "", ())]

        found = []
        for h in self.hypotheses:
            genus = self.genus_of_unlisted.get(h, self.genus_of.get(h))
            family = self.family_of.get(h) or next(
                (a for a in self.ancestors(genus or "") if self.taxa[a].get("rank") == "family"), None
            )
            found.append((h, place.get(h), places(genus), places(family)))
        return found

    @cached_property
    def by_season(self) -> frozenset[str]:
        """Characters that some taxon describes differently for winter and summer."""
        return frozenset(
            cid
            for t in self.leaves
            for cid, variants in self.taxa[t]["states"].items()
            if any("season" in v for v in variants)
        )

    @cached_property
    def rests_on(self) -> dict[str, list[str]]:
        """Character -> those that make sense only where it has some of its states, in the vocabulary's
        order.
        """
        found: dict[str, list[str]] = {}
        for cid, c in self.characters.items():
            for other in c.get("requires", {}):
                found.setdefault(other, []).append(cid)
        return found

    def correlation_of_group(self, character: str) -> float:
        """r_g of the character's group: how far two looks of it are one witness; 0 where the data file is
        silent.
        """
        return self.group_correlations.get(self.group_of(character), 0.0)

    def group_of(self, character: str) -> str:
        """The group of looks that err together."""
        return str(self.characters[character].get("group", ""))


def missing_by_side(missing: dict[str, dict[str, int]] | int) -> dict[str, dict[str, int]]:
    """One number stands for both sides, everywhere."""
    if isinstance(missing, dict):
        return missing
    return {side: {WORLD: missing} if missing else {} for side in ("wild", "planted")}


def slug(name: str) -> str:
    """Lower-case ASCII slug of a scientific name: 'Forsythia × intermedia' -> 'forsythia-x-intermedia'."""
    plain = name.replace("×", "x").replace("'", "").replace(".", "")
    return "-".join(
        word for word in "".join(ch if ch.isascii() and ch.isalnum() else " " for ch in plain.lower()).split()
    )
