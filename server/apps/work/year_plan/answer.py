"""A plan as the front end shows it: weeks, load, totals; what does not fit, and what would free it."""

from __future__ import annotations

import datetime
from collections import defaultdict
from typing import Any

from apps.work.year_plan.problem import Year
from apps.work.year_plan.solve import Solved
from jubark_core.work.year_plan.broken import closures_of, money_of
from jubark_core.work.year_plan.model import PlanJob, PlanProblem
from jubark_core.work.year_plan.unplanned import Unplanned, unplanned_of


def answer_of(year: Year, solved: Solved, seconds: float) -> dict[str, Any]:
    """The body of a run that is ready. Money whole, in the site's currency; hours to the hundredth."""
    problem, plan = year.problem, solved.plan
    jobs = []
    for id, slot in plan.items():
        job = problem.by_id[id]
        jobs.append(
            {
                "id": id,
                **year.shown[id],
                "week": problem.days[slot.week][0].isoformat(),
                "weeks": len(slot.minutes),
                "crew": slot.crew,
                "stays": "moved" if job.moved else "promised" if job.promised else "",
            }
        )
    # in a week the clean blocks first, then by urgency
    jobs.sort(key=lambda row: (row["week"], *_within_a_week(problem.by_id[row["id"]])))
    return {
        "first_week": problem.days[0][0].isoformat(),
        "weeks": problem.weeks,
        "jobs": jobs,
        "unplanned": [
            {
                "id": why.job,
                **year.shown[why.job],
                "binds": why.binds,
                "why": _why(why, year),
                "frees": _frees(why, year),
            }
            for why in unplanned_of(problem, plan)
        ],
        "load": _load(problem, solved),
        "closures": [
            {"street": street, "week": problem.days[week][0].isoformat()}
            for street, week in sorted(closures_of(problem, plan), key=lambda c: (c[1], c[0]))
        ],
        "totals": _totals(year, solved),
        "money": {"spent": money_of(problem, plan), "budget": problem.money, "currency": year.currency},
        "gap": round(solved.gap, 4),
        "seconds": round(seconds, 1),
    }


def _within_a_week(job: PlanJob) -> tuple[bool, int, str]:
    return job.infected, job.priority, job.id


def _load(problem: PlanProblem, solved: Solved) -> list[dict[str, Any]]:
    """Hours of each crew by week, planned and there, the disinfection counted."""
    used: dict[tuple[str, int], int] = defaultdict(int)
    unclean = set()
    for id, slot in solved.plan.items():
        for week, minutes in slot.load():
            used[slot.crew, week] += minutes
            if problem.by_id[id].infected:
                unclean.add((slot.crew, week))
    return [
        {
            "crew": crew,
            "week": problem.days[week][0].isoformat(),
            "hours": round(
                (used[crew, week] + problem.disinfect_minutes * ((crew, week) in unclean)) / 60, 2
            ),
            "capacity": round(capacity / 60, 2),
        }
        for (crew, week), capacity in problem.capacity.items()
    ]


def _totals(year: Year, solved: Solved) -> list[dict[str, Any]]:
    """Jobs, hours and cost by block, by month and by kind of work."""
    sums: dict[tuple[str, str], list[float]] = defaultdict(lambda: [0, 0.0, 0.0])
    for id, slot in solved.plan.items():
        shown = year.shown[id]
        month = year.problem.days[slot.week][0].isoformat()[:7]
        for by, of in (("block", shown["block_name"]), ("month", month), ("kind", shown["title"])):
            row = sums[by, of]
            row[0] += 1
            row[1] += shown["hours"]
            row[2] += shown["cost"]
    return [
        {"by": by, "of": of, "jobs": row[0], "hours": round(row[1], 2), "cost": round(row[2], 2)}
        for (by, of), row in sorted(sums.items())
    ]


def _why(why: Unplanned, year: Year) -> str:
    problem = year.problem
    job = problem.by_id[why.job]
    week = _week(problem, why.week)
    match why.binds:
        case "hours":
            return f"No week has the hours; nearest is {why.crew} in the {week}, {_hours(why.minutes)} short."
        case "money":
            return f"The budget is spent: {_sum(why.money, year)} short."
        case "skill":
            names = ", ".join(skill.replace("_", " ") for skill in why.skills)
            return f"No crew has it on the days of its window: {names}."
        case "after":
            return "The work it comes after does not fit either, or too late."
    return _no_week(job, problem)


def _no_week(job: PlanJob, problem: PlanProblem) -> str:
    said = []
    if job.not_before and job.not_before > problem.days[0][-1]:
        said.append(f"not before {_day(job.not_before)}")
    if job.due:
        said.append(f"done by {_day(job.due)}")
    if job.windows:
        said.append("in its season " + " or ".join(f"{_day(a)} to {_day(b)}" for a, b in job.windows))
    if job.closed:
        said.append("not " + " nor ".join(f"{_day(a)} to {_day(b)}" for a, b in job.closed))
    return (
        f"No week of the plan is left for it: {', '.join(said)}." if said else "No crew works in these weeks."
    )


def _frees(why: Unplanned, year: Year) -> str:
    found = []
    if why.minutes:
        found.append(f"{_hours(why.minutes)} more of {why.crew} in the {_week(year.problem, why.week)}")
    if why.money:
        found.append(f"{_sum(why.money, year)} more")
    freed = " and ".join(found)
    if why.due:
        freed = f"{freed}, or its last day" if freed else "Its last day"
        freed += f" moved to {_day(why.due)}"
    if why.skills:
        freed = "A crew member with the licence, or a contractor"
    if why.after:
        freed = "Room for the work before it"
    return f"{freed}." if freed else ""


def _sum(money: int, year: Year) -> str:
    return f"{money:,} {year.currency}".strip()


def _hours(minutes: int) -> str:
    hours = round(minutes / 60 + 0.049, 1)
    return f"{hours:g} crew {'hour' if hours == 1 else 'hours'}"


def _week(problem: PlanProblem, week: int | None) -> str:
    return f"week of {_day(problem.days[week or 0][0])}"


def _day(day: datetime.date) -> str:
    return f"{day.day} {day:%B %Y}"
