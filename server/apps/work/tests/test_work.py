"""Work on the server: proposals of a site, jobs step by step, and no way around a check through any door."""

from __future__ import annotations

import itertools
import json
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase

from apps.organisations.models import Member
from apps.plants.models import Entry
from apps.plants.tests.factories import (
    SmallSite,
    a_plant,
    correction_item,
    entry,
    new_id,
    open_test_block,
    plant_item,
    signed_in,
    small_site,
    today_there,
    visit_item,
)
from apps.work.tests.ready import close_for, evidence, papers, ready_site, steps
from apps.work.tests.ready import send_then as send

TODAY = "2026-11-20"
ROW = {"part": "limb", "target": "road", "failure": "imminent", "impact": "high", "consequence": "severe"}
SHEET = {
    "rows": [ROW],
    "years": 1,
    "level": "basic",
    "base_seen": "all_round",
    "crown_seen": "whole",
    "no_next": True,
}


def named(taxon: str) -> dict[str, Any]:
    return entry("determination", entered=taxon, taxon=taxon)


def work(at: SmallSite, on: str = TODAY, by: Member | None = None, **query: str) -> Any:
    answer = signed_in(by or at.viewer).get(f"/api/sites/{at.site.id}/work/", {"on": on, **query})
    assert answer.status_code == 200, answer.content
    return answer.json()


def rules(found: Any) -> list[str]:
    return [p["proposal"]["rule"] for p in found["proposals"]]


