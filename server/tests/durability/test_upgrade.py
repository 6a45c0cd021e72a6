"""From the first release to this one: its database is backed up, restored elsewhere, and started by this
version, with the migrations in between; then the same for an installation of this version.
"""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import tempfile
import threading
import time
import unittest
import urllib.request
import uuid
from pathlib import Path
from typing import Any
from unittest import mock

from django.conf import settings
from django.test import tag

from jubark_core.records.upgrade import VERSION
from jubark_core.tests import samples
from launcher import cluster
from launcher.backup import checked, read_backup, write_backup
from launcher.place import Place
from launcher.serving import MANAGE
from launcher.steps import StepFailed
from tests.durability.running import LONGEST_START_S, Device, free_port

ROOT = Path(settings.ROOT)
PASSWORD = "brindle-fold-demo"  # what a Device signs in with
# The last migration of each app in the first release, and rows as it wrote them.
FIRST_RELEASE = (("organisations", "0001"), ("sites", "0001"), ("plants", "0001"), ("exchange", "0001"))
HASH = f"from django.contrib.auth.hashers import make_password; print(make_password({PASSWORD!r}))"
EXECUTE = "import sys; from django.db import connection; connection.cursor().execute(sys.stdin.read())"
OTHERS = ("contenttypes", "auth", "sessions", "axes")
ROWS = (Path(__file__).parent / "first_release.sql").read_text(encoding="utf-8")


A_UUID = re.compile("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")


class Killed(BaseException):
    """The process is gone."""


def own(home: Path) -> Place:
    """The place `./jubark start` uses with this folder as $JUBARK_DATA."""
    return Place(home / "own", cluster.cluster_in(home / "own" / "database"))


class Installation:
    """`./jubark start` in a folder."""

    def __init__(self, home: Path) -> None:
        self.home, self.port = home, free_port()
        self.log = home / "launcher.log"
        env = {k: v for k, v in os.environ.items() if not k.startswith(("JUBARK_", "DJANGO_"))}
        with self.log.open("ab") as log:
            self.launcher = subprocess.Popen(
                [str(ROOT / "jubark"), "start", "--port", str(self.port)],
                env=env | {"JUBARK_DATA": str(home)},
                stdout=log,
                stderr=log,
                start_new_session=True,
            )
        self.wait()

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def wait(self) -> None:
        until = time.monotonic() + LONGEST_START_S
        while time.monotonic() < until and self.launcher.poll() is None:
            try:
                with urllib.request.urlopen(f"{self.address}/api/ready/", timeout=5):
                    if "Ctrl-C" in self.words():
                        return
            except OSError:
                pass
            time.sleep(0.3)
        raise AssertionError(self.words()[-3000:])

    def words(self) -> str:
        return self.log.read_text(errors="replace")

    def stop(self) -> None:
        self.launcher.send_signal(signal.SIGINT)
        self.launcher.wait(60)


