"""What every worker needs is made once, before the workers part: the flora, its views, the tiles. Nobody's first look waits for it."""

from __future__ import annotations

import datetime

from apps.naming.vocabulary import drawings, vocabulary
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.words import ORIGINS
from jubark_core.naming.engine import name_plant


def warm(on: datetime.date) -> None:
    """Load the flora, name one plant of each origin, draw the tiles."""
    for origin in ORIGINS:
        name_plant({"on": on.isoformat(), "origin": origin, "observations": []}, shipped_flora())
    vocabulary()
    drawings()
