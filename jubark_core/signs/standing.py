"""How far a cause is established: possible, suspected, probable by two independent signs, or confirmed."""

from __future__ import annotations

from jubark_core.signs.contract import Standing
from jubark_core.signs.hypotheses import NOTHING_ID
from jubark_core.signs.load import health
from jubark_core.signs.weigh import Belief

SUSPECTED = 0.2
INDEPENDENT_BITS = 1.0  # a sign counts as one of two independent ones from here on, against nothing wrong


def is_confirmed(cause: str, belief: Belief) -> bool:
    """Whether a laboratory found it on this tree: nothing else confirms."""
    return any(r.positive and r.cause == cause for r in belief.case.lab)


def independent_signs(cause: str, belief: Belief) -> int:
    """How many groups of seen signs speak for the cause against nothing wrong."""
    words = health().signs
    return len(
        {
            words[look.sign].group
            for i, look in enumerate(belief.looks)
            if not look.none and belief.bits(i, cause, NOTHING_ID) >= INDEPENDENT_BITS
        }
    )


def suspected_standing(cause: str, belief: Belief) -> Standing:
    """What a suspicion is told as."""
    if is_confirmed(cause, belief):
        return "confirmed"
    return "probable" if independent_signs(cause, belief) >= 2 else "suspicion"


def standing_of(cause: str, probability: float, belief: Belief) -> Standing:
    """confirmed by a laboratory; from 0.2 probable by two signs, else a suspicion; below it possible."""
    if probability >= SUSPECTED or is_confirmed(cause, belief):
        return suspected_standing(cause, belief)
    return "possible"
