"""Inspections: the owner's table, what falls due, and what the coverage report says of every tree.

Days are counted by hand on the calendar of 2026 and 2027; the story of the five trees is that of the design.
"""

from __future__ import annotations

import datetime
import itertools
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.inspection.coverage import COMPETENCE, STATES, coverage
from jubark_core.inspection.day import BETWEEN_BLOCKS_MIN, TASKS, plan_day
from jubark_core.inspection.regime import months_of, not_seen, rule_of, zone_of
from jubark_core.inspection.storm import probable_doubles
from jubark_core.records.fields import read_as
from jubark_core.records.office import Regime
from jubark_core.records.words import BIOSECURITY, INSPECTION_LEVELS, OCCUPANCY, RATINGS
from jubark_core.season.days import add_months
from jubark_core.size.bearing import destination, metres_between
from jubark_core.tests.profiles import examples
from jubark_core.tree_file.looks import meets

EXAMPLES = examples(80)
BEGIN = "2026-01-01"
DAY_200, DAY_366 = "2026-07-20", "2027-01-02"  # day 0 is the first of January 2026
FREQUENT = {"rules": [{"zone": "frequent", "level": "basic", "months": 12, "qualification": "Inspector"}]}
NEAR = [{"distance_m": 5.0, "occupancy": "frequent"}]
WHOLE = {"base_visible": "all_round", "crown_visible": "whole"}


def look(on: str, level: str = "basic", **more: Any) -> dict[str, Any]:
    """An inspection, base and crown seen whole."""
    return {"on": on, "level": level, **WHOLE, "competence": "valid", **more}


def tree(*looks: dict[str, Any], **more: Any) -> dict[str, Any]:
    """A tree of 10 m by a path."""
    return {"tree": "T", "since": BEGIN, "height_m": 10.0, "targets": NEAR, "looks": [*looks], **more}


def stands(one: dict[str, Any], on: str, regime: dict[str, Any] = FREQUENT) -> dict[str, Any]:
    """How one tree stands on a day."""
    return dict(coverage({"on": on, "regime": regime, "trees": [one]})["trees"][0])


class Months(unittest.TestCase):
    def test_the_same_day_or_the_last_of_the_month(self) -> None:
        for day, months, expected in (
            ("2026-01-01", 12, "2027-01-01"),
            ("2026-01-31", 1, "2026-02-28"),
            ("2024-01-31", 1, "2024-02-29"),
            ("2024-02-29", 12, "2025-02-28"),
            ("2026-11-30", 3, "2027-02-28"),
            ("2026-12-31", 120, "2036-12-31"),
            ("2024-02-29", -60, "2019-02-28"),
        ):
            found = add_months(datetime.date.fromisoformat(day), months)
            self.assertEqual(found.isoformat(), expected, (day, months))

    @EXAMPLES
    @given(st.dates(datetime.date(1900, 1, 1), datetime.date(2180, 1, 1)), st.integers(1, 120))
    def test_more_months_are_never_earlier_and_the_month_is_right(self, day: datetime.date, n: int) -> None:
        found = add_months(day, n)
        self.assertLess(add_months(day, n - 1), found)
        self.assertEqual((found.year - day.year) * 12 + found.month - day.month, n)
        self.assertLessEqual(found.day, day.day)


