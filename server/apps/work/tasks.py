"""What workers do: make year plans, and take up again what a worker that died has left."""

from __future__ import annotations

from procrastinate.contrib.django import app

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
