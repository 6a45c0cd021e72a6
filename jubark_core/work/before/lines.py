"""C4 and C4b: lines overhead, and services underground. One never closes the other."""

from __future__ import annotations

from jubark_core.work.before.acts import acts
from jubark_core.work.before.evidence import Asked, newest
from jubark_core.work.before.state import CLOSED, OPEN, Judged
from jubark_core.work.facts import DEFAULT_HEIGHT_M


def overhead(asked: Asked) -> Judged:
    """A line within reach: the operator's isolation, or a standing authorisation with a crew qualified for
    line clearance. Where nobody looked: the crew's look on the day.
    """
    facts = asked.facts
    wires = facts.of.get("wires_m")
    looked = newest(one for one in asked.standing("C4", "line_look") if one.result in ("none", "line"))
    reach = reach_m(asked)
    near = facts.of.get("on_wires") or facts.raw.get("line_near") or (wires is not None and wires < reach)
    near = near or (looked is not None and looked.result == "line")
    if near:
        for one in asked.standing("C4", "isolation", "standing_authorisation"):
            lasts = one.reference and one.until is not None
            if lasts and (one.kind == "isolation" or is_qualified(asked)):
                return Judged(
                    CLOSED,
                    f"{one.kind.replace('_', ' ').capitalize()} {one.reference}.",
                    "",
                    until=str(one.until),
                )
        why = (
            f"A line is within {reach:.0f} m: only with the operator's isolation (reference, end), or "
            "a standing authorisation and a crew qualified for line clearance."
        )
        return Judged(OPEN, why, "the operator of the line", ("isolation", "standing_authorisation"))
    if wires is not None:
        return Judged(CLOSED, f"The line on record is {wires:.1f} m away, beyond {reach:.0f} m.", "")
    said = "Nobody has looked for lines: the crew looks on the day, for none within reach of work or fall."
    if asked.ahead:
        return Judged(CLOSED, said, "the crew", ("line_look",), later=True)
    if looked and looked.on == asked.on:
        return Judged(CLOSED, "Looked on the day: no line within reach of work or fall.", "")
    return Judged(OPEN, said, "the crew", ("line_look",))


def is_qualified(asked: Asked) -> bool:
    """Whether the crew is said to be qualified for line clearance, and somebody of it shows it."""
    return asked.line_clearance and any(asked.shows(person, "line_clearance") for person in asked.members)


def reach_m(asked: Asked) -> float:
    """How far the work, or what falls by it, comes."""
    area = asked.facts.area
    falls = any(acts()[act].reach == "falls" for act in asked.acts)
    height = asked.facts.raw.get("height_m") or DEFAULT_HEIGHT_M
    lengths = area.fall_lengths if asked.does("fell") else 1.0
    return max(area.line_distance_m, height * lengths if falls else 0.0)


def underground(asked: Asked) -> Judged:
    """The services were located: by whom, under which reference, on which day, until when."""
    for one in asked.standing("C4b", "services_located"):
        if one.reference and one.until:
            return Judged(CLOSED, f"Located, {one.reference}.", "", until=str(one.until))
    why = "It digs: services underground are located first (reference, day, until)."
    return Judged(OPEN, why, "the locating service", ("services_located",))
