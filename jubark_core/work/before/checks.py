"""The checks of a job at a moment: which its acts ask for, how each stands, who can close it and by what."""

from __future__ import annotations

import datetime
from collections.abc import Mapping
from typing import Any

from jubark_core.checks import require_moment
from jubark_core.work.before import consent, crew, lines, method, name, wildlife
from jubark_core.work.before.acts import acts_of, checks_of_acts
from jubark_core.work.before.evidence import Asked
from jubark_core.work.contract import CheckState
from jubark_core.work.facts import Facts
from jubark_core.work.model import Rule

TITLES = {
    "C1": "Name",
    "C2a": "Nests",
    "C2b": "Roosts and hollows",
    "C3": "Consent",
    "C4": "Lines overhead",
    "C4b": "Services underground",
    "C5": "Owner and boundary",
    "C6": "Wood under a movement hold",
    "C7": "Method authorised",
    "C8": "Traffic and people",
    "C9": "Crew",
}
JUDGES = {
    "C1": name.name,
    "C2a": wildlife.nests,
    "C2b": wildlife.roosts,
    "C3": consent.consent,
    "C4": lines.overhead,
    "C4b": lines.underground,
    "C5": consent.owner,
    "C6": method.held_wood,
    "C7": method.method,
    "C8": crew.traffic,
    "C9": crew.crew,
}
NOON = datetime.time(12)
DEGREES_AN_HOUR = 15


def acts_here(rule: Rule, said: list[str], equipment: str, facts: Facts) -> tuple[str, ...]:
    """The acts of a job of the rule: those said, else the rule's own; by hand where its poison is not
    authorised.
    """
    asked = rule.acts
    if rule.instead and rule.method not in facts.area.methods | set(facts.raw.get("authorised", [])):
        asked = tuple(rule.instead["acts"])
    return acts_of(said, asked, equipment or rule.equipment)


def moment_of(facts: Facts, on: datetime.date, given: str | None = None) -> datetime.datetime:
    """The moment given; else noon of the day there, by the sun."""
    if given:
        return require_moment("at", given)
    east = datetime.timedelta(hours=round((facts.place.lon or 0.0) / DEGREES_AN_HOUR))
    return datetime.datetime.combine(on, NOON, datetime.timezone(east))


def asked_of(
    rule: Rule, facts: Facts, on: datetime.date, said: Mapping[str, Any] | None = None, ahead: bool = False
) -> Asked:
    """What a job of the rule is asked on a day. said: what the job says, under the names of `JobIn`."""
    told = said or {}
    return Asked(
        facts=facts,
        acts=acts_here(rule, list(told.get("acts") or ()), told.get("equipment", ""), facts),
        on=on,
        at=moment_of(facts, on, told.get("at")),
        job=told.get("job", ""),
        crew=told.get("crew", ""),
        contractor=told.get("contractor", ""),
        method=rule.method,
        assessor_above=rule.assessor_above,
        route=told.get("route", ""),
        line_clearance=bool(told.get("line_clearance")),
        ahead=ahead,
    )


def is_ahead(facts: Facts, on: datetime.date) -> bool:
    """Whether the work lies so far ahead that a look today would be too old by then."""
    return (on - facts.on).days * 24 > facts.area.nests_within_hours


def checks_of(asked: Asked) -> list[CheckState]:
    """Every check that the acts ask for, open or closed."""
    return [_state(check, asked) for check in checks_of_acts(asked.acts)]


def _state(check: str, asked: Asked) -> CheckState:
    judged = JUDGES[check](asked)
    return {
        "check": check,
        "title": TITLES[check],
        "open": judged.open,
        "later": judged.later,
        "why": judged.why,
        "who": judged.who if judged.open or judged.later else "",
        "how": list(judged.kinds) if judged.open or judged.later else [],
        "until": judged.until,
        "lead_weeks": judged.lead_weeks,
    }
