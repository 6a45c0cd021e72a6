"""The two sheets of a story that must hold through every door: what was not seen is never read as less."""

from __future__ import annotations

import uuid
from typing import Any

from django.core.management import call_command
from django.test import TestCase

from apps.plants.models import Current, Entry
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    entry,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Site


def sheet(factors: str, base: str, crown: str = "whole", **more: Any) -> dict[str, Any]:
    """A worksheet of one row. factors: 'imminent high severe'."""
    names = ("failure", "impact", "consequence")
    row = {"part": "stem", "target": "road", **dict(zip(names, factors.split(), strict=True))}
    seen = {"base_seen": base, "crown_seen": crown}
    return {"rows": [row], "years": 1, "level": "basic", **seen, "no_next": True, **more}


class TheStory(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        tagged = lambda tag, *more: a_plant(cls.at, entry("tag", number=tag), *more)  # noqa: E731
        cls.first = tagged("extreme at least", entry("risk", **sheet("imminent high severe", "not_visible")))
        cls.second = tagged("low at least", entry("risk", **sheet("possible low minor", "partly")))
        cls.others = {
            "extreme": tagged("extreme", entry("risk", **sheet("imminent high severe", "all_round"))),
            "high": tagged("high", entry("risk", **sheet("probable high severe", "all_round"))),
            "low": tagged("low", entry("risk", **sheet("possible low minor", "all_round"))),
            "none": tagged("none"),
        }

    def setUp(self) -> None:
        self.api = signed_in(self.at.steward)

    def found(self, **asked: str) -> list[str]:
        return [row["tag"] for row in self.api.get("/api/inventory/", asked).json()["rows"]]

    def shown(self, plant: str) -> dict[str, Any]:
        answer: dict[str, Any] = self.api.get(f"/api/plants/{plant}/from-size/").json()["risk"]
        return answer

    def test_it_reads_at_least_and_asks_to_keep_people_out(self) -> None:
        found = self.shown(self.first)
        self.assertEqual(found["reads"], "At least extreme: base not seen")
        self.assertEqual(found["act"]["urgency"], "now")
        self.assertIn("Keep people out", found["act"]["says"])

    def test_it_sorts_among_the_extremes_before_the_complete_ones_and_the_last_are_not_assessed(self) -> None:
        order = ["extreme at least", "extreme", "high", "low at least", "low", "none"]
        self.assertEqual(self.found(sort="-risk"), order)
        self.assertEqual(self.found(sort="risk"), [*reversed(order[:-1]), "none"])

    def test_no_filter_reads_a_least_as_less(self) -> None:
        for value, tags in (
            ("low", {"low"}),
            ("not_assessed", {"none"}),
            ("incomplete", {"low at least", "extreme at least"}),
            ("rated", {"extreme", "high", "low"}),
            ("extreme", {"extreme", "extreme at least"}),
            ("high_or_more", {"extreme", "extreme at least", "high"}),
            ("moderate", set()),
        ):
            with self.subTest(value):
                self.assertEqual(set(self.found(risk=value)), tags)
        told = self.api.get("/api/inventory/", {"risk": "none"})
        self.assertEqual((told.status_code, told.json()["field"]), (400, "risk"))

    def test_every_export_says_it(self) -> None:
        for ending in ("csv", "geojson"):
            address = f"/api/blocks/{self.at.block.id}/export.{ending}"
            text = b"".join(self.api.get(address).streaming_content).decode()  # type: ignore[attr-defined]
            self.assertIn("At least extreme: base not seen", text)
            self.assertIn("Incomplete: at least low", text)

    def test_assessment_of_the_base_is_proposed_and_once_seen_it_is_low_and_the_old_sheet_stays(self) -> None:
        before = self.shown(self.second)
        self.assertEqual(before["reads"], "Incomplete: at least low")
        self.assertEqual(before["proposed"], ["Look at the base all round; until then this is a least."])
        later = visit_item(
            self.second, entry("risk", **sheet("possible low minor", "all_round")), on="2026-10-22"
        )
        self.assertEqual(send(self.api, later)[0]["answer"], "accepted")
        after = self.shown(self.second)
        self.assertEqual((after["reads"], after["proposed"]), ("Low", []))
        self.assertIn("low at least", self.found(risk="low"))
        visits = self.api.get(f"/api/plants/{self.second}/").json()["visits"]
        sheets = [e["body"]["reads"] for v in visits for e in v["entries"] if e["kind"] == "risk"]
        self.assertEqual(sheets, ["Low", "Incomplete: at least low"])

    def test_a_high_risk_is_dealt_with_within_the_days_of_its_owner(self) -> None:
        self.assertIn("within 28 days", self.shown(self.others["high"])["act"]["says"])
        Site.objects.filter(pk=self.at.site.pk).update(high_days=14)
        self.assertIn("within 14 days", self.shown(self.others["high"])["act"]["says"])

    def test_a_correction_may_say_what_was_seen(self) -> None:
        [old] = Entry.objects.filter(plant=self.second, kind="risk")
        seen = sheet("possible low minor", "all_round")
        item = correction_item("risk", replaces=str(old.id), **seen)
        self.assertEqual(send(self.api, item)[0]["answer"], "accepted")
        self.assertEqual(Current.objects.get(pk=self.second).risk_reads, "Low")


class InItsFile(TestCase):
    def test_a_withdrawn_entry_is_in_no_file_and_a_corrected_one_is(self) -> None:
        at = small_site()
        api = signed_in(at.steward)
        for tag in ("kept", "corrected", "withdrawn"):
            a_plant(at, entry("tag", number=tag), entry("hardware", hardware="cable"))
        a_plant(at, entry("tag", number="none"))
        held = {e.plant.current.tag: str(e.id) for e in Entry.objects.filter(kind="hardware")}
        corrections = (
            correction_item("hardware", replaces=held["corrected"], hardware="rod"),
            correction_item("hardware", retracts=held["withdrawn"]),
        )
        self.assertEqual({a["answer"] for a in send(api, *corrections)}, {"accepted"})
        rows = api.get("/api/inventory/", {"file": "hardware"}).json()["rows"]
        self.assertEqual({row["tag"] for row in rows}, {"kept", "corrected"})
        told = api.get("/api/inventory/", {"file": "secrets"})
        self.assertEqual((told.status_code, told.json()["field"]), (400, "file"))


class StoredBefore(TestCase):
    """A sheet of record version 3 had no rating where base or crown was not seen."""

    def test_it_is_read_by_the_rules_of_today_and_the_stored_body_stays(self) -> None:
        at = small_site()
        plant = a_plant(at, entry("risk", **sheet("imminent high severe", "all_round")))
        [stored] = Entry.objects.filter(plant=plant, kind="risk")
        old = {**stored.body, "base_seen": False, "crown_seen": True, "rating": "", "residual": ""}
        old = {k: v for k, v in old.items() if k not in ("no_next", "reads")}
        copy = Entry(
            id=uuid.uuid4(),
            visit=stored.visit,
            plant_id=stored.plant_id,
            organisation_id=stored.organisation_id,
            author=stored.author,
            kind="risk",
            version=3,
            body=old,
            recorded_at=stored.recorded_at,
            replaces=stored,
        )
        copy.save()
        call_command("rebuild_current", verbosity=0)
        self.assertEqual(Current.objects.get(pk=plant).risk_reads, "At least extreme: base not seen")
        shown = signed_in(at.viewer).get(f"/api/plants/{plant}/").json()["visits"][0]["entries"]
        self.assertIn("At least extreme: base not seen", [e["body"].get("reads") for e in shown])
        self.assertEqual(Entry.objects.get(pk=copy.pk).body, old)

    def test_shoots_that_were_all_too_thin_are_no_diameter_any_more_and_the_page_opens(self) -> None:
        at = small_site()
        thin = {"raw": {"diameters_cm": [4, 3]}, "least_cm": 5, "at_height_m": 1.37}
        plant = a_plant(at, entry("measurement", quantity="dbh_cm", **thin))
        [stored] = Entry.objects.filter(plant=plant)
        old = Entry(
            id=uuid.uuid4(),
            visit=stored.visit,
            plant_id=stored.plant_id,
            organisation_id=stored.organisation_id,
            author=stored.author,
            kind="measurement",
            version=3,
            body={**stored.body, "value": 4.0, "stems": 1},
            recorded_at=stored.recorded_at,
            replaces=stored,
        )
        old.save()
        call_command("rebuild_current", verbosity=0)
        self.assertIsNone(Current.objects.get(pk=plant).dbh_cm)
        told = signed_in(at.viewer).get(f"/api/plants/{plant}/from-size/")
        self.assertEqual((told.status_code, told.json()["protection"]), (200, None))
