"""What a tree's file proposes: rules over facts, with window, checks, lighter answers; what is held back."""

from __future__ import annotations

import datetime
import hashlib
import json
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.season.showing import is_evergreen
from jubark_core.work.before.acts import checks_of_acts, needs_nothing
from jubark_core.work.before.checks import asked_of, checks_of, is_ahead
from jubark_core.work.before.steps import HELD_BY_WIRES, ONLY_ON_WIRES, last_day
from jubark_core.work.contract import (
    LighterWork,
    NotProposed,
    Proposal,
    Proposals,
)
from jubark_core.work.facts import NAME_FOR_AN_ACT, Facts, read_facts
from jubark_core.work.holds_until import INPUTS, proposals_hold_until
from jubark_core.work.load import work_rules
from jubark_core.work.look_again import other_look
from jubark_core.work.model import Condition, Rule
from jubark_core.work.planting import not_here_again
from jubark_core.work.programme import FollowUp, rule_of
from jubark_core.work.seasons import rule_here, rule_of_kind, season_of

WITHIN_DAYS = {1: 1, 2: 28}
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
    on_wires = _held_by_wires(facts)
    kept: list[Proposal] = []
    for rule, found in fired:
        if rule.act in overridden:
            title = work_rules().rules[overridden[rule.act]].title
            held_back.append({"rule": rule.id, "title": rule.title, "why": f"{title} goes before it."})
        elif on_wires and not needs_nothing(rule.acts):
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
    if rule.by_hand:
        return None
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
    if rule.method and rule.instead is None and "C7" in checks_of_acts(rule.acts):
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


def _held_by_wires(facts: Facts) -> bool:
    """Whether it is on a line whose operator has not cleared it, or only up to a day that is over."""
    return bool(facts.of.get("on_wires")) and not facts.permitted_on_wires(facts.on)


def _proposal(rule: Rule, found: list[Condition], facts: Facts, flora: Flora) -> Proposal:
    rule = rule_here(rule, facts, flora)
    season = season_of(rule, facts, facts.on, flora)
    begins = datetime.date.fromisoformat(season["begins"]) if season and not season["now"] else facts.on
    asked = asked_of(rule, facts, begins, ahead=is_ahead(facts, begins))
    checks = checks_of(asked)
    last = last_day(rule, facts, None)
    on_wires = facts.of.get("on_wires") and rule.or_on_wires
    return {
        "rule": rule.id,
        "title": rule.title,
        "act": rule.act,
        "acts": list(asked.acts),
        "do": rule.or_on_wires if on_wires else _do(rule, asked.acts),
        "priority": rule.priority,
        "season": season,
        "within_days": min(
            (
                days
                for why, days in rule.sooner.items()
                if facts.agents.get(why, 0) >= 0.5 or facts.of.get(why)
            ),
            default=_days_left(last, facts) if last else WITHIN_DAYS.get(rule.priority),
        ),
        "latest_on": last.isoformat() if last else "",
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


def _days_left(last: datetime.date, facts: Facts) -> int:
    return max(0, (last - facts.on).days)


def _do(rule: Rule, done: tuple[str, ...]) -> str:
    """The wording of the job, by hand where its method is not authorised."""
    return str(rule.instead["do"]) if rule.instead and done == tuple(rule.instead["acts"]) else rule.do


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
    if rule.act != "fell" and not (rule.act == "deadwood" and facts.hollows):
        return []
    brittle = "climb" in rule.refuses
    said = {
        "restrict": "Only until it is down: dead wood goes on falling."
        if brittle
        else "First, where the target can move.",
        "prune": "It would have to be climbed or stood under." if brittle else "Where part of it is sound.",
        "brace": "Nothing sound to hold on to." if brittle else "Where the union alone is weak.",
        "habitat": "By machine, where what is left stands clear of every target."
        + (f" It holds what animals use: {', '.join(facts.hollows)}." if facts.hollows else ""),
    }
    return [{"act": act, "says": f"{label} {said[act]}"} for act, label in LIGHTER]
