"""What every worker needs is made once, before the workers part: the flora, its views, the tiles. Nobody's
first look waits for it.
"""

from __future__ import annotations

import datetime

from apps.core_api.vocabulary import drawings, vocabulary
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import name_plant

# what most plants are named under; each is a view of the flora of its own
COMMON = (
    ("wild", "woodland"),
    ("planted", "street"),
    ("unknown", "woodland"),
    ("unknown", "street"),
    ("unknown", "park"),
)


def warm(on: datetime.date) -> None:
    """Load the flora, name a plant of each common kind, draw the tiles."""
    for origin, setting in COMMON:
        name_plant(
            {"on": on.isoformat(), "origin": origin, "setting": setting, "observations": []}, shipped_flora()
        )
    vocabulary()
    drawings()
