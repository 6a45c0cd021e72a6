"""P(what was reported | taxon, date, stage), with slips, confusions, unknown data and the floor."""

from __future__ import annotations

import datetime
import math

from jubark_core.flora.model import Flora
from jubark_core.naming.absence import chance_none, none_is_a_state
from jubark_core.naming.case import Case, Look
from jubark_core.naming.samples import TINY_LOG, log_at_least, log_counts, log_measures
from jubark_core.season.windows import day_of_year, event_days, visible, within

FLOOR = 2.0**-10  # e of evidence.md, point 7
SLIP_NEXT = 0.10  # a look not made yet is taken as `likely`
OUTLIER_SHARE = 0.02
NEIGHBOUR_SHARE = {"plant": 0.0, "stored": 0.0, "litter": 0.25, "neighbour": 0.5}
LEAF_CORRELATION = 0.3  # k of n leaves of one plant: share of the variance between plants
INAPPLICABLE = 0.02  # how readily a look is reported that makes no sense on the taxon, against P0
GROWING = ("seedling", "sapling", "young", "resprout", "clipped")
COMPOUND = ("pinnate", "trifoliate", "palmate_compound", "bipinnate")


def misreading(c: dict[str, object], state: str, reported: str, slip: float, extra: float = 0.0) -> float:
    """P(reported | true state): the character's confusions, then a slip to any other state alike.

    extra: further chance of `alternate` read as `opposite` (leaflets taken for leaves).
    """
    row: dict[str, float] = c.get("confusions", {}).get(state, {})  # type: ignore[attr-defined]
    states: list[str] = c["states"]  # type: ignore[assignment]
    if len(states) == 1:
        return 1.0
    leaving = math.fsum(row.values()) + extra
    confused = row.get(reported, 0.0) if reported != state else 1.0 - leaving
    if extra and reported == "opposite":
        confused += extra
    return (1 - slip) * confused + slip * (float(reported != state) / (len(states) - 1))


def misreadings(flora: Flora, character: str, slip: float) -> dict[str, dict[str, float]]:
    """true state -> reported state -> probability, kept with the flora: the same table is used thousands of times."""
    key = (character, slip)
    if key not in flora.readings:
        c = flora.characters[character]
        flora.readings[key] = {s: {r: misreading(c, s, r, slip) for r in c["states"]} for s in c["states"]}
    return flora.readings[key]


class Evidence:
    """Likelihoods of the looks of one case. Holds no shared state; one object per case."""

    def __init__(self, case: Case, flora: Flora, leaves: list[str]) -> None:
        self.case = case
        self.flora = flora
        self.leaves = leaves
        self._season: dict[tuple[str, datetime.date], str] = {}
        self._shows: dict[tuple[str, str], float] = {}
        self._days: dict[str, dict[str, float]] = {}

    def days(self, taxon: str) -> dict[str, float]:
        """The taxon's events at the place."""
        if taxon not in self._days:
            self._days[taxon] = event_days(self.flora.taxa[taxon], self.case.place)
        return self._days[taxon]

    def shows(self, taxon: str, kinds: tuple[str, ...]) -> float:
        """Chance that any of the visibility classes shows on the taxon on the case's date."""
        day = day_of_year(self.case.on)
        for kind in kinds:
            if (taxon, kind) not in self._shows:
                self._shows[taxon, kind] = visible(self.flora.taxa[taxon], kind, self.days(taxon), day)
        return max((self._shows[taxon, kind] for kind in kinds), default=0.0)

    def season(self, taxon: str, on: datetime.date) -> str:
        """`winter` from the taxon's own leaf fall to its bud burst at the place, else `summer`."""
        key = (taxon, on)
        if key not in self._season:
            days = self.days(taxon)
            bare = "fall" in days and "bud_burst" in days and within(day_of_year(on), days["fall"], days["bud_burst"]) > 0.5
            self._season[key] = "winter" if bare else "summer"
        return self._season[key]

    def log_likelihoods(self, look: Look) -> dict[str, float]:
        """log P'(look | hypothesis) for every hypothesis, floor included. Empty for looks that weigh nothing."""
        if look.skipped or look.seen == "told":
            return {}
        known = {t: v for t in self.flora.leaves if (v := self._log_raw(t, look)) is not None}
        return self.floored(known, NEIGHBOUR_SHARE[look.seen])

    def floored(self, known: dict[str, float], neighbour_share: float = 0.0) -> dict[str, float]:
        """Fill unknown taxa from genus, family, then the flora-wide marginal P0; apply the neighbour's share and the floor."""
        if not known:
            return {}
        log_p0 = _log_mean(list(known.values()))
        by_genus = self._node_means(known, self.flora.genus_of)
        by_family = self._node_means(known, self.flora.family_of)
        result = {}
        own = 1 - neighbour_share
        for leaf in self.leaves:
            if leaf in known:
                log_p = known[leaf]
            elif leaf.endswith("unlisted"):
                genus = by_genus.get(leaf.removesuffix("-unlisted"))
                log_p = log_p0 if genus is None else _log_mix(0.7, genus, log_p0)
            else:
                genus = by_genus.get(self.flora.genus_of[leaf] or "")
                family = by_family.get(self.flora.family_of[leaf] or "")
                log_p = genus if genus is not None else family if family is not None else log_p0
            result[leaf] = _log_mix((1 - FLOOR) * own, log_p, log_p0)
        return result

    def _node_means(self, known: dict[str, float], node_of: dict[str, str | None]) -> dict[str, float]:
        groups: dict[str, list[float]] = {}
        for taxon, value in known.items():
            node = node_of[taxon]
            if node is not None:
                groups.setdefault(node, []).append(value)
        return {node: _log_mean(values) for node, values in groups.items()}

    def _log_raw(self, taxon: str, look: Look) -> float | None:
        """log P(look | taxon) from its own description; None where it says nothing."""
        c = self.flora.characters[look.character]
        season = self.season(taxon, look.on)
        if look.none and not none_is_a_state(look, self.flora):
            return math.log(max(1e-300, chance_none(taxon, look, self.case, self.flora)))
        applies = self.flora.applies(taxon, look.character, look.stage, season)
        if c["kind"] in ("count", "measure"):
            log_p = self._log_sample(taxon, look, c)
            if log_p is None:
                return None if applies > 0.5 else TINY_LOG
            return _log_mix(applies, log_p, TINY_LOG) if applies < 1 else log_p
        p = self.state_probability(taxon, look, c, season)
        if p is None:
            return None if applies > 0.5 else math.log(INAPPLICABLE / len(c["states"]))
        return math.log(max(1e-300, applies * p + (1 - applies) * INAPPLICABLE / len(c["states"])))

    def _log_sample(self, taxon: str, look: Look, c: dict[str, object]) -> float | None:
        spread = self.flora.spread(taxon, look.character, look.stage)
        if spread is None:
            return None
        mean, sd = spread
        log = c.get("scale") == "log"
        values = [math.log(v) for v in look.values] if log else list(look.values)
        if c.get("bound_from_below") and look.stage in GROWING:
            return log_at_least(max(values), mean, sd)
        between = float(c["between"])  # type: ignore[arg-type]
        if c["kind"] == "count":
            return log_counts(values, mean, sd, between)
        return log_measures(values, mean, sd, between, log)

    def state_probability(self, taxon: str, look: Look, c: dict[str, object], season: str) -> float | None:
        """P(the states reported | taxon) for one- and many-state characters; None where the taxon says nothing."""
        weights = self.flora.weights(taxon, look.character, look.stage, season)
        if weights is None:
            return None
        states = ("none",) if look.none else look.states
        extra = self._leaflet_for_leaf(taxon, look, c, season)
        if look.n is not None and look.k is not None:
            per_leaf = _report(c, weights, states[0], look.slip, extra)
            return beta_binomial(look.k, look.n, per_leaf, LEAF_CORRELATION)
        if c["kind"] == "one":
            return _report(c, weights, states[0], look.slip, extra)
        return many_probability(c, weights, states, look.absent, look.slip)

    def _leaflet_for_leaf(self, taxon: str, look: Look, c: dict[str, object], season: str) -> float:
        share = c.get("leaflet_for_leaf")
        if not share:
            return 0.0
        types = self.flora.weights(taxon, "leaf.type", look.stage, season) or {}
        return float(share["alternate"]) * math.fsum(types.get(k, 0.0) for k in COMPOUND)  # type: ignore[index]


