"""Targets, the owner's table and the report as PDF: bad forms, who may, and what a report may take in."""

from __future__ import annotations

import io
import json
import re
from pathlib import Path
from typing import Any

from django.test import TestCase
from pypdf import PdfReader

from apps.inspections.models import Report, Target
from apps.inspections.report_pdf import report_pdf
from apps.plants.tests.factories import SmallSite, a_plant, entry, signed_in, small_site, today_there
from config.pdf import OwnFiles, assets

POINT = {"type": "Point", "coordinates": [-79.3, 40.5]}
TARGET = {"name": "School gate", "kind": "path", "occupancy": "constant", "shape": POINT}
NEVER_SAID = re.compile(r"\bsafe|complian|duty|\bduties|guarantee", re.IGNORECASE)


def today() -> str:
    """The day on which the records of a test are received."""
    return today_there().isoformat()


def posted(at: SmallSite, what: str, given: Any, method: str = "post") -> Any:
    """The answer to a steward who sends something to a site."""
    return getattr(signed_in(at.steward), method)(f"/api/sites/{at.site.id}/{what}/", given)


def renamed(file: Any, i: int, **properties: str) -> dict[str, Any]:
    """A feature of a file under another name."""
    feature: dict[str, Any] = file["features"][i]
    return {**feature, "properties": {**feature["properties"], "name": f"New {i}", **properties}}


class Targets(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def test_bad_forms_name_their_field_and_nothing_is_stored(self) -> None:
        self.assertEqual(posted(self.at, "targets", TARGET).status_code, 201)
        for change, field in (
            ({"name": " "}, "name"),
            ({"kind": "volcano"}, "kind"),
            ({"occupancy": "busy"}, "occupancy"),
            ({"shape": {"type": "Point", "coordinates": [-79.3, 95]}}, "shape.coordinates.lat"),
            ({"shape": {"type": "Point", "coordinates": [[-79.3, 40]]}}, "shape.coordinates"),
            ({"shape": {"type": "LineString", "coordinates": [[0, 0]]}}, "shape.coordinates"),
            ({"shape": {"type": "MultiPoint", "coordinates": [[0, 0]]}}, "shape.type"),
            ({}, "name"),  # taken
        ):
            answer = posted(self.at, "targets", TARGET | change)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), change)
        self.assertEqual(Target.objects.count(), 1)

    def test_a_change_keeps_what_was_known_before(self) -> None:
        made = posted(self.at, "targets", TARGET).json()
        steward = signed_in(self.at.steward)
        address = f"/api/targets/{made['id']}/"
        self.assertEqual(steward.patch(address, {"occupancy": "rare"}).json()["occupancy"], "rare")
        self.assertEqual(steward.patch(address, {"occupancy": "often"}).status_code, 400)
        [now] = steward.get(f"/api/sites/{self.at.site.id}/targets/").json()
        self.assertEqual((now["id"], now["occupancy"], now["shape"]), (made["id"], "rare", POINT))
        self.assertEqual(Target.objects.count(), 2)
        self.assertEqual(steward.delete(address).status_code, 204)
        self.assertEqual(steward.delete(address).status_code, 404)
        self.assertEqual(posted(self.at, "targets", TARGET).status_code, 201, "its name is free again")

    def test_out_and_in_by_a_file_and_never_half(self) -> None:
        line = {"type": "LineString", "coordinates": [[-79.3, 40.5], [-79.2, 40.5]]}
        ring = [[-79.3, 40.5], [-79.2, 40.5], [-79.2, 40.6], [-79.3, 40.5]]
        area = {"type": "Polygon", "coordinates": [ring]}
        for name, shape in (("Gate", POINT), ("Road", line), ("Yard", area)):
            posted(self.at, "targets", TARGET | {"name": name, "shape": shape, "note": "é"})
        address = f"/api/sites/{self.at.site.id}/targets.geojson"
        file = json.loads(signed_in(self.at.viewer).get(address).content)
        self.assertEqual(
            [f["geometry"]["type"] for f in file["features"]], ["Point", "LineString", "Polygon"]
        )
        other = small_site("Another organisation")
        taken = signed_in(other.steward).post(f"/api/sites/{other.site.id}/targets.geojson", file)
        self.assertEqual(taken.status_code, 201, taken.content)
        again = signed_in(other.viewer).get(f"/api/sites/{other.site.id}/targets.geojson")
        self.assertEqual(json.loads(again.content), file)
        for spoil, field in (
            ({"features": []}, "features"),
            ([], "features"),
            ({"features": [renamed(file, 0), {}]}, "features[1].properties"),
            ({"features": file["features"]}, "features[0].name"),
            ({"features": [renamed(file, 0), renamed(file, 1, kind="volcano")]}, "features[1].kind"),
            ({"features": [renamed(file, 0), renamed(file, 1) | {"geometry": None}]}, "features[1].shape"),
        ):
            answer = signed_in(self.at.steward).post(address, spoil)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
        self.assertEqual(Target.objects.filter(site=self.at.site).count(), 3)

    def test_the_zone_of_a_tree_is_that_of_the_busiest_target_in_its_reach(self) -> None:
        near = a_plant(self.at, entry("tag", number="near"), lat=40.5001)
        tall = a_plant(
            self.at,
            entry("measurement", quantity="height_m", raw={"value": 40.0}, method="estimated"),
            lat=40.5003,
        )
        far = a_plant(self.at, entry("tag", number="far"), lat=40.5003)
        posted(self.at, "targets", TARGET)
        posted(self.at, "targets", TARGET | {"name": "Shed", "occupancy": "rare"})
        table = {"rules": [{"zone": "constant", "level": "basic", "months": 6}], "otherwise": "occasional"}
        self.assertEqual(posted(self.at, "regime", table, "put").status_code, 200)
        rows = self.coverage()["rows"]
        zones = {row["tree"]: (row["zone"], row["level_asked"]) for row in rows}
        # 11 m and 33 m from the point; 20 m is the reach of a tree whose height is not known
        self.assertEqual(
            zones, {near: ("constant", "basic"), tall: ("constant", "basic"), far: ("occasional", "")}
        )

    def coverage(self) -> dict[str, Any]:
        address = f"/api/sites/{self.at.site.id}/coverage/?on={today()}"
        found: dict[str, Any] = signed_in(self.at.viewer).get(address).json()
        return found

    def test_the_table_is_refused_whole(self) -> None:
        rule = {"zone": "rare", "level": "basic", "months": 12}
        for given, field in (
            ({"rules": [rule, rule]}, "rules"),
            ({"rules": [{**rule, "high_months": 13}]}, "rules[0].high_months"),
            ({"rules": [rule], "reach_m": 0}, "reach_m"),
            ({"rules": "all"}, "rules"),
        ):
            answer = posted(self.at, "regime", given, "put")
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
        site = f"/api/sites/{self.at.site.id}"
        self.assertEqual(signed_in(self.at.viewer).get(f"{site}/regime/").json(), {})
        self.assertEqual(self.coverage()["rows"], [], "no tree yet, and no table")


