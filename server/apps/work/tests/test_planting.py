"""Planting on a site: vacant places, shares, survival, by the files of its trees."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from apps.plants.tests.factories import (
    a_plant,
    entry,
    new_id,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.work.tests.test_work import TODAY, named


class OfASite(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def told(self, status: int = 200, **query: str) -> Any:
        path = f"/api/sites/{self.at.site.id}/work/planting/"
        answer = signed_in(self.at.viewer).get(path, {"on": TODAY, **query})
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def test_an_empty_site(self) -> None:
        found = self.told()
        self.assertEqual((found["trees"], found["vacant"], found["over"], found["survival"]), (0, [], [], []))
        self.assertEqual(found["season"], ["2026-09-01", "2026-11-30"])

    def test_a_vacant_place_is_listed_until_it_is_filled_and_counts_as_no_tree(self) -> None:
        place = plant_item(self.at.block, form="vacant")
        send(signed_in(self.at.surveyor), place)
        [row] = self.told()["vacant"]
        self.assertEqual((row["plant"], self.told()["trees"]), (place["id"], 0))
        send(signed_in(self.at.surveyor), visit_item(place["id"], entry("life", state="removed")))
        self.assertEqual(self.told()["vacant"], [])

    def test_shares_survival_and_one_more(self) -> None:
        planted = entry("planting", planted_on="2024-03-10")
        for i, (taxon, life) in enumerate(
            [("acer-rubrum", "alive"), ("acer-rubrum", "standing_dead"), ("quercus-alba", "alive")]
        ):
            a_plant(
                self.at,
                named(taxon),
                entry("life", state=life),
                planted | {"id": new_id()},
                lon=-79.3 + i / 1e4,
            )
        found = self.told(taxon="acer-rubrum")
        self.assertEqual((found["trees"], found["few"]), (2, True), "the dead one stands, and counts no more")
        self.assertEqual({s["name"] for s in found["exceeds"]}, {"Acer rubrum", "Acer", "Sapindaceae"})
        self.assertEqual(
            [(s["name"], s["planted"], s["alive"]) for s in found["survival"]],
            [("Acer rubrum", 2, 1), ("Quercus alba", 1, 1)],
        )
        self.assertEqual(self.told(400, taxon="acer-nonsense")["field"], "taxon")
