"""What a tree's file proposes: rules over facts, with window, checks, lighter answers; what is held back."""

from __future__ import annotations

import datetime
import hashlib
import json
from dataclasses import replace
from typing import Any

from jubark_core.checks import require_date
from jubark_core.flora.model import Flora
from jubark_core.season.showing import is_evergreen
from jubark_core.work.before import checks_of, passed_by_emergency
from jubark_core.work.contract import (
    JobAnswer,
    LighterWork,
    NotProposed,
    Proposal,
    Proposals,
)
from jubark_core.work.facts import NAME_FOR_AN_ACT, Facts, read_facts
from jubark_core.work.holds_until import INPUTS, proposals_hold_until, step_holds_until
from jubark_core.work.load import work_rules
from jubark_core.work.look_again import other_look
from jubark_core.work.model import Condition, Rule
from jubark_core.work.planting import not_here_again
from jubark_core.work.programme import FollowUp, rule_of
from jubark_core.work.seasons import is_never, rule_here, rule_of_kind, season_of

WITHIN_DAYS = {1: 1, 2: 28}
HELD_BY_WIRES = "The tree is on a line: the operator clears it first."
ONLY_LINE_CLEARANCE = "Under the operator's permit only a crew qualified for line clearance works on it."
DONE_THOUGH_HELD = "Done though held by wires, by"
DONE_ALL_THE_SAME = ("started", "completed")
ON_WIRES = ("make_safe", "report")  # acts that can be done under a line
ONLY_ON_WIRES = ["Keep people out, well away from tree and wire.", "Call the operator of the line."]
URGENT = ("make_safe", "mitigate")
FIRST = ("R01", "R30", "R22")  # the rest by priority and id
LIGHTER = (
    ("restrict", "Move or restrict the target."),
    ("prune", "Prune."),
    ("brace", "Prop, cable or brace."),
    ("habitat", "Reduce to a habitat tree (snag, monolith)."),
)
MAIN_REGION = "us"
BY_NAME = ("genus", "taxon", "host_of")  # conditions that rest on the name


def propose(given: Any, flora: Flora) -> Proposals:
    """The proposals of a case. Raises InputError naming the place."""
    facts = read_facts(given, flora)
    fired: list[tuple[Rule, list[Condition]]] = []
    held_back: list[NotProposed] = []
    for rule in work_rules().rules.values():
        found = _fires(rule, facts, flora)
        if found is None:
            continue
        why = _held_back(rule, facts, flora)
        if why:
            held_back.append({"rule": rule.id, "title": rule.title, "why": why})
        else:
            fired.append((rule, found))
    overridden = {act: rule.id for rule, _ in fired for act in rule.overrides}
    on_wires = _held_by_wires(facts, flora)
    kept: list[Proposal] = []
    for rule, found in fired:
        if rule.act in overridden:
            title = work_rules().rules[overridden[rule.act]].title
            held_back.append({"rule": rule.id, "title": rule.title, "why": f"{title} goes before it."})
        elif on_wires and rule.act not in ON_WIRES:
            held_back.append({"rule": rule.id, "title": rule.title, "why": HELD_BY_WIRES})
        else:
            made = _proposal(rule, found, facts, flora)
            refused = given.get("refused", {}).get(rule.id)
            if refused == made["facts"]:
                held_back.append({"rule": rule.id, "title": rule.title, "why": "Refused on the same facts."})
            else:
                kept.append(made)
    order = {rule: i for i, rule in enumerate(FIRST)}
    kept.sort(key=lambda p: (p["priority"], order.get(p["rule"], len(FIRST)), p["rule"]))
    return {
        "proposals": kept,
        "held_back": sorted(held_back, key=lambda h: h["rule"]),
        "only": ONLY_ON_WIRES if on_wires else [],
        "holds_until": proposals_hold_until(facts, kept).isoformat(),
        "inputs": INPUTS,
    }


def no_longer(given: Any, rule_id: str, flora: Flora) -> list[str]:
    """Why a rule asks for nothing on these facts: each of its conditions that does not hold, or what holds it
    back; none where it still fires.
    """
    facts = read_facts(given, flora)
    rule = rule_of(rule_id)
    failing = [
        " or ".join(c.in_words() for c in group) for group in rule.when if not _any(group, facts, flora)
    ]
    held = _held_back(rule, facts, flora)
    return [f"no longer: {text}" for text in failing] or ([held] if held else [])


def _fires(rule: Rule, facts: Facts, flora: Flora) -> list[Condition] | None:
    """The conditions that made it fire; None where it does not."""
    found: list[Condition] = []
    for group in rule.when:
        held = [c for c in group if facts.holds(c, flora)]
        if not held:
            return None
        found += held
    by_name = any(c.fact in BY_NAME for c in found)
    return None if by_name and facts.probability < NAME_FOR_AN_ACT else found


def _any(group: tuple[Condition, ...], facts: Facts, flora: Flora) -> bool:
    return any(facts.holds(c, flora) for c in group)


