"""C8 and C9: people kept out, and a crew that is qualified on the day."""

from __future__ import annotations

from jubark_core.work.before.acts import acts
from jubark_core.work.before.evidence import Asked, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged

WHO = "the road authority, or the crew"
WAYS = ("path", "road", "playground", "seat_or_shelter")


def traffic(asked: Asked) -> Judged:
    """A closure or a plan is named where the work is done over a way."""
    ways = sorted({t["kind"] for t in asked.facts.targets_in_reach if t["kind"] in WAYS})
    if asked.facts.raw.get("setting") == "street":
        ways = ways or ["street"]
    if not ways and "targets" in asked.facts.raw:
        return Judged(CLOSED, "No way is within reach.", "")
    told = newest(one for one in asked.standing("C8", "closure_plan", "cordon") if one.reference)
    if told and (told.kind == "closure_plan" or (told.on == asked.on and told.person in asked.members)):
        return Judged(CLOSED, f"{told.kind.replace('_', ' ').capitalize()}, {told.reference}.", "")
    where = ", ".join(w.replace("_", " ") for w in ways) or "what is below, which is not known"
    why = f"Over {where}: a closure or a traffic plan, or the crew's own cordon on the day."
    if asked.ahead:
        return Judged(CLOSED, why, WHO, ("closure_plan", "cordon"), later=True)
    return Judged(OPEN, why, WHO, ("closure_plan", "cordon"))


def crew(asked: Asked) -> Judged:
    """The crew is one of the site's and holds what each act asks for; or a contractor with approval and
    insurance, whose people are named on the day.
    """
    missing: list[str] = []
    if asked.contractor:
        missing += [
            word.replace("_", " ")
            for word in ("approved_contractor", "insurance")
            if not asked.shows(asked.contractor, word)
        ]
        named = newest(
            one for one in asked.standing("C9", "names_given") if one.on == asked.on and one.reference
        )
        if not named and not asked.ahead:
            missing.append("the names of its people, given on the day")
    elif not asked.crew:
        why = "A crew of the site is named, or a contractor."
        return Judged(not asked.ahead, why, "the steward", (), later=asked.ahead)
    elif asked.crew not in asked.facts.raw.get("crews", {}):
        missing.append(f"{asked.crew!r} is no crew of the site")
    else:
        missing += _lacks(asked)
    missing += _climbing(asked)
    if missing:
        return Judged(OPEN, "Still needed: " + "; ".join(missing) + ".", "the steward", _kinds(asked))
    return Judged(CLOSED, f"{asked.crew or 'The contractor'} is qualified on the day.", "")


def _kinds(asked: Asked) -> tuple[str, ...]:
    climbing = ("climb_finding",) if asked.does("climb") else ()
    return (*climbing, *(("names_given",) if asked.contractor else ()))


def _lacks(asked: Asked) -> list[str]:
    members, found = asked.members, []
    for act in (acts()[one] for one in asked.acts):
        for skill in act.skills:
            able = [m for m in members if asked.shows(m, skill)]
            if not able:
                found.append(f"somebody of {asked.crew} with {skill.replace('_', ' ')} valid on {asked.on}")
            elif act.two:
                other = [
                    m for m in members if asked.shows(m, act.two) or (asked.shows(m, skill) and len(able) > 1)
                ]
                if not [m for m in other if [m] != able]:
                    found.append(f"a second person of {asked.crew} able to {act.two} who {act.label}s")
    return list(dict.fromkeys(found))


def _climbing(asked: Asked) -> list[str]:
    """A dead or decayed tree is climbed only where a competent person's written finding stands."""
    if not asked.does("climb") or not asked.facts.of.get("decayed"):
        return []
    for one in asked.standing("C9", "climb_finding"):
        if one.reference and asked.shows(one.person, "tree_assessment", one.on):
            return []
    return ["to climb a decayed tree: an assessor's written finding, or an anchor on another tree or a crane"]
