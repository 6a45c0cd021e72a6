"""Naming over HTTP is the command line's contract, word for word."""

import json

from django.test import TestCase

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
