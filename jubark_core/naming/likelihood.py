"""P(what was reported | taxon, date, stage), with slips, confusions, unknown data and the floor."""

from __future__ import annotations

import datetime
import math
import statistics
from collections.abc import Callable
from functools import lru_cache
from itertools import repeat
from operator import add, mul
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.shows import ODD_SHOOTS, Reported, Shows
from jubark_core.flora.tables import StateTable
from jubark_core.flora.views import days_of, shows
from jubark_core.naming.absence import SEASONAL, chance_none, none_is_a_state
from jubark_core.naming.case import Case, Look
from jubark_core.naming.samples import TINY_LOG, log_at_least, log_at_most, log_counts, measures
from jubark_core.season.windows import day_of_year, visible, within

FLOOR = 2.0**-10  # share of anything in every description
MOST_MISREADINGS = 2000  # tables kept in memory, under 2 kB each
SLIP_NEXT = 0.10  # a look not made yet is taken as `likely`
OUTLIER_SHARE = 0.02  # of a specimen's sample: another kind's leaves, a misprint, a monster
NEIGHBOUR_SHARE = {"plant": 0.0, "stored": 0.0, "litter": 0.25, "neighbour": 0.5}
LEAF_CORRELATION = 0.3  # k of n leaves of one plant: share of the variance between plants
GENUS_SHARE = (
    0.5  # an unlisted species of a genus looks like the listed ones by this much, else like anything
)
STILL_GROWING = ("seedling", "sapling", "young", "resprout", "clipped")
SMALL_LEAVED, LARGE_LEAVED = ("seedling", "clipped"), ("resprout",)
EARLY_DAYS = 21  # days after leaf-out until blades have their size ('common practice')
COMPOUND = ("pinnate", "trifoliate", "palmate_compound", "bipinnate")
OUT_OF_SEASON = 0.08  # chance of an organ outside the dates the flora gives for it: odd years, odd plants
NEGLIGIBLE = 40.0  # natural log: so far behind the best taxon, a sample's exact chance no longer matters

Rough = Callable[[float, float], float]  # (mean, sd) -> log-chance of the sample
Exact = Callable[[str, float, float], float]  # (taxon, mean, sd) -> log-chance of the sample


def misreading(c: dict[str, Any], state: str, reported: str, slip: float, extra: float = 0.0) -> float:
    """P(reported | true state): the character's confusions, then a slip to any other state alike.

    extra: further chance of `alternate` read as `opposite` (leaflets taken for leaves).
    """
    row: dict[str, float] = c.get("confusions", {}).get(state, {})
    if len(c["states"]) == 1:
        return 1.0
    leaving = math.fsum(row.values()) + extra
    confused = row.get(reported, 0.0) if reported != state else 1.0 - leaving
    if extra and reported == "opposite":
        confused += extra
    return (1 - slip) * confused + slip * (float(reported != state) / (len(c["states"]) - 1))


@lru_cache(maxsize=MOST_MISREADINGS)
def misreadings(flora: Flora, character: str, slip: float) -> dict[str, dict[str, float]]:
    """true state -> reported state -> probability: the same table is used thousands of times."""
    c = flora.characters[character]
    return {s: {r: misreading(c, s, r, slip) for r in c["states"]} for s in c["states"]}


