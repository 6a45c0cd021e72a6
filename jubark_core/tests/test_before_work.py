"""Checks before work, act by act, and the steps of a job. Rules of areas are from memory of published rules,
as their data file says; the rest is common practice.
"""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.tests.profiles import examples
from jubark_core.tests.work_cases import (
    ANA,
    BAT,
    BEN,
    BRITAIN,
    CREW,
    EVERY_ACT,
    FIRM,
    FLORA,
    FOX,
    LENA,
    PATH,
    PEOPLE,
    asked,
    case,
    everything,
    open_checks,
    ready,
    told,
)
from jubark_core.work.before.acts import acts, named_in
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.load import work_rules

EXAMPLES = examples(80)
MELBOURNE: dict[str, Any] = {"lat": -37.8, "lon": 145.0, "areas": ["VIC"]}
MORNING = "T08:00:00-04:00"
ASH = "fraxinus-americana"
DEAD: dict[str, Any] = {"life": "standing_dead", "targets": PATH, "height_m": 18}
DAY = "2026-12-10"


def without(*kinds: str, at: str = f"{DAY}T06:00:00-04:00") -> list[dict[str, Any]]:
    return [row for row in everything(at) if row["kind"] not in kinds]


def tree(on: str = DAY, **more: Any) -> dict[str, Any]:
    """A tree whose every check is closed in the morning of the day, but for what is said."""
    return case("acer-saccharum", on=on, **{**ready(f"{on}T06:00:00-04:00"), "targets": PATH, **more})


