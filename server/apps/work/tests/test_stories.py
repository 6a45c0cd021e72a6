"""The oak and the ashes through every door: outbox, correction, a file read in; at home and in Britain."""

from __future__ import annotations

import datetime
import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.inspections.services.set_target import make_target
from apps.plants.models import Entry
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    entry,
    new_id,
    open_test_block,
    signed_in,
    small_site,
    today_there,
    visit_item,
)
from apps.work.selectors import settings_of
from apps.work.services.set_work_settings import set_work_settings
from apps.work.tests.ready import clock_at, close_for, evidence, ready_site, steps
from apps.work.tests.ready import send_then as send
from apps.work.tests.test_work import named, work
from jubark_core.records.fields import write

JUNE = "2026-06-10"
PLAYGROUND = {
    "name": "Playground",
    "kind": "playground",
    "occupancy": "frequent",
    "shape": {"type": "Point", "coordinates": [-79.3, 40.5]},
}
EMERGENCY = {
    "danger": "ordered",
    "ordered_by": "duty officer 4",
    "emergency_reason": "torn limb over the swings",
    "least_work": True,
    "photographed": True,
    "nests_looked_for": True,
    "not_known_protected": True,
}


class Story(TestCase):
    AREAS: tuple[str, ...] = ("PEN",)

    def setUp(self) -> None:
        self.at = small_site()
        self.at.site.areas = list(self.AREAS)
        self.at.site.save(update_fields=["areas"])
        make_target(actor=self.at.steward, site=self.at.site, given=PLAYGROUND)
        ready_site(self.at)
        self.owner = signed_in(self.at.owner)

    def tree(self, taxon: str, *entries: dict[str, Any], probability: float | None = None) -> str:
        name = named(taxon)
        if probability is not None:
            name["body"] |= {"probability": probability}
        return a_plant(self.at, name, *entries, on="2026-06-01")

    def add(self, plant: str, *entries: dict[str, Any], on: str = JUNE) -> dict[str, Any]:
        [answer] = send(self.owner, visit_item(plant, *entries, on=on, mode="desk"))
        return answer

    def of(self, plant: str, on: str = JUNE) -> dict[str, dict[str, Any]]:
        rows = [p for p in work(self.at, on=on)["proposals"] if p["plant"] == plant]
        return {p["proposal"]["rule"]: p["proposal"] for p in rows}

    def refused_by_every_door(self, plant: str, rule: str, on: str = JUNE, **step: Any) -> list[str]:
        """What outbox, correction and file say against a step; that all of them do."""
        job = new_id()
        body = {"job": job, "rule": rule, "crew": "Crew 1", **step}
        accepted = entry("work", job=job, rule=rule, step="accepted")
        self.assertEqual(self.add(plant, accepted, on=on)["answer"], "accepted")
        said = [self.add(plant, entry("work", **body), on=on)]
        self.assertEqual([a["answer"] for a in said], ["refused"], said)
        messages = [a["message"] for a in said] + [self.file_says(plant, body, on)]
        back = entry("work", job=job, rule=rule, step="withdrawn", reason="tried")
        self.assertEqual(self.add(plant, back, on=on)["answer"], "accepted")
        return messages

    def file_says(self, plant: str, body: dict[str, Any], on: str) -> str:
        answer = self.owner.get(f"/api/blocks/{self.at.block.id}/export.geojson")
        whole = json.loads(b"".join(answer.streaming_content))
        whole["features"] = [f for f in whole["features"] if f["id"] == plant]
        visits = whole["features"][0]["properties"]["visits"]
        job = {**body, "job": new_id()}
        rows = [entry("work", **{**job, "step": "accepted"}), entry("work", **job)]
        for minute, row in enumerate(rows):
            at = f"{on}T15:{minute:02d}:00+00:00"
            visits.append(
                {**visits[-1], "id": new_id(), "local_date": on, "observed_at": at, "entries": [row]}
            )
        file = SimpleUploadedFile("block.geojson", json.dumps(whole).encode())
        block = open_test_block(self.at.site, f"Empty {new_id()[:8]}")
        staged = self.owner.post(
            "/api/imports/", {"block": str(block.id), "file": file}, format="multipart"
        ).json()
        with clock_at(datetime.datetime.fromisoformat(f"{on}T15:05:00+00:00")):
            taken = self.owner.post(f"/api/imports/{staged['id']}/", {"decision": "take"})
        self.assertEqual(taken.status_code, 400, taken.content)
        return str(taken.json()["message"])


