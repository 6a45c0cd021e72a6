"""What there is to do on a day, looks after a storm, vacant places: from the records to the answers.

Expected: by the rules of the plan (jubark_core/inspection/day.py) on records made here, worked by hand.
"""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from apps.organisations.services.contacts import erase_contact, make_contact
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    new_id,
    plant_item,
    recorded,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block

ON = "2026-11-20"
SHEET: dict[str, Any] = {
    "rows": [
        {
            "part": "stem",
            "target": "road",
            "failure": "imminent",
            "impact": "high",
            "consequence": "severe",
        }
    ],
    "years": 1,
    "level": "basic",
    "base_seen": "all_round",
    "crown_seen": "whole",
    "kept_out": "done",
    "no_next": True,
}
DOWN = {"under_it": ["neither"], "lies": "fallen", "blocks": "road", "next_step": "clear_now"}


class Day(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def day(self, **asked: Any) -> dict[str, Any]:
        answer = signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/day/", {"on": ON, **asked})
        self.assertEqual(answer.status_code, 200, answer.content)
        found: dict[str, Any] = answer.json()
        return found

    def test_each_thing_to_do_comes_from_its_record(self) -> None:
        made = {
            "danger": (entry("risk", **SHEET), "2026-10-20", "Extreme: the owner acts at once"),
            "dated": (
                entry("hardware", hardware="cable", next_inspection="2026-12-01"),
                "2026-10-20",
                "look at the cable, 2026-12-01",
            ),
            "measure": (dbh(30.0), "2020-10-20", "diameter of 2020-10-20"),
            "name": (
                entry(
                    "determination",
                    entered="Fraxinus americana",
                    taxon="fraxinus-americana",
                    not_separated_from=["fraxinus-pennsylvanica"],
                ),
                "2026-10-20",
                "shows now: ",
            ),
        }
        for task, (told, on, says) in made.items():
            plant = a_plant(self.at, told, on=on)
            found = self.day()
            [stop] = [s for b in found["plan"]["blocks"] for s in b["stops"] if s["tree"] == plant]
            with self.subTest(task):
                self.assertEqual((stop["tasks"], found["there_is"][task]), ([task], 1))
                self.assertTrue(stop["says"][0].startswith(says), stop["says"])

    def test_high_is_pressing_and_low_is_so_while_it_is_not_whole(self) -> None:
        [row] = SHEET["rows"]
        for failure, base, says in (
            ("probable", "all_round", "High: the owner deals with it by 2026-11-17, 3 days past"),
            (
                "probable",
                "partly",
                "Incomplete: at least high: the owner deals with it by 2026-11-17, 3 days past",
            ),
            ("improbable", "partly", "Incomplete: at least low"),
            ("improbable", "all_round", ""),
        ):
            sheet = {**SHEET, "rows": [{**row, "failure": failure}], "base_seen": base}
            plant = a_plant(self.at, entry("risk", **sheet))
            found = self.day(minutes="900")["plan"]["blocks"]
            told = [s["says"][0] for b in found for s in b["stops"] if s["tree"] == plant]
            self.assertEqual(told, [says] if says else [])

    def test_a_high_rating_runs_out_and_rating_it_again_gives_no_more_time(self) -> None:
        [row] = SHEET["rows"]
        high = {**SHEET, "rows": [{**row, "failure": "probable"}]}
        plant = a_plant(self.at, entry("risk", **high), on="2026-10-01")
        send(signed_in(self.at.steward), visit_item(plant, entry("risk", **high), on="2026-10-25"))
        [block] = self.day()["plan"]["blocks"]
        says = "High: the owner deals with it by 2026-10-29, 22 days past"
        self.assertEqual(block["stops"][0]["says"][0], says)

    def test_what_is_settled_is_not_asked_for(self) -> None:
        for told in (
            entry("enquiry", about="other", answer_by="2026-11-01", done_on="2026-10-30"),
            entry("planting", planted_on="2024-03-01", ties="taken_off", ties_until="2026-11-01"),
            entry("hardware", hardware="cable", next_inspection="2027-06-01"),
            entry("determination", entered="Fraxinus americana", taxon="fraxinus-americana"),
            dbh(30.0),
        ):
            a_plant(self.at, told)
        withdrawn = entry("enquiry", about="other", answer_by="2026-11-01")
        a_plant(self.at, withdrawn)
        gone = correction_item("enquiry", retracts=withdrawn["id"])
        self.assertEqual(send(signed_in(self.at.steward), gone)[0]["answer"], "accepted")
        self.assertEqual(self.day()["there_is"], {})

    def test_an_enquiry_that_waits_and_ties_that_cut_in(self) -> None:
        told = (
            entry("enquiry", about="shade_or_view", answer_by="2026-11-25"),
            entry("planting", planted_on="2024-03-01", ties="too_tight", ties_until="2026-11-01"),
        )
        plant = a_plant(self.at, *told)
        found = self.day()
        [stop] = found["plan"]["blocks"][0]["stops"]
        self.assertEqual(stop["tree"], plant)
        self.assertEqual(
            set(stop["says"]),
            {"take the ties off, 2026-11-01", "answer promised: shade or view, 2026-11-25"},
        )
        self.assertEqual(found["trees"][plant], {"tag": "", "name": ""})

    def test_a_tag_on_two_trees_is_doubtful_and_a_short_day_says_what_stays(self) -> None:
        for _ in range(6):
            a_plant(self.at, entry("tag", number="7"))
        found = self.day(minutes="15")
        self.assertEqual(found["there_is"], {"doubtful": 6})
        self.assertEqual(found["plan"]["stays_by_task"], {"doubtful": 1})
        self.assertLessEqual(found["plan"]["minutes"], 15)

    def test_blocks_are_walked_by_their_status_and_can_be_chosen(self) -> None:
        other = Block.objects.get(pk=self.at.block.pk)
        other.pk, other.name, other.biosecurity = new_id(), "A sick stand", "infested"
        other.save(force_insert=True)
        a_plant(self.at, dbh(30.0), on="2019-01-01")
        plant = plant_item(other)
        send(signed_in(self.at.surveyor), plant, visit_item(plant["id"], dbh(20.0), on="2019-01-01"))
        order = [b["block"] for b in self.day()["plan"]["blocks"]]
        self.assertEqual(order, [str(self.at.block.id), str(other.pk)])
        only = self.day(block=str(other.pk))
        self.assertEqual([b["block"] for b in only["plan"]["blocks"]], [str(other.pk)])

    def test_bad_questions(self) -> None:
        client = signed_in(self.at.viewer)
        for asked, field in (
            ({}, "on"),
            ({"on": ON, "minutes": "5"}, "minutes"),
            ({"on": ON, "minutes": "all"}, "minutes"),
            ({"on": ON, "minutes": "nan"}, "minutes"),
            ({"on": ON, "remeasure_years": "0"}, "remeasure_years"),
            ({"on": ON, "block": "x"}, "block"),
        ):
            answer = client.get(f"/api/sites/{self.at.site.id}/day/", asked)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), asked)


