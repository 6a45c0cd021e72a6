"""Checks before work: what stands open, who closes it, and what an emergency may pass.

C1 name, C2 wildlife, C3 consent, C4 utilities, C5 owner and boundary, C6 wood under a hold, C7 method
authorised.
"""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.checks import require_date
from jubark_core.flora.model import Flora
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.windows import chance_within
from jubark_core.work.contract import CheckState
from jubark_core.work.facts import Facts
from jubark_core.work.model import AreaRules, Rule

TITLES = {
    "C1": "Name",
    "C2": "Nests and roosts",
    "C3": "Consent",
    "C4": "Utilities",
    "C5": "Owner and boundary",
    "C6": "Wood under a movement hold",
    "C7": "Method authorised",
}
DESTROYS = ("fell", "herbicide")
NAME_TO_DESTROY = 0.99
NEST_WEEKS = 6  # from building to fledging of small birds, common practice; the crew's look decides
NEVER_PASSED = ("C4", "C6")  # by no emergency and by no role


def checks_of(rule: Rule, facts: Facts, flora: Flora, on: datetime.date) -> list[CheckState]:
    """The checks of a job of the rule on a day, open or closed."""
    return [_state(check, rule, facts, on) for check in _asked(rule, facts)]


def _asked(rule: Rule, facts: Facts) -> list[str]:
    asked = set(rule.checks)
    if facts.of.get("held_wood") and rule.act in ("fell", "prune_live", "deadwood", "mitigate"):
        asked.add("C6")
    if rule.id == "R01" and not (facts.of.get("on_wires") or facts.raw.get("line_near")):
        asked.discard("C4")
    return sorted(asked)


def _state(check: str, rule: Rule, facts: Facts, on: datetime.date) -> CheckState:
    open_, why, who, weeks = JUDGES[check](rule, facts, on)
    later = check == "C2" and open_ is False and _nests_later(facts, on)
    until = ""
    if open_ is None:
        closed = _closed(check, facts, on)
        open_ = closed is None
        until = (closed or {}).get("until") or ""
    return {
        "check": check,
        "title": TITLES[check],
        "open": open_,
        "later": later,
        "why": why,
        "who": who,
        "until": until,
        "lead_weeks": weeks,
    }


Judged = tuple[bool | None, str, str, int]  # open (None: closed by a clearance only), why, who, weeks


def _closed(check: str, facts: Facts, on: datetime.date, what: str = "") -> dict[str, Any] | None:
    """The newest clearance that closes a check on the day: given before it, and not past its end."""
    for i, row in reversed(list(enumerate(facts.raw.get("clearances", [])))):
        if row["check"] != check or (what and row.get("what", what) != what):
            continue
        given = require_date(f"clearances[{i}].on", row["on"])
        until = require_date(f"clearances[{i}].until", row["until"]) if row.get("until") else None
        named = bool(row["by"].strip()) and (check != "C4" or bool(row.get("reference", "").strip()))
        begins = require_date(f"clearances[{i}].begins", row["begins"]) if row.get("begins") else given
        if max(given, begins) <= on and (until is None or on < until) and named:
            return dict(row)
    return None


