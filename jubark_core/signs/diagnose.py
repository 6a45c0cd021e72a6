"""What is wrong, is it serious, what to look at next and what to do: a case in, the answer out."""

from __future__ import annotations

import datetime
import math
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.signs.advice import (
    cautions_of,
    reported_suspicions,
    response_of,
    sample_of,
    season_of_cause,
    summary_of,
)
from jubark_core.signs.case import SeenSign, read_health_case
from jubark_core.signs.contract import (
    CauseCandidate,
    EitherCause,
    HealthAnswer,
    HostNow,
    NextSign,
    SignBits,
    SignsToLookFor,
)
from jubark_core.signs.host_question import host_questioned
from jubark_core.signs.hosts import REST, is_among
from jubark_core.signs.hypotheses import NORMAL_ID, NOTHING_ID, OTHERS, UNKNOWN_ID, normals_here
from jubark_core.signs.likelihood import chance_of_normal
from jubark_core.signs.load import called, health
from jubark_core.signs.model import Cause, Harm, Normal
from jubark_core.signs.next_signs import next_signs, ranked_signs, withheld_signs
from jubark_core.signs.prior import notifiable_here
from jubark_core.signs.standing import independent_signs, is_confirmed, standing_of
from jubark_core.signs.weigh import Belief, weigh

ENGINE = "1"
LEAST_SHOWN = 0.002
ONE_SIGN_MOST = 0.90  # what one sign can say of a notifiable cause; the rest goes to unknown
EITHER_FROM, EITHER_BITS = 0.25, 0.05
INPUTS = ["entries", "neighbours", "site", "area data", "calendar"]
LEAST_TOGETHER = 0.02
SMALL_BITS = 0.05
NORMAL_FROM = 0.02


def diagnose(raw: Any, flora: Flora) -> HealthAnswer:
    """The answer of a case. Raises InputError naming the place, the value and what is allowed."""
    return answer_of(weigh(read_health_case(raw, flora), flora))


def signs_to_look_for(raw: Any, flora: Flora) -> SignsToLookFor:
    """What to look for on the plant of a case, beside what was looked at. Raises InputError as `diagnose`."""
    belief = weigh(read_health_case(raw, flora), flora)
    return {
        "signs": ranked_signs(belief),
        "withheld": withheld_signs(belief),
        "normal_now": [n.text for n in normals_here(belief.taxa[0], belief.case, flora)],
    }


def answer_of(belief: Belief) -> HealthAnswer:
    """The whole answer of what is believed."""
    shares = shares_of(belief)
    looks = next_signs(belief)
    candidates = [_candidate(cid, shares, belief) for cid in _shown(shares)]
    leader = candidates[0] if candidates and _leads(candidates[0], shares) else None
    cause = health().causes[leader["agent"]] if leader else None
    normal_because = _normal_because(belief)
    return {
        "summary": summary_of(belief, cause, leader, shares, normal_because),
        "candidates": candidates,
        "normal": shares.get(NORMAL_ID, 0.0),
        "normal_because": normal_because,
        "nothing_wrong": shares.get(NOTHING_ID, 0.0),
        "unknown": shares[UNKNOWN_ID],
        "either": _either(candidates, looks),
        "together": [
            {"agents": list(what), "probability": p}
            for what, p in sorted(belief.together.items(), key=lambda pair: (-pair[1], pair[0]))
            if p >= LEAST_TOGETHER
        ],
        "host": _hosts(belief),
        "host_questioned": host_questioned(belief),
        "next_looks": looks,
        "withheld": withheld_signs(belief),
        "response": response_of(cause, belief.case) if cause else [],
        "report": reported_suspicions(belief, shares),
        "sample": sample_of(candidates),
        "cautions": cautions_of(belief, candidates),
        "spread": list(cause.spread) if cause else [],
        "season": season_of_cause(cause, belief.case) if cause else None,
        "engine": ENGINE,
        "holds_until": (belief.case.on + datetime.timedelta(days=1)).isoformat(),
        "inputs": INPUTS,
    }


