"""The fixed contract: a case in, the whole answer out. The same for command line, HTTP and browser."""

from __future__ import annotations

from typing import Any

from jubark_core import ENGINE_VERSION
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.naming import verdict
from jubark_core.naming.case import read_case
from jubark_core.naming.come_back import come_back
from jubark_core.naming.contradictions import contradictions
from jubark_core.naming.fit import fit
from jubark_core.naming.next_looks import next_looks
from jubark_core.naming.sequential_test import samples
from jubark_core.naming.weigh import Weighed, weigh
from jubark_core.season.season_summary import season_summary

# null is not asked for; empty is nothing worth a look
NOT_ASKED: dict[str, Any] = dict.fromkeys(("next_looks", "withheld", "live_pruned"))


def name_plant(case: Any, flora: Flora, look_ahead: bool = True) -> dict[str, Any]:
    """Name a plant by evidence. case and answer: the JSON of the naming contract (docs/naming.md).

    look_ahead: without it no next look is weighed (`next_looks`, `withheld` and `live_pruned` are null),
    which takes a third of the time. Raises InputError naming the place in the input, the value and what is
    allowed. Pure: no clock, no state.
    """
    return answer_to(weigh(read_case(case, flora), flora), look_ahead)


def next_observations(case: Any, flora: Flora) -> dict[str, Any]:
    """What to look at next for a case: the other half of the answer. Raises InputError."""
    return _next(weigh(read_case(case, flora), flora))


def not_separated_from(case: Any, taxon: str, flora: Flora) -> list[dict[str, Any]]:
    """What a name that was entered without observations is not yet separated from, for this case.

    Its look-alikes for which no separating look was made; and, once there are looks, whatever they leave over
    1 %. A genus or family is not a claim against look-alikes: it gives an empty list. Raises InputError for
    the case or the taxon.
    """
    if taxon not in flora.taxa:
        raise InputError("taxon", taxon, "a taxon of the flora")
    w = weigh(read_case(case, flora), flora)
    if taxon not in w.probability:
        return []
    return verdict.open_rivals(w, taxon, verdict.LIVE if w.logs else 1.0)


def _next(w: Weighed) -> dict[str, Any]:
    looks, withheld, pruned = next_looks(w)
    return {"next_looks": looks, "withheld": withheld, "live_pruned": pruned}


class RunningCase:
    """The case in hand, look by look: what was worked out for its earlier looks is kept until another plant,
    place or day is asked about.
    """

    def __init__(self, flora: Flora) -> None:
        self._flora = flora
        self._about: dict[str, Any] = {}  # the case without its observations
        self._observations: Any = None
        self._weighed: Weighed | None = None

    def name(self, case: dict[str, Any]) -> dict[str, Any]:
        """The whole answer to the case. Raises InputError, and then the case in hand is as it was."""
        return answer_to(self._weigh(case))

    def rank(self, case: dict[str, Any]) -> dict[str, Any]:
        """The ranking alone."""
        return answer_to(self._weigh(case), look_ahead=False)

    def next(self, case: dict[str, Any]) -> dict[str, Any]:
        """What to look at next."""
        return _next(self._weigh(case))

    def _weigh(self, case: dict[str, Any]) -> Weighed:
        about = {key: value for key, value in case.items() if key != "observations"}
        observations = case.get("observations")
        held = self._weighed if about == self._about else None
        if held is not None and observations == self._observations:
            return held
        # without observations it is the next plant of the same place and day: what the last one left goes
        weighed = weigh(read_case(case, self._flora), self._flora, held if observations else None)
        self._about, self._observations, self._weighed = about, observations, weighed
        return weighed


def answer_to(w: Weighed, look_ahead: bool = True) -> dict[str, Any]:
    """The answer of the contract for what has been weighed."""
    shown, rest = verdict.candidates(w)
    return {
        "candidates": shown,
        "rest": rest,
        "ruled_out": verdict.ruled_out(w),
        "supported": verdict.supported(w),
        "either": verdict.either_of_two(w),
        "not_yet_told_from": verdict.not_yet_told_from(w),
        **(_next(w) if look_ahead else NOT_ASKED),
        "samples": samples(w),
        "contradictions": contradictions(w),
        "fit": fit(w),
        "come_back": come_back(w),
        "cautions": verdict.cautions(w),
        "prior": [{"taxon": c["taxon"], "factors": w.prior.factors[c["taxon"]]} for c in shown],
        "by_origin": verdict.by_origin(w),
        "season": season_summary(w.case.place, w.case.spring is not None, w.case.setting == "glasshouse"),
        "flora": w.flora.version,
        "engine": ENGINE_VERSION,
    }
