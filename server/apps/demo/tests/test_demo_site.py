"""The demonstration sites are what the job describes: about 420 stems, six years, every story in them."""

import datetime

from django.test import TestCase, tag

from apps.demo.make import make_demo
from apps.plants.models import Current, Entry, Plant, Visit
from apps.plants.stored import body_of
from apps.work.models import PlanRun

TODAY = datetime.date(2026, 11, 20)


@tag("slow")
class DemoSite(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.made = make_demo(TODAY)

    def test_it_is_made_once_and_alive(self) -> None:
        self.assertTrue(self.made)
        self.assertFalse(make_demo(TODAY))
        fold = Plant.objects.filter(block__site__name="Brindle Fold")
        self.assertEqual(
            (fold.filter(form="tree").count(), Plant.objects.filter(form="group").count()), (450, 3)
        )
        dates = Visit.objects.order_by("local_date")
        self.assertEqual(dates.first().local_date.year, 2020)
        self.assertLessEqual(dates.last().local_date, TODAY)

    def test_its_stories_are_told(self) -> None:
        avenue = Current.objects.filter(plant__row_name__startswith="Ash avenue")
        dead, alive = (avenue.filter(life=life).count() for life in ("standing_dead", "alive"))
        self.assertEqual((dead, alive), (27, 5))  # alive: the treated ones and the blue ash
        self.assertEqual(avenue.get(name="Fraxinus quadrangulata").life, "alive")
        corrected = Entry.objects.get(kind="determination", replaces__isnull=False)
        self.assertEqual(body_of(corrected.replaces).name, "Acer rubrum")
        self.assertEqual(Current.objects.get(plant=corrected.plant).name, "Acer platanoides")
        self.assertTrue(
            Current.objects.filter(
                name="Fagus grandifolia", signs__contains=["bands_dark_between_veins"]
            ).exists()
        )
        self.assertTrue(Current.objects.filter(tag="", visits__gte=2).exists())  # lost tags
        steps = [e.body["step"] for e in Entry.objects.filter(kind="work")]
        counted = {step: steps.count(step) for step in set(steps)}
        accepted = counted.pop("accepted")
        self.assertEqual(counted, {"planned": 2, "started": 1, "completed": 1, "refused": 1})
        self.assertGreater(accepted, 40, "enough for a plan of the year")
        plan = PlanRun.objects.get()
        self.assertEqual(plan.state, "ready")
        self.assertEqual(
            len(plan.body["jobs"]) + len(plan.body["unplanned"]), accepted - counted["completed"]
        )
        self.assertGreater(len(plan.body["unplanned"]), 0, "the budget does not reach for all")
        self.assertEqual(Current.objects.filter(plant__form="vacant").count(), 3)
        self.assertTrue(Current.objects.filter(name_rank="genus").exists())  # unsettled names
