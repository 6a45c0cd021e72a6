"""P(what was reported | hypothesis, its date, its stage): readings pooled to one truth, unknown data, and
the floor.
"""

from __future__ import annotations

import datetime
import math
import statistics
from collections.abc import Callable, Sequence
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.rows import Row
from jubark_core.flora.shows import ODD_SHOOTS, Shows
from jubark_core.flora.views import days_of, shows
from jubark_core.naming.absence import SEASONAL, chance_none
from jubark_core.naming.case import Case, Look
from jubark_core.naming.pooling import Item
from jubark_core.naming.reading import column
from jubark_core.naming.samples import (
    TINY_LOG,
    Sample,
    log_at_least,
    log_at_most,
    log_counts,
    measures,
)
from jubark_core.naming.states import INAPPLICABLE, chance_by_row, chance_inside, chance_senseless
from jubark_core.season.days import day_of_year, within
from jubark_core.season.showing import visible

FLOOR = 2.0**-10  # share of anything in every description
OUTLIER_SHARE = 0.02  # of a specimen's sample: another kind's leaves, a misprint, a monster
OUTLIER_SLIP = 0.1  # of an unsure sample's slip, on top of that
NEIGHBOUR_SHARE = {"plant": 0.0, "stored": 0.0, "litter": 0.25, "neighbour": 0.5}
RELATIVES = 2.0  # samples and absences: relatives count n / (n + 2); foretells the flora best of itself
STILL_GROWING = ("seedling", "sapling", "young", "resprout", "clipped")
SMALL_LEAVED, LARGE_LEAVED = ("seedling", "clipped"), ("resprout",)
EARLY_DAYS = 21  # days after leaf-out until blades have their size ('common practice')
OUT_OF_SEASON = 0.08  # chance of an organ outside the dates the flora gives for it: odd years, odd plants
NEGLIGIBLE = 40.0  # natural log: so far behind the best taxon, a sample's exact chance no longer matters

Rough = Callable[[float, float], float]  # (mean, sd) -> log-chance of the sample
Exact = Callable[[str, float, float], float]  # (taxon, mean, sd) -> log-chance of the sample
Logs = dict[str, float]  # log P' by hypothesis


