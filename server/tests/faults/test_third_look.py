"""F23 to F38: what was found by attack on the server's own ground, each by what happened before."""

from __future__ import annotations

import io
import json
import logging
import uuid
from typing import Any
from unittest.mock import patch

import psycopg
from axes.models import AccessAttempt
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from django.test import Client, SimpleTestCase, TestCase, TransactionTestCase, override_settings
from icalendar import Calendar
from pythonjsonlogger.json import JsonFormatter
from waitress.utilities import BadRequest, RequestEntityTooLarge

from apps.exchange import csv_format
from apps.exchange.csv_format import write_csv
from apps.exchange.models import ImportBatch
from apps.health.station_csv import read_station
from apps.inspections.models import Target
from apps.installation.services.first_run import first_run_token
from apps.organisations.models import Competence, Organisation
from apps.organisations.services.competences import add_competence
from apps.plants.api import views as plant_views
from apps.plants.models import Entry, Merge, PhotoFile, Plant
from apps.plants.tests.factories import a_plant, entry, new_id, send, signed_in, small_site, visit_item
from apps.sites.models import Block, Site
from apps.work.models import PlanRun
from apps.work.tasks import end_lost_runs
from apps.work.tests.test_work import named
from apps.work.tests.test_year import CREW, DEAD_LIMB
from apps.work.year_plan import run as planner
from config import serve
from config.errors import BadInput
from config.request_id import RequestIdFilter
from launcher.cluster import APPLICATION
from tests.emptied import EmptiedAfterwards
from tests.job_queue import work_off_queue

ON = "2026-11-10"
TARGET = {"kind": "building", "occupancy": "rare"}
POINT = {"type": "Point", "coordinates": [-79.3, 40.5]}


class YearPlans(EmptiedAfterwards, TransactionTestCase):
    """F23: a year plan whose connection drops blocked its site for ever."""

    def setUp(self) -> None:
        self.at = small_site()
        self.steward = signed_in(self.at.steward)
        self.path = f"/api/sites/{self.at.site.id}/work/"
        self.steward.put(self.path + "settings/", {"crews": [CREW]}, format="json")
        oak = a_plant(self.at, named("quercus-alba"), entry("defect", **DEAD_LIMB))
        step = entry("work", job=new_id(), rule="R06", step="accepted")
        send(self.steward, visit_item(oak, step, on=ON, mode="desk"))

    def ask(self) -> str:
        answer = self.steward.post(self.path + "plan/", {"on": ON}, format="json")
        self.assertEqual(answer.status_code, 202, answer.content)
        return str(answer.json()["id"])

    def state(self, run: str) -> str:
        return str(PlanRun.objects.get(pk=run).state)

    def cut_off(self, real: Any) -> Any:
        def solve(*given: Any) -> Any:
            found = real(*given)
            end_own_connection()
            return found

        return solve

    def test_f23_a_connection_that_drops_while_it_searches_costs_nothing(self) -> None:
        run = self.ask()
        with patch.object(planner, "solve", self.cut_off(planner.solve)):
            work_off_queue()
        self.assertEqual(self.state(run), "ready")

    def test_f23_a_run_nobody_will_take_up_is_ended_and_the_site_is_free(self) -> None:
        run = self.ask()
        self.assertEqual(end_lost_runs(timestamp=0), 0, "its job waits")
        for status in ("failed", "aborted"):
            PlanRun.objects.filter(pk=run).update(state="running")
            with connection.cursor() as cursor:
                cursor.execute("SET session_replication_role = replica")
                cursor.execute("UPDATE procrastinate_jobs SET status = %s", [status])
                cursor.execute("SET session_replication_role = DEFAULT")
            self.assertEqual(end_lost_runs(timestamp=0), 1, status)
            self.assertEqual(self.state(run), "failed")
            run = self.ask()

    def test_f23_a_running_one_is_called_off_at_once(self) -> None:
        run = self.ask()
        PlanRun.objects.filter(pk=run).update(state="running")  # its worker is dead
        self.assertEqual(self.steward.delete(self.path + "plan/").status_code, 204)
        self.assertEqual(self.state(run), "cancelled")
        self.ask()


