"""Plant health of a site: diagnoses and what follows from them, holds, station, files for the public."""

from __future__ import annotations

import csv
import datetime
import io
from typing import Any

from django.test import TestCase

from apps.health.models import BiosecurityStatus, HoldLifted, StationRecord
from apps.organisations.models import AuditEvent, Member
from apps.plants.models import Current, PlantSpan
from apps.plants.tests.factories import (
    SmallSite,
    a_plant,
    correction_item,
    entry,
    open_test_block,
    send,
    signed_in,
    small_site,
    visit_item,
)

BEETLE = {"verdict": "cause", "cause": "asian-longhorned-beetle", "standing": "suspicion", "probability": 0.4}
BORER = {"verdict": "cause", "cause": "emerald-ash-borer", "standing": "probable", "probability": 0.93}
DAYS = "date,min_c,max_c\n2026-01-01,-3.5,4\n2026-01-03,,6\n2026-01-04,1,9\n"


def glance(at: SmallSite, on: str = "2026-11-20", by: Member | None = None) -> Any:
    answer = signed_in(by or at.viewer).get(f"/api/sites/{at.site.id}/health/", {"on": on})
    assert answer.status_code == 200, answer.content
    return answer.json()


def ash() -> dict[str, Any]:
    """The name of a white ash."""
    return entry("determination", entered="white ash", taxon="fraxinus-americana")


def maple(at: SmallSite, *entries: dict[str, Any], on: str = "2026-10-20", **place: float) -> str:
    """A red maple with entries."""
    named = entry("determination", entered="red maple", taxon="acer-rubrum")
    return a_plant(at, named, *entries, on=on, **place)


