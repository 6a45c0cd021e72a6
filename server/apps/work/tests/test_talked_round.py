"""The ways round, each tried through the doors of the server: none is a way."""

from __future__ import annotations

import datetime
from typing import Any

from django.test import TestCase

from apps.plants.tests.factories import (
    a_plant,
    clock_item,
    correction_item,
    entry,
    new_id,
    send,
    signed_in,
    small_site,
    today_there,
    visit_item,
)
from apps.work.models import LookUp
from apps.work.tests.ready import CREW, close_for, evidence, ready_site, send_then, steps
from apps.work.tests.test_work import named, work

ON = "2026-11-20"
LONDON = {"lat": 51.5, "lon": -0.1, "areas": ["GRB"], "time_zone": "Europe/London"}


class TalkedRound(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        ready_site(self.at)
        self.steward = signed_in(self.at.steward)

    def dead(self) -> list[dict[str, Any]]:
        return [named("fraxinus-americana"), entry("life", state="standing_dead")]

    def told(
        self, plant: str, *names: str, on: str = ON, job: str = "", rule: str = "R24", **more: Any
    ) -> list[Any]:
        said = {"equipment": "mechanised", **more}
        answers = steps(self.at, plant, job or new_id(), rule, *names, on=on, **said)
        return [answer.get("message") for answer in answers]

    def test_another_rule_and_a_word_of_before_and_the_namer_as_second_person(self) -> None:
        """Felling by climbing under the rule for looking again; closing by a word; by who gave the name."""
        ash = a_plant(self.at, *self.dead())
        for rule in ("R40", "R13", "OTHER"):
            said = {"acts": [{"act": "fell"}, {"act": "climb"}], "equipment": ""}
            self.assertIn("not climbed", self.told(ash, "accepted", rule=rule, **said)[0])
        close_for(self.at, ash, ON, "second_person")
        word = entry("clearance", check_closed="C1", what="name", by="Odile", reference="buds")
        [answer] = send_then(self.steward, visit_item(ash, word, on=ON))
        self.assertEqual((answer["answer"], answer["field"]), ("refused", "entries[0].clearance.what"))
        old = visit_item(ash, word, on=ON) | {"schema": 6}
        self.assertEqual(send(self.steward, old)[0]["answer"], "accepted", "an older app is not refused")
        job = new_id()
        self.assertIn("C1 Name", self.told(ash, "accepted", "planned", job=job)[1])
        namer = evidence("second_person", member=str(self.at.owner.id), reference="photograph 9")
        send_then(
            signed_in(self.at.surveyor), visit_item(ash, namer, on=ON, observed_at=f"{ON}T12:30:00+00:00")
        )
        self.assertIn(
            "C1 Name", self.told(ash, "planned", job=job)[0], "nobody names another as second person"
        )

    def test_a_look_up_covers_a_block_and_no_tree_that_is_added_later(self) -> None:
        before = a_plant(self.at, *self.dead())
        given = {"evidence": {"check_closed": "C5", "what": "owner_look_up", "result": "own"}}
        path = f"/api/sites/{self.at.site.id}/work/"
        steps(self.at, before, new_id(), "R24", "accepted", on=ON)
        rows = self.steward.get(path + "to-look-up/", {"on": ON}).json()
        self.assertEqual([(r["check"], r["jobs"]) for r in rows], [("C3", 1), ("C5", 1)])
        scope = {"on": "2026-11-01", "blocks": [str(self.at.block.id)]}
        refused = signed_in(self.at.surveyor).post(path + "look-ups/", {**given, **scope}, format="json")
        self.assertEqual(refused.status_code, 403)
        made = self.steward.post(path + "look-ups/", {**given, **scope}, format="json")
        self.assertEqual(made.status_code, 201, made.content)
        later = a_plant(self.at, *self.dead(), recorded_at="2026-11-05T12:00:00+00:00")
        steps(self.at, later, new_id(), "R24", "accepted", on=ON)
        opens = {
            j["plant"]: "C5" in [c["check"] for c in j["checks"] if c["open"]] for j in work(self.at)["jobs"]
        }
        self.assertEqual(opens, {before: False, later: True})
        address = f"{path}look-ups/{made.json()['id']}/"
        for reason, status in ((" ", 400), ("the map was of another year", 204), ("again", 400)):
            answer = self.steward.post(address, {"reason": reason}, format="json")
            self.assertEqual(answer.status_code, status)
        self.assertEqual(LookUp.objects.count(), 1)
        for bad, field in (
            ({"evidence": {"check_closed": "C2a", "what": "nest_look", "result": "none"}}, "evidence.what"),
            ({**given, "blocks": [new_id()]}, "blocks[0]"),
            ({**given, "on": "2090-01-01"}, "on"),
        ):
            answer = self.steward.post(path + "look-ups/", {"on": ON, **bad}, format="json")
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))

    def test_evidence_withdrawn_after_the_start_marks_it_and_a_merge_keeps_the_mark(self) -> None:
        ash, other = a_plant(self.at, *self.dead()), a_plant(self.at, named("fraxinus-americana"))
        close_for(self.at, ash, ON)
        job = new_id()
        self.assertEqual(self.told(ash, "accepted", "planned", "started", job=job), [None] * 3)
        [row] = work(self.at)["jobs"]
        self.assertEqual(row["though"], [])
        looks = self.steward.get(f"/api/plants/{ash}/").json()["visits"]
        look = next(e for v in looks for e in v["entries"] if e.get("body", {}).get("what") == "nest_look")
        taken = correction_item("clearance", retracts=look["id"], why="it was the other ash")
        self.assertEqual(send(self.steward, taken)[0]["answer"], "accepted")
        [row] = work(self.at)["jobs"]
        self.assertTrue(any(text.startswith("C2a") for text in row["though"]), row["though"])
        given = {"into": other, "reason": "the same"}
        self.assertEqual(
            self.steward.post(f"/api/plants/{ash}/merge/", given, format="json").status_code, 200
        )
        [row] = work(self.at)["jobs"]
        self.assertEqual((row["plant"], bool(row["though"])), (other, True))

    def test_what_happened_is_never_lost(self) -> None:
        """The utility cuts at night; a crew ends before its evidence is in; a nest is found in week two."""
        tree = a_plant(self.at, named("acer-saccharum"), entry("storm", under_it=["wires"]), on="2026-11-19")
        said = {
            "happened": True,
            "though_held_by": "the utility",
            "though_why": "live wire, at night",
        }
        self.assertEqual(self.told(tree, "completed", rule="R02", equipment="", **said), [None])
        [done] = work(self.at)["done"]
        self.assertIn("by the utility: live wire, at night", done["though"][0])
        again = self.told(tree, "accepted", rule="R03", equipment="")
        self.assertIn("on a line", again[0], "it ended no hold")
        nobody = entry("work", job=new_id(), rule="R02", step="completed", happened=True)
        [answer] = send(self.steward, visit_item(tree, nobody, on=ON))
        self.assertEqual(answer["field"], "entries[0].work.though_held_by")

        ash, job = a_plant(self.at, *self.dead()), new_id()
        self.told(ash, "accepted", job=job)
        for step, hour in (("started", 14), ("completed", 16)):  # on a device without the network
            row = entry("work", job=job, rule="R24", step=step, crew=CREW, equipment="mechanised")
            visit = visit_item(ash, row, on=ON, observed_at=f"{ON}T{hour}:00:00+00:00")
            self.assertEqual(send(self.steward, visit)[0]["answer"], "accepted")
        marked = {d["job"]: d["though"] for d in work(self.at)["done"]}
        self.assertTrue(marked[job])
        close_for(self.at, ash, ON)
        marked = {d["job"]: d["though"] for d in work(self.at)["done"]}
        self.assertEqual(marked[job], [], "its evidence was of before the start")

        oak, third = a_plant(self.at, named("tilia-cordata")), new_id()
        close_for(self.at, oak, ON)
        self.assertEqual(
            self.told(oak, "accepted", "started", rule="R03", job=third, equipment=""), [None] * 2
        )
        nest = entry("habitat", feature="nest", in_use="in_use")
        send_then(signed_in(self.at.surveyor), visit_item(oak, nest, on="2026-12-01"))
        [row] = [j for j in work(self.at, on="2026-12-01")["jobs"] if j["job"] == third]
        self.assertEqual((row["stop"], row["though"]), (True, []))

    def test_two_promises(self) -> None:
        ash = a_plant(self.at, *self.dead())
        self.assertEqual(self.told(ash, "accepted"), [None])
        self.assertIn("promised on this tree already", self.told(ash, "accepted", on="2026-11-21")[0])
        unknown = entry("work", job=new_id(), rule="R24", step="accepted")
        visit = visit_item(ash, unknown, on=ON, observed_at=f"{ON}T12:59:00+00:00")
        self.assertEqual(
            send(self.steward, visit)[0]["answer"], "accepted", "made before the first was known"
        )
        self.assertEqual([j["twice"] for j in work(self.at)["jobs"]], [True, True])

    def test_changed_to_climb_to_felling_and_to_june(self) -> None:
        oak, job = a_plant(self.at, named("quercus-rubra")), new_id()
        close_for(self.at, oak, ON, "second_person", "services_located")
        said = {"rule": "R18", "job": job, "equipment": ""}
        self.assertEqual(self.told(oak, "accepted", "planned", **said), [None, None])
        for change, check in (
            ({"acts": [{"act": "fell"}]}, "C1 Name"),
            ({"acts": [{"act": "cut_live"}, {"act": "dig"}]}, "C4b"),
            ({"begins": "2027-06-10"}, "Not in this season"),
        ):
            self.assertIn(check, self.told(oak, "changed", reason="asked for", **{**said, **change})[0])

    def test_nothing_is_done_in_the_future_whoever_confirms_the_clock(self) -> None:
        tree = a_plant(self.at, named("acer-saccharum"))
        ahead = (today_there() + datetime.timedelta(days=3)).isoformat()
        visit = visit_item(tree, entry("work", job=new_id(), rule="R40", step="completed"), on=ahead)
        self.assertEqual(send(signed_in(self.at.surveyor), visit)[0]["answer"], "accepted")
        [answer] = send(signed_in(self.at.surveyor), clock_item(visit["id"]))
        self.assertEqual((answer["answer"], answer["field"]), ("refused", "local_date"))

    def test_another_law_asks_a_steward_and_an_owner_and_holds_the_place(self) -> None:
        ash = a_plant(self.at, *self.dead(), entry("habitat", feature="trunk_cavity"))
        path = f"/api/sites/{self.at.site.id}/areas/"

        def ask(areas: list[str], by: Any) -> Any:
            return signed_in(by).put(path, {"areas": areas}, format="json")

        self.assertEqual(ask(["GRB"], self.at.steward).json()["field"], "areas[0]", "it lies elsewhere")
        self.assertEqual(ask(["PEN", "NWJ"], self.at.surveyor).status_code, 403)
        self.assertTrue(ask(["PEN", "NWJ"], self.at.steward).json()["set"], "no job is open")
        for name, value in LONDON.items():
            setattr(self.at.site, name, value)
        self.at.site.save()
        steps(self.at, ash, new_id(), "R24", "accepted", on=ON)
        self.assertEqual(ask(["PEN"], self.at.steward).status_code, 400)
        first = ask(["GRB", "IRE"], self.at.steward).json()
        self.assertEqual((first["set"], first["jobs"], first["areas"]), (False, 1, ["GRB"]))
        self.assertFalse(ask(["GRB", "IRE"], self.at.steward).json()["set"], "not twice by one")
        self.assertTrue(ask(["GRB", "IRE"], self.at.owner).json()["set"])