def _held_back(rule: Rule, facts: Facts, flora: Flora) -> str:
    if rule.method and "C7" in rule.checks:
        known = rule.method in facts.area.methods or rule.method in facts.raw.get("authorised", [])
        if not known:
            return "The method is not authorised in this area's data."
    return next(
        (held.why for held in rule.unless if all(_any(group, facts, flora) for group in held.when)), ""
    )


def propose_again(given: Any, follow_up: FollowUp, flora: Flora) -> Proposal:
    """The proposal of a follow-up: asked for by work that was done, whatever the file says else."""
    facts = read_facts(given, flora)
    rule = rule_of(follow_up.rule, follow_up.part)
    programme = f"year {follow_up.year} of {follow_up.of} of the programme"
    why = f"{'the part after it' if follow_up.part else programme}, due {follow_up.due}"
    made = _proposal(rule, [], facts, flora)
    return {**made, "why": [why], "facts": _digest_of([rule.id, follow_up.part, str(follow_up.due)])}


def _held_by_wires(facts: Facts, flora: Flora) -> bool:
    """Whether it is on a line whose operator has not cleared it, or only up to a day that is over."""
    if not facts.of.get("on_wires"):
        return False
    checks = checks_of(work_rules().rules["R01"], facts, flora, facts.on)
    return any(c["open"] for c in checks if c["check"] == "C4")


def _proposal(rule: Rule, found: list[Condition], facts: Facts, flora: Flora) -> Proposal:
    rule = rule_here(rule, facts, flora)
    season = season_of(rule, facts, facts.on, flora)
    begins = datetime.date.fromisoformat(season["begins"]) if season and not season["now"] else facts.on
    checks = checks_of(rule, facts, flora, begins)
    on_wires = facts.of.get("on_wires") and rule.or_on_wires
    return {
        "rule": rule.id,
        "title": rule.title,
        "act": rule.act,
        "do": rule.or_on_wires if on_wires else rule.do,
        "priority": rule.priority,
        "season": season,
        "within_days": min(
            (
                days
                for why, days in rule.sooner.items()
                if facts.agents.get(why, 0) >= 0.5 or facts.of.get(why)
            ),
            default=WITHIN_DAYS.get(rule.priority),
        ),
        "why": [*(_in_words(c, facts) for c in found), *_other_look(rule, facts, flora)],
        "checks": checks,
        "blocked_by": [c["check"] for c in checks if c["open"]],
        "ask": sorted({c["who"] for c in checks if c["open"] and c["who"]}),
        "cautions": [*rule.cautions, *_if_cut(rule, facts, flora), *_not_again(rule, facts, flora)],
        "lighter": _lighter(rule, facts),
        "equipment": rule.equipment,
        "refuses": list(rule.refuses),
        "seals": rule.seals,
        "emergency": rule.emergency,
        "standard": work_rules()
        .standards.get(rule.standard, {})
        .get(facts.raw.get("region", MAIN_REGION), ""),
        "traffic": rule.traffic,
        "follow_up_years": list(rule.follow_up_years),
        "cure_days": rule.cure_days,
        "note": rule.note,
        "source": rule.source,
        "facts": _digest(rule, found, facts),
    }


def _if_cut(rule: Rule, facts: Facts, flora: Flora) -> list[str]:
    """What a danger that is taken away asks for at once, where live wood of such a tree is cut."""
    kind = rule_of_kind(facts, flora) if rule.act in URGENT else None
    return [f"Where live wood is cut: {kind.emergency}"] if kind and kind.emergency else []


def _other_look(rule: Rule, facts: Facts, flora: Flora) -> list[str]:
    """Which look an inspection is, where the tree stands leafless."""
    node = flora.taxa.get(facts.taxon)
    if rule.act != "inspect" or node is None:
        return []
    return other_look(facts.raw, facts.on, facts.place, is_evergreen(node))


def _not_again(rule: Rule, facts: Facts, flora: Flora) -> list[str]:
    """What is not planted where another died."""
    died = facts.raw.get("died_here", []) if rule.act == "plant" else []
    return [f"Not again here: {genus}." for genus in not_here_again(died, flora)]


def _in_words(condition: Condition, facts: Facts) -> str:
    value = facts.of.get(condition.fact)
    if condition.fact == "agent":
        name = condition.about.replace("-", " ")
        return f"{name} at {facts.agents[condition.about]:.2f}"
    if condition.fact in ("about", "near"):
        far = facts.km.get(condition.about)
        name = condition.about.replace("-", " ")
        return f"{name} {far:g} km away" if far is not None else f"{name} found here"
    if condition.fact == "host_of":
        return f"a host of {condition.about.replace('-', ' ')}"
    label = condition.fact.replace("_", " ")
    if value is True:
        return label
    if isinstance(value, list):
        return f"{label}: {', '.join(str(v).replace('_', ' ') for v in value)}"
    return f"{label}: {str(value).replace('_', ' ')}" if value is not None else condition.in_words()


