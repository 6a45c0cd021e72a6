"""What is worked out from a flora and asked for again and again: the last views of it, around the plain data.

Every cache here is bounded and holds equal values whoever fills it, so that threads can share it. The one
asked for longest ago goes first.
"""

from __future__ import annotations

from functools import lru_cache

from jubark_core.flora.model import Flora
from jubark_core.flora.shows import Shows
from jubark_core.season.place import Place
from jubark_core.season.showing import SpringDate, event_days

MOST_PLACES = 16
MOST_VIEWS = 8
MOST_ROWS = 25_000  # of a view, about 40 MB; a view that has grown past it starts afresh


def shows(flora: Flora, stage: str, planted: float = 0.0, shoot: str = "normal") -> Shows:
    """The descriptions as they stand for a stage of life, a share of planted stock and a kind of shoot."""
    quarter = round(planted * 4) / 4  # shares of stock are rough: quarters do, and views are large
    held = _held(flora, stage, quarter, shoot)
    if len(held[0].reports) > MOST_ROWS:
        held[0] = Shows(flora, stage, quarter, shoot)  # whoever reads the old one goes on with it
    return held[0]


@lru_cache(maxsize=MOST_VIEWS)
def _held(flora: Flora, stage: str, planted: float, shoot: str) -> list[Shows]:
    return [Shows(flora, stage, planted, shoot)]


def days_of(
    flora: Flora, taxon: str, place: Place, spring: SpringDate | None = None, under_glass: bool = False
) -> dict[str, float]:
    """The taxon's events at a place (season.showing.event_days); kept for the places asked for last, unless a
    record of temperatures dates them.
    """
    if spring is not None:
        return event_days(flora.taxa[taxon], place, spring, under_glass)
    known = _days_at(flora, place, under_glass)
    if taxon not in known:
        known[taxon] = event_days(flora.taxa[taxon], place, None, under_glass)
    return known[taxon]


def known_days(flora: Flora, taxon: str, place: Place) -> dict[str, float]:
    """As `days_of`; empty for a group, or a taxon the flora does not describe."""
    return days_of(flora, taxon, place) if "phenology" in flora.taxa.get(taxon, ()) else {}


@lru_cache(maxsize=MOST_PLACES)
def _days_at(flora: Flora, place: Place, under_glass: bool) -> dict[str, dict[str, float]]:
    return {}
