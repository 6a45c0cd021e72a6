"""Work by its stories: the oak, the ashes, the limb on a line; and the checks before work. Common practice
and from memory where no source is named.
"""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.tests.profiles import examples
from jubark_core.tests.work_cases import BRITAIN, FLORA, PATH, PLAY, WANTS, case, fired, held
from jubark_core.work.before import NEVER_PASSED
from jubark_core.work.propose import may_take_step, propose

EXAMPLES = examples(60)


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
        self.assertIn("C2", fired(british)["R06"]["blocked_by"])
        self.assertNotIn(
            "R07", fired({**self.OAK, "host": [{"taxon": "pinus-strobus", "probability": 0.98}]})
        )

    def test_named_hickory_the_proposal_is_gone(self) -> None:
        self.assertNotIn("R07", fired({**self.OAK, "host": [{"taxon": "carya-ovata", "probability": 0.95}]}))

    def test_a_storm_torn_limb_is_an_emergency_that_says_when_it_was_sealed(self) -> None:
        torn = {
            **self.OAK,
            "clearances": [
                {"check": "C5", "by": "Ilka", "on": "2026-06-01"},
                {"check": "C2", "what": "nests", "by": "Bram", "on": "2026-06-10"},
                {"check": "C2", "what": "roosts", "by": "a biologist", "on": "2026-06-09"},
            ],
        }
        job = {
            "case": torn,
            "rule": "R07",
            "on": "2026-06-10",
            "emergency": {"by": "Ilka", "role": "steward", "reason": "torn in a storm"},
        }
        self.assertTrue(may_take_step({**job, "step": "planned"}, FLORA)["allowed"])
        done = may_take_step({**job, "step": "completed"}, FLORA)
        self.assertEqual((done["allowed"], done["refusals"][0][:28]), (False, "Sealed after how many minute"))
        self.assertTrue(may_take_step({**job, "step": "completed", "sealed_minutes": 9}, FLORA)["allowed"])
        without = may_take_step({"case": torn, "rule": "R07", "on": "2026-06-10", "step": "planned"}, FLORA)
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
        applicator = {"check": "C7", "what": "authorised", "by": "applicator", "on": "2026-06-01"}
        assessor = {"check": "C7", "what": "assessor", "by": "assessor", "on": "2026-06-01"}
        for looks, blocked in (
            ([], True),
            ([applicator], True),
            ([assessor], True),
            ([applicator, assessor], False),
        ):
            blocked_by = fired(self.ash(40, clearances=looks))["R25"]["blocked_by"]
            self.assertEqual("C7" in blocked_by, blocked, looks)
        self.assertNotIn("C7", fired(self.ash(20, clearances=[applicator]))["R25"]["blocked_by"])
        sixty = fired(self.ash(60))
        self.assertNotIn("R25", sixty)
        self.assertEqual((sixty["R24"]["equipment"], sixty["R24"]["refuses"]), ("mechanised", ["climb"]))
        self.assertEqual(
            [w["act"] for w in sixty["R24"]["lighter"]], ["restrict", "prune", "brace", "habitat"]
        )

    def test_a_specification_of_a_dead_ash_refuses_to_climb(self) -> None:
        told = may_take_step(
            {
                "case": self.ash(60),
                "rule": "R24",
                "step": "accepted",
                "on": "2026-06-10",
                "equipment": "climb",
            },
            FLORA,
        )
        self.assertFalse(told["allowed"])
        self.assertIn("do not climb it", told["refusals"][0])

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

    def test_felling_waits_for_name_separator_and_second_person(self) -> None:
        proposal = fired(self.ash(60))["R24"]
        name = next(c for c in proposal["checks"] if c["check"] == "C1")
        self.assertTrue(name["open"])
        self.assertIn("separator", name["why"])
        sure = fired(self.ash(60, separators_seen=True, second_person=True))["R24"]
        self.assertNotIn("C1", sure["blocked_by"])


