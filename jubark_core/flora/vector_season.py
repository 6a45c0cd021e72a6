"""When beetles that carry disease fly to fresh wounds of oaks and elms: what wounds is withheld then."""

from __future__ import annotations

import datetime
from collections.abc import Iterable

from jubark_core.flora.model import Flora
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.windows import chance_within, read_window

DEFAULT = "default"
# Oak wilt and Dutch elm disease, where the flora's own areas file says nothing: 'common practice' and wide on
# purpose; local rules decide.
USUAL = ("04-01", "10-31")


def in_vector_season(flora: Flora, areas: Iterable[str], place: Place, on: datetime.date) -> bool:
    """Whether the day lies in it: by the fixed dates of an area that has its own, else by the calendar of the
    place, where it only grows.
    """
    windows = flora.compiled.get("vector_season", {})
    own = [read_window("..".join(windows[area]), "guide") for area in areas if area in windows]
    known = own or [read_window("..".join(windows.get(DEFAULT, USUAL)), "animal")]
    return any(chance_within(window, place, day_of_year(on), "forbidden") >= 0.5 for window in known)