class EachCheck(unittest.TestCase):
    """What closes it, and what looks as if it did."""

    def assert_check(self, check: str, acts_: list[str], rows: Any) -> None:
        for name, changes, is_open in rows:
            with self.subTest(check=check, case=name):
                more = changes.pop("job", {})
                answer = asked(tree(**changes), "OTHER", acts=acts_, **more)
                self.assertEqual(check in open_checks(answer), is_open, answer["checks"])
                self.assertEqual(answer["allowed"], not answer["refusals"])

    def test_every_act_with_everything_closed_may_begin_and_with_nothing_is_refused(self) -> None:
        for act in acts().values():
            answer = asked(tree(), "OTHER", acts=[act.id])
            self.assertEqual((answer["allowed"], answer["refusals"]), (True, []), act.id)
            bare = asked(case("acer-saccharum", on=DAY), "OTHER", acts=[act.id], crew="")
            closed_by_nothing = [c["check"] for c in bare["checks"] if not c["open"]]
            self.assertEqual([c["check"] for c in bare["checks"]], list(act.checks), act.id)
            expected = [c for c in closed_by_nothing if c not in ("C6", "C7", "C2b")]
            self.assertEqual(expected, [], act.id)  # unknown is open

    def test_name(self) -> None:
        second = told("second_person", BEN, f"{DAY}T06:00:00-04:00")
        self.assert_check(
            "C1",
            ["fell"],
            [
                ("a second person", {}, False),
                ("nobody", {"evidence": without("second_person")}, True),
                ("the namer", {"namer": BEN}, True),
                ("no picture", {"evidence": [*without("second_person"), {**second, "reference": ""}]}, True),
                (
                    "a guess",
                    {"named_by_person": False, "host": [{"taxon": "acer-saccharum", "probability": 0.9}]},
                    True,
                ),
                (
                    "sure and separated is no second person",
                    {"separators_seen": True, "evidence": without("second_person")},
                    True,
                ),
                (
                    "a dead tree, by somebody competent",
                    {
                        "life": "standing_dead",
                        "evidence": [*without("second_person"), told("not_known_protected", BEN)],
                    },
                    False,
                ),
                (
                    "a dead tree, by anybody",
                    {
                        "life": "standing_dead",
                        "evidence": [*without("second_person"), told("not_known_protected", ANA)],
                    },
                    True,
                ),
                (
                    "a living tree",
                    {"evidence": [*without("second_person"), told("not_known_protected", BEN)]},
                    True,
                ),
            ],
        )

    def test_nests_by_the_clock_and_by_whom(self) -> None:
        """At home a start at 8:00 on 10 December: 48 hours before is 8:00 on 8 December."""
        rest = without("nest_look")

        def look(at: str, person: str = ANA, **more: Any) -> dict[str, Any]:
            return {"evidence": [*rest, told("nest_look", person, at, **{"result": "none", **more})]}

        self.assert_check(
            "C2a",
            ["cut_live"],
            [
                ("50 hours", look("2026-12-08T06:00:00-04:00"), True),
                ("47 hours", look("2026-12-08T09:00:00-04:00"), False),
                ("after the start", look("2026-12-10T08:01:00-04:00"), True),
                ("in another zone", look("2026-12-08T13:00:00+00:00"), False),
                ("nobody of the crew", look("2026-12-09T09:00:00-04:00", LENA), True),
                ("an ecologist", look("2026-12-09T09:00:00-04:00", BAT), False),
                ("found one", look("2026-12-09T09:00:00-04:00", result="in_use"), True),
                ("of another job", look("2026-12-09T09:00:00-04:00", job="another"), True),
                (
                    "seen in use since",
                    {**look("2026-12-09T09:00:00-04:00"), "nest_in_use_at": "2026-12-09T12:00:00-04:00"},
                    True,
                ),
                (
                    "empty since",
                    {**look("2026-12-09T13:00:00-04:00"), "nest_in_use_at": "2026-12-09T12:00:00-04:00"},
                    False,
                ),
            ],
        )

    def test_each_day_counts_as_a_start(self) -> None:
        early = {
            "evidence": [
                *without("nest_look"),
                told("nest_look", at="2026-12-10T07:00:00-04:00", result="none"),
            ]
        }
        done = {"step": "completed", "at": "2026-12-10T16:00:00-04:00"}
        begun = asked(tree(**early), "OTHER", acts=["cut_live"], **done, begun_at="2026-12-10T08:00:00-04:00")
        self.assertTrue(begun["allowed"], begun["refusals"])
        late = {
            "evidence": [
                *without("nest_look"),
                told("nest_look", at="2026-12-10T09:00:00-04:00", result="none"),
            ]
        }
        after = asked(tree(**late), "OTHER", acts=["cut_live"], **done, begun_at="2026-12-10T08:00:00-04:00")
        self.assertIn("C2a", open_checks(after))
        never = asked(tree(**early), "OTHER", acts=["cut_live"], **done, begun_at=None)
        self.assertIn("Each working day counts as a start", never["refusals"][0])

    def test_consent(self) -> None:
        rest = without("look_up")
        order = {"protected": ["protected"]}

        def given_(kind: str, **more: Any) -> dict[str, Any]:
            return {**order, "evidence": [*rest, told(kind, acts=["fell"], **more)]}

        self.assert_check(
            "C3",
            ["fell"],
            [
                ("nobody looked", {"evidence": rest}, True),
                (
                    "looked up 11 months ago",
                    {"evidence": [*rest, told("look_up", at="2026-01-15T06:00:00-04:00", result="none")]},
                    False,
                ),
                (
                    "looked up 13 months ago",
                    {"evidence": [*rest, told("look_up", at="2025-11-01T06:00:00-04:00", result="none")]},
                    True,
                ),
                (
                    "the look-up says it applies",
                    {"evidence": [*rest, told("look_up", result="applies")]},
                    True,
                ),
                ("an order, looked up or not", order, True),
                ("permission", given_("permission", until="2027-01-01"), False),
                (
                    "permission for another act",
                    {**order, "evidence": [*rest, told("permission", acts=["cut_live"], until="2027-01-01")]},
                    True,
                ),
                (
                    "permission of 2015",
                    given_("permission", at="2015-03-01T06:00:00-04:00", until="2017-03-01"),
                    True,
                ),
                ("permission not begun", given_("permission", begins="2026-12-11", until="2027-01-01"), True),
                ("a notice does not do for an order", given_("notice", at="2026-01-01T06:00:00-04:00"), True),
                ("an exemption for a sound tree", given_("exemption", at="2026-12-01T06:00:00-04:00"), True),
            ],
        )

    def test_notice_and_exemption_in_britain(self) -> None:
        """Six weeks without an order, good for two years; five working days for a dead tree (Town and Country
        Planning Act 1990, s. 211; Tree Preservation (England) Regulations 2012; from memory)."""
        rest = without("look_up")
        for name, kind, asked_on, more, is_open in (
            ("after six weeks", "notice", "2026-10-28", {}, False),
            ("a day early", "notice", "2026-10-30", {}, True),
            ("after two years", "notice", "2024-12-01", {}, True),
            ("an order", "notice", "2026-10-28", {"protected": ["protected"]}, True),
            ("dead, five working days", "exemption", "2026-12-03", {"life": "standing_dead"}, False),
            ("dead, four days", "exemption", "2026-12-06", {"life": "standing_dead"}, True),
        ):
            with self.subTest(name):
                evidence = [
                    *rest,
                    told(kind, at=f"{asked_on}T06:00:00+00:00", acts=["cut_live"], asked_on=asked_on),
                ]
                given_ = tree(**{"protected": ["conservation_area"], **BRITAIN, "evidence": evidence, **more})
                self.assertEqual("C3" in open_checks(asked(given_, "OTHER", acts=["cut_live"])), is_open)

    def test_lines_and_services(self) -> None:
        rest = without("line_look")
        near = {"wires_m": 2.0}

        def given_(kind: str, **more: Any) -> dict[str, Any]:
            return {**near, "evidence": [*rest, told(kind, **{"until": "2026-12-20", **more})]}

        self.assert_check(
            "C4",
            ["cut_dead"],
            [
                ("looked on the day", {"height_m": 5}, False),
                ("nobody looked", {"evidence": rest}, True),
                (
                    "looked the day before",
                    {"evidence": [*rest, told("line_look", at="2026-12-09T06:00:00-04:00", result="none")]},
                    True,
                ),
                ("a line on record in reach of the fall", {"wires_m": 11.0, "height_m": 12}, True),
                ("a line on record beyond it", {"wires_m": 13.0, "height_m": 12}, False),
                ("a line, and a look that says none", near, True),
                ("isolation", given_("isolation", begins="2026-12-10"), False),
                ("isolation without its end", given_("isolation", until=None), True),
                ("isolation that is over", given_("isolation", until="2026-12-10"), True),
                ("isolation without reference", given_("isolation", reference=""), True),
                (
                    "gas for electricity",
                    {**near, "evidence": [*rest, told("services_located", until="2026-12-20")]},
                    True,
                ),
                ("a standing authorisation", given_("standing_authorisation"), True),
                (
                    "and a crew qualified for it",
                    {**given_("standing_authorisation"), "job": {"line_clearance": True}},
                    False,
                ),
            ],
        )
        self.assert_check(
            "C4b",
            ["dig"],
            [
                ("located", {}, False),
                (
                    "a line's isolation",
                    {"evidence": [*without("services_located"), told("isolation", until="2026-12-20")]},
                    True,
                ),
                (
                    "too long ago",
                    {
                        "evidence": [
                            *without("services_located"),
                            told("services_located", until="2026-12-01"),
                        ]
                    },
                    True,
                ),
            ],
        )

    def test_owner_traffic_held_wood_and_method(self) -> None:
        rest = without("owner_look_up")
        self.assert_check(
            "C5",
            ["cut_live"],
            [
                ("own by the look-up", {}, False),
                ("own on record", {"evidence": rest, "owner": "own"}, False),
                ("nobody looked", {"evidence": rest}, True),
                ("private, looked up as own", {"owner": "private"}, True),
                ("private, agreed", {"owner": "private", "evidence": [*rest, told("agreement")]}, False),
                ("a boundary", {"boundary": True, "owner": "own"}, True),
                ("a boundary, by right", {"boundary": True, "evidence": [*rest, told("right")]}, False),
            ],
        )
        self.assert_check(
            "C8",
            ["machine"],
            [
                ("a plan", {}, False),
                ("none", {"evidence": without("closure_plan")}, True),
                ("nothing below", {"evidence": without("closure_plan"), "targets": []}, False),
                ("nobody knows what is below", {"evidence": without("closure_plan"), "targets": PATH}, True),
                (
                    "the crew's own cordon",
                    {"evidence": [*without("closure_plan"), told("cordon", at=f"{DAY}T07:00:00-04:00")]},
                    False,
                ),
                (
                    "a cordon of the day before",
                    {"evidence": [*without("closure_plan"), told("cordon", at="2026-12-09T07:00:00-04:00")]},
                    True,
                ),
            ],
        )
        permission = told("officer_permission")
        self.assert_check(
            "C6",
            ["move_wood"],
            [
                ("no hold", {}, False),
                ("a hold", {"held_wood": True}, True),
                ("a route in words", {"held_wood": True, "job": {"route": "chipped"}}, True),
                (
                    "and the officer's permission",
                    {"held_wood": True, "evidence": [permission], "job": {"route": "chipped"}},
                    False,
                ),
                ("the permission alone", {"held_wood": True, "evidence": [permission]}, True),
            ],
        )

    def test_crew(self) -> None:
        named = told("names_given", at=f"{DAY}T07:00:00-04:00")
        self.assert_check(
            "C9",
            ["climb"],
            [
                ("of the site", {}, False),
                ("nobody's", {"job": {"crew": "Crew 9"}}, True),
                ("none", {"job": {"crew": ""}}, True),
                ("one alone", {"crews": {CREW: [ANA]}}, True),
                (
                    "two who can both",
                    {"people": {ANA: [{"skill": "climbing"}], BEN: [{"skill": "climbing"}]}},
                    False,
                ),
                (
                    "over the day before",
                    {
                        "people": {
                            **PEOPLE,
                            ANA: [{"skill": "climbing", "until": "2026-12-09"}],
                            BEN: [{"skill": "rescue"}],
                        }
                    },
                    True,
                ),
                (
                    "a contractor",
                    {"evidence": [*without(), named], "job": {"crew": "Crew 9", "contractor": FIRM}},
                    False,
                ),
                ("whose people nobody named", {"job": {"contractor": FIRM}}, True),
                (
                    "a contact without papers",
                    {"evidence": [*without(), named], "job": {"contractor": FOX}},
                    True,
                ),
                ("a decayed tree", {"defects": [{"defect": "cavity"}]}, False),
                (
                    "and nobody's finding",
                    {"defects": [{"defect": "cavity"}], "evidence": without("climb_finding")},
                    True,
                ),
            ],
        )

    def test_roosts_by_area(self) -> None:
        """A dead ash with loose bark and a cavity, noted as habitat or as defect."""
        hollow = {"habitats": ["loose_bark", "trunk_cavity"]}
        defect = {"defects": [{"defect": "cavity"}]}
        rest = without("hollow_look", "roost_assessment")

        def assessed(person: str, **more: Any) -> list[dict[str, Any]]:
            return [
                *rest,
                told("roost_assessment", person, **{"result": "none", "until": "2030-01-01", **more}),
            ]

        look = [*rest, told("hollow_look", at=f"{DAY}T06:00:00-04:00", result="none")]
        trained = [*rest, told("roost_look", at=f"{DAY}T06:00:00-04:00", result="none")]
        hidden = [*rest, told("roost_look", at=f"{DAY}T06:00:00-04:00", result="hidden_parts")]
        summer = "2026-07-10"
        for name, on, place, more, is_open in (
            ("home, in the season, into the hollow", DAY, {}, {**hollow, "evidence": look}, False),
            ("home, in the season, not looked into", DAY, {}, {**hollow, "evidence": rest}, True),
            ("home, in the season, the cavity a defect", DAY, {}, {**defect, "evidence": rest}, True),
            ("home, in the season, nothing to look into", DAY, {}, {"evidence": rest}, False),
            ("home, in summer, the look", summer, {}, {**hollow, "evidence": look}, True),
            ("home, in summer, a biologist", summer, {}, {**hollow, "evidence": assessed(FOX)}, False),
            ("home, in summer, a bat ecologist", summer, {}, {**hollow, "evidence": assessed(BAT)}, True),
            ("home, in summer, over", summer, {}, {"evidence": assessed(FOX, until="2026-07-10")}, True),
            ("home, in summer, no reference", summer, {}, {"evidence": assessed(FOX, reference="")}, True),
            ("britain, a trained look and a hollow", DAY, BRITAIN, {**hollow, "evidence": trained}, True),
            ("britain, a trained look at a whole tree", DAY, BRITAIN, {"evidence": trained}, False),
            ("britain, parts hidden", DAY, BRITAIN, {"evidence": hidden}, True),
            ("britain, the crew's look", DAY, BRITAIN, {"evidence": look}, True),
            ("britain, a bat ecologist", DAY, BRITAIN, {**hollow, "evidence": assessed(BAT)}, False),
            ("britain, her licence over", "2028-01-10", BRITAIN, {**hollow, "evidence": assessed(BAT)}, True),
            ("britain, a nest look", DAY, BRITAIN, {**hollow, "evidence": rest}, True),
            ("victoria, hollows", DAY, MELBOURNE, {**hollow, "evidence": look}, True),
            ("victoria, a fauna check", DAY, MELBOURNE, {**hollow, "evidence": assessed(FOX)}, False),
            ("victoria, no hollow", DAY, MELBOURNE, {"evidence": look}, False),
            ("nowhere known", DAY, {"areas": ["KOR"]}, {"evidence": look}, True),
        ):
            with self.subTest(name):
                dead = case(ASH, on=on, **{**ready(), **DEAD, **place, **more})
                answer = asked(dead, "R24", equipment="mechanised", at=f"{on}{MORNING}")
                self.assertEqual("C2b" in open_checks(answer), is_open, answer["checks"])