class TheLimbOnALine(unittest.TestCase):
    """An imminent limb rests on an overhead line."""

    LIMB = case(
        "acer-saccharum", risk={"imminent": True, "rating": "extreme"}, on_wires=True, wires_m=0, **WANTS
    )
    EMERGENCY: dict[str, Any] = {
        "by": "Tove",
        "role": "owner",
        "reason": "it may fall",
        "least_work": True,
        "photographed": True,
        "nests_looked_for": True,
        "not_known_protected": True,
    }

    def test_only_keeping_people_out_and_calling_the_operator_are_left(self) -> None:
        found = propose(self.LIMB, FLORA)
        self.assertEqual(
            [text.split(",")[0] for text in found["only"]],
            ["Keep people out", "Call the operator of the line."],
        )
        self.assertEqual({p["rule"] for p in found["proposals"]}, {"R01", "R17"})
        self.assertIn("operator", found["proposals"][0]["do"])

    def test_no_emergency_and_no_role_passes_the_line(self) -> None:
        for role in ("surveyor", "steward", "owner"):
            told = may_take_step(
                {
                    "case": self.LIMB,
                    "rule": "R02",
                    "step": "planned",
                    "on": "2026-06-10",
                    "emergency": self.EMERGENCY | {"role": role},
                },
                FLORA,
            )
            self.assertFalse(told["allowed"])
            self.assertTrue(any(text.startswith("C4 Utilities") for text in told["refusals"]), role)

    def test_the_operators_clearance_opens_it_until_its_end(self) -> None:
        cleared = {
            **self.LIMB,
            "clearances": [
                {
                    "check": "C4",
                    "by": "Line desk",
                    "reference": "OP 7",
                    "on": "2026-06-10",
                    "until": "2026-06-12",
                }
            ],
        }
        for on, allowed in (
            ("2026-06-10", True),
            ("2026-06-11", True),
            ("2026-06-12", False),
            ("2026-06-09", False),
        ):
            told = may_take_step(
                {"case": cleared, "rule": "R02", "step": "planned", "on": on, "emergency": self.EMERGENCY},
                FLORA,
            )
            self.assertEqual(any(text.startswith("C4") for text in told["refusals"]), not allowed, on)
        nameless = {**self.LIMB, "clearances": [{"check": "C4", "by": "Line desk", "on": "2026-06-10"}]}
        told = may_take_step(
            {
                "case": nameless,
                "rule": "R02",
                "step": "planned",
                "on": "2026-06-10",
                "emergency": self.EMERGENCY,
            },
            FLORA,
        )
        self.assertFalse(told["allowed"], "a clearance without its reference is none")

    @EXAMPLES
    @given(
        st.fixed_dictionaries(
            {
                key: st.booleans()
                for key in (
                    "least_work",
                    "photographed",
                    "nests_looked_for",
                    "roost_possible",
                    "not_known_protected",
                )
            }
        ),
        st.sampled_from(["planned", "started", "completed"]),
    )
    def test_no_emergency_whatever_it_says_passes_a_line_or_held_wood(
        self, said: dict[str, bool], step: str
    ) -> None:
        held_wood = {**self.LIMB, "held_wood": True}
        told = may_take_step(
            {
                "case": held_wood,
                "rule": "R02",
                "step": step,
                "on": "2026-06-10",
                "emergency": {"by": "x", "role": "owner", "reason": "y", **said},
            },
            FLORA,
        )
        for check in NEVER_PASSED:
            self.assertTrue(any(text.startswith(check) for text in told["refusals"]))


class Checks(unittest.TestCase):
    def test_nests_are_looked_for_within_48_hours_and_roosts_by_area(self) -> None:
        def open_(on: str, looked: str | None, **more: Any) -> bool:
            clearances = [{"check": "C2", "what": "nests", "by": "Bram", "on": looked}] if looked else []
            given_ = case(
                defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}],
                clearances=clearances,
                **more,
            )
            told = may_take_step({"case": given_, "rule": "R06", "step": "started", "on": on}, FLORA)
            return next(c["open"] for c in told["checks"] if c["check"] == "C2")

        self.assertTrue(open_("2026-12-10", None))
        self.assertFalse(open_("2026-12-10", "2026-12-09"))
        self.assertTrue(open_("2026-12-10", "2026-12-01"))
        self.assertTrue(open_("2026-07-10", "2026-07-09"))  # roosts, outside the open season of the area
        self.assertTrue(open_("2026-12-10", "2026-12-09", **BRITAIN))  # a licensed assessor at every date

    def test_a_job_is_planned_weeks_ahead_of_the_look_for_nests_but_not_of_a_roost_survey(self) -> None:
        """A look made now would be too old on the day: it is asked for at the start, never before it."""
        cases = (
            # day of the case, day planned for, area -> open, later
            ("2026-11-10", "2027-01-12", {}, False, True),
            ("2026-11-16", "2026-11-19", {}, False, True),
            ("2026-11-16", "2026-11-18", {}, True, False),
            ("2026-11-10", "2026-11-13", {}, True, False),
            ("2026-11-10", "2027-07-12", {}, True, False),  # roosts: outside the area's open season
            ("2026-11-10", "2027-01-12", BRITAIN, True, False),
        )
        for day, on, area, is_open, is_later in cases:
            with self.subTest(day=day, on=on, area=area.get("areas")):
                given_ = case(
                    on=day, defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}], **area
                )
                answers = {
                    step: may_take_step({"case": given_, "rule": "R06", "step": step, "on": on}, FLORA)
                    for step in ("planned", "started", "completed")
                }
                nests = {
                    step: next(c for c in answer["checks"] if c["check"] == "C2")
                    for step, answer in answers.items()
                }
                self.assertEqual((nests["planned"]["open"], nests["planned"]["later"]), (is_open, is_later))
                for step in ("started", "completed"):
                    self.assertEqual((nests[step]["open"], nests[step]["later"]), (True, False))

    def test_consent_has_its_lead_time_and_wood_under_a_hold_its_route(self) -> None:
        protected = fired(case(risk={"rating": "high"}, protected=["protected"], **BRITAIN))["R03"]
        consent = next(c for c in protected["checks"] if c["check"] == "C3")
        self.assertEqual((consent["open"], consent["lead_weeks"]), (True, 8))
        held_wood = case("fraxinus-americana", life="standing_dead", targets=PATH, held_wood=True)
        self.assertIn("C6", fired(held_wood)["R24"]["blocked_by"])
        self.assertNotIn(
            "C6", fired({**held_wood, "disposal_route": "chipped on the site"})["R24"]["blocked_by"]
        )

    def test_a_veteran_is_never_proposed_for_felling(self) -> None:
        old = case("fraxinus-americana", stage="veteran", life="standing_dead", targets=PATH)
        self.assertNotIn("R24", fired(old))
        self.assertIn("Veteran", held(old)["R24"])

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