class TheOwnersTable(unittest.TestCase):
    def regime(self, *rules: dict[str, Any], **more: Any) -> Regime:
        return read_as(Regime, "", {"rules": [*rules], **more}, {})

    def test_months_by_rating(self) -> None:
        for given_months, expected in (
            ({"months": 36}, (36, 36, 36, 36, 36)),
            ({"months": 36, "moderate_months": 12}, (36, 36, 12, 12, 12)),
            ({"months": 36, "high_months": 3}, (36, 36, 36, 3, 3)),
            ({"months": 36, "moderate_months": 12, "high_months": 1}, (36, 36, 12, 1, 1)),
        ):
            rule = self.regime({"zone": "rare", "level": "basic", **given_months}).rules[0]
            self.assertEqual(tuple(months_of(rule, rating) for rating in ("", *RATINGS)), expected)

    def test_what_makes_no_sense_is_refused_by_name(self) -> None:
        rule = {"zone": "rare", "level": "basic", "months": 12}
        for rules, place in (
            ([{**rule, "moderate_months": 13}], "rules[0].moderate_months"),
            ([{**rule, "high_months": 24}], "rules[0].high_months"),
            ([{**rule, "moderate_months": 6, "high_months": 7}], "rules[0].high_months"),
            ([{**rule, "months": 0}], "rules[0].months"),
            ([{**rule, "zone": "never"}], "rules[0].zone"),
            ([{"zone": "rare", "months": 12}], "rules[0].level"),
            ([rule, rule], "rules"),
        ):
            with self.subTest(place), self.assertRaises(InputError) as caught:
                self.regime(*rules)
            self.assertEqual(caught.exception.place, place)

    def test_the_busiest_target_within_reach_makes_the_zone(self) -> None:
        targets: list[Any] = [
            {"distance_m": 4.0, "occupancy": "occasional"},
            {"distance_m": 12.0, "occupancy": "constant"},
        ]
        for height_m, heights, expected in (
            (10.0, 1.0, "occasional"),
            (12.0, 1.0, "constant"),
            (10.0, 1.2, "constant"),
            (3.9, 1.0, "rare"),
            (None, 1.0, "constant"),  # 20 m where no height is known
        ):
            regime = self.regime(reach_heights=heights, otherwise="rare")
            self.assertEqual(zone_of(height_m, targets, regime), expected, (height_m, heights))
        self.assertEqual(zone_of(2.0, targets, self.regime()), "")
        self.assertIsNone(rule_of("", self.regime()))

    def test_each_level_takes_in_the_one_before(self) -> None:
        for (i, level), (j, asked) in itertools.product(enumerate(INSPECTION_LEVELS), repeat=2):
            self.assertEqual(meets(level, asked), i >= j)

    def test_partly_is_not_seen(self) -> None:
        for base, crown, expected in (
            ("all_round", "whole", []),
            ("partly", "whole", ["base"]),
            ("not_visible", "partly", ["base", "crown"]),
            ("all_round", "", ["crown"]),
        ):
            seen: Any = {"on": BEGIN, "level": "basic", "base_visible": base, "crown_visible": crown}
            self.assertEqual(not_seen(seen), expected)


class FiveTrees(unittest.TestCase):
    """The story: zone 'frequent', level basic, 12 months, as of day 366."""

    def test_walked_past_is_looked_at_below_the_level(self) -> None:
        walked = {"on": "2026-06-01", "level": "limited_visual", "walked": True}
        found = stands(tree(walked), DAY_366)
        self.assertEqual(
            (found["state"], found["due_on"], found["counted"]), ("below_level", "2027-01-01", None)
        )
        self.assertEqual(
            found["says"],
            "Looked at, below the level asked for; 2026-06-01, walked past, limited visual; base and crown "
            "not seen whole; overdue since 2027-01-01.",
        )

    def test_done_with_no_defect_found(self) -> None:
        found = stands(tree(look("2026-06-01", no_defect=True)), DAY_366)
        self.assertEqual((found["state"], found["overdue"], found["not_seen"]), ("done", False, []))
        self.assertEqual(found["says"], "Done at the level asked for; 2026-06-01, basic; no defect found.")

    def test_not_reached_is_overdue_by_its_days(self) -> None:
        found = stands(tree(), DAY_366)
        self.assertEqual((found["state"], found["due_on"]), ("not_looked_at", "2027-01-01"))
        self.assertEqual(found["says"], "Not looked at; overdue since 2027-01-01.")
        later = stands(tree(since="2026-03-01"), "2027-03-11")
        self.assertEqual((later["due_on"], later["overdue"]), ("2027-03-01", True))

    def test_a_competence_that_had_expired_is_said(self) -> None:
        past = look("2026-06-01", competence="expired", expired_on="2026-05-31")
        found = stands(tree(past), DAY_366)
        self.assertEqual(found["state"], "competence")
        self.assertIn("done by a person whose competence had expired on that date (2026-05-31)".lower(),
                      found["says"].lower())  # fmt: skip
        none = stands(tree(look("2026-06-01", competence="none")), DAY_366)
        self.assertIn("without the qualification asked for on record", none["says"])

    def test_nothing_is_overdue_on_day_200_and_nothing_later_may_be_given(self) -> None:
        self.assertEqual(stands(tree(), DAY_200)["overdue"], False)
        with self.assertRaises(InputError) as caught:
            stands(tree(look("2026-07-21")), DAY_200)
        self.assertEqual(caught.exception.place, "trees[0].looks[0].on")

    def test_the_counts_are_those_of_the_rows(self) -> None:
        rows: list[Any] = [
            tree(look("2026-06-01")),
            tree(look("2026-06-01", competence="none")),
            tree(look("2026-06-01", "limited_visual", base_visible="partly")),
            tree(look("2025-06-01")),
            tree(),
            tree(targets=[]),
        ]
        found = coverage({"on": DAY_366, "regime": FREQUENT, "trees": rows})
        self.assertEqual(found["states"], dict.fromkeys(STATES, 1))
        self.assertEqual((found["overdue"], found["parts_not_seen"]), (3, 1))