class Steps(unittest.TestCase):
    def test_they_follow_on_each_other(self) -> None:
        for stage, step, may in (
            ("", "accepted", True),
            ("", "planned", False),
            ("", "started", False),
            ("", "completed", False),
            ("accepted", "planned", True),
            ("accepted", "accepted", False),
            ("planned", "started", True),
            ("planned", "completed", False),
            ("started", "completed", True),
            ("started", "started", True),
            ("stopped", "completed", False),
            ("stopped", "started", True),
        ):
            told_ = asked(tree(), "OTHER", step, acts=["cut_dead"], stage=stage)
            self.assertEqual(told_["allowed"], may, (stage, step, told_["refusals"]))
        self.assertTrue(asked(tree(), "R01", "completed", stage="")["allowed"])  # nothing is asked for it

    def test_a_change_is_judged_with_the_change(self) -> None:
        oak = case("quercus-rubra", on=DAY, **{**ready(f"{DAY}T06:00:00-04:00"), "targets": PATH})
        for more, said in (
            ({"equipment": "climb", "crew": "Crew 9"}, "C9"),
            ({"acts": ["fell", "cut_live"], "evidence": without("second_person")}, "C1"),
            ({"on": "2027-06-10"}, "Not in this season"),
            ({"latest_on": "2026-12-01"}, "to be done by 2026-12-01"),
        ):
            evidence = more.pop("evidence", None)
            given_ = {**oak, **({"evidence": evidence} if evidence else {})}
            answer = asked(given_, "R18", "changed", stage="planned", **more)
            self.assertTrue(any(said in text for text in answer["refusals"]), (said, answer["refusals"]))

    def test_no_rule_is_a_way_round(self) -> None:
        """Whatever rule names the act, its checks are asked for."""
        bare = case("acer-saccharum", on=DAY, targets=PATH)
        for rule in work_rules().rules:
            answer = asked(bare, rule, acts=["fell", "climb"])
            self.assertLessEqual({"C1", "C2a", "C3", "C4", "C5", "C8", "C9"}, set(open_checks(answer)), rule)

    def test_dead_ash_is_climbed_under_no_rule_at_no_step(self) -> None:
        dead = case(ASH, on=DAY, **{**ready(f"{DAY}T06:00:00-04:00"), **DEAD})
        emergency = {
            "lead": BEN,
            "reason": "now",
            "danger": "on_record",
            "least_work": True,
            "photographed": True,
        }
        for rule in work_rules().rules:
            for step, stage in (
                ("accepted", ""),
                ("changed", "planned"),
                ("planned", "accepted"),
                ("started", "planned"),
            ):
                for how in ({"equipment": "climb"}, {"acts": ["climb"]}):
                    answer = asked(dead, rule, step, stage=stage, emergency=emergency, **how)
                    self.assertTrue(
                        any("not climbed" in text for text in answer["refusals"]), (rule, step, how)
                    )
        self.assertTrue(asked(dead, "R24", "started", equipment="mechanised")["allowed"])

    def test_what_happened_is_recorded_with_what_stood_against_it(self) -> None:
        bare = case("acer-saccharum", on=DAY, targets=PATH, on_wires=True, wires_m=0.0)
        said = {"though_held_by": "the utility, at night", "though_why": "live wire on the road"}
        answer = asked(bare, "R02", "completed", stage="", happened=True, **said)
        self.assertTrue(answer["allowed"])
        self.assertIn("the utility, at night: live wire on the road", answer["flagged"][0])
        self.assertTrue(any("The tree is on a line" in text for text in answer["flagged"]))
        self.assertFalse(asked(bare, "R02", "planned", happened=True, **said)["allowed"])  # that is no deed

    def test_wording_that_names_an_act_is_asked_about(self) -> None:
        answer = asked(tree(), "R06", "planned", do="Fell the tree and climb for the rest")
        self.assertEqual([text.split("'")[1] for text in answer["asks"]], ["climb", "fell"])
        self.assertEqual(named_in("It is well kept"), set())

    def test_live_cuts_are_sealed_where_that_is_practice(self) -> None:
        """Oak in June at home; the same oak in London, and in December, asks for nothing."""
        for on, place, seals in (("2026-06-10", {}, True), ("2026-06-10", BRITAIN, False), (DAY, {}, False)):
            oak = case("quercus-rubra", on=on, **{**ready(f"{on}T06:00:00-04:00"), "targets": PATH, **place})
            answer = asked(oak, "R03", "completed")
            missing = any("Sealed after" in text for text in answer["refusals"])
            self.assertEqual(missing, seals, (on, place))


