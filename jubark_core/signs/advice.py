"""What follows from a diagnosis: the first line, the usual response, whom to tell, what to send, cautions."""

from __future__ import annotations

import datetime
from typing import Literal, TypedDict

from jubark_core.season.calendars import Origin
from jubark_core.season.degree_days import accumulated_to
from jubark_core.season.windows import Sense, Window, dates, window_here
from jubark_core.signs.case import HealthCase
from jubark_core.signs.contract import (
    CauseCandidate,
    Response,
    SampleToSend,
    SeasonOfCause,
    SuspicionToReport,
)
from jubark_core.signs.hosts import REST, susceptibility
from jubark_core.signs.hypotheses import NORMAL_ID, NOTHING_ID, UNKNOWN_ID
from jubark_core.signs.likelihood import chance_of_cause
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause
from jubark_core.signs.prior import is_reported_now, notifiable_here
from jubark_core.signs.standing import SUSPECTED, suspected_standing
from jubark_core.signs.weigh import Belief

PESTS_BASE_C = 10.0  # 50 °F: the base of the published thresholds of pests
FITS_ONE_SIGN = 0.3  # one sign that a possible host can have of a notifiable cause is enough to tell
GAS = "Smell of gas: leave, keep others away, call the gas utility at once."
GENERAL_SAMPLE = "Photographs beside a scale, and a fresh sample kept cool, to a plant diagnostic laboratory."
CAUTION_FROM = 0.02
CLASS_WORDS = {
    "harmless": "Harmless",
    "minor": "Minor",
    "serious": "Serious",
    "kills": "It can kill the plant",
}


def summary_of(
    belief: Belief,
    cause: Cause | None,
    leader: CauseCandidate | None,
    shares: dict[str, float],
    normal_because: list[str],
) -> str:
    """The first line: harmless is said plainly and first, so that nobody fells for a gall."""
    if shares.get(NORMAL_ID, 0.0) >= max(shares.values()) - 1e-12:
        return f"Normal for the season. {' '.join(normal_because)}".strip()
    if cause is None or leader is None:
        if shares[UNKNOWN_ID] >= shares.get(NOTHING_ID, 0.0) and any(not s.none for s in belief.looks):
            return "Not known: what is held here does not explain it. Look again, or send a sample."
        return "Nothing wrong is seen so far."
    word = CLASS_WORDS[leader["class"]]
    if leader["class"] == "harmless":
        return (
            f"Harmless: {cause.name}. {cause.response[0].do}"
            if cause.response
            else f"Harmless: {cause.name}."
        )
    sure = {
        "possible": "possible",
        "suspicion": "suspected",
        "probable": "probable",
        "confirmed": "confirmed",
    }
    return f"{word}: {cause.name}, {sure[leader['standing']]}."


def response_of(cause: Cause, case: HealthCase) -> list[Response]:
    """What is usually done, in the order of its windows; what another crown loss asks for is left out."""
    found: list[Response] = []
    for advice in cause.response:
        loss = case.crown_loss_percent
        if loss is not None and advice.loss_percent is not None:
            low, high = advice.loss_percent
            if not (low <= loss < high or (loss == high == 100)):
                continue
        found.append(
            {
                "do": advice.do,
                "by": advice.by,
                **_dated(advice.window, case),
                "source": f"{cause.source}; grade {cause.grades['response']}",
            }
        )
    if cause.cuts:
        found.append(
            {
                "do": cause.cuts,
                "by": "site manager",
                "window": None,
                "plus_minus_days": 0,
                "rough": False,
                "origin": "",
                "source": f"{cause.source}; grade {cause.grades['response']}",
            }
        )
    return found


class _Dated(TypedDict):
    window: dict[str, str] | None
    plus_minus_days: int
    rough: bool
    origin: Origin | Literal[""]


def _dated(window: Window | None, case: HealthCase, sense: Sense = "permitted") -> _Dated:
    here = window_here(window, case.place, sense) if window else None
    if window is None or here is None:
        return {"window": None, "plus_minus_days": 0, "rough": False, "origin": ""}
    first, last, error = dates(window, case.place, case.on, sense)
    return {
        "window": {"from": first.isoformat(), "to": last.isoformat()},
        "plus_minus_days": error,
        "rough": here.rough,
        "origin": here.origin,
    }


def reported_suspicions(belief: Belief, shares: dict[str, float]) -> list[SuspicionToReport]:
    """Notifiable causes that may be told at once: from 0.2, or from one sign that fits a possible host."""
    found: list[SuspicionToReport] = []
    for cid, cause in sorted(health().causes.items()):
        how, tell = notifiable_here(cause, belief.case, belief.flora)
        share = shares.get(cid, 0.0)
        if not how or (share < SUSPECTED and not (how == "yes" and _one_sign_fits(cause, belief))):
            continue
        found.append(
            {
                "agent": cid,
                "name": cause.name,
                "standing": suspected_standing(cid, belief),
                "must_report": how,
                "now": is_reported_now(cause, belief.case, belief.flora),
                "tell": tell,
                "hold": health().holds,
            }
        )
    return sorted(found, key=lambda s: (not s["now"], -shares.get(s["agent"], 0.0), s["agent"]))


def _one_sign_fits(cause: Cause, belief: Belief) -> bool:
    taxa = [t for t in belief.taxa if belief.taxon_now[t] > 0.02 and t != REST]
    return any(
        not look.none
        and any(
            susceptibility(cause, taxon, belief.flora) >= 0.08
            and chance_of_cause(cause, look, taxon, belief.case, belief.flora) >= FITS_ONE_SIGN
            and health().signs[look.sign].noise <= 0.015
            for taxon in taxa
        )
        for look in belief.looks
    )


def sample_of(candidates: list[CauseCandidate]) -> SampleToSend | None:
    """What to send of the likeliest cause that a laboratory can tell, where it is suspected."""
    for candidate in candidates:
        cause = health().causes[candidate["agent"]]
        if candidate["probability"] >= SUSPECTED and candidate["standing"] != "confirmed" and cause.sample:
            return {"agent": cause.id, "what": cause.sample}
    return None


def cautions_of(belief: Belief, candidates: list[CauseCandidate]) -> list[str]:
    """What may hurt: of every cause that is still possible, each once."""
    found = [
        caution
        for candidate in candidates
        if candidate["probability"] >= CAUTION_FROM
        for caution in health().causes[candidate["agent"]].cautions
    ]
    if any(s.sign == "gas_smell" and not s.none for s in belief.case.signs):
        found.insert(0, GAS)
    return list(dict.fromkeys(found))


def season_of_cause(cause: Cause, case: HealthCase) -> SeasonOfCause:
    """When the cause is active here, by the calendar; and the warmth so far where it was measured."""
    return {"agent": cause.id, **season_here(cause, case), "degree_days": _warmth(case)}


def season_here(cause: Cause, case: HealthCase) -> _Dated:
    """When it is active here: as what endangers does, the season only grows where it is carried."""
    return _dated(cause.season, case, "forbidden")


def _warmth(case: HealthCase) -> dict[str, object] | None:
    if not case.lows:
        return None
    south = case.place.lat is not None and case.place.lat < 0
    start = datetime.date(
        case.on.year if not south or case.on.month >= 7 else case.on.year - 1, 7 if south else 1, 1
    )
    days = (case.on - start).days + 1
    return {
        "base_c": PESTS_BASE_C,
        "method": "single sine",
        "from": start.strftime("%m-%d"),
        "value": round(accumulated_to(case.lows[:days], case.highs[:days], PESTS_BASE_C), 1),
        "days": min(days, len(case.lows)),
        "source": "the case's own record",
    }
