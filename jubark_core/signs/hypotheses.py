"""What may be so on one host: one cause, several together, normal for the season, nothing, or unknown.

Several causes are held together only where each explains a sign that the others do not; such a hypothesis
counts for the worst of them, so that the answers sum to one.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from jubark_core.flora.model import Flora
from jubark_core.season.days import day_of_year
from jubark_core.signs.case import HealthCase, SeenSign
from jubark_core.signs.hosts import Host, is_among
from jubark_core.signs.likelihood import (
    can_be_seen,
    chance_of_cause,
    chance_of_normal,
    chance_unknown,
    is_normal_now,
    reported,
)
from jubark_core.signs.load import health
from jubark_core.signs.model import CLASSES, Normal
from jubark_core.signs.prior import (
    NORMAL,
    NOTHING,
    NOTHING_IF_NONE_SEEN,
    UNKNOWN,
    neighbours_log,
    prior_weight,
)

NORMAL_ID, NOTHING_ID, UNKNOWN_ID = "normal", "nothing_wrong", "unknown"
OTHERS = (NORMAL_ID, NOTHING_ID, UNKNOWN_ID)
EXPLAINS = 3.0  # a cause explains a sign where it makes it this many times likelier than chance does
MOST_TOGETHER = {2: 14, 3: 8}  # of how many causes, the most telling first, pairs and threes are formed
LAB_RIGHT, LAB_MISSES, LAB_WRONG = 0.97, 0.15, 0.01  # a test finds it; misses it; finds what is not there
LEAST = 1e-300


@dataclass(frozen=True)
class Hypothesis:
    """What may be so on a host: causes, or one of OTHERS. main: what it counts for. log: natural."""

    host: Host
    what: tuple[str, ...]
    main: str
    log: float


@dataclass(frozen=True)
class OnHost:
    """A case as it is for one host. weights: what each look enters with."""

    host: Host
    case: HealthCase
    flora: Flora
    looks: tuple[SeenSign, ...]
    weights: tuple[float, ...]

    @cached_property
    def chance(self) -> dict[str, list[float]]:
        """What may be so -> chance that it makes each sign. Causes that make none of the seen signs are left
        out: they are no answer to what is seen.
        """
        words = health().signs
        found: dict[str, list[float]] = {
            NOTHING_ID: [0.0] * len(self.looks),
            UNKNOWN_ID: [chance_unknown(words[s.sign]) for s in self.looks],
        }
        normals = normals_here(self.host.taxon, self.case, self.flora)
        explained = [max((self._normal(n, s) for n in normals), default=0.0) for s in self.looks]
        if self._explains(explained):
            found[NORMAL_ID] = explained
        named = {result.cause for result in self.case.lab}
        for cause in health().causes.values():
            if prior_weight(cause, self.host.taxon, self.case, self.flora) <= 0:
                continue
            row = [chance_of_cause(cause, s, self.host.taxon, self.case, self.flora) for s in self.looks]
            if not self.seen or self._explains(row) or cause.id in named:
                found[cause.id] = row
        return found

    def _normal(self, normal: Normal, look: SeenSign) -> float:
        return chance_of_normal(normal, look, self.host.taxon, self.case, self.flora)

    def _explains(self, row: Sequence[float]) -> bool:
        return any(row[i] > health().signs[self.looks[i].sign].noise for i in self.seen)

    @cached_property
    def seen(self) -> list[int]:
        """Places of the looks that saw a sign."""
        return [i for i, s in enumerate(self.looks) if not s.none]

    @cached_property
    def share(self) -> dict[str, float]:
        """What may be so -> its share before the signs, on this host; they sum to 1."""
        nothing = NOTHING if self.seen else NOTHING_IF_NONE_SEEN
        of_others = {NOTHING_ID: nothing, UNKNOWN_ID: UNKNOWN, NORMAL_ID: NORMAL}
        causes = health().causes
        found = {
            what: of_others.get(what) or prior_weight(causes[what], self.host.taxon, self.case, self.flora)
            for what in self.chance
        }
        total = math.fsum(found.values())
        return {what: weight / total for what, weight in found.items()}

    @cached_property
    def rows(self) -> dict[str, tuple[float, ...]]:
        """What may be so -> log-likelihood of each look, before its weight."""
        return {what: self.row(chances) for what, chances in self.chance.items()}

    def row(self, chances: Sequence[float]) -> tuple[float, ...]:
        """Log-likelihood of each look where the signs have these chances."""
        words = health().signs
        return tuple(
            math.log(max(LEAST, reported(chance, s, words[s.sign], found)))
            for chance, s, found in zip(chances, self.looks, self.visible, strict=True)
        )

    @cached_property
    def visible(self) -> list[float]:
        """Chance that each sign can be seen on this plant now."""
        return [can_be_seen(s.sign, self.host.taxon, self.case, self.flora) for s in self.looks]

    def hypotheses(self) -> list[Hypothesis]:
        """All that may be so on this host."""
        alone = [self._of((what,), self.rows[what]) for what in sorted(self.chance)]
        return alone + [h for n in MOST_TOGETHER for h in self._together(n)]

    def _of(self, what: tuple[str, ...], row: tuple[float, ...]) -> Hypothesis:
        causes = health().causes
        patterns = [causes[w].pattern if w in causes else w.removesuffix("_wrong") for w in what]
        log = math.fsum(
            [
                math.log(self.host.probability),
                *(math.log(self.share[w]) for w in what),
                max(neighbours_log(pattern, self.case) for pattern in patterns),
                *(weight * value for weight, value in zip(self.weights, row, strict=True)),
                _lab_log(what, self.case),
            ]
        )
        return Hypothesis(self.host, what, worst(what), log)

    def _together(self, n: int) -> list[Hypothesis]:
        if len(self.seen) < n:
            return []
        found = []
        for what in itertools.combinations(sorted(self._telling[: MOST_TOGETHER[n]]), n):
            if all(self._explains_alone(w, [o for o in what if o != w]) for w in what):
                several = zip(*(self.chance[w] for w in what), strict=True)
                found.append(self._of(what, self.row([1 - math.prod(1 - x for x in xs) for xs in several])))
        return found

    @cached_property
    def _telling(self) -> list[str]:
        nothing = self.rows[NOTHING_ID]
        gain = {
            what: max((row[i] - nothing[i] for i in self.seen), default=0.0)
            for what, row in self.rows.items()
            if what not in (NOTHING_ID, UNKNOWN_ID)
        }
        able = [what for what in gain if gain[what] > math.log(EXPLAINS)]
        return sorted(able, key=lambda what: (-gain[what], what))

    def _explains_alone(self, what: str, others: list[str]) -> bool:
        own = self.rows[what]
        return any(own[i] - max(self.rows[o][i] for o in others) > math.log(EXPLAINS) for i in self.seen)


def worst(what: tuple[str, ...]) -> str:
    """The one that does the most harm; ties by id."""
    causes = health().causes

    def harm(one: str) -> int:
        return CLASSES.index(causes[one].harm) if one in causes else -1

    return max(sorted(what), key=harm)


def normals_here(taxon: str, case: HealthCase, flora: Flora) -> list[Normal]:
    """What is normal on this plant at this time."""
    day = day_of_year(case.on)
    return [
        n
        for n in health().normals
        if is_among(taxon, n.hosts, flora)
        and (not n.stages or case.stage in n.stages)
        and not (n.deciduous and flora.evergreen.get(taxon, False))
        and is_normal_now(n, taxon, day, case, flora) > 0
    ]


def _lab_log(what: tuple[str, ...], case: HealthCase) -> float:
    found = 0.0
    for result in case.lab:
        has = result.cause in what
        if result.positive:
            found += math.log(LAB_RIGHT if has else LAB_WRONG)
        else:
            found += math.log(LAB_MISSES if has else 1 - LAB_WRONG)
    return found
