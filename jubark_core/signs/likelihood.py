"""How likely a report is under each hypothesis: a sign as a cause makes it, by host, season, place and size.

A report is a true sign of the cause, or one that others or mistakes make (noise). What was looked for and not
found counts by the chance that it would have been found.
"""

from __future__ import annotations

from functools import lru_cache

from jubark_core.flora.model import Flora
from jubark_core.flora.views import known_days
from jubark_core.season.days import day_of_year
from jubark_core.season.showing import visible
from jubark_core.season.windows import chance_within
from jubark_core.signs.case import HealthCase, SeenSign
from jubark_core.signs.hosts import is_among
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause, CauseSign, Normal, SignWord

NOTICED = 0.75  # chance that a sign that shows is found by somebody who looks for it
OFF_SEASON = 0.04  # what is left of a sign outside its time: early, late, or of last year
OFF_PLACE = 0.15  # on another part of the tree than where the cause makes it
OFF_SIZE = 0.08
OFF_SIDE = 0.3
NOT_AGAIN = 0.35  # a leaf sign that was there last year too, of a cause that does not come again
NOT_FIRST = 0.7  # first seen this year, of a cause that comes again on the same limbs
NOT_WIPED = 0.2
MOST_SIZE = 5.0  # how far a fitting size can speak for a cause
SLIP = {"sure": 0.01, "likely": 0.03, "unsure": 0.3}
# Chance of noise by how many were seen: one or a few are easily mistaken, many seldom.
BY_EXTENT = {"": 1.0, "one": 1.2, "few": 1.0, "some": 0.6, "many": 0.4}
WIPES = {"powder_white", "sooty_mould", "powder_yellow", "rust_orange_powder"}
STAYS = {"spots_black_raised", "lichen_moss", "spots_purple_rim", "felt_patches", "bands_dark_between_veins"}
COUNTED = ("same_host_affected", "other_hosts_affected")  # weighed as neighbours, not as signs
WITH_SCALE = 0.15  # of the usual confusions, where a photograph shows a scale


def chance_unknown(word: SignWord) -> float:
    """Chance that a cause that is not held makes the sign."""
    return min(0.35, max(0.04, 8 * word.noise))


def shown(sign: CauseSign, taxon: str, flora: Flora) -> bool:
    """Whether the cause makes the sign on this host."""
    if sign.not_on and is_among(taxon, sign.not_on, flora):
        return False
    return not sign.on or is_among(taxon, sign.on, flora)


def chance_of_cause(cause: Cause, seen: SeenSign, taxon: str, case: HealthCase, flora: Flora) -> float:
    """Chance that the cause makes what was reported: the sign itself, or one that is taken for it."""
    word = health().signs[seen.sign]
    scale = WITH_SCALE if seen.scale_photo else 1.0
    mistaken = sum(word.confused.values()) * scale
    found = (1 - mistaken) * _direct(cause, seen.sign, seen, taxon, case, flora)
    for other, share in word.confused.items():
        found += share * scale * _direct(cause, other, seen, taxon, case, flora)
    return found


def _direct(cause: Cause, sign: str, seen: SeenSign, taxon: str, case: HealthCase, flora: Flora) -> float:
    return max(
        (_one(s, seen, case) for s in cause.signs.get(sign, ()) if shown(s, taxon, flora)), default=0.0
    )


def _one(sign: CauseSign, seen: SeenSign, case: HealthCase) -> float:
    chance = sign.often * in_time(sign, case, day_of_year(seen.on))
    if seen.none:
        return chance
    if sign.where and seen.where and sign.where.isdisjoint(seen.where):
        chance *= OFF_PLACE
    if seen.size_mm is not None:
        chance *= _by_size(sign, seen.size_mm)
    part = health().signs[seen.sign].part
    if part in ("leaf", "crown"):
        if seen.since in ("last_year", "older") and not sign.again:
            chance *= NOT_AGAIN
        if seen.since == "this_year" and sign.again:
            chance *= NOT_FIRST
    if (seen.wipes_off is False and seen.sign in WIPES) or (seen.wipes_off and seen.sign in STAYS):
        chance *= NOT_WIPED
    return min(chance, 0.98)


def in_time(sign: CauseSign, case: HealthCase, day: int) -> float:
    """1 in the time of the sign, OFF_SEASON outside it, soft between."""
    return max(OFF_SEASON, chance_within(sign.window, case.place, day))


def _by_size(sign: CauseSign, size_mm: float) -> float:
    if sign.size_mm is None:
        return 1.0
    low, high = sign.size_mm
    margin = max(0.25, 0.15 * (high - low))
    if low - margin <= size_mm <= high + margin:
        full = health().signs[sign.sign].size_mm or (low, high)
        return min(MOST_SIZE, max(1.0, (full[1] - full[0]) / max(1.0, 2 * (high - low))))
    return OFF_SIZE


def chance_of_normal(normal: Normal, seen: SeenSign, taxon: str, case: HealthCase, flora: Flora) -> float:
    """Chance that what is normal on the taxon now looks like what was reported."""
    share = normal.signs.get(seen.sign, 0.0)
    return share and share * is_normal_now(normal, taxon, day_of_year(seen.on), case, flora)


def is_normal_now(normal: Normal, taxon: str, day: int, case: HealthCase, flora: Flora) -> float:
    """Chance that the day lies in the time of what is normal, by the taxon's own events."""
    return chance_within(normal.window, case.place, day, "shows", known_days(flora, taxon, case.place))


def reported(chance: float, seen: SeenSign, word: SignWord, found: float = 1.0) -> float:
    """Probability of the report, given the chance that the hypothesis makes the sign.

    found: chance that it can be seen at all now; for what was looked for and absent. Reporters slip: a share
    of reports says what is there only as the unknown does.
    """
    slip = SLIP[seen.certainty]
    noise = min(0.5, word.noise * BY_EXTENT[seen.extent])
    if seen.none:
        there = 1 - (1 - chance) * (1 - word.noise)
        p = 1 - there * NOTICED * found
        unknown = 1 - chance_unknown(word) * NOTICED * found
    else:
        p = 1 - (1 - chance) * (1 - noise)
        unknown = chance_unknown(word) * BY_EXTENT[seen.extent] ** 0.5
    return (1 - slip) * p + slip * unknown


@lru_cache(maxsize=8192)
def can_be_seen(sign: str, taxon: str, case: HealthCase, flora: Flora) -> float:
    """Chance that the plant can show the sign on the day: leaf signs need leaves."""
    if not health().signs[sign].in_leaf:
        return 1.0
    if case.in_leaf is not None:
        return 1.0 if case.in_leaf else 0.0
    if taxon not in flora.taxa or "states" not in flora.taxa[taxon]:
        return 0.8
    return visible(
        "leaf_on", known_days(flora, taxon, case.place), day_of_year(case.on), flora.evergreen[taxon]
    )
