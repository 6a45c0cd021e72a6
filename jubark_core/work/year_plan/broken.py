"""What a plan breaks. Written apart from every planner, so that each of them can be held against it."""

from __future__ import annotations

import datetime
import math

from jubark_core.work.year_plan.model import WORKING_DAYS, Plan, PlanJob, PlanProblem, Slot, within


def broken_by(problem: PlanProblem, plan: Plan) -> list[str]:
    """One line for each constraint a plan breaks; none for a plan that holds."""
    lines = [f"{job}: is no job of the year" for job in plan if job not in problem.by_id]
    known = {job: slot for job, slot in plan.items() if job in problem.by_id}
    for id, slot in known.items():
        lines += _of_job(problem, problem.by_id[id], slot)
        lines += _after(problem, known, problem.by_id[id], slot)
    return lines + _hours(problem, known) + _money(problem, known)


def _of_job(problem: PlanProblem, job: PlanJob, slot: Slot) -> list[str]:
    lines = []
    crew = problem.crew_by_id.get(slot.crew)
    if crew is None or job.crew not in ("", slot.crew):
        return [f"{job.id}: {slot.crew!r} is not its crew"]
    if sum(slot.minutes) != job.minutes:
        lines.append(f"{job.id}: takes {job.minutes} minutes, has {sum(slot.minutes)}")
    if slot.week < 0 or slot.last_week >= problem.weeks:
        return [*lines, f"{job.id}: outside the weeks of the plan"]
    if job.fixed is not None:
        wanted = min(problem.week_of(job.fixed), problem.weeks - 1)
        return lines if slot.week == wanted else [*lines, f"{job.id}: not in the week it was promised for"]
    for week, minutes in slot.load():
        days = [day for day in problem.days[week] if _allowed(job, day)]
        if not days:
            lines.append(f"{job.id}: week {week} has no day on which it may be done")
            continue
        lacking = [s for s in sorted(job.skills) if not crew.holds(s, days[0], days[-1])]
        lines += [f"{job.id}: {crew.id} lacks {skill} in week {week}" for skill in lacking]
        if minutes > problem.capacity[crew.id, week] * len(days) // WORKING_DAYS:
            lines.append(f"{job.id}: longer than its days in week {week}")
    return lines


def _allowed(job: PlanJob, day: datetime.date) -> bool:
    if job.windows and not within(day, job.windows):
        return False
    if within(day, job.closed):
        return False
    return not (job.not_before and day < job.not_before) and not (job.due and day > job.due)


def _after(problem: PlanProblem, plan: Plan, job: PlanJob, slot: Slot) -> list[str]:
    """What must come first has come, and its time has passed; what is promised stays all the same."""
    lines = []
    for earlier, days in job.after if job.fixed is None else ():
        first = plan.get(earlier)
        if first is None:
            lines.append(f"{job.id}: {earlier} is not in the plan")
        elif slot.week < weeks_after(first.last_week, days):
            lines.append(f"{job.id}: less than {days} days after {earlier}")
    return lines


def weeks_after(last_week: int, days: int) -> int:
    """The first week in which so many days have passed since the Friday of a week: its Monday counts."""
    return last_week + (math.ceil((days + WORKING_DAYS - 1) / 7) if days else 0)


def _hours(problem: PlanProblem, plan: Plan) -> list[str]:
    """No crew is planned beyond its week; promises may, and then nothing else is added."""
    lines = []
    promised = promised_of(problem, plan)
    for at, (minutes, infected) in _loads(problem, plan, fixed=False).items():
        taken, unclean = promised.get(at, (0, False))
        extra = problem.disinfect_minutes if infected or unclean else 0
        room = problem.capacity.get(at, 0) - taken
        if minutes and minutes + extra > room:
            lines.append(f"{at[0]}: week {at[1]} holds {max(0, room)} minutes, planned {minutes + extra}")
    return lines


def promised_of(problem: PlanProblem, plan: Plan) -> dict[tuple[str, int], tuple[int, bool]]:
    """(crew, week) -> minutes of the jobs with a fixed day, and whether a block of theirs is not clean."""
    return _loads(problem, plan, fixed=True)


def _loads(problem: PlanProblem, plan: Plan, fixed: bool) -> dict[tuple[str, int], tuple[int, bool]]:
    found: dict[tuple[str, int], tuple[int, bool]] = {}
    for id, slot in plan.items():
        job = problem.by_id[id]
        if (job.fixed is not None) is not fixed:
            continue
        for week, minutes in slot.load():
            before, infected = found.get((slot.crew, week), (0, False))
            found[slot.crew, week] = before + minutes, infected or job.infected
    return found


def _money(problem: PlanProblem, plan: Plan) -> list[str]:
    if problem.money is None:
        return []
    spent = money_of(problem, plan)
    room = spendable(problem, plan)
    return [] if spent <= room else [f"money: {spent} of {room}"]


def spendable(problem: PlanProblem, plan: Plan) -> int:
    """What a plan may cost, where there is a limit: what is promised is paid even where it lies above
    that.
    """
    assert problem.money is not None
    return max(problem.money, money_of(problem, {i: s for i, s in plan.items() if problem.by_id[i].fixed}))


def money_of(problem: PlanProblem, plan: Plan) -> int:
    """What a plan costs: its jobs, and each street for each week it is closed."""
    return sum(problem.by_id[id].money for id in plan) + problem.closure_money * len(
        closures_of(problem, plan)
    )


def closures_of(problem: PlanProblem, plan: Plan) -> set[tuple[str, int]]:
    """(street, week) that is closed."""
    return {
        (problem.by_id[id].closure, week)
        for id, slot in plan.items()
        if problem.by_id[id].closure
        for week, _ in slot.load()
    }
