"""The story of five trees: zone 'frequent', level basic, 12 months, as of day 366 and of day 200.

Expected: by the design of inspections, worked by hand. Day 0 is the first of January 2026.
"""

from __future__ import annotations

import datetime
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest import mock

from django.test import TestCase

from apps.inspections.models import Report
from apps.organisations.models import Member
from apps.plants.tests.factories import (
    entry,
    open_test_block,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)

DAY_0 = datetime.date(2026, 1, 1)
WHOLE = {"base_visible": "all_round", "crown_visible": "whole"}
METRE = 1 / 111_320  # degrees of latitude
REGIME = {
    "rules": [{"zone": "frequent", "level": "basic", "months": 12, "qualification": "Tree inspection"}],
    "since": "2026-01-01",
}
PATH = {"type": "LineString", "coordinates": [[-79.301, 40.5], [-79.299, 40.5]]}


def day(n: int) -> str:
    """The date of a day of the story."""
    return (DAY_0 + datetime.timedelta(days=n)).isoformat()


@contextmanager
def on_day(n: int) -> Iterator[None]:
    """The server's clock stands at three in the afternoon of a day."""
    at = datetime.datetime.combine(DAY_0 + datetime.timedelta(days=n), datetime.time(20), datetime.UTC)
    with mock.patch("django.utils.timezone.now", return_value=at):
        yield