def end_own_connection() -> None:
    """As a firewall, or a database that restarts, ends it."""
    pid = connection.connection.info.backend_pid
    told = connection.settings_dict
    where = {"host": told["HOST"], "port": told["PORT"], "user": told["USER"], "password": told["PASSWORD"]}
    with psycopg.connect(dbname="postgres", autocommit=True, **where) as other:
        other.execute("SELECT pg_terminate_backend(%s, 5000)", [pid])


class Files(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def stage(self, name: str, data: bytes) -> Any:
        given = {"block": str(self.at.block.id), "file": SimpleUploadedFile(name, data)}
        return signed_in(self.at.steward).post("/api/imports/", given, format="multipart")

    def test_f25_a_header_of_16_000_columns_is_refused_in_one_look(self) -> None:
        for header in ([f"c{i}" for i in range(16_000)], ["same"] * 16_000):
            answer = self.stage("wide.csv", ",".join(header).encode())
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, "header"))
            self.assertIn(f"at most {csv_format.MOST_COLUMNS} columns", answer.json()["message"])

    def test_f27_station_readings_whose_lines_end_by_cr(self) -> None:
        rows = ["date,min_c,max_c", "2026-01-01,-3,4", "2026-01-02,-1,5"]
        for end in ("\r", "\n", "\r\n"):
            self.assertEqual(read_station(end.join(rows)).min_c, [-3, -1])
        with self.assertRaises(BadInput):
            read_station('date,min_c,max_c\n2026-01-01,"x' + "y" * 200_000)

    def test_f31_corrections_in_a_circle_are_no_rows_that_can_be_read(self) -> None:
        ids = [str(uuid.uuid4()) for _ in range(5)]
        names = {0: 1, 1: 2, 2: 0, 3: 0}  # three in a circle, one that leads into it, one alone
        plant = {"id": new_id(), "lon": -79.3, "lat": 40.5, "how_taken": "tapped", "form": "tree"}
        plant |= {"recorded_at": "2026-10-20T14:00:00+00:00", "current": {}}
        entries = [
            {"id": own, "kind": "tag", "body": {"number": "7"}, "recorded_at": plant["recorded_at"]}
            | ({"replaces": ids[names[i]]} if i in names else {})
            for i, own in enumerate(ids)
        ]
        visit = {"id": new_id(), "local_date": ON, "observed_at": f"{ON}T12:00:00+00:00", "entries": entries}
        data = "".join(write_csv([{**plant, "visits": [visit]}])).encode()
        answer = self.stage("circle.csv", data).json()
        self.assertEqual((answer["counts"]["entries"], answer["counts"]["bad"]), (1, 4), answer["bad"])
        self.assertIn("does not, through others, name this one", answer["bad"][0]["allowed"])
        taken = signed_in(self.at.steward).post(f"/api/imports/{answer['id']}/", {"decision": "take"})
        self.assertEqual(taken.status_code, 200, taken.content)

    def test_f32_targets_in_another_reference_system_are_refused(self) -> None:
        feature = {
            "type": "Feature",
            "geometry": POINT,
            "properties": {"name": "Gate", "kind": "building", "occupancy": "rare"},
        }
        file = {"type": "FeatureCollection", "features": [feature]}
        address = f"/api/sites/{self.at.site.id}/targets.geojson"
        named = {"type": "name", "properties": {"name": "urn:ogc:def:crs:EPSG::27700"}}
        answer = signed_in(self.at.steward).post(address, file | {"crs": named})
        self.assertEqual((answer.status_code, answer.json()["field"]), (400, "crs"))
        self.assertEqual(signed_in(self.at.steward).post(address, file).status_code, 201)

    def test_f28_two_thousand_targets_cost_as_many_questions_as_two(self) -> None:
        for i in range(3):
            a_plant(self.at, entry("tag", number=str(i)))
        address = f"/api/sites/{self.at.site.id}/"
        asked = {}
        for many in (2, 2_000):
            features = [
                {
                    "type": "Feature",
                    "geometry": POINT,
                    "properties": {"name": f"{many} {i}", "kind": "building", "occupancy": "rare"},
                }
                for i in range(many)
            ]
            steward = signed_in(self.at.steward)
            with Asked() as taking:
                answer = steward.post(address + "targets.geojson", {"features": features})
            self.assertEqual(answer.status_code, 201, answer.content[:300])
            with Asked() as reading:
                for path in ("coverage/?on=2026-11-10", f"work/?block={self.at.block.id}&on={ON}"):
                    answer = steward.get(address + path)
                    self.assertEqual(answer.status_code, 200, answer.content[:300])
            asked[many] = (taking.count, reading.count)
        self.assertEqual(asked[2], asked[2_000])
        self.assertEqual(Target.objects.count(), 2_002)

    def test_f30_a_block_comes_in_pages_and_nothing_of_it_is_cut(self) -> None:
        for number in ("3", "1", "", "2", ""):
            a_plant(self.at, *([entry("tag", number=number)] if number else [entry("note", text="x")]))
        viewer, path = signed_in(self.at.viewer), f"/api/blocks/{self.at.block.id}/plants/"
        read: list[dict[str, Any]] = []
        with patch.object(plant_views, "PLANTS_A_TIME", 2):
            while page := viewer.get(path, {"after": read[-1]["id"]} if read else {}).json():
                self.assertLessEqual(len(page), 2)
                read += page
        self.assertEqual(read, viewer.get(path).json())
        self.assertEqual([row["tag"] for row in read], ["", "", "1", "2", "3"])
        for after in ("x", new_id()):
            self.assertEqual(viewer.get(path, {"after": after}).json()["field"], "after")


