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
from jubark_core.units import CM_PER_INCH, M_PER_FOOT

FASTEST_CM_A_YEAR = 4.0  # beyond the fastest growers of temperate ground
TAPE_SLACK_CM = 0.6  # two tapes on one stem differ by this much and more is a loss
SLENDER, STOUT = 120.0, 8.0  # height over diameter, both in m: thinner breaks, thicker is no tree in a wood
TOO_TALL = 1.35  # of the tallest the description gives
DIAMETERS = ("dbh_cm", "drc_cm")
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
    climber: bool = False,
) -> dict[str, Any]:
    """What speaks against a figure, and what was perhaps meant.

    quantity: dbh_cm, drc_cm, height_m or crown_spread_m; value in its unit. dbh_cm, height_m: the stem's
    other figure of this visit. grown_height_m: (low, high) of the taxon. before, years: the last visit's
    figure and the years since. before_at_m, now_at_m: heights of both diameters. neighbours: figures of the
    same taxon nearby. Returns {"warnings": [text], "meant": [{"value", "why"}]}; both empty where nothing
    speaks against it. Raises InputError.
    """
    require_one_of("quantity", quantity, ("dbh_cm", "drc_cm", "height_m", "crown_spread_m"))
    require_between(quantity, value, 0.01, 10_000)
    warnings: list[str] = []
    apart = (
        comparable(before_at_m, now_at_m)
        if quantity == "dbh_cm" and before is not None and (before_at_m or now_at_m)
        else ""
    )
    if apart:
        warnings.append(apart)
    if before is not None and not apart:
        warnings += _against_before(quantity, value, before, years)
    if quantity == "height_m" and grown_height_m and value > grown_height_m[1] * TOO_TALL:
        warnings.append(f"{value:.1f} m is well above the {grown_height_m[1]:g} m this kind grows to.")
    warnings += _slender(quantity, value, dbh_cm, height_m, climber)
    warnings += _against_neighbours(quantity, value, neighbours)
    expected = [v for v in (before, *_middle(neighbours)) if v]
    return {"warnings": warnings, "meant": _meant(quantity, value, expected, height_m) if warnings else []}


def _against_before(quantity: str, value: float, before: float, years: float | None) -> list[str]:
    gap = value - before
    if quantity in DIAMETERS:
        if gap < -TAPE_SLACK_CM:
            return [
                f"{-gap:.1f} cm thinner than at the last visit ({before:.1f} cm). Stems do not shrink by "
                "that much."
            ]
        fastest = FASTEST_CM_A_YEAR * max(years or 1.0, 0.5)
        if gap > fastest + TAPE_SLACK_CM:
            return [
                f"{gap:.1f} cm more than at the last visit ({before:.1f} cm): over {FASTEST_CM_A_YEAR:g} "
                "cm a year, faster than fast growers."
            ]
        return []
    if gap < -0.15 * before:
        return [
            f"{-gap:.1f} m less than at the last visit ({before:.1f} m). Broken or cut? Then say so "
            "under condition."
        ]
    if gap > max(2.0, 2.0 * (years or 1.0)) + 0.1 * before:
        return [f"{gap:.1f} m more than at the last visit ({before:.1f} m): more than two metres a year."]
    return []


def _slender(
    quantity: str, value: float, dbh_cm: float | None, height_m: float | None, climber: bool
) -> list[str]:
    dbh, height = (
        (value, height_m) if quantity == "dbh_cm" else (dbh_cm, value if quantity == "height_m" else height_m)
    )
    if not dbh or not height or climber or height < 3:
        return []
    ratio = height / (dbh / 100)
    if ratio > SLENDER:
        return [
            f"{height:.1f} m high on {dbh:.1f} cm: height over diameter {ratio:.0f}, thinner than stems "
            "that stand."
        ]
    if ratio < STOUT:
        return [
            f"{height:.1f} m high on {dbh:.1f} cm: height over diameter {ratio:.0f}, stouter than trees grow."
        ]
    return []


def _against_neighbours(quantity: str, value: float, neighbours: Sequence[float]) -> list[str]:
    if len(neighbours) < 5 or value <= 0:
        return []
    logs = [math.log(n) for n in neighbours if n > 0]
    mean = math.fsum(logs) / len(logs)
    sd = max(0.25, math.sqrt(math.fsum((v - mean) ** 2 for v in logs) / (len(logs) - 1)))
    if abs(math.log(value) - mean) <= NEIGHBOUR_SD * sd:
        return []
    unit = "cm" if quantity in DIAMETERS else "m"
    return [f"Far from its {len(logs)} neighbours of the same kind, about {math.exp(mean):.0f} {unit}."]


def _middle(neighbours: Sequence[float]) -> list[float]:
    return [sorted(neighbours)[len(neighbours) // 2]] if len(neighbours) >= 5 else []


def _meant(
    quantity: str, value: float, expected: Sequence[float], height_m: float | None
) -> list[dict[str, Any]]:
    """Slips that would bring the figure near to what was expected; without anything expected, near to a stem
    that stands.
    """
    unit_slip = (
        ("inches typed as centimetres", CM_PER_INCH)
        if quantity in DIAMETERS
        else ("feet typed as metres", M_PER_FOOT)
    )
    slips = [("decimal point one place off", 0.1), ("decimal point one place off", 10.0), unit_slip]
    if quantity in DIAMETERS:
        slips += [("girth typed as diameter", 1 / math.pi), ("diameter typed as girth", math.pi)]
    found: list[dict[str, Any]] = []
    for why, factor in slips:
        meant = value * factor
        near = [abs(meant - e) - max(FITS_CM, FITS_SHARE * e) for e in expected]
        if expected and min(near) <= 0:
            found.append({"value": round(meant, 1), "why": why, "miss": min(near)})
        elif (
            not expected
            and quantity == "dbh_cm"
            and height_m
            and height_m >= 3
            and 25 <= height_m / (meant / 100) <= 100
        ):
            found.append({"value": round(meant, 1), "why": why, "miss": abs(height_m / (meant / 100) - 60)})
    found.sort(key=lambda m: m["miss"])
    return [{"value": m["value"], "why": m["why"]} for m in found[:2]]