class WhatARowSpeaksOf(unittest.TestCase):
    def test_a_walk_after_an_inspection_takes_nothing_of_it_away(self) -> None:
        walked = {"on": "2026-09-01", "level": "limited_visual", "walked": True}
        found = stands(tree(look("2026-06-01"), walked), DAY_366)
        self.assertEqual((found["shown"]["on"], found["last"]["on"]), ("2026-06-01", "2026-09-01"))
        self.assertEqual((found["state"], found["not_seen"]), ("done", []))

    def test_what_was_seen_in_part_is_below_the_level_and_due_again_sooner(self) -> None:
        found = stands(tree(look("2026-12-01", base_visible="partly")), DAY_366)
        self.assertEqual((found["state"], found["due_on"]), ("below_level", "2027-06-01"))
        self.assertEqual(
            found["says"],
            "Looked at, below the level asked for; 2026-12-01, basic; base not seen whole.",
        )
        with_grades = {"rules": [{"zone": "frequent", "level": "basic", "months": 12, "moderate_months": 4}]}
        in_part = tree(look("2026-12-01", crown_visible="partly"))
        self.assertEqual(stands(in_part, DAY_366, with_grades)["due_on"], "2027-04-01", "the next grade up")

    def test_an_attempt_is_no_look_and_a_full_look_before_it_counts(self) -> None:
        unseen = look("2026-11-01", base_visible="not_visible", crown_visible="not_visible")
        found = stands(tree(unseen), DAY_366)
        self.assertEqual((found["state"], found["counted"], found["last"]), ("not_looked_at", None, None))
        self.assertEqual(found["due_on"], stands(tree(), DAY_366)["due_on"], "it stays due")
        self.assertIn("Not inspected, attempted on 2026-11-01", found["says"])
        after = stands(tree(look("2026-06-01"), unseen), DAY_366)
        self.assertEqual((after["state"], after["due_on"]), ("done", "2027-06-01"))
        self.assertIn(
            "attempted on 2026-11-01: neither base nor crown was visible; before that done", after["says"]
        )
        locked = stands(tree({"on": "2026-11-01", "level": "basic", "no_access": "locked yard"}), DAY_366)
        self.assertEqual((locked["state"], locked["due_on"]), (found["state"], found["due_on"]))
        self.assertIn("Not inspected, attempted on 2026-11-01: locked yard", locked["says"])
        partly = look("2026-11-01", base_visible="partly")
        merged = stands(tree(look("2026-06-01"), partly), DAY_366)
        self.assertEqual((merged["counted"]["on"], merged["due_on"]), ("2026-06-01", "2027-05-01"))


