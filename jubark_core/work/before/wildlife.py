"""C2a and C2b: nests, and what could hold a roost."""

from __future__ import annotations

import datetime

from jubark_core.checks import require_moment
from jubark_core.work.before.area import roosts_open_on
from jubark_core.work.before.evidence import Asked, Evidence, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged

NEST_WEEKS = 6  # from building to fledging of small birds, common practice; the crew's look decides
OPENS_ROOSTS = ("fell", "dismantle", "cut_dead", "brace", "climb")


def nests(asked: Asked) -> Judged:
    """A look by the crew that does it, or by an ecologist, within the area's hours of the day's start."""
    area = asked.facts.area
    said = (
        f"a look for nests within {area.nests_within_hours} hours before each day's start: {area.nests_who}"
    )
    look = newest(one for one in asked.standing("C2a", "nest_look") if one.result)
    if again := in_use_until(asked, look):
        seen, until = again
        if asked.on < until:
            why = f"a nest or roost in use was seen on {seen}; look again after {until}"
            return Judged(OPEN, f"Still needed: {why}; {said}.", area.nests_who, ("nest_look",))
    if asked.ahead:
        return Judged(CLOSED, said[0].upper() + said[1:] + ".", area.nests_who, ("nest_look",), later=True)
    if look is None or asked.hours_since(look) > area.nests_within_hours:
        return Judged(OPEN, f"Still needed: {said}.", area.nests_who, ("nest_look",))
    if look.result != "none":
        return Judged(OPEN, f"The look of {look.on} found a nest in use.", area.nests_who, ("nest_look",))
    if look.person not in asked.members and not asked.shows(look.person, "bird_ecology", look.on):
        why = "The look is not by a member of the crew that does the work, nor by an ecologist."
        return Judged(OPEN, why, area.nests_who, ("nest_look",))
    return Judged(CLOSED, f"Looked for {asked.hours_since(look):.0f} hours before.", "")


def in_use_until(asked: Asked, look: Evidence | None) -> tuple[datetime.date, datetime.date] | None:
    """When a nest in use was seen that no look since has found empty, and when to look again."""
    seen = asked.facts.raw.get("nest_in_use_at")
    if not seen:
        return None
    moment = require_moment("nest_in_use_at", seen)
    if moment > asked.at or (look is not None and look.result == "none" and look.at > moment):
        return None
    return moment.date(), moment.date() + datetime.timedelta(weeks=NEST_WEEKS)


def roosts(asked: Asked) -> Judged:
    """What could hold a roost: by the area's open season, a look, or an assessor with the competence."""
    facts, rules = asked.facts, asked.facts.area.roosts
    hollows = facts.hollows
    looked = newest(one for one in asked.standing("C2b", "hollow_look", "roost_look") if one.result)
    if looked and looked.result in ("feature", "hidden_parts", "in_use"):
        hollows = [*hollows, looked.result.replace("_", " ")]
    assessed = newest(
        one
        for one in asked.standing("C2b", "roost_assessment")
        if one.result == "none" and one.reference and one.until and asked.shows(one.person, rules.assessor)
    )
    if assessed:
        return Judged(
            CLOSED, f"Assessed on {assessed.on}, {assessed.reference}.", "", until=str(assessed.until)
        )
    told = f" On record: {', '.join(hollows)}." if hollows else ""
    if roosts_open_on(facts.area, facts.place, asked.on):
        if not hollows:
            return Judged(CLOSED, "The area's season is open, and nothing on record could hold a roost.", "")
        if looked and looked.result != "in_use" and _in_this_season(asked, looked):
            return Judged(
                CLOSED, f"The area's season is open, and the hollow was looked into on {looked.on}.", ""
            )
        why = "Still needed: a look into the hollow, by the crew or whoever can see in." + told
        return Judged(OPEN, why, rules.who, ("hollow_look", "roost_assessment"))
    if rules.look and not hollows:
        kinds = ("roost_look",) if rules.look == "roost_look" else ("hollow_look", "roost_look")
        for one in asked.standing("C2b", *kinds):
            if one.result == "none" and (
                not rules.look_skill or asked.shows(one.person, rules.look_skill, one.on)
            ):
                return Judged(CLOSED, f"Looked for on {one.on}: nothing that could hold a roost.", "")
        return Judged(
            OPEN, f"Nobody has looked. Asked for: {rules.who}.", rules.who, (*kinds, "roost_assessment")
        )
    skill = rules.assessor.replace("_", " ")
    why = f"Still needed: {rules.who}: somebody with {skill} valid on the day, with reference and end.{told}"
    return Judged(OPEN, why, rules.who, ("roost_assessment",))


def _in_this_season(asked: Asked, look: Evidence) -> bool:
    """Whether every day since the look lay in the open season."""
    facts = asked.facts
    days = (asked.on - look.on).days
    return days <= 366 and all(
        roosts_open_on(facts.area, facts.place, look.on + datetime.timedelta(days=n)) for n in range(days + 1)
    )
