"""The fixed contract: a case in, the whole answer out. The same for command line, HTTP and browser."""

from __future__ import annotations

from typing import Any

from jubark_core import ENGINE_VERSION
from jubark_core.flora.model import Flora
from jubark_core.naming import verdict
from jubark_core.naming.case import read_case
from jubark_core.naming.come_back import come_back
from jubark_core.naming.next_looks import next_looks
from jubark_core.naming.weigh import weigh


def name_plant(case: Any, flora: Flora) -> dict[str, Any]:
    """Name a plant by evidence. case: the JSON of evidence.md; returns the JSON of evidence.md.

    Raises InputError naming the place in the input, the value and what is allowed. Pure: no clock, no state.
    """
    w = weigh(read_case(case, flora), flora)
    shown, rest = verdict.candidates(w)
    looks, withheld, pruned = next_looks(w)
    return {
        "candidates": shown,
        "rest": rest,
        "ruled_out": verdict.ruled_out(w),
        "supported": verdict.supported(w),
        "not_yet_told_from": verdict.not_yet_told_from(w),
        "next_looks": looks,
        "withheld": withheld,
        "live_pruned": pruned,
        "contradictions": verdict.contradictions(w),
        "fit": verdict.fit(w),
        "come_back": come_back(w),
        "cautions": verdict.cautions(w),
        "prior": [{"taxon": c["taxon"], "factors": w.prior.factors[c["taxon"]]} for c in shown],
        "flora": flora.version,
        "engine": ENGINE_VERSION,
    }
