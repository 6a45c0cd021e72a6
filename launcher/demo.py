"""The demonstration: everything set up, served on one loopback address, stopped cleanly."""

from __future__ import annotations

import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

from launcher import ROOT, cluster
from launcher.packages import DEMO, ensure_packages
from launcher.python_env import PYTHON, ensure_python
from launcher.steps import StepFailed, run, say
from launcher.web_build import ensure_build

HELP = """usage: ./jubark demo [--port N]
  Sets up what is missing, makes the invented site Brindle Fold, and serves it on 127.0.0.1 until Ctrl-C.
  --port N   1024 to 65535; without it the first free port from 8417 on
  $JUBARK_DATA names the folder for database and photographs,
  $JUBARK_TODAY (YYYY-MM-DD) fixes the demonstration's date."""
FIRST_PORT = 8417
PROCESSES = 2
MOST_RESTARTS = 8  # within a minute
WATCH_EVERY_S, SILENT_TOO_OFTEN = 1.0, 3
SERVER = ROOT / "server"


def environment(running: cluster.Cluster) -> dict[str, str]:
    """Settings of the demonstration; the secret key is made once and kept outside the checkout."""
    home = cluster.data_home()
    media, key, flora = (
        home / "photographs",
        home / "secret-key",
        home / "flora",
    )  # taxa and notes of this installation's own
    media.mkdir(parents=True, exist_ok=True)
    media.chmod(0o700)
    if not key.exists():
        key.touch(mode=0o600)
        key.write_text(secrets.token_urlsafe(48))
    return {
        **running.environment(),
        "DJANGO_SETTINGS_MODULE": "config.settings.demo",
        "PYTHONPATH": f"{ROOT}{os.pathsep}{SERVER}",
        "JUBARK_SECRET_KEY": key.read_text().strip(),
        "JUBARK_MEDIA": str(media),
        "JUBARK_FLORA": str(flora),
    }


def demo(arguments: list[str]) -> int:
    """./jubark demo [--port N]: serves until Ctrl-C."""
    if set(arguments) & {"-h", "--help"}:
        print(HELP)
        return 0
    with listen(
        wanted_port(arguments)
    ) as listening:  # first of all: a port that is taken is said before anything is set up
        ensure_packages(DEMO)
        ensure_python("app")
        ensure_build()
        running = cluster.demo_cluster()
        with cluster.in_use(running):
            cluster.ensure_database(running)
            env = environment(running)
            manage = [str(PYTHON), str(SERVER / "manage.py")]
            if Path(env["JUBARK_FLORA"]).exists():
                check = [str(PYTHON), "-m", "jubark_core", "flora", "check"]
                run("taxa and notes of your own", check, "mend the file named", env=env, cwd=ROOT)
            run("migrations", [*manage, "migrate", "--no-input"], "./jubark reset, then try again", env=env)
            told = run(
                "demonstration site", [*manage, "demo_site"], "./jubark reset, then try again", env=env
            )
            return serve(listening, running, env, told.strip().splitlines()[-1])


def wanted_port(arguments: list[str]) -> int | None:
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
    remedy = "./jubark demo, or ./jubark demo --port N with N from 1024 to 65535"
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


def serve(listening: socket.socket, running: cluster.Cluster, env: dict[str, str], sign_in: str) -> int:
    """Serve until Ctrl-C. Processes that die are started again, and so is the database; what cannot be mended
    is said.
    """
    watched = Watched(listening, env)
    try:
        watched.keep_up()
        port = listening.getsockname()[1]
        _wait_until_up(port, watched)
        print(f"\n  Jubark is at  http://127.0.0.1:{port}/\n  {sign_in}\n  Ctrl-C stops it.\n", flush=True)
        silent = 0
        while True:
            time.sleep(WATCH_EVERY_S)
            watched.keep_up()
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
    """The processes that serve, all on one listening socket."""

    def __init__(self, listening: socket.socket, env: dict[str, str]) -> None:
        self.descriptor = listening.fileno()
        self.env = {**os.environ, **env}
        self.processes: list[subprocess.Popen[bytes]] = []
        self.restarts: list[float] = []

    def keep_up(self) -> None:
        """Start what is missing. Raises StepFailed when they die faster than it is worth starting them."""
        gone = [p for p in self.processes if p.poll() is not None]
        self.processes = [p for p in self.processes if p.poll() is None]
        for process in gone:
            say(f"a process that serves ended (exit {process.returncode}); starting another")
        now = time.monotonic()
        self.restarts = [t for t in self.restarts if now - t < 60] + [now] * len(gone)
        if len(self.restarts) > MOST_RESTARTS:
            raise StepFailed(
                "server",
                f"{len(self.restarts)} of its processes ended within a minute",
                "read the lines above",
            )
        while len(self.processes) < PROCESSES:
            command = [str(PYTHON), "-m", "config.serve", str(self.descriptor)]
            self.processes.append(
                subprocess.Popen(
                    command, env=self.env, cwd=SERVER, pass_fds=[self.descriptor], start_new_session=True
                )
            )

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


def reset(arguments: list[str]) -> int:
    """./jubark reset [--yes]: throw the demonstration's database and photographs away."""
    if set(arguments) - {"--yes"}:
        raise StepFailed(
            "options",
            f"{' '.join(arguments)} is not understood",
            "./jubark reset, or ./jubark reset --yes to be asked nothing",
        )
    running = cluster.demo_cluster()
    gone = [running.home, cluster.data_home() / "photographs"]
    if cluster.used(running):
        raise StepFailed("reset", "a demonstration runs on this database", "stop it with Ctrl-C first")
    if "--yes" not in arguments and not _agreed("This throws away " + " and ".join(map(str, gone))):
        raise StepFailed(
            "reset", "nobody agreed; nothing was thrown away", "answer yes, or ./jubark reset --yes"
        )
    cluster.stop(running, "immediate")
    for path in gone:
        shutil.rmtree(path, ignore_errors=True)
    say(f"gone: {running.home}")
    return 0


def _agreed(what: str) -> bool:
    if not sys.stdin.isatty():
        return False
    return input(f"{what}. Type yes to go on: ").strip().lower() == "yes"
