"""Risk: the published matrices, what was not seen, what has to be done at once.

Matrices and the count of all 64: ISA Best Management Practices: Tree Risk Assessment (2011, 2nd edition
2017), from memory. The words for what was not seen are those of the design of the inventory.
"""

from __future__ import annotations

import itertools
import unittest
from collections import Counter
from typing import Any

from jubark_core.door import run
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import record_entry
from jubark_core.records.things import write_entry
from jubark_core.records.words import BASE_VISIBLE, CONSEQUENCE, CROWN_VISIBLE, FAILURE, IMPACT, RATINGS
from jubark_core.risk.worksheet import DECIDES, RatedSheet, is_complete, order, rating, worksheet

ALL = tuple(itertools.product(FAILURE, IMPACT, CONSEQUENCE))
SEEN = tuple(itertools.product(BASE_VISIBLE, CROWN_VISIBLE))
WHOLLY = ("all_round", "whole")


def row(failure: str, impact: str, consequence: str, **more: Any) -> dict[str, Any]:
    """A row of the sheet."""
    factors = {"failure": failure, "impact": impact, "consequence": consequence}
    return {"part": "dead limb", "target": "footpath", **factors, **more}


def sheet(*rows: dict[str, Any], base: str = "all_round", crown: str = "whole", **more: Any) -> RatedSheet:
    """A worksheet of one year."""
    asked: dict[str, Any] = {"years": 1, "level": "basic", **more}
    return worksheet(rows, base_seen=base, crown_seen=crown, **asked)


class Matrices(unittest.TestCase):
    def test_published_cases_and_the_count_of_all_sixty_four(self) -> None:
        for case, expected in (
            (("imminent", "high", "severe"), "extreme"),
            (("probable", "high", "severe"), "high"),
            (("probable", "medium", "significant"), "moderate"),
            (("possible", "high", "minor"), "low"),
            (("imminent", "very_low", "severe"), "low"),
        ):
            self.assertEqual(rating(*case), expected)
        self.assertEqual(
            Counter(rating(*c) for c in ALL), {"low": 49, "moderate": 9, "high": 5, "extreme": 1}
        )

    def test_the_first_matrix_is_told_with_the_row(self) -> None:
        by_impact = {  # row of the matrix: very low, low, medium, high
            "imminent": ("unlikely", "somewhat_likely", "likely", "very_likely"),
            "probable": ("unlikely", "unlikely", "somewhat_likely", "likely"),
            "possible": ("unlikely", "unlikely", "unlikely", "somewhat_likely"),
            "improbable": ("unlikely", "unlikely", "unlikely", "unlikely"),
        }
        for failure, impact, consequence in ALL:
            found = sheet(row(failure, impact, consequence))["rows"][0]["likelihood"]
            self.assertEqual(found, by_impact[failure][IMPACT.index(impact)])

    def test_raising_one_factor_never_lowers_a_rating_whatever_was_seen(self) -> None:
        for case, (base, crown) in itertools.product(ALL, SEEN):
            now = sheet(row(*case), base=base, crown=crown)
            for i, words in enumerate((FAILURE, IMPACT, CONSEQUENCE)):
                at = words.index(case[i])
                for more in words[at + 1 :]:
                    higher = sheet(row(*case[:i], more, *case[i + 1 :]), base=base, crown=crown)
                    self.assertGreaterEqual(RATINGS.index(higher["rating"]), RATINGS.index(now["rating"]))


