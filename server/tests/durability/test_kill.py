"""kill -9 of a worker, of the database and of everything, amid a thousand acknowledged visits; and clients
that stall.
"""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import threading
import time
from collections import Counter
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import SimpleTestCase, tag

from apps.plants.tests.factories import dbh, entry, visit_item
from tests.durability.running import Device, demonstration

VISITS, AT_ONCE = 1000, 20


@tag("slow")
class KillNine(SimpleTestCase):
    def visits(self, plants: list[str]) -> list[dict[str, Any]]:
        return [
            visit_item(plants[n % len(plants)], dbh(20 + n / 100), entry("note", text=f"visit {n}"))
            for n in range(VISITS)
        ]

    def test_f10_every_acknowledged_visit_is_there_once_whatever_is_killed(self) -> None:
        with demonstration() as running:
            device = Device(running.address)
            device.sign_in()
            block = device.ask("/api/blocks/")[0]["id"]
            plants = [row["id"] for row in device.ask(f"/api/blocks/{block}/plants/")]
            batches = self.visits(plants)
            before = self.stored(device, block)
            tried_again = 0
            strokes = {
                200: lambda: os.kill(running.serving()[0], signal.SIGKILL),
                400: lambda: os.kill(running.postmaster(), signal.SIGKILL),
                600: lambda: [os.kill(pid, signal.SIGKILL) for pid in running.serving()],
                800: lambda: (running.kill_everything(), running.start()),
            }
            for n in range(0, VISITS, AT_ONCE):
                stroke = (
                    threading.Timer(0.05, strokes[n]) if n in strokes else None
                )  # while the batch is on its way
                if stroke:
                    stroke.start()
                tried_again += device.send(batches[n : n + AT_ONCE])
                if stroke:
                    stroke.join()
            self.assertGreater(tried_again, 0, "nothing was interrupted")
            running.wait_until_healthy(30)
            after = self.stored(device, block)
            self.assertEqual(len(device.acknowledged), VISITS)
            lost = [item for item in device.acknowledged if after[item] != 1]
            self.assertEqual(lost, [], "acknowledged, and not there exactly once")
            self.assertEqual(sum(after.values()) - sum(before.values()), VISITS)
            self.assertIn("the database answers again", running.words())
            self.assertIn("a process that serves ended", running.words())
            print(
                f"\n{VISITS} visits acknowledged through four kills, {tried_again} batches sent again, "
                "none lost, none doubled"
            )

    def stored(self, device: Device, block: str) -> Counter[str]:
        """How often each visit of the block is in its export."""
        collection = device.ask(f"/api/blocks/{block}/export.geojson")
        return Counter(
            visit["id"] for feature in collection["features"] for visit in feature["properties"]["visits"]
        )

    def test_a_plan_whose_worker_is_killed_is_made_by_the_next_and_the_old_one_holds_meanwhile(self) -> None:
        with demonstration() as running:
            device = Device(running.address, "steward")
            device.sign_in()
            site = next(s for s in device.ask("/api/sites/") if s["name"] == "Brindle Fold")["id"]
            path = f"/api/sites/{site}/work/plan/"
            before = device.ask(path)["plan"]
            device.ask(path, {"on": "2026-11-20"})
            self.wait_for(lambda: device.ask(path)["run"]["state"] == "running")
            [worker] = running.serving(b"procrastinate")
            os.kill(worker, signal.SIGKILL)
            told = device.ask(path)
            self.assertEqual((told["run"]["state"], told["plan"]), ("running", before))
            # a minute until it counts as dead, up to another until the clock of the next one strikes
            self.wait_for(lambda: device.ask(path)["run"]["state"] == "ready", 480)
            self.assertIn("the worker ended", running.words())

    def test_f10_two_demonstrations_share_a_database_and_f12_stalling_clients_hold_nobody_up(self) -> None:
        with demonstration() as running:
            second = subprocess.Popen(
                [str(Path(settings.ROOT) / "jubark"), "demo"],
                env={
                    **{k: v for k, v in os.environ.items() if not k.startswith(("JUBARK_", "DJANGO_"))},
                    "JUBARK_DATA": str(running.home),
                },
                stdout=running.log,
                stderr=running.log,
                start_new_session=True,
            )
            try:
                self.wait_for(lambda: running.words().count("Jubark is at") == 2)
            finally:
                second.send_signal(signal.SIGINT)
                second.wait(60)
            running.wait_until_healthy(5)  # the first one still has its database
            self.assertTrue(Path(f"/proc/{running.postmaster()}").exists())

            stalling = []
            for _ in range(200):
                connection = socket.create_connection(("127.0.0.1", running.port))
                connection.sendall(
                    b"POST /api/outbox/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5000\r\n\r\n{"
                )
                stalling.append(connection)
            running.wait_until_healthy(5)
            device = Device(running.address)
            device.sign_in()
            self.assertGreater(len(device.ask("/api/blocks/")), 0)
            for connection in stalling:
                connection.close()

            taken = subprocess.run(
                [str(Path(settings.ROOT) / "jubark"), "demo", "--port", str(running.port)],
                capture_output=True,
                text=True,
                timeout=60,
            )
            self.assertEqual(taken.returncode, 1)
            self.assertIn(f"port {running.port} is taken", taken.stderr)
            self.assertNotIn("Jubark is at", taken.stdout)

    def wait_for(self, true: Any, within_s: float = 240) -> None:
        until = time.monotonic() + within_s
        while not true():
            self.assertLess(time.monotonic(), until)
            time.sleep(0.5)
