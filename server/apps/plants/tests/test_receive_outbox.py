"""The outbox: judged item by item, safe to send again, never stops for one bad item."""

import copy
import datetime
from unittest.mock import patch

from django.contrib.auth.models import User
from django.test import TestCase

from apps.organisations.models import Member, Role
from apps.plants.models import Change, Current, Entry, Plant, Received, Visit
from apps.plants.stored import body_of
from apps.plants.tests.factories import (
    a_plant,
    clock_item,
    correction_item,
    dbh,
    entry,
    new_id,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from jubark_core.records.upgrade import VERSION


class ReceiveOutbox(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def setUp(self) -> None:
        self.client_of_surveyor = signed_in(self.at.surveyor)

    def test_sending_a_batch_again_changes_nothing(self) -> None:
        plant = plant_item(self.at.block)
        batch = (plant, visit_item(plant["id"], dbh(41.6), entry("condition", word="fair")))
        first, again = send(self.client_of_surveyor, *batch), send(self.client_of_surveyor, *batch)
        self.assertEqual([a["answer"] for a in first], ["accepted"] * 2)
        self.assertEqual([a["answer"] for a in again], ["already"] * 2)
        self.assertEqual((Plant.objects.count(), Visit.objects.count(), Entry.objects.count()), (1, 1, 2))

    def test_one_id_with_another_body_is_refused_and_both_bodies_are_kept(self) -> None:
        plant = plant_item(self.at.block)
        other = copy.deepcopy(plant)
        other["body"]["lat"] = 40.5005
        send(self.client_of_surveyor, plant)
        (answer,) = send(self.client_of_surveyor, other)
        self.assertEqual((answer["answer"], answer["code"]), ("refused", "id_reused"))
        kept = Received.objects.filter(item=plant["id"]).values_list("outcome", "body__lat")
        self.assertEqual(set(kept), {("accepted", None), ("id_reused", 40.5005)})
        self.assertAlmostEqual(Plant.objects.get().place.y, 40.5)

    def test_a_visit_before_its_plant_waits_and_is_taken_later(self) -> None:
        plant = plant_item(self.at.block)
        visit = visit_item(plant["id"], dbh(20))
        (early,) = send(self.client_of_surveyor, visit)
        self.assertEqual((early["answer"], early["on"]), ("waiting", plant["id"]))
        self.assertEqual(
            [a["answer"] for a in send(self.client_of_surveyor, plant, visit)], ["accepted", "accepted"]
        )

    def test_a_bad_entry_refuses_its_whole_visit_naming_field_and_blocks_nothing_else(self) -> None:
        plant = plant_item(self.at.block)
        bad = visit_item(plant["id"], dbh(30), dbh(9999))
        good = visit_item(plant["id"], entry("note", text="leaning"))
        answers = send(self.client_of_surveyor, plant, bad, good)
        self.assertEqual([a["answer"] for a in answers], ["accepted", "refused", "accepted"])
        self.assertIn("entries[1].measurement.dbh_cm: 9999", answers[1]["message"])
        self.assertIn("0.1 to 1500", answers[1]["allowed"])
        self.assertEqual(Entry.objects.filter(kind="measurement").count(), 0)

    def test_malformed_items_are_each_told_what_is_wrong(self) -> None:
        plant = a_plant(self.at)
        for item, field in (
            ({**plant_item(self.at.block), "kind": "tree"}, "kind"),
            (plant_item(self.at.block, lat=91), "lat"),
            (plant_item(self.at.block, surprise=1), "surprise"),
            (
                visit_item(plant, entry("observation", character="leaf.arrangement", states=["oposite"])),
                "entries[0].observation.states[0]",
            ),
            (
                visit_item(plant, entry("observation", character="leaf.leaflets", values=[-1])),
                "entries[0].observation.values[0]",
            ),
            (visit_item(plant, entry("sign", sign="ufo")), "entries[0].sign.sign"),
            (visit_item(plant, on="2026-02-30"), "local_date"),
            ({"id": new_id(), "kind": "visit", "body": {}}, "body.id"),
            ({**visit_item(plant), "schema": VERSION + 1}, "schema"),
            ("nonsense", "item"),
        ):
            with self.subTest(field=field):
                (answer,) = send(self.client_of_surveyor, item)
                self.assertEqual((answer["answer"], answer.get("field")), ("refused", field), answer)
        self.assertEqual(Visit.objects.count(), 1)

    def test_a_wrong_clock_is_flagged_and_does_not_count_until_confirmed(self) -> None:
        plant = a_plant(self.at, dbh(30))
        ahead = (datetime.date.today() + datetime.timedelta(days=400)).isoformat()
        late = visit_item(plant, dbh(77), on=ahead)
        (answer,) = send(self.client_of_surveyor, late)
        self.assertEqual(answer["answer"], "accepted")
        self.assertTrue(Visit.objects.get(pk=late["id"]).clock_doubtful)
        self.assertEqual(Current.objects.get().dbh_cm, 30)

    def test_a_day_is_the_day_of_the_site(self) -> None:
        """At three in the morning of 1 December in Greenwich it is 30 November in Pennsylvania; at two in the
        afternoon of the day before it is 1 December in Melbourne.
        """
        site = self.at.site
        for lat, lon, moment, today, tomorrow in (
            (40.5, -79.3, "2026-12-01T03:00:00+00:00", "2026-11-30", "2026-12-01"),
            (-37.8, 145.0, "2026-11-30T14:00:00+00:00", "2026-12-01", "2026-12-02"),
        ):
            site.lat, site.lon = lat, lon
            site.save()
            now = datetime.datetime.fromisoformat(moment)
            for day, doubted in ((today, False), (tomorrow, True)):
                item = visit_item(a_plant(self.at), dbh(31), on=day)
                with (
                    patch("django.utils.timezone.now", return_value=now),
                    self.subTest(site.time_zone, day=day),
                ):
                    send(self.client_of_surveyor, item)
                    self.assertEqual(Visit.objects.get(pk=item["id"]).clock_doubtful, doubted)

    def test_the_figure_follows_from_the_raw_readings(self) -> None:
        angles = {"distance_m": 20, "top": 45, "base": -5}
        girths = entry(
            "measurement",
            quantity="dbh_cm",
            raw={"circumferences_cm": [100]},
            method="taped",
            at_height_m=1.37,
        )
        plant = a_plant(
            self.at,
            girths,
            entry("measurement", quantity="height_m", raw={"angles": angles}, method="instrument"),
        )
        current = Current.objects.get(plant=plant)
        self.assertAlmostEqual(current.dbh_cm, 31.83099, places=4)  # 100 cm / π
        self.assertAlmostEqual(current.height_m, 21.74977, places=4)  # 20 m × (tan 45° + tan 5°)

    def test_another_members_item_and_a_viewer_are_refused(self) -> None:
        item = {**plant_item(self.at.block), "author": str(self.at.steward.id)}
        self.assertEqual(send(self.client_of_surveyor, item)[0]["code"], "bad_entry")
        self.assertEqual(send(signed_in(self.at.viewer), plant_item(self.at.block))[0]["code"], "not_allowed")
        self.assertEqual(Plant.objects.count(), 0)

    def test_too_many_items_and_too_many_bytes_are_413(self) -> None:
        self.assertEqual(self.client_of_surveyor.post("/api/outbox/", {"items": [{}] * 201}).status_code, 413)
        answer = self.client_of_surveyor.post("/api/outbox/", {"items": [{"pad": "x" * 1_100_000}]})
        self.assertEqual((answer.status_code, answer.json()["code"]), (413, "too_large"))

    def test_changes_are_numbered_without_gaps_and_read_from_where_one_left_off(self) -> None:
        first, second = a_plant(self.at), a_plant(self.at)
        read = self.client_of_surveyor.get("/api/changes/?after=0").json()
        self.assertEqual([c["number"] for c in read["changes"]], list(range(1, Change.objects.count() + 1)))
        self.assertEqual({c["what"] for c in read["changes"]}, {first, second})
        self.assertEqual(
            self.client_of_surveyor.get(f"/api/changes/?after={read['last']}").json()["changes"], []
        )

    def test_a_stem_sighted_by_bearing_stands_where_the_compass_says(self) -> None:
        station = a_plant(self.at)
        sighted = plant_item(
            self.at.block, from_plant=station, bearing_deg=90, distance_m=100, how_taken="bearing"
        )
        for key in ("lon", "lat"):
            del sighted["body"][key]
        self.assertEqual(send(self.client_of_surveyor, sighted)[0]["answer"], "accepted")
        east, start = Plant.objects.get(pk=sighted["id"]).place, Plant.objects.get(pk=station).place
        east.transform(32617)  # UTM 17 N, metres: PROJ is the independent judge
        start.transform(32617)
        self.assertAlmostEqual(east.distance(start), 100, delta=0.5)
        self.assertGreater(east.x - start.x, 99)


class Corrections(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def current_dbh(self, plant: str) -> float | None:
        return Current.objects.get(plant=plant).dbh_cm

    def test_a_correction_replaces_without_touching_the_old_entry(self) -> None:
        slip = dbh(301)
        plant = a_plant(self.at, slip)
        right = correction_item(
            "measurement",
            replaces=slip["id"],
            quantity="dbh_cm",
            raw={"value": 30.1},
            method="taped",
            at_height_m=1.37,
        )
        self.assertEqual(send(signed_in(self.at.surveyor), right)[0]["answer"], "accepted")
        self.assertAlmostEqual(self.current_dbh(plant), 30.1)
        self.assertAlmostEqual(body_of(Entry.objects.get(pk=slip["id"])).value, 301)

    def test_of_two_corrections_of_one_entry_the_later_received_wins_and_both_are_marked(self) -> None:
        slip = dbh(300)
        plant = a_plant(self.at, slip)
        one, two = (
            correction_item(
                "measurement",
                replaces=slip["id"],
                quantity="dbh_cm",
                raw={"value": v},
                method="taped",
                at_height_m=1.37,
            )
            for v in (30, 31)
        )
        send(signed_in(self.at.surveyor), one)
        send(signed_in(self.at.steward), two)
        shown = signed_in(self.at.viewer).get(f"/api/plants/{plant}/").json()
        self.assertAlmostEqual(self.current_dbh(plant), 31)
        self.assertTrue(shown["current"]["contested"])
        self.assertEqual(
            {e["id"] for e in shown["visits"][0]["entries"] if e["contested"]}, {one["id"], two["id"]}
        )

    def test_taking_back_brings_the_earlier_value_up_again(self) -> None:
        plant = a_plant(self.at, dbh(30), on="2024-06-01")
        wrong = dbh(55)
        send(signed_in(self.at.surveyor), visit_item(plant, wrong, on="2026-06-01"))
        self.assertEqual(self.current_dbh(plant), 55)
        send(signed_in(self.at.surveyor), correction_item("measurement", retracts=wrong["id"]))
        self.assertEqual(self.current_dbh(plant), 30)

    def test_only_the_same_kind_and_only_ones_own_below_steward(self) -> None:
        slip = dbh(30)
        a_plant(self.at, slip)
        (kind,) = send(signed_in(self.at.steward), correction_item("note", replaces=slip["id"], text="x"))
        self.assertEqual((kind["code"], kind["field"]), ("bad_entry", "kind"))
        other = entry("note", text="by the steward")
        plant = plant_item(self.at.block)
        send(signed_in(self.at.steward), plant, visit_item(plant["id"], other))
        (answer,) = send(signed_in(self.at.surveyor), correction_item("note", replaces=other["id"], text="y"))
        self.assertEqual(answer["code"], "not_allowed")

    def test_a_correction_by_an_old_app_that_would_drop_a_field_is_refused_and_names_it(self) -> None:
        several = entry(
            "measurement",
            quantity="dbh_cm",
            raw={"diameters_cm": [15, 20, 25]},
            method="taped",
            at_height_m=1.37,
        )
        look = entry("observation", character="leaf.arrangement", states=["opposite"])
        named = entry(
            "determination",
            entered="Fraxinus sp.",
            taxon="fraxinus",
            probability=0.93,
            observations=[look["id"]],
        )
        sign = entry("sign", sign="bracket_stem", extent_percent=10)
        graded = entry("condition", parts={"trunk": 3, "foliage": 4}, flare="buried")
        plant = a_plant(self.at, several, look, named, sign, graded)
        client = signed_in(self.at.surveyor)
        for replaced, body, lost in (
            (
                several,
                {"quantity": "dbh_cm", "raw": {"value": 29}, "method": "taped", "at_height_m": 1.37},
                "raw.diameters_cm",
            ),
            (
                several,
                {"quantity": "dbh_cm", "raw": {"diameters_cm": [15, 20]}, "at_height_m": 1.37},
                "raw.diameters_cm",
            ),
            (several, {"quantity": "dbh_cm", "raw": {"diameters_cm": [15, 20, 24]}}, "at_height_m"),
            (named, {"entered": "Acer rubrum"}, "observations"),
            (sign, {"sign": "bracket_stem"}, "extent_percent"),
            (graded, {"word": "good", "flare": "buried"}, "parts"),
        ):
            with self.subTest(lost=lost):
                item = correction_item(replaced["kind"], replaces=replaced["id"], **body)
                (answer,) = send(client, {**item, "schema": 1})
                self.assertEqual((answer["answer"], answer.get("field")), ("refused", lost), answer)
        whole = {"entered": "Acer rubrum", "looks": [look["id"]]}
        item = correction_item("determination", replaces=named["id"], **whole)
        self.assertEqual(send(client, {**item, "schema": 1})[0]["answer"], "accepted")
        self.assertEqual(Current.objects.get(plant=plant).name, "Acer rubrum")

    def test_a_doubted_date_counts_once_it_is_confirmed(self) -> None:
        plant = a_plant(self.at, dbh(30))
        ahead = (datetime.date.today() + datetime.timedelta(days=400)).isoformat()
        late = visit_item(plant, dbh(77), on=ahead)
        send(signed_in(self.at.surveyor), late)
        self.assertEqual(self.current_dbh(plant), 30)
        confirmed = clock_item(late["id"])
        other = Member.objects.create(
            organisation=self.at.organisation,
            user=User.objects.create_user("another"),
            role=Role.SURVEYOR,
            shown_name="another surveyor",
        )
        self.assertEqual(send(signed_in(other), clock_item(late["id"]))[0]["code"], "not_allowed")
        self.assertEqual(send(signed_in(self.at.surveyor), clock_item(new_id()))[0]["answer"], "waiting")
        for expected in ("accepted", "already"):
            self.assertEqual(send(signed_in(self.at.surveyor), confirmed)[0]["answer"], expected)
        self.assertEqual(self.current_dbh(plant), 77)
        sound = Visit.objects.exclude(pk=late["id"]).get()
        self.assertEqual(send(signed_in(self.at.steward), clock_item(str(sound.id)))[0]["field"], "visit")