class WhatFallsDue(unittest.TestCase):
    def test_the_day_the_worksheet_names_counts_where_it_is_earlier(self) -> None:
        for looks, named, expected in (
            ([look("2026-03-01")], "2026-09-01", "2026-09-01"),
            ([look("2026-03-01")], "2028-09-01", "2027-03-01"),
            ([look("2026-03-01"), look("2026-09-01")], "2026-09-01", "2027-09-01"),
            ([look("2026-03-01"), look("2026-08-31")], "2026-09-01", "2026-09-01"),
            ([], "2026-02-01", "2026-02-01"),
        ):
            found = stands(tree(*looks, next_inspection=named), DAY_366)
            self.assertEqual(found["due_on"], expected, (looks, named))
        without = stands(tree(targets=[], next_inspection="2026-12-01"), DAY_366)
        self.assertEqual((without["state"], without["overdue"]), ("no_rule", True))

    def test_a_higher_rating_shortens_it(self) -> None:
        table = {"rules": [{"zone": "frequent", "level": "basic", "months": 24, "moderate_months": 12,
                            "high_months": 3}]}  # fmt: skip
        for rating, due in (("", "2028-03-01"), ("low", "2028-03-01"), ("moderate", "2027-03-01"),
                            ("high", "2026-06-01"), ("extreme", "2026-06-01")):  # fmt: skip
            self.assertEqual(stands(tree(look("2026-03-01"), rating=rating), DAY_366, table)["due_on"], due)

    def test_bad_forms_name_the_tree_and_the_field(self) -> None:
        for one, place in (
            (tree(look("2026-13-01")), "trees[0].looks[0].on"),
            (tree(look("2026-03-01", "a glance")), "trees[0].looks[0].level"),
            (tree(look("2026-03-01", competence="maybe")), "trees[0].looks[0].competence"),
            (tree(rating="awful"), "trees[0].rating"),
            (tree(since="soon"), "trees[0].since"),
            (tree(targets=[{"distance_m": 1.0, "occupancy": "busy"}]), "trees[0].targets[0].occupancy"),
        ):
            with self.subTest(place), self.assertRaises(InputError) as caught:
                stands(one, DAY_366)
            self.assertEqual(caught.exception.place, place)


DAYS = st.dates(datetime.date(2024, 1, 1), datetime.date(2027, 1, 2)).map(str)
LOOKS = st.lists(
    st.builds(
        look,
        DAYS,
        st.sampled_from(INSPECTION_LEVELS),
        competence=st.sampled_from(COMPETENCE),
        base_visible=st.sampled_from(("all_round", "partly", "not_visible", "")),
    ),
    max_size=5,
)


SEEN_WHOLE = LOOKS.map(lambda looks: [one for one in looks if one["base_visible"] in ("all_round", "")])


class Properties(unittest.TestCase):
    @EXAMPLES
    @given(LOOKS, st.integers(1, 36), st.sampled_from(("", *RATINGS)), SEEN_WHOLE)
    def test_looking_once_more_never_makes_it_due_earlier_and_the_order_never_matters(
        self, looks: list[Any], months: int, rating: str, more: list[Any]
    ) -> None:
        table = {"rules": [{"zone": "frequent", "level": "basic", "months": months}]}
        before = stands(tree(*looks, rating=rating), DAY_366, table)
        after = stands(tree(*looks, *more, rating=rating), DAY_366, table)
        if before["counted"]:
            self.assertGreaterEqual(after["due_on"], before["due_on"])
        backwards = stands(tree(*reversed(looks), rating=rating), DAY_366, table)
        self.assertEqual((backwards["state"], backwards["due_on"]), (before["state"], before["due_on"]))

    @EXAMPLES
    @given(LOOKS, st.integers(0, 4))
    def test_what_was_hidden_never_betters_a_tree(self, looks: list[Any], i: int) -> None:
        shown = [{**one, "base_visible": "all_round"} if j == i else one for j, one in enumerate(looks)]
        for level in INSPECTION_LEVELS:
            rule = {"rules": [{"zone": "frequent", "level": level, "months": 12}]}
            hidden_, seen = (stands(tree(*rows), DAY_366, rule) for rows in (looks, shown))
            self.assertLessEqual(hidden_["due_on"], seen["due_on"])
            in_time = ("done", "competence")
            self.assertTrue(seen["state"] in in_time or hidden_["state"] not in in_time)

    @EXAMPLES
    @given(SEEN_WHOLE, st.sampled_from(INSPECTION_LEVELS))
    def test_a_higher_level_asked_for_is_never_due_later(self, looks: list[Any], level: str) -> None:
        def due(asked: str) -> str:
            rule = {"zone": "frequent", "level": asked, "months": 12}
            return str(stands(tree(*looks, since="2024-01-01"), DAY_366, {"rules": [rule]})["due_on"])

        self.assertLessEqual(due("advanced"), due(level))
        self.assertLessEqual(due(level), due("limited_visual"))

    @EXAMPLES
    @given(LOOKS, DAYS, st.sampled_from((0.0, 0.5, 1.0)), st.sampled_from(("", "2026-05-01", "2027-05-01")))
    def test_a_judgement_holds_until_it_says(
        self, looks: list[Any], on: str, share: float, named: str
    ) -> None:
        """Nobody looks, and any day before that reads the same."""
        one = tree(*(k for k in looks if k["on"] <= on), since="2023-06-01", next_inspection=named)
        told = stands(one, on)
        first = datetime.date.fromisoformat(on)
        days = (datetime.date.fromisoformat(told["holds_until"]) - first).days
        self.assertGreaterEqual(days, 1)
        then = first + datetime.timedelta(days=int(share * (days - 1)))
        again = stands(one, then.isoformat())
        for row in (told, again):
            row.pop("holds_until")
        self.assertEqual(again, told, (on, then))

    @EXAMPLES
    @given(LOOKS, DAYS)
    def test_in_time_exactly_where_nothing_is_overdue_and_a_sufficient_look_counts(
        self, looks: list[Any], on: str
    ) -> None:
        until = [one for one in looks if one["on"] <= on]
        found = stands(tree(*until, since="2023-06-01"), on)
        in_time = found["state"] in ("done", "competence")
        self.assertEqual(in_time, found["counted"] is not None and not found["overdue"])
        self.assertEqual(found["state"] == "not_looked_at", not until)


