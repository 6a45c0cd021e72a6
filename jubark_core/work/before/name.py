"""C1: nothing is destroyed under a name that is not sure."""

from __future__ import annotations

from jubark_core.work.before.evidence import Asked, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged

NAME_TO_DESTROY = 0.99
DESTROYS = ("fell", "dismantle", "uproot", "poison", "cut_climber")


def name(asked: Asked) -> Judged:
    """The probability or a person's name, a separator against each look-alike, and a second person; for a
    dead or dangerous tree a competent person's word that it is not known to be protected or quarantined.
    """
    facts = asked.facts
    raw = facts.raw
    if facts.of.get("dead_or_dangerous"):
        for one in asked.standing("C1", "not_known_protected"):
            if asked.shows(one.person, "tree_assessment", one.on) or asked.shows(
                one.person, "emergency_lead", one.on
            ):
                return Judged(CLOSED, f"Not known to be protected or quarantined, said on {one.on}.", "")
    namer = raw.get("namer", "")
    second = newest(
        one
        for one in asked.standing("C1", "second_person")
        if one.person and one.person != namer and one.reference
    )
    needed = (
        (
            f"the name at {NAME_TO_DESTROY} (now {facts.probability:.2f}) or by a person",
            facts.probability >= NAME_TO_DESTROY or bool(raw.get("named_by_person") and facts.taxon),
        ),
        (
            "a separator seen against each native or protected look-alike, as the reference",
            bool(raw.get("separators_seen")) or second is not None,
        ),
        ("a second person, other than who named it, with tag, photograph and name", second is not None),
    )
    missing = [text for text, there in needed if not there]
    if not missing:
        return Judged(CLOSED, "Sure, separated from look-alikes, and seen by a second person.", "")
    kinds = ("second_person", *(("not_known_protected",) if facts.of.get("dead_or_dangerous") else ()))
    return Judged(OPEN, "Still needed: " + "; ".join(missing) + ".", "a second person at the tree", kinds)