class Evidence:
    """Likelihoods of the looks of one case. Holds no shared state; one object per case."""

    def __init__(self, case: Case, flora: Flora) -> None:
        self.case = case
        self.flora = flora
        self._season: dict[tuple[str, datetime.date], str] = {}
        self._seasons: dict[datetime.date, list[str]] = {}
        self._shows: dict[tuple[str, tuple[str, ...]], float] = {}
        self._days: dict[str, dict[str, float]] = {}

    def view(self, look: Look) -> Shows:
        """The descriptions as they stand for the look's stage and shoot."""
        return shows(self.flora, look.stage, self.case.planted, look.shoot)

    def days(self, taxon: str) -> dict[str, float]:
        """The taxon's events at the place."""
        if taxon not in self._days:
            self._days[taxon] = days_of(
                self.flora, taxon, self.case.place, self.case.spring, self.case.setting == "glasshouse"
            )
        return self._days[taxon]

    def shows(self, taxon: str, kinds: tuple[str, ...]) -> float:
        """Chance that any of the visibility classes shows on the taxon on the case's date."""
        key = (taxon, kinds)
        if key not in self._shows:
            evergreen, days, day = self.flora.evergreen[taxon], self.days(taxon), day_of_year(self.case.on)
            self._shows[key] = max((visible(kind, days, day, evergreen) for kind in kinds), default=0.0)
        return self._shows[key]

    def season(self, taxon: str, on: datetime.date) -> str:
        """`winter` from the taxon's own leaf fall to its bud burst at the place, else `summer`.

        An unlisted species goes with the first listed one of its genus, the unlisted rest with the first of
        the flora.
        """
        key = (taxon, on)
        if key not in self._season:
            if taxon not in self.flora.taxa:
                genus = self.flora.genus_of_unlisted.get(taxon)
                self._season[key] = self.season(
                    self.flora.below[genus][0] if genus else self.flora.leaves[0], on
                )
            else:
                days = self.days(taxon)
                bare = (
                    "fall" in days
                    and "bud_burst" in days
                    and within(day_of_year(on), days["fall"], days["bud_burst"]) > 0.5
                )
                self._season[key] = "winter" if bare else "summer"
        return self._season[key]

    def seasons(self, on: datetime.date) -> list[str]:
        """The season of every leaf of the flora on that date."""
        if on not in self._seasons:
            self._seasons[on] = [self.season(t, on) for t in self.flora.leaves]
        return self._seasons[on]

    def log_likelihoods(self, look: Look) -> dict[str, float]:
        """log P'(look | hypothesis) for every hypothesis, floor included. Empty where no taxon knows anything
        of it.
        """
        c = self.flora.characters[look.character]
        own, scale = 1 - NEIGHBOUR_SHARE[look.seen], 0.0
        chances: list[float | None]
        if not look.applies:
            chances = self._does_not_apply(look, c)
        elif look.none and not none_is_a_state(look, self.flora):
            chances = [chance_none(t, look, self.case, self.flora, self.days(t)) for t in self.flora.leaves]
        elif look.values:
            chances, scale = self._samples(look, c)
            own *= 1 - OUTLIER_SHARE
        else:
            chances = self._states(look, c)
        return self._floored(chances, scale, own * (1 - FLOOR))

    def organ_seen(self, organ: str, on: datetime.date) -> dict[str, float]:
        """log-chance that needles, flowers or fruit were there to be seen on that date, by hypothesis: a
        flower in October is news.
        """
        day = day_of_year(on)
        chances: list[float | None] = [
            OUT_OF_SEASON
            + (1 - OUT_OF_SEASON)
            * max(visible(k, self.days(t), day, self.flora.evergreen[t]) for k in SEASONAL[organ])
            for t in self.flora.leaves
        ]
        return self._floored(chances, 0.0, 1 - FLOOR)

    def _floored(self, chances: list[float | None], scale: float, own: float) -> dict[str, float]:
        """Fill unknown taxa from genus, family, then the flora-wide marginal P0; mix in P0 for floor,
        neighbour and outlier.
        """
        known = [p for p in chances if p is not None]
        if not known:
            return {}
        p0 = math.fsum(known) / len(known)
        rest = (1 - own) * p0
        result = {}
        for h, place, genus, family in self.flora.relatives:
            p = chances[place] if place is not None else None
            if p is None:
                mean = _mean_known(chances, genus)
                if place is None:
                    p = p0 if mean is None else GENUS_SHARE * mean + (1 - GENUS_SHARE) * p0
                else:
                    p = mean if mean is not None else _mean_known(chances, family)
                    p = p0 if p is None else p
            result[h] = scale + math.log(max(1e-300, own * p + rest))
        return result

    def _does_not_apply(self, look: Look, c: dict[str, Any]) -> list[float | None]:
        """P('does not apply' | taxon): what the character rests on, read as none of the states in which it
        makes sense.
        """
        view = self.view(look)
        return [
            self._outside(view, t, season, look, c["requires"])
            for t, season in zip(self.flora.leaves, self.seasons(look.on), strict=True)
        ]

    def _outside(
        self, view: Shows, taxon: str, season: str, look: Look, requires: dict[str, list[str]]
    ) -> float | None:
        inside = 1.0
        for other, states in requires.items():
            c, weights = self.flora.characters[other], view.weights(taxon, other, season)
            if weights is None:
                return None
            if c["kind"] == "many":
                here = 1 - math.prod(1 - weights[s] for s in states)
                inside *= (1 - look.slip) * here + look.slip * (1 - here)
            else:
                read = misreadings(self.flora, other, look.slip)
                inside *= math.fsum(
                    w * math.fsum(read[true][s] for s in states) for true, w in weights.items()
                )
        return 1 - min(1.0, inside)

    def _states(self, look: Look, c: dict[str, Any]) -> list[float | None]:
        """P(the states reported | taxon) of every leaf of the flora; None where it says nothing."""
        seasons = self.seasons(look.on)
        found = {s: self._in_season(look, c, s) for s in sorted(set(seasons))}
        if len(found) == 1:
            return found[seasons[0]]
        return [found[s][i] for i, s in enumerate(seasons)]

    def _in_season(self, look: Look, c: dict[str, Any], season: str) -> list[float | None]:
        view = self.view(look)
        table = view.table(look.character, season, look.where)
        if c["kind"] == "many" and look.k is None:
            chances = self._many(look, c, table)
        elif c.get("leaflet_for_leaf"):
            chance = self._chance_of(look, c, view)
            chances = [
                chance(t, season) if known else 0.0
                for t, known in zip(self.flora.leaves, table.known, strict=True)
            ]
        else:
            chances = [0.0] * len(table.known)
            for state, share in _column(c, look).items():
                chances = list(map(add, chances, map(mul, table.columns[state], repeat(share))))
            if look.n is not None and look.k is not None:
                k, n = look.k, look.n
                chances = [beta_binomial(k, n, min(1.0, p), LEAF_CORRELATION) for p in chances]
        rows = zip(table.known, chances, table.applies, table.senseless, strict=True)
        return [applies * p + senseless if known else None for known, p, applies, senseless in rows]

    @staticmethod
    def _many(look: Look, c: dict[str, Any], table: StateTable) -> list[float]:
        rate, stray, slip = float(c["report_rate"]), look.slip / len(c["states"]), look.slip
        product = list(table.none_named)
        for state in ("none",) if look.none else look.states:
            product = [
                q * _named(p, rate, stray, slip) for q, p in zip(product, table.columns[state], strict=True)
            ]
        for state in look.absent:
            product = [q * _absent(p, rate, slip) for q, p in zip(product, table.columns[state], strict=True)]
        return product

    def _chance_of(self, look: Look, c: dict[str, Any], view: Shows) -> Callable[[str, str], float]:
        """(taxon, season) -> P(the states reported) for a taxon that knows the character."""
        states = ("none",) if look.none else look.states
        if c["kind"] == "many" and look.k is None:
            return lambda t, season: many_probability(
                view.reported(t, look.character, season, look.where), states, look.absent, look.slip
            )
        columns: dict[float, dict[str, float]] = {}

        def chance(taxon: str, season: str) -> float:
            extra = leaflet_for_leaf(taxon, view, c, season)
            if extra not in columns:
                columns[extra] = _column(c, look, extra)
            column = columns[extra]
            p = math.fsum(
                w * column[s]
                for s, w in (view.weights(taxon, look.character, season, look.where) or {}).items()
            )
            return (
                p
                if look.n is None or look.k is None
                else beta_binomial(look.k, look.n, min(1.0, p), LEAF_CORRELATION)
            )

        return chance

    def state_probability(self, taxon: str, look: Look, season: str) -> float | None:
        """P(the states reported | taxon) for one- and many-state characters; None where the taxon says
        nothing.
        """
        view, c = self.view(look), self.flora.characters[look.character]
        if view.weights(taxon, look.character, season, look.where) is None:
            return None
        return self._chance_of(look, c, view)(taxon, season)

    def _samples(self, look: Look, c: dict[str, Any]) -> tuple[list[float | None], float]:
        """(chance of the sample by leaf of the flora, over exp(scale); scale): the best taxon has 1."""
        view = self.view(look)
        rough, exact = self._rule(look, c)
        logs: list[float | None] = []
        moments = []
        for t, season in zip(self.flora.leaves, self.seasons(look.on), strict=True):
            spread = view.spread(t, look.character)
            applies = view.applies(t, look.character, season)
            moments.append((t, spread, applies))
            logs.append(rough(*spread) if spread is not None else TINY_LOG if applies <= 0.5 else None)
        top = max((value for value in logs if value is not None), default=0.0)
        if exact is not None:
            logs = [
                exact(t, *spread)
                if value is not None and spread is not None and value > top - NEGLIGIBLE
                else value
                for (t, spread, _), value in zip(moments, logs, strict=True)
            ]
            top = max((value for value in logs if value is not None), default=0.0)
        return [
            None if v is None else m[2] * math.exp(v - top) for m, v in zip(moments, logs, strict=True)
        ], top

    def _rule(self, look: Look, c: dict[str, Any]) -> tuple[Rough, Exact | None]:
        """How a sample is judged: (mean, sd) -> log-chance; for counts that only sorts out the hopeless, and
        the exact rule follows.
        """
        log = c.get("scale") == "log"
        values = [math.log(v) for v in look.values] if log and c["kind"] == "measure" else list(look.values)
        between = float(c["between"])
        bound = self._bound(look, c)
        if bound is not None:
            average = math.fsum(values) / len(values)
            return lambda mean, sd: bound(average, mean, sd), None
        if c["kind"] == "measure":
            return measures(values, between, log), None
        view, near = self.view(look), measures(values, between, False)

        def moments(mean: float, sd: float) -> tuple[float, float]:
            # a count described on the log scale (cone scales): its moments back on the scale of numbers
            return (math.exp(mean), math.exp(mean) * sd) if log else (mean, sd)

        return (
            lambda mean, sd: near(*moments(mean, sd)),
            lambda taxon, mean, sd: log_counts(
                values, *moments(mean, sd), between, view.odd_share(taxon, look.character)
            ),
        )

    def _bound(self, look: Look, c: dict[str, Any]) -> Callable[[float, float, float], float] | None:
        """Sizes that bound the grown size from one side only: of what still grows, or what has overgrown."""
        if not c.get("grows"):
            return None
        if c["organ"] == "habit":
            return log_at_least if look.stage in STILL_GROWING else None
        if look.stage in SMALL_LEAVED or (look.seen == "plant" and self._leaves_unfold(look.on)):
            return log_at_least
        overgrown = look.stage in LARGE_LEAVED or look.shoot in ODD_SHOOTS or self.case.light == "shade"
        return log_at_most if overgrown else None

    def _leaves_unfold(self, on: datetime.date) -> bool:
        """Whether at this place, by the middle taxon that sheds its leaves, blades have not reached their
        size yet.
        """
        dates = [
            (d["bud_burst"], d["leaf_out"])
            for t in self.flora.leaves
            if {"bud_burst", "leaf_out", "fall"} <= (d := self.days(t)).keys()
        ]
        if not dates:
            return False
        first, last = (statistics.median(column) for column in zip(*dates, strict=True))
        return within(day_of_year(on), first, last + EARLY_DAYS) > 0.5


