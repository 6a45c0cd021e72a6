"""A run of the planner, in a worker: reads the year, solves it, writes plan and state in one transaction."""

from __future__ import annotations

import contextlib
import logging
import threading
import time
from collections.abc import Iterator

from django.db import Error, InterfaceError, OperationalError, connection, transaction
from django.utils import timezone

from apps.work.models import PlanRun
from apps.work.year_plan.answer import answer_of
from apps.work.year_plan.problem import year_of
from apps.work.year_plan.solve import Found, Limits, Solved, solve

MOST_ATTEMPTS = 3
log = logging.getLogger("jubark.plan")


def run_plan(id: str, limits: Limits | None = None) -> None:
    """Make the plan of a run and store it.

    One that is over is left alone; one that broke off begins anew, and after three times is given up. A
    cancelled one leaves the plan that holds.
    """
    run = _begin(id)
    if run is None:
        return
    try:
        began = time.monotonic()
        year = year_of(run.asked_by, run.site, run.starts)
        own = threading.get_ident()
        solved = solve(
            year.problem, limits, lambda found: _progress(id, found, own), lambda: _cancelled(id, own)
        )
        body = answer_of(year, solved, time.monotonic() - began)
        try:
            _end(id, solved, body)
        except (OperationalError, InterfaceError):  # the connection is older than the search
            _anew()
            _end(id, solved, body)
    except Exception:
        log.exception("the plan of run %s failed", id)
        _anew()
        _close(id, PlanRun.State.FAILED)
        raise


def _anew() -> None:
    """A fresh connection: whatever failed may have been the old one."""
    if not connection.in_atomic_block:
        connection.close()


@transaction.atomic
def _begin(id: str) -> PlanRun | None:
    run = PlanRun.objects.select_for_update().select_related("asked_by", "site").get(pk=id)
    if run.state not in PlanRun.OPEN:
        return None
    run.attempts += 1
    run.state, run.began_at, run.progress = PlanRun.State.RUNNING, timezone.now(), {}
    if run.cancel_asked or run.attempts > MOST_ATTEMPTS:
        run.state = PlanRun.State.CANCELLED if run.cancel_asked else PlanRun.State.FAILED
        run.ended_at = timezone.now()
    run.save(update_fields=["attempts", "state", "began_at", "ended_at", "progress"])
    return run if run.state == PlanRun.State.RUNNING else None


def _progress(id: str, found: Found, own: int) -> None:
    """Told by the search, from threads of its own: what cannot be written is left out, the plan goes on."""
    with _given_back(own), contextlib.suppress(Error):
        PlanRun.objects.filter(pk=id).update(progress={"planned": found.planned})


def _cancelled(id: str, own: int) -> bool:
    with _given_back(own), contextlib.suppress(Error):
        return PlanRun.objects.filter(pk=id, cancel_asked=True).exists()
    return False


@contextlib.contextmanager
def _given_back(own: int) -> Iterator[None]:
    """The connection of a thread of the search is given back at once; that of the run's own thread stays."""
    try:
        yield
    finally:
        if threading.get_ident() != own:
            connection.close()


@transaction.atomic
def _end(id: str, solved: Solved, body: dict[str, object]) -> None:
    run = PlanRun.objects.select_for_update().get(pk=id)
    if run.state != PlanRun.State.RUNNING:
        return  # it was called off, or another worker has ended it meanwhile
    if solved.cancelled:
        run.state = PlanRun.State.CANCELLED
    else:
        run.state, run.body = PlanRun.State.READY, body
    run.ended_at = timezone.now()
    run.save(update_fields=["state", "body", "ended_at"])


def _close(id: str, state: str) -> None:
    PlanRun.objects.filter(pk=id, state__in=PlanRun.OPEN).update(state=state, ended_at=timezone.now())
