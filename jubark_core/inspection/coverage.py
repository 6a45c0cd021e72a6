"""Coverage: of each tree, when it was looked at, by whom, at which level, what was not seen, what is overdue.

It is what evidence of inspection the owner holds; it says nothing of the condition of any tree.
"""

from __future__ import annotations

import datetime
from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Any, NotRequired, TypedDict

from jubark_core.checks import require_date, require_one_of
from jubark_core.errors import InputError
from jubark_core.inspection.regime import (
    LookedAt,
    TargetInReach,
    does_for,
    is_attempt,
    months_of,
    not_seen,
    rule_of,
    sooner_months,
    zone_of,
)
from jubark_core.records.fields import read_as
from jubark_core.records.office import Regime, ZoneRule
from jubark_core.records.typed_schema import Between
from jubark_core.records.words import INSPECTION_LEVELS, OCCUPANCY, RATINGS, shown_word
from jubark_core.season.days import add_months
from jubark_core.tree_file.looks import meets

MOST_TREES = 20_000
LONGEST_DAYS = 366  # a judgement is looked at once a year, whatever it says
INPUTS = ["entries", "targets", "owner's table", "competences"]
COMPETENCE = ("", "valid", "expired", "none")
COMPETENCE_ORDER = ("none", "expired", "", "valid")
STATES = {
    "done": "done at the level asked for",
    "competence": "done, competence not on record or expired on that date",
    "below_level": "looked at, below the level asked for",
    "late": "last done longer ago than asked for",
    "not_looked_at": "not looked at",
    "no_rule": "no rule for its zone",
}
METHOD = (
    "Each tree stands in the zone of the busiest target within its reach. A tree is due one interval of the "
    "owner's table after its last inspection at the level asked for, or on the day its risk worksheet names "
    "where that is earlier; one never inspected, one interval after the table first applied to it. A look "
    "from all round that saw a part only is below the level, and due again by the interval of the next grade "
    "up, or half of its own; one that saw neither base nor crown is an attempt and no inspection."
)
LIMITS = (
    "This lists what was recorded of looking at trees. It does not say that a tree will stand, nor judge "
    "whether anybody's obligations are fulfilled. Local rules take precedence; a qualified assessor decides "
    "on risk."
)


class InspectedTreeIn(TypedDict):
    """A tree, what it may hit, and every inspection of it up to the day of the report."""

    tree: str
    since: Annotated[str, "The day from which the owner's table applies to it."]
    height_m: NotRequired[Annotated[float | None, Between(0, 150)]]
    targets: NotRequired[list[TargetInReach]]
    rating: NotRequired[str]
    next_inspection: NotRequired[Annotated[str, "The day its risk worksheet names."]]
    looks: list[LookedAt]


class CoverageIn(TypedDict):
    """A regime of inspections (RegimeIn), and the trees it applies to, as of a day."""

    on: str
    regime: dict[str, Any]
    trees: list[InspectedTreeIn]


class InspectedTree(TypedDict):
    """How a tree stands against the owner's table on a day."""

    tree: str
    zone: str
    level_asked: str
    months: int | None
    state: Annotated[str, "A word of STATES."]
    last: Annotated[LookedAt | None, "The last time it was looked at, at any level."]
    counted: Annotated[LookedAt | None, "The last inspection that does for the level asked for."]
    shown: Annotated[LookedAt | None, "The look that `not_seen` and `says` speak of."]
    not_seen: list[str]
    due_on: Annotated[str, "Empty where nothing falls due."]
    overdue: Annotated[bool, "The day on which it was due is past."]
    says: str
    holds_until: Annotated[str, "The first day on which the same inputs may be judged otherwise."]


class CoverageOut(TypedDict):
    """The trees, and how many stand how. overdue counts beside the states."""

    on: str
    trees: list[InspectedTree]
    states: dict[str, int]
    overdue: int
    parts_not_seen: int
    method: str
    limits: str
    inputs: Annotated[list[str], "What the trees were judged by."]


def coverage(given: CoverageIn) -> CoverageOut:
    """How every tree stands against the owner's table on a day.

    Raises InputError naming the tree, the field, the value and what is allowed; an inspection after the day
    is refused, for the report is as of that day.
    """
    on = require_date("on", given["on"])
    regime = read_as(Regime, "regime", given["regime"], {})
    if len(given["trees"]) > MOST_TREES:
        raise InputError("trees", len(given["trees"]), f"at most {MOST_TREES} trees")
    rows = [_tree(f"trees[{i}]", tree, regime, on) for i, tree in enumerate(given["trees"])]
    counts = Counter(row["state"] for row in rows)
    return {
        "on": on.isoformat(),
        "trees": rows,
        "states": {state: counts[state] for state in STATES},
        "overdue": sum(row["overdue"] for row in rows),
        "parts_not_seen": sum(bool(row["not_seen"]) for row in rows),
        "method": METHOD,
        "limits": LIMITS,
        "inputs": INPUTS,
    }


