"""Planting: how one-sided a stand is, what one more tree would make of it, and what of planting survived."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from jubark_core.flora.model import Flora
from jubark_core.signs.hosts import chain
from jubark_core.signs.load import health

# At most so much of one species, genus, family: Santamour (1990), Trees for urban planting, from memory. It
# is a rule of thumb for a whole stand: a few trees exceed it by chance.
LIMITS = {"species": 0.10, "genus": 0.20, "family": 0.30}
FEW_TREES = 20
# After these a genus is not planted again where it stood: they stay in soil, roots or stump. Common practice.
STAYS_IN_THE_SOIL = (
    *("dutch-elm-disease", "verticillium-wilt", "lawson-cypress-root-disease"),
    *("root-phytophthora", "armillaria"),
)


@dataclass(frozen=True)
class StandingTree:
    """A tree that stands. taxon '': not named. crown_spread_m: diameter of its crown; None: not measured."""

    taxon: str
    crown_spread_m: float | None = None

    @property
    def crown_m2(self) -> float:
        """The ground its crown covers, as a circle; 0 where it was not measured."""
        return math.pi * (self.crown_spread_m or 0.0) ** 2 / 4


@dataclass(frozen=True)
class Share:
    """What a species, genus or family has of a stand, by stems and by crown area (shares 0 to 1)."""

    rank: str
    taxon: str
    name: str
    stems: int
    of_stems: float
    of_crown: float
    limit: float

    @property
    def over(self) -> bool:
        """Whether one of the two is over what is advised."""
        return max(self.of_stems, self.of_crown) > self.limit + 1e-9


def shares(trees: Iterable[StandingTree], flora: Flora) -> list[Share]:
    """Shares of every species, genus and family; by rank, the largest first.

    Trees without a name count in the whole and in no share; those named at a genus in it and in its family.
    """
    stems: dict[tuple[str, str], int] = defaultdict(int)
    crown: dict[tuple[str, str], float] = defaultdict(float)
    all_stems, all_crown = 0, 0.0
    for tree in trees:
        all_stems += 1
        all_crown += tree.crown_m2
        for at in ranks_of(tree.taxon, flora).items():
            stems[at] += 1
            crown[at] += tree.crown_m2
    found = [
        Share(
            rank,
            taxon,
            flora.taxa[taxon]["name"],
            count,
            count / all_stems,
            crown[rank, taxon] / all_crown if all_crown else 0.0,
            LIMITS[rank],
        )
        for (rank, taxon), count in stems.items()
    ]
    order = list(LIMITS)
    return sorted(found, key=lambda s: (order.index(s.rank), -s.of_stems, s.name))


def ranks_of(taxon: str, flora: Flora) -> dict[str, str]:
    """Rank -> the taxon it has there: its species, genus and family, as far as it is named."""
    nodes = [node for node in chain(flora.resolve.get(taxon, taxon), flora) if node in flora.taxa]
    return {rank: node for node in reversed(nodes) if (rank := flora.taxa[node].get("rank")) in LIMITS}


def planting_would_exceed(
    trees: Sequence[StandingTree], taxon: str, flora: Flora, spread_m: float | None = None
) -> list[Share]:
    """The shares of the taxon's own species, genus and family that one more of it would bring over the limit.

    spread_m: the crown it grows to, where the crown it will have is to count.
    """
    own = set(ranks_of(taxon, flora).items())
    after = shares([*trees, StandingTree(taxon, spread_m)], flora)
    return [share for share in after if share.over and (share.rank, share.taxon) in own]


def not_here_again(died_here: Iterable[dict[str, str]], flora: Flora) -> list[str]:
    """Genera that are not planted where these died, each with what it died of. died_here: taxon, agent."""
    found: dict[str, list[str]] = {}
    for row in died_here:
        genus = ranks_of(row["taxon"], flora).get("genus")
        if genus and row["agent"] in STAYS_IN_THE_SOIL:
            found.setdefault(flora.taxa[genus]["name"], []).append(health().causes[row["agent"]].name)
    return [f"{genus} ({', '.join(sorted(set(causes)))})" for genus, causes in sorted(found.items())]


@dataclass(frozen=True)
class Planted:
    """A tree that was planted, and whether it is alive."""

    taxon: str
    block: str
    alive: bool


@dataclass(frozen=True)
class Survival:
    """Of what was planted of a taxon in a block, how many are alive."""

    taxon: str
    block: str
    planted: int
    alive: int

    @property
    def share(self) -> float:
        """0 to 1."""
        return self.alive / self.planted


def survival(planted: Iterable[Planted]) -> list[Survival]:
    """By taxon and block, the worst first."""
    counts: dict[tuple[str, str], list[int]] = defaultdict(lambda: [0, 0])
    for tree in planted:
        row = counts[tree.taxon, tree.block]
        row[0] += 1
        row[1] += tree.alive
    found = [Survival(taxon, block, n, alive) for (taxon, block), (n, alive) in counts.items()]
    return sorted(found, key=lambda s: (s.share, -s.planted, s.block, s.taxon))