class OakStory(Story):
    """Quercus at genus 0.98, 10 June."""

    def oak(self, taxon: str = "quercus") -> str:
        wish = entry("enquiry", about="wish_to_work_on_it", said="it shades the bench")
        dead = entry("defect", defect="dead_limb", part="limb", break_cm=9, over_target="over_target")
        return self.tree(taxon, wish, dead, probability=0.98)


class TheOak(OakStory):
    def test_live_pruning_waits_for_november_and_dead_wood_does_not(self) -> None:
        oak = self.oak()
        found = self.of(oak)
        season = found["R07"]["season"]
        self.assertEqual(
            (season["begins"], season["ends"], season["now"]), ("2026-11-01", "2027-03-31", False)
        )
        self.assertIsNone(found["R06"]["season"])
        self.assertIn("no live cut", found["R06"]["do"])
        close_for(self.at, oak, JUNE)
        for message in self.refused_by_every_door(oak, "R07", step="started"):
            self.assertIn("Not in this season", message)
        told = steps(self.at, oak, new_id(), "R06", "accepted", "started", on=JUNE)
        self.assertEqual([answer.get("message") for answer in told], [None, None])

    def test_an_emergency_is_not_complete_without_the_minutes_to_sealing(self) -> None:
        oak, job = self.oak(), new_id()
        close_for(self.at, oak, JUNE, "look_up", "second_person")
        said = {**EMERGENCY, "emergency_lead": str(self.at.owner.id)}
        told = steps(self.at, oak, job, "R07", "accepted", "started", "completed", on=JUNE, **said)
        self.assertEqual([a["answer"] for a in told], ["accepted", "accepted", "refused"], told)
        self.assertIn("Sealed after how many minutes", told[-1]["message"])
        [sealed] = steps(self.at, oak, job, "R07", "completed", on=JUNE, hour=16, sealed_minutes=9, **said)
        self.assertEqual(sealed.get("message"), None)

    def test_on_a_pine_nothing_of_this_and_named_hickory_it_is_gone_and_its_job_flagged(self) -> None:
        self.assertNotIn("R07", self.of(self.oak("pinus-strobus")))
        oak = self.oak()
        job = new_id()
        self.add(oak, entry("work", job=job, rule="R07", step="accepted"))
        again = named("carya-ovata")
        self.add(oak, again, on="2026-06-12")
        self.assertNotIn("R07", self.of(oak, on="2026-06-13"))
        [row] = [j for j in work(self.at, on="2026-06-13")["jobs"] if j["job"] == job]
        self.assertTrue(row["unfounded"], "flagged, never dropped")
        self.assertEqual(row["unfounded_why"], ["no longer: genus is quercus"])

    def test_a_proposal_nobody_took_up_is_withdrawn_with_its_reason(self) -> None:
        oak = self.oak()
        self.assertEqual(work(self.at)["withdrawn"], [], "its first name withdraws nothing")
        self.add(oak, named("carya-ovata"), on="2026-06-12")

        def withdrawn(on: str) -> list[tuple[str, list[str], str]]:
            return [(w["rule"], w["why"], w["on"]) for w in work(self.at, on=on)["withdrawn"]]

        gone = [("R07", ["no longer: genus is quercus"], "2026-06-12")]
        self.assertEqual(withdrawn("2026-06-13"), gone)
        self.assertEqual(withdrawn("2026-08-11"), gone)
        self.assertEqual(withdrawn("2026-08-12"), [], "sixty days on it is history")

    def test_a_corrected_name_withdraws_too_and_a_correction_taken_back_does_not(self) -> None:
        oak = self.oak()
        name = Entry.objects.get(plant=oak, kind="determination")
        today = today_there().isoformat()
        self.assertEqual(work(self.at, on=today)["withdrawn"], [])
        hickory = named("carya-ovata")["body"]
        client = signed_in(self.at.steward)
        send(client, correction_item("determination", replaces=str(name.id), **hickory))
        self.assertEqual([w["rule"] for w in work(self.at, on=today)["withdrawn"]], ["R07"])
        corrected = Entry.objects.get(plant=oak, kind="determination", replaces=name)
        send(client, correction_item("determination", replaces=str(corrected.id), **named("quercus")["body"]))
        self.assertEqual(work(self.at, on=today)["withdrawn"], [])

    def test_a_diagnosis_that_is_ruled_out_withdraws_what_rested_on_it(self) -> None:
        probable = {"verdict": "cause", "cause": "fire-blight", "standing": "probable", "probability": 0.9}
        tree = self.tree("malus-domestica", entry("diagnosis", **probable))
        self.assertIn("R13", self.of(tree))
        out = {**probable, "standing": "ruled_out"}
        self.add(tree, entry("diagnosis", **out), on="2026-06-12")
        [row] = work(self.at, on="2026-06-13")["withdrawn"]
        self.assertEqual((row["rule"], row["why"]), ("R13", ["no longer: agent fire-blight at least 0.5"]))

    def test_a_wish_that_was_answered_asks_for_nothing_more(self) -> None:
        oak = self.oak()
        self.add(oak, entry("enquiry", about="wish_to_work_on_it", done="told", done_on=JUNE))
        self.assertNotIn("R07", self.of(oak))