def _column(c: dict[str, Any], look: Look, extra: float = 0.0) -> dict[str, float]:
    """true state -> chance of all the look's readings of it."""
    readings = [("none" if look.none else look.states[0], look.slip), *look.again]
    return {
        s: math.prod(
            misreading(c, s, reported, slip, extra if s == "alternate" else 0.0)
            for reported, slip in readings
        )
        for s in c["states"]
    }


def leaflet_for_leaf(taxon: str, view: Shows, c: dict[str, Any], season: str) -> float:
    """Chance that leaflets are taken for leaves, which turns `alternate` into `opposite`: only where leaves
    are compound.
    """
    share = c.get("leaflet_for_leaf")
    if not share:
        return 0.0
    types = view.weights(taxon, "leaf.type", season) or {}
    return float(share["alternate"]) * math.fsum(types.get(k, 0.0) for k in COMPOUND)


def many_probability(
    reported: Reported, seen: tuple[str, ...], absent: tuple[str, ...], slip: float
) -> float:
    """P(these states named, those named absent, the rest not named). The whole look is one item of evidence.

    A state not named is weak evidence: P(not reported | presence p) = 1 − r·p with the vocabulary's report
    rate.
    """
    stray = slip / len(reported.presence)
    named = [_named(reported.presence[s], reported.rate, stray, slip) for s in seen]
    return math.prod(
        [reported.none_named, *named, *[_absent(reported.presence[s], reported.rate, slip) for s in absent]]
    )


