"""From the first release to this one: its database is backed up, restored elsewhere, and started by this
version, with the migrations in between; then the same for an installation of this version.
"""

from __future__ import annotations

import json
import os
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

from django.conf import settings
from django.test import tag

from launcher import cluster
from launcher.backup import read_backup, write_backup
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


@tag("slow")
class FromTheFirstRelease(unittest.TestCase):
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

    def first_release(self, home: Path, backup: Path) -> None:
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
            write_backup(place, env, backup)

    def restored(self, backup: Path, home: Path) -> subprocess.CompletedProcess[str]:
        env = {k: v for k, v in os.environ.items() if not k.startswith(("JUBARK_", "DJANGO_"))}
        return subprocess.run(
            [str(ROOT / "jubark"), "restore", str(backup)],
            env=env | {"JUBARK_DATA": str(home)},
            capture_output=True,
            text=True,
        )

    def signed_in(self, installation: Installation) -> Device:
        device = Device(installation.address, "ada")
        device.sign_in()
        return device

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
        self.assertEqual(listed["counts"], json.loads((backup / "backup.json").read_text())["counts"])
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

    def written_to_during_a_backup(self, device: Device, place: Place, folder: Path) -> None:
        """A backup while somebody goes on sending trees: it holds what was there when it began."""
        done = threading.Event()

        def go_on() -> None:
            while not done.is_set():
                device.send([self.new_tree()])

        sending = threading.Thread(target=go_on)
        sending.start()
        try:
            write_backup(place, place.environment(), folder)
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

    def test_a_backup_that_cannot_be_finished_leaves_nothing_that_looks_like_one(self) -> None:
        place = own(self.home("first"))
        assert place.cluster is not None
        with cluster.in_use(place.cluster):
            cluster.ensure_database(place.cluster)
            env = place.environment() | {"JUBARK_DB_PASSWORD": "wrong"}
            with self.assertRaises(StepFailed):
                write_backup(place, env, self.folder / "backup")
            self.assertEqual([p.name for p in self.folder.iterdir()], ["first"])
            with self.assertRaises(StepFailed):
                read_backup(place, env, self.folder / "backup", {})
