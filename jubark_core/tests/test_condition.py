"""Condition: the graded sheet by its table, defects, veterans, change in words."""

from __future__ import annotations

import datetime
import itertools
import math
import unittest
from collections import Counter

from jubark_core.condition.change import change_in_words, vigour
from jubark_core.condition.leaf_state import in_season, leaf_state
from jubark_core.condition.scores import GRADES, condition, defects, parts
from jubark_core.condition.veteran import veteran_needs
from jubark_core.condition.words import qualified
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import MEASURES, record_entry
from jubark_core.records.judged import Condition
from jubark_core.records.things import write_entry
from jubark_core.records.words import PARTS, STABILITY, VETERAN_NEEDS, VITALITY
from jubark_core.season.place import Place

WORDS = ("dead", "very_poor", "poor", "fair", "good")
NOT_SEEN = "not_seen"
ID = "00000000-0000-4000-8000-000000000001"


def graded(*grades: int | str) -> dict[str, int | str]:
    """A grade for each part, in the order of the sheet: base, trunk, scaffold, twigs, foliage."""
    return dict(zip(parts(), grades, strict=True))


class Scores(unittest.TestCase):
    """The table and the distributions printed with it in the design of the inventory."""

    def test_the_table_word_by_word(self) -> None:
        for health, words in (
            (4, "very_poor poor fair good good"),
            (3, "very_poor poor fair fair good"),
            (2, "very_poor poor poor fair fair"),
            (1, "very_poor very_poor very_poor poor poor"),
            (0, "dead dead dead dead dead"),
        ):
            for structure, word in enumerate(words.split()):
                with self.subTest(health=health, structure=structure):
                    found = condition(graded(structure, structure, 4, health, health))
                    self.assertEqual((found["health"], found["structure"]), (health, structure))
                    self.assertEqual(found["whole"], word)

    def test_all_3125_sheets_and_a_common_street(self) -> None:
        street = {4: 0.45, 3: 0.33, 2: 0.15, 1: 0.05, 0: 0.02}
        count: Counter[str] = Counter()
        share: dict[str, float] = dict.fromkeys(WORDS, 0.0)
        for grades in itertools.product(range(GRADES), repeat=5):
            word = condition(graded(*grades))["whole"]
            count[word] += 1
            share[word] += math.prod(street[g] for g in grades)
        self.assertEqual(count, {"dead": 125, "very_poor": 2036, "poor": 718, "fair": 224, "good": 22})
        rounded = {word: round(100 * share[word]) for word in ("good", "fair", "poor", "very_poor")}
        self.assertEqual(rounded, {"good": 20, "fair": 51, "poor": 21, "very_poor": 8})

    def test_health_of_twigs_and_foliage(self) -> None:
        for twigs, foliage, leafless, buds, health in (
            (4, 0, False, False, 1),  # never more than one above the worse
            (4, 3, False, False, 3),
            (0, 0, False, False, 0),
            (1, 0, False, False, 1),  # dead only where both are
            (0, NOT_SEEN, False, False, 1),
            (NOT_SEEN, 3, False, False, 3),
            (0, NOT_SEEN, True, False, 1),  # leafless is not dead
            (0, NOT_SEEN, True, True, 0),
            (3, NOT_SEEN, True, False, 3),
            (NOT_SEEN, NOT_SEEN, False, False, None),
        ):
            with self.subTest(twigs=twigs, foliage=foliage, leafless=leafless, buds=buds):
                sheet = graded(4, 4, 4, twigs, foliage)
                self.assertEqual(condition(sheet, leafless, buds)["health"], health)

    def test_a_fault_of_the_scaffold_costs_less_than_one_of_the_trunk(self) -> None:
        self.assertEqual([condition(graded(4, 4, g, 4, 4))["structure"] for g in range(5)], [0, 1, 3, 4, 4])
        self.assertEqual([condition(graded(4, g, 4, 4, 4))["structure"] for g in range(5)], [0, 1, 2, 3, 4])

    def test_a_better_part_never_makes_the_whole_worse(self) -> None:
        for grades in itertools.product(range(GRADES), repeat=5):
            sheet = graded(*grades)
            before = WORDS.index(condition(sheet)["whole"])
            for part, grade in sheet.items():
                better = condition({**sheet, part: min(4, int(grade) + 1)})["whole"]
                self.assertGreaterEqual(WORDS.index(better), before)

    def test_all_7776_sheets_hiding_never_betters_and_never_leaves_an_unqualified_word(self) -> None:
        """Each part a grade or not seen; in leaf and out of it. Hidden, a part counts for no more than its
        best grade would, and the word says 'at most', or that it is a winter view.
        """
        rank = {NOT_SEEN: -1} | {word: i for i, word in enumerate(WORDS)}
        for grades in itertools.product((*range(GRADES), NOT_SEEN), repeat=5):
            for leafless in (False, True) if grades[4] == NOT_SEEN else (False,):
                sheet = graded(*grades)
                found = condition(sheet, leafless)
                hidden = [part for part, grade in sheet.items() if grade == NOT_SEEN]
                for part in hidden:
                    if not (leafless and part == "foliage"):
                        best = condition({**sheet, part: 4}, leafless)["whole"]
                        at_best = found["whole"] == NOT_SEEN or best == NOT_SEEN
                        self.assertTrue(at_best or rank[found["whole"]] <= rank[best], (grades, part))
                if hidden and found["whole"] not in (NOT_SEEN, "dead"):
                    self.assertTrue(found["at_most"] or (leafless and hidden == ["foliage"]), grades)
                    self.assertEqual(found["winter_view"], leafless)
                if set(hidden) & {"roots_base", "trunk", "scaffold"}:
                    self.assertNotEqual(found["whole"], "good", grades)

    def test_one_word_is_qualified_where_something_was_hidden(self) -> None:
        for base, crown, leafless, printed in (
            ("all_round", "whole", False, "good"),
            ("partly", "whole", False, "at most good"),
            ("all_round", "not_visible", False, "at most good"),
            ("not_visible", "partly", True, "at most good, winter view"),
            ("all_round", "whole", True, "good, winter view"),
        ):
            seen = {"base_visible": base, "crown_visible": crown, "leafless": leafless}
            body = record_entry(
                {"id": ID, "kind": "condition", "body": {"word": "good", **seen}}, shipped_flora()
            ).body
            assert isinstance(body, Condition)
            self.assertEqual(qualified(body.word, body.at_most, body.leafless), printed)
        then = {"condition": "good", "condition_at_most": True}
        now = {"condition": "fair", "condition_in_winter": True}
        said = ["Condition worse: at most good then, fair, winter view now."]
        self.assertEqual(change_in_words(then, now), said)

    def test_leaf_state_is_known_by_kind_day_and_place(self) -> None:
        """Broad-leaved oaks and ashes are bare in January at 40 degrees north and in July at 38 south;
        hollies and hemlocks never are (any dendrology; common knowledge).
        """
        home, melbourne = Place(40.5, -79.3, 300), Place(-37.8, 145.0, 30)
        for taxon, place, on, state in (
            ("quercus-alba", home, "2026-01-20", "out_of_leaf"),
            ("quercus-alba", home, "2026-07-20", "in_leaf"),
            ("quercus-robur", melbourne, "2026-01-20", "in_leaf"),
            ("quercus-robur", melbourne, "2026-07-20", "out_of_leaf"),
            ("ilex-opaca", home, "2026-01-20", "in_leaf"),
            ("tsuga-canadensis", home, "2026-01-20", "in_leaf"),
            ("quercus-alba", home, "2026-04-20", ""),
            ("no-such-taxon", home, "2026-01-20", ""),
        ):
            found = leaf_state(taxon, datetime.date.fromisoformat(on), place, shipped_flora())
            self.assertIn(found, (state,) if state else ("", "out_of_leaf"), (taxon, on))
        graded_ = Condition(parts={"foliage": 3})
        with self.assertRaises(InputError) as caught:
            in_season(graded_, "out_of_leaf")
        self.assertEqual(caught.exception.place, "parts.foliage")
        for condition_, state, leafless in (
            (Condition(word="fair"), "out_of_leaf", True),
            (Condition(word="fair"), "", False),
            (Condition(word="fair", leaf_reason="kept its leaves"), "out_of_leaf", False),
            (graded_, "in_leaf", False),
        ):
            self.assertIs(in_season(condition_, state).leafless, leafless)

    def test_too_little_seen_is_no_word(self) -> None:
        for sheet in (
            {},
            {"roots_base": 4, "trunk": 4, "scaffold": 4},
            {"twigs": 3, "foliage": 3},
            {"scaffold": 2, "twigs": 3},
        ):
            found = condition(sheet)
            self.assertEqual(
                (found["whole"], found["at_most"], found["winter_view"]), (NOT_SEEN, False, False)
            )
        self.assertEqual(condition({"trunk": 4, "twigs": 4})["whole"], "fair")  # at most

    def test_out_of_leaf_the_foliage_is_not_seen_and_the_word_says_winter_view(self) -> None:
        with self.assertRaises(InputError) as caught:
            condition({"foliage": 3}, leafless=True)
        self.assertEqual(caught.exception.place, "parts.foliage")
        found = condition(graded(4, 4, 4, 4, NOT_SEEN), leafless=True)
        self.assertEqual(
            (found["whole"], found["winter_view"], found["not_seen"]), ("good", True, ["foliage"])
        )

    def test_the_part_that_decides_is_named(self) -> None:
        for grades, held in (
            ((1, 4, 4, 4, 4), "roots_base"),
            ((4, 4, 1, 4, 4), "scaffold"),
            ((4, 4, 4, 1, 3), "twigs"),
            ((4, 4, 4, 4, 4), None),
        ):
            self.assertEqual(condition(graded(*grades))["held_by"], held)

    def test_every_part_has_five_grades_and_every_defect_its_places_and_measures(self) -> None:
        for part in parts().values():
            self.assertEqual(len(part["grades"]), GRADES)
            self.assertIn(part["counts"], (["health"], ["structure"]))
        self.assertGreaterEqual(len(defects()), 29)
        for name, d in defects().items():
            self.assertTrue(d["parts"] and set(d["parts"]) <= set(PARTS), name)
            self.assertTrue(set(d["measures"]) <= set(MEASURES), name)
            self.assertEqual("extent_percent" in d["measures"], bool(d.get("extent")), name)


