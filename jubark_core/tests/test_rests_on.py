"""A look and the look it rests on: that a leaf has lobes is told once, not again by the shape of their tips.

Expected odds are the joint probability of both readings, worked out by hand: Σ over the states of the first
in which the second makes sense. The floor of 2^-10 takes the rest of each difference that is allowed.
"""

from __future__ import annotations

import math
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.naming.case import read_case
from jubark_core.naming.weigh import weigh
from jubark_core.tests.profiles import examples
from jubark_core.tests.small_flora import character, small_flora

LOBED = {"leaf.lobes": ["pinnate", "palmate"]}
FLORA = small_flora(
    {
        "leaf.lobes": character("one", states=["none", "pinnate", "palmate"]),
        "leaf.tip": character("one", states=["round", "pointed"], requires=LOBED),
        "leaf.count": character(
            "measure", unit="lobes", range=[0.1, 30], scale="linear", between=0.0, requires=LOBED
        ),
        "leaf.armed": character("many", states=["none", "thorn", "prickle"]),
        "leaf.curve": character(
            "one", states=["straight", "hooked"], requires={"leaf.armed": ["thorn", "prickle"]}
        ),
    },
    {
        "a": {
            "leaf.lobes": {"none": 0.8, "pinnate": 0.15, "palmate": 0.05},
            "leaf.tip": {"round": 0.9, "pointed": 0.1},
            "leaf.count": {"mean": 5, "sd": 1},
            "leaf.armed": {"none": 0.9, "thorn": 0.1, "prickle": 0.0},
            "leaf.curve": {"straight": 0.5, "hooked": 0.5},
        },
        "b": {
            "leaf.lobes": {"none": 0.2, "pinnate": 0.7, "palmate": 0.1},
            "leaf.tip": {"round": 0.4, "pointed": 0.6},
            "leaf.count": {"mean": 5, "sd": 1},
            "leaf.armed": {"none": 0.2, "thorn": 0.6, "prickle": 0.0},
            "leaf.curve": {"straight": 0.5, "hooked": 0.5},
        },
    },
)


def odds(*looks: dict[str, Any]) -> float:
    w = weigh(read_case({"on": "2026-07-01", "prior": "flat", "observations": list(looks)}, FLORA), FLORA)
    return w.probability["a"] / w.probability["b"]


def seen(of: str, state: str, **more: Any) -> dict[str, Any]:
    return {"character": f"leaf.{of}", "state": state, "slip": 0, **more}


class RestsOn(unittest.TestCase):
    def test_alone_it_tells_both_what_it_shows_and_that_it_is_there(self) -> None:
        by_hand = (0.2 * 0.9 + 0.8 * 0.01) / (0.8 * 0.4 + 0.2 * 0.01)
        self.assertAlmostEqual(odds(seen("tip", "round")), by_hand, delta=0.005)

    def test_beside_what_it_rests_on_it_tells_only_what_it_shows(self) -> None:
        both = odds(seen("lobes", "pinnate"), seen("tip", "round"))
        self.assertAlmostEqual(both, (0.15 * 0.9) / (0.7 * 0.4), delta=0.005)

    def test_a_reading_that_may_be_wrong_leaves_some_of_it(self) -> None:
        # by hand, slip 0.2: a reading 'pinnate' of each state none, pinnate, palmate is 0.1, 0.8, 0.1 likely
        def joint(none: float, pinnate: float, palmate: float, rounded: float) -> float:
            return (pinnate * 0.8 + palmate * 0.1) * rounded + none * 0.1 * 0.01

        both = odds(seen("lobes", "pinnate", slip=0.2), seen("tip", "round"))
        by_hand = joint(0.8, 0.15, 0.05, 0.9) / joint(0.2, 0.7, 0.1, 0.4)
        self.assertAlmostEqual(both, by_hand, delta=0.005)

    def test_counts_and_measures_too(self) -> None:
        count = {"character": "leaf.count", "values": [5, 5.2], "slip": 0}
        alone = odds(seen("lobes", "palmate"))
        # both have the same range: beside the lobes their number says nothing more
        self.assertAlmostEqual(odds(seen("lobes", "palmate"), count), alone, delta=0.01)
        self.assertLess(odds(count), 0.35)  # alone it says that there are lobes, 0.2 against 0.8

    def test_where_several_states_may_be_there_at_once(self) -> None:
        armed = {"character": "leaf.armed", "states": ["thorn"], "slip": 0}
        self.assertAlmostEqual(odds(armed, seen("curve", "hooked")), odds(armed), delta=0.02)

    @examples(24)
    @given(
        st.permutations(
            [
                seen("lobes", "pinnate", slip=0.06),
                seen("lobes", "none", slip=0.25, specimen="b"),
                seen("tip", "pointed", slip=0.06),
                {"character": "leaf.count", "values": [4, 6]},
            ]
        )
    )
    def test_the_order_never_matters(self, looks: list[dict[str, Any]]) -> None:
        self.assertTrue(math.isclose(odds(*looks), odds(*sorted(looks, key=str)), rel_tol=1e-12))
