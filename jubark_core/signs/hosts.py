"""Which plants a cause takes: by species, section, genus, family or group; the nearest named one counts."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from jubark_core.flora.model import Flora
from jubark_core.naming.case import read_case
from jubark_core.naming.prior import prior_of
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause

CONIFERS = ("pinaceae", "cupressaceae", "taxaceae")
NEITHER = ("ginkgoaceae", "poaceae")  # neither conifers nor broadleaves
GROUPS = ("any", "conifers", "broadleaves")
REST = "another plant"  # what the host list leaves open
LEAST_SHARE, MOST_LEAVES = 1e-4, 60


@dataclass(frozen=True)
class Host:
    """One plant it may be. node: as the case called it; taxon: the species or `<genus>-unlisted` below it."""

    node: str
    taxon: str
    probability: float


def known_taxa(flora: Flora) -> frozenset[str]:
    """Every id a host may have: the flora's, and those that causes name beyond it."""
    return _foreign() | frozenset(flora.taxa)


@lru_cache(maxsize=1)
def _foreign() -> frozenset[str]:
    named = {host for cause in health().causes.values() for host in cause.hosts}
    return frozenset(named | {host.split("-")[0] for host in named}) - set(GROUPS)


@lru_cache(maxsize=4096)
def chain(taxon: str, flora: Flora) -> tuple[str, ...]:
    """The taxon and all it belongs to, nearest first: section, genus, family, conifers or broadleaves."""
    if taxon == REST:
        return ("any",)
    genus = taxon.removesuffix("-unlisted").split("-")[0]
    own = [taxon] if taxon not in flora.taxa and not taxon.endswith("-unlisted") else []
    known = taxon if taxon in flora.taxa else genus
    above = flora.ancestors(known) or [genus]
    family = next((a for a in above if flora.taxa.get(a, {}).get("rank") == "family"), "")
    if family in NEITHER:
        return (*own, *above, "any")
    return (*own, *above, "conifers" if family in CONIFERS else "broadleaves", "any")


def susceptibility(cause: Cause, taxon: str, flora: Flora) -> float:
    """How badly the cause takes the taxon: 1 badly, 0.4 hit, 0.08 seldom, 0.02 resistant, 0 never.

    A genus that no list names, of which species are named, counts as half of its worst.
    """
    for node in chain(taxon, flora):
        if node in cause.hosts:
            return cause.hosts[node]
    if taxon not in flora.taxa and "-" not in taxon:
        return max((s for host, s in cause.hosts.items() if host.startswith(taxon + "-")), default=0.0) / 2
    return 0.0


def is_among(taxon: str, hosts: frozenset[str], flora: Flora) -> bool:
    """Whether the taxon is one of the hosts or belongs to one."""
    return not hosts.isdisjoint(chain(taxon, flora))


def spread_over_leaves(
    hosts: tuple[tuple[str, float], ...], on: str, areas: tuple[str, ...], flora: Flora
) -> list[Host]:
    """The hosts of a case down to species, by how common each is here; what is left open goes to REST.

    hosts: (taxon, probability). A genus or family is split by the prior that naming uses.
    """
    found: list[Host] = []
    for node, probability in hosts:
        leaves = flora.below.get(node, [])
        if node not in flora.taxa or leaves in ([node], []):
            found.append(Host(node, node, probability))
            continue
        found += [Host(node, leaf, probability * share) for leaf, share in _shares(node, on, areas, flora)]
    rest = 1 - math.fsum(p for _, p in hosts)
    if rest > 1e-9:
        found.append(Host(REST, REST, rest))
    return found


@lru_cache(maxsize=256)
def _shares(node: str, on: str, areas: tuple[str, ...], flora: Flora) -> tuple[tuple[str, float], ...]:
    case = {"on": on, "observations": []} | ({"areas": list(areas)} if areas else {})
    log = prior_of(read_case(case, flora), flora).log
    inside = {
        h: math.exp(log[h])
        for h in flora.hypotheses
        if node in flora.ancestors(flora.genus_of_unlisted.get(h, h))
    }
    total = math.fsum(inside.values())
    best = sorted(inside.items(), key=lambda pair: (-pair[1], pair[0]))[:MOST_LEAVES]
    best = [(h, p / total) for h, p in best if p / total > LEAST_SHARE]
    kept = math.fsum(p for _, p in best)
    return tuple((h, p / kept) for h, p in best)
