"""What workers do: make year plans, take up again what a worker that died has left, and end what nobody will
take up.
"""

from __future__ import annotations

from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.work.models import PlanRun
from apps.work.year_plan.run import run_plan

STALLED_AFTER_S = 60  # without a sign of life of its worker; one shows itself every ten seconds


@app.task(queue="plans")
def plan_the_year(run: str) -> None:
    """Make the plan of a run. Safe to repeat: one that is over is left alone, what broke off begins anew."""
    run_plan(run)


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", pass_context=False)
async def retry_stalled_jobs(timestamp: int) -> int:
    """Put jobs of workers that died back into the queue; says how many."""
    jobs = await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_AFTER_S)
    count = 0
    for job in jobs:
        await app.job_manager.retry_job(job)
        count += 1
    return count


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", pass_context=False)
def end_lost_runs(timestamp: int) -> int:
    """End runs whose job has failed or is not there: they would block their site for ever. Says how many."""
    alive = ProcrastinateJob.objects.filter(
        task_name=plan_the_year.name, status__in=("todo", "doing")
    ).values_list("args__run", flat=True)
    lost = PlanRun.objects.filter(state__in=PlanRun.OPEN).exclude(pk__in=[run for run in alive if run])
    return lost.update(state=PlanRun.State.FAILED, ended_at=timezone.now())