class NotSeen(unittest.TestCase):
    def test_all_sixty_four_by_every_way_of_not_seeing(self) -> None:
        """The rating is that of the row whatever was not seen; only what was seen whole is unqualified."""
        words = {
            ("all_round", "whole"): "{X}",
            ("all_round", "partly"): "Incomplete: at least {x}",
            ("all_round", "not_visible"): "At least {x}: crown not seen",
            ("partly", "whole"): "Incomplete: at least {x}",
            ("partly", "partly"): "Incomplete: at least {x}",
            ("partly", "not_visible"): "At least {x}: crown not seen, base seen in part",
            ("not_visible", "whole"): "At least {x}: base not seen",
            ("not_visible", "partly"): "At least {x}: base not seen, crown seen in part",
            ("not_visible", "not_visible"): "At least {x}: base and crown not seen",
        }
        self.assertEqual(set(words), set(SEEN))
        for case, seen in itertools.product(ALL, SEEN):
            found = sheet(row(*case), base=seen[0], crown=seen[1])
            x = rating(*case)
            self.assertEqual(found["rating"], x)
            self.assertEqual(found["reads"], words[seen].format(x=x, X=x.capitalize()))
            self.assertEqual(found["complete"], seen == WHOLLY)
            self.assertEqual(len(found["proposed"]), sum(s != w for s, w in zip(seen, WHOLLY, strict=True)))
            self.assertEqual(is_complete(*seen), seen == WHOLLY)

    def test_sorted_by_class_the_incomplete_before_the_complete(self) -> None:
        ranked = sorted(itertools.product(RATINGS, (True, False)), key=lambda r: order(*r), reverse=True)
        self.assertEqual(
            ranked,
            [(r, complete) for r in ("extreme", "high", "moderate", "low") for complete in (False, True)],
        )

    def test_how_much_was_seen_and_the_time_frame_must_be_said(self) -> None:
        case = row("possible", "low", "minor")
        for more, place in (
            ({"base": ""}, "base_seen"),
            ({"crown": ""}, "crown_seen"),
            ({"base": True}, "base_seen"),
            ({"years": None}, "years"),
            ({"years": 0}, "years"),
            ({"level": "by drone"}, "level"),
        ):
            with self.subTest(more), self.assertRaises(InputError) as caught:
                sheet(case, **more)
            self.assertEqual(caught.exception.place, place)
        with self.assertRaises(InputError):
            sheet()


class AtOnce(unittest.TestCase):
    """What is done before anything else is written down: by rating, and by failure that needs no wind."""

    def test_every_case_by_hand(self) -> None:
        for case in ALL:
            failure, impact, _ = case
            found = sheet(row(*case))["act"]["urgency"]
            x = rating(*case)
            expected = (
                "now"
                if x == "extreme" or (failure == "imminent" and impact in ("medium", "high"))
                else "within_days"
                if x == "high"
                else "warn"
                if failure == "imminent"
                else "none"
            )
            self.assertEqual(found, expected, case)

    def test_what_was_not_seen_takes_nothing_of_it_away(self) -> None:
        for case, (base, crown) in itertools.product(ALL, SEEN):
            self.assertEqual(sheet(row(*case), base=base, crown=crown)["act"], sheet(row(*case))["act"])

    def test_the_tree_takes_the_most_urgent_of_its_rows_and_the_days_of_the_owner(self) -> None:
        calm, high = row("improbable", "low", "minor"), row("probable", "high", "severe")
        now = row("imminent", "medium", "negligible")
        self.assertIn("within 14 days", sheet(calm, high, high_days=14)["act"]["says"])
        self.assertEqual(sheet(calm, high, now)["act"]["urgency"], "now")
        self.assertIn("Only the road authority or the police close a road", sheet(now)["act"]["says"])


class AfterTheWork(unittest.TestCase):
    def test_any_factor_may_be_changed_and_none_may_rise(self) -> None:
        case = ("probable", "high", "severe")
        for more, residual in (
            ({"failure_after": "improbable"}, "low"),
            ({"impact_after": "low"}, "low"),
            ({"impact_after": "medium"}, "moderate"),
            ({"consequence_after": "minor"}, "moderate"),
            ({}, "high"),
        ):
            found = sheet(row(*case, **more), base="partly")
            self.assertEqual((found["rating"], found["residual"]), ("high", residual), more)
            self.assertEqual(found["residual_reads"], f"Incomplete: at least {residual}")
        for key, worse in (("failure", "imminent"), ("consequence", "severe"), ("impact", "high")):
            with self.assertRaises(InputError) as caught:
                sheet(row("possible", "low", "minor", **{f"{key}_after": worse}))
            self.assertEqual(caught.exception.place, f"rows[0].{key}_after")

    def test_a_bad_word_names_its_row_and_field(self) -> None:
        sound = row("possible", "low", "minor")
        for bad, place in (
            ({**sound, "impact": "huge"}, "rows[1].impact"),
            ({**sound, "impact_after": "huge"}, "rows[1].impact_after"),
            ({**sound, "target": " "}, "rows[1].target"),
        ):
            with self.subTest(place), self.assertRaises(InputError) as caught:
                sheet(sound, bad)
            self.assertEqual(caught.exception.place, place)


