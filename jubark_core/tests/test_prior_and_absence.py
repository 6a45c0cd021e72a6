"""Prior and absence: each factor does what it says, in the direction a practitioner expects."""

from __future__ import annotations

import datetime
import math
import unittest
from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.naming.absence import chance_none, chance_seen
from jubark_core.naming.case import Case, read_case
from jubark_core.naming.engine import name_plant
from jubark_core.naming.prior import TALLY_FLOOR, prior_of
from jubark_core.naming.verdict import RULED_OUT
from jubark_core.naming.weigh import weigh

FLORA = shipped_flora()
FOLD = {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]}


def case(on: str = "2026-07-10", looks: list[dict[str, Any]] | None = None, **more: Any) -> Case:
    return read_case({**FOLD, "on": on, "observations": looks or [], **more}, FLORA)


def odds(a: str, b: str, **more: Any) -> float:
    log = prior_of(case(**more), FLORA).log
    return math.exp(log[a] - log[b])


class PriorOfAPlace(unittest.TestCase):
    def test_it_is_a_distribution_over_every_hypothesis(self) -> None:
        for more in (
            {},
            {"prior": "flat"},
            {"setting": "street", "origin": "planted"},
            {"tally": {"acer-rubrum": 400}},
        ):
            log = prior_of(case(**more), FLORA).log
            self.assertEqual(set(log), set(FLORA.hypotheses))
            self.assertAlmostEqual(math.fsum(map(math.exp, log.values())), 1, places=9)

    def test_the_street_turns_the_order_of_the_wood(self) -> None:
        self.assertGreater(
            odds("fagus-grandifolia", "fagus-sylvatica", setting="woodland", origin="wild"), 20
        )
        self.assertLess(odds("fagus-grandifolia", "fagus-sylvatica", setting="garden", origin="planted"), 0.5)

    def test_unknown_origin_lies_between_wild_and_planted(self) -> None:
        pair = ("acer-platanoides", "acer-saccharum")
        wild, unknown, planted = (
            odds(*pair, setting="park", origin=o) for o in ("wild", "unknown", "planted")
        )
        self.assertLess(wild, unknown)
        self.assertLess(unknown, planted)

    def test_a_taxon_foreign_to_the_area_is_near_zero_never_zero(self) -> None:
        oregon = odds(
            "fagus-grandifolia", "robinia-pseudoacacia", areas=["ORE"], origin="wild", setting="woodland"
        )
        here = odds("fagus-grandifolia", "robinia-pseudoacacia", origin="wild", setting="woodland")
        self.assertLess(oregon, here / 50)
        self.assertGreater(oregon, 0)

    def test_the_tally_moves_belief_and_costs_no_taxon_more_than_three_bits(self) -> None:
        plain, counted = prior_of(case(), FLORA), prior_of(case(tally={"acer-saccharum": 5000}), FLORA)
        self.assertGreater(counted.log["acer-saccharum"], plain.log["acer-saccharum"])
        ratios = [counted.factors[t]["tally"] for t in FLORA.leaves]
        self.assertAlmostEqual(min(ratios), TALLY_FLOOR)
        self.assertEqual(counted.factors["juglans-cinerea"]["tally"], 1)  # what is rare is not made rarer
        for purpose in ("recheck", "practice"):
            self.assertEqual(
                prior_of(case(tally={"acer-saccharum": 5000}, purpose=purpose), FLORA).log, plain.log
            )

    def test_flat_switches_every_factor_off(self) -> None:
        self.assertAlmostEqual(
            odds("thuja-occidentalis", "acer-rubrum", prior="flat", setting="woodland", origin="wild"),
            1,
            places=9,
        )
        for factors in prior_of(case(prior="flat", tally={"acer-rubrum": 9}), FLORA).factors.values():
            self.assertEqual({v for k, v in factors.items() if k != "unlisted"} - {1.0}, set())

    def test_one_factor_can_be_switched_off_alone(self) -> None:
        without = prior_of(case(areas=["ORE"], prior={"off": ["area"]}), FLORA)
        self.assertTrue(all(f["area"] == 1 for t, f in without.factors.items() if "area" in f))