def task(n: int, kind: str = "overdue", block: str = "a", **more: Any) -> dict[str, Any]:
    """Something to do at a tree, ten metres further north with each number."""
    return {"tree": f"T{n}", "block": block, "task": kind, "lat": 40.5 + n / 11_132, "lon": -79.3, **more}


def planned(tasks: list[Any], minutes: float = 420) -> dict[str, Any]:
    """The day of a site with one block of each biosecurity status, named against their order."""
    blocks: Any = [
        {"block": b, "name": name, "biosecurity": status}
        for b, name, status in zip("abc", ("Z", "M", "A"), BIOSECURITY, strict=True)
    ]
    return dict(plan_day({"on": DAY_200, "minutes": minutes, "blocks": blocks, "tasks": tasks}))


def order_of(plan: dict[str, Any]) -> list[str]:
    """The trees in walking order."""
    return [stop["tree"] for block in plan["blocks"] for stop in block["stops"]]


TASK_LISTS = st.lists(
    st.builds(
        task,
        st.integers(0, 40),
        st.sampled_from(tuple(TASKS)),
        st.sampled_from("abc"),
        days=st.integers(0, 400),
    ),
    max_size=60,
)


class TheDay(unittest.TestCase):
    def test_clean_blocks_first_nearest_after_nearest_one_stop_a_tree(self) -> None:
        tasks = [
            task(3, block="c"),
            task(9),
            task(1),
            task(5),
            task(7, block="b"),
            task(5, "name", says="buds"),
        ]
        plan = planned(tasks)
        self.assertEqual(order_of(plan), ["T9", "T5", "T1", "T7", "T3"])
        self.assertEqual([b["block"] for b in plan["blocks"]], ["a", "b", "c"])
        self.assertEqual(plan["blocks"][0]["stops"][1]["says"], ["inspection overdue", "buds"])
        # 8 stretches of 10 m within block a at 4 km/h, twice 10 min between blocks, 5 stops of 6
        self.assertAlmostEqual(plan["walking_min"], 80 / (4000 / 60) + 2 * BETWEEN_BLOCKS_MIN, delta=0.06)
        self.assertAlmostEqual(plan["minutes"], plan["walking_min"] + 5 * 6, delta=0.06)

    def test_what_presses_most_goes_first_and_the_rest_stays(self) -> None:
        tasks = [task(1, "measure"), task(2, "overdue", days=5), task(3, "overdue", days=90), task(4, "risk")]
        for minutes, gone, stays in (
            (15, {"T4"}, {"overdue": 2, "measure": 1}),
            (20, {"T4", "T3"}, {"overdue": 1, "measure": 1}),
            (25, {"T4", "T3", "T2"}, {"measure": 1}),
            (60, {"T4", "T3", "T2", "T1"}, {}),
        ):
            plan = planned(tasks, minutes)
            self.assertEqual((set(order_of(plan)), plan["stays_by_task"]), (gone, stays), minutes)

    def test_danger_is_gone_to_first_whatever_the_hygiene_of_its_block(self) -> None:
        tasks = [task(1), task(2, block="b"), task(3, "danger", block="c"), task(4, "danger", block="b")]
        plan = planned(tasks)
        self.assertEqual(order_of(plan), ["T4", "T3", "T1", "T2"])
        self.assertEqual([b["block"] for b in plan["blocks"]], ["b", "c", "a", "b"])

    def test_an_empty_day_and_a_tree_without_a_place(self) -> None:
        self.assertEqual((planned([])["blocks"], planned([])["minutes"]), ([], 0))
        nowhere = task(2) | {"lat": None, "lon": None}
        self.assertEqual(set(order_of(planned([task(1), nowhere, task(3)]))), {"T1", "T2", "T3"})

    def test_bad_forms(self) -> None:
        for tasks, place in (
            ([task(1, "sing")], "tasks[0].task"),
            ([task(1), task(2, block="x")], "tasks[1].block"),
        ):
            with self.assertRaises(InputError) as caught:
                planned(tasks)
            self.assertEqual(caught.exception.place, place)

    @EXAMPLES
    @given(TASK_LISTS, st.floats(15, 900))
    def test_every_tree_goes_or_stays_and_the_day_is_kept(self, tasks: list[Any], minutes: float) -> None:
        plan = planned(tasks, minutes)
        went, stayed = order_of(plan), [stop["tree"] for stop in plan["stays"]]
        self.assertEqual(sorted(went + stayed), sorted({t["tree"] for t in tasks}))
        self.assertLessEqual(plan["minutes"], minutes + 0.05)
        self.assertEqual(sum(plan["stays_by_task"].values()), len(stayed))
        first = {t["tree"] for t in tasks if t["task"] == "danger"}
        order = [(b["stops"][0]["tree"] not in first, b["block"]) for b in plan["blocks"]]
        self.assertEqual(order, sorted(order), "danger first, then the clean blocks")

    @EXAMPLES
    @given(st.lists(st.tuples(st.integers(0, 40), st.sampled_from(OCCUPANCY)), max_size=8))
    def test_a_wider_reach_never_makes_a_zone_quieter(self, near: list[tuple[int, str]]) -> None:
        targets: Any = [{"distance_m": float(d), "occupancy": o} for d, o in near]
        rank = {"": -1, **{o: i for i, o in enumerate(OCCUPANCY)}}
        zones = [rank[zone_of(h, targets, Regime())] for h in (1.0, 5.0, 15.0, 40.0)]
        self.assertEqual(zones, sorted(zones))


