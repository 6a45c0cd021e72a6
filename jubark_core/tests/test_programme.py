"""Work that makes more work: later parts, years of a programme, a nest in use; seasons up to a day."""

from __future__ import annotations

import datetime
import unittest
from typing import Any

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.tests.work_cases import BRITAIN, asked, case, everything, ready, told
from jubark_core.work.facts import read_facts
from jubark_core.work.load import work_rules
from jubark_core.work.programme import DoneWork, follow_ups, rule_of
from jubark_core.work.propose import propose_again
from jubark_core.work.seasons import closed_until, nesting_until, windows_until

FLORA = shipped_flora()
DAY = datetime.date.fromisoformat


def done(rule: str, on: str, job: str = "a", part: str = "", follows: str = "") -> DoneWork:
    return DoneWork(job, rule, part, DAY(on), follows)


class Programmes(unittest.TestCase):
    def due(
        self, *rows: DoneWork, on: str, planted: str | None = None, answered: tuple[str, ...] = ()
    ) -> list[Any]:
        found = follow_ups(rows, answered, DAY(planted) if planted else None, DAY(on))
        return [(f.rule, f.part, f.due.isoformat(), f.year) for f in found]

    def test_years_of_a_programme(self) -> None:
        shrub, tree = done("R33", "2026-09-01"), done("R18", "2026-11-20")
        for what, found, expected in (
            ("half a year ahead", self.due(shrub, on="2027-04-01"), [("R33", "", "2027-09-01", 1)]),
            ("not sooner", self.due(shrub, on="2026-12-01"), []),
            ("answered by an open job", self.due(shrub, on="2027-08-01", answered=("a",)), []),
            (
                "the second year is counted from the first treatment",
                self.due(shrub, done("R33", "2027-10-10", "b", follows="a"), on="2028-07-01"),
                [("R33", "", "2028-09-01", 2)],
            ),
            (
                "of planting",
                self.due(tree, on="2029-01-10", planted="2024-03-10"),
                [("R18", "", "2029-03-10", 2)],
            ),
            # pruned late in its second year: the third is answered by it
            ("just done", self.due(tree, on="2027-01-01", planted="2023-12-01"), []),
            ("a rule without a programme", self.due(done("R06", "2026-09-01"), on="2030-01-01"), []),
            (
                "29 February",
                self.due(done("R33", "2028-02-29"), on="2029-02-01"),
                [("R33", "", "2029-02-28", 1)],
            ),
            ("nothing done", self.due(on="2027-08-01"), []),
        ):
            with self.subTest(what):
                self.assertEqual(found, expected)

    def test_an_invasive_shrub_is_followed_for_five_years_and_no_longer(self) -> None:
        rows = [done("R33", "2026-09-01", "0")]
        for year in range(1, 6):
            (after,) = follow_ups(rows, (), None, DAY(f"{2026 + year}-08-01"))
            self.assertEqual((after.year, after.of), (year, 5))
            rows.append(done("R33", f"{2026 + year}-09-10", str(year), follows=after.follows))
        self.assertEqual(follow_ups(rows, (), None, DAY("2035-01-01")), [])

    def test_the_cut_comes_thirty_days_after_the_treatment(self) -> None:
        first = done("R32", "2026-08-20")
        self.assertEqual(self.due(first, on="2026-08-21"), [("R32", "cut", "2026-09-19", 0)])
        cut = done("R32", "2026-10-20", "b", "cut", "a")
        self.assertEqual(self.due(first, cut, on="2027-04-20"), [("R32", "", "2027-08-20", 1)])

    def test_a_follow_up_is_proposed_with_its_year_and_its_part(self) -> None:
        buckthorn = case("rhamnus-cathartica", on="2027-08-20", dbh_cm=4)
        (year,) = follow_ups([done("R33", "2026-09-01")], (), None, DAY("2027-08-20"))
        proposal = propose_again(buckthorn, year, FLORA)
        self.assertEqual(proposal["why"], ["year 1 of 5 of the programme, due 2027-09-01"])
        self.assertEqual(proposal["act"], "herbicide")
        (cut,) = follow_ups([done("R32", "2027-08-01")], (), None, DAY("2027-08-20"))
        proposal = propose_again(case("ailanthus-altissima", on="2027-08-20"), cut, FLORA)
        self.assertEqual((proposal["act"], proposal["do"]), ("fell", "Cut the treated stem."))
        self.assertEqual(proposal["season"]["begins"], "2027-10-01")  # type: ignore[index]
        self.assertNotIn("C7", [c["check"] for c in proposal["checks"]], "no pesticide in the cut")

    def test_parts_that_are_not_there_are_refused(self) -> None:
        for rule, part in (("R32", "trench"), ("R06", "cut"), ("R99", "")):
            with self.subTest(rule), self.assertRaises(InputError):
                rule_of(rule, part)

    def test_no_later_part_before_the_first_and_its_days(self) -> None:
        tree = case("ailanthus-altissima", on="2027-10-10", **ready("2027-10-10T06:00:00-04:00"), targets=[])
        for first, said in (
            (None, "not completed yet"),
            ("2027-09-11", "Not before 2027-10-11"),
            ("2027-09-10", ""),
        ):
            told = asked(tree, "R32", "planned", part="cut", first_part_on=first)
            with self.subTest(first=first):
                self.assertEqual(told["allowed"], not said, told["refusals"])
                self.assertIn(said, " ".join(told["refusals"]))


