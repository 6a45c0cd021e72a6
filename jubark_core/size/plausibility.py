"""Is a figure likely? Warnings with their reason, never a block; and slips of the hand with the figure that
was meant.

Limits are wide on purpose and 'common practice' where no source is named: a warning that cries at every tenth
stem is not read.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.size.where import comparable
from jubark_core.units import CM_PER_INCH, M_PER_FOOT, shown, unit_of

FASTEST_CM_A_YEAR = 4.0  # beyond the fastest growers of temperate ground
TAPE_SLACK_CM = 0.6  # two tapes on one stem differ by this much and more is a loss
# Height over diameter, both in m, by stage: more is thinner than stems that stand, less is stouter than they
# grow. Whips and poles may be thin, veterans and what is cut back are stout; common practice.
SLENDER = {"young": 200.0, "mature": 120.0, "veteran": 120.0}
STOUT = {"young": 12.0, "mature": 8.0}
UNJUDGED_FORMS = (
    "climber",
    "scrambler",
    "woody_grass",
    "shrub",
    "subshrub",
    "groundcover",
)  # not built like a tree
TOO_TALL = 1.35  # of the tallest the description gives
DIAMETERS = ("dbh_cm", "drc_cm")
JUDGED = (*DIAMETERS, "height_m", "crown_spread_m")
NEIGHBOUR_SD = 4.0
FITS_CM, FITS_SHARE = 1.5, 0.08  # how near the meant figure must come to what was expected, to be offered


def plausibility(
    quantity: str,
    value: float,
    *,
    dbh_cm: float | None = None,
    height_m: float | None = None,
    grown_height_m: Sequence[float] | None = None,
    before: float | None = None,
    years: float | None = None,
    before_at_m: float | None = None,
    now_at_m: float | None = None,
    neighbours: Sequence[float] = (),
    stage: str = "mature",
    form: str = "tree",
    units: str = "metric",
) -> dict[str, Any]:
    """What speaks against a figure, and what was perhaps meant.

    quantity: dbh_cm, drc_cm, height_m or crown_spread_m; value in its unit. dbh_cm, height_m: the stem's
    other figure of this visit. grown_height_m: (low, high) of the taxon. before, years: the last visit's
    figure and the years since. before_at_m, now_at_m: heights of both diameters. neighbours: figures of the
    same taxon nearby. stage, form: of the plant, for the ratio of height to diameter. units: in which the
    warnings are worded.
    Returns {"warnings": [text], "meant": [{"value", "why"}]}; both empty where nothing
    speaks against it. Raises InputError.
    """
    require_one_of("quantity", quantity, JUDGED)
    require_between(quantity, value, 0.01, 10_000)
    warnings: list[str] = []
    apart = (
        comparable(before_at_m, now_at_m, units)
        if quantity == "dbh_cm" and before is not None and (before_at_m or now_at_m)
        else ""
    )
    if apart:
        warnings.append(apart)
    if before is not None and not apart:
        warnings += _against_before(quantity, value, before, years, units)
    if quantity == "height_m" and grown_height_m and value > grown_height_m[1] * TOO_TALL:
        grown = shown(grown_height_m[1], "m", units, 0)
        warnings.append(f"{shown(value, 'm', units)} is well above the {grown} this kind grows to.")
    warnings += _slender(quantity, value, dbh_cm, height_m, stage, form, units)
    warnings += _against_neighbours(quantity, value, neighbours, units)
    expected = [v for v in (before, *_middle(neighbours)) if v]
    return {
        "warnings": warnings,
        "meant": _meant(quantity, value, expected, height_m, units) if warnings else [],
    }


def _against_before(quantity: str, value: float, before: float, years: float | None, units: str) -> list[str]:
    gap = value - before
    last = shown(before, "cm" if quantity in DIAMETERS else "m", units)
    if quantity in DIAMETERS:
        if gap < -TAPE_SLACK_CM:
            return [
                f"{shown(-gap, 'cm', units)} thinner than at the last visit ({last}). Stems do not shrink by "
                "that much."
            ]
        fastest = FASTEST_CM_A_YEAR * max(years or 1.0, 0.5)
        if gap > fastest + TAPE_SLACK_CM:
            return [
                f"{shown(gap, 'cm', units)} more than at the last visit ({last}): over "
                f"{shown(FASTEST_CM_A_YEAR, 'cm', units)} a year, faster than fast growers."
            ]
        return []
    if gap < -0.15 * before:
        return [
            f"{shown(-gap, 'm', units)} less than at the last visit ({last}). Broken or cut? Then say so "
            "under condition."
        ]
    if gap > max(2.0, 2.0 * (years or 1.0)) + 0.1 * before:
        fast = shown(2, "m", units)
        return [f"{shown(gap, 'm', units)} more than at the last visit ({last}): more than {fast} a year."]
    return []


def _slender(
    quantity: str,
    value: float,
    dbh_cm: float | None,
    height_m: float | None,
    stage: str,
    form: str,
    units: str,
) -> list[str]:
    dbh, height = (
        (value, height_m) if quantity == "dbh_cm" else (dbh_cm, value if quantity == "height_m" else height_m)
    )
    if not dbh or not height or form in UNJUDGED_FORMS or height < 3:
        return []
    ratio = height / (dbh / 100)
    high = f"{shown(height, 'm', units)} high on {shown(dbh, 'cm', units)}: height over diameter {ratio:.0f}"
    if ratio > SLENDER.get(stage, math.inf):
        return [f"{high}, thinner than stems that stand."]
    return [f"{high}, stouter than trees grow."] if ratio < STOUT.get(stage, 0.0) else []


def _against_neighbours(quantity: str, value: float, neighbours: Sequence[float], units: str) -> list[str]:
    if len(neighbours) < 5 or value <= 0:
        return []
    logs = [math.log(n) for n in neighbours if n > 0]
    mean = math.fsum(logs) / len(logs)
    sd = max(0.25, math.sqrt(math.fsum((v - mean) ** 2 for v in logs) / (len(logs) - 1)))
    if abs(math.log(value) - mean) <= NEIGHBOUR_SD * sd:
        return []
    about = shown(math.exp(mean), "cm" if quantity in DIAMETERS else "m", units, 0)
    return [f"Far from its {len(logs)} neighbours of the same kind, about {about}."]


def _middle(neighbours: Sequence[float]) -> list[float]:
    return [sorted(neighbours)[len(neighbours) // 2]] if len(neighbours) >= 5 else []


# typed in the other system: what it is called, and what the stored figure must be multiplied by
UNIT_SLIPS = {
    ("cm", "metric"): ("inches typed as centimetres", CM_PER_INCH),
    ("m", "metric"): ("feet typed as metres", M_PER_FOOT),
    ("cm", "us_customary"): ("centimetres typed as inches", 1 / CM_PER_INCH),
    ("m", "us_customary"): ("metres typed as feet", 1 / M_PER_FOOT),
}


def _meant(
    quantity: str, value: float, expected: Sequence[float], height_m: float | None, units: str
) -> list[dict[str, Any]]:
    """Slips that would bring the figure near to what was expected; without anything expected, near to a stem
    that stands.
    """
    si = "cm" if quantity in DIAMETERS else "m"
    entered = unit_of(si, units)
    unit_slip = UNIT_SLIPS[si, units]
    slips = [("decimal point one place off", 0.1), ("decimal point one place off", 10.0), unit_slip]
    if quantity in DIAMETERS:
        slips += [("girth typed as diameter", 1 / math.pi), ("diameter typed as girth", math.pi)]
    found: list[dict[str, Any]] = []
    for why, factor in slips:
        meant = value * factor
        near = [abs(meant - e) - max(FITS_CM, FITS_SHARE * e) for e in expected]
        if expected and min(near) <= 0:
            found.append(
                {"value": round(meant / entered.per, 1) * entered.per, "why": why, "miss": min(near)}
            )
        elif (
            not expected
            and quantity == "dbh_cm"
            and height_m
            and height_m >= 3
            and 25 <= height_m / (meant / 100) <= 100
        ):
            found.append(
                {
                    "value": round(meant / entered.per, 1) * entered.per,
                    "why": why,
                    "miss": abs(height_m / (meant / 100) - 60),
                }
            )
    found.sort(key=lambda m: m["miss"])
    return [{"value": m["value"], "why": m["why"]} for m in found[:2]]