def _report(c: dict[str, object], weights: dict[str, float], reported: str, slip: float, extra: float) -> float:
    return math.fsum(w * misreading(c, s, reported, slip, extra if s == "alternate" else 0.0) for s, w in weights.items())


def many_probability(
    c: dict[str, object], presence: dict[str, float], seen: tuple[str, ...], absent: tuple[str, ...], slip: float
) -> float:
    """P(these states named, those named absent, the rest not named). The whole look is one item of evidence.

    A state not named is weak evidence: P(not reported | presence p) = 1 − r·p with the vocabulary's report rate.
    """
    rate = float(c["report_rate"])  # type: ignore[arg-type]
    stray = slip / len(presence)
    confusions: dict[str, dict[str, float]] = c.get("confusions", {})  # type: ignore[assignment]
    product = 1.0
    for state, own in presence.items():
        from_others = math.fsum(presence[s] * row.get(state, 0.0) for s, row in confusions.items() if s != state)
        p = min(0.99, own * (1 - math.fsum(confusions.get(state, {}).values())) + from_others)
        if state in seen:
            product *= rate * ((1 - slip) * p + stray)
        elif state in absent:
            product *= (1 - slip) * (1 - p) + slip * 0.5
        else:
            product *= 1 - rate * p
    return product


def beta_binomial(k: int, n: int, p: float, correlation: float) -> float:
    """P(k of n) when the share varies between plants: mean p, intra-plant correlation ρ (Skellam 1948)."""
    p = min(max(p, 1e-6), 1 - 1e-6)
    a, b = p * (1 - correlation) / correlation, (1 - p) * (1 - correlation) / correlation
    log_choose = math.lgamma(n + 1) - math.lgamma(k + 1) - math.lgamma(n - k + 1)
    return math.exp(log_choose + _log_beta(k + a, n - k + b) - _log_beta(a, b))


def _log_beta(a: float, b: float) -> float:
    return math.lgamma(a) + math.lgamma(b) - math.lgamma(a + b)


def _log_mean(logs: list[float]) -> float:
    top = max(logs)
    return top + math.log(math.fsum(math.exp(v - top) for v in logs) / len(logs))


def _log_mix(share: float, log_a: float, log_b: float) -> float:
    """log(share·exp(a) + (1 − share)·exp(b)) without overflow."""
    top = max(log_a, log_b)
    return top + math.log(share * math.exp(log_a - top) + (1 - share) * math.exp(log_b - top))
