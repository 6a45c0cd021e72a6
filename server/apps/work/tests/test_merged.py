"""Two records of one tree: merging joins what endangers, parting leaves nothing of the one on the other."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from apps.plants.models import Current
from apps.plants.tests.factories import a_plant, entry, new_id, send, signed_in, small_site, visit_item
from apps.sites.time_zone import today_in
from apps.work.tests.test_work import ROW, SHEET, TODAY, named, rules, work

LOW = {
    **SHEET,
    "rows": [{**ROW, "failure": "improbable", "impact": "very_low", "consequence": "negligible"}],
}


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
        checks = {c["check"]: c for p in mine for c in p["proposal"]["checks"]}
        return {
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
        self.assertEqual(found["samples"], [self.good])
        self.client_.delete(f"/api/plants/{self.bad}/merge/")
        self.assertEqual(self.seen(), before)

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