class Evidence:
    """Likelihoods of the looks of one case. Holds no shared state; one object per case, kept while it gains
    looks.
    """

    def __init__(self, case: Case, flora: Flora) -> None:
        self.case = case
        self.flora = flora
        self._items: dict[tuple[Item, Item | None], Logs] = {}
        self._organs: dict[tuple[str, datetime.date], Logs] = {}
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
        """The season of every hypothesis on that date."""
        if on not in self._seasons:
            self._seasons[on] = [self.season(h, on) for h in self.flora.hypotheses]
        return self._seasons[on]

    def season_of(self, on: datetime.date) -> str:
        """The season in which most hypotheses are on that date."""
        found = self.seasons(on)
        return "winter" if 2 * found.count("winter") > len(found) else "summer"

    def log_likelihoods(self, item: Item, fork: Item | None = None) -> Logs:
        """log P'(item | hypothesis) for every hypothesis, floor included. Empty where no taxon knows anything
        of it.

        fork: what was read of the character this one rests on. Whether this one makes sense is then known
        from there and is not told a second time: the chance is P(item | hypothesis, fork).
        """
        key = (item, fork)
        if key not in self._items:
            self._items[key] = self._find(item, fork)
        return self._items[key]

    def _find(self, item: Item, fork: Item | None) -> Logs:
        own = (1 - NEIGHBOUR_SHARE[item.look.seen]) * (1 - FLOOR)
        if item.kind == "absent":
            reading = item.readings[0]
            chances = [
                chance_none(t, item.character, item.look, reading.slip, self.case, self.flora, self.days(t))
                for t in self.flora.leaves
            ]
            return self._floored(self._with_relatives(chances), 0.0, own)
        if item.kind == "values":
            known, scale = self._samples(item, fork)
            if not known:
                return {}
            slip = math.fsum(r.slip for r in item.readings) / len(item.readings)
            odd = 0.0 if OUTLIER_SHARE == 0 else OUTLIER_SHARE + OUTLIER_SLIP * slip
            return self._floored(self._with_relatives(known), scale, own * (1 - odd))
        chances = self._states(item, fork)
        return self._floored(chances, 0.0, own) if chances else {}

    def organ_seen(self, organ: str, on: datetime.date) -> Logs:
        """log-chance that needles, flowers or fruit were there to be seen on that date, by hypothesis: a
        flower in October is news.
        """
        key = (organ, on)
        if key not in self._organs:
            day = day_of_year(on)
            chances = [
                OUT_OF_SEASON
                + (1 - OUT_OF_SEASON)
                * max(visible(k, self.days(t), day, self.flora.evergreen[t]) for k in SEASONAL[organ])
                for t in self.flora.leaves
            ]
            self._organs[key] = self._floored(self._with_relatives(chances), 0.0, 1 - FLOOR)
        return self._organs[key]

    def _floored(self, chances: Sequence[float], scale: float, own: float) -> Logs:
        """Mix the marginal of the whole flora in, for floor, neighbour and outlier; chances by hypothesis."""
        listed = [
            p for p, (_, place, _, _) in zip(chances, self.flora.relatives, strict=True) if place is not None
        ]
        rest = (1 - own) * math.fsum(listed) / len(listed)
        return {
            h: scale + math.log(max(1e-300, own * p + rest))
            for h, p in zip(self.flora.hypotheses, chances, strict=True)
        }

    def _with_relatives(self, known: Sequence[float | None]) -> list[float]:
        """Chances by hypothesis from those of the leaves: unknown ones from genus and family, shrunk toward
        the mean.
        """
        told = [p for p in known if p is not None]
        overall = math.fsum(told) / len(told)

        def shrunk(places: list[int], toward: float) -> float:
            kin = [p for i in places if (p := known[i]) is not None]
            return (math.fsum(kin) + RELATIVES * toward) / (len(kin) + RELATIVES)

        found = []
        for _, place, genus, family in self.flora.relatives:
            p = known[place] if place is not None else None
            found.append(shrunk(genus, shrunk(family, overall)) if p is None else p)
        return found

    def _states(self, item: Item, fork: Item | None) -> list[float]:
        """P(all the readings | hypothesis); empty where no taxon knows the character."""
        seasons = self.seasons(item.on)
        found: dict[str, list[float]] = {}
        for season in sorted(set(seasons)) if item.character in self.flora.by_season else seasons[:1]:
            rows = self.view(item.look).rows(item.character, season, item.look.where)
            if not rows.described:
                return []
            told, senseless = chance_by_row(self.flora, item), chance_senseless(self.flora, item)
            of_row = [told(row) for row in rows.rows]
            if fork is None:
                whole = [
                    row.applies * p + (1 - row.applies) * senseless
                    for row, p in zip(rows.rows, of_row, strict=True)
                ]
                found[season] = [whole[i] for i in rows.of]
                continue
            sense = self._sense_after(item.character, [rows.rows[i].applies for i in rows.of], fork)
            found[season] = [a * of_row[i] + (1 - a) * senseless for i, a in zip(rows.of, sense, strict=True)]
        if len(found) == 1:
            return found[seasons[0]]
        return [found[season][i] for i, season in enumerate(seasons)]

    def chance(self, item: Item, row: Row) -> float:
        """P(all the readings of the item | a taxon with that row)."""
        return row.applies * chance_by_row(self.flora, item)(row) + (1 - row.applies) * chance_senseless(
            self.flora, item
        )

    def _sense_after(self, character: str, sense: list[float], fork: Item) -> list[float]:
        """Chance, by hypothesis, that a character makes sense, once what it rests on was read.

        sense: the same before. P(in | readings) = P(in)·P(readings | in) / P(readings), in: a state in which
        it makes sense. What a taxon does not have at all ('n/a') it does not get by a reading elsewhere.
        """
        inside = self.flora.characters[character]["requires"][fork.character]
        found = []
        kept: dict[tuple[str, int], tuple[float, float]] = {}
        seasons = self.seasons(fork.on)
        view = self.view(fork.look)
        for h, before in enumerate(sense):
            rows = view.rows(fork.character, seasons[h], fork.look.where)
            key = (seasons[h], rows.of[h])
            if key not in kept:
                kept[key] = chance_inside(self.flora, fork, rows.rows[rows.of[h]], inside)
            prior, after = kept[key]
            found.append(min(1.0, before * after / prior) if prior > 0 else before)
        return found

    def _samples(self, item: Item, fork: Item | None) -> tuple[list[float | None], float]:
        """(chance of the sample by leaf of the flora, over exp(scale); scale): the best taxon has 1; None
        where a taxon says nothing. Empty where none says anything.
        """
        look, c = item.look, self.flora.characters[item.character]
        view = self.view(look)
        rough, exact = self._rule(item, c)
        season = dict(zip(self.flora.hypotheses, self.seasons(item.on), strict=True))
        sense = {h: view.sense(item.character, s)[i] for i, (h, s) in enumerate(season.items())}
        if fork is not None:
            after = self._sense_after(item.character, list(sense.values()), fork)
            sense = dict(zip(sense, after, strict=True))
        logs: list[float | None] = []
        moments = []
        for t in self.flora.leaves:
            spread = view.spread(t, item.character)
            applies = sense[t]
            moments.append((t, spread, applies))
            logs.append(rough(*spread) if spread is not None else TINY_LOG if applies <= 0.5 else None)
        told = [value for value in logs if value is not None]
        if not told:
            return [], 0.0
        top = max(told)
        if exact is not None:
            logs = [
                exact(t, *spread)
                if value is not None and spread is not None and value > top - NEGLIGIBLE
                else value
                for (t, spread, _), value in zip(moments, logs, strict=True)
            ]
            top = max(value for value in logs if value is not None)
        chances = [
            None if v is None else m[2] * math.exp(v - top) for m, v in zip(moments, logs, strict=True)
        ]
        return self._ordinary_values(c, chances, rough, top), top

    def _ordinary_values(
        self, c: dict[str, Any], chances: list[float | None], rough: Rough, top: float
    ) -> list[float | None]:
        """Silent taxa have the ordinary range where the vocabulary gives one, with a fifth of the
        describing ones.
        """
        if "ordinary" not in c:
            return chances
        told = [p for p in chances if p is not None]
        low, high = (math.log(v) if c["scale"] == "log" else v for v in c["ordinary"])
        sd = (high - low) / (2 * 1.2815515655446004)  # the central 80 %
        usual = math.exp(rough((low + high) / 2, sd) - top)
        silent = 0.8 * usual + 0.2 * math.fsum(told) / len(told)
        return [silent if p is None else p for p in chances]

    def _rule(self, item: Item, c: dict[str, Any]) -> tuple[Rough, Exact | None]:
        """How a sample is judged: (mean, sd) -> log-chance; for counts that only sorts out the hopeless, and
        the exact rule follows.
        """
        log = c.get("scale") == "log"
        sample: Sample = [(v, r.slip) for r in item.readings for v in r.values]
        numbers = [v for v, _ in sample]
        if log and c["kind"] == "measure":
            numbers = [math.log(v) for v in numbers]
        between = float(c["between"])
        slip = math.fsum(s for _, s in sample) / len(sample)
        bound = self._bound(item.look, c)
        if bound is not None:
            average = math.fsum(numbers) / len(numbers)
            return lambda mean, sd: bound(average, mean, sd), None
        if c["kind"] == "measure":
            return measures(numbers, between, log, slip), None
        view, near = self.view(item.look), measures(numbers, between, False, 0.0, slip)

        def moments(mean: float, sd: float) -> tuple[float, float]:
            # a count described on the log scale (cone scales): its moments back on the scale of numbers
            return (math.exp(mean), math.exp(mean) * sd) if log else (mean, sd)

        span = c["range"][1] - c["range"][0] + 1
        return (
            lambda mean, sd: near(*moments(mean, sd)),
            lambda taxon, mean, sd: log_counts(
                sample, *moments(mean, sd), between, view.odd_share(taxon, item.character), span
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


def report_row(flora: Flora, character: str, row: Row, slip: float) -> tuple[float, ...]:
    """Chance of each report of a likely look (of each state's being reported, for many-state characters),
    then of 'does not apply'.
    """
    c = flora.characters[character]
    n = len(c["states"])
    if c["kind"] == "many":
        seen = [(1 - slip) * p + slip / n for p in row.weights]
    else:
        extra = float(c["leaflet_for_leaf"]["alternate"]) * row.compound if row.compound else 0.0
        columns = [column(flora, character, (r,), slip, 1.0, extra) for r in c["states"]]
        seen = [math.fsum(w * p for w, p in zip(row.weights, of, strict=True)) for of in columns]
    rest = (1 - row.applies) * INAPPLICABLE / n
    return (*[row.applies * p + rest for p in seen], (1 - row.applies) * (1 - INAPPLICABLE))
