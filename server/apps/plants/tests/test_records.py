"""What the database itself holds, and what the projections owe to the entries."""

from __future__ import annotations

import datetime
import io
import random

from django.core.management import call_command
from django.db import DatabaseError, transaction
from django.test import TestCase

from apps.organisations.permissions import may_see
from apps.plants.inventory import inventory_page
from apps.plants.models import Current, Entry, Plant, PlantSpan, Visit
from apps.plants.selectors import current_visible_to, plants_visible_to
from apps.plants.services.refresh_current import refresh_current
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.plants.tree_files import tree_files


class HeldByTheDatabase(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.plant = a_plant(cls.at)

    def refused(self, change: object) -> None:
        with self.assertRaises(DatabaseError), transaction.atomic():
            change()  # type: ignore[operator]

    def test_records_are_never_changed_or_deleted(self) -> None:
        self.refused(lambda: Entry.objects.update(reason="rewritten"))
        self.refused(lambda: Entry.objects.update(body={}))
        self.refused(lambda: Visit.objects.update(author=self.at.owner))
        self.refused(lambda: Entry.objects.all().delete())

    def test_child_and_parent_belong_to_one_organisation(self) -> None:
        other = small_site("Other organisation")
        self.refused(lambda: Plant.objects.filter(pk=self.plant).update(block=other.block))
        visit = Visit.objects.get()
        self.refused(
            lambda: Visit.objects.create(
                id=visit.plant_id,
                organisation=other.organisation,
                plant_id=self.plant,
                local_date="2026-01-01",
                observed_at=visit.observed_at,
            )
        )

    def test_query_filter_and_object_check_agree(self) -> None:
        other = small_site("Other organisation")
        a_plant(other)
        for member in (self.at.viewer, other.owner):
            seen = set(plants_visible_to(member))
            for plant in Plant.objects.all():
                self.assertEqual(plant in seen, may_see(member, plant))


class Projections(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_current_is_the_newest_by_date_not_by_arrival(self) -> None:
        plant = a_plant(self.at, dbh(34), entry("condition", word="good"), on="2026-05-01")
        send(
            signed_in(self.at.surveyor),
            visit_item(plant, dbh(30), entry("tag", number="0117"), on="2020-05-01"),
        )
        current = Current.objects.get(plant=plant)
        self.assertEqual(
            (current.dbh_cm, current.tag, current.visits, current.last_seen),
            (34, "0117", 2, datetime.date(2026, 5, 1)),
        )

    def test_as_it_stood_on_any_day(self) -> None:
        plant = a_plant(self.at, dbh(30), on="2020-05-01")
        send(
            signed_in(self.at.surveyor),
            visit_item(plant, dbh(33), entry("life", state="standing_dead"), on="2024-05-01"),
        )
        rows = list(
            PlantSpan.objects.filter(plant=plant)
            .order_by("from_day")
            .values_list("from_day", "to_day", "dbh_cm", "life")
        )
        self.assertEqual(
            rows,
            [
                (datetime.date(2020, 5, 1), datetime.date(2024, 5, 1), 30, "alive"),
                (datetime.date(2024, 5, 1), None, 33, "standing_dead"),
            ],
        )

    def test_kept_projection_equals_a_rebuild_after_random_histories(self) -> None:
        rng = random.Random(5)
        client = signed_in(self.at.surveyor)
        for _ in range(6):
            plant = a_plant(self.at, dbh(rng.randint(10, 60)))
            made: list[dict[str, object]] = []
            for _ in range(6):
                act = rng.choice(("visit", "correct", "retract")) if made else "visit"
                if act == "visit":
                    made.append(dbh(rng.randint(10, 60)))
                    send(client, visit_item(plant, made[-1], on=f"20{rng.randint(18, 25)}-06-01"))
                elif act == "correct":
                    send(
                        client,
                        correction_item(
                            "measurement",
                            replaces=rng.choice(made)["id"],
                            quantity="dbh_cm",
                            raw={"value": rng.randint(10, 60)},
                            method="taped",
                        ),
                    )
                else:
                    send(client, correction_item("measurement", retracts=rng.choice(made)["id"]))
        kept = {c.plant_id: (c.dbh_cm, c.visits, c.contested) for c in Current.objects.all()}
        for plant_id, file in tree_files(kept):
            values = file.now
            self.assertEqual(kept[plant_id], (values["dbh_cm"], values["visits"], values["contested"]))
        refresh_current(kept)
        self.assertEqual(kept, {c.plant_id: (c.dbh_cm, c.visits, c.contested) for c in Current.objects.all()})

    def test_a_tag_carried_twice_is_shown_on_both_until_one_is_changed(self) -> None:
        number = entry("tag", number="0117")
        plants = [a_plant(self.at, number), a_plant(self.at, entry("tag", number="0117"))]
        self.assertEqual(Current.objects.filter(plant__in=plants, tag_clash=True).count(), 2)
        send(signed_in(self.at.surveyor), correction_item("tag", replaces=number["id"], number="0118"))
        self.assertEqual(Current.objects.filter(plant__in=plants, tag_clash=True).count(), 0)

    def test_a_rebuild_mends_clashes_that_are_flagged_wrongly(self) -> None:
        for _ in range(2):
            a_plant(self.at, entry("tag", number="0117"))
        Current.objects.update(tag_clash=False)
        call_command("rebuild_current", stdout=io.StringIO())
        self.assertEqual(Current.objects.filter(tag="0117", tag_clash=True).count(), 2)

    def test_a_name_the_flora_does_not_hold_is_kept_as_entered_and_a_synonym_resolves(self) -> None:
        for entered, taxon, name in (
            ("Picea sitchensis", "", "Picea sitchensis"),
            ("Negundo aceroides", "acer-negundo", "Acer negundo"),
        ):
            plant = a_plant(self.at, entry("determination", entered=entered))
            current = Current.objects.get(plant=plant)
            self.assertEqual((current.taxon, current.name), (taxon, name))


class Inventory(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        client = signed_in(cls.at.surveyor)
        for i in range(23):
            plant = plant_item(cls.at.block)
            entries = [] if i % 5 == 0 else [dbh(10 + i % 4)]
            tags = [] if i in (3, 21) else [entry("tag", number=f"{i:04d}")]
            send(client, plant, visit_item(plant["id"], *tags, *entries, entry("note", text="seen")))

    def test_pages_by_key_hold_every_row_once_in_order_with_empty_values_last(self) -> None:
        for sort in ("dbh_cm", "-dbh_cm", "tag", "-tag", "-last_seen"):
            rows, cursor, seen = current_visible_to(self.at.viewer), None, []
            while True:
                page, cursor = inventory_page(rows, sort, cursor, size=4)
                seen += page
                if cursor is None:
                    break
            self.assertEqual(len({r.plant_id for r in seen}), 23)
            values = [getattr(r, sort.removeprefix("-")) for r in seen]
            known = [v for v in values if v not in (None, "")]
            self.assertEqual(known, sorted(known, reverse=sort.startswith("-")))
            self.assertEqual(values[: len(known)], known)

    def test_filters_and_bad_filters(self) -> None:
        client = signed_in(self.at.viewer)
        self.assertEqual(client.get("/api/inventory/?words=001").json()["count"], 10)
        self.assertEqual(client.get("/api/inventory/?dbh_from=12").json()["count"], 9)
        for query in ("dbh_from=wide", "sort=colour", "cursor=abc", "block=17"):
            answer = client.get(f"/api/inventory/?{query}")
            self.assertEqual(answer.status_code, 400, query)
            self.assertIn(query.split("=")[0], answer.json()["message"])
