"""The queue of the workers in tests that commit: worked off in this process, and emptied.

Its tables are not managed by Django, so that no test base empties them.
"""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Coroutine
from typing import Any

from django.db import connection, connections
from procrastinate.contrib.django import app

TABLES = (
    "procrastinate_jobs",
    "procrastinate_events",
    "procrastinate_periodic_defers",
    "procrastinate_workers",
)


def empty_queue() -> None:
    """Nothing waits, runs or is remembered."""
    with connection.cursor() as cursor:
        cursor.execute(f"TRUNCATE {', '.join(TABLES)} RESTART IDENTITY CASCADE")


def work_off_queue() -> None:
    """Make the plans that wait, as a worker would; its upkeep, which runs by the clock, is left out."""
    _by_a_worker(
        lambda worker: worker.run_worker_async(
            queues=["plans"], wait=False, install_signal_handlers=False, listen_notify=False
        )
    )


def run_as_worker(task: Any, **arguments: Any) -> Any:
    """One asynchronous task, as a worker runs it; its answer."""
    return _by_a_worker(lambda _: task(**arguments))


def _by_a_worker(work: Any) -> Any:
    """In a thread of its own: Playwright holds the event loop of the test's."""
    answers: list[Any] = []
    failures: list[BaseException] = []

    async def whole() -> Any:
        async with worker.open_async():
            return await _as(work(worker))

    def run() -> None:
        try:
            answers.append(asyncio.run(whole()))
        except BaseException as error:
            failures.append(error)
        finally:
            connections.close_all()

    with app.replace_connector(app.connector.get_worker_connector()) as worker:
        thread = threading.Thread(target=run)
        thread.start()
        thread.join()
    if failures:
        raise failures[0]
    return answers[0]


async def _as(work: Coroutine[Any, Any, Any]) -> Any:
    return await work
