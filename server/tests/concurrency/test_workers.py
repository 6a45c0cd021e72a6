"""Plans through the queue: a worker makes them, and what a worker that died has left is taken up again."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.test import TransactionTestCase
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.organisations.models import AuditEvent
from apps.plants.tests.factories import a_plant, entry, new_id, send, signed_in, small_site, visit_item
from apps.work.models import PlanRun
from apps.work.tasks import retry_stalled_jobs
from apps.work.tests.test_work import named
from apps.work.tests.test_year import CREW, DEAD_LIMB
from tests.emptied import EmptiedAfterwards
from tests.job_queue import empty_queue, run_as_worker, work_off_queue

ON = "2026-11-10"


class Workers(EmptiedAfterwards, TransactionTestCase):
    def setUp(self) -> None:
        self.addCleanup(empty_queue)
        empty_queue()
        self.at = small_site()
        self.client_of_steward = signed_in(self.at.steward)
        self.path = f"/api/sites/{self.at.site.id}/work/"
        self.client_of_steward.put(self.path + "settings/", {"crews": [CREW]}, format="json")
        oak = a_plant(self.at, named("quercus-alba"), entry("defect", **DEAD_LIMB))
        step = entry("work", job=new_id(), rule="R06", step="accepted")
        send(self.client_of_steward, visit_item(oak, step, on=ON, mode="desk"))

    def ask(self) -> str:
        answer = self.client_of_steward.post(self.path + "plan/", {"on": ON}, format="json")
        self.assertEqual(answer.status_code, 202, answer.content)
        return str(answer.json()["id"])

    def told(self) -> Any:
        return self.client_of_steward.get(self.path + "plan/").json()

    def test_a_worker_makes_the_plan_that_was_asked_for(self) -> None:
        self.ask()
        self.assertEqual(self.told()["run"]["state"], "waiting")
        work_off_queue()
        told = self.told()
        self.assertEqual((told["run"]["state"], len(told["plan"]["jobs"])), ("ready", 1))
        self.assertIsNotNone(told["run"]["planned"], "its progress was written")

    def test_what_a_dead_worker_left_is_taken_up_again_and_nothing_is_half_done(self) -> None:
        run = self.ask()
        # as kill -9 leaves it: the job is being done by nobody, the run has begun
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing'")
        PlanRun.objects.filter(pk=run).update(state="running", attempts=1)
        work_off_queue()
        self.assertEqual((self.told()["run"]["state"], self.told()["plan"]), ("running", None))
        self.assertEqual(run_as_worker(retry_stalled_jobs, timestamp=0), 1)
        work_off_queue()
        self.assertEqual(self.told()["run"]["state"], "ready")
        self.assertEqual(PlanRun.objects.get(pk=run).attempts, 2)
        self.assertEqual(run_as_worker(retry_stalled_jobs, timestamp=0), 0, "and not again")

    def test_a_plan_whose_asking_is_rolled_back_is_in_no_queue(self) -> None:
        events = AuditEvent.objects.filter(act="plan_asked").count()
        self.ask()
        self.assertEqual(
            self.client_of_steward.post(self.path + "plan/", {"on": ON}, format="json").status_code, 400
        )
        plans = ProcrastinateJob.objects.filter(task_name__endswith="plan_the_year").count()
        self.assertEqual((plans, AuditEvent.objects.filter(act="plan_asked").count() - events), (1, 1))