def _name(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    if rule.act not in DESTROYS:
        return False, "Pruning and watching go by the rank reached.", "", 0
    second = _closed("C1", facts, on, "name")
    seen = facts.raw.get("separators_seen") or bool(second and second.get("reference", "").strip())
    sure = facts.probability >= NAME_TO_DESTROY or bool(facts.raw.get("named_by_person") and second)
    needed = (
        (f"the name at {NAME_TO_DESTROY} (now {facts.probability:.2f})", sure),
        ("a separator seen against each native or protected look-alike, as the reference", seen),
        ("a second person", bool(second) or facts.raw.get("second_person")),
    )
    missing = [text for text, there in needed if not there]
    if not missing:
        return False, "Sure, separated from look-alikes, and seen by a second person.", "", 0
    return True, "Still needed: " + "; ".join(missing) + ".", "surveyor", 0


def _wildlife(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    area = facts.area
    roost_needed = not roosts_open_on(area, facts.place, on)
    nest = _closed("C2", facts, on, "nests")
    roost = _closed("C2", facts, on, "roosts")
    fresh = (
        nest is not None
        and (on - require_date("clearances.on", nest["on"])).days * 24 <= area.nests_within_hours
    )
    missing = []
    later = _nests_later(facts, on)
    if in_use := _in_use_until(nest, facts):
        seen, again = in_use
        if on < again:
            later = False
            missing.append(f"a nest or roost in use was seen on {seen}; look again after {again}")
    if not fresh and not later:
        missing.append(f"a look for nests within {area.nests_within_hours} hours: {area.nests_who}")
    if roost_needed and roost is None:
        missing.append(f"roosts: {area.roosts_who}")
    if missing:
        return (
            True,
            "Still needed: " + "; ".join(missing) + ".",
            area.roosts_who if roost_needed else area.nests_who,
            0,
        )
    if later:
        return False, f"Within {area.nests_within_hours} hours before the work: {area.nests_who}.", "", 0
    return False, "Looked for on the day.", "", 0


def roosts_open_on(area: AreaRules, place: Place, on: datetime.date) -> bool:
    """Whether the day lies in the area's open season, by its own fixed dates."""
    windows = area.roosts_open_at(place)
    return bool(windows) and all(chance_within(w, place, day_of_year(on)) >= 0.5 for w in windows)


def _in_use_until(nest: dict[str, Any] | None, facts: Facts) -> tuple[datetime.date, datetime.date] | None:
    """When a nest in use was seen that no look since has found empty, and when to look again."""
    seen = facts.raw.get("nest_in_use_on")
    if not seen:
        return None
    day = require_date("nest_in_use_on", seen)
    if nest is not None and require_date("clearances.on", nest["on"]) > day:
        return None
    return day, day + datetime.timedelta(weeks=NEST_WEEKS)


def _nests_later(facts: Facts, on: datetime.date) -> bool:
    """Whether the work lies so far ahead that a look for nests today would be too old by then."""
    return (on - facts.on).days * 24 > facts.area.nests_within_hours


def _consent(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    protected = facts.raw.get("protected", [])
    if not protected:
        return False, "No protection is on record; local rules take precedence.", "", 0
    weeks = max((facts.area.consent_weeks.get(p, 0) for p in protected), default=0)
    return (
        None,
        f"It is {', '.join(p.replace('_', ' ') for p in protected)}.",
        "the authority that gives consent",
        weeks,
    )


def _utilities(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    wires = facts.of.get("wires_m")
    near = facts.of.get("on_wires") or facts.raw.get("line_near")
    near = near or (wires is not None and wires < _falling_reach(rule, facts))
    if near:
        return (
            None,
            "A line is within reach: line-clearance people only, and only with the operator's clearance "
            "(name, reference, from, until).",
            "the operator of the line",
            0,
        )
    if rule.digs:
        return None, "It digs: underground utilities are located first.", "the locating service", 0
    return False, "No line is on record within reach.", "", 0


def _falling_reach(rule: Rule, facts: Facts) -> float:
    falls = rule.act in ("fell", "mitigate", "deadwood")
    return max(facts.area.operator_distance_m, (facts.raw.get("height_m") or 0.0) if falls else 0.0)


def _owner(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    said = "Owner and boundary are looked up, and the owner has agreed."
    owner = facts.raw.get("owner", "")
    if facts.raw.get("boundary"):
        said = "It stands on a boundary: every owner has agreed."
    elif owner and owner != "own":
        said = f"Owner on record: {owner.replace('_', ' ')}; the owner has agreed."
    return None, said, "the site manager", 0


def _wood(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    if not facts.of.get("held_wood"):
        return False, "No movement hold stands.", "", 0
    if facts.raw.get("disposal_route"):
        return False, f"Route of the wood: {facts.raw['disposal_route']}.", "", 0
    return True, "A movement hold stands: the route of the wood is named first.", "the site manager", 0


def _method(rule: Rule, facts: Facts, on: datetime.date) -> Judged:
    allowed = rule.method in facts.area.methods or rule.method in facts.raw.get("authorised", [])
    if not allowed:
        return True, "The method is not authorised in this area's data.", "the pesticide authority", 0
    needed = []
    if rule.assessor_above is not None and _above(facts, rule.assessor_above):
        agrees = facts.raw.get("assessor_agrees") or _closed("C7", facts, on, "assessor")
        if not agrees:
            needed.append(f"an assessor agrees (over {rule.assessor_above:.0f} % of loss)")
    if _closed("C7", facts, on, "authorised") is None:
        needed.append("done by a licensed applicator, with notice to neighbours")
    if needed:
        who = "qualified assessor" if "assessor" in needed[0] else "licensed applicator"
        return True, "Still needed: " + "; ".join(needed) + ".", who, 0
    return False, "A licensed applicator does it; neighbours have notice.", "", 0


def _above(facts: Facts, percent: float) -> bool:
    loss = facts.of.get("crown_loss_percent")
    return loss is not None and loss > percent


JUDGES = {
    "C1": _name,
    "C2": _wildlife,
    "C3": _consent,
    "C4": _utilities,
    "C5": _owner,
    "C6": _wood,
    "C7": _method,
}


def passed_by_emergency(check: str, emergency: dict[str, Any], facts: Facts, on: datetime.date) -> bool:
    """Whether an emergency passes an open check.

    Never utilities and never wood under a hold. Consent: only the least work, with photographs and notice.
    Wildlife: nests and roosts are still looked for. Name: a competent person says that the tree is not known
    to be protected or quarantined.
    """
    if check in NEVER_PASSED or check == "C7":
        return False
    if check == "C1":
        return emergency.get("not_known_protected") is True
    if check == "C2":
        return emergency.get("nests_looked_for") is True and emergency.get("roost_possible") is not True
    if check == "C3":
        return emergency.get("least_work") is True and emergency.get("photographed") is True
    return True
