"""Naming virtual plants look by look: what was stated after each look, and how many looks it took in which
order.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from random import Random
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.calibration import (
    ORGAN_SETS,
    SEASONS,
    WITHHELD_PLANTS,
    Plant,
    draw_plant,
    withhold,
    worsened,
)
from jubark_core.naming.case import read_case
from jubark_core.naming.next_looks import live_candidates, rank_looks
from jubark_core.naming.scores import brier, calibration_error, calibration_floor, log_loss
from jubark_core.naming.verdict import supported
from jubark_core.naming.weigh import Weighed, weigh

SETTLED = 0.9
ORDERS = ("next look", "random", "fixed")


@dataclass(frozen=True)
class Step:
    """The belief after a look. stated: probability of the name told; right: it is the truth; wrong_species:
    another listed one is told; above: 'not in this list' leads, or the name supported is of the truth's
    genus or above.
    """

    plant: Plant
    looks: int
    last: bool
    stated: float
    right: bool
    in_three: bool
    wrong_species: bool
    truth: float
    above: bool


def expected(plant: Plant, flora: Flora) -> str:
    """The hypothesis that is right: the taxon, or for a withheld one 'another of its genus', or 'not in this
    list'.
    """
    if not plant.withheld:
        return plant.truth
    unlisted = f"{plant.truth.split('-')[0]}-unlisted"
    return unlisted if unlisted in flora.genus_of_unlisted else "unlisted"


def told(hypothesis: str, flora: Flora) -> str:
    """What is told for a hypothesis: itself, or the node at which naming stops in the field."""
    unlisted_in = flora.genus_of_unlisted.get(hypothesis)
    members = flora.below[unlisted_in] if unlisted_in else [hypothesis] if hypothesis in flora.taxa else []
    stops = [flora.taxa[m].get("stop_at") for m in members]
    if not stops or not all(stops):
        return hypothesis
    rank = max(stop["rank"] for stop in stops if stop)
    return next(
        (a for a in flora.ancestors(unlisted_in or hypothesis) if flora.taxa[a].get("rank") == rank),
        hypothesis,
    )


def steps(plant: Plant, flora: Flora) -> list[Step]:
    """One step per look, in the order the looks were made; a plant with nothing to see gives none."""
    truth, w, made = told(expected(plant, flora), flora), None, []
    for n in range(1, len(plant.looks) + 1):
        w = weigh(read_case({**plant.case, "observations": plant.looks[:n]}, flora), flora, w)
        belief: dict[str, float] = {}
        for h, p in w.probability.items():
            belief[told(h, flora)] = belief.get(told(h, flora), 0.0) + p
        ranked = sorted(belief, key=lambda h: (-belief[h], h))[:3]
        right = ranked[0] == truth
        wrong = not right and ranked[0] in flora.leaves
        made.append(
            Step(
                plant,
                n,
                n == len(plant.looks),
                belief[ranked[0]],
                right,
                truth in ranked,
                wrong,
                belief[truth],
                _holds_above(w, plant),
            )
        )
    return made


def _holds_above(w: Weighed, plant: Plant) -> bool:
    if w.ranked[0] not in w.flora.taxa:
        return True
    found = supported(w)
    return found is not None and found["taxon"] in plant.lineage


def looks_to_settle(plant: Plant, flora: Flora, order: str, rng: Random) -> tuple[int, float] | None:
    """(looks, seconds of effort) until one hypothesis stands at 0.9 or more; None when all there are do not
    get it there.
    """
    left = list(plant.looks)
    if order == "random":
        rng.shuffle(left)
    if order == "fixed":
        rank = {cid: i for i, cid in enumerate(flora.characters)}
        left.sort(key=lambda look: rank[look["character"]])
    made: list[dict[str, Any]] = []
    w = weigh(read_case(plant.case, flora), flora)
    while left:
        made.append(_best(w, left) if order == "next look" else left.pop(0))
        w = weigh(read_case({**plant.case, "observations": made}, flora), flora, w)
        if w.probability[w.ranked[0]] >= SETTLED:
            return len(made), math.fsum(
                float(flora.characters[look["character"]].get("effort_s", 15)) for look in made
            )
    return None


def _best(w: Weighed, left: list[dict[str, Any]]) -> dict[str, Any]:
    """The first look the engine asks for that this plant can answer; where it asks for none of them, the next
    at hand.
    """
    wanted = [cid for cid, _, _ in rank_looks(w, live_candidates(w)[0])[0]]
    at = min(
        range(len(left)),
        key=lambda i: (
            wanted.index(left[i]["character"]) if left[i]["character"] in wanted else len(wanted),
            i,
        ),
    )
    return left.pop(at)


@dataclass(frozen=True)
class Trial:
    """A flora as it is, as the engine gets it, and virtual plants to be named with it."""

    flora: Flora
    given: Flora
    plants: list[Plant]

    @cached_property
    def steps(self) -> list[Step]:
        """What was stated after every look at every plant."""
        return [step for plant in self.plants for step in steps(plant, self.given)]


Kind = tuple[str, str]  # season, organ set


def run_trial(
    flora: Flora,
    plants: int,
    seed: int,
    kinds: Sequence[Kind] | None = None,
    hidden_share: float = WITHHELD_PLANTS,
) -> Trial:
    """Draw plants: organ sets and seasons in turn (winter twigs only in winter, leaves only in leaf), or
    the kinds asked for. hidden_share: of plants of a taxon that the engine does not get.
    """
    rng = Random(seed)
    withheld = withhold(flora, rng)
    given = worsened(flora, withheld, rng)
    kinds = kinds or [
        (season, organs)
        for organs in ORGAN_SETS
        for season in SEASONS
        if (organs != "winter twig" or season == "winter")
        and (organs != "leaf" or season in ("summer", "autumn"))
    ]
    drawn = [draw_plant(flora, withheld, rng, *kinds[i % len(kinds)], hidden_share) for i in range(plants)]
    return Trial(flora, given, drawn)


@dataclass(frozen=True)
class Row:
    """One line of the report. top1, top3: after the last look, of plants the engine can know; wrong_above:
    another species told above 0.9 after the last look; holds_above: 'not in this list' first, or a name
    supported that holds the truth; the rest over every look.
    """

    name: str
    plants: int
    top1: float
    top3: float
    brier: float
    error: float
    floor: float
    wrong_above: float
    holds_above: float


def report(trial: Trial) -> list[Row]:
    """Overall, by season, by organ set, and for plants of withheld taxa."""
    rng = Random(1)
    rows = [_row("all looks", trial.steps, rng)]
    rows += [_row(season, [s for s in trial.steps if s.plant.season == season], rng) for season in SEASONS]
    rows += [_row(organs, [s for s in trial.steps if s.plant.organs == organs], rng) for organs in ORGAN_SETS]
    leaf_on = [
        s for s in trial.steps if s.plant.organs in ("leaf", "all") and s.plant.season in ("summer", "autumn")
    ]
    return [
        *rows,
        _row("in leaf", leaf_on, rng),
        _row("withheld", [s for s in trial.steps if s.plant.withheld], rng),
    ]


def _row(name: str, found: Sequence[Step], rng: Random) -> Row:
    last = [s for s in found if s.last]
    listed = [s for s in last if not s.plant.withheld]
    stated, right = [s.stated for s in found], [s.right for s in found]
    wrong = [s.wrong_species and s.stated > SETTLED for s in last]
    return Row(
        name,
        len(last),
        _share(listed, lambda s: s.right),
        _share(listed, lambda s: s.in_three),
        brier(stated, right),
        calibration_error(stated, right),
        calibration_floor(stated, rng),
        sum(wrong) / max(1, len(wrong)),
        _share(last, lambda s: s.above),
    )


def _share(found: Sequence[Step], of: Callable[[Step], bool]) -> float:
    return sum(map(of, found)) / max(1, len(found))


def mean_looks(trial: Trial, most: int, seed: int) -> dict[str, tuple[float, float]]:
    """Order -> (mean looks, mean seconds) to settle, over the plants with every organ in view that settle in
    each of the orders.
    """
    plants = [p for p in trial.plants if p.organs == "all" and p.looks][:most]
    counts = [[looks_to_settle(p, trial.given, order, Random(seed)) for order in ORDERS] for p in plants]
    settled = [row for row in counts if None not in row]
    columns = zip(*settled, strict=True)
    return {
        order: (
            math.fsum(c[0] for c in column if c) / len(settled),
            math.fsum(c[1] for c in column if c) / len(settled),
        )
        for order, column in zip(ORDERS, columns, strict=True)
    }


def mean_log_loss(trial: Trial) -> float:
    """−ln of the probability given to the truth, mean over every look, in nats."""
    return log_loss([s.truth for s in trial.steps])
