"""What was not seen is never clean: attempts, looks at a part, what leaves no room for a clean finding."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from apps.inspections.models import SiteRegime
from apps.inspections.tests.test_the_day_and_the_storm import SHEET
from apps.plants.tests.factories import a_plant, entry, new_id, send, signed_in, small_site, visit_item
from jubark_core.records.fields import read_as, write
from jubark_core.records.office import Regime

RULES = {"rules": [{"zone": "frequent", "level": "basic", "months": 12}], "otherwise": "frequent"}
WHOLE = {"level": "basic", "base_visible": "all_round", "crown_visible": "whole"}
HIDDEN = {"level": "basic", "base_visible": "not_visible", "crown_visible": "not_visible"}
PARTLY = {**WHOLE, "base_visible": "partly"}
LOCKED = {"level": "basic", "no_access": "locked yard"}


class Attempts(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        self.client_ = signed_in(self.at.steward)
        body = write(read_as(Regime, "", RULES, {}))
        own = {"organisation": self.at.organisation, "site": self.at.site, "set_by": self.at.steward}
        SiteRegime.objects.create(body=body, **own)

    def row(self, tree: str) -> dict[str, Any]:
        """How a tree stands at the end of 1 June 2027, the table being of today."""
        asked = {"on": "2027-06-01"}
        report = self.client_.get(f"/api/sites/{self.at.site.id}/coverage/", asked).json()
        [found] = [row for row in report["rows"] if row["tree"] == tree]
        return dict(found)

    def test_an_attempt_is_said_so_and_the_tree_stays_due(self) -> None:
        for body, why in ((LOCKED, "locked yard"), (HIDDEN, "neither base nor crown was visible")):
            tree = a_plant(self.at, entry("inspection", **body), on="2026-11-10")
            found = self.row(tree)
            self.assertEqual((found["state"], found["last"]), ("not_looked_at", None))
            self.assertIn(f"Not inspected, attempted on 2026-11-10: {why}", found["says"])
            self.assertTrue(found["due_on"])

    def test_a_part_is_below_the_level_and_due_sooner_and_a_merged_look_at_the_whole_counts(self) -> None:
        part = a_plant(self.at, entry("inspection", **PARTLY), on="2026-11-10")
        found = self.row(part)
        self.assertEqual((found["counted"], found["due_on"]), (None, "2027-05-10"))
        whole = a_plant(self.at, entry("inspection", **WHOLE), on="2026-08-01")
        given = {"into": part, "reason": "the same tree"}
        merged = self.client_.post(f"/api/plants/{whole}/merge/", given, format="json")
        self.assertEqual(merged.status_code, 200)
        self.assertEqual(self.row(part)["counted"]["on"], "2026-08-01")

    def test_no_defect_found_is_refused_beside_what_speaks_against_it(self) -> None:
        tree = a_plant(self.at)
        none = entry("inspection", **WHOLE, no_defect=True)
        for beside, said in (
            ([entry("risk", **SHEET)], "the risk worksheet of this visit reads 'Extreme'"),
            ([entry("defect", defect="hanger", part="limb")], "names a defect"),
            ([entry("condition", word="fair", base_visible="not_visible")], "the base was not seen"),
        ):
            item = visit_item(tree, {**none, "id": new_id()}, *beside, on="2026-11-12")
            [answer] = send(self.client_, item)
            self.assertEqual((answer["answer"], answer["code"]), ("refused", "bad_input"))
            self.assertIn("no_defect", answer["field"])
            self.assertIn(said, answer["message"])
            older = item | {"schema": 5}
            if "defect" not in said:
                [taken] = send(self.client_, older)
                self.assertEqual(taken["answer"], "accepted", "no rule younger than a record refuses it")
