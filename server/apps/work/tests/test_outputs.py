"""What leaves the house: sheets, package, calendar; and what to do with so much money."""

from __future__ import annotations

import csv
import io
import json
import re
import unittest
import zipfile
from itertools import combinations
from typing import Any

from icalendar import Calendar
from pypdf import PdfReader

from apps.organisations.models import AuditEvent
from apps.plants.tests.factories import a_plant, entry, new_id, signed_in
from apps.work.outputs.site_sketch import site_sketch
from apps.work.tests.test_work import SHEET, TODAY, named
from apps.work.tests.test_year import CREW, RATES, OfASite


class Outputs(OfASite):
    def setUp(self) -> None:
        super().setUp()
        ash = a_plant(
            self.at,
            named("fraxinus-americana"),
            entry("life", state="standing_dead"),
            entry("tag", number="=1+1"),
        )
        self.felled = self.job(
            ash,
            "R24",
            {
                "step": "changed",
                "reason": "as walked",
                "street": "Weir Lane",
                "traffic": "both lanes held",
                "cost": 777,
            },
        )
        planned = {
            "step": "planned",
            "begins": "2027-02-10",
            "ends": "2027-02-11",
            "crew": "Crew 1",
        }
        self.limbs = self.job(self.oak(), "R06", planned)

    def get(self, what: str, **query: Any) -> Any:
        answer = signed_in(self.at.viewer).get(self.path + what, {"on": TODAY, **query})
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer

    def test_sheets_carry_work_reasons_cautions_checks_and_specification(self) -> None:
        with self.assertNoLogs("weasyprint", "WARNING"):
            made = self.get("sheets.pdf").content
        text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(made)).pages)
        for said in (
            "2 jobs",
            "Weir Lane",
            "both lanes held",
            "Never by: climb",
            "2027-02-10 to 2027-02-11",
            "Crew 1",
            "Name: open",
            "Still needed",
            "dead limb",
            "without harm",
            "Minutes to sealing",
            "north up",
        ):
            with self.subTest(said):
                self.assertIn("".join(said.casefold().split()), "".join(text.casefold().split()))
        self.assertNotIn("777", text, "no cost of the house")
        self.assertEqual(AuditEvent.objects.filter(act="export_read").count(), 1)

    def test_one_sheet_is_asked_for_and_a_stranger_s_is_refused(self) -> None:
        pages = PdfReader(io.BytesIO(self.get("sheets.pdf", job=self.limbs).content)).pages
        self.assertEqual(len(pages), 2)
        self.assertNotIn("Weir Lane", " ".join(page.extract_text() for page in pages))
        for bad in (new_id(), "nonsense"):
            answer = self.steward.get(self.path + "sheets.pdf", {"on": TODAY, "job": bad})
            self.assertEqual((answer.status_code, answer.json()["field"][:3]), (400, "job"))

    def test_the_calendar_is_read_by_another_program(self) -> None:
        answer = self.get("calendar.ics")
        self.assertEqual(answer["Content-Type"], "text/calendar")
        [event] = Calendar.from_ical(answer.content).walk("VEVENT")  # only what has a day or a week
        self.assertEqual(event.decoded("dtstart").isoformat(), "2027-02-10")
        self.assertEqual(event.decoded("dtend").isoformat(), "2027-02-12", "the day after the last, RFC 5545")
        self.assertEqual(str(event["status"]), "CONFIRMED")
        self.assertIn("Crew 1", str(event["description"]))
        self.assertIn(self.limbs, str(event["uid"]))
        self.settings()
        self.planned()
        events = {
            str(e["uid"])[:36]: e for e in Calendar.from_ical(self.get("calendar.ics").content).walk("VEVENT")
        }
        self.assertEqual(str(events[self.felled]["status"]), "TENTATIVE")
        self.assertIn("Open before the work: Name", str(events[self.felled]["description"]))

    def test_the_package_has_a_list_to_price_and_runs_no_formula(self) -> None:
        answer = self.get("tender.zip")
        package = zipfile.ZipFile(io.BytesIO(answer.content))
        self.assertEqual(package.namelist(), ["schedule.csv", "places.geojson", "sheets.pdf"])
        rows = list(csv.DictReader(io.StringIO(package.read("schedule.csv").decode())))
        self.assertEqual([r["price"] for r in rows], ["", ""])
        self.assertEqual({r["tag"] for r in rows}, {"'=1+1", ""})
        self.assertNotIn("777", package.read("schedule.csv").decode())
        places = json.loads(package.read("places.geojson"))
        self.assertEqual([len(f["geometry"]["coordinates"]) for f in places["features"]], [2, 2])
        self.assertEqual(answer.content, self.get("tender.zip").content, "the same again")

    def test_a_site_without_jobs_has_empty_ones(self) -> None:
        for row in (self.felled, self.limbs):
            self.assertIn(row, {j["job"] for j in self.steward.get(self.path, {"on": TODAY}).json()["jobs"]})
        empty = self.at.site.__class__.objects.create(
            organisation=self.at.organisation, name="Empty", areas=["PEN"], lat=40, lon=-79
        )
        path = f"/api/sites/{empty.id}/work/"
        self.assertEqual(
            list(
                Calendar.from_ical(self.steward.get(path + "calendar.ics", {"on": TODAY}).content).walk(
                    "VEVENT"
                )
            ),
            [],
        )
        self.assertEqual(self.steward.get(path + "sheets.pdf", {"on": TODAY}).status_code, 200)
        self.assertEqual(site_sketch([], []), "")


