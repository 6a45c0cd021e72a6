"""The engine on the shipped flora: cases from the trade, and rules that hold whatever the numbers are."""

from __future__ import annotations

import json
import math
import random
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.naming.engine import name_plant
from jubark_core.tests.profiles import examples, slow

FOLD = {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]}


def named(on: str, *looks: dict[str, Any], **more: Any) -> dict[str, Any]:
    return name_plant({**FOLD, "on": on, "observations": list(looks), **more}, shipped_flora())


def one(character: str, state: str, certainty: str = "sure", **more: Any) -> dict[str, Any]:
    return {"character": character, "state": state, "certainty": certainty, **more}


OPPOSITE, ALTERNATE = one("leaf.arrangement", "opposite"), one("leaf.arrangement", "alternate")
ASH = (
    OPPOSITE,
    {"character": "leaf.leaflets", "values": [7, 7, 5, 7]},
    {"character": "bark.texture", "states": ["interlacing_ridges"]},
    one("twig.bundle_scars", "curved_line"),
)


class FromTheTrade(unittest.TestCase):
    """Written from the trade before tuning; 'common practice' of winter and summer keys."""

    def supported(self, answer: dict[str, Any]) -> str | None:
        return answer["supported"] and answer["supported"]["taxon"]

    def test_an_ash_in_winter_stops_above_the_species(self) -> None:
        answer = named("2026-01-20", *ASH, setting="street", origin="planted")
        self.assertIn(self.supported(answer), ("fraxinus", "fraxinus-sect-melioides"))
        self.assertIn("twig.leaf_scar_top", answer["not_yet_told_from"][0]["looks"])

    def test_the_leaf_scar_parts_green_ash_from_white(self) -> None:
        flat = named("2026-01-20", *ASH, one("twig.leaf_scar_top", "flat"), one("bud.colour", "brown"))
        dips = named(
            "2026-01-20", *ASH, one("twig.leaf_scar_top", "notched"), one("twig.leaf_scar", "notched")
        )
        self.assertEqual(flat["candidates"][0]["taxon"], "fraxinus-pennsylvanica")
        self.assertEqual(dips["candidates"][0]["taxon"], "fraxinus-americana")

    def test_a_milky_stalk_parts_norway_maple_from_sugar_maple(self) -> None:
        looks = (
            OPPOSITE,
            one("leaf.lobes", "palmate"),
            {"character": "leaf.lobe_count", "values": [5, 5, 5]},
        )
        answer = named("2026-07-10", *looks, one("sap.kind", "milky"), setting="street", origin="planted")
        self.assertEqual(answer["candidates"][0]["taxon"], "acer-platanoides")
        self.assertIn("leaf.autumn_colour", shipped_flora().characters)

    def test_leaflets_taken_for_leaves_do_not_rule_out_a_walnut(self) -> None:
        looks = (
            one("leaf.arrangement", "opposite", "likely"),
            {"character": "fruit.kind", "state": "nut_in_husk", "certainty": "sure"},
            one("twig.pith", "chambered"),
            {"character": "leaf.leaflets", "values": [17, 15, 19]},
        )
        answer = named("2026-09-25", *looks, setting="woodland", origin="wild")
        self.assertEqual(answer["candidates"][0]["taxon"], "juglans-nigra")
        self.assertTrue(
            any(0 in c["observations"] for c in answer["contradictions"]), answer["contradictions"]
        )

    def test_no_fruit_on_an_ash_in_june_says_almost_nothing(self) -> None:
        before = named("2026-06-20", *ASH)
        after = named("2026-06-20", *ASH, {"character": "fruit.kind", "none": True})
        for taxon in ("fraxinus-pennsylvanica", "fraxinus-americana"):
            p, q = ({c["taxon"]: c["probability"] for c in a["candidates"]}[taxon] for a in (before, after))
            self.assertLess(abs(math.log2(q / p)), 1.0)

    def test_needles_in_fives_are_white_pine_at_once(self) -> None:
        answer = named(
            "2026-01-10", one("leaf.type", "needle"), {"character": "needle.per_bundle", "values": [5, 5, 5]}
        )
        self.assertEqual(answer["candidates"][0]["taxon"], "pinus-strobus")
        self.assertIn(
            "pinus-unlisted", [c["taxon"] for c in answer["candidates"]]
        )  # another five-needled pine may stand here

    def test_one_look_at_bark_alone_supports_no_species(self) -> None:
        answer = named(
            "2026-01-10",
            {"character": "bark.texture", "states": ["interlacing_ridges"]},
            setting="woodland",
            origin="wild",
        )
        self.assertIsNone(answer["supported"])

    def test_a_garden_tree_is_near_zero_not_zero_in_a_wild_wood(self) -> None:
        wood, street = (
            named("2026-07-10", setting=s, origin=o)["prior"]
            for s, o in (("woodland", "wild"), ("street", "planted"))
        )
        self.assertTrue(any(p["taxon"] == "acer-platanoides" for p in street))
        self.assertLess(
            {p["taxon"]: p for p in wood}.get(
                "fagus-sylvatica", {"factors": {"area": 1.0, "commonness": 0.02}}
            )["factors"]["commonness"],
            0.1,
        )


class Harm(unittest.TestCase):
    def wounding(self, answer: dict[str, Any]) -> set[str]:
        return {
            n["character"]
            for n in answer["next_looks"]
            if shipped_flora().characters[n["character"]]["wounds"]
        }

    def test_no_wound_is_offered_while_an_oak_is_possible_in_the_beetle_season(self) -> None:
        answer = named("2026-06-10", ALTERNATE, setting="woodland", origin="wild")
        self.assertEqual(self.wounding(answer), set())
        self.assertTrue(any("oaks" in w["why"] or "elms" in w["why"] for w in answer["withheld"]))

    def test_none_is_offered_on_a_veteran_or_a_protected_stem(self) -> None:
        for more in ({"stage": "veteran"}, {"status": ["protected"]}):
            with self.subTest(more):
                self.assertEqual(self.wounding(named("2026-01-10", OPPOSITE, **more)), set())