class Reports(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        a_plant(
            self.at,
            entry("tag", number="<script>7</script>"),
            entry("inspection", level="basic", base_visible="partly", crown_visible="whole"),
        )
        answer = posted(self.at, "reports", {"on": today(), "note": "a & b <i>"})
        self.assertEqual(answer.status_code, 201, answer.content)
        self.report = Report.objects.get()

    def text(self) -> list[str]:
        return [page.extract_text() for page in PdfReader(io.BytesIO(report_pdf(self.report))).pages]

    def test_one_page_and_a_schedule_with_what_was_typed_as_text(self) -> None:
        first, schedule = self.text()
        for told in ("Report 1", "Test organisation site", today(), "steward", "a & b <i>", "Method"):
            self.assertIn(told, first)
        flat = schedule.replace("\n", "")
        self.assertIn("<script>7</script>", flat)
        self.assertIn("base", schedule)
        self.assertEqual(NEVER_SAID.findall(" ".join(self.text())), [])

    def test_printed_again_it_is_the_same_byte_by_byte(self) -> None:
        self.assertEqual(report_pdf(self.report), report_pdf(self.report))

    def test_through_the_door(self) -> None:
        answer = signed_in(self.at.viewer).get(f"/api/reports/{self.report.id}/report.pdf")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        self.assertIn('filename="report-1.pdf"', answer["Content-Disposition"])
        self.assertTrue(answer.content.startswith(b"%PDF"))

    def test_it_takes_in_the_fonts_of_the_app_and_nothing_else(self) -> None:
        for url in (
            "https://example.org/a.woff2",
            "http://127.0.0.1:5432/",
            "file:///etc/passwd",
            f"file://{assets()}/../index.html",
            f"file://{assets()}/%2e%2e/secret.woff2",
            "data:text/css,a{}",
        ):
            with self.subTest(url), self.assertRaises(ValueError):
                OwnFiles().fetch(url)

    def test_bad_forms(self) -> None:
        for given, field in (
            ({}, "on"),
            ({"on": "2190-01-01"}, "on"),
            ({"on": "2026-11-01", "blocks": ["7"]}, "blocks[0]"),
            ({"on": "2026-11-01", "blocks": [str(self.at.site.id)]}, "blocks"),
            ({"on": "2026-11-01", "note": "x" * 1001}, "note"),
        ):
            answer = posted(self.at, "reports", given)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), given)
        self.assertEqual(Report.objects.count(), 1)

    def test_the_words_that_promise_too_much_stand_in_none_of_its_sources(self) -> None:
        server = Path(__file__).resolve().parents[3]
        core = server.parent / "jubark_core" / "inspection"
        pages = server.parent / "web" / "src" / "features" / "inspections"
        sources = (*core.glob("*.py"), *pages.glob("*.tsx"))
        self.assertGreater(len(sources), 8)
        for file in (server / "templates" / "coverage_report.html", *sources):
            self.assertEqual(NEVER_SAID.findall(file.read_text()), [], file.name)
