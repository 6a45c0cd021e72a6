"""Whether a job may take a step: asked for now, it is refused while a check is open; what has happened is
recorded, with what stood against it.
"""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.checks import require_date
from jubark_core.flora.model import Flora
from jubark_core.tree_file.jobs import follows_on
from jubark_core.work.before import emergency as urgent
from jubark_core.work.before.acts import EQUIPMENT_ACTS, acts, named_in, needs_nothing
from jubark_core.work.before.checks import asked_of, checks_of, is_ahead
from jubark_core.work.before.evidence import Asked
from jubark_core.work.before.lines import is_qualified
from jubark_core.work.contract import CheckState, JobAnswer
from jubark_core.work.facts import Facts, read_facts
from jubark_core.work.holds_until import INPUTS, step_holds_until
from jubark_core.work.load import work_rules
from jubark_core.work.model import Rule
from jubark_core.work.programme import rule_of
from jubark_core.work.seasons import is_never, rule_here, seals_here

HELD_BY_WIRES = "The tree is on a line: the operator clears it first."
ONLY_LINE_CLEARANCE = "Under the operator's permit only a crew qualified for line clearance works on it."
ONLY_ON_WIRES = ["Keep people out, well away from tree and wire.", "Call the operator of the line."]
DONE_ALL_THE_SAME = "Done though a check was open, by"
NO_CLIMBING = "Dead or brittle ash breaks without warning: it is not climbed, in no job and at no step."
DONE = ("started", "completed")
PROMISED = ("planned", *DONE)
SEALED_WITHIN = 15


def may_take_step(given: Any, flora: Flora) -> JobAnswer:
    """Whether a job may take a step, with every check of its acts. Raises InputError naming the place."""
    facts = read_facts(given["case"], flora)
    on = require_date("on", given["on"])
    rule = rule_of(given["rule"], given.get("part", ""))
    step = given["step"]
    # nothing is put off to a later day once the work begins
    ahead = step not in DONE and (is_ahead(facts, on) or bool(given.get("unplanned")))
    begun_at = given.get("begun_at") if step == "completed" else None
    asked = asked_of(rule, facts, on, {**given, "at": begun_at or given.get("at")}, ahead)
    checks = checks_of(asked)
    emergency = given.get("emergency")
    refusals = _order(given, checks) + _acts(given, rule, asked) + _wires(given, asked)
    if step != "accepted":
        refusals += _too_soon(given, on)
    if step in PROMISED or (step == "changed" and given.get("stage") in PROMISED):
        if emergency is not None:
            refusals += urgent.lacks(emergency, step, asked)
        refusals += [
            f"{check['check']} {check['title']}: {check['why']}"
            for check in checks
            if check["open"] and not (emergency and urgent.passes(check["check"], emergency, asked))
        ]
        refusals += _dates(given, rule, asked, flora)
    refusals += _sealing(given, asked, facts, on, flora)
    by = str(given.get("though_held_by") or "").strip()
    happened = step in DONE and bool(
        given.get("happened") or given.get("late") or (by and facts.of.get("on_wires"))
    )
    flagged = [_all_the_same(given, by), *refusals] if happened and refusals else []
    sealed = given.get("sealed_minutes")
    if (
        step == "completed"
        and sealed is not None
        and sealed > SEALED_WITHIN
        and seals_here(asked.acts, facts, on, flora)
    ):
        flagged.append(f"Sealed after {sealed:g} minutes, not within {SEALED_WITHIN}.")
    return {
        "allowed": happened or not refusals,
        "refusals": [] if happened else refusals,
        "flagged": flagged,
        "acts": list(asked.acts),
        "asks": _unsaid(given, rule, asked),
        "checks": checks,
        "holds_until": step_holds_until(facts, on).isoformat(),
        "inputs": INPUTS,
    }


def _all_the_same(given: Any, by: str) -> str:
    if by:
        why = str(given.get("though_why") or "").strip()
        return f"{DONE_ALL_THE_SAME} {by}{f': {why}' if why else ''}."
    return "It had been done before this could be known or refused."


