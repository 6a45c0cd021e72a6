"""The generated site is what the services would have made of the same entries."""

from django.test import TestCase

from apps.demo.large_site import STEMS_A_BLOCK, make_large_site
from apps.plants.models import Current, Entry, Plant, PlantSpan, Visit
from apps.plants.services.refresh_current import refresh_current
from apps.plants.stored import visit_record
from apps.sites.models import Block
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import record_visit
from jubark_core.records.fields import write


class LargeSite(TestCase):
    def test_its_projections_are_those_of_a_rebuild(self) -> None:
        make_large_site(60)
        self.assertEqual((Plant.objects.count(), Visit.objects.count()), (60, 180))
        shown = [[f.name for f in m._meta.concrete_fields if f.name != "id"] for m in (Current, PlantSpan)]
        order = (("plant",), ("plant", "from_day"))

        def rows() -> list[list[tuple[object, ...]]]:
            models = zip((Current, PlantSpan), shown, order, strict=True)
            return [list(m._default_manager.order_by(*by).values_list(*names)) for m, names, by in models]

        before = rows()
        refresh_current(Plant.objects.values_list("id", flat=True))
        self.assertEqual(rows(), before)

    def test_its_entries_are_what_the_core_writes(self) -> None:
        make_large_site(40)
        flora = shipped_flora()
        for visit in Visit.objects.filter(plant__in=Plant.objects.all()[:3]):
            written = write(visit_record(visit, Entry.objects.filter(visit=visit)))
            self.assertEqual(write(record_visit(written, flora)), written)

    def test_a_block_holds_five_thousand_and_the_last_one_the_rest(self) -> None:
        make_large_site(STEMS_A_BLOCK + 1)
        self.assertEqual(sorted(b.plants.count() for b in Block.objects.all()), [1, STEMS_A_BLOCK])
