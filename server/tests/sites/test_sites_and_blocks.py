"""Sites and blocks: made and changed by stewards, each field with its limits, nothing half-made."""

from __future__ import annotations

import io
import os
from typing import Any
from unittest.mock import patch

from django.core.management import call_command
from django.core.management.base import CommandError
from django.test import TestCase

from apps.organisations.models import AuditEvent, Organisation
from apps.plants.models import Plant
from apps.plants.tests.factories import a_plant, signed_in, small_site
from apps.sites.models import Block, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.vocabulary import vocabulary

SITE: dict[str, Any] = {
    "name": "Saltmarrow",
    "lat": -37.8,
    "lon": 145.0,
    "elevation_m": 31,
    "areas": ["VIC"],
    "hardiness_zone": "9b",
    "conventions": {"region": "au", "breast_height_m": 1.4, "protection": "as4970"},
}
RING = [[-79.3, 40.5], [-79.299, 40.5], [-79.299, 40.501], [-79.3, 40.5]]
HOLE = [[-79.2993, 40.5002], [-79.2992, 40.5002], [-79.2992, 40.5003], [-79.2993, 40.5002]]


def polygon(*rings: list[list[float]]) -> dict[str, Any]:
    return {"type": "Polygon", "coordinates": list(rings)}


class Sites(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_a_site_is_made_with_its_conventions_in_one_go(self) -> None:
        steward = signed_in(self.at.steward)
        answer = steward.post("/api/sites/", SITE)
        self.assertEqual(answer.status_code, 201, answer.content)
        made = answer.json()
        self.assertEqual(
            {
                k: made[k]
                for k in ("name", "lat", "lon", "areas", "hardiness_zone", "region", "breast_height_m")
            },
            {k: SITE[k] for k in ("name", "lat", "lon", "areas", "hardiness_zone")}
            | {"region": "au", "breast_height_m": 1.4},
        )
        self.assertEqual(made["units"], "metric", "what is not given has the usual value")
        self.assertEqual(made["time_zone"], "Australia/Melbourne", "by its place")
        url = f"/api/sites/{made['id']}/"
        moved = steward.patch(url, {"lat": 51.5, "lon": -0.5}).json()
        self.assertEqual(moved["time_zone"], "Europe/London", "it goes with the place")
        self.assertIn(made["id"], [s["id"] for s in steward.get("/api/sites/").json()])
        self.assertEqual(AuditEvent.objects.get(act="site_made").actor, self.at.steward)

    def test_what_cannot_be_is_refused_with_its_field_and_nothing_is_made(self) -> None:
        steward, before = signed_in(self.at.steward), Site.objects.count()
        for spoilt, field in (
            ({"name": ""}, "name"),
            ({"name": self.at.site.name}, "name"),
            ({"lat": 95}, "lat"),
            ({"lon": "west"}, "lon"),
            ({"areas": []}, "areas"),
            ({"areas": ["XXX"]}, "areas[0]"),
            ({"areas": ["VIC"] * 6}, "areas"),
            ({"hardiness_zone": "14a"}, "hardiness_zone"),
            ({"elevation_m": 9000}, "elevation_m"),
            ({"conventions": {"breast_height_m": 2}}, "conventions.breast_height_m"),
            ({"colour": "green"}, "colour"),
        ):
            answer = steward.post("/api/sites/", SITE | spoilt)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), answer.content)
        for needed in ("name", "lat", "lon", "areas"):
            answer = steward.post("/api/sites/", {k: v for k, v in SITE.items() if k != needed})
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, needed))
        self.assertEqual(Site.objects.count(), before)

    def test_a_change_leaves_what_it_does_not_name(self) -> None:
        steward = signed_in(self.at.steward)
        made = steward.post("/api/sites/", SITE).json()
        address = f"/api/sites/{made['id']}/"
        changed = steward.patch(
            address, {"hardiness_zone": "10a", "conventions": {"units": "us_customary"}}
        ).json()
        self.assertEqual(changed, made | {"hardiness_zone": "10a", "units": "us_customary"})
        self.assertEqual(steward.patch(address, {"name": self.at.site.name}).json()["field"], "name")
        for nothing in ([], "x", None):
            self.assertEqual(steward.patch(address, nothing).status_code, 400)
        self.assertEqual(Site.objects.get(pk=made["id"]).name, "Saltmarrow")

    def test_every_area_can_be_chosen_by_a_name(self) -> None:
        offered = {a["id"]: a["label"] for a in vocabulary(shipped_flora())["areas"]}
        self.assertEqual(set(offered), set(shipped_flora().areas))
        self.assertEqual(len(set(offered.values())), len(offered), "two areas of one name")
        # Brummitt (2001), World Geographical Scheme for Recording Plant Distributions, edition 2
        for code, name in (("PEN", "Pennsylvania"), ("GRB", "Great Britain"), ("NSW", "New South Wales")):
            self.assertEqual(offered[code], name)


