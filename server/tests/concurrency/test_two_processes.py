"""Two web processes on one database are one application: what one takes the other shows, who is let in or
kept out by one is by the other.
"""

from __future__ import annotations

import contextlib
import os
import subprocess
import sys
import threading
import time
import urllib.request
from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.contrib.auth.models import User
from django.db import connection
from django.test import TransactionTestCase, tag

from apps.plants.models import Plant, Visit
from apps.plants.tests.factories import SmallSite, dbh, plant_item, small_site, visit_item
from tests.durability.running import Device, Refused, free_port
from tests.emptied import EmptiedAfterwards

PASSWORD = "a-long-password"
START_S = 120


class TwoProcesses(EmptiedAfterwards, TransactionTestCase):
    def setUp(self) -> None:
        self.at: SmallSite = small_site()
        hasher = Argon2PasswordHasher()  # the tests' quick one is not known to a serving process
        User.objects.update(password=hasher.encode(PASSWORD, hasher.salt()))
        self.addresses = [self.serve(free_port()) for _ in range(2)]
        for address in self.addresses:
            self.wait(address)

    def serve(self, port: int) -> str:
        database = connection.settings_dict
        env = os.environ | {
            "DJANGO_SETTINGS_MODULE": "config.settings.local",
            "JUBARK_SECRET_KEY": "tests only",
            "JUBARK_DB_NAME": str(database["NAME"]),
            "JUBARK_MEDIA": str(settings.MEDIA_ROOT),
            "JUBARK_LISTEN": f"127.0.0.1:{port}",
        }
        process = subprocess.Popen(
            [sys.executable, "-m", "config.serve"],
            env=env,
            cwd=settings.SERVER,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )

        def end() -> None:
            process.terminate()
            process.wait(30)

        self.addCleanup(end)
        return f"http://127.0.0.1:{port}"

    def wait(self, address: str) -> None:
        until = time.monotonic() + START_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError), urllib.request.urlopen(f"{address}/api/ready/", timeout=5):
                return
            time.sleep(0.2)
        raise AssertionError(f"{address} was not ready within {START_S} s")

    def device(self) -> list[Device]:
        """One person's device as each process sees it: the same cookies."""
        name = self.at.surveyor.user.username
        first, second = (Device(address, name) for address in self.addresses)
        second.cookies, second.opener = first.cookies, first.opener
        first.sign_in(PASSWORD)
        return [first, second]

    def status(self, device: Device, path: str, body: Any = None) -> int:
        try:
            device.ask(path, body)
        except Refused as error:
            return int(error.args[0])
        return 200

    @tag("slow")
    def test_they_are_one(self) -> None:
        one, two = self.device()
        # a session opened at one is known at the other, and what one takes is shown by the other at once
        plant = plant_item(self.at.block)
        for i, (takes, shows) in enumerate([(one, two), (two, one)] * 3):
            visit = visit_item(plant["id"], dbh(30 + i))
            takes.send([plant, visit] if i == 0 else [visit])
            told = shows.ask(f"/api/plants/{plant['id']}/")
            self.assertEqual(len(told["visits"]), i + 1)
            [row] = shows.ask("/api/inventory/")["rows"]
            self.assertEqual((row["visits"], row["dbh_cm"]), (i + 1, 30 + i))
        # the same batch at both at once is taken once
        batch = [plant_item(self.at.block) for _ in range(20)]
        threads = [threading.Thread(target=device.send, args=(batch,)) for device in (one, two)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(60)
        self.assertEqual((Plant.objects.count(), Visit.objects.count()), (21, 6))
        # wrong passwords are counted together, and lock the name at both
        guess = {"username": self.at.viewer.user.username, "password": "wrong"}
        strangers = [Device(address) for address in self.addresses]
        for stranger in strangers:
            stranger.opener.open(stranger.address + "/", timeout=20).read()
        for i in range(8):
            self.status(strangers[i % 2], "/api/session/", guess)
        right = guess | {"password": PASSWORD}
        self.assertEqual([self.status(s, "/api/session/", right) for s in strangers], [429, 429])
        # signed out at one is signed out at the other
        self.assertEqual(self.status(two, "/api/session/"), 200)
        [here] = [s["id"] for s in two.ask("/api/account/sign-ins/") if s["this_one"]]
        one.delete(f"/api/account/sign-ins/{here}/")
        self.assertEqual(self.status(two, "/api/session/"), 401)
