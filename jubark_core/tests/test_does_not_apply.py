"""'Does not apply' is an answer: it says of the character another rests on what was seen there, once."""

from __future__ import annotations

import tomllib
import unittest
from typing import Any

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.answers import NO_SENSE
from jubark_core.naming.case import read_case
from jubark_core.naming.engine import name_plant
from jubark_core.naming.weigh import weigh
from jubark_core.tests.small_flora import character, small_flora
from jubark_core.tests.test_gold_cases import FILE, case_of

LOBES = character("one", states=["none", "pinnate", "palmate"])
TIP = character("one", states=["round", "pointed"], requires={"leaf.lobes": ["pinnate", "palmate"]})
ARMED = character("many", states=["none", "thorn", "prickle"])
CURVE = character("one", states=["straight", "hooked"], requires={"leaf.armed": ["thorn", "prickle"]})
FLORA = small_flora(
    {"leaf.lobes": LOBES, "leaf.tip": TIP, "leaf.armed": ARMED, "leaf.curve": CURVE},
    {
        "a": {
            "leaf.lobes": {"none": 0.8, "pinnate": 0.15, "palmate": 0.05},
            "leaf.armed": {"none": 0.9, "thorn": 0.1, "prickle": 0.0},
        },
        "b": {
            "leaf.lobes": {"none": 0.2, "pinnate": 0.7, "palmate": 0.1},
            "leaf.armed": {"none": 0.2, "thorn": 0.6, "prickle": 0.5},
        },
    },
)


def odds(*looks: dict[str, Any]) -> float:
    w = weigh(read_case({"on": "2026-07-01", "prior": "flat", "observations": list(looks)}, FLORA), FLORA)
    return w.probability["a"] / w.probability["b"]


def senseless(of: str, **more: Any) -> dict[str, Any]:
    return {"character": of, "applies": False, "slip": 0, **more}


class DoesNotApply(unittest.TestCase):
    def test_it_is_the_reading_of_what_the_character_rests_on(self) -> None:
        read = odds({"character": "leaf.lobes", "state": "none", "slip": 0})
        self.assertAlmostEqual(odds(senseless("leaf.tip")), read, places=9)
        self.assertAlmostEqual(read, 0.8 / 0.2, delta=0.02)  # by hand; the floor of 2^-10 takes the rest

    def test_a_slip_turns_it_as_it_turns_any_reading(self) -> None:
        read = odds({"character": "leaf.lobes", "state": "none", "slip": 0.06})
        told = odds(senseless("leaf.tip", slip=0.06))
        # 'none' misread is pinnate or palmate, 0.03 each, so that P(outside) is what P('none') is
        self.assertAlmostEqual(told, read, places=9)

    def test_where_presences_decide_none_of_them_is_there(self) -> None:
        # by hand: (1 - 0.1)·(1 - 0.01 unnamed) against (1 - 0.6)·(1 - 0.5)
        self.assertAlmostEqual(odds(senseless("leaf.curve")), 0.9 * 1.0 / (0.4 * 0.5), delta=0.1)

    def test_beside_the_reading_itself_it_adds_nothing_in_either_order(self) -> None:
        read = {"character": "leaf.lobes", "state": "none", "slip": 0}
        for looks in ((read, senseless("leaf.tip")), (senseless("leaf.tip"), read)):
            self.assertAlmostEqual(odds(*looks), odds(read), places=12)
        twice = odds(senseless("leaf.tip"), senseless("leaf.tip"))
        self.assertAlmostEqual(twice, odds(senseless("leaf.tip")), places=12)

    def test_it_is_refused_where_a_character_rests_on_nothing_and_for_anything_but_false(self) -> None:
        for raw, place in (
            (senseless("leaf.lobes"), "observations[0].applies"),
            ({"character": "leaf.tip", "applies": True}, "observations[0].applies"),
            ({"character": "leaf.tip", "applies": 0}, "observations[0].applies"),
            ({"character": "leaf.tip", "applies": False, "state": "round"}, "observations[0]"),
        ):
            with self.assertRaises(InputError) as caught:
                odds(raw)
            self.assertEqual(caught.exception.place, place)

    def test_an_absent_organ_is_not_seen_by_it(self) -> None:
        case = {
            "on": "2026-07-01",
            "observations": [
                {"character": "cone.scales", "applies": False},
                {"character": "fruit.kind", "none": True},
            ],
        }
        self.assertEqual(
            [c for c in name_plant(case, shipped_flora())["contradictions"] if "missing" in c["why"]], []
        )

    def test_every_answer_that_is_offered_can_be_given(self) -> None:
        """The outcomes of the next looks of the gold cases, each sent back as a look."""
        flora, tried = shipped_flora(), 0
        for gold in tomllib.loads(FILE.read_text(encoding="utf-8"))["case"][:12]:
            case = case_of(gold)
            for look in name_plant(case, flora)["next_looks"]:
                if flora.characters[look["character"]]["kind"] != "one":
                    continue
                for outcome in look["outcomes"]:
                    told = {"applies": False} if outcome["state"] == NO_SENSE else {"state": outcome["state"]}
                    longer = {
                        **case,
                        "observations": [*case["observations"], {"character": look["character"], **told}],
                    }
                    self.assertTrue(read_case(longer, flora).looks)
                    tried += outcome["state"] == NO_SENSE
        self.assertNotEqual(tried, 0)