def _tree(place: str, tree: InspectedTreeIn, regime: Regime, on: datetime.date) -> InspectedTree:
    looks = sorted(_looks(place, tree, on), key=_order)
    for i, target in enumerate(tree.get("targets", [])):
        require_one_of(f"{place}.targets[{i}].occupancy", target["occupancy"], OCCUPANCY)
    rating = require_one_of(f"{place}.rating", tree.get("rating", ""), ("", *RATINGS))
    zone = zone_of(tree.get("height_m"), tree.get("targets", []), regime)
    rule = rule_of(zone, regime)
    seen = [k for k in looks if not is_attempt(k)]
    last = seen[-1] if seen else None
    counted = next((k for k in reversed(seen) if rule is None or does_for(k, rule.level)), None)
    in_part = _in_part_since(seen, counted, rule)
    months = months_of(rule, rating) if rule else None
    sooner = sooner_months(rule, rating) if rule else None
    due = _due(place, tree, months, sooner, counted, in_part)
    late = (on - due).days if due else 0
    state = _state(rule, months, sooner if in_part else months, last, counted, late, on)
    shown = counted if counted and state != "below_level" else last
    attempted = looks[-1] if looks and is_attempt(looks[-1]) else None
    row: InspectedTree = {
        "tree": tree["tree"],
        "zone": zone,
        "level_asked": rule.level if rule else "",
        "months": months,
        "state": state,
        "last": last,
        "counted": counted,
        "shown": shown,
        "not_seen": not_seen(shown) if shown else [],
        "due_on": due.isoformat() if due else "",
        "overdue": late > 0,
        "says": "",
        "holds_until": _holds_until(on, due, last, sooner if in_part else months).isoformat(),
    }
    row["says"] = _says(row, attempted)
    return row


def _in_part_since(
    seen: Sequence[LookedAt], counted: LookedAt | None, rule: ZoneRule | None
) -> list[LookedAt]:
    """The looks since the last inspection that counts which would have counted, had they seen the whole."""
    found: list[LookedAt] = []
    for look in reversed(seen):
        if rule is None or look is counted:
            break
        if meets(look["level"], rule.level):
            found.append(look)
    return found[::-1]


def _order(look: LookedAt) -> tuple[Any, ...]:
    """By day; of one day the higher level counts, and of two alike the one by who was qualified."""
    held = COMPETENCE_ORDER.index(look.get("competence", ""))
    return look["on"], INSPECTION_LEVELS.index(look["level"]), held, sorted(map(str, look.items()))


def _looks(place: str, tree: InspectedTreeIn, on: datetime.date) -> list[LookedAt]:
    for i, look in enumerate(tree["looks"]):
        at = f"{place}.looks[{i}]"
        if require_date(f"{at}.on", look["on"]) > on:
            raise InputError(f"{at}.on", look["on"], f"{on} or earlier: the report is as of that day")
        require_one_of(f"{at}.level", look["level"], INSPECTION_LEVELS)
        require_one_of(f"{at}.competence", look.get("competence", ""), COMPETENCE)
    return tree["looks"]


def _due(
    place: str,
    tree: InspectedTreeIn,
    months: int | None,
    sooner: int | None,
    counted: LookedAt | None,
    in_part: Sequence[LookedAt],
) -> datetime.date | None:
    """By the table, or the day the worksheet names where that is earlier and nobody has inspected since.
    After a look that saw a part only: by the shorter interval, and never later than one interval after the
    first of them.
    """
    days = []
    if sooner is not None and in_part:
        days.append(add_months(require_date(f"{place}.looks", in_part[-1]["on"]), sooner))
    if months is not None:
        first = counted or (in_part[0] if in_part else None)
        begins = first["on"] if first else tree["since"]
        days.append(add_months(require_date(f"{place}.since", begins), months))
    if named := tree.get("next_inspection", ""):
        day = require_date(f"{place}.next_inspection", named)
        if counted is None or require_date(f"{place}.looks", counted["on"]) < day:
            days.append(day)
    return min(days, default=None)


def _state(
    rule: ZoneRule | None,
    months: int | None,
    within_months: int | None,
    last: LookedAt | None,
    counted: LookedAt | None,
    late: int,
    on: datetime.date,
) -> str:
    if rule is None or months is None or within_months is None:
        return "no_rule"
    if counted and late <= 0:
        return "competence" if counted.get("competence", "") in ("expired", "none") else "done"
    if last is None:
        return "not_looked_at"
    within = add_months(datetime.date.fromisoformat(last["on"]), within_months) >= on
    return "below_level" if within and not does_for(last, rule.level) else "late"


def _holds_until(
    on: datetime.date, due: datetime.date | None, last: LookedAt | None, within_months: int | None
) -> datetime.date:
    """The first day after `on` on which a tree may stand otherwise though nobody looked: once its day is
    past, or its last look has grown old.
    """
    days = [due] if due else []
    if last and within_months is not None:
        days.append(add_months(datetime.date.fromisoformat(last["on"]), within_months))
    ahead = [day + datetime.timedelta(days=1) for day in days if day >= on]
    return min(ahead, default=on + datetime.timedelta(days=LONGEST_DAYS))


def _says(row: InspectedTree, attempted: LookedAt | None = None) -> str:
    """The line of the report, in words. attempted: the last look, where it saw neither base nor crown."""
    told = STATES[row["state"]]
    if attempted:
        why = attempted.get("no_access") or "neither base nor crown was visible"
        before = "" if row["shown"] is None else f"; before that {told}"
        told = f"not inspected, attempted on {attempted['on']}: {why}{before}"
    look = row["shown"]
    if row["state"] == "competence" and look:
        told = (
            f"done by a person whose competence had expired on that date ({look.get('expired_on', '')})"
            if look.get("competence") == "expired"
            else "done by a person without the qualification asked for on record for that date"
        )
    parts = [told[0].upper() + told[1:]]
    if look:
        walked = "walked past, " if look.get("walked") else ""
        parts.append(f"{look['on']}, {walked}{shown_word(look['level'])}")
        if look.get("no_defect"):
            parts.append("no defect found")
        if row["not_seen"]:
            parts.append(" and ".join(row["not_seen"]) + " not seen whole")
    if row["overdue"]:
        parts.append(f"overdue since {row['due_on']}")
    return "; ".join(parts) + "."