class FiveTrees(TestCase):
    def setUp(self) -> None:
        with on_day(0):
            self.at = small_site()
            steward = signed_in(self.at.steward)
            site = f"/api/sites/{self.at.site.id}"
            target = {"name": "Mill path", "kind": "path", "occupancy": "frequent", "shape": PATH}
            self.assertEqual(steward.post(f"{site}/targets/", target).status_code, 201)
            self.assertEqual(steward.put(f"{site}/regime/", REGIME).status_code, 200)
            self.qualify(self.at.surveyor, "2030-01-01")
            self.ids = {tag: self.tree(tag, i) for i, tag in enumerate(("T1", "T2", "T2b", "T3", "T4", "T5"))}

    def qualify(self, member: Member, until: str) -> None:
        paper = {"name": "Tree Inspection", "valid_until": until}
        answer = signed_in(self.at.steward).post(f"/api/people/{member.id}/competences/", paper)
        self.assertEqual(answer.status_code, 201)

    def tree(self, tag: str, i: int) -> str:
        plant = plant_item(
            self.at.block, lat=40.5 + 5 * METRE, lon=-79.3 + i * METRE, recorded_at=f"{day(0)}T14:00:00Z"
        )
        self.sent(self.at.surveyor, plant, visit_item(plant["id"], entry("tag", number=tag), on=day(0)))
        return str(plant["id"])

    def sent(self, member: Member, *items: dict[str, Any]) -> None:
        answers = send(signed_in(member), *items)
        self.assertEqual({a["answer"] for a in answers}, {"accepted"}, answers)

    def inspected(self, tag: str, n: int, member: Member | None = None, **body: Any) -> None:
        with on_day(n):
            told = {"level": "basic", **WHOLE, **body}
            self.sent(
                member or self.at.surveyor,
                visit_item(self.ids[tag], entry("inspection", **told), on=day(n)),
            )

    def a_year(self) -> None:
        """What happens up to day 100."""
        self.inspected("T1", 90, level="limited_visual", walked=True, base_visible="", crown_visible="")
        self.inspected("T2", 95, no_defect=True)
        self.inspected("T5", 96)
        with on_day(99):
            self.qualify(self.at.steward, day(99))
        self.inspected("T4", 100, self.at.steward)

    def coverage(self, n: int, **more: str) -> dict[str, Any]:
        answer = signed_in(self.at.viewer).get(
            f"/api/sites/{self.at.site.id}/coverage/", {"on": day(n), **more}
        )
        self.assertEqual(answer.status_code, 200, answer.content)
        found: dict[str, Any] = answer.json()
        return found

    def merged(self) -> None:
        steward = signed_in(self.at.steward)
        for tag, into in (("T5", "T2b"), ("T2b", "T2")):
            path = f"/api/plants/{self.ids[tag]}/merge/"
            answer = steward.post(path, {"into": self.ids[into], "reason": "one tree"})
            self.assertEqual(answer.status_code, 200, answer.content)

    def test_the_report_of_day_366_and_of_day_200(self) -> None:
        self.a_year()
        with on_day(200):
            then = self.coverage(200)
        self.assertEqual([r["tag"] for r in then["rows"]], ["T1", "T2", "T2b", "T3", "T4", "T5"])
        self.assertEqual(then["overdue"], 0)
        with on_day(250):
            self.merged()
        # what comes in late, another table, and a paper that is taken off change nothing of what was known
        self.inspected("T3", 260, base_visible="partly")
        with on_day(300):
            late = visit_item(self.ids["T3"], entry("inspection", level="basic", **WHOLE), on=day(150))
            self.sent(self.at.surveyor, late)
            anew = {"rules": [{"zone": "frequent", "level": "advanced", "months": 1}], "since": "2026-01-01"}
            regime = f"/api/sites/{self.at.site.id}/regime/"
            self.assertEqual(signed_in(self.at.steward).put(regime, anew).status_code, 200)
            [path] = signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/targets/").json()
            away = signed_in(self.at.steward).delete(f"/api/targets/{path['id']}/")
            self.assertEqual(away.status_code, 204)
        with on_day(366):
            self.assertEqual(self.coverage(200), then)
            now_known = self.coverage(200, known="now")
            self.assertEqual([r["tag"] for r in now_known["rows"]], ["T1", "T2", "T3", "T4"])
            self.assertEqual(
                {(r["state"], r["zone"]) for r in now_known["rows"]}, {("no_rule", "")}, "no target any more"
            )
            self.assertEqual(now_known["rows"][2]["last"]["on"], day(150))

    def test_each_tree_on_day_366(self) -> None:
        self.a_year()
        with on_day(250):
            self.merged()
        with on_day(366):
            found = self.coverage(366)
        rows = {row["tag"]: row for row in found["rows"]}
        self.assertEqual(list(rows), ["T1", "T2", "T3", "T4"], "the tree with three records counts once")
        self.assertEqual({row["zone"] for row in rows.values()}, {"frequent"})
        self.assertEqual(
            {tag: (row["state"], row["overdue"]) for tag, row in rows.items()},
            {
                "T1": ("below_level", 1),
                "T2": ("done", 0),
                "T3": ("not_looked_at", 1),
                "T4": ("competence", 0),
            },
        )
        self.assertIn("walked past, limited visual", rows["T1"]["says"])
        # the last look at the tree is that of its duplicate, a day later
        self.assertEqual((rows["T2"]["last"]["on"], rows["T2"]["counted"]["on"]), (day(96), day(96)))
        self.assertEqual(rows["T3"]["says"], "Not looked at; overdue since 2027-01-01.")
        self.assertEqual(
            (rows["T4"]["last"]["inspector"], rows["T4"]["last"]["expired_on"]), ("steward", day(99))
        )
        self.assertIn("competence had expired on that date", rows["T4"]["says"])
        self.assertEqual(
            found["by_block"],
            [{"block": "Block", "trees": 4, "in_time": 2, "not_looked_at": 1, "overdue": 2}],
        )
        self.assertEqual(
            (found["overdue"], {s["state"]: s["trees"] for s in found["states"]}["done"]), (2, 1)
        )

    def test_a_duplicate_in_another_block_counts_with_its_tree_in_either_report(self) -> None:
        with on_day(10):
            other = open_test_block(self.at.site, "Other")
            plant = plant_item(other, recorded_at=f"{day(10)}T14:00:00Z")
            self.ids["T9"] = plant["id"]
            self.sent(self.at.surveyor, plant, visit_item(plant["id"], entry("tag", number="T9"), on=day(10)))
        self.inspected("T9", 20)
        with on_day(30):
            steward = signed_in(self.at.steward)
            path = f"/api/plants/{plant['id']}/merge/"
            self.assertEqual(steward.post(path, {"into": self.ids["T3"]}).status_code, 200)
            self.assertEqual(self.coverage(30, block=str(other.id))["rows"], [])
            own = {r["tag"]: r for r in self.coverage(30, block=str(self.at.block.id))["rows"]}
            self.assertEqual((own["T3"]["state"], own["T3"]["last"]["on"]), ("done", day(20)))
            self.assertNotIn("T9", own)

    def test_a_merge_taken_back_counts_both_again(self) -> None:
        self.a_year()
        with on_day(120):
            self.merged()
            client = signed_in(self.at.steward)
            inventory = [r["tag"] for r in client.get("/api/inventory/").json()["rows"]]
            self.assertEqual(inventory, ["T1", "T2", "T3", "T4"])
            shown = client.get(f"/api/plants/{self.ids['T2']}/").json()
            self.assertEqual(set(shown["duplicates"]), {self.ids["T5"], self.ids["T2b"]})
            self.assertEqual(len(shown["visits"]), 5)
        with on_day(130):
            client = signed_in(self.at.steward)
            self.assertEqual(client.delete(f"/api/plants/{self.ids['T2b']}/merge/").status_code, 204)
            self.assertEqual(client.delete(f"/api/plants/{self.ids['T2b']}/merge/").status_code, 400)
            self.assertEqual([r["tag"] for r in self.coverage(130)["rows"]], ["T1", "T2", "T2b", "T3", "T4"])
            self.assertEqual([r["tag"] for r in self.coverage(125)["rows"]], ["T1", "T2", "T3", "T4"])

    def test_a_report_is_numbered_and_never_changes(self) -> None:
        self.a_year()
        with on_day(200):
            made = self.report({"on": day(200), "note": "<b>spring</b>"})
            first = self.shown(made["id"])
        with on_day(250):
            self.merged()
            again = self.report({"on": day(200)})
        with on_day(366):
            self.assertEqual(self.shown(made["id"]), first)
            self.assertEqual((made["number"], again["number"]), (1, 2))
            self.assertEqual(self.shown(again["id"])["rows"], first["rows"])
            self.assertEqual(self.report({"on": day(366)})["number"], 3)
            # who leaves is not named any more, and nothing else changes
            owner = signed_in(self.at.owner)
            self.assertEqual(owner.delete(f"/api/people/{self.at.surveyor.id}/").status_code, 200)
            named = [row["last"]["inspector"] for row in self.shown(made["id"])["rows"] if row["last"]]
            self.assertEqual(set(named), {"former member 1", "steward"})
            self.assertEqual(Report.objects.get(number=1).sha256, made["sha256"])

    def report(self, given: dict[str, Any]) -> dict[str, Any]:
        answer = signed_in(self.at.surveyor).post(f"/api/sites/{self.at.site.id}/reports/", given)
        self.assertEqual(answer.status_code, 201, answer.content)
        made: dict[str, Any] = answer.json()
        return made

    def shown(self, report: str) -> dict[str, Any]:
        found: dict[str, Any] = signed_in(self.at.viewer).get(f"/api/reports/{report}/").json()
        return found