class Distance(unittest.TestCase):
    @EXAMPLES
    @given(st.floats(-179, 179), st.floats(-60, 60), st.floats(0, 360), st.floats(1, 500))
    def test_is_that_of_the_great_circle(self, lon: float, lat: float, bearing: float, metres: float) -> None:
        there = destination(lon, lat, bearing, metres)
        self.assertAlmostEqual(metres_between(lon, lat, *there) / metres, 1, delta=0.001)


class Doubles(unittest.TestCase):
    def down(self, n: int, by: str, north_m: float, **more: Any) -> dict[str, Any]:
        return {"tree": f"T{n}", "by": by, "lat": 40.5 + north_m / 111_320, "lon": -79.3, **more}

    def pairs(self, *down: dict[str, Any]) -> list[tuple[list[str], float]]:
        return [(d["trees"], d["metres"]) for d in probable_doubles({"down": [*down]})]  # type: ignore[list-item]

    def test_two_people_at_one_place_and_nobody_else(self) -> None:
        for down, expected in (
            ((self.down(1, "Ada", 0), self.down(2, "Ben", 9)), [(["T1", "T2"], 9.0)]),
            ((self.down(1, "Ada", 0), self.down(2, "Ben", 11)), []),
            ((self.down(1, "Ada", 0), self.down(2, "Ada", 3)), []),
            ((self.down(1, "Ada", 0), self.down(1, "Ben", 3)), []),
            (
                (self.down(1, "Ada", 0, accuracy_m=20), self.down(2, "Ben", 25, accuracy_m=6)),
                [(["T1", "T2"], 25.0)],
            ),
            ((self.down(3, "Ada", 8), self.down(2, "Ben", 3), self.down(1, "Cy", 0)),
             [(["T1", "T2"], 3.0), (["T2", "T3"], 5.0), (["T1", "T3"], 8.0)]),
        ):  # fmt: skip
            self.assertEqual(self.pairs(*down), expected)


if __name__ == "__main__":
    unittest.main()