class WithTheFirstRelease(unittest.TestCase):
    """An installation as the first release left it, and what is done with its backup."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(prefix="jubark-upgrade-")
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.folder.chmod(0o755)
        self.ids = {
            name: str(uuid.uuid5(uuid.NAMESPACE_OID, name))
            for name in ("org", "member", "site", "block", "plant", "visit", "entry")
        }

    def home(self, name: str) -> Path:
        made = self.folder / name
        made.mkdir()
        return made

    def started(self, home: Path) -> Installation:
        installation = Installation(home)
        self.addCleanup(lambda: installation.launcher.poll() is None and installation.stop())
        return installation

    def manage(self, env: dict[str, str], *arguments: str, text: str | None = None) -> str:
        done = subprocess.run(
            [*MANAGE, *arguments], env={**os.environ, **env}, input=text, capture_output=True, text=True
        )
        self.assertEqual(done.returncode, 0, done.stderr[-3000:])
        return done.stdout.strip()

    def first_release(self, home: Path, backup: Path, make: bool = True) -> None:
        """An installation as the first release left it, with one tree and a photograph, backed up."""
        place = own(home)
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            cluster.ensure_database(place.cluster)
            env = place.environment()
            for app in OTHERS:
                self.manage(env, "migrate", app)
            for app, number in FIRST_RELEASE:
                self.manage(env, "migrate", app, number)
            password = self.manage(env, "shell", "-v", "0", "-c", HASH)
            rows = ROWS.format(**self.ids, password=password)
            self.manage(env, "shell", "-v", "0", "-c", EXECUTE, text=rows)
            (place.photographs / "ab").mkdir(mode=0o700)
            (place.photographs / "ab" / "picture").write_bytes(b"a picture")
            place.flora.mkdir(mode=0o700)
            (place.flora / "notes.md").write_text("no taxon, a note beside them")
            if make:
                write_backup(place, backup)

    def restored(self, backup: Path, home: Path) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [str(ROOT / "jubark"), "restore", str(backup)],
            env=self.bare_environment() | {"JUBARK_DATA": str(home)},
            capture_output=True,
            text=True,
        )

    def bare_environment(self) -> dict[str, str]:
        return {k: v for k, v in os.environ.items() if not k.startswith(("JUBARK_", "DJANGO_"))}

    def signed_in(self, installation: Installation) -> Device:
        device = Device(installation.address, "ada")
        device.sign_in()
        return device

    def written_to_during_a_backup(self, device: Device, place: Place, folder: Path) -> None:
        """A backup while somebody goes on sending trees: it holds what was there when it began."""
        done = threading.Event()

        def go_on() -> None:
            while not done.is_set():
                device.send([self.new_tree()])

        sending = threading.Thread(target=go_on)
        sending.start()
        try:
            write_backup(place, folder)
        finally:
            done.set()
            sending.join(60)
        self.assertGreater(len(device.acknowledged), 1)

    def assert_the_tree_is_there(self, device: Device) -> None:
        plant: dict[str, Any] = device.ask(f"/api/plants/{self.ids['plant']}/")
        [visit] = plant["visits"]
        [entry] = visit["entries"]
        self.assertEqual((visit["observer"], visit["entered_by"]), ("Clara Outside", "Ada"))
        self.assertEqual((entry["observer"], entry["body"]), ("Ada", {"number": "0042"}))
        [contact] = device.ask("/api/contacts/")
        self.assertEqual(contact["name"], "Clara Outside")

    def new_tree(self) -> dict[str, Any]:
        own_id = str(uuid.uuid4())
        body = {
            "id": own_id,
            "block": self.ids["block"],
            "lon": -2.4,
            "lat": 51.3996,
            "how_taken": "tapped",
            "recorded_at": "2026-06-02T12:00:00+00:00",
        }
        return {"id": own_id, "kind": "plant", "schema": 2, "body": body}

    def tables(self, place: Place) -> str:
        return self.asked(place, "SELECT coalesce(to_regclass('plants_plant')::text, '')")

    def asked(self, place: Place, *statements: str) -> str:
        """What the owner of the cluster is told."""
        assert place.cluster is not None
        command, env = cluster.psql(place.cluster)
        done = subprocess.run(
            [*command, "-f", "-"],
            input=";".join(statements) + ";",
            env={**os.environ, **env},
            capture_output=True,
            text=True,
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        return done.stdout.strip()

    def three_roles(self, installation: Installation) -> None:
        """F35: who serves is the application, whose tables are the migrator's, in a cluster that knew one
        role.
        """
        place = own(installation.home)
        assert place.cluster is not None
        self.assertTrue(place.cluster.has_roles)
        told = self.asked(
            place,
            "SELECT DISTINCT usename FROM pg_stat_activity WHERE datname = 'jubark'"
            " AND pid <> pg_backend_pid()",
            "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public'"
            " AND tablename <> 'spatial_ref_sys'",
            "SELECT DISTINCT rolsuper FROM pg_roles WHERE rolname IN ('jubark_app', 'jubark_migrator')",
        )
        self.assertEqual(told.split(), ["jubark_app", "jubark_migrator", "f"])


@tag("slow")
class FromTheFirstRelease(WithTheFirstRelease):
    def test_backed_up_restored_elsewhere_and_started_by_this_version(self) -> None:
        backup = self.folder / "backup"
        self.first_release(self.home("first"), backup)
        self.assertEqual(backup.stat().st_mode & 0o777, 0o700)
        self.assertEqual({p.stat().st_mode & 0o777 for p in backup.iterdir()}, {0o600})
        # a backup that is not whole is refused before anything is touched
        broken = self.folder / "broken"
        subprocess.run(["cp", "-a", str(backup), str(broken)], check=True)
        with (broken / "photographs.tar").open("ab") as file:
            file.write(b"x")
        done = self.restored(broken, self.home("untouched"))
        self.assertEqual(done.returncode, 1)
        self.assertIn("photographs.tar is not as it was written", done.stderr)
        self.assertFalse((self.folder / "untouched" / "own").exists())
        # elsewhere, and up to this version
        home = self.home("second")
        done = self.restored(backup, home)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual((own(home).photographs / "ab" / "picture").read_bytes(), b"a picture")
        again = self.restored(backup, home)
        self.assertIn("the installation is not empty", again.stderr)
        installation = self.started(home)
        self.assertIn("a backup first", installation.words())
        [kept] = (own(home).home / "backups").iterdir()
        listed = json.loads((kept / "backup.json").read_text())
        first = json.loads((backup / "backup.json").read_text())
        self.assertEqual(listed["counts"], first["counts"])
        self.assertEqual((listed["missing"], listed["damaged"]), ([], []))
        self.assertEqual((backup / "photographs.sha256").read_text().split()[1], "ab/picture")
        self.assertEqual((own(home).flora / "notes.md").read_text(), "no taxon, a note beside them")
        self.three_roles(installation)
        device = self.signed_in(installation)
        self.assert_the_tree_is_there(device)
        # and it goes on: a tree more, then a backup of this version while it runs, restored elsewhere
        device.send([self.new_tree()])
        self.written_to_during_a_backup(device, own(home), self.folder / "later")
        installation.stop()
        third = self.home("third")
        self.assertEqual(self.restored(self.folder / "later", third).returncode, 0)
        installation = self.started(third)
        self.assertNotIn("a backup first", installation.words())
        device = self.signed_in(installation)
        self.assert_the_tree_is_there(device)
        listed = json.loads((self.folder / "later" / "backup.json").read_text())
        self.assertEqual(device.ask("/api/inventory/")["count"], listed["counts"]["plants_plant"])


@tag("slow")
class FromRecordVersion5(WithTheFirstRelease):
    """The release before record version 6, with one of each: merged records, a tree on wires, old jobs."""

    def test_started_by_this_version_it_says_what_stands_and_takes_what_was_queued(self) -> None:
        home = self.home("first")
        place = own(home)
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            cluster.ensure_database(place.cluster)
            env = place.environment()
            for app in (*OTHERS, "organisations", "sites"):
                self.manage(env, "migrate", app)
            self.manage(env, "migrate", "plants", "0007")
            password = self.manage(env, "shell", "-v", "0", "-c", HASH)
            known = f"UPDATE auth_user SET password = '{password}'"
            rows = (Path(__file__).parent / "release_5.sql").read_text(encoding="utf-8")
            self.asked(place, f"SET session_replication_role = replica;{rows}", known)
        installation = self.started(home)
        self.assertIn("a backup first", installation.words())
        self.assertEqual(len(list((place.home / "backups").iterdir())), 1)
        device = self.signed_in(installation)
        inventory = device.ask("/api/inventory/")["rows"]
        by_tag = {row["tag"]: row for row in inventory}
        self.assertEqual(set(by_tag) & {"good", "bad", "wires", "ended"}, {"good", "wires", "ended"})
        good = device.ask(f"/api/plants/{by_tag['good']['id']}/")
        self.assertEqual(good["current"]["risk_reads"], "Extreme")
        self.assertEqual(good["current"]["condition_at_most"], True, "read by the rule of today")
        jobs = [e["body"]["rule"] for v in good["visits"] for e in v["entries"] if e["kind"] == "work"]
        self.assertEqual(jobs, ["R02"])
        [look] = [
            e["body"]
            for v in device.ask(f"/api/plants/{by_tag['wires']['id']}/")["visits"]
            for e in v["entries"]
            if e["kind"] == "storm"
        ]
        self.assertEqual(look, {"under_it": ["wires"]})
        answers = {}
        for tree in ("wires", "ended"):
            step = {"job": str(uuid.uuid4()), "rule": "R02", "step": "accepted"}
            answers[tree] = self.sent(device, by_tag[tree]["id"], "work", step, 6)
        self.assertEqual(answers, {"wires": "refused", "ended": "accepted"})
        # what waited on devices of every version is taken, also where a younger rule would refuse it
        for version in samples.VERSIONS[:-1]:
            items = self.anew(version, by_tag["good"]["block_id"])
            taken = device.ask("/api/outbox/", {"items": items})["answers"]
            self.assertEqual([a for a in taken if a["answer"] != "accepted"], [], version)
            draft = {"thing": "draft", "version": version, "record": samples.draft(version)}
            draft["record"].pop("version", None)
            self.assertEqual(device.ask("/api/core/upgrade/", draft)["version"], VERSION)
        blind = {"level": "basic", "base_visible": "not_visible", "crown_visible": "whole", "no_defect": True}
        tree = by_tag["good"]["id"]
        told = {v: self.sent(device, tree, "inspection", blind, v) for v in (5, 6)}
        self.assertEqual(told, {5: "accepted", 6: "refused"})

    def anew(self, version: int, block: str) -> list[dict[str, Any]]:
        """What a device of a record version sent, under ids of its own, to a block."""
        raw = json.dumps(samples.outbox_items(version, block))
        named: list[dict[str, Any]] = json.loads(
            A_UUID.sub(
                lambda m: (
                    block if m[0] == block else str(uuid.uuid5(uuid.NAMESPACE_OID, f"{version} {m[0]}"))
                ),
                raw,
            )
        )
        return named

    def sent(self, device: Device, plant: str, kind: str, body: dict[str, Any], version: int) -> str:
        """What became of a visit with one entry, made by an app of a record version."""
        visit: dict[str, Any] = {
            "id": str(uuid.uuid4()),
            "plant": plant,
            "mode": "desk",
            "local_date": "2026-10-10",
            "observed_at": "2026-10-10T12:00:00+00:00",
            "entries": [{"id": str(uuid.uuid4()), "kind": kind, "body": body}],
        }
        item = {"id": visit["id"], "kind": "visit", "schema": version, "body": visit}
        [answer] = device.ask("/api/outbox/", {"items": [item]})["answers"]
        return str(answer["answer"])


@tag("slow")
class BrokenOff(WithTheFirstRelease):
    def test_a_backup_that_cannot_be_finished_leaves_nothing_that_looks_like_one(self) -> None:
        place = own(self.home("first"))
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            cluster.ensure_database(place.cluster)
            wrong = mock.patch.object(cluster.Cluster, "password", return_value="wrong")
            with wrong, self.assertRaises(StepFailed):
                write_backup(place, self.folder / "backup")
            self.assertEqual([p.name for p in self.folder.iterdir()], ["first"])

    def test_f19_a_restore_that_is_broken_off_is_taken_up_and_counts_for_nothing_until_then(self) -> None:
        backup = self.folder / "backup"
        self.first_release(self.home("first"), backup)
        listed = checked(backup)
        # the dump breaks off: nothing of it is kept, and the same command does it once the reason is gone
        place = own(self.home("second"))
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            cluster.ensure_database(place.cluster)
            place.environment()
            wrong = {**listed, "counts": {**listed["counts"], "plants_plant": 7}}
            with self.assertRaisesRegex(StepFailed, "other counts than the backup has"):
                read_backup(place, backup, wrong)
            self.assertEqual((any(place.photographs.iterdir()), self.tables(place)), (False, ""))
            # the launcher dies once the database is in, before the photographs stand in their place
            with mock.patch("launcher.backup._into_place", side_effect=Killed), self.assertRaises(Killed):
                read_backup(place, backup, listed)
            self.assertEqual((any(place.photographs.iterdir()), self.tables(place)), (False, "plants_plant"))
            read_backup(place, backup, listed)
            self.assertEqual((place.photographs / "ab" / "picture").read_bytes(), b"a picture")
            self.assertEqual((place.flora / "notes.md").read_text(), "no taxon, a note beside them")
            with self.assertRaisesRegex(StepFailed, "not empty"):
                read_backup(place, backup, listed)
        # kill -9 in the middle, whenever that is, and once more
        third = self.home("third")
        killed = subprocess.Popen(
            [str(ROOT / "jubark"), "restore", str(backup)],
            env=self.bare_environment() | {"JUBARK_DATA": str(third)},
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        until = time.monotonic() + LONGEST_START_S
        while not (own(third).home / "restoring.json").exists() and time.monotonic() < until:
            time.sleep(0.02)
        os.killpg(killed.pid, signal.SIGKILL)
        killed.wait()
        done = self.restored(backup, third)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual((own(third).photographs / "ab" / "picture").read_bytes(), b"a picture")
        self.assertFalse((own(third).home / "restoring.json").exists())

    def test_f19_a_photograph_that_is_missing_or_not_as_stored_is_said_by_the_backup(self) -> None:
        home = self.home("first")
        self.first_release(home, self.folder / "unused", make=False)
        place = own(home)
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            command, env = cluster.psql(place.cluster)
            rows = "INSERT INTO plants_photofile "
            rows += "(organisation_id, sha256, bytes, media_type, path, received_at) "
            rows += f"SELECT '{self.ids['org']}', n, 1, 'image/jpeg', n, now() "
            rows += "FROM unnest(ARRAY['gone', 'other']) n"
            subprocess.run([*command, "-c", rows], env={**os.environ, **env}, check=True)
            (place.photographs / "other").write_bytes(b"not what was stored")
            write_backup(place, self.folder / "backup")
        listed = json.loads((self.folder / "backup" / "backup.json").read_text())
        self.assertEqual((listed["missing"], listed["damaged"]), (["gone"], ["other"]))