class Proposed(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def step(
        self, plant: str, *entries: dict[str, Any], on: str = TODAY, by: Member | None = None
    ) -> dict[str, Any]:
        [answer] = send(signed_in(by or self.at.surveyor), visit_item(plant, *entries, on=on, mode="desk"))
        return answer

    def test_a_site_lists_what_files_propose_and_an_accepted_one_becomes_a_job(self) -> None:
        dead = entry("defect", defect="dead_limb", part="limb", break_cm=9, over_target="over_target")
        oak = a_plant(self.at, named("quercus-alba"), dead)
        found = work(self.at)
        self.assertEqual(rules(found), ["R06"])
        proposal = found["proposals"][0]["proposal"]
        self.assertIn("C2a", proposal["blocked_by"])
        job = new_id()
        step = {
            "job": job,
            "rule": "R06",
            "step": "accepted",
            "facts": proposal["facts"],
            "do": proposal["do"],
        }
        self.assertEqual(self.step(oak, entry("work", **step))["answer"], "accepted")
        found = work(self.at)
        self.assertEqual(rules(found), [])
        [row] = found["jobs"]
        self.assertEqual((row["job"], row["step"], row["unfounded"]), (job, "accepted", False))
        # a new name takes the reason of it away: flagged, never dropped
        gone = entry("life", state="alive")
        healed = entry(
            "condition", word="good", no_defect=True, base_visible="all_round", crown_visible="whole"
        )
        self.step(oak, gone, healed, on="2026-11-22")
        [row] = work(self.at, on="2026-11-23")["jobs"]
        self.assertTrue(row["unfounded"])
        self.assertIn(
            "C2a", [c["check"] for c in row["checks"] if c["later"]]
        )  # its checks stand all the same

    def test_of_more_trees_than_are_judged_at_once_jobs_alone_are_read_and_proposals_by_block(self) -> None:
        other = open_test_block(self.at.site, "Far end")
        here = a_plant(self.at, named("acer-rubrum"), entry("risk", **SHEET))
        there = plant_item(other)
        risk = visit_item(there["id"], named("acer-rubrum"), entry("risk", **SHEET))
        send(signed_in(self.at.surveyor), there, risk)

        def blocks(found: Any) -> set[str]:
            return {row["block_name"] for row in found["proposals"]}

        whole = work(self.at)
        self.assertEqual((whole["too_many"], blocks(whole)), (0, {"Block", "Far end"}))
        with mock.patch("apps.work.jobs.MOST_TREES", 1):
            whole = work(self.at)
            self.assertEqual((whole["too_many"], blocks(whole)), (2, set()))
            part = work(self.at, block=str(other.id))
            self.assertEqual((part["too_many"], blocks(part)), (0, {"Far end"}))
            self.step(here, entry("work", job=new_id(), rule="R02", step="accepted"))
            self.assertEqual([j["rule"] for j in work(self.at)["jobs"]], ["R02"])

    def test_a_refused_proposal_comes_back_when_its_facts_change(self) -> None:
        ash = a_plant(
            self.at,
            named("fraxinus-americana"),
            entry("measurement", quantity="dieback_pct", raw={"value": 20}, method="estimated"),
            entry(
                "diagnosis", verdict="cause", cause="emerald-ash-borer", standing="probable", probability=0.9
            ),
            on="2026-07-10",
        )
        [proposal] = [p["proposal"] for p in work(self.at)["proposals"] if p["proposal"]["rule"] == "R25"]
        refused = {"job": new_id(), "rule": "R25", "step": "refused", "facts": proposal["facts"]}
        lacking = self.step(ash, entry("work", **refused))
        self.assertEqual((lacking["answer"], lacking["field"]), ("refused", "entries[0].work.reason"))
        self.assertEqual(
            self.step(ash, entry("work", **refused, reason="Not worth it"))["answer"], "accepted"
        )
        self.assertNotIn("R25", rules(work(self.at)))
        self.step(
            ash,
            entry("measurement", quantity="dieback_pct", raw={"value": 25}, method="estimated"),
            on="2026-08-10",
        )
        self.assertIn("R25", rules(work(self.at)))

    def test_a_felled_tree_keeps_its_open_job_and_is_proposed_nothing(self) -> None:
        ash = a_plant(self.at, named("fraxinus-americana"), entry("life", state="standing_dead"))
        job = new_id()
        accepted = entry("work", job=job, rule="R24", step="accepted")
        gone = entry("life", state="removed")
        for row, day in ((accepted, TODAY), (gone, "2026-11-22")):
            [answer] = send(signed_in(self.at.steward), visit_item(ash, row, on=day, mode="desk"))
            self.assertEqual(answer["answer"], "accepted", answer)
        found = work(self.at, on="2026-11-23")
        self.assertEqual([j["job"] for j in found["jobs"]], [job])
        self.assertTrue(found["jobs"][0]["unfounded"])
        self.assertEqual(found["jobs"][0]["unfounded_why"], ["the tree is removed"])
        self.assertEqual(found["proposals"], [])

    def test_a_file_that_takes_a_step_back_comes_in_again_and_a_check_taken_back_in_it_counts_no_more(
        self,
    ) -> None:
        dead = entry("life", state="standing_dead")
        a_plant(self.at, named("fraxinus-americana"), dead)
        client = signed_in(self.at.steward)
        answer = client.get(f"/api/blocks/{self.at.block.id}/export.geojson")
        told = b"".join(answer.streaming_content)
        job = new_id()

        def step(what: str, **more: Any) -> dict[str, Any]:
            return entry("work", job=job, rule="R24", step=what, **more)

        def back(row: dict[str, Any]) -> dict[str, Any]:
            return {"id": new_id(), "kind": row["kind"], "retracts": row["id"], "reason": "slip"}

        accepted, withdrawn = step("accepted"), step("withdrawn", reason="Sold")
        ahead = step("planned", begins="2027-01-12")
        owner = evidence("agreement", by="the owner", reference="letter 3")
        looked_up = evidence("look_up", result="none", by="the authority")
        dead = evidence("not_known_protected", reference="photograph 2")
        checks = [accepted, dead, looked_up, owner]
        cases = {
            "withdrawn and taken back": (
                [accepted, withdrawn, back(withdrawn), step("changed", reason="Kept")],
                200,
            ),
            "every check closed": ([*checks, ahead], 200),
            "one of them taken back": ([*checks, back(owner), ahead], 400),
        }
        for name, (rows, status) in cases.items():
            with self.subTest(name):
                whole = json.loads(told)
                visit = whole["features"][0]["properties"]["visits"][-1]
                whole["features"][0]["properties"]["visits"][-1] = {
                    **visit,
                    "local_date": TODAY,
                    "entries": [*visit["entries"], *rows],
                }
                fresh = small_site(name)
                papers(fresh.steward, "tree_assessment")
                taker = signed_in(fresh.steward)
                file = SimpleUploadedFile("block.geojson", json.dumps(whole).encode())
                given = {"block": str(fresh.block.id), "file": file}
                staged = taker.post("/api/imports/", given, format="multipart").json()
                taken = taker.post(f"/api/imports/{staged['id']}/", {"decision": "take"})
                self.assertEqual(taken.status_code, status, taken.content)

    def test_an_empty_site_a_foreign_block_and_a_bad_day(self) -> None:
        found = work(self.at)
        self.assertEqual((found["proposals"], found["jobs"], found["more"]), ([], [], 0))
        viewer = signed_in(self.at.viewer)
        address = f"/api/sites/{self.at.site.id}/work/"
        self.assertEqual(viewer.get(address).json()["field"], "on")
        foreign = small_site("Other").block
        self.assertEqual(
            viewer.get(address, {"on": TODAY, "block": str(foreign.id)}).json()["field"], "block"
        )


class NoWayAround(TestCase):
    """An imminent limb on a line: four doors, four refusals that name the utility check."""

    EMERGENCY: dict[str, Any] = {
        "danger": "on_record",
        "emergency_reason": "it may fall",
        "least_work": True,
        "photographed": True,
        "nests_looked_for": True,
        "not_known_protected": True,
    }

    def setUp(self) -> None:
        self.at = small_site()
        ready_site(self.at)
        self.EMERGENCY = {**self.EMERGENCY, "emergency_lead": str(self.at.owner.id)}
        storm = entry("storm", under_it=["wires"])
        self.plant = a_plant(self.at, named("acer-saccharum"), entry("risk", **SHEET), storm, on="2026-11-19")

    def planned(self, **more: Any) -> dict[str, Any]:
        return entry("work", **({"job": new_id(), "rule": "R02", "step": "planned", **self.EMERGENCY} | more))

    def send(self, *entries: dict[str, Any], on: str = TODAY, by: Member | None = None) -> dict[str, Any]:
        [answer] = send(signed_in(by or self.at.owner), visit_item(self.plant, *entries, on=on, mode="desk"))
        return answer

    def test_only_keeping_people_out_and_calling_the_operator_are_proposed(self) -> None:
        found = work(self.at)
        self.assertEqual(rules(found), ["R01", "R17"])
        self.assertEqual(len(found["proposals"][0]["only"]), 2)

    def test_the_outbox_refuses_whoever_sends_it(self) -> None:
        for member in (self.at.surveyor, self.at.steward, self.at.owner):
            answer = self.send(self.planned(), by=member)
            self.assertEqual(answer["answer"], "refused")
            self.assertIn("on a line", answer["message"])
        self.assertEqual(Entry.objects.filter(kind="work").count(), 0)

    def test_a_correction_does_not_pass_it_either(self) -> None:
        accepted = entry("work", job=new_id(), rule="R02", step="accepted")
        self.assertEqual(self.send(accepted)["answer"], "refused")
        permit = {"by": "Line desk", "reference": "OP 7", "until": "2026-11-22"}
        permitted = evidence("isolation", **permit)
        self.assertEqual(self.send(permitted, accepted)["answer"], "accepted")
        withdrawn = correction_item("clearance", retracts=permitted["id"])
        self.assertEqual(send(signed_in(self.at.owner), withdrawn)[0]["answer"], "accepted")
        self.assertFalse(work(self.at)["jobs"][0]["unfounded"], "held by the line, not by its facts")
        body = {**accepted["body"], "step": "planned", **self.EMERGENCY}
        [answer] = send(signed_in(self.at.owner), correction_item("work", replaces=accepted["id"], **body))
        self.assertEqual(answer["answer"], "refused")
        self.assertIn("on a line", answer["message"])

    def test_a_file_that_says_it_is_planned_is_not_taken(self) -> None:
        client = signed_in(self.at.steward)
        answer = client.get(f"/api/blocks/{self.at.block.id}/export.geojson")
        whole = json.loads(b"".join(answer.streaming_content))
        planned = self.planned()
        visit = whole["features"][0]["properties"]["visits"][-1]
        visit["entries"] = [*visit["entries"], planned]
        empty = open_test_block(self.at.site, "Empty")
        file = SimpleUploadedFile("block.geojson", json.dumps(whole).encode())
        staged = client.post(
            "/api/imports/", {"block": str(empty.id), "file": file}, format="multipart"
        ).json()
        taken = client.post(f"/api/imports/{staged['id']}/", {"decision": "take"})
        self.assertEqual(taken.status_code, 400, taken.content)
        self.assertIn("on a line", taken.json()["message"])
        self.assertEqual(Entry.objects.filter(kind="work").count(), 0)

    def test_after_the_operators_clearance_it_can_be_planned_and_at_its_end_no_more(self) -> None:
        nameless = self.send(entry("clearance", check_closed="C4", what="line_clear", by="Line desk"))
        self.assertEqual(
            (nameless["answer"], nameless["field"]), ("refused", "entries[0].clearance.reference")
        )
        cleared = evidence("isolation", by="Line desk", reference="OP 7", until="2026-11-22")
        accepted = entry("work", job=new_id(), rule="R02", step="accepted")
        self.assertEqual(self.send(cleared, accepted)["answer"], "accepted")
        self.assertIn("qualified for line clearance", self.send(self.planned())["message"])
        job = accepted["body"]["job"]
        close_for(self.at, self.plant, TODAY, "line_look")
        qualified = {"line_clearance": True, "job": job, "crew": "Crew 1"}
        self.assertEqual(self.send(self.planned(**qualified))["answer"], "accepted")
        self.assertEqual(self.send(self.planned(**qualified), on="2026-11-21")["answer"], "accepted")
        late = self.send(self.planned(**qualified), on="2026-11-22")
        self.assertEqual(late["answer"], "refused")
        self.assertIn("on a line", late["message"])

    def test_no_later_look_no_days_and_no_merging_end_it(self) -> None:
        """Either way round: wires were seen on one of two records of the same tree."""
        fallen = {"lies": "fallen", "blocks": "nothing", "next_step": "clear_later"}
        rules_ = ("R02", "R06", "R40")
        steps = list(itertools.product(rules_, ("accepted", "planned", "started", "completed")))
        for wires_on_the_survivor in (True, False):
            one, other = (a_plant(self.at, named("acer-saccharum"), on="2026-09-01") for _ in range(2))
            survivor, duplicate = (one, other) if wires_on_the_survivor else (other, one)
            client = signed_in(self.at.steward)
            send(client, visit_item(one, entry("storm", under_it=["wires"]), on="2026-09-02"))
            given = {"into": survivor, "reason": "the same"}
            merged = client.post(f"/api/plants/{duplicate}/merge/", given, format="json")
            self.assertEqual(merged.status_code, 200)
            look = entry("storm", under_it=["neither"], **fallen)
            send(client, visit_item(survivor, look, on="2026-09-03"))
            for record, (rule, step) in itertools.product((survivor, duplicate), steps):
                said = entry("work", job=new_id(), rule=rule, step=step, **self.EMERGENCY)
                [answer] = send(client, visit_item(record, said, on="2026-10-15", mode="desk"))
                with self.subTest(wires_on_the_survivor, rule=rule, step=step):
                    self.assertEqual(answer["answer"], "refused")
                    self.assertIn("on a line", answer["message"])
            asked = entry("work", job=new_id(), rule="R01", step="accepted")
            [answer] = send(client, visit_item(duplicate, asked, on="2026-10-15", mode="desk"))
            self.assertEqual(answer["answer"], "accepted", "keeping people out can always be recorded")
            found = work(self.at, on="2026-10-15")
            self.assertIn(str(survivor), [j["plant"] for j in found["jobs"] if j["rule"] == "R01"])

    def test_wires_and_a_person_at_once_and_what_can_always_be_recorded(self) -> None:
        both = entry("storm", under_it=["wires", "person"])
        tree = a_plant(self.at, named("acer-saccharum"), both, on="2026-11-19")
        client = signed_in(self.at.steward)
        for rule in ("R01", "R17"):
            job = new_id()
            for step in ("accepted", "planned", "started", "completed"):
                said = entry("work", job=job, rule=rule, step=step)
                [answer] = send(client, visit_item(tree, said, on=TODAY, mode="desk"))
                self.assertEqual(answer["answer"], "accepted", (rule, step, answer.get("message")))

    def test_what_was_done_all_the_same_is_recorded_and_flagged_and_the_hold_goes_on(self) -> None:
        job = new_id()
        for step in ("accepted", "planned"):
            refused = self.send(entry("work", job=job, rule="R02", step=step, though_held_by="a crew"))
            self.assertEqual(refused["answer"], "refused", "it is for what was done")
        done = entry("work", job=job, rule="R02", step="completed", though_held_by="a crew of the road")
        self.assertEqual(self.send(done)["answer"], "accepted")
        [listed] = work(self.at)["done"]
        self.assertIn("by a crew of the road", listed["though"][0])
        self.assertEqual(self.send(self.planned())["answer"], "refused")

    def test_done_before_the_look_was_known_is_flagged_and_no_correction_makes_it_clean(self) -> None:
        limb = entry("defect", defect="dead_limb", part="limb", break_cm=12)
        tree = a_plant(self.at, named("acer-saccharum"), limb, on="2026-09-01")
        client = signed_in(self.at.steward)
        job = {"job": new_id(), "rule": "R40"}
        accepted = entry("work", **job, step="accepted")
        done = entry("work", **job, step="completed")
        for step, on in ((accepted, "2026-11-01"), (done, "2026-11-12")):
            [answer] = send(client, visit_item(tree, step, on=on, mode="desk"))
            self.assertEqual(answer["answer"], "accepted", answer.get("message"))
        send(client, visit_item(tree, entry("storm", under_it=["wires"]), on="2026-11-11"))  # sent late
        [listed] = work(self.at)["done"]
        self.assertIn("before this could be known", listed["though"][0])
        self.assertTrue(any("on a line" in text for text in listed["though"]))
        for more, answered in (
            ({"step": "started"}, "refused"),
            ({"step": "completed"}, "accepted"),
            ({"step": "completed", "though_held_by": "a crew that knew nothing of it"}, "accepted"),
        ):
            body = {**job, "result": "looked again", **more}
            [answer] = send(client, correction_item("work", replaces=done["id"], **body))
            self.assertEqual(answer["answer"], answered, (more, answer.get("message")))
            done = {"id": answer["id"]} if answer["answer"] == "accepted" else done
            [listed] = work(self.at)["done"]
            self.assertTrue(
                any("on a line" in text for text in listed["though"]), "no correction makes it clean"
            )

    def test_a_steward_alone_takes_back_the_look_and_says_why(self) -> None:
        look = entry("storm", under_it=["wires"])
        tree = a_plant(self.at, named("acer-saccharum"), look, on="2026-11-19")
        neither = {"under_it": ["neither"], "lies": "fallen", "blocks": "nothing", "next_step": "nothing"}
        said = entry("work", job=new_id(), rule="R02", step="accepted")
        for by, more, answered in (
            (self.at.surveyor, {"retracts": look["id"]}, "refused"),
            (self.at.surveyor, {"replaces": look["id"], **neither}, "refused"),
            (self.at.steward, {"retracts": look["id"], "why": ""}, "refused"),
            (self.at.surveyor, {"replaces": look["id"], "under_it": ["wires", "person"]}, "accepted"),
        ):
            [answer] = send(signed_in(by), correction_item("storm", **more))
            self.assertEqual(answer["answer"], answered, (by.role, more))
        client = signed_in(self.at.steward)
        [answer] = send(client, visit_item(tree, said, on=TODAY, mode="desk"))
        self.assertEqual(answer["answer"], "refused")
        taken = correction_item("storm", retracts=look["id"], why="it was a washing line")
        self.assertEqual(send(client, taken)[0]["answer"], "accepted")
        [answer] = send(client, visit_item(tree, said, on=TODAY, mode="desk"))
        self.assertEqual(answer["answer"], "accepted")

    def test_a_line_near_holds_nothing_and_asks_for_the_operator(self) -> None:
        near = {
            "under_it": ["line_near"],
            "lies": "standing",
            "blocks": "nothing",
            "next_step": "clear_later",
        }
        hanger = entry("defect", defect="hanger", part="limb", break_cm=12, over_target="over_target")
        tree = a_plant(self.at, named("acer-saccharum"), hanger, entry("storm", **near), on="2026-11-19")
        client = signed_in(self.at.steward)
        job = {"job": new_id(), "rule": "R02"}
        for step, answered in (("accepted", "accepted"), ("planned", "refused")):
            [answer] = send(client, visit_item(tree, entry("work", **job, step=step), on=TODAY, mode="desk"))
            self.assertEqual(answer["answer"], answered, step)
        self.assertIn("C4 Lines overhead", answer["message"])

    def test_a_clock_that_is_doubted_does_not_hide_it(self) -> None:
        for seen_on in ("2026-11-19", "2090-01-01"):
            tree = a_plant(self.at, named("acer-saccharum"), on="2026-11-01")
            look = visit_item(tree, entry("storm", under_it=["wires"]), on=seen_on)
            wrong_clock = {"items": [look], "sent_at": "2020-01-01T00:00:00+00:00"}
            signed_in(self.at.surveyor).post("/api/outbox/", wrong_clock, format="json")
            said = entry("work", job=new_id(), rule="R02", step="accepted")
            step = visit_item(tree, said, on=today_there().isoformat(), mode="desk")
            [answer] = send(signed_in(self.at.steward), step)
            self.assertIn("on a line", answer["message"], seen_on)

    def test_a_clearance_from_before_the_look_closes_nothing(self) -> None:
        tree = a_plant(self.at, named("acer-saccharum"), on="2026-09-01")
        client = signed_in(self.at.steward)
        gone = {"check_closed": "C4", "what": "line_clear", "by": "Line desk"}
        cleared = entry("clearance", **gone, reference="OP 1")
        for body, day in ((cleared, "2026-09-02"), (entry("storm", under_it=["wires"]), "2026-09-10")):
            send(client, visit_item(tree, body, on=day))
        said = entry("work", job=new_id(), rule="R02", step="accepted")
        [answer] = send(client, visit_item(tree, said, on="2026-09-11", mode="desk"))
        self.assertEqual(answer["answer"], "refused")
        for kind in ("services_located", "closure_plan"):
            other = evidence(kind, by="another office", reference="GAS 3", until="2029-01-01")
            send(client, visit_item(tree, other, on="2026-09-11"))
            [answer] = send(client, visit_item(tree, said, on="2026-09-12", mode="desk"))
            self.assertEqual(answer["answer"], "refused", "a number of another office opens no line")
        again = entry("clearance", **gone, reference="OP 2")
        send(client, visit_item(tree, again, on="2026-09-12"))
        [answer] = send(client, visit_item(tree, said, on="2026-09-13", mode="desk"))
        self.assertEqual(answer["answer"], "accepted")

    def test_a_dead_ash_waits_for_name_nest_and_roost_and_is_then_felled(self) -> None:
        ash = a_plant(self.at, named("fraxinus-americana"), entry("life", state="standing_dead"))
        job = new_id()

        def step(*names: str, on: str = TODAY, **more: Any) -> list[dict[str, Any]]:
            return steps(self.at, ash, job, "R24", *names, on=on, equipment="mechanised", **more)

        self.assertEqual(step("accepted")[0]["answer"], "accepted")
        blocked = step("planned")[0]["message"]
        far = step("planned", begins="2027-01-12")[0]["message"]
        self.assertIn("C1 Name", far)
        self.assertNotIn("C2a", far)  # asked at the start: a look made now would be too old
        for check in ("C1 Name", "C2a Nests", "C4 Lines overhead", "C8 Traffic"):
            self.assertIn(check, blocked)
        close_for(self.at, ash, TODAY)
        self.assertEqual([a.get("message") for a in step("planned")], [None])
        [row] = work(self.at)["jobs"]
        later = {"begins": "2027-01-12", "ends": "2027-01-13"}
        self.assertEqual(step("planned", on="2026-11-22", **later)[0]["answer"], "accepted")
        [row] = work(self.at, on="2026-11-22")["jobs"]
        self.assertEqual([c["check"] for c in row["checks"] if c["open"]], [])
        self.assertEqual([c["check"] for c in row["checks"] if c["later"]], ["C2a", "C4"])
        old = step("started", on="2026-11-30")[0]  # the look for nests is ten days old
        self.assertIn("C2a Nests", old["message"])
        close_for(self.at, ash, "2026-11-30")
        begun = step("started", "completed", on="2026-11-30")
        self.assertEqual([answer["answer"] for answer in begun], ["accepted", "accepted"], begun)
        [done] = work(self.at, on="2026-12-01")["done"]
        self.assertEqual(done["though"], [])

    def test_a_job_keeps_its_rule_and_what_is_over_stays_over(self) -> None:
        maple = a_plant(self.at, named("acer-saccharum"))
        job = new_id()

        def step(what: str, rule: str = "R04", **more: str) -> dict[str, Any]:
            row = entry("work", job=job, rule=rule, step=what, **more)
            [answer] = send(signed_in(self.at.steward), visit_item(maple, row, on=TODAY, mode="desk"))
            return {**answer, "sent": row["id"]}

        self.assertEqual(step("accepted")["answer"], "accepted")
        other = step("accepted", rule="R40")
        self.assertEqual((other["answer"], other["field"], other["value"]), ("refused", "rule", "R40"))
        withdrawn = step("withdrawn", reason="Sold")
        self.assertEqual(withdrawn["answer"], "accepted")
        again = step("changed", reason="Bought back")
        self.assertEqual((again["answer"], again["field"]), ("refused", "step"))
        [answer] = send(signed_in(self.at.steward), correction_item("work", retracts=withdrawn["sent"]))
        self.assertEqual(answer["answer"], "accepted")
        self.assertEqual(step("changed", reason="Bought back")["answer"], "accepted")

    def test_two_steps_of_one_job_in_one_visit_do_not_change_its_rule_either(self) -> None:
        maple = a_plant(self.at, named("acer-saccharum"))
        job = new_id()
        both = [entry("work", job=job, rule=rule, step="accepted") for rule in ("R04", "R40")]
        [answer] = send(signed_in(self.at.steward), visit_item(maple, *both, on=TODAY, mode="desk"))
        self.assertEqual((answer["answer"], answer["field"]), ("refused", "rule"))

    def test_dead_ash_is_never_climbed(self) -> None:
        ash = a_plant(self.at, named("fraxinus-americana"), entry("life", state="standing_dead"))
        step = entry("work", job=new_id(), rule="R40", step="accepted", equipment="climb")
        [answer] = send(signed_in(self.at.steward), visit_item(ash, step, on=TODAY, mode="desk"))
        self.assertEqual(answer["answer"], "refused")
        self.assertIn("not climbed", answer["message"])