class Emergencies(unittest.TestCase):
    DANGER: dict[str, Any] = {"risk": {"imminent": True, "rating": "extreme"}}
    SAID: dict[str, Any] = {
        "lead": BEN,
        "reason": "it is coming down",
        "danger": "on_record",
        "least_work": True,
        "photographed": True,
        "nests_looked_for": True,
        "not_known_protected": True,
    }

    def test_who_may_name_one_and_for_what(self) -> None:
        for name, more, said, may in (
            ("on record", self.DANGER, {}, True),
            ("no danger", {}, {}, False),
            ("a rule of danger without one", {}, {"rule": "R02"}, False),
            ("ordered", {}, {"danger": "ordered", "ordered_by": "duty officer 4"}, True),
            ("ordered by nobody", {}, {"danger": "ordered"}, False),
            ("by anybody", self.DANGER, {"lead": ANA}, False),
            ("by nobody", self.DANGER, {"lead": ""}, False),
            ("for no reason", self.DANGER, {"reason": " "}, False),
            ("for more than it takes", self.DANGER, {"least_work": False}, False),
        ):
            evidence = without("second_person", "nest_look", "look_up", "owner_look_up")
            given_ = tree(evidence=evidence, **more)
            rule = said.pop("rule", "R06")
            answer = asked(given_, rule, acts=["cut_dead"], emergency={**self.SAID, **said})
            self.assertEqual(answer["allowed"], may, (name, answer["refusals"]))

    def test_photographs_or_why_there_are_none(self) -> None:
        said = {**self.SAID, "photographed": False}
        for more, may in (({}, False), ({"no_photograph": "at night, no light"}, True)):
            answer = asked(tree(**self.DANGER), "R02", "completed", emergency={**said, **more})
            self.assertEqual(answer["allowed"], may, answer["refusals"])

    def test_a_nest_or_a_roost_is_for_the_licensed_role_unless_nobody_is_to_be_had(self) -> None:
        nest = {"nest_in_use_at": "2026-12-09T12:00:00-04:00"}
        hollow = {"habitats": ["trunk_cavity"]}
        for found in (nest, hollow):
            given_ = tree(
                **self.DANGER, **found, evidence=without("nest_look", "hollow_look", "roost_assessment")
            )
            for nobody in (False, True):
                said = {**self.SAID, "nobody_to_be_had": nobody}
                answer = asked(given_, "R02", acts=["cut_dead"], emergency=said)
                self.assertEqual(answer["allowed"], nobody, (found, answer["refusals"]))

    @EXAMPLES
    @given(
        st.fixed_dictionaries(
            {name: st.booleans() for name in (*SAID, "roost_possible", "nobody_to_be_had")}
        ),
        st.lists(st.sampled_from(EVERY_ACT), min_size=1, max_size=3),
        st.sampled_from(["planned", "started", "completed"]),
        st.sampled_from(sorted(work_rules().rules)),
    )
    def test_none_passes_lines_services_held_wood_poison_people_or_crew(
        self, said: dict[str, bool], done: list[str], step: str, rule: str
    ) -> None:
        bare = case(
            "acer-saccharum", on=DAY, held_wood=True, targets=PATH, wires_m=1.0, people=PEOPLE, **self.DANGER
        )
        emergency = {**self.SAID, **{k: v for k, v in said.items() if not isinstance(self.SAID.get(k), str)}}
        more = {"acts": done, "emergency": emergency, "crew": "Crew 9"}
        answer = asked(bare, rule, step, **more)
        kept = {c for act in done for c in acts()[act].checks} & {"C4", "C4b", "C6", "C7", "C8", "C9"}
        for check in kept:
            self.assertTrue(any(text.startswith(f"{check} ") for text in answer["refusals"]), (check, answer))


