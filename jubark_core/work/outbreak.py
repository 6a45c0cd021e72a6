"""How far a pest has gone with a tree and its block, as rules of treatment ask for it: egg masses against the
owner's threshold, a second bad year, a loss of crown that is not fresh.
"""

from __future__ import annotations

import datetime
import math
from typing import Any

from jubark_core.checks import require_date
from jubark_core.season.place import Place
from jubark_core.season.windows import dates, read_window
from jubark_core.units import shown

EGG_MASSES = "egg_mass_buff"  # the sign of the spongy moth
FOUND = 0.5  # from this probability on, a year counts as one in which the pest was there
LAID = read_window("07-01..06-30", "animal")  # the year of a generation of egg masses
M2_PER_HA = 10_000
TREATABLE_LOSS = 30.0  # percent of the crown; Herms et al. (2019), 3rd edition, from memory
FRESH_YEARS = 2  # common practice: a loss that stood so long ago is not fresh


def egg_masses_per_ha(raw: dict[str, Any], on: datetime.date, place: Place) -> float | None:
    """Egg masses of the newest generation, over all plots of the block counted since they were laid; None
    where nobody counted any. A plot: masses counted over_m2, on a day.
    """
    laid = _last_laying(on, place)
    plots = [
        plot
        for i, plot in enumerate(raw.get("egg_mass_plots", []))
        if laid <= require_date(f"egg_mass_plots[{i}].on", plot["on"]) <= on
    ]
    if not plots:
        return None
    masses, ground_m2 = (math.fsum(p[key] for p in plots) for key in ("masses", "over_m2"))
    return masses / ground_m2 * M2_PER_HA


def egg_masses_seen(raw: dict[str, Any], on: datetime.date, place: Place) -> bool:
    """Whether egg masses of the newest generation were seen on the tree."""
    day = raw.get("egg_masses_seen_on")
    return bool(day) and _last_laying(on, place) <= require_date("egg_masses_seen_on", day) <= on


def egg_masses_over(raw: dict[str, Any], on: datetime.date, place: Place) -> list[str]:
    """That they are at the owner's threshold or over it, in words with both figures."""
    limit, found = raw.get("egg_masses_limit_per_ha"), egg_masses_per_ha(raw, on, place)
    if limit is None or found is None or found < limit:
        return []
    system = "us_customary" if raw.get("units") == "us_customary" else "metric"
    return [f"{shown(found, 'per_ha', system)}, the owner's threshold {shown(limit, 'per_ha', system)}"]


def _last_laying(on: datetime.date, place: Place) -> datetime.date:
    """The day on which the newest generation was begun to be laid, on or before the day."""
    begins, _, _ = dates(LAID, place, on)
    return begins


def second_year_of(raw: dict[str, Any], on: datetime.date) -> list[str]:
    """Pests that were found in two years running, of which the second is this one or the last."""
    found = []
    for row in raw.get("diagnoses", []):
        if row.get("standing") == "ruled_out" or row["probability"] < FOUND:
            continue
        years = set(row.get("years", []))
        if any({year, year - 1} <= years for year in (on.year, on.year - 1)):
            found.append(row["agent"])
    return sorted(found)


def loss_is_old(raw: dict[str, Any], on: datetime.date) -> list[str]:
    """That the crown had lost more than can be treated as fresh two years ago or longer, in words."""
    return [
        f"{row['percent']:g} % on {row['on']}"
        for i, row in enumerate(raw.get("crown_losses", []))
        if row["percent"] > TREATABLE_LOSS
        and (on - require_date(f"crown_losses[{i}].on", row["on"])).days >= FRESH_YEARS * 365
    ][:1]
