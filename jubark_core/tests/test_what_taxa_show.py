"""Descriptions by stage, height, season and stock; looks pooled; what is said where two remain or a taxon
cannot be split.
"""

from __future__ import annotations

import math
import unittest
from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.flora.views import shows
from jubark_core.naming.case import read_case
from jubark_core.naming.engine import RunningCase, name_plant
from jubark_core.naming.pooling import pooled
from jubark_core.naming.samples import log_counts
from jubark_core.naming.verdict import either_of_two
from jubark_core.naming.weigh import weigh
from jubark_core.tests.small_flora import character, small_flora

FLORA = shipped_flora()
FOLD = {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]}


def answer(*looks: dict[str, Any], on: str = "2026-07-10", **more: Any) -> dict[str, Any]:
    return name_plant({**FOLD, "on": on, "observations": list(looks), **more}, FLORA)


def bits(look: dict[str, Any], a: str, b: str, **more: Any) -> float:
    """Untempered bits of one look for a against b."""
    w = weigh(read_case({**FOLD, "on": "2026-07-10", "observations": [look], **more}, FLORA), FLORA)
    return (w.logs[0][a] - w.logs[0][b]) / math.log(2)


class Descriptions(unittest.TestCase):
    def test_bark_is_read_by_stage_and_by_height_on_the_trunk(self) -> None:
        young, grown = (
            shows(FLORA, s).weights("quercus-palustris", "bark.texture", "summer") or {}
            for s in ("young", "mature")
        )
        self.assertGreater(young["smooth"], grown["smooth"])
        view = shows(FLORA, "mature")
        base, upper = (
            view.weights("eucalyptus-pilularis", "bark.texture", "summer", where) or {}
            for where in ("base", "upper")
        )
        self.assertGreater(base["fibrous_stringy"], 0.9)
        self.assertGreater(upper["smooth"], 0.9)

    def test_a_twig_green_in_summer_turns_in_winter(self) -> None:
        summer, winter = (
            shows(FLORA, "mature").weights("acer-negundo", "twig.colour", s) or {}
            for s in ("summer", "winter")
        )
        self.assertGreater(summer["green"], winter["green"])
        self.assertGreater(winter["purple"], summer["purple"])

    def test_a_stage_nobody_described_is_widened_not_silent(self) -> None:
        grown, seedling = (shows(FLORA, s) for s in ("mature", "seedling"))
        for cid in ("leaf.shape", "leaf.type", "bark.colour"):
            a, b = (
                grown.weights("tilia-americana", cid, "summer"),
                seedling.weights("tilia-americana", cid, "summer"),
            )
            assert a is not None and b is not None
            self.assertLess(max(b.values()), max(a.values()), cid)
        self.assertGreater(
            (seedling.spread("tilia-americana", "leaf.side_veins") or (0, 0))[1],
            (grown.spread("tilia-americana", "leaf.side_veins") or (0, 0))[1],
        )

    def test_a_leaf_of_a_stump_shoot_bounds_size_from_above_only(self) -> None:
        huge = {"character": "leaf.length_cm", "values": [17]}
        self.assertLess(abs(bits({**huge, "stage": "resprout"}, "tilia-americana", "ulmus-pumila")), 0.5)
        self.assertGreater(bits(huge, "tilia-americana", "ulmus-pumila"), 3)

    def test_no_thorn_says_much_of_a_wild_hawthorn_and_little_of_a_street_honey_locust(self) -> None:
        none = {"character": "twig.armed", "state": "none", "certainty": "sure"}
        self.assertLess(
            bits(none, "crataegus-monogyna", "acer-rubrum", origin="wild", setting="hedgerow"), -4
        )
        self.assertGreater(
            bits(none, "gleditsia-triacanthos", "acer-rubrum", origin="planted", setting="street"), -1
        )

    def test_purple_leaves_are_a_cultivar_of_the_planted_not_another_beech(self) -> None:
        purple = {"character": "leaf.summer_colour", "state": "purple", "certainty": "sure"}
        self.assertGreater(bits(purple, "fagus-sylvatica", "fagus-grandifolia", origin="planted"), 4)
        self.assertLess(bits(purple, "fagus-sylvatica", "fagus-grandifolia", origin="wild"), 1)

    def test_a_hybrid_lies_between_its_parents(self) -> None:
        view = shows(FLORA, "mature")
        low, middle, high = (
            (view.spread(f"arctostaphylos-{t}", "leaf.length_cm") or (0, 0))[0]
            for t in ("uva-ursi", "x-media", "columbiana")
        )
        self.assertTrue(low < middle < high)