class Diagnoses(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def test_a_diagnosis_is_what_the_plant_has_until_it_is_ruled_out(self) -> None:
        plant = a_plant(
            self.at, ash(), entry("sign", sign="exit_hole_d", size_mm=3.5), entry("diagnosis", **BORER)
        )
        now = Current.objects.get(plant=plant)
        self.assertEqual(
            (now.verdict, now.cause, now.cause_standing), ("cause", "emerald-ash-borer", "probable")
        )
        self.assertEqual(now.diagnosed_on, datetime.date(2026, 10, 20))
        [row] = glance(self.at)["causes"]
        self.assertEqual(
            (row["name"], row["harm"], row["plants"], row["probable"]), ("Emerald ash borer", "kills", 1, 1)
        )
        self.assertEqual(row["by_block"], [{"name": "Block", "plants": 1}])
        out = BORER | {"standing": "ruled_out", "confirmed_by": "laboratory", "reference": "L 7"}
        [answer] = send(
            signed_in(self.at.surveyor), visit_item(plant, entry("diagnosis", **out), on="2026-11-02")
        )
        self.assertEqual(answer["answer"], "accepted")
        self.assertEqual(Current.objects.get(plant=plant).cause, "")
        self.assertEqual(glance(self.at)["causes"], [])
        spans = PlantSpan.objects.filter(plant=plant).order_by("from_day").values_list("cause", "to_day")
        self.assertEqual(list(spans), [("emerald-ash-borer", datetime.date(2026, 11, 2)), ("", None)])

    def test_a_withdrawn_diagnosis_counts_no_more(self) -> None:
        made = entry("diagnosis", **BORER)
        plant = a_plant(self.at, ash(), made)
        send(signed_in(self.at.surveyor), correction_item("diagnosis", retracts=made["id"]))
        self.assertEqual(Current.objects.get(plant=plant).cause, "")

    def test_bad_forms_of_sign_and_diagnosis_name_their_field(self) -> None:
        plant = a_plant(self.at, ash())
        for kind, body, field in (
            ("diagnosis", {"verdict": "cause"}, "cause"),
            ("diagnosis", {"verdict": "cause", "cause": "flu", "standing": "suspicion"}, "cause"),
            ("diagnosis", {"verdict": "cause", "cause": "oak-wilt"}, "standing"),
            ("diagnosis", {"verdict": "normal", "cause": "oak-wilt"}, "cause"),
            ("diagnosis", {"verdict": "normal", "standing": "suspicion"}, "standing"),
            ("diagnosis", BORER | {"standing": "confirmed"}, "confirmed_by"),
            ("diagnosis", BORER | {"standing": "confirmed", "confirmed_by": "laboratory"}, "reference"),
            ("diagnosis", BORER | {"confirmed_by": "officer"}, "confirmed_by"),
            ("diagnosis", BORER | {"probability": 2}, "probability"),
            ("sign", {"sign": "crown_thinning"}, "sign"),  # what it was called up to version 4
            ("sign", {"sign": "exit_hole_d", "where": ["bole"]}, "where[0]"),
            ("sign", {"sign": "exit_hole_d", "size_mm": 0}, "size_mm"),
        ):
            [answer] = send(signed_in(self.at.surveyor), visit_item(plant, entry(kind, **body)))
            self.assertEqual(
                (answer["answer"], answer["field"]), ("refused", f"entries[0].{kind}.{field}"), body
            )

    def test_signs_that_nobody_judged_are_listed(self) -> None:
        plant = maple(self.at, entry("sign", sign="honeydew"))
        [row] = glance(self.at)["unexplained"]
        self.assertEqual((row["plant"], row["signs"]), (plant, ["honeydew"]))
        send(
            signed_in(self.at.surveyor),
            visit_item(plant, entry("diagnosis", verdict="nothing_wrong"), on="2026-11-01"),
        )
        self.assertEqual(glance(self.at)["unexplained"], [])

    def test_how_it_spread_is_read_from_what_was_known_from_day_to_day(self) -> None:
        first = a_plant(self.at, ash(), entry("diagnosis", **BORER), on="2023-07-01")
        second = a_plant(self.at, ash(), entry("diagnosis", **BORER), on="2025-07-01", lat=40.5001)
        rows = signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/spread/emerald-ash-borer/").json()
        self.assertEqual(
            [(r["plant"], r["first"]) for r in rows], [(first, "2023-07-01"), (second, "2025-07-01")]
        )
        self.assertEqual(rows[1]["lat"], 40.5001)
        bad = signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/spread/flu/")
        self.assertEqual((bad.status_code, bad.json()["field"]), (400, "cause"))

    def test_hosts_watch_list_and_open_samples(self) -> None:
        a_plant(
            self.at,
            ash(),
            entry("measurement", quantity="dbh_cm", raw={"value": 40.0}, method="taped", at_height_m=1.37),
        )
        maple(
            self.at,
            entry("sample", number="S-1", part="twig", sent_to="State laboratory", sent_on="2026-10-21"),
            lat=40.5002,
        )
        found = glance(self.at)
        borer = next(e for e in found["exposure"] if e["agent"] == "emerald-ash-borer")
        self.assertEqual((borer["stems"], borer["stems_share"], borer["basal_area_share"]), (1, 0.5, 1.0))
        watched = [w["cause"] for w in found["watch"]]
        self.assertIn("asian-longhorned-beetle", watched)
        self.assertNotIn("emerald-ash-borer", watched)  # here already
        self.assertEqual([s["number"] for s in found["samples"]], ["S-1"])

    def test_a_site_without_plants_has_an_empty_glance(self) -> None:
        found = glance(self.at)
        for part in ("causes", "unexplained", "holds", "exposure", "watch", "samples", "look_for"):
            self.assertEqual(found[part], [], part)
        self.assertIsNone(found["station"])
        self.assertEqual(
            signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/health/").status_code, 400
        )


class Holds(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def lift(self, by: Member, **change: Any) -> Any:
        given = {"cause": "asian-longhorned-beetle", "on": "2026-11-01", "reference": "PPQ 12"} | change
        return signed_in(by).post(f"/api/blocks/{self.at.block.id}/holds/", given)

    def test_a_hold_begins_with_suspicion_and_ends_by_its_reference(self) -> None:
        plant = maple(self.at, entry("diagnosis", **BEETLE))
        [hold] = glance(self.at)["holds"]
        self.assertEqual(
            (hold["cause"], hold["since"], hold["plants"]), ("asian-longhorned-beetle", "2026-10-20", [plant])
        )
        self.assertIn("authority", hold["tell"])
        self.assertEqual(self.lift(self.at.surveyor).status_code, 403)
        for change, field in (
            ({"cause": "oak-wilt"}, "cause"),
            ({"cause": "flu"}, "cause"),
            ({"on": "soon"}, "on"),
            ({"reference": ""}, "reference"),
        ):
            answer = self.lift(self.at.steward, **change)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), change)
        self.assertEqual(HoldLifted.objects.count(), 0)
        self.assertEqual(self.lift(self.at.steward).status_code, 201)
        self.assertEqual(glance(self.at)["holds"], [])
        self.assertEqual(self.lift(self.at.steward).json()["field"], "cause")  # none stands
        self.assertEqual(AuditEvent.objects.filter(act="hold_lifted").count(), 1)

    def test_a_later_suspicion_holds_the_block_again(self) -> None:
        maple(self.at, entry("diagnosis", **BEETLE))
        self.lift(self.at.steward)
        again = maple(self.at, entry("diagnosis", **BEETLE), on="2026-11-10", lat=40.5002)
        [hold] = glance(self.at)["holds"]
        self.assertEqual((hold["since"], hold["plants"]), ("2026-11-10", [again]))

    def test_what_is_at_home_here_holds_nothing_and_where_it_is_new_it_does(self) -> None:
        a_plant(self.at, ash(), entry("diagnosis", **BORER))
        self.assertEqual(glance(self.at)["holds"], [])
        self.at.site.areas, self.at.site.lat, self.at.site.lon = ["GRB"], 52.0, -1.0
        self.at.site.save()
        self.assertEqual([h["cause"] for h in glance(self.at)["holds"]], ["emerald-ash-borer"])

    def test_files_for_the_public_hold_back_place_and_find(self) -> None:
        maple(
            self.at,
            entry("diagnosis", **BEETLE),
            entry("sign", sign="exit_hole_round"),
            entry("note", text="by the gate"),
        )
        maple(self.at, entry("sign", sign="honeydew"), lat=40.5003)
        client = signed_in(self.at.viewer)

        def rows(ending: str, **query: str) -> str:
            answer = client.get(f"/api/blocks/{self.at.block.id}/export.{ending}", query)
            self.assertEqual(answer.status_code, 200)
            return b"".join(answer.streaming_content).decode()

        self.assertIn("asian-longhorned-beetle", rows("geojson"))
        for ending in ("csv", "geojson"):
            public = rows(ending, audience="public")
            for secret in ("asian-longhorned", "exit_hole_round", "by the gate", "40.5,"):
                self.assertNotIn(secret, public, ending)
            self.assertIn("40.5003", public)
            self.assertIn("Acer rubrum", public)
        self.assertEqual(
            len(list(csv.DictReader(io.StringIO(rows("csv", audience="public"))))),
            len(list(csv.DictReader(io.StringIO(rows("csv"))))) - 3,
        )
        bad = client.get(f"/api/blocks/{self.at.block.id}/export.csv", {"audience": "press"})
        self.assertEqual((bad.status_code, bad.json()["field"]), (400, "audience"))