class Asked:
    """How many questions the database is asked."""

    def __init__(self) -> None:
        self.count = 0

    def __enter__(self) -> Asked:
        self.wrapper = connection.execute_wrapper(self.one)
        self.wrapper.__enter__()
        return self

    def __exit__(self, *told: object) -> None:
        self.wrapper.__exit__(*told)

    def one(self, execute: Any, *given: Any) -> Any:
        self.count += 1
        return execute(*given)


class Names(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_f26_control_characters_are_refused_in_names(self) -> None:
        steward, site = signed_in(self.at.steward), f"/api/sites/{self.at.site.id}/"
        for character in ("\n", "\r", "\t", "\x1b", "\x7f", "\x85", "\u2028"):
            name = f"Mill{character}Yard"
            for method, address, body in (
                ("patch", site, {"name": name}),
                (
                    "post",
                    site + "targets/",
                    {"name": name, "kind": "building", "occupancy": "rare", "shape": POINT},
                ),
                ("post", "/api/contacts/", {"name": name}),
                ("post", site + "station/", {"name": name, "csv": "date,min_c,max_c\n2026-01-01,1,5"}),
            ):
                answer = getattr(steward, method)(address, body, format="json")
                with self.subTest(address, character=hex(ord(character))):
                    self.assertEqual((answer.status_code, answer.json()["field"]), (400, "name"))
                    self.assertIn("in one line", answer.json()["allowed"])

    def test_f26_a_name_of_an_earlier_version_breaks_no_calendar(self) -> None:
        Site.objects.filter(pk=self.at.site.pk).update(name="Mill\r\nYard; end\x0b")
        Block.objects.filter(pk=self.at.block.pk).update(name="Row\rone")
        oak = a_plant(self.at, named("quercus-alba"), entry("defect", **DEAD_LIMB))
        step = entry("work", job=new_id(), rule="R06", step="accepted", on="2026-12-01")
        send(signed_in(self.at.steward), visit_item(oak, step, on=ON, mode="desk"))
        answer = signed_in(self.at.viewer).get(f"/api/sites/{self.at.site.id}/work/calendar.ics", {"on": ON})
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        calendar = Calendar.from_ical(answer.content)
        self.assertEqual(str(calendar["x-wr-calname"]).strip(), "Work: Mill Yard; end")


class Doors(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_f36_no_answer_of_the_api_is_stored_on_the_way(self) -> None:
        viewer = signed_in(self.at.viewer)
        for address, status in (
            ("/api/sites/", 200),
            ("/api/plants/x/", 404),
            (f"/api/photos/{new_id()}/", 404),
        ):
            answer = viewer.get(address)
            self.assertEqual((answer.status_code, answer["Cache-Control"]), (status, "no-store"), address)
        self.assertEqual(Client().get("/api/sites/")["Cache-Control"], "no-store")
        self.assertEqual(viewer.get("/api/core/flora/")["Cache-Control"], "private, no-cache")

    def test_f37_what_django_logs_of_a_request_has_its_id(self) -> None:
        out, requests = io.StringIO(), logging.getLogger("django.request")
        handler = logging.StreamHandler(out)
        handler.addFilter(RequestIdFilter())
        handler.setFormatter(JsonFormatter("%(message)s %(request_id)s"))
        with self.assertLogs(requests, "WARNING"):
            requests.addHandler(handler)
            self.addCleanup(requests.removeHandler, handler)
            answer = self.client.get("/api/nowhere/")
        [line] = [json.loads(text) for text in out.getvalue().splitlines()]
        self.assertEqual(line["request_id"], answer["X-Request-ID"])
        self.assertNotEqual(line["request_id"], "")

    @override_settings(AXES_ENABLED=True)
    def test_f34_a_name_that_goes_on_erring_locks_itself_and_not_the_office(self) -> None:
        def sign_in(name: str, password: str) -> int:
            given = {"username": name, "password": password}
            return int(self.client.post("/api/session/", given, content_type="application/json").status_code)

        busy = self.at.surveyor.user.username
        for _ in range(60):
            sign_in(busy, "wrong")
        self.assertGreater(sum(AccessAttempt.objects.values_list("failures_since_start", flat=True)), 40)
        self.assertEqual(sign_in(busy, "a-long-password"), 429)
        self.assertEqual(sign_in(self.at.owner.user.username, "a-long-password"), 200)

    def test_f38_who_may_have_the_description_and_who_may_begin_an_organisation(self) -> None:
        self.assertEqual(self.client.get("/api/schema/").status_code, 401)
        self.assertEqual(signed_in(self.at.viewer).get("/api/schema/").status_code, 200)
        with patch.dict("os.environ", {"JUBARK_PASSWORD": "a-long-password"}):
            with self.assertRaisesMessage(CommandError, "owner, for the first member of New trust"):
                call_command("create_organisation", "New trust", "bea", "--role", "steward")
            self.assertFalse(Organisation.objects.filter(name="New trust").exists())
            call_command("create_organisation", self.at.organisation.name, "bea", "--role", "steward")

    def test_f38_a_password_that_is_the_name_is_refused(self) -> None:
        Organisation.objects.all().only("pk")
        with patch("apps.installation.services.first_run.is_first_run", return_value=True):
            for password in ("brindle-warden", "Brindle-Warden", "brindle-warden1"):
                given = {
                    "token": first_run_token(),
                    "name": "New trust",
                    "username": "brindle-warden",
                    "shown_name": "Ada",
                    "password": password,
                }
                answer = self.client.post("/api/first-run/", given, content_type="application/json")
                self.assertEqual((answer.status_code, answer.json()["field"]), (400, "password"))
                self.assertIn("too similar", answer.json()["message"])


class BeforeTheApplication(SimpleTestCase):
    def test_f29_what_the_server_itself_refuses_is_a_refusal_too(self) -> None:
        with patch.object(serve.waitress, "serve"), patch.object(serve.signal, "signal"):
            serve.main(["127.0.0.1:1"])
        for error, status, code in (
            (RequestEntityTooLarge("exceeds max_body of 1"), "413 Request Entity Too Large", "too_large"),
            (BadRequest("no request line"), "400 Bad Request", "bad_input"),
        ):
            said, headers, body = error.to_response()
            self.assertEqual((said, dict(headers)["Content-Type"]), (status, "application/json"))
            told = json.loads(body)
            self.assertEqual((told["code"], told["field"]), (code, "request"))
            self.assertTrue(told["message"] and told["allowed"])


class Roles(TestCase):
    """F35: what the application may not do to its own records, whoever makes it try."""

    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_f35_it_can_neither_empty_nor_alter_a_table_nor_pass_over_its_triggers(self) -> None:
        told = connection.settings_dict
        as_application = {
            "host": told["HOST"],
            "port": told["PORT"],
            "dbname": told["NAME"],
            "user": APPLICATION,
            "password": "tests only",
        }
        with psycopg.connect(autocommit=True, **as_application) as own:
            self.assertEqual(own.execute("SELECT count(*) FROM plants_entry").fetchone(), (0,))
            for statement in (
                "TRUNCATE plants_entry CASCADE",
                "ALTER TABLE plants_entry DISABLE TRIGGER ALL",
                "ALTER TABLE plants_entry ADD COLUMN more text",
                "DROP TABLE plants_entry",
                "CREATE TABLE more (id int)",
                "SET session_replication_role = replica",
                "UPDATE django_migrations SET name = ''",
                "DELETE FROM spatial_ref_sys",
                "SET ROLE jubark",
                "CREATE ROLE other",
            ):
                with self.subTest(statement), self.assertRaises(psycopg.errors.InsufficientPrivilege):
                    own.execute(statement)

    def test_f35_rows_that_are_settled_stay_as_they_are(self) -> None:
        plant = a_plant(self.at, entry("tag", number="1"))
        paper = add_competence(actor=self.at.steward, member=self.at.viewer, given={"name": "Felling"})
        batch = ImportBatch.objects.create(
            organisation=self.at.organisation,
            block=self.at.block,
            author=self.at.steward,
            file_name="x",
            items={},
            bad=[],
            counts={},
            state="taken",
        )
        run = PlanRun.objects.create(
            organisation=self.at.organisation,
            site=self.at.site,
            starts=ON,
            asked_by=self.at.steward,
            state="ready",
            body={},
        )
        target = Target.objects.create(
            organisation=self.at.organisation,
            site=self.at.site,
            name="Gate",
            kind="building",
            occupancy="rare",
            shape="POINT(-79.3 40.5)",
            set_by=self.at.steward,
        )
        for rows, change in (
            (Plant.objects.filter(pk=plant), {"form": "group"}),
            (Plant.objects.filter(pk=plant), None),
            (Competence.objects.filter(pk=paper.pk), {"name": "Climbing"}),
            (Competence.objects.filter(pk=paper.pk), {"number": "7"}),
            (ImportBatch.objects.filter(pk=batch.pk), {"state": "staged"}),
            (PlanRun.objects.filter(pk=run.pk), {"body": {"other": 1}}),
            (PlanRun.objects.filter(pk=run.pk), None),
            (Target.objects.filter(pk=target.pk), {"occupancy": "constant"}),
        ):
            with (
                self.subTest(rows.model.__name__, change=change),
                self.assertRaisesMessage(Exception, "change no more than is open to it"),
                transaction.atomic(),
            ):
                rows._raw_delete("default") if change is None else rows.update(**change)
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            for model in (Plant, Merge, PhotoFile, PlanRun, Target, ImportBatch, Competence, Entry):
                with self.assertRaisesMessage(Exception, "is never emptied"), transaction.atomic():
                    cursor.execute(f"TRUNCATE {model._meta.db_table} CASCADE")