class Witnesses(unittest.TestCase):
    def test_leaves_of_one_twig_in_two_looks_are_one_sample(self) -> None:
        case = read_case(
            {
                "on": "2026-07-10",
                "observations": [{"character": "leaf.side_veins", "values": v} for v in ([9, 10], [11, 9])],
            },
            FLORA,
        )
        together = read_case(
            {
                "on": "2026-07-10",
                "observations": [{"character": "leaf.side_veins", "values": [9, 10, 11, 9]}],
            },
            FLORA,
        )
        self.assertEqual(len(pooled(case, FLORA, lambda on: "summer")), 1)
        self.assertEqual(weigh(case, FLORA).probability, weigh(together, FLORA).probability)

    def test_two_observers_of_one_state_say_more_than_one_and_less_than_two_plants(self) -> None:
        look = {"character": "leaf.margin_kind", "state": "yes", "slip": 0.3}
        flora = small_flora(
            {"leaf.margin_kind": character("one", states=["yes", "no"])},
            {
                "a": {"leaf.margin_kind": {"yes": 0.7, "no": 0.3}},
                "b": {"leaf.margin_kind": {"yes": 0.3, "no": 0.7}},
            },
        )

        def p(*looks: dict[str, Any]) -> float:
            return weigh(
                read_case({"on": "2026-07-10", "prior": "flat", "observations": list(looks)}, flora), flora
            ).probability["a"]

        one, two = p(look), p({**look, "observer": "x"}, {**look, "observer": "y"})
        plants = p({**look, "specimen": "a"}, {**look, "specimen": "b"})
        self.assertTrue(one < two < plants)

    def test_odd_numbers_of_leaflets_where_the_end_leaflet_is_full(self) -> None:
        odd, even = log_counts([(7, 0.0)], 7, 1.5, 0.35, 0.95), log_counts([(8, 0.0)], 7, 1.5, 0.35, 0.95)
        self.assertGreater(odd - even, math.log(8))
        total = math.fsum(math.exp(log_counts([(k, 0.0)], 7, 1.5, 0.0, 0.95)) for k in range(-5, 20))
        self.assertAlmostEqual(total, 1, places=3)

    def test_a_running_case_answers_as_a_fresh_one(self) -> None:
        looks = [
            {"character": "leaf.arrangement", "state": "opposite"},
            {"character": "leaf.leaflets", "values": [7, 7]},
            {"character": "fruit.kind", "none": True},
        ]
        running, case = RunningCase(FLORA), {**FOLD, "on": "2026-07-10"}
        for n in (0, 1, 2, 3, 1, 3):  # also after looks were taken back
            last = running.name({**case, "observations": looks[:n]})
        self.assertEqual(last, answer(*looks))


