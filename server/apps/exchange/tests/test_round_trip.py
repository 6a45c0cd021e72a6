"""A block goes out as a file and comes back with nothing lost; bad rows are listed, never half-saved."""

from __future__ import annotations

import json
import re
import uuid
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.exchange.rows import block_plants
from apps.organisations.models import Member
from apps.plants.models import Entry, Plant
from apps.plants.tests.factories import a_plant, entry, open_test_block, signed_in, small_site, take_samples
from apps.sites.models import Block
from jubark_core.records.upgrade import VERSION

UUID_IN = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")


class RoundTrip(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        take_samples(cls.at, VERSION)

    def export(self, ending: str, block: Block | None = None) -> bytes:
        return b"".join(
            signed_in(self.at.viewer)
            .get(f"/api/blocks/{(block or self.at.block).id}/export.{ending}")
            .streaming_content
        )

    def stage(self, name: str, data: bytes, block: Block, member: Member | None = None) -> Any:
        return signed_in(member or self.at.steward).post(
            "/api/imports/",
            {"block": str(block.id), "file": SimpleUploadedFile(name, data)},
            format="multipart",
        )

    def decide(self, batch: str, decision: str = "take") -> Any:
        return signed_in(self.at.steward).post(f"/api/imports/{batch}/", {"decision": decision})

    def content(self, block: Block, renamed_by: Block | None = None) -> list[Any]:
        """Everything recorded in a block; ids that a file's take renamed are given their old names again."""
        text = json.dumps(list(block_plants(self.at.viewer, block)))
        if renamed_by is not None:
            olds = set(UUID_IN.findall(json.dumps(self.content(self.at.block))))
            for old in olds:
                text = text.replace(str(uuid.uuid5(renamed_by.id, old)), old)
        return sorted(json.loads(text), key=lambda plant: str(plant["id"]))

    def test_both_formats_come_back_into_an_empty_block_with_nothing_lost(self) -> None:
        for ending in ("csv", "geojson"):
            with self.subTest(ending):
                empty = open_test_block(self.at.site, f"Empty for {ending}")
                staged = self.stage(f"block.{ending}", self.export(ending), empty)
                self.assertEqual(
                    (staged.status_code, staged.json()["counts"]["bad"]), (201, 0), staged.json()
                )
                self.assertEqual(Plant.objects.filter(block=empty).count(), 0)  # staged, not stored
                self.assertEqual(self.decide(staged.json()["id"]).json()["state"], "taken")
                self.assertEqual(self.content(empty, renamed_by=empty), self.content(self.at.block))

    def test_reading_the_same_file_twice_adds_nothing(self) -> None:
        empty = open_test_block(self.at.site, "Empty")
        for expected in (3, 0):
            batch = self.stage("block.csv", self.export("csv"), empty).json()
            self.assertEqual(batch["counts"]["plants"], expected)
            self.decide(batch["id"])
        self.assertEqual(Plant.objects.filter(block=empty).count(), 3)
        self.assertEqual(self.decide(batch["id"]).status_code, 409)

    def test_dropping_a_file_stores_nothing_and_a_surveyor_cannot_read_one_in(self) -> None:
        empty = open_test_block(self.at.site, "Empty")
        batch = self.stage("block.csv", self.export("csv"), empty).json()
        self.assertEqual(self.decide(batch["id"], "drop").json()["state"], "dropped")
        self.assertEqual(Plant.objects.filter(block=empty).count(), 0)
        self.assertEqual(
            self.stage("block.csv", self.export("csv"), empty, self.at.surveyor).status_code, 403
        )

    def test_bad_rows_are_listed_with_row_field_value_and_allowed_and_the_rest_can_be_taken(self) -> None:
        empty = open_test_block(self.at.site, "Empty")
        lines = self.export("csv").decode().split("\r\n")
        at = next(i for i, line in enumerate(lines) if '""value"": 301' in line or '""value"": 301.0' in line)
        lines[at] = lines[at].replace("301", "9999")
        lines[at + 1 : at + 1] = ["just,half,a,row"]
        batch = self.stage("block.csv", "\r\n".join(lines).encode(), empty).json()
        fields = {b["field"]: b for b in batch["bad"]}
        self.assertIn("entry.measurement.dbh_cm", fields)
        self.assertEqual(fields["row"]["value"], "'4 of 40 columns'")
        self.assertIn("replaces", fields)  # the correction of the bad row has nothing left to correct
        self.decide(batch["id"])
        self.assertEqual(Plant.objects.filter(block=empty).count(), 3)

    def test_a_name_rests_on_observations_of_its_own_plant_alone(self) -> None:
        a_plant(self.at, entry("observation", character="leaf.arrangement", states=["opposite"]))
        collection = json.loads(self.export("geojson"))
        entries = {
            f["id"]: [e for v in f["properties"]["visits"] for e in v.get("entries", [])]
            for f in collection["features"]
        }
        plant, name = next(
            (plant, e)
            for plant, own in entries.items()
            for e in own
            if e["kind"] == "determination" and e.get("body", {}).get("observations")
        )
        foreign = next(own[0]["id"] for other, own in entries.items() if other != plant and own)
        name["body"]["observations"] = [foreign]
        empty = open_test_block(self.at.site, "Empty")
        batch = self.stage("block.geojson", json.dumps(collection).encode(), empty).json()
        allowed = {(b["value"], b["allowed"]) for b in batch["bad"]}
        self.assertIn((foreign, "an entry of the same plant, in the file"), allowed)

    def test_files_that_cannot_be_read_say_why_and_store_nothing(self) -> None:
        good = self.export("csv").decode()
        before = Entry.objects.count()
        for name, data, said in (
            ("a.csv", good.replace("visit_id", "visit", 1).encode(), "no column visit_id"),
            ("a.csv", good.replace("ümlaut", "\xfcmlaut").encode("latin-1"), "UTF-8"),
            ("a.csv", b"", "no column"),
            ("a.csv", b'plant_id,"lon\n', "CSV"),
            ("a.geojson", b"{", "RFC 7946"),
            ("a.geojson", b'{"type": "Feature"}', "FeatureCollection"),
            ("a.xlsx", b"PK", ".csv, .geojson"),
        ):
            with self.subTest(said):
                answer = self.stage(name, data, self.at.block)
                self.assertEqual(answer.status_code, 400, answer.json())
                self.assertIn(said, answer.json()["message"])
        self.assertEqual(Entry.objects.count(), before)

    def test_features_of_another_shape_and_days_to_come_are_bad_rows(self) -> None:
        collection = json.loads(self.export("geojson"))
        collection["features"][0]["geometry"] = {"type": "Point", "coordinates": [500, 40]}
        collection["features"].append("nonsense")
        for feature in collection["features"][1:-1]:
            for visit in feature["properties"]["visits"]:
                visit["local_date"] = "2199-01-01"
        batch = self.stage(
            "block.geojson", json.dumps(collection).encode(), open_test_block(self.at.site, "Empty")
        ).json()
        self.assertLessEqual({"feature", "local_date"}, {b["field"] for b in batch["bad"]})
        self.assertEqual(
            {b["row"] for b in batch["bad"]} - {None}, {1, 2, 3, 4} & {b["row"] for b in batch["bad"]}
        )

    def test_a_readable_cell_never_starts_like_a_formula(self) -> None:
        a_plant(self.at, entry("note", text="=HYPERLINK(1)"))
        self.assertIn("'=HYPERLINK", self.export("csv").decode())