class Biosecurity(TestCase):
    GIVEN = {
        "status": "infested",
        "cause": "beech-leaf-disease",
        "since": "2026-07-01",
        "lifted_by": "Two clean summers",
    }

    def setUp(self) -> None:
        self.at = small_site()
        self.address = f"/api/blocks/{self.at.block.id}/biosecurity/"

    def test_a_steward_sets_it_with_cause_and_what_lifts_it(self) -> None:
        self.assertEqual(signed_in(self.at.surveyor).post(self.address, self.GIVEN).status_code, 403)
        self.assertEqual(signed_in(self.at.steward).post(self.address, self.GIVEN).status_code, 201)
        self.at.block.refresh_from_db()
        self.assertEqual(self.at.block.biosecurity, "infested")
        [row] = glance(self.at)["blocks"]
        self.assertEqual(
            (row["cause"], row["since"], row["lifted_by"], row["set_by"]),
            ("beech-leaf-disease", "2026-07-01", "Two clean summers", "steward"),
        )

    def test_bad_forms_change_nothing(self) -> None:
        for change, field in (
            ({"status": "dirty"}, "status"),
            ({"cause": ""}, "cause"),
            ({"cause": "flu"}, "cause"),
            ({"since": "July"}, "since"),
            ({"colour": 1}, "colour"),
        ):
            answer = signed_in(self.at.steward).post(self.address, self.GIVEN | change)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), change)
        self.assertEqual(BiosecurityStatus.objects.count(), 0)
        self.at.block.refresh_from_db()
        self.assertEqual(self.at.block.biosecurity, "clean")