class WhereTwoRemain(unittest.TestCase):
    def two(self, **more: Any) -> tuple[Flora, dict[str, Any]]:
        flora = small_flora(
            {"leaf.k": character("one", states=["x", "y"])},
            {t: {"leaf.k": {"x": p, "y": 1 - p}} for t, p in (("a", 0.9), ("b", 0.9), ("c", 0.001))},
        )
        flora.taxa["b"].update(more)
        return flora, {
            "on": "2026-07-10",
            "prior": "flat",
            "observations": [{"character": "leaf.k", "state": "x", "slip": 0}],
        }

    def test_either_of_two_and_why(self) -> None:
        flora, case = self.two()
        found = either_of_two(weigh(read_case(case, flora), flora))
        assert found is not None
        self.assertEqual([t["taxon"] for t in found["taxa"]], ["a", "b"])
        self.assertGreater(found["probability"], 0.99)
        flora, case = self.two(parents=["a"])
        self.assertIn("hybrid", (either_of_two(weigh(read_case(case, flora), flora)) or {})["why"])

    def test_what_cannot_be_split_in_the_field_stops_at_its_genus(self) -> None:
        looks = [
            ("leaf.type", "trifoliate"),
            ("flower.form", "pea"),
            ("flower.cluster", "raceme_drooping"),
            ("habit.form", "small_tree"),
        ]
        found = name_plant(
            {
                "on": "2026-05-25",
                "lat": 52.5,
                "lon": -1.6,
                "areas": ["GRB"],
                "setting": "garden",
                "observations": [{"character": c, "state": s, "certainty": "sure"} for c, s in looks],
            },
            FLORA,
        )["supported"]
        self.assertEqual((found["taxon"], found["would_be"]), ("laburnum", "laburnum-anagyroides"))
        self.assertIn("hybrid", found["stop_at"])

    def test_origin_unknown_ranks_under_both_and_says_where_they_differ(self) -> None:
        looks = [
            {"character": "fruit.kind", "state": "burr", "certainty": "sure"},
            {"character": "bark.texture", "states": ["smooth"]},
        ]
        found = answer(*looks, on="2026-10-01", setting="park", origin="unknown")["by_origin"]
        self.assertEqual(
            (found["wild"]["taxon"], found["planted"]["taxon"], found["differ"]),
            ("fagus-grandifolia", "fagus-sylvatica", True),
        )
        self.assertIsNone(answer(*looks, on="2026-10-01", origin="wild")["by_origin"])

    def test_a_sample_near_ten_does_not_settle_the_beeches_and_says_so(self) -> None:
        beech = [
            {"character": "fruit.kind", "state": "burr", "certainty": "sure"},
            {"character": "bark.texture", "states": ["smooth"]},
            {"character": "habit.form", "state": "tree", "certainty": "sure"},
            {"character": "bud.form", "state": "long_pointed", "certainty": "sure"},
            {"character": "bud.length_mm", "values": [19, 20]},
        ]
        found = answer(
            *beech,
            {"character": "leaf.side_veins", "values": [9, 10, 10, 9, 10, 10]},
            setting="park",
            origin="planted",
        )
        self.assertEqual(found["supported"]["taxon"], "fagus")
        row = found["samples"][0]
        self.assertEqual({row["settles"]["a"], row["settles"]["b"]}, {"fagus-grandifolia", "fagus-sylvatica"})
        self.assertNotEqual(row["settles"]["more"], 0)
        self.assertIn("Fagus", row["settles"]["says"])

    def test_no_touching_while_a_three_leaved_seedling_may_be_poison_ivy(self) -> None:
        seedling = {"setting": "hedgerow", "origin": "wild", "stage": "seedling", "on": "2026-06-05"}
        three = {"character": "leaf.type", "state": "trifoliate", "certainty": "sure"}
        found = answer(three, **seedling)
        held = {h["character"] for h in found["withheld"]}
        self.assertTrue({c for c in held if FLORA.characters[c]["touch"]})
        self.assertEqual(
            [n["character"] for n in found["next_looks"] if FLORA.characters[n["character"]]["touch"]], []
        )
        self.assertTrue(any("Do not touch" in c["text"] for c in found["cautions"]))
        opposite = [
            three,
            *[
                {"character": c, "state": s, "certainty": "sure"}
                for c, s in (("leaf.arrangement", "opposite"), ("twig.hairs", "none"), ("habit.form", "tree"))
            ],
        ]
        self.assertFalse(
            any(
                "burns skin" in h["why"]
                for h in answer(
                    *opposite,
                    {"character": "twig.colour", "states": ["green"], "certainty": "sure"},
                    setting="street",
                    origin="planted",
                )["withheld"]
            )
        )
