"""Naming over HTTP is the command line's contract, word for word."""

import json
from uuid import uuid4
from xml.etree import ElementTree

from django.test import Client, TestCase

from apps.stems.tests.factories import signed_in, small_ground
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import name_plant

CASE = {"on": "2026-10-20", "areas": ["PEN"], "observations": [{"character": "leaf.arrangement", "state": "opposite"}]}


class NamingOverHttp(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_ground()

    def setUp(self) -> None:
        self.api = signed_in(self.at.viewer)

    def test_the_same_json_as_the_core(self) -> None:
        expected = json.loads(json.dumps(name_plant(CASE, shipped_flora())))
        self.assertEqual(self.api.post("/api/naming/name/", CASE).json(), expected)
        self.assertEqual(self.api.post("/api/naming/name/", [CASE, CASE]).json(), [expected, expected])

    def test_a_bad_case_is_400_with_place_value_and_allowed(self) -> None:
        for change, field in (
            ({"areas": ["XXX"]}, "areas[0]"),
            ({"on": "tomorrow"}, "on"),
            ({"observations": 3}, "observations"),
            ({"extra": 1}, "extra"),
        ):
            answer = self.api.post("/api/naming/name/", {**CASE, **change})
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
            self.assertTrue(answer.json()["allowed"])
        self.assertEqual(self.api.post("/api/naming/name/", "{", content_type="application/json").status_code, 400)

    def test_vocabulary_names_and_season(self) -> None:
        words = self.api.get("/api/naming/vocabulary/").json()
        self.assertGreater(len(words["characters"]), 150)
        self.assertEqual(self.api.get("/api/naming/names/?words=box-elder").json()[0]["taxon"], "acer-negundo")
        season = f"/api/blocks/{self.at.block.id}/season/"
        self.assertEqual(len(self.api.get(season + "?on=2026-11-20").json()), 6)
        self.assertEqual(self.api.get(season + "?on=yesterday").json()["field"], "on")

    def test_tiles_plates_and_portraits_are_drawn_and_bad_words_refused(self) -> None:
        drawn = self.api.get("/api/naming/drawings/").json()["drawings"]
        self.assertEqual(set(drawn["leaf.arrangement"]), set(shipped_flora().characters["leaf.arrangement"]["states"]))
        plate = "/api/naming/plates/acer-rubrum/leaf/"
        answer = self.api.get(plate + "?on=2026-07-10")
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertEqual(ElementTree.fromstring(answer.content).tag, "{http://www.w3.org/2000/svg}svg")
        self.assertNotEqual(answer.content, self.api.get(plate + "?on=2026-10-25").content)  # autumn colour
        told = self.api.get("/api/naming/portraits/acer-rubrum/").json()
        self.assertEqual((told["name"], told["line"][0]), ("Acer rubrum", "Sapindaceae"))
        for wrong, field in (
            (plate, "on"),
            (plate + "?on=2026-07-10&stage=old", "stage"),
            ("/api/naming/plates/acer-rubrum/root/?on=2026-07-10", "part"),
            ("/api/naming/portraits/acer/", "taxon"),
            ("/api/naming/side-by-side/?taxa=acer-rubrum&on=2026-07-10", "taxa"),
            ("/api/naming/side-by-side/?taxa=acer-rubrum,acer-saccharum&on=2026-07-10&block=mine", "block"),
            ("/api/naming/side-by-side/?taxa=acer-rubrum,acer-nowhere&on=2026-07-10", "taxa"),
        ):
            answer = self.api.get(wrong)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
        self.assertEqual(Client().get(plate + "?on=2026-07-10").status_code, 401)

    def test_side_by_side_puts_first_what_can_be_seen(self) -> None:
        ashes = "/api/naming/side-by-side/?taxa=fraxinus-americana,fraxinus-pennsylvanica&on="
        where = {row["character"]: row["where"] for row in self.api.get(ashes + "2026-01-20").json()["rows"]}
        self.assertEqual(where["twig.leaf_scar_top"], "plant")
        self.assertIn(where.get("leaf.underside", "ground"), ("ground", "later"))
        there = self.api.get(f"{ashes}2026-05-05&block={self.at.block.id}")
        self.assertEqual((there.status_code, self.api.get(f"{ashes}2026-05-05&block={uuid4()}").status_code), (200, 404))
        self.assertTrue(all(w != "later" or c.startswith(("leaf", "flower", "fruit", "sap")) for c, w in where.items()), where)