class Storm(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def looks(self, since: str = ON) -> list[dict[str, Any]]:
        address = f"/api/blocks/{self.at.block.id}/storm/"
        found: list[dict[str, Any]] = signed_in(self.at.viewer).get(address, {"since": since}).json()
        return found

    def test_the_newest_look_since_the_day_and_who_was_there(self) -> None:
        plant = a_plant(self.at, entry("storm", under_it=["wires"]), on="2026-11-19")
        self.assertEqual(self.looks(), [])
        for at, body in (("08", {"under_it": ["wires"]}), ("09", DOWN)):
            visit = visit_item(plant, entry("storm", **body), on=ON, observed_at=f"{ON}T{at}:00:00+00:00")
            send(signed_in(self.at.surveyor), visit)
        [look] = self.looks()
        self.assertEqual((look["plant"], look["by"], look["body"]), (plant, "surveyor", DOWN))
        self.assertTrue(look["wires"], "no later look ends that")
        [again] = self.looks("2026-11-01")
        self.assertEqual(again, look)

    def test_a_look_that_was_withdrawn_is_none(self) -> None:
        told = entry("storm", **DOWN)
        a_plant(self.at, told, on=ON)
        send(signed_in(self.at.surveyor), correction_item("storm", retracts=told["id"]))
        self.assertEqual(self.looks(), [])


class VacantPlaces(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        self.client_ = signed_in(self.at.surveyor)
        self.place = plant_item(self.at.block, form="vacant")
        self.assertEqual(send(self.client_, self.place)[0]["answer"], "accepted")

    def test_it_counts_as_no_tree_anywhere(self) -> None:
        site, block = self.at.site.id, self.at.block.id
        self.assertEqual(self.client_.get("/api/inventory/").json()["count"], 0)
        [shown] = self.client_.get("/api/inventory/?form=vacant").json()["rows"]
        self.assertEqual((shown["id"], shown["form"]), (self.place["id"], "vacant"))
        self.assertEqual(self.client_.get("/api/inventory/?form=tree").json()["field"], "form")
        self.assertEqual(self.client_.get(f"/api/blocks/{block}/").json()["plant_count"], 0)
        self.assertEqual(self.client_.get(f"/api/blocks/{block}/summary/").json()["standing"], 0)
        self.assertEqual(self.client_.get(f"/api/blocks/{block}/carbon/").json()["trees"], 0)
        self.assertEqual(len(self.client_.get(f"/api/blocks/{block}/plants/").json()), 1, "the map shows it")
        coverage = self.client_.get(f"/api/sites/{site}/coverage/", {"on": "2190-01-01"}).json()
        self.assertEqual(coverage["rows"], [])

    def test_it_has_a_place_and_a_tree_planted_in_it_names_it(self) -> None:
        nowhere = plant_item(self.at.block, form="vacant")
        for key in ("lon", "lat"):
            nowhere["body"].pop(key)
        self.assertEqual(send(self.client_, nowhere)[0]["field"], "lon")
        planted = entry("planting", planted_on="2026-03-01", vacant_place=self.place["id"])
        a_plant(self.at, planted)
        [told] = recorded("planting")
        self.assertEqual(str(told.vacant_place), self.place["id"])
        early = entry("planting", planted_on="2026-03-01", vacant_place=new_id())
        plant = plant_item(self.at.block)
        answers = send(self.client_, plant, visit_item(plant["id"], early))
        self.assertEqual([a["answer"] for a in answers], ["accepted", "waiting"])


class PeopleOutside(TestCase):
    def test_a_record_names_them_by_id_and_stays_when_they_are_erased(self) -> None:
        at = small_site()
        contact = make_contact(actor=at.steward, given={"name": "A neighbour"})
        plant = a_plant(at, entry("status", owner="neighbour", contact=str(contact.id)))
        erase_contact(actor=at.steward, contact=contact)
        [told] = recorded("status", plant=plant)
        self.assertEqual(told.contact, contact.id)
        shown = signed_in(at.viewer).get(f"/api/plants/{plant}/")
        self.assertNotIn("A neighbour", shown.content.decode())
