"""Condition and risk: the graded sheet by its rule, the risk tables by the published matrices, change in
words.
"""

from __future__ import annotations

import datetime
import itertools
import unittest
from collections import Counter

from jubark_core.condition.change import change_in_words, vigour
from jubark_core.condition.scores import GRADES, condition, defects, parts
from jubark_core.errors import InputError
from jubark_core.records.words import CONSEQUENCE, FAILURE, IMPACT, RATINGS
from jubark_core.risk.worksheet import DECIDES, rating, worksheet

TODAY = datetime.date(2026, 5, 31)
ROW = {
    "part": "dead limb",
    "target": "footpath",
    "failure": "probable",
    "impact": "high",
    "consequence": "severe",
}


class Scores(unittest.TestCase):
    def test_a_rotten_base_is_never_hidden_by_a_good_crown(self) -> None:
        for others in itertools.product(range(GRADES), repeat=4):
            names = [p for p in parts() if p != "roots_base"]
            found = condition({"roots_base": 1, **dict(zip(names, others, strict=True))})
            self.assertLessEqual(found["structure"], 1)
            self.assertIn(found["whole"], ("dead", "very_poor", "poor"))
        green = condition({"roots_base": 1, "trunk": 4, "scaffold": 4, "twigs": 4, "foliage": 4})
        self.assertEqual((green["whole"], green["held_by"]), ("poor", "roots_base"))
        self.assertNotEqual(
            condition({"trunk": 0, "twigs": 4, "foliage": 4})["whole"], "dead", "hollow is not dead"
        )

    def test_a_better_part_never_makes_the_whole_worse(self) -> None:
        words = ("dead", "very_poor", "poor", "fair", "good")
        for grades in itertools.product((0, 2, 4), repeat=5):
            sheet = dict(zip(parts(), grades, strict=True))
            before = words.index(condition(sheet)["whole"])
            for part in parts():
                better = {**sheet, part: min(4, sheet[part] + 1)}
                self.assertGreaterEqual(words.index(condition(better)["whole"]), before)

    def test_out_of_leaf_the_foliage_is_not_seen(self) -> None:
        with self.assertRaises(InputError) as caught:
            condition({"foliage": 3}, leafless=True)
        self.assertEqual(caught.exception.place, "parts.foliage")
        found = condition({"trunk": 4, "foliage": "not_seen"}, leafless=True)
        self.assertIn("foliage", found["not_seen"])
        self.assertEqual(found["whole"], "good")
        self.assertEqual(condition({})["whole"], "not_seen")

    def test_health_and_structure_stand_apart(self) -> None:
        found = condition({"roots_base": 4, "trunk": 4, "scaffold": 1, "twigs": 4, "foliage": 4})
        self.assertEqual((found["structure"], found["held_by"]), (1, "scaffold"))
        self.assertEqual(found["health"], 2.0)

    def test_every_part_has_five_grades_and_every_defect_its_places(self) -> None:
        for part in parts().values():
            self.assertEqual(len(part["grades"]), GRADES)
            self.assertTrue(set(part["counts"]) <= {"health", "structure"})
        self.assertTrue(all(d["parts"] and d["extent"] for d in defects().values()))


class Risk(unittest.TestCase):
    """Tables of the ISA Best Management Practices: Tree Risk Assessment (2011, 2nd ed. 2017)."""

    def test_published_cases_and_the_count_of_all_sixty_four(self) -> None:
        for case, expected in (
            (("imminent", "high", "severe"), "extreme"),
            (("probable", "high", "severe"), "high"),
            (("probable", "medium", "significant"), "moderate"),
            (("possible", "high", "minor"), "low"),
            (("imminent", "very_low", "severe"), "low"),
        ):
            self.assertEqual(rating(*case), expected)
        every = Counter(rating(*case) for case in itertools.product(FAILURE, IMPACT, CONSEQUENCE))
        self.assertEqual([every[r] for r in RATINGS], [49, 9, 5, 1])

    def test_ratings_never_fall_as_anything_gets_likelier_or_graver(self) -> None:
        for f, i, c in itertools.product(range(4), repeat=3):
            here = RATINGS.index(rating(FAILURE[f], IMPACT[i], CONSEQUENCE[c]))
            for df, di, dc in ((1, 0, 0), (0, 1, 0), (0, 0, 1)):
                if max(f + df, i + di, c + dc) < 4:
                    self.assertGreaterEqual(
                        RATINGS.index(rating(FAILURE[f + df], IMPACT[i + di], CONSEQUENCE[c + dc])), here
                    )

    def sheet(self, *rows: dict[str, str], **more: object) -> dict[str, object]:
        given = {"years": 1, "level": "basic", "base_seen": True, "crown_seen": True, "on": TODAY, **more}
        return worksheet(rows or [ROW], **given)  # type: ignore[arg-type]

    def test_the_tree_takes_its_highest_row_and_what_is_left_after_the_work(self) -> None:
        calm = {**ROW, "failure": "possible", "consequence": "minor"}
        found = self.sheet(
            calm,
            {**ROW, "work": "take the limb off", "failure_after": "improbable"},
            next_inspection_months=9,
        )
        self.assertEqual(
            (found["rating"], found["residual"], found["next_inspection"]), ("high", "low", "2027-02-28")
        )
        self.assertEqual(found["says"], DECIDES)

    def test_no_rating_without_base_and_crown_and_no_sheet_without_a_time_frame(self) -> None:
        found = self.sheet(base_seen=False)
        self.assertIsNone(found["rating"])
        self.assertIn("base", str(found["why"]))
        for change, place in (
            ({"years": None}, "years"),
            ({"level": "advanced"}, "level"),
            ({"next_inspection_months": 0}, "next_inspection_months"),
        ):
            with self.assertRaises(InputError) as caught:
                self.sheet(**change)
            self.assertEqual(caught.exception.place, place)
        with self.assertRaises(InputError) as caught:
            self.sheet({**ROW, "failure_after": "imminent"})
        self.assertEqual(caught.exception.place, "rows[0].failure_after")

    def test_the_word_safe_is_nowhere(self) -> None:
        told = (
            str([self.sheet({**ROW, "failure": f, "impact": i}) for f in FAILURE for i in IMPACT])
            + str(parts())
            + str(defects())
        )
        self.assertNotIn("safe", told.lower())


class Change(unittest.TestCase):
    def test_what_changed_is_said_and_what_did_not_is_not(self) -> None:
        before = {"condition": "fair", "dbh_cm": 31.8, "height_m": 18.0, "signs": ["oozing"], "life": "alive"}
        now = {
            "condition": "poor",
            "dbh_cm": 32.6,
            "height_m": 18.2,
            "signs": ["D-shaped holes"],
            "life": "alive",
        }
        self.assertEqual(
            change_in_words(before, now),
            [
                "Condition worse: fair then, poor now.",
                "Diameter 0.8 cm more: 31.8 then, 32.6 now.",
                "New sign: D-shaped holes.",
                "No longer seen: oozing.",
            ],
        )
        self.assertEqual(change_in_words(before, before), [])

    def test_vigour_against_its_kind_needs_peers(self) -> None:
        self.assertIsNone(vigour(0.3, [0.2, 0.4])["share"])
        peers = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]
        self.assertIn("slower", vigour(0.05, peers)["says"])
        self.assertIn("faster", vigour(0.9, peers)["says"])
        self.assertAlmostEqual(vigour(0.35, peers)["share"], 0.5)
