"""What is recorded of size and condition, by whom, and what follows from it."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from apps.plants.models import Current, Entry
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    new_id,
    recorded,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Site

RISK = {
    "rows": [
        {
            "part": "limb",
            "target": "bench",
            "failure": "probable",
            "impact": "high",
            "consequence": "severe",
            "work": "cut it",
            "failure_after": "improbable",
        }
    ],
    "years": 1,
    "level": "basic",
    "base_seen": "all_round",
    "crown_seen": "whole",
    "next_inspection": "2027-10-20",
}


class Recorded(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.plant = a_plant(
            cls.at,
            entry("determination", entered="Quercus alba", taxon="quercus-alba"),
            dbh(30.0),
            on="2024-10-20",
        )

    def setUp(self) -> None:
        self.api = signed_in(self.at.surveyor)

    def visit(self, *entries: dict[str, Any], on: str = "2026-10-20") -> dict[str, Any]:
        return send(self.api, visit_item(self.plant, *entries, on=on))[0]

    def test_whether_foliage_can_be_graded_is_known_by_kind_day_and_place(self) -> None:
        leaves = entry("condition", parts={"trunk": 4, "roots_base": 4, "twigs": 4, "foliage": 3})
        refused = self.visit(leaves, on="2026-01-20")
        self.assertEqual((refused["answer"], refused["field"]), ("refused", "condition.parts.foliage"))
        kept = entry(
            "condition", parts={"foliage": 3, "trunk": 4}, leaf_reason="kept its leaves this mild year"
        )
        self.assertEqual(self.visit(kept, on="2026-01-20")["answer"], "accepted")
        holly = entry("determination", entered="Ilex opaca", taxon="ilex-opaca")
        plant = a_plant(self.at, holly, dbh(20.0), on="2024-10-20")
        [answer] = send(self.api, visit_item(plant, {**leaves, "id": new_id()}, on="2026-01-20"))
        self.assertEqual(answer["answer"], "accepted")
        [old] = send(
            self.api, visit_item(self.plant, {**leaves, "id": new_id()}, on="2026-01-21") | {"schema": 5}
        )
        self.assertEqual(old["answer"], "accepted", "a rule younger than a record does not refuse it")

    def test_parts_graded_without_leaves_are_judged_so_though_nobody_ticked_it(self) -> None:
        parts = {"roots_base": 4, "trunk": 4, "scaffold": 4, "twigs": 4}
        self.assertEqual(self.visit(entry("condition", parts=parts), on="2026-01-20")["answer"], "accepted")
        now = Current.objects.get(pk=self.plant)
        said = (now.condition, now.condition_at_most, now.condition_in_winter)
        self.assertEqual(said, ("good", False, True))

    def test_a_word_of_winter_says_so_and_takes_no_place_of_julys(self) -> None:
        self.assertEqual(self.visit(entry("condition", word="poor"), on="2026-07-10")["answer"], "accepted")
        self.assertEqual(self.visit(entry("condition", word="good"), on="2026-12-20")["answer"], "accepted")
        now = Current.objects.get(pk=self.plant)
        self.assertEqual((now.condition, now.condition_in_winter), ("poor", False))
        self.assertEqual([c.leafless for c in recorded("condition")], [False, True])

    def test_the_whole_follows_from_the_parts_whatever_word_is_sent_along(self) -> None:
        parts = {"roots_base": 1, "trunk": 4, "scaffold": 4, "twigs": 4}
        self.assertEqual(
            self.visit(entry("condition", parts=parts, leafless=True, flare="buried"))["answer"], "accepted"
        )
        self.assertEqual(self.visit(entry("condition", parts=parts, word="good"))["answer"], "accepted")
        now = Current.objects.get(pk=self.plant)
        self.assertEqual(
            (now.condition, now.condition_at_most, now.condition_in_winter), ("poor", True, False)
        )
        first, second = recorded("condition")
        self.assertEqual((first.word, first.structure, first.flare), ("poor", 1, "buried"))
        self.assertEqual(second.word, "poor")
        for body, field in (
            ({"parts": parts, "word": "splendid"}, "word"),
            ({"parts": {"foliage": 3}, "leafless": True}, "foliage"),
            ({"parts": {"bark": 3}}, "parts"),
            ({"word": "fair", "crown_class": "tall"}, "crown_class"),
        ):
            answer = self.visit(entry("condition", **body))
            self.assertEqual(answer["answer"], "refused", body)
            self.assertIn(field, str(answer))
        self.assertEqual(len(recorded("condition")), 2)

    def test_a_winter_view_takes_no_place_of_a_word_in_leaf_within_a_year(self) -> None:
        in_leaf = {"trunk": 4, "roots_base": 4, "scaffold": 4, "twigs": 3, "foliage": 2}
        bare = {k: v for k, v in in_leaf.items() if k != "foliage"}
        for on, body, now in (
            ("2025-01-10", {"parts": bare, "leafless": True}, ("good", False, True)),
            ("2025-07-10", {"parts": in_leaf}, ("fair", False, False)),
            ("2026-01-10", {"parts": bare, "leafless": True}, ("fair", False, False)),
            ("2026-07-20", {"parts": {**bare, "trunk": "not_seen"}, "leafless": True}, ("fair", True, True)),
            ("2026-08-01", {"word": "good"}, ("good", False, False)),
            (
                "2026-09-01",
                {"parts": {**bare, "twigs": 0}, "leafless": True, "buds_seen": True},
                ("dead", False, True),
            ),
        ):
            self.assertEqual(self.visit(entry("condition", **body), on=on)["answer"], "accepted", body)
            current = Current.objects.get(pk=self.plant)
            self.assertEqual(
                (current.condition, current.condition_at_most, current.condition_in_winter), now, on
            )

    def test_what_needs_leaves_is_refused_out_of_leaf_also_by_a_correction(self) -> None:
        bare = entry("condition", word="fair", leafless=True)
        dieback = entry("measurement", quantity="dieback_pct", raw={"value": 10}, method="estimated")
        told = self.visit(bare, dieback)
        self.assertEqual((told["answer"], told["field"]), ("refused", "entries[1].measurement.quantity"))
        self.assertEqual(self.visit(entry("condition", word="fair"), dieback)["answer"], "accepted")
        [leafy] = Entry.objects.filter(kind="condition").values_list("id", flat=True)
        again = correction_item("condition", replaces=str(leafy), word="fair", leafless=True)
        told = send(self.api, again)[0]
        self.assertEqual((told["answer"], told["field"]), ("refused", "entry.condition.quantity"))

    def test_ratings_follow_from_the_matrices_whatever_the_device_sends(self) -> None:
        self.assertEqual(self.visit(entry("risk", **{**RISK, "rating": "low"}))["answer"], "accepted")
        [sheet] = recorded("risk")
        self.assertEqual((sheet.rating, sheet.residual), ("high", "low"))
        unseen = {**RISK, "crown_seen": "not_visible", "reads": "Low"}
        self.assertEqual(self.visit(entry("risk", **unseen))["answer"], "accepted")
        self.assertEqual([s.reads for s in recorded("risk")], ["High", "At least high: crown not seen"])
        for change in (
            {"years": None},
            {"level": "advanced"},
            {"rows": []},
            {"base_seen": "yes"},
            {"base_seen": True},
            {"next_inspection": None},
            {"next_inspection": "soon"},
        ):
            self.assertEqual(self.visit(entry("risk", **{**RISK, **change}))["answer"], "refused", change)

    def test_a_stem_in_an_irritant_climber_is_estimated(self) -> None:
        taped = entry(
            "measurement",
            quantity="dbh_cm",
            raw={"value": 31},
            method="taped",
            stem_form="irritant_climber",
            at_height_m=1.37,
        )
        self.assertEqual(self.visit(taped)["answer"], "refused")
        taped["body"]["method"] = "estimated"
        self.assertEqual(self.visit(taped)["answer"], "accepted")

    def test_thinner_shoots_are_counted_and_the_figure_is_of_the_rest(self) -> None:
        shoots = entry(
            "measurement",
            quantity="dbh_cm",
            raw={"diameters_cm": [15, 20, 25, 3, 2]},
            least_cm=5,
            at_height_m=1.37,
        )
        self.assertEqual(self.visit(shoots)["answer"], "accepted")
        kept = recorded("measurement", visit__local_date="2026-10-20")[-1]
        self.assertAlmostEqual(kept.value, 35.35534, places=4)  # root of the sum of squares, BS 5837:2012
        self.assertEqual((kept.stems, kept.thinner), (3, 2))

    def test_the_root_collar_and_the_buttress_never_fill_the_diameter_at_breast_height(self) -> None:
        for quantity in ("drc_cm", "buttress_cm"):
            self.assertEqual(
                self.visit(entry("measurement", quantity=quantity, raw={"value": 55}))["answer"], "accepted"
            )
        self.assertEqual(Current.objects.get(pk=self.plant).dbh_cm, 30.0)
        found = self.api.get(f"/api/plants/{self.plant}/from-size/").json()
        self.assertAlmostEqual(
            found["structural_root"]["radius_m"], 0.64 * (50 * 0.55) ** 0.42, places=6
        )  # AS 4970-2009


class Following(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.plant = a_plant(
            cls.at,
            entry("determination", entered="Quercus alba", taxon="quercus-alba"),
            dbh(29.0),
            on="2024-10-20",
        )
        send(
            signed_in(cls.at.surveyor),
            visit_item(cls.plant, dbh(30.0), entry("condition", word="fair"), on="2026-10-20"),
        )

    def from_size(self) -> dict[str, Any]:
        found: dict[str, Any] = signed_in(self.at.viewer).get(f"/api/plants/{self.plant}/from-size/").json()
        return found

    def test_zone_growth_carbon_and_change(self) -> None:
        found = self.from_size()
        self.assertAlmostEqual(found["protection"]["radius_m"], 3.6)
        self.assertAlmostEqual(found["growth"]["cm_a_year"], 0.5, delta=0.001)
        self.assertAlmostEqual(
            found["carbon"]["co2e_kg"], 965.4849, delta=1e-3
        )  # Jenkins et al. 2003, table 4
        self.assertAlmostEqual(found["basal_area_m2"], 0.07068583, delta=1e-7)
        self.assertEqual(found["changes"], ["Diameter 1.0 cm more: 29.0 then, 30.0 now."])

    def test_rings_of_a_core_tell_growth_without_a_second_visit(self) -> None:
        core = entry(
            "measurement",
            quantity="rings_per_cm",
            raw={"core": {"rings": 20, "core_cm": 5}},
            method="instrument",
        )
        send(signed_in(self.at.surveyor), visit_item(self.plant, core))
        self.assertEqual(self.from_size()["rings"], {"per_cm": 4.0, "cm_a_year": 0.5})
        bad = entry("measurement", quantity="rings_per_cm", raw={"core": {"rings": 20}}, method="instrument")
        self.assertEqual(
            send(signed_in(self.at.surveyor), visit_item(self.plant, bad))[0]["answer"], "refused"
        )

    def test_crowns_that_reach_into_each_other(self) -> None:
        spread = {"quantity": "crown_spread_m", "raw": {"value": 8}}
        send(signed_in(self.at.surveyor), visit_item(self.plant, entry("measurement", **spread)))
        self.assertEqual(self.from_size()["crown_overlaps"], [])
        a_plant(
            self.at, entry("tag", number="0009"), entry("measurement", **spread), lat=40.5 + 4 / 111_000
        )  # four metres north
        (overlap,) = self.from_size()["crown_overlaps"]
        # two circles of one size whose middles lie a radius apart: 2/3 - √3/(2π) of either lies in both
        # (plane geometry)
        self.assertEqual(overlap["tag"], "0009")
        self.assertAlmostEqual(overlap["share"], 2 / 3 - 3**0.5 / (2 * 3.14159265), delta=0.01)

    def test_another_convention_rewrites_nothing_and_is_flagged(self) -> None:
        steward = signed_in(self.at.steward)
        answer = steward.patch(
            f"/api/sites/{self.at.site.id}/conventions/",
            {"breast_height_m": 1.30, "protection": "as4970"},
        )
        self.assertEqual((answer.status_code, answer.json()["breast_height_m"]), (200, 1.3))
        self.assertEqual(Current.objects.get(pk=self.plant).dbh_cm, 30.0)
        later = entry("measurement", quantity="dbh_cm", raw={"value": 30.9}, at_height_m=1.30)
        send(signed_in(self.at.surveyor), visit_item(self.plant, later, on="2026-11-01"))
        self.assertIn("two conventions", self.from_size()["growth"]["doubt"])

    def test_conventions_are_the_steward_s_and_bad_ones_change_nothing(self) -> None:
        address = f"/api/sites/{self.at.site.id}/conventions/"
        self.assertEqual(
            signed_in(self.at.surveyor).patch(address, {"breast_height_m": 1.3}).status_code, 403
        )
        for bad in (
            {"breast_height_m": 1.25},
            {"several_stems": "guess"},
            {"smallest_cm": -1},
            {"survey_steps": ["name", "name"]},
            {"survey_steps": ["sing"]},
        ):
            answer = signed_in(self.at.steward).patch(address, bad)
            self.assertEqual(answer.status_code, 400, bad)
            self.assertIn(next(iter(bad)), str(answer.json()))
        self.assertEqual(float(Site.objects.get(pk=self.at.site.pk).breast_height_m), 1.37)

    def test_a_new_figure_is_held_against_the_last_one_and_the_neighbours(self) -> None:
        address = f"/api/plants/{self.plant}/known-figures/?on="
        known = signed_in(self.at.surveyor).get(address + "2026-11-10").json()
        self.assertEqual(known["before"]["dbh_cm"]["value"], 30.0)
        on = known["before"]["dbh_cm"]["on"]
        earlier = signed_in(self.at.surveyor).get(address + on).json()["before"]
        self.assertLess(earlier.get("dbh_cm", {"on": ""})["on"], on, "only what was there before the day")
        stranger = signed_in(small_site("Other organisation").surveyor).get(address + "2026-11-10")
        self.assertEqual(stranger.status_code, 404, "another organisation's plant is unknown")

    def test_counts_of_a_block_and_of_all(self) -> None:
        viewer = signed_in(self.at.viewer)
        everywhere = viewer.get("/api/plants/by-taxon/").json()
        here = viewer.get(f"/api/plants/by-taxon/?block={self.at.block.id}").json()
        self.assertEqual(everywhere, here)
        self.assertGreater(sum(here.values()), 0)
        other = small_site("Other organisation")
        self.assertEqual(signed_in(other.viewer).get("/api/plants/by-taxon/").json(), {})
        self.assertEqual(viewer.get(f"/api/plants/by-taxon/?block={other.block.id}").status_code, 404)


class Protected(TestCase):
    """Stems of 150, 200 and 250 mm taped at 1.30 m, the crown's edge 9 m out, by every standard: the figures
    are those of the standards (BS 5837:2012, AS 4970-2009, practice in the United States), from memory.
    """

    THREE, SIX = (15, 20, 25), (10, 12, 14, 16, 18, 20)

    def zone(self, standard: str, stems: tuple[int, ...], stage: str = "mature") -> dict[str, Any]:
        at = small_site(f"{standard} {stems} {stage}")
        Site.objects.filter(pk=at.site.pk).update(protection=standard)
        plant = a_plant(at, entry("tag", number="1"), on="2024-10-20")
        taped = {"raw": {"diameters_cm": list(stems)}, "at_height_m": 1.3, "combine": "largest_plus_half"}
        readings = (
            entry("measurement", quantity="dbh_cm", **taped),
            entry("measurement", quantity="crown_spread_m", raw={"radii_m": [5, 9, 6, 4]}),
        )
        api = signed_in(at.surveyor)
        assert send(api, visit_item(plant, *readings, stage=stage))[0]["answer"] == "accepted"
        [stored] = [m for m in recorded("measurement", plant=plant) if m.quantity == "dbh_cm"]
        self.assertEqual((stored.raw.diameters_cm, stored.at_height_m), (tuple(map(float, stems)), 1.3))
        found: dict[str, Any] = api.get(f"/api/plants/{plant}/from-size/").json()["protection"]
        return found

    def test_each_standard_by_its_own_height_and_rule(self) -> None:
        for standard, stems, combined, radius, asked in (
            ("bs5837", self.THREE, 35.36, 4.243, "1.50 m"),
            ("as4970", self.THREE, 35.36, 4.243, "1.40 m"),
            ("foot_per_inch", self.THREE, 42.5, 5.10, "1.37 m"),
            ("bs5837", self.SIX, 36.74, 4.409, "1.50 m"),
            ("as4970", self.SIX, 37.68, 4.522, "1.40 m"),
        ):
            with self.subTest(standard, stems=len(stems)):
                found = self.zone(standard, stems)
                self.assertAlmostEqual(found["dbh_cm"], combined, delta=0.006)
                self.assertAlmostEqual(found["radius_m"], radius, delta=0.0006)
                self.assertEqual(found["warnings"], [f"taken at 1.30 m, the standard asks for {asked}"])

    def test_a_veteran_by_the_edge_of_its_crown(self) -> None:
        self.assertEqual(self.zone("bs5837", self.THREE, "veteran")["radius_m"], 14.0)


class CarbonOfABlock(TestCase):
    def test_the_total_says_how_many_have_no_figure(self) -> None:
        at = small_site()
        topped = entry("defect", defect="topped", part="crown")
        for more in ((), (topped,), (entry("life", state="removed"),)):
            name = entry("determination", entered="Quercus alba", taxon="quercus-alba")
            a_plant(at, name, dbh(30.0), *more)
        a_plant(at, dbh(30.0))
        told = signed_in(at.viewer).get(f"/api/blocks/{at.block.id}/carbon/").json()
        self.assertAlmostEqual(told["co2e_kg"], 965.4849, delta=1e-3)
        self.assertEqual((told["trees"], sum(r["trees"] for r in told["refused"])), (1, 2))
        Site.objects.filter(pk=at.site.pk).update(open_grown=True)
        opened = signed_in(at.viewer).get(f"/api/blocks/{at.block.id}/carbon/").json()
        self.assertAlmostEqual(opened["co2e_kg"], 0.8 * told["co2e_kg"])

    def test_thin_shoots_are_no_diameter_of_the_tree(self) -> None:
        at = small_site()
        thin = entry("measurement", quantity="dbh_cm", raw={"diameters_cm": [4, 3]}, least_cm=5)
        plant = a_plant(at, thin)
        [stored] = recorded("measurement", plant=plant)
        self.assertEqual((stored.value, stored.stems, stored.thinner), (0.0, 0, 2))
        self.assertIsNone(Current.objects.get(pk=plant).dbh_cm)