class OnALine(unittest.TestCase):
    """An imminent limb rests on an overhead line."""

    LIMB: dict[str, Any] = {"risk": {"imminent": True, "rating": "extreme"}, "on_wires": True, "wires_m": 0.0}

    def test_the_operators_isolation_opens_it_for_a_line_clearance_crew_until_its_end(self) -> None:
        permit = {"begins": "2026-12-10", "until": "2026-12-12"}
        row = told("isolation", at="2026-12-09T06:00:00-04:00", **permit)
        limb = tree(
            on="2026-12-09",
            **self.LIMB,
            wire_permits=[permit],
            evidence=[*without(at="2026-12-09T06:00:00-04:00"), row],
        )
        for on, qualified, may in (
            ("2026-12-09", True, False),
            ("2026-12-10", True, True),
            ("2026-12-11", True, True),
            ("2026-12-10", False, False),
            ("2026-12-12", True, False),
        ):
            answer = asked(limb, "R02", "planned", on=on, line_clearance=qualified)
            of_lines = [text for text in answer["refusals"] if not text.startswith("C2a")]
            self.assertEqual(not of_lines, may, (on, qualified, of_lines))

    def test_keeping_people_out_and_calling_the_operator_need_nothing(self) -> None:
        for rule in ("R01", "R17"):
            for step in ("accepted", "planned", "started", "completed"):
                answer = asked(case(on=DAY, **self.LIMB), rule, step, crew="")
                self.assertEqual((answer["allowed"], answer["checks"]), (True, []), (rule, step))
        self.assertFalse(asked(case(on=DAY, **self.LIMB), "R02", "accepted")["allowed"])
        with_more = asked(case(on=DAY, **self.LIMB), "R01", "accepted", acts=["close_target", "cut_dead"])
        self.assertFalse(with_more["allowed"])


class Ahead(unittest.TestCase):
    def test_what_is_looked_at_on_the_day_is_not_asked_for_weeks_before(self) -> None:
        """Nests, lines, traffic and crew come with the day; consent and roosts do not."""
        bare = case("acer-saccharum", on="2026-11-10", targets=PATH)
        far = may_take_step({"case": bare, "rule": "R06", "step": "planned", "on": "2027-01-12"}, FLORA)
        states = {c["check"]: (c["open"], c["later"]) for c in far["checks"]}
        self.assertEqual({c for c, (_, later) in states.items() if later}, {"C2a", "C4", "C9"})
        self.assertTrue(states["C5"][0])
        near = may_take_step({"case": bare, "rule": "R06", "step": "started", "on": "2027-01-12"}, FLORA)
        self.assertFalse(any(c["later"] for c in near["checks"]))
        summer = may_take_step({"case": bare, "rule": "R06", "step": "planned", "on": "2027-07-12"}, FLORA)
        self.assertIn("C2b", open_checks(dict(summer)))
