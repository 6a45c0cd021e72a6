"""Work by its stories: the oak, the ashes, the limb on a line; and the checks before work. Common practice
and from memory where no source is named.
"""

from __future__ import annotations

import unittest
from typing import Any

from jubark_core.errors import InputError
from jubark_core.tests.work_cases import (
    BEN,
    BRITAIN,
    FLORA,
    PATH,
    PEOPLE,
    PLAY,
    WANTS,
    asked,
    case,
    fired,
    held,
    ready,
    told,
)
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.propose import propose


class TheOak(unittest.TestCase):
    """Quercus at the genus, oak wilt in the county, 10 June."""

    OAK = case(
        "quercus",
        probability=0.98,
        causes_km={"oak-wilt": 12},
        targets=PLAY,
        defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}],
        **WANTS,
    )

    def test_live_pruning_moves_to_winter_and_dead_wood_stays_in_june(self) -> None:
        found = fired(self.OAK)
        self.assertEqual(
            (found["R07"]["season"]["begins"], found["R07"]["season"]["ends"]), ("2026-11-01", "2027-03-31")
        )
        self.assertEqual(
            (found["R07"]["season"]["never_from"], found["R07"]["season"]["never_to"]),
            ("2026-04-01", "2026-07-31"),
        )
        self.assertIsNone(found["R06"]["season"])
        self.assertIn("no live cut", found["R06"]["do"])

    def test_in_britain_no_such_window_and_on_a_pine_nothing_of_this(self) -> None:
        british = {**self.OAK, **BRITAIN}
        self.assertNotIn("R07", fired(british))
        self.assertIn("C2b", fired(british)["R06"]["blocked_by"])
        self.assertNotIn(
            "R07", fired({**self.OAK, "host": [{"taxon": "pinus-strobus", "probability": 0.98}]})
        )

    def test_named_hickory_the_proposal_is_gone(self) -> None:
        self.assertNotIn("R07", fired({**self.OAK, "host": [{"taxon": "carya-ovata", "probability": 0.95}]}))

    def test_a_storm_torn_limb_is_an_emergency_that_says_when_it_was_sealed(self) -> None:
        torn = {**self.OAK, **ready(), "risk": {"imminent": True}}
        emergency = {"lead": BEN, "reason": "torn in a storm", "danger": "on_record", "least_work": True}
        more = {"emergency": {**emergency, "photographed": True}}
        self.assertTrue(asked(torn, "R07", "planned", **more)["allowed"])
        done = asked(torn, "R07", "completed", **more)
        self.assertEqual((done["allowed"], done["refusals"][0][:28]), (False, "Sealed after how many minute"))
        self.assertTrue(asked(torn, "R07", "completed", sealed_minutes=9, **more)["allowed"])
        late = asked(torn, "R07", "completed", sealed_minutes=40, **more)
        self.assertEqual(
            (late["allowed"], late["flagged"]), (True, ["Sealed after 40 minutes, not within 15."])
        )
        without = asked(torn, "R07", "planned")
        self.assertTrue(any("Not in this season" in text for text in without["refusals"]))


class TheAshes(unittest.TestCase):
    """Borer 8 km away, PEN: crown loss 20, 40 and 60 %, a blue ash, a mountain-ash."""

    NEAR: dict[str, Any] = {"causes_km": {"emerald-ash-borer": 8}, "targets": PATH, "height_m": 18}

    def ash(self, loss: float, **more: Any) -> dict[str, Any]:
        return case("fraxinus-americana", crown_loss_percent=loss, **self.NEAR, **more)

    def method(self, given_: dict[str, Any]) -> str:
        return next(c["why"] for c in fired(given_)["R25"]["checks"] if c["check"] == "C7")

    def test_treat_twenty_forty_only_with_an_assessor_and_fell_sixty_by_machine(self) -> None:
        self.assertIn("R25", fired(self.ash(20)))
        forty = fired(self.ash(40))["R25"]
        self.assertIn("C7", forty["blocked_by"])
        self.assertIn("an assessor agrees (over 30 % of loss)", self.method(self.ash(40)))
        applicator = told("applicator", answered=["water", "bees", "neighbours"])
        assessor = told("assessor_agrees", BEN)
        for looks, blocked in (
            ([], True),
            ([applicator], True),
            ([assessor], True),
            ([{**applicator, "person": BEN}, assessor], True),  # whose papers show no such licence
            ([{**applicator, "answered": ["water"]}, assessor], True),
            ([applicator, assessor], False),
        ):
            blocked_by = fired(self.ash(40, evidence=looks, people=PEOPLE))["R25"]["blocked_by"]
            self.assertEqual("C7" in blocked_by, blocked, looks)
        twenty = fired(self.ash(20, evidence=[applicator], people=PEOPLE))["R25"]
        self.assertNotIn("C7", twenty["blocked_by"])
        sixty = fired(self.ash(60))
        self.assertNotIn("R25", sixty)
        self.assertEqual((sixty["R24"]["equipment"], sixty["R24"]["refuses"]), ("mechanised", ["climb"]))
        self.assertEqual(
            [w["act"] for w in sixty["R24"]["lighter"]], ["restrict", "prune", "brace", "habitat"]
        )

    def test_a_blue_ash_is_watched_and_a_mountain_ash_has_nothing(self) -> None:
        blue = fired(case("fraxinus-quadrangulata", crown_loss_percent=10, **self.NEAR))
        self.assertEqual(set(blue), {"R25W"})
        self.assertEqual(fired(case("sorbus-americana", crown_loss_percent=60, **self.NEAR)), {})

    def test_in_britain_no_injection_is_proposed(self) -> None:
        british = {**self.ash(20), **BRITAIN}
        self.assertNotIn("R25", fired(british))
        self.assertIn("not authorised", held(british)["R25"])

    def test_a_refused_proposal_comes_back_only_when_its_facts_change(self) -> None:
        refused = {"R25": fired(self.ash(20))["R25"]["facts"]}
        self.assertEqual(
            held(self.ash(20, on="2026-09-01", refused=refused))["R25"], "Refused on the same facts."
        )
        back = self.ash(35, refused=refused)
        self.assertIn("R25", fired(back))


