"""The demonstration as `./jubark demo` starts it, and a device that sends until it has been told that all is
there.
"""

from __future__ import annotations

import contextlib
import http.cookiejar
import json
import os
import signal
import socket
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from django.conf import settings

from apps.demo.make import PASSWORD

LONGEST_START_S = 300


def free_port() -> int:
    """A port nobody listens on just now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Demonstration:
    """A demonstration in a folder of its own."""

    def __init__(self, home: Path) -> None:
        self.home = home
        self.port = free_port()
        self.log = (home / "launcher.log").open("ab")
        self.launcher: subprocess.Popen[bytes] | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        """Start it and wait until it answers; its own words are the reason when it does not."""
        env = {k: v for k, v in os.environ.items() if not k.startswith(("JUBARK_", "DJANGO_"))}
        env |= {"JUBARK_DATA": str(self.home), "JUBARK_TODAY": "2026-11-20"}
        command = [str(Path(settings.ROOT) / "jubark"), "demo", "--port", str(self.port)]
        self.launcher = subprocess.Popen(
            command, env=env, stdout=self.log, stderr=self.log, start_new_session=True
        )
        self.wait_until_healthy(LONGEST_START_S)

    def wait_until_healthy(self, within_s: float) -> None:
        until = time.monotonic() + within_s
        while time.monotonic() < until:
            with (
                contextlib.suppress(OSError),
                urllib.request.urlopen(f"{self.address}/api/health/", timeout=5),
            ):
                return
            if self.launcher is not None and self.launcher.poll() is not None:
                break
            time.sleep(0.3)
        raise AssertionError(f"not healthy within {within_s} s:\n{self.words()[-3000:]}")

    def words(self) -> str:
        """What the launcher has said so far."""
        return (self.home / "launcher.log").read_text(errors="replace")

    def serving(self, what: bytes = b"config.serve") -> list[int]:
        """Process ids of the processes that serve; of others of it, by a word of their command."""
        found = []
        for entry in Path("/proc").iterdir():
            with contextlib.suppress(OSError):
                serves = entry.name.isdigit() and what in (entry / "cmdline").read_bytes()
                if serves and f"JUBARK_DATA={self.home}".encode() in (entry / "environ").read_bytes().split(
                    b"\0"
                ):
                    found.append(int(entry.name))
        return sorted(found)

    def postmaster(self) -> int:
        return int((self.home / "demo" / "data" / "postmaster.pid").read_text().split()[0])

    def kill_everything(self) -> None:
        """kill -9 of launcher, servers and database at once, as when the power goes."""
        assert self.launcher is not None
        workers = self.serving(b"procrastinate")
        for pid in (self.launcher.pid, *self.serving(), *workers, self.postmaster()):
            os.kill(pid, signal.SIGKILL)
        self.launcher.wait()

    def stop(self) -> None:
        """Ctrl-C."""
        if self.launcher is not None and self.launcher.poll() is None:
            self.launcher.send_signal(signal.SIGINT)
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.launcher.wait(60)
        self.log.close()


@contextlib.contextmanager
def demonstration() -> Iterator[Demonstration]:
    """One, started; stopped and removed at the end."""
    with tempfile.TemporaryDirectory(prefix="jubark-durability-") as folder:
        running = Demonstration(Path(folder))
        try:
            running.start()
            yield running
        finally:
            running.stop()


class Refused(OSError):
    """An answer that is no success: (status, where and what it says). Travels between test processes."""


class Device:
    """Signs in, and sends items until each has been acknowledged: what the app's sender does."""

    def __init__(self, address: str, username: str = "surveyor") -> None:
        self.address, self.username = address, username
        self.cookies = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))
        self.acknowledged: list[str] = []

    def ask(self, path: str, body: Any = None) -> Any:
        """The JSON behind an address; with a body it is sent. Raises OSError for whatever is in between."""
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token or "", "Referer": self.address}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.address + path, data, headers)
        try:
            with self.opener.open(request, timeout=20) as answer:
                return json.loads(answer.read())
        except urllib.error.HTTPError as error:
            with error:
                raise Refused(error.code, f"{path}: {error.read()[:300]!r}") from None

    def delete(self, path: str) -> None:
        """DELETE an address."""
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "")
        headers = {"X-CSRFToken": token or "", "Referer": self.address}
        request = urllib.request.Request(self.address + path, headers=headers, method="DELETE")
        with self.opener.open(request, timeout=20):
            pass

    def sign_in(self, password: str = PASSWORD) -> None:
        with contextlib.suppress(urllib.error.HTTPError):
            self.opener.open(self.address + "/", timeout=20).read()  # sets the token
        self.ask("/api/session/", {"username": self.username, "password": password})

    def send(self, items: list[dict[str, Any]], within_s: float = 180) -> int:
        """Send until all are acknowledged; returns how often it had to be tried again."""
        tries, until = 0, time.monotonic() + within_s
        while time.monotonic() < until:
            try:
                answers = self.ask("/api/outbox/", {"items": items})["answers"]
            except (OSError, ValueError, http.client.HTTPException):
                tries += 1
                time.sleep(0.3)
                continue
            said = {a["answer"] for a in answers}
            if not said <= {"accepted", "already"}:
                raise AssertionError(answers)
            self.acknowledged += [a["id"] for a in answers]
            return tries
        raise AssertionError(f"not acknowledged within {within_s} s")
