"""C3 and C5: who has to agree, and whether anybody has looked that up."""

from __future__ import annotations

import datetime

from jubark_core.work.before.area import Consent
from jubark_core.work.before.evidence import Asked, Evidence, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged

MONTH = datetime.timedelta(days=30.4375)
WHO = "the authority that gives consent"


def consent(asked: Asked) -> Judged:
    """A permission, a notice that has run, or an exemption for each act; where nothing is recorded, a look-up
    of the last months.
    """
    facts = asked.facts
    rules = facts.area.consent
    reasons = [word.replace("_", " ") for word in facts.raw.get("protected", [])]
    if facts.raw.get("boundary"):
        reasons.append("a boundary tree")
    looked = newest(
        one for one in asked.standing("C3", "look_up") if asked.on - one.on <= rules.look_up_months * MONTH
    )
    if looked and looked.result == "applies":
        reasons.append("protected, by the look-up")
    if not reasons:
        if looked and looked.result == "none":
            return Judged(
                CLOSED, f"Looked up on {looked.on}: no consent is asked for.", "", until=_end(looked, rules)
            )
        why = f"Nobody has looked up within {rules.look_up_months} months whether consent is asked for."
        return Judged(OPEN, why, "whoever can look it up; for a whole block at once", ("look_up",))
    acts = {
        act for act in asked.acts if act in ("fell", "dismantle", "uproot", "cut_live", "cut_roots", "dig")
    }
    for one in asked.standing("C3", "permission", "notice", "exemption"):
        if acts <= one.acts and _runs(asked, one):
            return Judged(
                CLOSED,
                f"{one.kind.capitalize()} {one.reference} of {one.on}.",
                "",
                until=str(one.until or ""),
            )
    weeks = max((rules.weeks.get(p, 0) for p in facts.raw.get("protected", [])), default=0)
    labels = ", ".join(sorted(act.replace("_", " ") for act in acts))
    why = (
        f"It is {', '.join(dict.fromkeys(reasons))}: a permission, notice or exemption that covers {labels}."
    )
    return Judged(OPEN, why, WHO, ("permission", "notice", "exemption"), lead_weeks=weeks)


def _end(looked: Evidence, rules: Consent) -> str:
    return (looked.on + rules.look_up_months * MONTH).isoformat()


def _runs(asked: Asked, one: Evidence) -> bool:
    """Whether it lets the work begin on the day."""
    rules, facts = asked.facts.area.consent, asked.facts
    if not one.reference:
        return False
    if one.kind == "permission":
        return one.until is not None
    given = one.asked_on or one.on
    days = (asked.on - given).days
    if one.kind == "notice":
        kinds = set(facts.raw.get("protected", []))
        return kinds == {"conservation_area"} and 0 < rules.notice_days <= days <= rules.notice_good_days
    return bool(facts.of.get("dead_or_dangerous")) and days >= rules.exempt_days


def owner(asked: Asked) -> Judged:
    """The owner's agreement or a right of one's own, unless the tree stands on the site's own land."""
    raw = asked.facts.raw
    told = newest(asked.standing("C5", "agreement", "right"))
    said = raw.get("owner", "")
    looked = newest(one for one in asked.standing("C5", "owner_look_up") if one.result in ("own", "not_own"))
    if told and told.reference:
        return Judged(
            CLOSED, f"{told.kind.capitalize()}, {told.reference}, {told.on}.", "", until=str(told.until or "")
        )
    kinds = ("agreement", "right")
    if raw.get("boundary"):
        return Judged(
            OPEN, "It stands on a boundary: every owner agrees, or the right is named.", "the owners", kinds
        )
    if said and said != "own":
        why = f"Owner on record: {said.replace('_', ' ')}; the owner agrees, or the right is named."
        return Judged(OPEN, why, "the owner", kinds)
    if looked and looked.result == "not_own":
        return Judged(
            OPEN,
            f"By the look-up of {looked.on} it is not the site's own: the owner agrees.",
            "the owner",
            kinds,
        )
    if said == "own" or looked:
        return Judged(CLOSED, "It stands on the site's own land.", "")
    why = "Nobody has looked up whose the tree and the land are."
    return Judged(OPEN, why, "the site manager; for a whole block at once", ("owner_look_up", *kinds))
