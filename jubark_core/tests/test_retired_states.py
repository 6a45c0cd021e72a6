"""A state that is no longer offered stays readable: an old record says by it what the vocabulary says now."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import FloraError
from jubark_core.flora.checks import check_vocabulary
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.case import read_case
from jubark_core.naming.engine import name_plant
from jubark_core.naming.weigh import weigh
from jubark_core.plates.states import state_drawings
from jubark_core.tests.profiles import examples
from jubark_core.tests.small_flora import character, small_flora
from jubark_core.vocabulary import vocabulary

LOBES = character("one", states=["none", "pinnate", "palmate"], between=0.5)
MARGIN = character(
    "many",
    states=["entire", "toothed", "lobed"],
    retired={"lobed": {"leaf.lobes": ["pinnate", "palmate"]}},
)
FLORA = small_flora(
    {"leaf.lobes": LOBES, "leaf.margin": MARGIN},
    {
        "a": {
            "leaf.lobes": {"none": 0.8, "pinnate": 0.15, "palmate": 0.05},
            "leaf.margin": {"entire": 0.9, "toothed": 0.1, "lobed": 0.0},
        },
        "b": {
            "leaf.lobes": {"none": 0.2, "pinnate": 0.7, "palmate": 0.1},
            "leaf.margin": {"entire": 0.3, "toothed": 0.7, "lobed": 0.0},
        },
    },
)
SHIPPED = shipped_flora()


def odds(*looks: dict[str, Any]) -> float:
    w = weigh(read_case({"on": "2026-07-01", "prior": "flat", "observations": list(looks)}, FLORA), FLORA)
    return w.probability["a"] / w.probability["b"]


def margin(*states: str, **more: Any) -> dict[str, Any]:
    return {"character": "leaf.margin", "states": list(states), "slip": 0, **more}


class Retired(unittest.TestCase):
    def test_it_is_one_of_the_states_it_is_read_as(self) -> None:
        # by hand: (0.15 + 0.05) / (0.7 + 0.1); the floor of 2^-10 takes the rest
        self.assertAlmostEqual(odds(margin("lobed")), 0.2 / 0.8, delta=0.002)

    def test_said_to_be_absent_it_is_any_other_state(self) -> None:
        none = odds({"character": "leaf.lobes", "state": "none", "slip": 0})
        both = odds(margin("entire", absent=["lobed"]))
        self.assertAlmostEqual(both, none * odds(margin("entire")), places=9)

    def test_what_else_was_named_is_read_as_it_stands(self) -> None:
        self.assertAlmostEqual(
            odds(margin("entire", "lobed")), odds(margin("lobed")) * odds(margin("entire")), places=9
        )

    def test_of_some_leaves_it_is_what_most_of_them_showed(self) -> None:
        self.assertAlmostEqual(odds(margin("lobed", k=5, n=8)), odds(margin("lobed")), places=12)
        none = odds({"character": "leaf.lobes", "state": "none", "slip": 0})
        self.assertAlmostEqual(odds(margin("lobed", k=1, n=8)), none, places=12)

    def test_beside_the_character_itself_there_is_one_truth(self) -> None:
        direct = {"character": "leaf.lobes", "state": "pinnate", "slip": 0}
        together = odds(direct, margin("lobed"))
        # by hand, between 0.5: half of the plants have one truth (0.15, 0.7), half any (0.15·0.2, 0.7·0.8)
        by_hand = (0.5 * 0.15 + 0.5 * 0.15 * 0.2) / (0.5 * 0.7 + 0.5 * 0.7 * 0.8)
        self.assertAlmostEqual(together, by_hand, delta=0.002)

    @examples(6)
    @given(
        st.permutations([margin("lobed"), margin("toothed"), {"character": "leaf.lobes", "state": "none"}])
    )
    def test_the_order_never_matters(self, looks: list[dict[str, Any]]) -> None:
        self.assertAlmostEqual(odds(*looks), odds(*sorted(looks, key=str)), places=12)


class InTheFlora(unittest.TestCase):
    retired = [(cid, s) for cid, c in SHIPPED.characters.items() for s in c.get("retired", {})]

    def test_old_records_still_name_their_plant(self) -> None:
        for cid, state, taxon, beside in (
            ("leaf.margin", "lobed", "quercus-alba", {"character": "fruit.kind", "state": "acorn"}),
            (
                "fruit.kind",
                "aggregate",
                "liriodendron-tulipifera",
                {"character": "leaf.tip", "states": ["notched"]},
            ),
        ):
            with self.subTest(cid):
                old = {"character": cid, "states" if cid == "leaf.margin" else "state": state}
                old["states" if cid == "leaf.margin" else "state"] = (
                    [state] if cid == "leaf.margin" else state
                )
                case = {"on": "2026-09-20", "areas": ["PEN"], "observations": [old, beside]}
                first = name_plant(case, SHIPPED)["candidates"][0]["taxon"]
                self.assertEqual(first.split("-")[0], taxon.split("-")[0])

    def test_it_is_neither_offered_nor_drawn(self) -> None:
        self.assertTrue(self.retired)
        drawn = state_drawings(SHIPPED)
        words = {c["id"]: c["states"] for c in vocabulary(SHIPPED)["characters"]}
        for cid, state in self.retired:
            with self.subTest(cid=cid, state=state):
                self.assertNotIn(state, drawn[cid])
                [word] = [w for w in words[cid] if w["id"] == state]
                self.assertTrue(word.get("retired"))
                for taxon in SHIPPED.leaves:
                    for variant in SHIPPED.taxa[taxon]["states"].get(cid, ()):
                        self.assertNotIn(state, variant.get("weights", {}), taxon)

    def test_a_table_that_cannot_be_read_is_refused(self) -> None:
        organ = {"leaf": {"label": "Leaf", "tools": ["eye"], "reach": ["litter"], "visible": ["always"]}}
        one = {"kind": "one", "states": ["none", "pinnate"]}
        for retired, why in (
            ({"gone": {"leaf.lobes": ["pinnate"]}}, "unknown state 'gone'"),
            ({"lobed": {"leaf.nothing": ["pinnate"]}}, "'leaf.nothing', which is no character of one state"),
            ({"lobed": {"leaf.lobes": ["round"]}}, "leaf.lobes = 'round', which is not offered"),
        ):
            many = {"kind": "many", "states": ["entire", "lobed"], "retired": retired}
            with self.subTest(why), self.assertRaisesRegex(FloraError, why):
                check_vocabulary({"organ": organ, "character": {"leaf.lobes": one, "leaf.margin": many}})