class Recorded(unittest.TestCase):
    def recorded(self, *rows: dict[str, Any], **body: Any) -> dict[str, Any]:
        whole = {"rows": list(rows), "years": 1, "level": "basic", **body}
        raw = {"id": "0190aaaa-0000-7000-8000-000000000000", "kind": "risk", "body": whole}
        return dict(write_entry(record_entry(raw, shipped_flora()))["body"])

    def test_story_one(self) -> None:
        first = self.recorded(
            row("imminent", "high", "severe"),
            base_seen="not_visible",
            crown_seen="whole",
            next_inspection="2026-11-28",
        )
        self.assertEqual((first["rating"], first["reads"]), ("extreme", "At least extreme: base not seen"))
        second = self.recorded(
            row("possible", "low", "minor"), base_seen="partly", crown_seen="whole", no_next=True
        )
        self.assertEqual((second["rating"], second["reads"]), ("low", "Incomplete: at least low"))
        third = self.recorded(
            row("possible", "low", "minor"), base_seen="all_round", crown_seen="whole", no_next=True
        )
        self.assertEqual(third["reads"], "Low")

    def test_a_sheet_says_what_was_seen_and_when_the_next_one_is(self) -> None:
        seen = {"base_seen": "all_round", "crown_seen": "whole"}
        for body, place in (
            ({"crown_seen": "whole", "no_next": True}, "base_seen"),
            ({"base_seen": "all_round", "no_next": True}, "crown_seen"),
            (seen, "next_inspection"),
            ({**seen, "no_next": True, "next_inspection": "2027-01-01"}, "no_next"),
            ({**seen, "no_next": True, "years": None}, "years"),
        ):
            with self.subTest(place), self.assertRaises(InputError) as caught:
                self.recorded(row("possible", "low", "minor"), **body)
            self.assertEqual(caught.exception.place, f"entry.risk.{place}")

    def test_the_word_safe_is_nowhere(self) -> None:
        for case, (base, crown) in itertools.product(ALL, SEEN):
            self.assertNotIn("safe", str(sheet(row(*case), base=base, crown=crown)).lower())
        self.assertEqual(sheet(row("possible", "low", "minor"))["says"], DECIDES)


class AskedAgain(unittest.TestCase):
    """What is hardly meant: one sentence each, in the site's units, and never a refusal."""

    def asks(self, kind: str, units: str = "metric", **body: Any) -> list[str]:
        dbh = {"quantity": "dbh_cm", "raw": {"value": 30.0}, "method": "taped"}
        entries = [
            {"id": "00000000-0000-4000-8000-000000000001", "kind": "measurement", "body": dbh},
            {"id": "00000000-0000-4000-8000-000000000002", "kind": kind, "body": body},
        ]
        told = run("check-visit", {"on": "2026-11-20", "entries": entries, "units": units}, shipped_flora())
        self.assertIsNone(told["entries"][-1]["refused"])
        return [a["field"] + ": " + a["says"] for a in told["entries"][-1]["asks"]]

    def test_each_sentence_and_silence_beside_it(self) -> None:
        row = {
            "part": "twig",
            "target": "path",
            "failure": "imminent",
            "impact": "high",
            "consequence": "severe",
        }
        sheet = {"rows": [row], "years": 1, "level": "basic", "base_seen": "all_round", "crown_seen": "whole"}
        kept = {"kept_out": "done", "no_next": True}
        for more, field in (
            ({**kept}, ""),
            ({**kept, "years": 5}, ""),
            ({**kept, "years": 7}, "years"),
            ({**kept, "rows": [{**row, "part_cm": 1}]}, "rows[0].consequence"),
            ({**kept, "rows": [{**row, "part_cm": 12}]}, ""),
            ({"no_next": True}, "kept_out"),
            ({"kept_out": "done", "next_inspection": "2026-11-01"}, "next_inspection"),
            ({"kept_out": "done", "next_inspection": "2027-05-01"}, ""),
        ):
            found = self.asks("risk", **{**sheet, **more})
            self.assertEqual([text.split(":")[0] for text in found], [field] if field else [], more)

    def test_a_wall_thicker_than_half_the_stem_in_the_sites_units(self) -> None:
        cavity = {"defect": "cavity", "part": "trunk"}
        self.assertEqual(self.asks("defect", **cavity, wall_cm=12), [])
        [said] = self.asks("defect", "us_customary", **cavity, wall_cm=20)
        self.assertIn(" in ", said)
        self.assertNotIn("cm", said.split(":", 1)[1])
