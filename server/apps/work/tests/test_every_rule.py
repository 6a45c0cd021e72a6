"""Every rule of work fires from what people record, and from what stands round the tree: none asks for a fact
that nobody can write down. The core's own tests say when each fires and when not.
"""

from __future__ import annotations

import datetime
from typing import Any

from django.contrib.gis.geos import LineString, Polygon
from django.test import TestCase

from apps.inspections.models import SiteRegime, Target
from apps.plants.tests.factories import (
    SmallSite,
    entry,
    new_id,
    open_test_block,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block
from apps.work.jobs import files_of_site, work_of_site
from apps.work.services.set_work_settings import set_work_settings
from jubark_core.flora.load import shipped_flora
from jubark_core.records.fields import read_as, write
from jubark_core.records.office import Regime
from jubark_core.work.load import work_rules
from jubark_core.work.propose import propose

ON = datetime.date(2026, 10, 20)
Entries = list[dict[str, Any]]


def name(taxon: str, **more: Any) -> dict[str, Any]:
    return entry("determination", entered=taxon, taxon=taxon, **more)


def cause(agent: str, probability: float = 0.9, **more: Any) -> dict[str, Any]:
    standing = {"standing": "probable", **more}
    return entry("diagnosis", verdict="cause", cause=agent, probability=probability, **standing)


def sheet(failure: str = "possible", impact: str = "low", consequence: str = "minor", **more: Any) -> Any:
    row = {
        "part": "limb",
        "target": "path",
        "failure": failure,
        "impact": impact,
        "consequence": consequence,
    }
    seen = {"base_seen": "all_round", "crown_seen": "whole", "no_next": True, **more}
    return entry("risk", rows=[row], years=1, level="basic", **seen)


def loss(percent: float) -> dict[str, Any]:
    return entry("measurement", quantity="dieback_pct", raw={"value": percent}, method="estimated")


def taped(cm: float) -> dict[str, Any]:
    return entry("measurement", quantity="dbh_cm", raw={"value": cm}, method="taped", at_height_m=1.37)


def defect(word: str, part: str = "limb", **more: Any) -> dict[str, Any]:
    return entry("defect", defect=word, part=part, **more)


STANDS = {"lies": "standing", "blocks": "nothing", "next_step": "nothing"}
WISH = entry("enquiry", about="wish_to_work_on_it")
MAPLE = name("acer-rubrum")
# rule -> entries of a visit to a tree on the path
FROM_RECORDS: dict[str, Entries] = {
    "R01": [MAPLE, defect("hanger", over_target="over_target")],
    "R02": [sheet("imminent", "high", "severe")],
    "R03": [sheet("probable", "high", "significant")],
    "R04": [sheet("probable", "medium", "significant")],
    "R05": [MAPLE, entry("climber", climber="hedera-helix", hides=True)],
    "R06": [MAPLE, defect("dead_limb", break_cm=8, over_target="over_target")],
    "R07": [name("quercus-rubra"), WISH],
    "R08": [name("ulmus-americana"), WISH],
    "R09": [name("betula-pendula"), WISH],
    "R10": [MAPLE, WISH],
    "R11": [name("pinus-strobus"), WISH],
    "R12": [name("prunus-serotina"), WISH],
    "R12K": [name("prunus-serotina"), cause("black-knot")],
    "R13": [name("malus-domestica"), cause("fire-blight")],
    "R14": [name("forsythia-x-intermedia"), WISH],
    "R15": [name("callicarpa-americana"), WISH],
    "R16": [MAPLE, entry("headroom", over="road", clear_m=3.5)],
    "R17": [MAPLE, entry("place", surface="grass", overhead_m=2.0)],
    "R18": [MAPLE, entry("planting", planted_on="2021-04-01"), defect("codominant_stems", "trunk", number=2)],
    "R19": [MAPLE, defect("included_bark", "trunk")],
    "R20": [MAPLE, defect("topped", "crown")],
    "R21": [MAPLE, defect("cavity", "trunk")],
    "R22": [MAPLE, entry("condition", vitality="retrenching", stability="stable")],
    "R24": [name("fraxinus-americana"), entry("life", state="standing_dead")],
    "R25": [name("fraxinus-americana"), loss(20)],
    "R25W": [name("fraxinus-quadrangulata"), loss(10)],
    "R26": [name("ulmus-americana"), loss(0), cause("dutch-elm-disease", 0.8)],
    "R27": [
        name("quercus-rubra"),
        cause("oak-wilt", 0.99, standing="confirmed", confirmed_by="laboratory", reference="L 8"),
    ],
    "R27E": [
        name("ulmus-americana"),
        cause("dutch-elm-disease", 0.99, standing="confirmed", confirmed_by="laboratory", reference="L 7"),
    ],
    "R28": [name("tsuga-canadensis"), loss(20), cause("hemlock-woolly-adelgid")],
    "R29": [MAPLE, cause("spongy-moth")],
    "R29B": [name("quercus-alba"), entry("sign", sign="egg_mass_buff", number=9, over_m2=100)],
    "R30": [MAPLE, cause("asian-longhorned-beetle", 0.4, standing="suspicion")],
    "R32": [name("ailanthus-altissima")],
    "R33": [name("rhamnus-cathartica"), taped(4)],
    "R34": [MAPLE, entry("climber", climber="celastrus-orbiculatus")],
    "R35": [MAPLE, entry("climber", climber="toxicodendron-radicans")],
    "R36": [MAPLE, entry("planting", planted_on="2026-04-01")],
    "R38": [MAPLE, entry("condition", word="fair", flare="buried")],
    "R39": [MAPLE, taped(60), entry("works", works="trench", distance_m=3)],
    "R40": [MAPLE, sheet(next_inspection="2026-10-20", no_next=False)],
}
# Where the tree has no target in reach, the place is vacant, or the whole site is asked.
ELSEWHERE = {"R23", "R31", "R37", "OTHER"}
FAR = {"lat": 40.5009}  # a tenth of a kilometre off the path


class EveryRule(TestCase):
    at: SmallSite
    settings: dict[str, Any]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        around = Polygon.from_bbox((-79.3001, 40.4999, -79.2999, 40.5001))
        around.srid = 4326
        cls.target("The path", "path", "frequent", around)
        near = ("dutch-elm-disease", "bronze-birch-borer", "emerald-ash-borer")
        cls.settings = {
            "causes_near": [{"cause": agent, "km": 8} for agent in near],
            "egg_masses_limit_per_ha": 600,
        }
        set_work_settings(actor=cls.at.steward, site=cls.at.site, given=cls.settings)

    @classmethod
    def target(cls, called: str, kind: str, occupancy: str, shape: Any) -> None:
        Target.objects.create(
            organisation=cls.at.organisation,
            site=cls.at.site,
            name=called,
            kind=kind,
            occupancy=occupancy,
            shape=shape,
            set_by=cls.at.steward,
        )

    def planted(
        self, entries: Entries, visit: dict[str, Any] | None = None, block: Block | None = None, **more: Any
    ) -> str:
        """The id of a tree with these entries of the day, or of the visit's."""
        item = plant_item(block or self.at.block, **more)
        own = [{**e, "id": new_id()} for e in entries]
        seen = visit_item(item["id"], *own, **{"on": ON.isoformat(), **(visit or {})})
        answers = send(signed_in(self.at.surveyor), item, seen)
        self.assertEqual({a["answer"] for a in answers}, {"accepted"}, answers)
        return str(item["id"])

    def case_of(self, plant: str) -> dict[str, Any]:
        blocks = list(Block.objects.filter(site=self.at.site))
        files = files_of_site(self.at.steward, self.at.site, blocks, ON)
        return next(f.case for f in files if str(f.current.pk) == plant)

    def proposed(self, plant: str) -> dict[str, Any]:
        return {p["rule"]: p for p in propose(self.case_of(plant), shipped_flora())["proposals"]}

    def test_every_rule_of_a_tree_fires_from_its_entries(self) -> None:
        self.assertEqual(set(FROM_RECORDS) | ELSEWHERE, set(work_rules().rules))
        plants = {rule: self.planted(entries) for rule, entries in FROM_RECORDS.items()}
        blocks = [self.at.block]
        files = {str(f.current.pk): f for f in files_of_site(self.at.steward, self.at.site, blocks, ON)}
        for rule, plant in plants.items():
            with self.subTest(rule):
                told = propose(files[plant].case, shipped_flora())
                self.assertIn(rule, {p["rule"] for p in told["proposals"]}, told["held_back"])

    def test_a_dead_tree_with_nothing_in_reach_is_left(self) -> None:
        dead = [MAPLE, entry("life", state="standing_dead")]
        self.assertIn("R23", self.proposed(self.planted(dead, **FAR)))
        self.assertNotIn("R23", self.proposed(self.planted(dead)))

    def test_a_long_road_is_near_wherever_its_middle_lies(self) -> None:
        tree = self.planted([MAPLE, defect("cavity", "trunk")], **FAR)
        self.assertNotIn("R21", self.proposed(tree))
        road = LineString((-79.3, 40.50095), (-79.2, 40.50095), srid=4326)
        self.target("The road", "road", "constant", road)
        self.assertIn("R21", self.proposed(tree))

    def test_a_tree_without_a_name_has_what_needs_none(self) -> None:
        found = self.proposed(self.planted([defect("hanger", over_target="over_target")]))
        self.assertIn("R01", found)
        self.assertNotIn("R10", found)

    def test_the_stage_is_of_the_newest_visit(self) -> None:
        tree = self.planted([MAPLE], {"stage": "veteran", "on": "2026-05-01"})
        self.assertIn("R22", self.proposed(tree))
        note, look = entry("note", text="A letter came."), entry("storm", under_it=["neither"], **STANDS)
        client = signed_in(self.at.surveyor)
        send(client, visit_item(tree, note, on="2026-06-01", mode="desk"))
        send(client, visit_item(tree, look, on="2026-06-02"))
        self.assertIn("R22", self.proposed(tree))  # neither judges its stage
        send(signed_in(self.at.surveyor), visit_item(tree, taped(40), on=ON.isoformat(), stage="mature"))
        self.assertNotIn("R22", self.proposed(tree))

    def test_what_is_over_asks_for_nothing(self) -> None:
        """A climber that was cut, works that ended, an order that lapsed."""
        cut = entry("climber", climber="celastrus-orbiculatus", cut_on="2026-10-20")
        tree = self.planted(FROM_RECORDS["R34"], {"on": "2026-10-19"})
        self.assertIn("R34", self.proposed(tree))
        send(signed_in(self.at.surveyor), visit_item(tree, cut, on=ON.isoformat()))
        self.assertNotIn("R34", self.proposed(tree))
        ended = entry("works", works="trench", distance_m=3, ends="2026-10-19")
        self.assertNotIn("R39", self.proposed(self.planted([MAPLE, taped(60), ended])))
        for until, is_open in (("2026-10-19", False), ("2026-10-20", True)):
            order = entry("constraint", constraint="preservation_order", until=until)
            looked_up = entry("clearance", check_closed="C3", what="look_up", result="none")
            tree = self.planted([*FROM_RECORDS["R16"], order, looked_up])
            checks = self.proposed(tree)["R16"]["checks"]
            self.assertEqual(next(c["open"] for c in checks if c["check"] == "C3"), is_open)

    def test_a_line_on_record_stays_after_its_operator_cleared_the_tree(self) -> None:
        line = entry("place", surface="grass", overhead_m=2.0)
        tree = self.planted([MAPLE, line], {"on": "2026-08-01"})
        client = signed_in(self.at.surveyor)
        send(client, visit_item(tree, entry("storm", under_it=["wires"]), on="2026-09-01"))
        gone = {"check_closed": "C4", "what": "line_clear", "by": "Line desk"}
        cleared = entry("clearance", **gone, reference="OP 9")
        send(client, visit_item(tree, cleared, on="2026-10-19"))
        self.assertEqual(self.proposed(tree)["R17"]["why"], ["wires m: 2.0"])

    def test_a_storm_asks_for_a_look_within_three_days(self) -> None:
        tree = self.planted([MAPLE, defect("crack", "trunk")], {"on": "2026-10-01"})
        self.assertNotIn("R40", self.proposed(tree))
        storms = [{"on": "2026-10-18", "storm": "wind"}]
        set_work_settings(actor=self.at.steward, site=self.at.site, given={**self.settings, "storms": storms})
        found = self.proposed(tree)["R40"]
        self.assertEqual((found["why"], found["within_days"]), (["after storm: 2026-10-18"], 3))
        asked = entry("enquiry", about="fear_of_failure")
        send(signed_in(self.at.surveyor), visit_item(tree, asked, on="2026-10-19", mode="desk"))
        self.assertIn("R40", self.proposed(tree))  # a call is no look
        looked = entry("storm", under_it=["neither"], **STANDS)
        send(signed_in(self.at.surveyor), visit_item(tree, looked, on="2026-10-19"))
        self.assertNotIn("R40", self.proposed(tree))

    def test_the_owners_table_says_when_an_inspection_is_due(self) -> None:
        tree = self.planted([MAPLE, sheet()], {"on": "2025-10-01"})
        self.assertNotIn("R40", self.proposed(tree))  # low, beside a path that is walked often: 36 months
        rules = [{"zone": "frequent", "level": "basic", "months": 12}]
        SiteRegime.objects.create(
            organisation=self.at.organisation,
            site=self.at.site,
            body=write(read_as(Regime, "", {"rules": rules}, {})),
            set_by=self.at.steward,
        )
        self.assertEqual(
            self.proposed(tree)["R40"]["why"], ["inspection due: last on 2025-10-01, every 12 months"]
        )

    def test_a_vacant_site_is_planted_but_not_with_what_died_there(self) -> None:
        site = [entry("place", surface="open_soil", rooting_m3=21)]
        vacant = self.planted(site, form="vacant", **FAR)
        found = self.proposed(vacant)
        self.assertEqual(set(found), {"R37"})
        self.assertEqual((found["R37"]["why"][-1], found["R37"]["cautions"]), ("room to plant: medium", []))
        elm = [name("ulmus-americana"), cause("dutch-elm-disease"), entry("life", state="stump")]
        self.planted(elm, **FAR)
        self.assertEqual(
            self.proposed(vacant)["R37"]["cautions"], ["Not again here: Ulmus (Dutch elm disease)."]
        )
        client = signed_in(self.at.viewer)
        rows = client.get(f"/api/sites/{self.at.site.id}/work/planting/?on={ON}").json()["vacant"]
        self.assertEqual([row["not_here"] for row in rows], [["Ulmus (Dutch elm disease)"]])
        small = self.planted([entry("place", surface="open_soil", rooting_m3=5)], form="vacant")
        self.assertEqual(self.proposed(small), {})

    def test_blocks_are_worked_clean_before_sick_where_a_disease_travels_in_soil(self) -> None:
        other = open_test_block(self.at.site, "Alder carr")

        def order() -> list[tuple[str, list[str]]]:
            blocks = list(Block.objects.filter(site=self.at.site))
            found = work_of_site(self.at.steward, self.at.site, blocks, ON)["order"]
            return [(row["block_name"], row["causes"]) for row in found]

        self.planted([name("quercus-alba"), cause("spongy-moth")], block=other)
        self.assertEqual(order(), [])
        self.planted([name("castanea-dentata"), cause("root-phytophthora")], block=other)
        self.assertEqual(order(), [("Block", []), ("Alder carr", ["Root Phytophthora"])])

    def test_egg_masses_of_all_plots_of_a_block_judge_each_host_in_it(self) -> None:
        def plot(number: int, present: bool = True) -> dict[str, Any]:
            return entry("sign", sign="egg_mass_buff", present=present, number=number, over_m2=100)

        oak = self.planted([name("quercus-alba")])
        elsewhere = self.planted([name("quercus-alba")], block=open_test_block(self.at.site, "Alder carr"))
        many = [plot(12), cause("spongy-moth", 0.9)]
        self.planted(many)
        found = self.proposed(oak)
        self.assertIn("egg masses over: 1200 per ha, the owner's threshold 600 per ha", found["R29B"]["why"])
        self.assertNotIn("R29", found)  # none was seen on it
        self.assertNotIn("R29B", self.proposed(elsewhere))
        self.planted([plot(0, present=False), entry("note", text="None here.")])
        self.assertIn("600 per ha, the owner's", self.proposed(oak)["R29B"]["why"][-1])
        empty = self.planted([plot(9, present=False)])  # not there, whatever number stood before
        self.assertNotIn("R29B", self.proposed(oak))
        self.assertNotIn("R29", self.proposed(empty))

    def test_worth_and_earlier_losses_speak_for_the_ash(self) -> None:
        def held_back(plant: str) -> str:
            told = propose(self.case_of(plant), shipped_flora())
            return next((h["why"] for h in told["held_back"] if h["rule"] == "R25"), "")

        ash = name("fraxinus-americana")
        old = self.planted([ash, loss(35)], {"on": "2024-07-01"})
        send(signed_in(self.at.surveyor), visit_item(old, loss(40), on=ON.isoformat()))
        self.assertIn("fresh", held_back(old))
        self.assertEqual(held_back(self.planted([ash, loss(40)])), "")
        for worth, of_loss, why in (("usual", 40, "high worth"), ("low", 20, "low"), ("high", 40, "")):
            with self.subTest(worth):
                found = held_back(
                    self.planted([ash, loss(of_loss), entry("status", owner="own", worth=worth)])
                )
                self.assertIn(why, found)
                self.assertEqual(bool(found), bool(why))

    def test_a_fungus_seen_in_spring_is_looked_for_again_until_it_has_been_told_what_it_is(self) -> None:
        for seen in (entry("sign", sign="bracket_base"), defect("decay_fungus", "trunk")):
            tree = self.planted([MAPLE, seen], {"on": "2026-04-20"})
            self.assertTrue(
                self.proposed(tree)["R40"]["why"][0].startswith("fungus shows now: seen on 2026-04-20")
            )
        send(signed_in(self.at.surveyor), visit_item(tree, cause("ganoderma"), on="2026-10-01"))
        self.assertNotIn("R40", self.proposed(tree))

    def test_a_visit_whose_doubted_date_was_confirmed_counts(self) -> None:
        tree = self.planted([MAPLE], {"on": "2026-10-01"})
        doubted = visit_item(tree, sheet("imminent", "high", "severe"), on=ON.isoformat())
        wrong_clock = {"items": [doubted], "sent_at": "2020-01-01T00:00:00+00:00"}
        signed_in(self.at.surveyor).post("/api/outbox/", wrong_clock)
        self.assertNotIn("R02", self.proposed(tree))
        confirmed = {
            "id": new_id(),
            "visit": doubted["id"],
            "recorded_at": "2026-10-21T08:00:00+00:00",
            "reason": "The device was right.",
        }
        answer = send(
            signed_in(self.at.surveyor), {"id": confirmed["id"], "kind": "clock", "body": confirmed}
        )
        self.assertEqual(answer[0]["answer"], "accepted", answer)
        self.assertIn("R02", self.proposed(tree))

    def test_a_name_that_is_not_sure_is_looked_at_again_while_something_separates_it(self) -> None:
        unsure = name("acer-rubrum", probability=0.6, not_separated_from=["acer-saccharinum"])
        why = self.proposed(self.planted([unsure]))["R40"]["why"]
        self.assertTrue(why[0].startswith("name shows now: "), why)
        sure = name("acer-rubrum", probability=0.9, not_separated_from=["acer-saccharinum"])
        self.assertNotIn("R40", self.proposed(self.planted([sure])))
