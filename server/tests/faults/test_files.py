"""F13 to F16 on files: taken twice at once, too large, run as formulas, told in another reference system."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math
from typing import Any
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.exchange import csv_format
from apps.exchange.services import stage_file
from apps.plants.models import Plant
from apps.plants.tests.factories import (
    a_plant,
    dbh,
    entry,
    open_test_block,
    plant_item,
    recorded,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block


class Files(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.formula = "=HYPERLINK(1)"
        cls.texts = (cls.formula, "'=1+1", "-1", "@x", "'quoted'", "plain", "''+2")
        a_plant(cls.at, *(entry("note", text=text) for text in cls.texts), dbh(30))

    def export(self, ending: str, block: Block | None = None) -> bytes:
        return b"".join(
            signed_in(self.at.viewer)
            .get(f"/api/blocks/{(block or self.at.block).id}/export.{ending}")
            .streaming_content
        )

    def stage(self, name: str, data: bytes, block: Block) -> Any:
        given = {"block": str(block.id), "file": SimpleUploadedFile(name, data)}
        return signed_in(self.at.steward).post("/api/imports/", given, format="multipart")

    def take(self, batch: dict[str, Any]) -> Any:
        return signed_in(self.at.steward).post(f"/api/imports/{batch['id']}/", {"decision": "take"})

    def notes(self, block: Block) -> list[str]:
        return sorted(note.text for note in recorded("note", plant__block=block))

    def test_f2_an_export_that_fails_on_the_way_is_an_error_and_no_shorter_file(self) -> None:
        for ending in ("csv", "geojson"):
            broken = patch(
                "apps.exchange.api.views.block_plants", side_effect=ValueError("year 10000 is out of range")
            )
            with broken, self.assertLogs("config.api_errors", "ERROR"):
                answer = signed_in(self.at.viewer).get(f"/api/blocks/{self.at.block.id}/export.{ending}")
            self.assertEqual((answer.status_code, answer.json()["code"]), (500, "server_error"))
        whole = signed_in(self.at.viewer).get(f"/api/blocks/{self.at.block.id}/export.csv")
        self.assertEqual(int(whole["Content-Length"]), len(b"".join(whole.streaming_content)))

    def test_f13_one_file_staged_twice_and_taken_twice_is_stored_once(self) -> None:
        empty, data = open_test_block(self.at.site, "Empty"), self.export("csv")
        first, second = self.stage("a.csv", data, empty).json(), self.stage("a.csv", data, empty).json()
        self.assertEqual([self.take(b).status_code for b in (first, second)], [200, 200])
        self.assertEqual(self.notes(empty), sorted(self.texts))

    def test_f13_ids_taken_elsewhere_meanwhile_refuse_the_whole_file_and_store_nothing(self) -> None:
        one, two = open_test_block(self.at.site, "One"), open_test_block(self.at.site, "Two")
        collection = json.loads(self.export("geojson"))
        for feature in collection["features"]:
            feature["id"] = feature["id"][:-4] + "beef"
            for visit in feature["properties"]["visits"]:
                visit["id"] = visit["id"][:-4] + "beef"
                for e in visit["entries"]:
                    e["id"] = e["id"][:-4] + "beef"
        data = json.dumps(collection).encode()
        first, second = self.stage("a.geojson", data, one).json(), self.stage("a.geojson", data, two).json()
        self.assertEqual(self.take(first).status_code, 200)
        refused = self.take(second)
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "ids_taken"))
        self.assertEqual(Plant.objects.filter(block=two).count(), 0)
        again = self.stage("a.geojson", data, two).json()  # read in again, the ids are renamed
        self.assertEqual(self.take(again).status_code, 200)
        self.assertEqual(self.notes(two), sorted(self.texts))

    def test_f14_a_file_of_too_many_rows_is_refused_and_a_list_of_bad_rows_is_short(self) -> None:
        header = self.export("csv").split(b"\r\n")[0]
        with patch.object(csv_format, "MOST_ROWS", 50):
            answer = self.stage("a.csv", header + b"\r\nx" * 60, self.at.block)
        self.assertEqual(answer.status_code, 400)
        self.assertIn("at most 50 rows", answer.json()["message"])
        with patch.object(stage_file, "MOST_BAD_LISTED", 7):
            batch = self.stage("a.csv", header + b"\r\nx" * 60, self.at.block).json()
        self.assertEqual((len(batch["bad"]), batch["counts"]["bad"]), (7, 60))

    def test_f15_no_cell_of_any_column_starts_like_a_formula_and_every_text_comes_back(self) -> None:
        item = visit_item(a_plant(self.at), observer="=cmd()")
        item["body"]["entries"] = [{**entry("note", text="=1"), "observer": "+1", "reason": "-1"}]
        row = plant_item(self.at.block, row_name="@row")
        self.assertEqual(
            [a["answer"] for a in send(signed_in(self.at.surveyor), item, row)], ["accepted"] * 2
        )
        data = self.export("csv")
        rows = list(csv.DictReader(io.StringIO(data.decode())))
        numbers = {"lon", "lat", "value", *csv_format.NUMBERS}
        started = {
            c: v
            for r in rows
            for c, v in r.items()
            if c not in numbers and v.startswith(csv_format.FORMULA_START)
        }
        self.assertEqual(started, {})
        empty = open_test_block(self.at.site, "Empty")
        self.assertEqual(self.take(self.stage("a.csv", data, empty).json()).status_code, 200)
        self.assertEqual(self.export("csv", empty).count(b"=cmd()"), data.count(b"=cmd()"))
        self.assertEqual(self.notes(empty), self.notes(self.at.block))
        self.assertEqual(Plant.objects.filter(block=empty, row_name="@row").count(), 1)

    def test_f16_a_reference_system_other_than_wgs_84_is_refused(self) -> None:
        collection = json.loads(self.export("geojson"))
        for name, status in (
            ("urn:ogc:def:crs:EPSG::32617", 400),
            ("urn:ogc:def:crs:OGC:1.3:CRS84", 201),
            (7, 400),
        ):
            collection["crs"] = {"type": "name", "properties": {"name": name}}
            answer = self.stage(
                "a.geojson", json.dumps(collection).encode(), open_test_block(self.at.site, str(name))
            )
            self.assertEqual(answer.status_code, status, answer.json())

    def test_f16_a_column_named_twice_is_refused(self) -> None:
        data = self.export("csv").replace(b"tag,name", b"tag,reason", 1)
        answer = self.stage("a.csv", data, self.at.block)
        self.assertEqual((answer.status_code, answer.json()["value"]), (400, "'twice: reason'"))

    def test_f16_an_outline_of_six_thousand_positions_goes_out_and_comes_back(self) -> None:
        circle = [
            [-79.3 + 0.0004 * math.cos(i * math.tau / 6000), 40.5 + 0.0004 * math.sin(i * math.tau / 6000)]
            for i in range(6000)
        ]
        block = open_test_block(self.at.site, "Round")
        item = plant_item(
            block, form="group", outline={"type": "Polygon", "coordinates": [[*circle, circle[0]]]}
        )
        for key in ("lon", "lat"):
            del item["body"][key]
        self.assertEqual(send(signed_in(self.at.surveyor), item)[0]["answer"], "accepted")
        for ending in ("csv", "geojson"):
            empty = open_test_block(self.at.site, f"Empty for {ending}")
            self.assertEqual(
                self.take(self.stage(f"a.{ending}", self.export(ending, block), empty).json()).status_code,
                200,
            )
            self.assertEqual(Plant.objects.get(block=empty).outline.num_coords, 6001)

    def test_f4_hostile_cells_are_bad_rows(self) -> None:
        lines = self.export("csv").decode().split("\r\n")
        header = next(csv.reader([lines[0]]))
        good = next(csv.reader([lines[1]]))

        def with_cell(column: str, value: str) -> str:
            cells = list(good)
            cells[header.index(column)] = value
            out = io.StringIO()
            csv.writer(out).writerow(cells)
            return out.getvalue().strip()

        nested = "[" * 3000 + "]" * 3000
        hostile = [
            with_cell("outline", '{"type":"Polygon","coordinates":' + nested + "}"),
            with_cell("body", '{"text":"\\ud800"}'),
            with_cell("body", '{"text":"\\u0000"}'),
            with_cell("body", '{"text": NaN}'),
            with_cell("lon", "1e999"),
            with_cell("visit_utc_offset_min", "9" * 5000),
            with_cell("local_date", "20261125"),
        ]
        batch = self.stage(
            "a.csv", "\r\n".join([lines[0], *hostile]).encode(), open_test_block(self.at.site, "Empty")
        ).json()
        self.assertEqual((batch["counts"]["bad"], batch["counts"]["entries"]), (len(hostile), 0), batch)
        self.assertTrue(all(b["field"] and b["allowed"] for b in batch["bad"]))


class Formulas(TestCase):
    def test_f15_the_escape_of_formulas_loses_no_text(self) -> None:
        """Every text of up to three characters of an alphabet that matters."""
        for parts in itertools.product(("", "=", "'", "-", "a", "\t"), repeat=3):
            text = "".join(parts)
            cell = csv_format._safe(text)
            self.assertFalse(cell.startswith(csv_format.FORMULA_START), cell)
            self.assertEqual(csv_format._as_written(cell), text)