def shares_of(belief: Belief) -> dict[str, float]:
    """Cause, normal, nothing_wrong, unknown -> probability as it is stated; they sum to 1.

    One sign never gives more than 0.90 for a notifiable cause; what is too little to show counts as unknown.
    """
    found = dict(belief.mains)
    found.setdefault(UNKNOWN_ID, 0.0)
    for what in [w for w in found if w not in OTHERS]:
        too_much = found[what] - ONE_SIGN_MOST
        if found[what] < LEAST_SHOWN:
            found[UNKNOWN_ID] += found.pop(what)
        elif too_much > 0 and _rests_on_one_sign(what, belief):
            found[what] = ONE_SIGN_MOST
            found[UNKNOWN_ID] += too_much
    total = math.fsum(found.values())
    return {what: p / total for what, p in found.items()}


def harm_on(cause: Cause, belief: Belief) -> Harm:
    """The class of the cause on the likeliest plant: some do little harm on some hosts."""
    if cause.minor_on and is_among(belief.taxa[0], cause.minor_on, belief.flora):
        return "minor"
    return cause.harm


def _rests_on_one_sign(cause: str, belief: Belief) -> bool:
    """Whether it is notifiable here and one sign at most speaks for it."""
    notifiable, _ = notifiable_here(health().causes[cause], belief.case, belief.flora)
    return bool(notifiable) and independent_signs(cause, belief) <= 1 and not is_confirmed(cause, belief)


def _shown(shares: dict[str, float]) -> list[str]:
    return sorted((w for w in shares if w not in OTHERS), key=lambda w: (-shares[w], w))


def _leads(candidate: CauseCandidate, shares: dict[str, float]) -> bool:
    return candidate["probability"] >= max(shares.get(w, 0.0) for w in OTHERS)


def _candidate(cid: str, shares: dict[str, float], belief: Belief) -> CauseCandidate:
    cause = health().causes[cid]
    ordered = sorted(shares, key=lambda w: (-shares[w], w))
    rival = ordered[1] if ordered[0] == cid and len(ordered) > 1 else ordered[0]
    speaks: list[SignBits] = []
    against: list[SignBits] = []
    for i, look in enumerate(belief.looks):
        bits = belief.bits(i, cid, rival)
        if abs(bits) >= SMALL_BITS:
            (speaks if bits > 0 else against).append({"sign": look.index, "bits": bits})
    notifiable, _ = notifiable_here(cause, belief.case, belief.flora)
    return {
        "agent": cid,
        "name": cause.name,
        "latin": cause.latin,
        "probability": shares[cid],
        "class": harm_on(cause, belief),
        "must_report": notifiable or None,
        "standing": standing_of(cid, shares[cid], belief),
        "rival": rival,
        "for": sorted(speaks, key=lambda b: (-b["bits"], b["sign"])),
        "against": sorted(against, key=lambda b: (b["bits"], b["sign"])),
        "friends": [f"{called(friend)}: {how}" for friend, how in sorted(cause.friends.items())],
    }


def _either(candidates: list[CauseCandidate], looks: list[NextSign]) -> EitherCause | None:
    """Two causes about as probable that no look at hand parts."""
    if len(candidates) < 2 or candidates[1]["probability"] < EITHER_FROM:
        return None
    one, two = candidates[0]["agent"], candidates[1]["agent"]
    parts = [n for n in looks if n["gain_bits"] >= EITHER_BITS and not n["wounds"]]
    if parts:
        return None
    causes = health().causes
    by_lab = causes[one].lab or causes[two].lab
    return {"agents": [one, two], "by": "laboratory" if by_lab else "time: look again in the season of each"}


def _hosts(belief: Belief) -> list[HostNow]:
    before = dict(belief.case.hosts)
    rest = 1 - math.fsum(before.values())
    rows = before | ({REST: rest} if REST in belief.host_now else {})
    return [
        {"taxon": node, "before": p, "probability": belief.host_now.get(node, 0.0)}
        for node, p in sorted(rows.items(), key=lambda pair: (-belief.host_now.get(pair[0], 0.0), pair[0]))
    ]


def _looks_normal(normal: Normal, look: SeenSign, belief: Belief) -> bool:
    return chance_of_normal(normal, look, belief.taxa[0], belief.case, belief.flora) > NORMAL_FROM


def _normal_because(belief: Belief) -> list[str]:
    return [
        n.text + (f" {n.caution}" if n.caution else "")
        for n in normals_here(belief.taxa[0], belief.case, belief.flora)
        if any(not s.none and _looks_normal(n, s, belief) for s in belief.looks)
    ]
