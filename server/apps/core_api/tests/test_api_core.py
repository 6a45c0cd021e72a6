"""Naming over HTTP is the command line's contract, word for word."""

import json
from uuid import uuid4
from xml.etree import ElementTree

from django.test import Client, TestCase

from apps.plants.tests.factories import a_plant, entry, signed_in, small_site
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import name_plant

CASE = {
    "on": "2026-10-20",
    "areas": ["PEN"],
    "observations": [{"character": "leaf.arrangement", "state": "opposite"}],
}


class NamingOverHttp(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def setUp(self) -> None:
        self.api = signed_in(self.at.viewer)

    def test_the_same_json_as_the_core(self) -> None:
        expected = json.loads(json.dumps(name_plant(CASE, shipped_flora())))
        self.assertEqual(self.api.post("/api/core/name/", CASE).json(), expected)
        self.assertEqual(self.api.post("/api/core/name/", [CASE, CASE]).json(), [expected, expected])

    def test_the_ranking_alone_is_the_same_ranking(self) -> None:
        whole, ranking = (
            self.api.post(f"/api/core/name/?look_ahead={w}", CASE).json() for w in ("yes", "no")
        )
        self.assertEqual(
            (ranking.pop("next_looks"), ranking.pop("withheld"), ranking.pop("live_pruned")), ([], [], 0.0)
        )
        self.assertEqual(
            ranking, {k: v for k, v in whole.items() if k not in ("next_looks", "withheld", "live_pruned")}
        )
        self.assertTrue(whole["next_looks"])
        self.assertEqual(self.api.post("/api/core/name/?look_ahead=maybe", CASE).status_code, 400)

    def test_a_name_that_is_known_is_told_what_it_is_taken_for(self) -> None:
        bare = {**CASE, "observations": []}
        rivals = self.api.post(
            "/api/core/not-separated-from/", {"case": bare, "taxon": "acer-saccharum"}
        ).json()
        alike = {p["taxon"]: p["by"] for p in shipped_flora().taxa["acer-saccharum"]["look_alikes"]}
        self.assertEqual({r["taxon"] for r in rivals}, set(alike))
        self.assertTrue(all(r["looks"] for r in rivals))
        looked = {
            **bare,
            "observations": [{"character": "sap.kind", "state": "watery", "certainty": "sure"}],
        }  # Norway maple's is milky
        left = self.api.post(
            "/api/core/not-separated-from/", {"case": looked, "taxon": "acer-saccharum"}
        ).json()
        self.assertIn("sap.kind", alike["acer-platanoides"])
        self.assertNotIn("sap.kind", next((r["looks"] for r in left if r["taxon"] == "acer-platanoides"), []))
        self.assertEqual(
            self.api.post("/api/core/not-separated-from/", {"case": bare, "taxon": "quercus"}).json(), []
        )
        self.assertEqual(
            self.api.post("/api/core/not-separated-from/", {"case": bare, "taxon": "nobody"}).status_code, 400
        )

    def test_the_list_the_ring_and_the_month_of_the_site(self) -> None:
        a_plant(self.at, entry("determination", entered="Acer rubrum", taxon="acer-rubrum"))
        rows = self.api.get(f"/api/core/species/?on=2026-07-01&block={self.at.block.id}").json()
        self.assertEqual(len(rows), len(shipped_flora().leaves))
        maple = next(r for r in rows if r["taxon"] == "acer-rubrum")
        self.assertEqual(
            (maple["plants"], maple["form"], "leaf" in maple["shows"], "flower" in maple["shows"]),
            (1, "tree", True, False),
        )
        ring = self.api.get("/api/core/species/acer-rubrum/season/?on=2026-07-01").json()
        leaf = next(r for r in ring if r["organ"] == "leaf")
        self.assertEqual(
            (leaf["year"][13], leaf["year"][0]), (1.0, 0.0)
        )  # in leaf in mid-July, bare on New Year
        sheet = self.api.get(f"/api/blocks/{self.at.block.id}/month-sheet/?on=2026-01-09").json()
        self.assertEqual(
            [(r["taxon"], r["stems"], r["shows"]) for r in sheet],
            [("acer-rubrum", 1, ["bare: twig, bud and bark"])],
        )
        self.assertTrue(any(t["by"] for t in sheet[0]["told"]))

    def test_a_bad_case_is_400_with_place_value_and_allowed(self) -> None:
        for change, field in (
            ({"areas": ["XXX"]}, "areas[0]"),
            ({"on": "tomorrow"}, "on"),
            ({"observations": 3}, "observations"),
            ({"extra": 1}, "extra"),
        ):
            answer = self.api.post("/api/core/name/", {**CASE, **change})
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
            self.assertTrue(answer.json()["allowed"])
        self.assertEqual(
            self.api.post("/api/core/name/", "{", content_type="application/json").status_code, 400
        )

    def test_vocabulary_names_and_season(self) -> None:
        words = self.api.get("/api/core/vocabulary/").json()
        self.assertEqual([c["id"] for c in words["characters"]], list(shipped_flora().characters))
        self.assertEqual([t["id"] for t in words["taxa"]], list(shipped_flora().taxa))
        self.assertEqual(self.api.get("/api/core/names/?words=box-elder").json()[0]["taxon"], "acer-negundo")
        season = f"/api/blocks/{self.at.block.id}/season/"
        self.assertEqual(len(self.api.get(season + "?on=2026-11-20").json()), 6)
        self.assertEqual(self.api.get(season + "?on=yesterday").json()["field"], "on")

    def test_tiles_plates_and_portraits_are_drawn_and_bad_words_refused(self) -> None:
        drawn = self.api.get("/api/core/drawings/").json()["drawings"]
        self.assertEqual(
            set(drawn["leaf.arrangement"]), set(shipped_flora().characters["leaf.arrangement"]["states"])
        )
        plate = "/api/core/plates/acer-rubrum/leaf/"
        answer = self.api.get(plate + "?on=2026-07-10")
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertEqual(ElementTree.fromstring(answer.content).tag, "{http://www.w3.org/2000/svg}svg")
        self.assertNotEqual(answer.content, self.api.get(plate + "?on=2026-10-25").content)  # autumn colour
        told = self.api.get("/api/core/species/acer-rubrum/").json()
        self.assertEqual((told["name"], told["line"][0]), ("Acer rubrum", "Sapindaceae"))
        for wrong, field in (
            (plate, "on"),
            (plate + "?on=2026-07-10&stage=old", "stage"),
            ("/api/core/plates/acer-rubrum/root/?on=2026-07-10", "part"),
            ("/api/core/species/acer/", "taxon"),
            ("/api/core/side-by-side/?taxa=acer-rubrum&on=2026-07-10", "taxa"),
            ("/api/core/side-by-side/?taxa=acer-rubrum,acer-saccharum&on=2026-07-10&block=mine", "block"),
            ("/api/core/side-by-side/?taxa=acer-rubrum,acer-nowhere&on=2026-07-10", "taxa"),
        ):
            answer = self.api.get(wrong)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
        self.assertEqual(Client().get(plate + "?on=2026-07-10").status_code, 401)

    def test_side_by_side_puts_first_what_can_be_seen(self) -> None:
        ashes = "/api/core/side-by-side/?taxa=fraxinus-americana,fraxinus-pennsylvanica&on="
        where = {row["character"]: row["where"] for row in self.api.get(ashes + "2026-01-20").json()["rows"]}
        self.assertEqual(where["twig.leaf_scar_top"], "plant")
        self.assertIn(where.get("leaf.underside", "ground"), ("ground", "later"))
        there = self.api.get(f"{ashes}2026-05-05&block={self.at.block.id}")
        self.assertEqual(
            (there.status_code, self.api.get(f"{ashes}2026-05-05&block={uuid4()}").status_code), (200, 404)
        )
        self.assertTrue(
            all(w != "later" or c.startswith(("leaf", "flower", "fruit", "sap")) for c, w in where.items()),
            where,
        )
