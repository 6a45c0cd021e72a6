"""What shows when: one row per organ, twenty-four half-months, for the season ring."""

from __future__ import annotations

import datetime
import math
from typing import Annotated, Any, TypedDict

from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of
from jubark_core.season.days import YEAR, date_on_or_after, day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible


class Showing(TypedDict):
    """Share of the plants that show an organ: now, and through 24 half-months from 1 January."""

    organ: str
    label: str
    now: float
    year: list[float]
    opens: Annotated[str | None, "The next date from which some show it."]


HALF_MONTHS = 24
# organ of the ring -> label, visibility classes
RING = {
    "bark": ("Bark", ("always",)),
    "twig": ("Twig scars", ("leaf_fall",)),
    "bud": ("Bud", ("bud_set",)),
    "leaf": ("Leaf", ("leaf_on",)),
    "flower": ("Flower", ("flowering",)),
    "fruit": ("Fruit", ("fruit_forming", "fruit_ripe", "fruit_hanging")),
}


def organ_calendar(flora: Flora, place: Place, on: datetime.date, counts: dict[str, int]) -> list[Showing]:
    """Share of the stems (`counts` by taxon, or every taxon once) that show each organ now and through the
    year.

    Each row: organ, label, now (0..1), year (24 shares from 1 January), opens (next date from which most show
    it, or None).
    """
    taxa = {
        t: n for t, n in counts.items() if t in flora.taxa and "states" in flora.taxa[t]
    } or dict.fromkeys(flora.leaves, 1)
    days = {t: days_of(flora, t, place) for t in taxa}
    total = math.fsum(taxa.values())

    def share(day: float, kinds: tuple[str, ...]) -> float:
        return (
            math.fsum(
                n * max(visible(k, days[t], day, flora.evergreen[t]) for k in kinds) for t, n in taxa.items()
            )
            / total
        )

    rows: list[Showing] = []
    for organ, (label, kinds) in RING.items():
        year = [share(1 + (i + 0.5) * YEAR / HALF_MONTHS, kinds) for i in range(HALF_MONTHS)]
        now = share(day_of_year(on), kinds)
        rows.append(
            {
                "organ": organ,
                "label": label,
                "now": now,
                "year": year,
                "opens": _opens(on, kinds, share) if now < 0.5 else None,
            }
        )
    return rows


def _opens(on: datetime.date, kinds: tuple[str, ...], share: Any) -> str | None:
    """The next date within a year on which at least 0.3 of the stems show the organ."""
    today = day_of_year(on)
    for ahead in range(1, YEAR):
        if share((today + ahead - 1) % YEAR + 1, kinds) >= 0.3:
            return date_on_or_after(on, (today + ahead - 1) % YEAR + 1).isoformat()
    return None
