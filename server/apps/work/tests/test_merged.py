"""Two records of one tree: merging joins what endangers, parting leaves nothing of the one on the other."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.plants.models import Current, Merge, Plant
from apps.plants.tests.factories import (
    a_plant,
    entry,
    new_id,
    open_test_block,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.time_zone import today_in
from apps.work.tests.test_work import ROW, SHEET, TODAY, named, rules, work

LOW = {
    **SHEET,
    "rows": [{**ROW, "failure": "improbable", "impact": "very_low", "consequence": "negligible"}],
}


def file_of(history: dict[str, Any]) -> dict[str, Any]:
    """What a device asks of the core, from what the server gave it of a tree."""
    records: dict[str, list[dict[str, Any]]] = {history["id"]: [], **{d: [] for d in history["duplicates"]}}
    for visit in history["visits"]:
        kept = ("id", "kind", "body", "replaces", "retracts", "received_at")
        entries = [{k: e[k] for k in kept if e.get(k) is not None} for e in visit["entries"]]
        heads = ("id", "local_date", "observed_at", "mode", "stage", "clock_doubtful")
        records[visit["record"]].append({**{k: visit[k] for k in heads}, "entries": entries})
    rows = [{"record": record, "visits": visits} for record, visits in records.items()]
    return {"on": TODAY, "records": rows, "merged_on": history["merged_on"]}


class Merged(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        self.client_ = signed_in(self.at.steward)
        self.bad = a_plant(
            self.at,
            named("acer-saccharum"),
            entry("risk", **SHEET),
            entry("defect", defect="hanger", part="limb", break_cm=12, over_target="over_target"),
            entry("constraint", constraint="preservation_order", authority="the borough"),
            entry("status", owner="neighbour"),
            entry("sample", number="S-9", part="leaf", sent_to="a laboratory"),
            on="2026-10-01",
        )
        self.job = new_id()
        send(self.client_, visit_item(self.bad, self.step("accepted"), on="2026-10-02", mode="desk"))
        self.good = a_plant(self.at, named("acer-saccharum"), entry("risk", **LOW), on="2026-11-10")

    def step(self, step: str, **more: Any) -> dict[str, Any]:
        return entry("work", job=self.job, rule="R02", step=step, **more)

    def merge(self, plant: str, into: str) -> None:
        given = {"into": into, "reason": "the same tree"}
        answer = self.client_.post(f"/api/plants/{plant}/merge/", given, format="json")
        self.assertEqual(answer.status_code, 200)

    def seen(self) -> dict[str, Any]:
        """What is shown of the survivor, and where."""
        found = work(self.at)
        mine = [p for p in found["proposals"] if p["plant"] == self.good]
        today = self.client_.get(f"/api/sites/{self.at.site.id}/day/", {"on": TODAY}).json()
        health = self.client_.get(f"/api/sites/{self.at.site.id}/health/", {"on": TODAY}).json()
        checks = {c["check"]: c for j in found["jobs"] if j["plant"] == self.good for c in j["checks"]}
        coverage = self.client_.get(f"/api/sites/{self.at.site.id}/coverage/", {"on": self.today()}).json()
        history = self.client_.get(f"/api/plants/{self.good}/").json()
        told = self.client_.post("/api/core/tree-file/", file_of(history), format="json").json()
        files = {ending: self.exported(ending) for ending in ("geojson", "csv")}
        features = {f["id"]: f["properties"] for f in json.loads(files["geojson"])["features"]}
        lines = {row["plant_id"]: row for row in csv.DictReader(io.StringIO(files["csv"]))}
        return {
            "coverage": [row["rating"] for row in coverage["rows"] if row["tree"] == self.good],
            "history": (told["risk"]["reads"], [j["job"] for j in told["jobs"]], told["constraints"]),
            "defects": [d["defect"] for d in told["defects"]],
            "geojson": features[self.good]["risk_reads"],
            "said to be": features[self.bad]["plant"].get("merged_into", ""),
            "in csv": lines[self.bad]["plant_merged_into"],
            "reads": Current.objects.get(pk=self.good).risk_reads,
            "jobs": [j["job"] for j in found["jobs"] if j["plant"] == self.good],
            "rated": [j["rating"] for j in found["jobs"] if j["plant"] == self.good],
            "rules": sorted(rules({"proposals": mine})),
            "consent": checks.get("C3", {}).get("open", False),
            "samples": [s["plant"] for s in health["samples"] if s["number"] == "S-9"],
            "today": [
                s["says"] for b in today["plan"]["blocks"] for s in b["stops"] if s["tree"] == self.good
            ],
        }

    def test_what_endangers_on_the_duplicate_is_shown_of_the_tree_and_goes_with_the_parting(self) -> None:
        before = self.seen()
        self.assertEqual((before["reads"], before["jobs"]), ("Low", []))
        self.merge(self.bad, self.good)
        found = self.seen()
        self.assertRegex(found["reads"], "(?i)extreme")
        self.assertEqual(found["jobs"], [self.job])
        self.assertEqual(found["rated"], ["extreme"])
        self.assertIn("R01", found["rules"], "imminent, or a hanger over a target")
        self.assertTrue(found["consent"])
        self.assertEqual(found["coverage"], ["extreme"])
        self.assertEqual(found["history"], (found["reads"], [self.job], ["preservation_order"]))
        self.assertEqual(found["defects"], ["hanger"])
        self.assertEqual(found["geojson"], found["reads"])
        self.assertEqual((found["said to be"], found["in csv"]), (self.good, self.good))
        planned = {**self.step("planned"), "id": new_id()}
        [answer] = send(self.client_, visit_item(self.good, planned, on=TODAY, mode="desk"))
        self.assertEqual(answer["answer"], "refused")
        for check in ("C3 Consent", "C5 Owner and boundary"):
            self.assertIn(check, answer["message"])
        self.assertIn("neighbour", answer["message"])
        self.assertEqual(found["samples"], [self.good])
        self.client_.delete(f"/api/plants/{self.bad}/merge/")
        self.assertEqual(self.seen(), before)

    def test_a_file_carries_it_there_and_back(self) -> None:
        self.merge(self.bad, self.good)
        for ending in ("geojson", "csv"):
            block = open_test_block(self.at.site, f"read from {ending}")
            file = SimpleUploadedFile(f"block.{ending}", self.exported(ending).encode())
            given = {"block": str(block.id), "file": file}
            staged = self.client_.post("/api/imports/", given, format="multipart").json()
            taken = self.client_.post(f"/api/imports/{staged['id']}/", {"decision": "take"})
            self.assertEqual(taken.status_code, 200, taken.content)
            [tree] = Current.objects.filter(block=block, plant__merged_into=None)
            self.assertRegex(tree.risk_reads, "(?i)extreme")
            self.assertEqual(Plant.objects.filter(block=block, merged_into=tree.plant).count(), 1)
            self.assertEqual(Merge.objects.filter(into=tree.plant, undone_at=None).count(), 1)

    def test_the_same_work_open_on_both_is_marked(self) -> None:
        send(self.client_, visit_item(self.good, {**self.step("accepted"), "id": new_id()}, on="2026-11-11"))
        other = entry("work", job=new_id(), rule="R02", step="accepted")
        send(self.client_, visit_item(self.good, other, on="2026-11-12", mode="desk"))
        self.merge(self.bad, self.good)
        mine = [j for j in work(self.at)["jobs"] if j["plant"] == self.good]
        self.assertEqual(sorted(j["twice"] for j in mine), [True, True])

    def test_no_device_says_that_one_is_a_duplicate(self) -> None:
        said = plant_item(self.at.block, merged_into=self.good)
        [answer] = send(self.client_, said)
        self.assertEqual((answer["answer"], answer["field"]), ("refused", "merged_into"))

    def exported(self, ending: str) -> str:
        answer = self.client_.get(f"/api/blocks/{self.at.block.id}/export.{ending}")
        return b"".join(answer.streaming_content).decode()

    def test_a_look_at_the_whole_tree_after_the_merging_decides_anew(self) -> None:
        self.merge(self.bad, self.good)
        send(self.client_, visit_item(self.good, entry("risk", **LOW), on="2099-01-01"))
        later = {**LOW, "base_seen": "not_visible"}
        self.assertRegex(Current.objects.get(pk=self.good).risk_reads, "(?i)extreme", "its date is doubted")
        send(self.client_, visit_item(self.good, entry("risk", **later), on=self.today()))
        self.assertRegex(Current.objects.get(pk=self.good).risk_reads, "(?i)extreme", "the base was not seen")
        send(self.client_, visit_item(self.good, entry("risk", **LOW), on=self.today()))
        self.assertEqual(Current.objects.get(pk=self.good).risk_reads, "Low")

    def today(self) -> str:
        return today_in(self.at.site.time_zone).isoformat()