def _order(given: Any, checks: list[CheckState]) -> list[str]:
    """Steps follow on each other; nothing that asks for a check is completed before it was started."""
    stage, step = given.get("stage"), given["step"]
    if stage is None:
        return []
    if step == "completed" and not checks and stage in ("", "accepted", "planned"):
        return []
    if not follows_on(stage, step):
        return [f"A job that is {stage or 'not accepted yet'} cannot be {step}: a step is missing before it."]
    if step == "completed" and any(c["check"] == "C2a" for c in checks) and not given.get("begun_at"):
        return ["Each working day counts as a start: this day's is recorded first, with its look for nests."]
    return []


def _acts(given: Any, rule: Rule, asked: Asked) -> list[str]:
    """Other work names its acts; dead ash is not climbed; what a rule never does it does at no step."""
    found = []
    if not asked.acts and rule.act == "other":
        found.append("Other work names its acts, so that their checks are asked for.")
    if asked.does("climb") and asked.facts.of.get("brittle_ash"):
        found.append(NO_CLIMBING)
    elif asked.does(*(EQUIPMENT_ACTS[how] for how in rule.refuses if how in EQUIPMENT_ACTS)):
        found.append(f"Not by {' or '.join(rule.refuses)}: {' '.join(rule.cautions)}")
    return found


def _unsaid(given: Any, rule: Rule, asked: Asked) -> list[str]:
    """What the wording names and the acts do not: it is asked about, not refused."""
    text = str(given.get("do") or "")
    if not text.strip() or text == rule.do:
        return []
    missing = sorted(named_in(text) - set(asked.acts) - named_in(rule.do))
    return [
        f"The wording says '{acts()[act].label}', which is no act of this job: add it, or reword."
        for act in missing
    ]


def _wires(given: Any, asked: Asked) -> list[str]:
    """What stands against a step on a tree that wires hold: anything but what is done under a line; under the
    operator's permit, whoever is not qualified for line clearance.
    """
    facts = asked.facts
    if not facts.of.get("on_wires") or needs_nothing(asked.acts):
        return []
    if not facts.permitted_on_wires(asked.on):
        return [f"{HELD_BY_WIRES} Until then: {' '.join(ONLY_ON_WIRES)}"]
    if given["step"] != "accepted" and not is_qualified(asked):
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


def _dates(given: Any, rule: Rule, asked: Asked, flora: Flora) -> list[str]:
    """Not in the season in which it is never done, not before what it waits for, not planned beyond its last
    day: of the last part, by which the wood is gone.
    """
    facts, on = asked.facts, asked.on
    found = []
    if given.get("emergency") is None:
        if is_never(rule, asked.acts, facts, on, flora):
            here = rule_here(rule, facts, flora)
            found.append("Not in this season: " + (here.note or rule.do))
        earliest = given.get("earliest_on")
        if earliest and on < require_date("earliest_on", earliest):
            found.append(f"Not before {earliest}: a permit, a notice or an outage begins then.")
    latest = last_day(rule, facts, given.get("latest_on"))
    if latest and on > latest and given["step"] in ("planned", "changed"):
        found.append(f"It is to be done by {latest}, its last part too.")
    return found


def last_day(rule: Rule, facts: Facts, said: str | None) -> datetime.date | None:
    """The last day of every part: as said, or so many days after the finding was confirmed."""
    days = [require_date("latest_on", said)] if said else []
    if rule.due_days is not None and (confirmed := facts.raw.get("confirmed_on")):
        days.append(require_date("confirmed_on", confirmed) + datetime.timedelta(days=rule.due_days))
    return min(days, default=None)


def _sealing(given: Any, asked: Asked, facts: Facts, on: datetime.date, flora: Flora) -> list[str]:
    unsaid = given["step"] == "completed" and given.get("sealed_minutes") is None
    if unsaid and seals_here(asked.acts, facts, on, flora):
        return ["Sealed after how many minutes: it is written down with the completion."]
    return []
