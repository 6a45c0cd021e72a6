"""The plan of a day: what is most pressing, walked block by block so that no disease is carried, nearest
after nearest; and what a day has no room for.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Annotated, NotRequired, TypedDict

from jubark_core.checks import require_date, require_one_of
from jubark_core.errors import InputError
from jubark_core.records.typed_schema import Between
from jubark_core.records.words import BIOSECURITY
from jubark_core.size.bearing import metres_between

# What there may be to do, most pressing first; how long each takes is assumed, and shown beside the plan.
TASKS: dict[str, tuple[str, float]] = {
    "danger": ("extreme or high risk", 12.0),
    "risk": ("a risk sheet that is not whole", 12.0),
    "overdue": ("inspection overdue", 6.0),
    "due": ("inspection due", 6.0),
    "dated": ("promised or dated for now", 5.0),
    "doubtful": ("doubtful figure", 3.0),
    "name": ("provisional name that shows something now", 3.0),
    "measure": ("measure again", 3.0),
}
_RANK = {task: i for i, task in enumerate(TASKS)}
WALK_M_PER_MIN = 4000 / 60  # 4 km/h, over rough ground
BETWEEN_BLOCKS_MIN = 10.0  # boots and tools are cleaned, and one gets there
MOST_TASKS = 20_000


class TaskIn(TypedDict):
    """Something to do at a tree."""

    tree: str
    block: str
    task: Annotated[str, "A word of TASKS."]
    says: NotRequired[str]
    days: NotRequired[Annotated[int, "Days since it fell due; the longest first."]]
    lat: NotRequired[Annotated[float | None, Between(-90, 90)]]
    lon: NotRequired[Annotated[float | None, Between(-180, 180)]]


class DayBlock(TypedDict):
    """A block and its biosecurity status."""

    block: str
    name: str
    biosecurity: str


class PlanIn(TypedDict):
    """A day and what there is to do."""

    on: str
    minutes: Annotated[float, Between(15, 900)]
    blocks: list[DayBlock]
    tasks: list[TaskIn]


class Stop(TypedDict):
    """A tree of the plan, with everything that is to do there."""

    tree: str
    block: str
    tasks: list[str]
    says: list[str]


class BlockPlan(TypedDict):
    """The stops of a block in walking order; a block comes twice where danger is gone to first."""

    block: str
    stops: list[Stop]


class PlanOut(TypedDict):
    """The day, block by block; stays: what it has no room for, most pressing first."""

    on: str
    blocks: list[BlockPlan]
    minutes: float
    walking_min: float
    stays: list[Stop]
    stays_by_task: dict[str, int]
    assumes: str


ASSUMES = (
    ", ".join(f"{label} {minutes:.0f} min" for label, minutes in TASKS.values())
    + f"; walking 4 km/h, {BETWEEN_BLOCKS_MIN:.0f} min from block to block."
)


class _Visit:
    """A tree with its tasks, as it is weighed."""

    def __init__(self, tasks: Sequence[TaskIn]) -> None:
        pressing = sorted(tasks, key=lambda t: (_RANK[t["task"]], -t.get("days", 0)))
        self.stop: Stop = {
            "tree": pressing[0]["tree"],
            "block": pressing[0]["block"],
            "tasks": list(dict.fromkeys(t["task"] for t in pressing)),
            "says": [t.get("says", "") or TASKS[t["task"]][0] for t in pressing],
        }
        self.pressing = (_RANK[pressing[0]["task"]], -pressing[0].get("days", 0), pressing[0]["tree"])
        self.dangerous = pressing[0]["task"] == "danger"
        self.minutes = max(TASKS[t["task"]][1] for t in tasks)
        lat, lon = pressing[0].get("lat"), pressing[0].get("lon")
        self.at = None if lat is None or lon is None else (lon, lat)


def plan_day(given: PlanIn) -> PlanOut:
    """What fits into the day and in which order, and what stays.

    Pressing first: a stop is left out only when every one before it is in. Extreme and high risk are gone to
    before all else; then, as among them, clean blocks come before suspect, suspect before infested. Raises
    InputError naming the field, the value and what is allowed.
    """
    on = require_date("on", given["on"])
    if len(given["tasks"]) > MOST_TASKS:
        raise InputError("tasks", len(given["tasks"]), f"at most {MOST_TASKS}")
    order = _block_order(given["blocks"])
    visits = _visits(given["tasks"], order)
    fits = _that_work_alone_fits(visits, given["minutes"])
    route = _route(visits[:fits], order)
    while fits and _minutes(route) > given["minutes"]:
        fits -= 1
        route = _route(visits[:fits], order)
    stays = [v.stop for v in visits[fits:]]
    return {
        "on": on.isoformat(),
        "blocks": [
            {"block": block, "stops": [v.stop for v in stops]}
            for (_, block), stops in itertools.groupby(route, key=lambda v: (v.dangerous, v.stop["block"]))
        ],
        "minutes": round(_minutes(route), 1),
        "walking_min": round(_walking(route), 1),
        "stays": stays,
        "stays_by_task": {
            task: n for task in TASKS if (n := sum(stop["tasks"][0] == task for stop in stays))
        },
        "assumes": ASSUMES,
    }


def _block_order(blocks: Sequence[DayBlock]) -> dict[str, int]:
    for i, block in enumerate(blocks):
        require_one_of(f"blocks[{i}].biosecurity", block["biosecurity"], BIOSECURITY)
    ordered = sorted(
        blocks, key=lambda b: (BIOSECURITY.index(b["biosecurity"]), b["name"].casefold(), b["block"])
    )
    return {block["block"]: i for i, block in enumerate(ordered)}


def _visits(tasks: Sequence[TaskIn], order: dict[str, int]) -> list[_Visit]:
    of_tree: dict[str, list[TaskIn]] = {}
    for i, task in enumerate(tasks):
        require_one_of(f"tasks[{i}].task", task["task"], tuple(TASKS))
        require_one_of(f"tasks[{i}].block", task["block"], tuple(order))
        of_tree.setdefault(task["tree"], []).append(task)
    return sorted((_Visit(of_one) for of_one in of_tree.values()), key=lambda v: v.pressing)


def _that_work_alone_fits(visits: Sequence[_Visit], minutes: float) -> int:
    spent = list(itertools.accumulate(v.minutes for v in visits))
    return sum(s <= minutes for s in spent)


def _route(visits: Sequence[_Visit], order: dict[str, int]) -> list[_Visit]:
    """What is dangerous, then the rest, each block after block; within one, from the stop nearest to the
    last, nearest after nearest.
    """
    route: list[_Visit] = []
    in_order = sorted(visits, key=lambda v: (not v.dangerous, order[v.stop["block"]]))
    for _, of_block in itertools.groupby(in_order, key=lambda v: (v.dangerous, v.stop["block"])):
        left = sorted(of_block, key=lambda v: (v.at is None, -(v.at or (0, 0))[1], v.stop["tree"]))
        here = route[-1].at if route else None
        while left:
            after = min(left, key=lambda v: _metres(here, v.at)) if here else left[0]
            left.remove(after)
            route.append(after)
            here = after.at or here
    return route


def _metres(a: tuple[float, float] | None, b: tuple[float, float] | None) -> float:
    return 0.0 if a is None or b is None else metres_between(*a, *b)


def _walking(route: Sequence[_Visit]) -> float:
    return math.fsum(
        _metres(a.at, b.at) / WALK_M_PER_MIN
        if a.stop["block"] == b.stop["block"]
        else max(BETWEEN_BLOCKS_MIN, _metres(a.at, b.at) / WALK_M_PER_MIN)
        for a, b in itertools.pairwise(route)
    )


def _minutes(route: Sequence[_Visit]) -> float:
    return _walking(route) + math.fsum(v.minutes for v in route)