def _digest(rule: Rule, found: list[Condition], facts: Facts) -> str:
    """Twelve hex digits over the facts it rests on: a new visit with the same facts gives the same."""
    rests = sorted({c.fact + c.about for c in found})
    values = {c.fact + c.about: _value(c, facts) for c in found}
    return _digest_of([rule.id, rests, values, facts.taxon])


def _digest_of(what: Any) -> str:
    text = json.dumps(what, sort_keys=True, default=str)
    return hashlib.sha256(text.encode()).hexdigest()[:12]


def _value(condition: Condition, facts: Facts) -> Any:
    if condition.fact == "agent":
        return round(facts.agents.get(condition.about, 0.0), 1)
    if condition.fact in ("about", "near", "host_of"):
        return condition.about
    return facts.of.get(condition.fact)


def _lighter(rule: Rule, facts: Facts) -> list[LighterWork]:
    """What answers before felling does: considered in this order, and shown."""
    if rule.act != "fell":
        return []
    brittle = "climb" in rule.refuses
    said = {
        "restrict": "Only until it is down: dead wood goes on falling."
        if brittle
        else "First, where the target can move.",
        "prune": "It would have to be climbed or stood under." if brittle else "Where part of it is sound.",
        "brace": "Nothing sound to hold on to." if brittle else "Where the union alone is weak.",
        "habitat": "By machine, where what is left stands clear of every target.",
    }
    return [{"act": act, "says": f"{label} {said[act]}"} for act, label in LIGHTER]


def may_take_step(given: Any, flora: Flora) -> JobAnswer:
    """Whether a job may be accepted, planned, started or completed. Raises InputError naming the place."""
    facts = read_facts(given["case"], flora)
    on = require_date("on", given["on"])
    rule = rule_of(given["rule"], given.get("part", ""))
    if given["step"] not in ("accepted", "planned"):
        facts = replace(facts, on=on)  # nothing is put off to a later day once the work begins
    checks = checks_of(rule, facts, flora, on)
    here = rule_here(rule, facts, flora)
    refusals = _too_soon(given, on) if given["step"] != "accepted" else []
    refusals += _wires(given, rule, facts, flora)
    if facts.of.get("on_wires") and rule.act in ON_WIRES:
        checks = [check for check in checks if check["check"] != "C4"]  # it is what is done under a line
    emergency = given.get("emergency")
    if given["step"] != "accepted":
        if emergency is not None:
            refusals += _emergency_lacks(emergency)
        for check in checks:
            if check["open"] and not (
                emergency and passed_by_emergency(check["check"], emergency, facts, on)
            ):
                refusals.append(f"{check['check']} {check['title']}: {check['why']}")
        if emergency is None and is_never(rule, facts, on, flora):
            refusals.append("Not in this season: " + (here.note if rule.live_cuts else rule.do))
    if given.get("equipment") in rule.refuses:
        refusals.append(f"Not by {given['equipment']}: {' '.join(rule.cautions)}")
    if (
        given["step"] == "completed"
        and here.seals
        and emergency is not None
        and given.get("sealed_minutes") is None
    ):
        refusals.append("Sealed after how many minutes: it is written down with the completion.")
    by = str(given.get("though_held_by") or "").strip()
    happened = bool(by and facts.of.get("on_wires") and given["step"] in DONE_ALL_THE_SAME)
    flagged = [f"{DONE_THOUGH_HELD} {by}.", *refusals] if happened else []
    refusals = [] if happened else refusals
    return {
        "allowed": not refusals,
        "refusals": refusals,
        "flagged": flagged,
        "checks": checks,
        "holds_until": step_holds_until(facts, on).isoformat(),
        "inputs": INPUTS,
    }


def _wires(given: Any, rule: Rule, facts: Facts, flora: Flora) -> list[str]:
    """What stands against a step on a tree that wires hold: anything but what is done under a line; under the
    operator's permit, whoever is not qualified for line clearance.
    """
    if not facts.of.get("on_wires") or rule.act in ON_WIRES:
        return []
    if _held_by_wires(facts, flora):
        return [f"{HELD_BY_WIRES} Until then: {' '.join(ONLY_ON_WIRES)}"]
    if given["step"] != "accepted" and not given.get("line_clearance"):
        return [ONLY_LINE_CLEARANCE]
    return []


def _too_soon(given: Any, on: datetime.date) -> list[str]:
    """The later part of a job comes after its first, and after the days that needs."""
    then = work_rules().rules[given["rule"]].then
    if not given.get("part") or then is None:
        return []
    first = given.get("first_part_on")
    if not first:
        return ["Its first part is not completed yet."]
    earliest = require_date("first_part_on", first) + datetime.timedelta(days=then.after_days)
    return [f"Not before {earliest}: {then.after_days} days after the first part."] if on < earliest else []


def _emergency_lacks(emergency: dict[str, Any]) -> list[str]:
    return [
        f"The emergency names its {what}."
        for what in ("by", "role", "reason")
        if not str(emergency.get(what) or "").strip()
    ]