class SeasonsUpToADay(unittest.TestCase):
    def spans(self, function: Any, rule: str, until: str = "2028-12-31", **of: Any) -> list[str]:
        facts = read_facts(case(**of), FLORA)
        arguments: tuple[Any, ...] = () if function is nesting_until else (work_rules().rules[rule],)
        arguments += (arguments[0].acts,) if function is closed_until else ()
        flora = () if function is nesting_until else (FLORA,)
        return [f"{a} {b}" for a, b in function(*arguments, facts, facts.on, DAY(until), *flora)]

    def test_every_winter_up_to_the_day(self) -> None:
        # 151 days each: of the winter with 29 February the last day is the 30th
        self.assertEqual(
            self.spans(windows_until, "R07", taxon="quercus-rubra", on="2026-12-10"),
            ["2026-11-01 2027-03-31", "2027-11-01 2028-03-31", "2028-11-01 2029-03-31"],
        )
        self.assertEqual(self.spans(windows_until, "R06", on="2026-12-10"), [])

    def test_never_of_the_oak_and_nesting_of_the_area(self) -> None:
        self.assertEqual(
            self.spans(closed_until, "R07", until="2027-12-31", on="2026-12-10"), ["2027-04-01 2027-07-31"]
        )
        britain = self.spans(nesting_until, "", until="2027-12-31", on="2026-12-10", **BRITAIN)
        self.assertEqual(britain, ["2027-03-01 2027-08-31"], "by its own calendar, not moved by latitude")
        south = {"lat": -37.5, "lon": 145.0, "areas": ["VIC"]}
        spans = self.spans(nesting_until, "", until="2027-09-30", on="2027-03-10", **south)
        self.assertEqual(spans, ["2027-08-01 2027-12-31"])
        self.assertEqual(self.spans(nesting_until, "", on="2027-03-10", areas=["TEX"]), [])


class NestsInUse(unittest.TestCase):
    def refusals(self, on: str, *looks: str, seen: str | None = "2026-12-01") -> str:
        rows = [told("nest_look", at=f"{day}T07:00:00-04:00", result="none") for day in looks]
        others = [row for row in everything(f"{on}T06:00:00-04:00") if row["kind"] != "nest_look"]
        in_use = {"nest_in_use_at": f"{seen}T07:30:00-04:00"} if seen else {}
        tree = case(on=on, **{**ready(), "evidence": [*others, *rows]}, **in_use)
        return " ".join(asked(tree, "R06")["refusals"])

    def test_a_nest_in_use_blocks_until_it_is_found_empty_or_six_weeks_have_passed(self) -> None:
        for what, on, looks, blocked in (
            ("the look of the day it was seen", "2026-12-01", ("2026-12-01",), True),
            ("a look since found none", "2026-12-10", ("2026-12-10",), False),
            ("no look since", "2026-12-10", ("2026-11-30",), True),
            ("six weeks later, looked again", "2027-01-12", ("2027-01-12",), False),
        ):
            with self.subTest(what):
                self.assertEqual("in use was seen on 2026-12-01" in self.refusals(on, *looks), blocked)
        self.assertIn("look again after 2027-01-12", self.refusals("2026-12-10"))
        self.assertNotIn("in use", self.refusals("2026-12-10", "2026-12-10", seen=None))
