"""Health, readiness, request ids, settings of production, and reads from a replica."""

from __future__ import annotations

import io
import json
import logging
import os
import stat
import subprocess
import sys
from types import SimpleNamespace
from unittest import mock

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import DatabaseError, OperationalError, connection, router
from django.test import SimpleTestCase, TestCase, override_settings
from pythonjsonlogger.json import JsonFormatter

from apps.organisations.models import AuditEvent
from apps.plants.models import Visit
from apps.plants.tests.factories import signed_in, small_site
from config import serve
from config.replica import reads_from_replica
from config.request_id import RequestIdFilter

PRODUCTION = {
    "DJANGO_SETTINGS_MODULE": "config.settings.production",
    "JUBARK_SECRET_KEY": "k" * 30 + "0123456789abcdefghijklmnopqrstuvwxyz",
    "JUBARK_HOSTS": "trees.example.org",
    "JUBARK_ORIGINS": "https://trees.example.org",
}


class Ready(TestCase):
    def test_a_sound_process_is_healthy_and_ready(self) -> None:
        self.assertEqual(self.client.get("/api/health/").json(), {"status": "ok"})
        answer = self.client.get("/api/ready/")
        self.assertEqual((answer.status_code, answer.json()), (200, {"ready": True, "missing": []}))

    def test_without_its_database_it_is_neither(self) -> None:
        with mock.patch.object(connection, "cursor", side_effect=DatabaseError("gone")):
            self.assertEqual(self.client.get("/api/health/").status_code, 503)
            answer = self.client.get("/api/ready/")
        self.assertEqual(answer.status_code, 503)
        self.assertEqual(answer.json()["missing"], ["The database does not answer."])

    def test_a_session_cookie_does_not_turn_the_answer_into_a_fault(self) -> None:
        """Whoever watches may be signed in: neither door nor log may ask the database who that is."""
        client = signed_in(small_site().owner)
        with mock.patch.object(connection, "cursor", side_effect=OperationalError("gone")):
            self.assertEqual([client.get(f"/api/{d}/").status_code for d in ("health", "ready")], [503, 503])

    def test_tables_of_another_version_or_no_folder_for_photographs_is_not_ready(self) -> None:
        with mock.patch("apps.installation.readiness._pending", return_value=2):
            told = self.client.get("/api/ready/").json()
        self.assertEqual(told["missing"], ["2 migrations are not applied; run manage.py migrate."])
        with override_settings(MEDIA_ROOT="/nonexistent"):
            answer = self.client.get("/api/ready/")
        self.assertEqual((answer.status_code, len(answer.json()["missing"])), (503, 1))


class RequestIds(TestCase):
    def test_every_answer_has_one_and_a_client_cannot_choose_it(self) -> None:
        one, two = (self.client.get("/api/health/")["X-Request-ID"] for _ in range(2))
        self.assertNotEqual(one, two)
        given = {"HTTP_X_REQUEST_ID": "chosen-by-client"}
        self.assertNotEqual(self.client.get("/api/health/", **given)["X-Request-ID"], "chosen-by-client")
        with override_settings(TRUSTED_PROXIES=1):
            self.assertEqual(self.client.get("/api/health/", **given)["X-Request-ID"], "chosen-by-client")
            bad = self.client.get("/api/health/", HTTP_X_REQUEST_ID="a\nforged line")["X-Request-ID"]
        self.assertNotIn("forged", bad)

    def test_it_leads_from_the_audit_to_the_log(self) -> None:
        at = small_site()
        out = io.StringIO()
        handler = logging.StreamHandler(out)
        handler.addFilter(RequestIdFilter())
        handler.setFormatter(JsonFormatter("%(levelname)s %(message)s %(request_id)s"))
        requests = logging.getLogger("jubark.requests")
        requests.addHandler(handler)
        self.addCleanup(requests.removeHandler, handler)
        with self.assertLogs(requests, "INFO"):  # it lets lines through; the handler above writes them
            requests.addHandler(handler)
            address = f"/api/blocks/{at.block.id}/export.csv?words=private"
            answer = signed_in(at.viewer).get(address)
        told = json.loads(out.getvalue().splitlines()[-1])
        self.assertEqual(told["request_id"], answer["X-Request-ID"])
        self.assertEqual(AuditEvent.objects.get(act="export_read").request_id, answer["X-Request-ID"])
        self.assertEqual((told["status"], told["member"], told["method"]), (200, str(at.viewer.id), "GET"))
        self.assertNotIn("private", out.getvalue())
        self.assertNotIn(str(at.block.id), told["route"])