class Station(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def take(self, text: Any, by: Member | None = None, name: Any = "Roof") -> Any:
        return signed_in(by or self.at.steward).post(
            f"/api/sites/{self.at.site.id}/station/", {"name": name, "csv": text}
        )

    def test_days_are_read_from_csv_and_gaps_count_as_missing(self) -> None:
        self.assertEqual(self.take(DAYS, self.at.surveyor).status_code, 403)
        answer = self.take(DAYS).json()
        self.assertEqual(
            (answer["first_day"], answer["last_day"], answer["missing"]), ("2026-01-01", "2026-01-04", 2)
        )
        stored = StationRecord.objects.get()
        self.assertEqual((stored.min_c, stored.max_c), ([-3.5, None, None, 1.0], [4.0, None, 6.0, 9.0]))
        self.assertEqual(self.take("Date, MAX_F ,min_f\n2026-05-01,70,60\n").status_code, 201)
        newest = StationRecord.objects.order_by("-id")[0]
        self.assertEqual((newest.min_c, newest.max_c), ([15.56], [21.11]))

    def test_bad_files_name_row_and_column_and_nothing_is_stored(self) -> None:
        for text, field in (
            ("", "csv: heads"),
            ("day,low,high\n", "csv: heads"),
            ("date,min_c,max_c\n", "csv"),
            ("date,min_c,max_c\n1 May,1,2\n", "csv: row 2: date"),
            ("date,min_c,max_c\n2026-05-01,1,2\n2026-05-01,1,2\n", "csv: row 3: date"),
            ("date,min_c,max_c\n2026-05-01,9,2\n", "csv: row 2: min_c"),
            ("date,min_c,max_c\n2026-05-01,warm,2\n", "csv: row 2: min_c"),
            ("date,min_c,max_c\n2026-05-01,1,400\n", "csv: row 2: max_c"),
            ("date,min_c,max_c\n1990-05-01,1,2\n2026-05-01,1,2\n", "csv"),
            (7, "csv"),
        ):
            answer = self.take(text)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), text)
        self.assertEqual(self.take(DAYS, name=" ").json()["field"], "name")
        self.assertEqual(StationRecord.objects.count(), 0)

    def test_warmth_of_the_station_dates_what_to_look_for(self) -> None:
        a_plant(self.at, ash())
        start = datetime.date(2023, 1, 1)
        rows = ["date,min_c,max_c"]
        for i in range(366 * 3 + 120):
            day = start + datetime.timedelta(days=i)
            warm = 6 + (14 if 90 < day.timetuple().tm_yday < 280 else 0) + (i * 7 % 9) - 4
            rows.append(f"{day.isoformat()},{warm - 5},{warm + 5}")
        self.assertEqual(self.take("\n".join(rows)).status_code, 201)
        found = glance(self.at, on="2026-04-20")
        borer = [r for r in (*found["look_for"], *found["later"]) if r["agent"] == "emerald-ash-borer"]
        self.assertEqual({r["by"] for r in borer}, {"warmth"})
        self.assertGreater(found["clock"]["phenology"]["value"], found["clock"]["pests"]["value"])
        self.assertEqual(found["station"]["name"], "Roof")

    def test_another_organisation_sees_and_sets_nothing(self) -> None:
        stranger = small_site("Other").steward
        other = open_test_block(self.at.site, "Second")
        for method, address, given in (
            ("get", f"/api/sites/{self.at.site.id}/health/?on=2026-11-20", None),
            ("get", f"/api/sites/{self.at.site.id}/spread/oak-wilt/", None),
            ("post", f"/api/sites/{self.at.site.id}/station/", {"name": "x", "csv": DAYS}),
            ("post", f"/api/blocks/{other.id}/biosecurity/", Biosecurity.GIVEN),
            (
                "post",
                f"/api/blocks/{other.id}/holds/",
                {"cause": "oak-wilt", "on": "2026-11-20", "reference": "1"},
            ),
        ):
            answer = getattr(signed_in(stranger), method)(address, *([given] if given else []))
            self.assertEqual(answer.status_code, 404, address)
