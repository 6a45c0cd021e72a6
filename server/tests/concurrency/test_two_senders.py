"""Two devices, or two tabs, at the same moment."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import Any

from django.db import connections
from django.test import TransactionTestCase

from apps.plants.models import Change, Current, Entry, Plant
from apps.plants.tests.factories import a_plant, dbh, plant_item, send, signed_in, small_site, visit_item
from tests.emptied import EmptiedAfterwards


class TwoSenders(EmptiedAfterwards, TransactionTestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def at_once(self, *acts: Callable[[], Any]) -> list[Any]:
        start = Barrier(len(acts))

        def run(act: Callable[[], Any]) -> Any:
            start.wait()
            try:
                return act()
            finally:
                connections.close_all()

        with ThreadPoolExecutor(len(acts)) as pool:
            return list(pool.map(run, acts))

    def test_the_same_item_from_two_tabs_is_stored_once(self) -> None:
        item = plant_item(self.at.block)
        answers = self.at_once(*[lambda: send(signed_in(self.at.surveyor), item)[0]["answer"]] * 4)
        self.assertEqual(sorted(answers), ["accepted", "already", "already", "already"])
        self.assertEqual(Plant.objects.count(), 1)

    def test_visits_to_one_stem_at_once_leave_a_true_projection_and_numbers_without_gaps(self) -> None:
        plant = a_plant(self.at, dbh(10), on="2020-01-01")
        sizes = [20, 30, 40, 50]
        self.at_once(
            *[
                lambda i=i: send(
                    signed_in(self.at.surveyor), visit_item(plant, dbh(sizes[i]), on=f"202{i + 1}-01-01")
                )
                for i in range(4)
            ]
        )
        self.assertEqual(Entry.objects.filter(plant=plant).count(), 5)
        self.assertEqual(Current.objects.get(plant=plant).dbh_cm, 50)
        numbers = list(Change.objects.order_by("number").values_list("number", flat=True))
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
