"""Prior times likelihood over every host a plant may be and all that may be wrong with it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from jubark_core.flora.model import Flora
from jubark_core.signs.case import HealthCase, SeenSign
from jubark_core.signs.hosts import Host, spread_over_leaves
from jubark_core.signs.hypotheses import OTHERS, Hypothesis, OnHost
from jubark_core.signs.likelihood import COUNTED
from jubark_core.signs.load import health

SAME_GROUP = 0.5  # how far two signs of one group are one witness


@dataclass(frozen=True)
class Belief:
    """The state of belief about one case. looks: what weighs, in an order of its own; on_host: by species."""

    case: HealthCase
    flora: Flora
    looks: tuple[SeenSign, ...]
    weights: tuple[float, ...]
    on_host: dict[str, OnHost]
    hypotheses: tuple[Hypothesis, ...]
    probability: tuple[float, ...]

    @cached_property
    def mains(self) -> dict[str, float]:
        """Cause, normal, nothing_wrong or unknown -> probability; they sum to 1."""
        return self._summed(lambda h: h.main)

    @cached_property
    def ranked(self) -> list[str]:
        """What may be so, most probable first, ties by id."""
        return sorted(self.mains, key=lambda m: (-self.mains[m], m))

    @cached_property
    def together(self) -> dict[tuple[str, ...], float]:
        """Several causes at once -> probability."""
        several = [
            (h, p)
            for h, p in zip(self.hypotheses, self.probability, strict=True)
            if len(h.what) > 1 and not set(h.what) & set(OTHERS)
        ]
        found: dict[tuple[str, ...], list[float]] = {}
        for h, p in several:
            found.setdefault(h.what, []).append(p)
        return {what: math.fsum(ps) for what, ps in found.items()}

    @cached_property
    def host_now(self) -> dict[str, float]:
        """Host as the case called it -> probability after the signs."""
        return self._summed(lambda h: h.host.node)

    @cached_property
    def taxon_now(self) -> dict[str, float]:
        """Species it may be -> probability after the signs."""
        return self._summed(lambda h: h.host.taxon)

    @cached_property
    def taxa(self) -> list[str]:
        """Species it may be, the likeliest first."""
        return sorted(self.taxon_now, key=lambda t: (-self.taxon_now[t], t))

    def _summed(self, of: Callable[[Hypothesis], str]) -> dict[str, float]:
        found: dict[str, list[float]] = {}
        for h, p in zip(self.hypotheses, self.probability, strict=True):
            found.setdefault(of(h), []).append(p)
        return {key: math.fsum(ps) for key, ps in found.items()}

    def bits(self, look: int, one: str, rival: str) -> float:
        """Bits the look gives for one against the rival, on the likeliest host on which both can be."""
        for taxon in self.taxa:
            rows = self.on_host[taxon].rows
            if one in rows and rival in rows:
                return self.weights[look] * (rows[one][look] - rows[rival][look]) / math.log(2)
        return 0.0


def weigh(case: HealthCase, flora: Flora) -> Belief:
    """The posterior of the case. The order of signs and hosts never matters."""
    looks = _each_once(case.signs)
    weights = tuple(_weight(look, looks) for look in looks)
    hosts = spread_over_leaves(case.hosts, case.on.isoformat(), case.areas, flora)
    on_host = {host.taxon: OnHost(host, case, flora, looks, weights) for host in _one_of_each(hosts)}
    found = tuple(h for taxon in sorted(on_host) for h in on_host[taxon].hypotheses())
    top = max(h.log for h in found)
    raised = [math.exp(h.log - top) for h in found]
    total = math.fsum(raised)
    return Belief(case, flora, looks, weights, on_host, found, tuple(r / total for r in raised))


def _one_of_each(hosts: list[Host]) -> list[Host]:
    """A species that is named beside its genus is one host: under its own name."""
    own = {host.taxon for host in hosts if host.node == host.taxon}
    found: dict[str, Host] = {}
    for host in hosts:
        node = host.taxon if host.taxon in own else host.node
        before = found.get(host.taxon)
        p = host.probability + (before.probability if before else 0.0)
        found[host.taxon] = Host(node, host.taxon, p)
    return list(found.values())


def _each_once(signs: tuple[SeenSign, ...]) -> tuple[SeenSign, ...]:
    """What weighs by itself, the same report by the same observer once, in an order that the case's does not
    change.
    """
    weighed = sorted((s for s in signs if s.sign not in COUNTED), key=lambda s: (s.said(), s.index))
    return tuple({s.said(): s for s in reversed(weighed)}.values())[::-1]


def _weight(look: SeenSign, looks: tuple[SeenSign, ...]) -> float:
    """Signs of one group share their weight: n of them count as n / (1 + (n − 1)·r); n looks at one sign as
    one.
    """
    words = health().signs
    group = {other.sign for other in looks if words[other.sign].group == words[look.sign].group}
    same = sum(other.sign == look.sign for other in looks)
    return 1 / (1 + SAME_GROUP * (len(group) - 1)) / same