class Defects(unittest.TestCase):
    def recorded(self, **body: object) -> dict[str, object]:
        raw = {"id": "0190aaaa-0000-7000-8000-000000000000", "kind": "defect", "body": body}
        return dict(write_entry(record_entry(raw, shipped_flora()))["body"])

    def test_each_has_the_fields_that_fit_it(self) -> None:
        for body in (
            {"defect": "lean", "part": "trunk", "lean_deg": 12.0, "lean": "recent", "side": "ne"},
            {"defect": "cavity", "part": "base", "wall_cm": 6.0, "opening_percent": 20, "height_m": 0.4},
            {
                "defect": "dead_limb",
                "part": "crown",
                "number": 3,
                "break_cm": 9.5,
                "over_target": "over_target",
            },
            {"defect": "decay_fungus", "part": "roots", "species": "Ganoderma sp.", "since_year": 2024},
        ):
            self.assertEqual(self.recorded(**body), body)

    def test_a_measure_or_a_part_that_does_not_fit_is_refused_by_its_name(self) -> None:
        for body, place in (
            ({"defect": "lean", "part": "trunk", "extent_percent": 12}, "entry.defect.extent_percent"),
            ({"defect": "exposed_edge", "part": "crown", "wall_cm": 3}, "entry.defect.wall_cm"),
            ({"defect": "girdling_root", "part": "crown"}, "entry.defect.part"),
        ):
            with self.subTest(body), self.assertRaises(InputError) as caught:
                self.recorded(**body)
            self.assertEqual(caught.exception.place, place)