class TheLimbOnALine(unittest.TestCase):
    """An imminent limb rests on an overhead line."""

    LIMB = case(
        "acer-saccharum", risk={"imminent": True, "rating": "extreme"}, on_wires=True, wires_m=0, **WANTS
    )

    def test_only_keeping_people_out_and_calling_the_operator_are_left(self) -> None:
        found = propose(self.LIMB, FLORA)
        self.assertEqual(
            [text.split(",")[0] for text in found["only"]],
            ["Keep people out", "Call the operator of the line."],
        )
        self.assertEqual({p["rule"] for p in found["proposals"]}, {"R01", "R17"})
        self.assertIn("operator", found["proposals"][0]["do"])


class Proposals(unittest.TestCase):
    def test_a_veteran_is_never_proposed_for_felling(self) -> None:
        old = case("fraxinus-americana", stage="veteran", crown_loss_percent=60, targets=PATH)
        self.assertNotIn("R24", fired(old))
        self.assertIn("Veteran", held(old)["R24"])

    def test_notes_of_habitat_hide_no_danger_and_bring_the_lighter_answers(self) -> None:
        """A cavity noted as habitat or as a defect: the same proposals; a hole in it makes no veteran."""
        dead = {"life": "standing_dead", "targets": PATH, "height_m": 18}
        limb = {"defect": "dead_limb", "break_cm": 12, "over_target": True}
        noted = case(
            "fraxinus-americana", habitats=["trunk_cavity", "woodpecker_hole"], defects=[limb], **dead
        )
        found = case("fraxinus-americana", defects=[limb, {"defect": "cavity"}], **dead)
        for given_ in (noted, found):
            told_ = fired(given_)
            self.assertLessEqual({"R06", "R24"}, set(told_))
            self.assertNotIn("R22", told_)
            self.assertIn("C2b", told_["R24"]["blocked_by"])
            self.assertIn("cavity", told_["R24"]["lighter"][-1]["says"])
            self.assertTrue(told_["R06"]["lighter"])
        self.assertTrue(fired(noted)["R24"]["do"].startswith("Close or move the target at once"))

    def test_elm_within_three_weeks_its_wood_too_and_oak_wilt_by_trench_then_winter(self) -> None:
        sick = {"probability": 0.95, "standing": "confirmed"}
        elm = case("ulmus-americana", on="2026-06-16", diagnoses=[{"agent": "dutch-elm-disease", **sick}])
        told_ = fired({**elm, "confirmed_on": "2026-06-15"})["R27E"]
        self.assertEqual(
            (told_["latest_on"], told_["within_days"], told_["season"]), ("2026-07-06", 20, None)
        )
        job = {**elm, **ready("2026-07-07T06:00:00-04:00"), "confirmed_on": "2026-06-15"}
        for part, first, on, refused in (
            ("", None, "2026-07-06", False),
            ("", None, "2026-07-07", True),
            ("wood gone", "2026-07-01", "2026-07-06", False),
            ("wood gone", "2026-07-01", "2026-07-07", True),
        ):
            answer = asked(job, "R27E", "planned", part=part, first_part_on=first, on=on)
            late = [text for text in answer["refusals"] if "by 2026-07-06" in text]
            self.assertEqual(bool(late), refused, (part, on))
        oak = case("quercus-rubra", on="2026-06-16", diagnoses=[{"agent": "oak-wilt", **sick}])
        wilt = fired({**oak, "confirmed_on": "2026-06-15"})["R27"]
        self.assertEqual((wilt["acts"], wilt["season"]["begins"]), (["dig", "cut_roots"], "2026-10-01"))
        self.assertIn("C4b", wilt["blocked_by"])

    def test_bad_cases_name_their_place(self) -> None:
        for change, place in (
            ({"host": [{"taxon": "nix"}]}, "host[0].taxon"),
            ({"areas": ["XXX"]}, "areas[0]"),
            ({"diagnoses": [{"agent": "flu", "probability": 1}]}, "diagnoses[0].agent"),
            ({"causes_km": {"flu": 1}}, "causes_km.flu"),
            ({"planted_on": "spring"}, "planted_on"),
        ):
            with self.assertRaises(InputError) as caught:
                propose(case() | change, FLORA)
            self.assertEqual(caught.exception.place, place)
        with self.assertRaises(InputError) as caught:
            may_take_step({"case": case(), "rule": "R99", "step": "planned", "on": "2026-06-10"}, FLORA)
        self.assertEqual(caught.exception.place, "rule")
