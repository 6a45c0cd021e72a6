"""What every worker needs is made once, before the workers part: the flora, its views, the tiles. Nobody's
first look waits for it.
"""

from __future__ import annotations

import datetime

from jubark_core import door
from jubark_core.flora.load import shipped_flora

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
    flora = shipped_flora()
    for origin, setting in COMMON:
        case = {"on": on.isoformat(), "origin": origin, "setting": setting, "observations": []}
        door.run("name", case, flora)
    for operation in ("vocabulary", "tiles"):
        door.run(operation, {}, flora)