class Sketch(unittest.TestCase):
    def test_labels_of_trees_that_stand_close_do_not_lie_on_each_other(self) -> None:
        rows = [(f"{n:04d}", -79.3 + n % 3 * 1.2e-4, 40.5 + n // 3 * 1.2e-4) for n in range(30)]  # 10 by 13 m
        field = [(-79.301, 40.499), (-79.299, 40.499), (-79.299, 40.502), (-79.301, 40.502)]
        labels = r'<text x="([0-9.]+)" y="([0-9.]+)" font-size="11">([0-9]{4})<'
        found = re.findall(labels, site_sketch(rows, [field]))
        self.assertEqual(sorted(label for *_, label in found), [label for label, *_ in rows])
        for (x, y, a), (u, v, b) in combinations(found, 2):
            apart = abs(float(x) - float(u)) >= 4 * 6 or abs(float(y) - float(v)) >= 11
            self.assertTrue(apart, f"{a} lies on {b}")


class Budgets(OfASite):
    def test_the_most_risk_for_the_money_and_what_is_left_undone(self) -> None:
        self.settings(**RATES, crews=[CREW])
        high = {**SHEET, "rows": [{**SHEET["rows"][0], "failure": "probable"}]}
        risky = a_plant(self.at, named("acer-rubrum"), entry("risk", **high))
        dear = self.job(risky, "R03", {"step": "changed", "reason": "big", "hours": 10})
        unrated = self.job(self.oak(), "R06")
        told = self.steward.get(self.path + "budget/", {"on": TODAY, "money": "1100"}).json()
        rating = next(j["rating"] for j in work_jobs(self) if j["job"] == dear)
        points = {"extreme": 99, "high": 29, "moderate": 7}[rating]
        self.assertEqual([j["job"] for j in told["done"]], [dear])
        self.assertEqual([j["job"] for j in told["then"]], [unrated])
        self.assertEqual((told["spent"], told["taken_away"]), (900 + told["then"][0]["cost"], points))
        short = self.steward.get(self.path + "budget/", {"on": TODAY, "money": "899"}).json()
        self.assertEqual(([j["job"] for j in short["undone"]], short["taken_away"]), ([dear], 0))
        for bad in ("-1", "much", "nan", ""):
            answer = self.steward.get(self.path + "budget/", {"on": TODAY, "money": bad})
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, "money"), bad)


def work_jobs(test: OfASite) -> Any:
    return test.steward.get(test.path, {"on": TODAY}).json()["jobs"]