class TheOakInBritain(OakStory):
    AREAS = ("GRB",)

    def test_no_such_window_a_nest_check_instead(self) -> None:
        oak = self.oak()
        found = self.of(oak)
        self.assertNotIn("R07", found)
        self.assertIn("C2b", found["R06"]["blocked_by"])


class TheAshes(Story):
    """Borer 8 km away; crown loss 20, 40 and 60 %."""

    def setUp(self) -> None:
        super().setUp()
        near = {"causes_near": [{"cause": "emerald-ash-borer", "km": 8}]}
        given = {**write(settings_of(self.at.site)), **near}
        set_work_settings(actor=self.at.steward, site=self.at.site, given=given)

    def ash(self, loss: int, taxon: str = "fraxinus-americana") -> str:
        return self.tree(taxon, self.loss(loss))

    def loss(self, percent: int) -> dict[str, Any]:
        return entry("measurement", quantity="dieback_pct", raw={"value": percent}, method="estimated")

    def test_treatment_for_twenty_an_assessor_for_forty_a_machine_for_sixty(self) -> None:
        twenty, forty, sixty = (self.ash(loss) for loss in (20, 40, 60))
        self.assertEqual(set(self.of(twenty)), {"R25"})
        close_for(self.at, forty, JUNE)
        for message in self.refused_by_every_door(forty, "R25", step="started"):
            self.assertIn("an assessor agrees", message)
        agrees = evidence("assessor_agrees", member=str(self.at.steward.id))
        self.add(forty, agrees)
        told = steps(self.at, forty, new_id(), "R25", "accepted", "started", on=JUNE, hour=15)
        self.assertEqual([answer.get("message") for answer in told], [None, None])
        self.assertEqual(
            (self.of(sixty)["R24"]["equipment"], self.of(sixty)["R24"]["refuses"]), ("mechanised", ["climb"])
        )
        for message in self.refused_by_every_door(sixty, "R24", step="planned", equipment="climb"):
            self.assertIn("not climbed", message)

    def test_a_blue_ash_is_watched_and_a_mountain_ash_has_nothing(self) -> None:
        self.assertEqual(set(self.of(self.ash(10, "fraxinus-quadrangulata"))), {"R25W"})
        self.assertEqual(self.of(self.ash(60, "sorbus-americana")), {})

    def test_a_refusal_holds_while_the_facts_are_the_same(self) -> None:
        ash = self.ash(20)
        facts = self.of(ash)["R25"]["facts"]
        self.add(ash, entry("work", job=new_id(), rule="R25", step="refused", facts=facts, reason="too dear"))
        self.assertNotIn("R25", self.of(ash))
        self.add(ash, self.loss(20), on="2026-07-01")
        self.assertNotIn("R25", self.of(ash, on="2026-07-02"), "a new visit, the same facts")
        self.add(ash, self.loss(35), on="2026-07-10")
        self.assertIn("R25", self.of(ash, on="2026-07-11"))

    def test_an_ill_tree_of_the_site_is_as_near_as_it_stands(self) -> None:
        set_work_settings(actor=self.at.steward, site=self.at.site, given={})
        ash = self.ash(20)
        self.assertNotIn("R25", self.of(ash), "nothing is known near")
        probable = {
            "verdict": "cause",
            "cause": "emerald-ash-borer",
            "standing": "probable",
            "probability": 0.9,
        }
        self.tree("fraxinus-nigra", entry("diagnosis", **probable))
        self.assertIn("R25", self.of(ash))


class TheAshesInBritain(Story):
    AREAS = ("GRB",)

    def test_no_injection_is_proposed(self) -> None:
        near = {"causes_near": [{"cause": "emerald-ash-borer", "km": 8}]}
        given = {**write(settings_of(self.at.site)), **near}
        set_work_settings(actor=self.at.steward, site=self.at.site, given=given)
        loss = entry("measurement", quantity="dieback_pct", raw={"value": 20}, method="estimated")
        self.assertNotIn("R25", self.of(self.tree("fraxinus-excelsior", loss)))
        [held] = work(self.at)["held_back"]
        self.assertEqual(
            (held["rule"], held["why"]), ("R25", "The method is not authorised in this area's data.")
        )
