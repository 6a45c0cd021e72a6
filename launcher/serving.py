"""Serving: one socket held by the launcher, processes that come and go behind it, a database watched."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import time
import urllib.request
from collections.abc import Callable

from launcher import ROOT, cluster
from launcher.python_env import PYTHON
from launcher.steps import StepFailed, say

SERVER = ROOT / "server"
FIRST_PORT = 8417
PROCESSES = 2
MOST_RESTARTS = 8  # within a minute
WORKER_AGAIN_S = 5.0  # between the end of a worker and the next one
WATCH_EVERY_S, SILENT_TOO_OFTEN = 1.0, 3
MANAGE = [str(PYTHON), str(SERVER / "manage.py")]
# What every place runs, containers too (Containerfile, compose.yaml; a test compares them).
MIGRATE = ["migrate", "--no-input"]
SERVE = ["-m", "config.serve"]
WORK = ["procrastinate", "worker", "--concurrency", "2", "--delete-jobs", "successful"]


def wanted_port(arguments: list[str], command: str = "demo") -> int | None:
    """The port asked for; None: the first free one. Raises StepFailed for anything else."""
    if not arguments:
        return None
    if (
        len(arguments) == 2
        and arguments[0] == "--port"
        and arguments[1].isascii()
        and arguments[1].isdigit()
        and 1024 <= int(arguments[1]) <= 65535
    ):
        return int(arguments[1])
    remedy = f"./jubark {command}, or ./jubark {command} --port N with N from 1024 to 65535"
    raise StepFailed("options", f"{' '.join(arguments)} is not understood", remedy)


def listen(wanted: int | None) -> socket.socket:
    """A socket that listens on loopback, held by the launcher as long as it runs: processes that serve come
    and go behind it.

    Raises StepFailed where the wanted port, or every port of the usual range, is taken.
    """
    for port in [wanted] if wanted else range(FIRST_PORT, FIRST_PORT + 50):
        listening = socket.socket()
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind(("127.0.0.1", port))
        except OSError as error:
            listening.close()
            why = f"port {port} is taken ({error.strerror})"
            continue
        listening.listen(128)
        return listening
    raise StepFailed(
        "port", why, "choose another with --port N, or leave --port out; `ss -ltnp` tells who holds it"
    )


def serve(
    listening: socket.socket, running: cluster.Cluster | None, env: dict[str, str], told: Callable[[str], str]
) -> int:
    """Serve until Ctrl-C. Processes that die are started again, and so is a database of Jubark's own; what
    cannot be mended is said.

    running: the cluster to watch; none where the database is elsewhere. told: what is said beside the
    address.
    """
    watched = Watched(listening, env)
    try:
        watched.keep_up()
        port = listening.getsockname()[1]
        _wait_until_up(port, watched)
        address = f"http://127.0.0.1:{port}"
        print(f"\n  Jubark is at  {address}/\n  {told(address)}\n  Ctrl-C stops it.\n", flush=True)
        silent = 0
        while True:
            time.sleep(WATCH_EVERY_S)
            watched.keep_up()
            if running is None:
                continue
            silent = 0 if cluster.answers(running) else silent + 1
            if silent >= SILENT_TOO_OFTEN:
                say(
                    "the database does not answer; starting it again. What devices have not sent stays "
                    "on them"
                )
                cluster.start_patiently(running, keep_port=True)
                say("the database answers again")
                silent = 0
    except KeyboardInterrupt:
        say("stopping")
        return 0
    finally:
        watched.stop()


class Watched:
    """The processes that serve, all on one listening socket, and the worker that makes plans beside them."""

    def __init__(self, listening: socket.socket, env: dict[str, str]) -> None:
        self.descriptor = listening.fileno()
        self.env = {**os.environ, **env}
        self.commands = [
            *[[str(PYTHON), *SERVE, str(self.descriptor)]] * PROCESSES,
            [str(PYTHON), *MANAGE[1:], *WORK],
        ]
        self.running: dict[int, subprocess.Popen[bytes]] = {}  # by the place of its command
        self.restarts: list[float] = []
        self.worker_not_before = 0.0

    @property
    def processes(self) -> list[subprocess.Popen[bytes]]:
        """Those that were started last."""
        return list(self.running.values())

    def keep_up(self) -> None:
        """Start what is missing. Raises StepFailed when they die faster than it is worth starting them."""
        now = time.monotonic()
        gone = {at: p for at, p in self.running.items() if p.poll() is not None}
        for at, process in gone.items():
            what = "the worker" if self._works(at) else "a process that serves"
            say(f"{what} ended (exit {process.returncode}); starting another")
            del self.running[at]
            if self._works(at):
                self.worker_not_before = now + WORKER_AGAIN_S
        serving = [at for at in gone if not self._works(at)]
        self.restarts = [t for t in self.restarts if now - t < 60] + [now] * len(serving)
        if len(self.restarts) > MOST_RESTARTS:
            raise StepFailed(
                "server",
                f"{len(self.restarts)} of its processes ended within a minute",
                "read the lines above",
            )
        for at, command in enumerate(self.commands):
            if at in self.running or (self._works(at) and now < self.worker_not_before):
                continue
            # a worker that outlives its launcher must not hold the port
            sockets = [] if self._works(at) else [self.descriptor]
            self.running[at] = subprocess.Popen(
                command, env=self.env, cwd=SERVER, pass_fds=sockets, start_new_session=True
            )

    def _works(self, at: int) -> bool:
        """Whether it is the worker: it ends with the database, which is no sign that serving is hopeless."""
        return self.commands[at][-len(WORK) :] == WORK

    def stop(self) -> None:
        """Ask all to end, and end those that do not."""
        for process in self.processes:
            process.send_signal(signal.SIGTERM)
        for process in self.processes:
            try:
                process.wait(10)
            except subprocess.TimeoutExpired:
                process.kill()


def _wait_until_up(port: int, watched: Watched) -> None:
    for _ in range(300):
        watched.keep_up()
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health/", timeout=5):
                return
        except OSError:
            time.sleep(0.2)
    raise StepFailed("server", "it did not answer within a minute", "read the lines above")
