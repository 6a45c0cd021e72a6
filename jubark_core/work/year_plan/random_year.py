"""Invented years of work, of any size and always the same for a seed: for tests and benchmarks."""

from __future__ import annotations

import datetime
import random

from jubark_core.work.year_plan.model import Days, PlanCrew, PlanJob, PlanProblem

MONDAY = datetime.date(2027, 1, 4)
SKILLS = ("climbing", "felling", "pesticide_application")


def random_year(
    seed: int, jobs: int, weeks: int = 6, crews: int = 2, hours: float = 10, promised: float = 0.08
) -> PlanProblem:
    """A year in which something of everything binds: windows, skills, chains, closures, hygiene, money.

    promised: share of the jobs that somebody was told a day of.
    """
    draw = random.Random(seed)
    made = [_job(draw, i, weeks, promised) for i in range(jobs)]
    spent = sum(job.money for job in made)
    return PlanProblem(
        MONDAY,
        weeks,
        tuple(_crew(draw, i, weeks, hours) for i in range(crews)),
        tuple(made),
        weather_lost=tuple(draw.choice((0.0, 0.1, 0.3)) for _ in range(12)),
        money=draw.choice((None, round(spent * draw.uniform(0.3, 1.2)))),
        closure_money=draw.choice((0, 50)),
        disinfect_minutes=draw.choice((0, 30)),
        before={job.id: draw.randrange(weeks) for job in made if draw.random() < 0.3},
    )


def _crew(draw: random.Random, i: int, weeks: int, hours: float) -> PlanCrew:
    skills: dict[str, tuple[Days, ...]] = {
        skill: ((MONDAY, _day(weeks * 7 if draw.random() < 0.8 else draw.randrange(weeks * 7))),)
        for skill in SKILLS
        if draw.random() < 0.8
    }
    first = draw.randrange(weeks * 7)
    away = ((_day(first), _day(first + draw.randrange(7))),) if draw.random() < 0.3 else ()
    return PlanCrew(f"crew {i}", round(hours * 60 * draw.uniform(0.7, 1.3)), skills, away)


def _job(draw: random.Random, i: int, weeks: int, promised: float) -> PlanJob:
    days = weeks * 7
    first = draw.randrange(-7, days)
    window = ((_day(first), _day(first + draw.randrange(7, max(8, days // 2)))),)
    before = draw.randrange(i) if i else 0
    chance = draw.random
    return PlanJob(
        id=f"job {i:04d}",
        priority=draw.choice((1, 2, 2, 3, 3, 3, 4, 4)),
        minutes=draw.choice((15, 60, 120, 240, 480)),
        money=draw.randrange(0, 500),
        windows=window if chance() < 0.6 else (),
        closed=((_day(first), _day(first + 10)),) if chance() < 0.1 else (),
        avoid=((_day(days // 3), _day(days // 2)),) if chance() < 0.3 else (),
        not_before=_day(draw.randrange(days)) if chance() < 0.15 else None,
        due=_day(draw.randrange(days)) if chance() < 0.2 else None,
        skills=frozenset({draw.choice(SKILLS)} if chance() < 0.4 else ()),
        after=((f"job {before:04d}", draw.choice((0, 10, 30))),) if i and chance() < 0.15 else (),
        closure=f"street {draw.randrange(6)}" if chance() < 0.25 else "",
        infected=chance() < 0.2,
        promised=_day(draw.randrange(days)) if chance() < promised else None,
        carried_over=chance() < 0.1,
    )


def _day(number: int) -> datetime.date:
    return MONDAY + datetime.timedelta(days=number)