class Veterans(unittest.TestCase):
    def test_stability_decides_and_vitality_only_hastens(self) -> None:
        soon = VETERAN_NEEDS.index
        for vitality, stability in itertools.product(VITALITY, STABILITY):
            self.assertIn(veteran_needs(vitality, stability), VETERAN_NEEDS)
        living = VITALITY[:4]
        for stability in STABILITY:
            needs = [soon(veteran_needs(v, stability)) for v in living]
            self.assertEqual(needs, sorted(needs), stability)
        for vitality in VITALITY:
            needs = [soon(veteran_needs(vitality, s)) for s in STABILITY[:4]]
            self.assertEqual(needs, sorted(needs), vitality)
            self.assertEqual(needs[3], soon("protect_people_now"))

    def test_no_answer_removes_the_tree_and_an_unknown_word_is_refused(self) -> None:
        self.assertFalse([word for word in VETERAN_NEEDS if "remove" in word or "fell" in word])
        for vitality, stability, place in (("fine", "stable", "vitality"), ("full", "fine", "stability")):
            with self.assertRaises(InputError) as caught:
                veteran_needs(vitality, stability)
            self.assertEqual(caught.exception.place, place)


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

    def test_a_change_within_the_error_of_both_figures_is_none(self) -> None:
        before, now = {"height_m": 21.9, "dbh_cm": 30.0}, {"height_m": 22.8, "dbh_cm": 31.0}
        self.assertEqual(len(change_in_words(before, now)), 2)
        for errors, said in (
            ({"height_m": 3.3, "dbh_cm": 0.254}, ["Diameter"]),
            ({"height_m": 0.2, "dbh_cm": 0.8}, ["Height"]),
            ({"height_m": 0.2, "dbh_cm": None}, ["Height"]),
        ):
            told = change_in_words({**before, "errors": errors}, {**now, "errors": errors})
            self.assertEqual([line.split()[0] for line in told], said, errors)

    def test_vigour_against_its_kind_needs_peers(self) -> None:
        self.assertIsNone(vigour(0.3, [0.2, 0.4])["share"])
        peers = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]
        self.assertIn("slower", vigour(0.05, peers)["says"])
        self.assertIn("faster", vigour(0.9, peers)["says"])
        self.assertAlmostEqual(vigour(0.35, peers)["share"], 0.5)