class Blocks(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def make(self, **given: Any) -> Any:
        body = {"name": "Lawn", "boundary": polygon(RING)} | given
        return signed_in(self.at.steward).post(f"/api/sites/{self.at.site.id}/blocks/", body)

    def test_a_block_keeps_its_clearings(self) -> None:
        answer = self.make(boundary=polygon(RING, HOLE), biosecurity="suspect", note="Boots at the gate.")
        self.assertEqual(answer.status_code, 201, answer.content)
        self.assertEqual(answer.json()["boundary"]["coordinates"], [RING, HOLE])
        self.assertEqual((answer.json()["biosecurity"], answer.json()["plant_count"]), ("suspect", 0))

    def test_what_cannot_be_is_refused_with_its_field(self) -> None:
        for spoilt, field in (
            ({"name": " "}, "name"),
            ({"name": "Block"}, "name"),
            ({"boundary": polygon(RING[:3])}, "boundary.coordinates"),
            ({"boundary": polygon()}, "boundary.coordinates"),
            ({"boundary": polygon([[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]])}, "boundary"),
            ({"setting": "moon"}, "setting"),
            ({"biosecurity": "fine"}, "biosecurity"),
            ({"note": "x" * 301}, "note"),
        ):
            answer = self.make(**spoilt)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), answer.content)
        self.assertEqual(Block.objects.count(), 1)

    def test_a_new_boundary_leaves_its_plants_and_a_new_name_its_boundary(self) -> None:
        plant = a_plant(self.at)
        steward, address = signed_in(self.at.steward), f"/api/blocks/{self.at.block.id}/"
        before = steward.get(address).json()
        renamed = steward.patch(address, {"name": "Lower lawn"}).json()
        self.assertEqual(renamed, before | {"name": "Lower lawn"})
        moved = steward.patch(address, {"boundary": polygon([[x + 1, y] for x, y in RING])}).json()
        self.assertEqual((moved["name"], moved["plant_count"]), ("Lower lawn", 1))
        self.assertEqual(Plant.objects.get(pk=plant).block_id, self.at.block.id)


class OnTheMachine(TestCase):
    def make(self, *arguments: str) -> str:
        out = io.StringIO()
        with patch.dict(os.environ, {"JUBARK_PASSWORD": "a long enough password"}):
            call_command("create_organisation", "Hill Trust", "ada", *arguments, stdout=out)
        return out.getvalue()

    def test_organisation_owner_and_first_site_by_one_command(self) -> None:
        place = ("--site", "Hill", "--at", "51.4", "-2.4", "--areas", "GRB", "--zone", "8b", "--region", "uk")
        self.assertIn("Its first site is Hill", self.make(*place))
        site = Site.objects.get()
        self.assertEqual(
            (site.lat, site.lon, site.areas, site.hardiness_zone, site.region),
            (51.4, -2.4, ["GRB"], "8b", "uk"),
        )

    def test_a_site_that_cannot_be_makes_no_organisation_either(self) -> None:
        for place in (("--site", "Hill"), ("--site", "Hill", "--at", "95", "0", "--areas", "GRB")):
            with self.assertRaises(CommandError):
                self.make(*place)
        self.assertFalse(Organisation.objects.exists())
