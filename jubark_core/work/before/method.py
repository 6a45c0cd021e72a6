"""C6 and C7: wood under a hold, and poison."""

from __future__ import annotations

from jubark_core.work.before.evidence import Asked, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged


def held_wood(asked: Asked) -> Judged:
    """Under a movement hold the route of the wood is named and the officer has permitted it."""
    if not asked.facts.of.get("held_wood"):
        return Judged(CLOSED, "No movement hold stands.", "")
    told = newest(one for one in asked.standing("C6", "officer_permission") if one.reference)
    missing = [
        text
        for text, there in (
            ("the route of the wood is named", asked.route or asked.facts.raw.get("disposal_route")),
            ("the officer's permission", told),
        )
        if not there
    ]
    if missing:
        why = f"A movement hold stands. Still needed: {'; '.join(missing)}."
        return Judged(OPEN, why, "the plant health officer", ("officer_permission",))
    return Judged(CLOSED, f"Route named, permission {told.reference if told else ''}.", "")


def method(asked: Asked) -> Judged:
    """The area's data authorises the method, a licensed applicator answers for water, bees and neighbours,
    and an assessor agrees where the crown has lost much.
    """
    facts = asked.facts
    if asked.method and asked.method not in facts.area.methods | set(facts.raw.get("authorised", [])):
        return Judged(OPEN, "The method is not authorised in this area's data.", "the pesticide authority")
    needed: list[tuple[str, str, str]] = []
    loss = facts.of.get("crown_loss_percent")
    above = asked.assessor_above
    if above is not None and loss is not None and loss > above:
        agrees = any(
            asked.shows(e.person, "tree_assessment", e.on) for e in asked.standing("C7", "assessor_agrees")
        )
        if not agrees:
            needed.append(
                (f"an assessor agrees (over {above:.0f} % of loss)", "qualified assessor", "assessor_agrees")
            )
    applicator = next(
        (
            one
            for one in asked.standing("C7", "applicator")
            if asked.shows(one.person, "pesticide_application")
            and {"water", "bees", "neighbours"} <= one.answered
        ),
        None,
    )
    if applicator is None:
        told = "a licensed applicator, who has answered for water, bees and neighbours"
        needed.append((told, "licensed applicator", "applicator"))
    if needed:
        kinds = tuple(kind for _, _, kind in needed)
        return Judged(
            OPEN, "Still needed: " + "; ".join(text for text, _, _ in needed) + ".", needed[0][1], kinds
        )
    return Judged(CLOSED, "A licensed applicator does it; water, bees and neighbours are answered for.", "")
