"""A block goes out as a file and comes back with nothing lost; bad rows are listed, never half-saved."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.exchange.rows import block_plants
from apps.organisations.models import Member
from apps.plants.models import Entry, Plant
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    open_test_block,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block

LOOKS = (
    entry("look", character="leaf.leaflets", values=[7, 7, 5, 7], certainty="sure", seen="litter"),
    entry("look", character="leaf.base", states=["unequal"], k=3, n=8),
    entry("look", character="bark.texture", states=["smooth"], absent=["scaly"], where="breast"),
    entry("look", character="fruit.kind", none=True),
    entry("look", character="leaf.lobe_tip", applies=False),
    entry("photo", sha256="a" * 64, bytes=10, defect="cavity"),
)


class RoundTrip(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        slip = dbh(301)
        cls.plant = a_plant(
            cls.at,
            slip,
            *LOOKS,
            entry("tag", number="0042"),
            entry("note", text='half "quoted", with\nnew line and ümlaut'),
            entry("sign", sign="conks", present=False),
            on="2024-05-01",
        )
        name = entry(
            "determination",
            entered="Fraxinus sp.",
            taxon="fraxinus",
            probability=0.93,
            looks=[LOOKS[0]["id"]],
        )
        height = entry(
            "measurement",
            quantity="height_m",
            raw={"angles": {"distance_m": 20, "top_deg": 45, "base_deg": -5}},
            method="instrument",
        )
        judged = (
            entry(
                "measurement",
                quantity="dbh_cm",
                raw={"diameters_cm": [15, 20, 25, 3]},
                least_cm=5,
                combine="squares_then_mean",
                at_height_m=1.62,
                stem_form="swelling",
            ),
            entry("measurement", quantity="crown_spread_m", raw={"radii_m": [3, 4, 2.5]}, method="paced"),
            entry(
                "measurement",
                quantity="rings_per_cm",
                raw={"core": {"rings": 21, "core_cm": 4.5}},
                method="instrument",
            ),
            entry(
                "condition",
                parts={"roots_base": 1, "trunk": 3, "foliage": "not_seen"},
                leafless=True,
                flare="buried",
                crown_class="overtopped",
            ),
            entry("defect", defect="cavity", part="base", extent_percent=30),
            entry(
                "risk",
                rows=[
                    {
                        "part": "base",
                        "target": "path",
                        "failure": "probable",
                        "impact": "high",
                        "consequence": "severe",
                    }
                ],
                years=1,
                level="basic",
                base_seen=True,
                crown_seen=True,
                next_look="2027-05-01",
            ),
            entry(
                "risk",
                rows=[
                    {
                        "part": "limb",
                        "target": "path",
                        "failure": "possible",
                        "impact": "low",
                        "consequence": "minor",
                    }
                ],
                years=1,
                level="limited_visual",
                base_seen=False,
                crown_seen=True,
            ),
            entry("measurement", quantity="dieback_pct", raw={"value": 0}, method="estimated"),
            entry("life", state="fallen"),
        )
        client = signed_in(cls.at.surveyor)
        sighted = plant_item(
            cls.at.block, from_plant=cls.plant, bearing_deg=12.5, distance_m=8.25, how_taken="bearing"
        )
        del sighted["body"]["lon"], sighted["body"]["lat"]
        outline = {
            "type": "Polygon",
            "coordinates": [[[-79.3, 40.5], [-79.2999, 40.5], [-79.2999, 40.5001], [-79.3, 40.5]]],
        }
        patch = plant_item(cls.at.block, form="patch", outline=outline)
        for key in ("lon", "lat"):
            del patch["body"][key]
        answers = send(
            client,
            visit_item(cls.plant, name, height, *judged, on="2026-05-01"),
            correction_item(
                "measurement",
                replaces=slip["id"],
                quantity="dbh_cm",
                raw={"value": 30.1},
                method="taped",
                at_height_m=1.37,
            ),
            sighted,
            patch,
            visit_item(patch["id"], on="2026-05-01"),
        )
        assert all(a["answer"] == "accepted" for a in answers), answers

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

    def content(self, block: Block) -> list[Any]:
        """Everything recorded in a block with ids replaced by the order in which they first stand."""
        text = json.dumps(
            sorted(block_plants(self.at.viewer, block), key=lambda p: (p["form"], p["how_taken"], p["id"])),
            sort_keys=True,
        )
        rows = json.loads(text)
        names: dict[str, str] = {}

        def plain(value: Any, key: str = "") -> Any:
            if isinstance(value, dict):
                return {k: plain(v, k) for k, v in sorted(value.items())}
            if isinstance(value, list):
                return [plain(v, key) for v in value]
            return (
                names.setdefault(value, f"id {len(names)}")
                if key in ("id", "replaces", "retracts", "from_plant", "looks") and isinstance(value, str)
                else value
            )

        for plant in rows:
            for visit in plant["visits"]:
                visit["entries"].sort(
                    key=lambda e: (
                        e["kind"],
                        json.dumps({k: v for k, v in e["body"].items() if k != "looks"}, sort_keys=True),
                    )
                )
        return plain(rows)

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
                self.assertEqual(self.content(empty), self.content(self.at.block))

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
        self.assertEqual(fields["row"]["value"], "'4 of 38 columns'")
        self.assertIn("replaces", fields)  # the correction of the bad row has nothing left to correct
        self.decide(batch["id"])
        self.assertEqual(Plant.objects.filter(block=empty).count(), 3)

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
