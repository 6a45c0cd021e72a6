"""What separates two taxa of a case: the looks that would tell which of them it is."""

from __future__ import annotations

from jubark_core.flora.separation import clear_separators
from jubark_core.flora.views import shows
from jubark_core.naming.weigh import Weighed


def separators(w: Weighed, a: str, b: str) -> list[str]:
    """Characters that part two taxa at this stage, the clearest first; the flora's own list leads."""
    own = [
        cid
        for x, y in ((a, b), (b, a))
        for pair in w.flora.taxa[x].get("look_alikes", ())
        if pair["taxon"] == y
        for cid in pair["by"]
    ]
    seasons = w.evidence.season(a, w.case.on), w.evidence.season(b, w.case.on)
    return list(
        dict.fromkeys([*own, *clear_separators(shows(w.flora, w.case.stage, w.case.planted), a, b, *seasons)])
    )