class LookedForAndNotThere(unittest.TestCase):
    def seen(self, taxon: str, character: str, on: str, **more: Any) -> float:
        return chance_seen(
            taxon,
            character,
            case(on, **more),
            FLORA,
            datetime.date.fromisoformat(on),
            more.get("stage", "mature"),
        )

    def test_fruit_is_expected_in_its_season_only(self) -> None:
        self.assertLess(self.seen("quercus-rubra", "fruit.kind", "2026-03-20"), 0.05)
        self.assertGreater(self.seen("quercus-rubra", "fruit.kind", "2026-10-01"), 0.3)
        self.assertGreater(
            self.seen("robinia-pseudoacacia", "fruit.kind", "2026-01-20"), 0.3
        )  # pods hang through winter

    def test_a_male_ash_bears_none_and_a_seedling_hardly(self) -> None:
        self.assertEqual(self.seen("fraxinus-americana", "fruit.kind", "2026-09-20", sex="male"), 0)
        self.assertGreater(
            self.seen("fraxinus-americana", "fruit.kind", "2026-09-20", sex="female"),
            self.seen("fraxinus-americana", "fruit.kind", "2026-09-20"),
        )
        self.assertLess(self.seen("acer-negundo", "fruit.kind", "2026-09-20", stage="seedling"), 0.01)

    def test_no_leaf_in_january_speaks_against_the_evergreens(self) -> None:
        looks = [{"character": "leaf.type", "none": True}]
        w = weigh(case("2026-01-20", looks), FLORA)
        self.assertGreater((w.logs[0]["acer-rubrum"] - w.logs[0]["tsuga-canadensis"]) / math.log(2), 3)

    def test_none_on_a_character_that_has_the_state_is_that_state(self) -> None:
        w = weigh(case("2026-07-10", [{"character": "twig.armed", "none": True}]), FLORA)
        same = weigh(case("2026-07-10", [{"character": "twig.armed", "state": "none"}]), FLORA)
        self.assertEqual(w.probability, same.probability)
        self.assertGreater(w.bits(0, "acer-rubrum", "robinia-pseudoacacia"), 1)

    def test_several_absences_of_one_organ_on_a_day_count_once(self) -> None:
        one = weigh(case("2026-10-01", [{"character": "fruit.kind", "none": True}]), FLORA)
        three = weigh(
            case(
                "2026-10-01",
                [{"character": c, "none": True} for c in ("fruit.kind", "fruit.colour", "fruit.shape")],
            ),
            FLORA,
        )
        self.assertEqual(one.probability, three.probability)

    def test_an_organ_both_seen_and_missing_is_a_contradiction(self) -> None:
        looks = [{"character": "fruit.kind", "state": "acorn"}, {"character": "fruit.colour", "none": True}]
        answer = name_plant({**FOLD, "on": "2026-10-01", "observations": looks}, FLORA)
        self.assertIn([0, 1], [c["observations"] for c in answer["contradictions"]])

    def test_chances_stay_chances_whatever_the_look(self) -> None:
        for taxon in FLORA.leaves:
            for month in range(1, 13):
                look = case(f"2026-{month:02d}-15", [{"character": "flower.form", "none": True}]).looks[0]
                at = case(f"2026-{month:02d}-15")
                self.assertTrue(0 < chance_none(taxon, look.character, look, look.slip, at, FLORA) < 1)


class WhatTheAnswerSays(unittest.TestCase):
    def answer(self, on: str, *looks: dict[str, Any], **more: Any) -> dict[str, Any]:
        return name_plant({**FOLD, "on": on, "observations": list(looks), **more}, FLORA)

    def test_what_cannot_be_seen_now_is_not_asked_for_but_dated(self) -> None:
        looks = (
            {"character": "leaf.arrangement", "state": "alternate", "certainty": "sure"},
            {"character": "bark.texture", "states": ["smooth"], "certainty": "sure"},
            {"character": "bud.form", "state": "long_pointed", "certainty": "sure"},
            {"character": "bud.scales", "state": "many_overlapping", "certainty": "sure"},
            {"character": "bud.length_mm", "values": [19, 20, 18]},
            {"character": "habit.form", "state": "tree", "certainty": "sure"},
        )
        answer = self.answer(
            "2026-01-20", *looks, setting="park", origin="unknown", reach=["trunk", "low_branch"]
        )
        self.assertFalse(
            [
                n
                for n in answer["next_looks"]
                if n["character"].startswith(("leaf.side", "leaf.vein", "flower."))
            ]
        )
        back = answer["come_back"][0]
        self.assertEqual(set(back["separates"]), {"fagus-grandifolia", "fagus-sylvatica"})
        self.assertRegex(back["from"], r"^2026-0[45]-")

    def test_tools_and_reach_limit_what_is_asked(self) -> None:
        for n in self.answer("2026-01-20", reach=["trunk"], tools=["eye"])["next_looks"]:
            c = FLORA.characters[n["character"]]
            self.assertIn("trunk", c["reach"])
            self.assertLessEqual(set(c["tools"]), {"eye"})

    def test_answers_of_a_next_look_are_a_distribution_and_gains_are_ordered_by_effort(self) -> None:
        looks = self.answer("2026-07-10", {"character": "leaf.arrangement", "state": "opposite"})[
            "next_looks"
        ]
        # the first parts what burns skin from the rest; a fork is worth what it opens, too
        plain = [n for n in looks[1:] if n["character"] not in FLORA.rests_on]
        worth = [n["gain_bits"] / n["effort_s"] for n in plain]
        self.assertEqual(worth, sorted(worth, reverse=True))
        for n in looks:
            self.assertAlmostEqual(math.fsum(o["probability"] for o in n["outcomes"]), 1, places=6)

    def test_a_species_on_one_organ_is_marked_so(self) -> None:
        needles = (
            {"character": "needle.per_bundle", "values": [5, 5, 5], "certainty": "sure"},
            {"character": "needle.sheath", "state": "shed"},
        )
        supported = self.answer("2026-07-10", *needles, setting="woodland", origin="wild")["supported"]
        self.assertTrue(supported["one_organ"])
        self.assertEqual(supported["organs"], ["needle"])

    def test_what_a_single_look_ruled_out_names_that_look(self) -> None:
        answer = self.answer(
            "2026-07-10",
            {"character": "leaf.type", "state": "simple", "certainty": "sure"},
            {"character": "fruit.kind", "state": "acorn", "certainty": "sure"},
        )
        out = {r["taxon"]: r for r in answer["ruled_out"]}
        self.assertIn("thuja", out)
        self.assertLessEqual(out["thuja"]["bits"], RULED_OUT)

    def test_cautions_come_with_the_candidates(self) -> None:
        looks = (
            {"character": "leaf.arrangement", "state": "alternate"},
            {"character": "twig.armed_where", "states": ["node_pair"], "certainty": "sure"},
            {"character": "leaf.type", "state": "pinnate"},
        )
        answer = self.answer("2026-07-10", *looks)
        self.assertTrue(
            any("poisonous" in c["text"] for c in answer["cautions"] if c["taxon"] == "robinia-pseudoacacia")
        )