class ManyAtOnce(unittest.TestCase):
    @unittest.skipIf(sys.platform == "emscripten", "the Python of browsers has no threads")
    @slow
    def test_threads_that_name_different_plants_do_not_disturb_each_other(self) -> None:
        dates = [f"2026-{month:02d}-15" for month in range(1, 13)] * 2
        cases = [
            (on, (OPPOSITE if i % 2 else ALTERNATE, {"character": "bark.texture", "states": ["smooth"]}))
            for i, on in enumerate(dates)
        ]
        fresh = Flora(shipped_flora().compiled)  # no cache filled yet
        expected = [named(on, *looks, setting="park") for on, looks in cases]
        with ThreadPoolExecutor(8) as pool:
            found = list(
                pool.map(
                    lambda case: name_plant(
                        {**FOLD, "on": case[0], "observations": list(case[1]), "setting": "park"}, fresh
                    ),
                    cases,
                )
            )
        self.assertEqual(found, expected)


class WhateverTheNumbers(unittest.TestCase):
    LOOKS = (
        *ASH,
        one("bud.form", "blunt", "likely"),
        {"character": "fruit.kind", "none": True},
        {"character": "leaf.base", "state": "wedge", "k": 3, "n": 8},
    )

    def probabilities(self, looks: Any) -> dict[str, float]:
        return {c["taxon"]: c["probability"] for c in named("2026-10-20", *looks)["candidates"]}

    def test_the_order_of_looks_never_matters(self) -> None:
        looks, first = list(self.LOOKS), self.probabilities(self.LOOKS)
        for seed in range(5):
            random.Random(seed).shuffle(looks)
            for taxon, p in self.probabilities(looks).items():
                self.assertAlmostEqual(p, first[taxon], places=9)

    def test_skipped_and_told_change_nothing_and_a_repeat_counts_once(self) -> None:
        first = self.probabilities(self.LOOKS)
        more = (
            *self.LOOKS,
            {"character": "sap.kind", "skipped": True},
            one("flower.form", "pea", seen="told"),
            self.LOOKS[0],
        )
        self.assertEqual(self.probabilities(more), first)

    def test_candidates_and_rest_sum_to_one(self) -> None:
        answer = named("2026-10-20", *self.LOOKS)
        self.assertAlmostEqual(
            math.fsum(c["probability"] for c in answer["candidates"]) + answer["rest"], 1, places=9
        )
        self.assertNotIn("NaN", json.dumps(answer))

    def test_in_the_south_the_year_is_turned_by_half(self) -> None:
        north = named("2026-07-01", OPPOSITE)
        south = name_plant(
            {"on": "2026-12-31", "lat": -40.5, "lon": 150.0, "elevation_m": 310, "observations": [OPPOSITE]},
            shipped_flora(),
        )
        seen = [{n["character"].split(".")[0] for n in a["next_looks"]} for a in (north, south)]
        self.assertIn("leaf", seen[0])
        self.assertIn("leaf", seen[1])


ANY = st.recursive(
    st.none() | st.booleans() | st.floats() | st.integers() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)
LOOK = st.fixed_dictionaries(
    {
        "character": st.sampled_from(
            ["leaf.arrangement", "leaf.leaflets", "bark.texture", "fruit.kind", "leaf.length_cm", "no.such"]
        )
        | ANY
    },
    optional={
        "state": st.sampled_from(["opposite", "smooth", "none"]) | ANY,
        "states": ANY,
        "values": st.lists(st.integers(-1, 60) | ANY, max_size=4),
        "none": ANY,
        "k": ANY,
        "n": ANY,
        "certainty": st.sampled_from(["sure", "unsure"]) | ANY,
        "slip": ANY,
        "on": ANY,
    },
)
CASE = st.fixed_dictionaries(
    {
        "on": st.sampled_from(["2026-07-10", "2026-02-30"]) | ANY,
        "observations": st.lists(LOOK, max_size=4) | ANY,
    },
    optional={"lat": ANY, "areas": ANY, "setting": ANY, "tally": ANY, "prior": ANY},
)


class MalformedCases(unittest.TestCase):
    @examples(150)
    @given(CASE)
    def test_every_case_is_answered_or_refused_with_its_place(self, case: Any) -> None:
        try:
            answer = name_plant(case, shipped_flora())
        except InputError as refused:
            self.assertTrue(refused.place and refused.allowed)
            return
        self.assertAlmostEqual(
            math.fsum(c["probability"] for c in answer["candidates"]) + answer["rest"], 1, places=9
        )
        json.dumps(answer, allow_nan=False)

    def test_each_refusal_names_place_value_and_what_is_allowed(self) -> None:
        for looks, place, value in (
            ([{"character": "leaf.leaflets", "values": [-1]}], "observations[0].values[0]", "-1"),
            ([{"character": "leaf.shape_", "state": "round"}], "observations[0].character", "leaf.shape_"),
            ([{"character": "leaf.arrangement", "state": "oposite"}], "observations[0].state", "oposite"),
            ([{"character": "leaf.leaflets", "values": [6.5]}], "observations[0].values[0]", "6.5"),
            ([{"character": "leaf.base", "state": "wedge", "k": 9, "n": 8}], "observations[0].k", "9"),
        ):
            with self.subTest(looks), self.assertRaises(InputError) as caught:
                named("2026-07-10", *looks)
            self.assertEqual(caught.exception.place, place)
            self.assertIn(value, str(caught.exception))