def _named(p: float, rate: float, stray: float, slip: float) -> float:
    """Chance that a state is named, over the chance that it is not."""
    return rate * ((1 - slip) * p + stray) / (1 - rate * p)


def _absent(p: float, rate: float, slip: float) -> float:
    """Chance that a state is said to be absent, over the chance that it is not named."""
    return ((1 - slip) * (1 - p) + slip * 0.5) / (1 - rate * p)


def _mean_known(chances: list[float | None], places: list[int]) -> float | None:
    known = [p for i in places if (p := chances[i]) is not None]
    return math.fsum(known) / len(known) if known else None


def beta_binomial(k: int, n: int, p: float, correlation: float) -> float:
    """P(k of n) when the share varies between plants: mean p, intra-plant correlation ρ (Skellam 1948)."""
    p = min(max(p, 1e-6), 1 - 1e-6)
    a, b = p * (1 - correlation) / correlation, (1 - p) * (1 - correlation) / correlation
    log_choose = math.lgamma(n + 1) - math.lgamma(k + 1) - math.lgamma(n - k + 1)
    return math.exp(log_choose + _log_beta(k + a, n - k + b) - _log_beta(a, b))


def _log_beta(a: float, b: float) -> float:
    return math.lgamma(a) + math.lgamma(b) - math.lgamma(a + b)