class Production(SimpleTestCase):
    def run_manage(self, *arguments: str, **more: str) -> subprocess.CompletedProcess[str]:
        env = {k: v for k, v in os.environ.items() if not k.startswith("DJANGO_ALLOW")} | PRODUCTION | more
        command = [sys.executable, str(settings.SERVER / "manage.py"), *arguments]
        return subprocess.run(command, env=env, capture_output=True, text=True, cwd=settings.SERVER)

    def test_the_checks_of_a_deployment_find_nothing(self) -> None:
        done = self.run_manage("check", "--deploy", "--fail-level", "WARNING")
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("no issues", done.stdout)

    def test_the_checks_would_find_a_short_key(self) -> None:
        done = self.run_manage("check", "--deploy", "--fail-level", "WARNING", JUBARK_SECRET_KEY="short")
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("security.W009", done.stderr)

    def test_database_and_replica_come_from_the_environment(self) -> None:
        asked = (
            "from django.conf import settings; "
            "print({k: (v['HOST'], v['PORT']) for k, v in settings.DATABASES.items()})"
        )
        done = self.run_manage(
            "shell", "-v", "0", "-c", asked, JUBARK_DB_HOST="db.example.org", JUBARK_DB_PORT="5433"
        )
        self.assertIn("{'default': ('db.example.org', '5433')}", done.stdout, done.stderr)
        more = {"JUBARK_DB_HOST": "one", "JUBARK_DB_PORT": "5433", "JUBARK_DB_REPLICA_HOST": "two"}
        done = self.run_manage("shell", "-v", "0", "-c", asked, **more)
        self.assertIn("{'default': ('one', '5433'), 'replica': ('two', '5433')}", done.stdout, done.stderr)


class Replica(SimpleTestCase):
    def test_only_marked_views_read_there_and_nothing_writes_there(self) -> None:
        reads = reads_from_replica(lambda: router.db_for_read(Visit))
        fails = reads_from_replica(lambda: int("no number"))
        self.assertEqual(reads(), "default", "without a replica")
        with mock.patch("config.replica.settings", SimpleNamespace(DATABASES={"default": {}, "replica": {}})):
            self.assertEqual(reads(), "replica")
            self.assertEqual(reads_from_replica(lambda: router.db_for_write(Visit))(), "default")
            self.assertEqual(router.db_for_read(Visit), "default")
            with self.assertRaises(ValueError):
                fails()
            self.assertEqual(router.db_for_read(Visit), "default", "an error leaves no mark")


class TightFiles(SimpleTestCase):
    def test_an_upload_too_large_for_memory_is_for_the_applications_account_alone(self) -> None:
        with TemporaryUploadedFile("x.csv", "text/csv", 10, None) as upload:
            self.assertEqual(stat.S_IMODE(os.stat(upload.temporary_file_path()).st_mode), 0o600)

    def test_so_is_whatever_a_serving_process_writes(self) -> None:
        before = os.umask(0o022)
        self.addCleanup(os.umask, before)
        while_serving: list[int] = []
        stand_in = mock.Mock(side_effect=lambda *_, **__: while_serving.append(os.umask(0o022)))
        with mock.patch.object(serve.waitress, "serve", stand_in), mock.patch.object(serve.signal, "signal"):
            serve.main(["127.0.0.1:1"])
        self.assertEqual(while_serving, [0o077])
