"""The demonstration: everything set up, served on one loopback address, stopped cleanly."""

from __future__ import annotations

import os
import secrets
import shutil
import signal
import socket
import subprocess
import time
import urllib.request
from pathlib import Path

from launcher import ROOT, cluster
from launcher.packages import DEMO, ensure_packages
from launcher.python_env import PYTHON, ensure_python
from launcher.steps import StepFailed, run, say
from launcher.web_build import ensure_build

FIRST_PORT = 8417
SERVER = ROOT / "server"


def environment(running: cluster.Cluster) -> dict[str, str]:
    """Settings of the demonstration; the secret key is made once and kept outside the checkout."""
    home = cluster.data_home()
    media, key, flora = home / "photographs", home / "secret-key", home / "flora"  # taxa and notes of this installation's own
    media.mkdir(parents=True, exist_ok=True)
    if not key.exists():
        key.touch(mode=0o600)
        key.write_text(secrets.token_urlsafe(48))
    return {
        **running.environment(), "DJANGO_SETTINGS_MODULE": "config.settings.demo", "JUBARK_SECRET_KEY": key.read_text().strip(), "JUBARK_MEDIA": str(media),
        "JUBARK_FLORA": str(flora),
    }  # fmt: skip


def demo(arguments: list[str]) -> int:
    """./jubark demo [--port N]: serves until Ctrl-C."""
    port = _wanted_port(arguments)
    ensure_packages(DEMO)
    ensure_python("app")
    ensure_build()
    running = cluster.demo_cluster()
    started = False
    try:
        started = cluster.start(running)
        cluster.ensure_database(running)
        env = environment(running)
        manage = [str(PYTHON), str(SERVER / "manage.py")]
        if Path(env["JUBARK_FLORA"]).exists():
            run(
                "taxa and notes of your own", [str(PYTHON), "-m", "jubark_core", "flora", "check"], "mend the file named", env=env, cwd=ROOT
            )
        run("migrations", [*manage, "migrate", "--no-input"], "./jubark reset, then try again", env=env)
        told = run("demonstration ground", [*manage, "demo_ground"], "./jubark reset, then try again", env=env)
        return _serve(port, env, told.strip().splitlines()[-1])
    finally:
        if started:
            cluster.stop(running)


def _wanted_port(arguments: list[str]) -> int:
    if not arguments:
        for port in range(FIRST_PORT, FIRST_PORT + 50):
            with socket.socket() as probe:
                if probe.connect_ex(("127.0.0.1", port)) != 0:
                    return port
    if len(arguments) == 2 and arguments[0] == "--port" and arguments[1].isdigit() and 1024 <= int(arguments[1]) <= 65535:
        return int(arguments[1])
    raise StepFailed(
        "options", f"{' '.join(arguments)} is not understood", "./jubark demo, or ./jubark demo --port N with N from 1024 to 65535"
    )


def _serve(port: int, env: dict[str, str], sign_in: str) -> int:
    command = [
        str(PYTHON),
        "-m",
        "gunicorn",
        "config.wsgi",
        "--chdir",
        str(SERVER),
        "--bind",
        f"127.0.0.1:{port}",
        "--workers",
        "2",
        "--threads",
        "4",
        "--preload",
        "--log-level",
        "warning",
    ]
    server = subprocess.Popen(command, env={**os.environ, **env}, start_new_session=True)
    try:
        _wait_until_up(port, server)
        print(f"\n  Jubark is at  http://127.0.0.1:{port}/\n  {sign_in}\n  Ctrl-C stops it.\n", flush=True)
        return server.wait()
    except KeyboardInterrupt:
        say("stopping")
        return 0
    finally:
        if server.poll() is None:
            server.send_signal(signal.SIGTERM)
            try:
                server.wait(15)
            except subprocess.TimeoutExpired:
                server.kill()


def _wait_until_up(port: int, server: subprocess.Popen[bytes]) -> None:
    for _ in range(150):
        if server.poll() is not None:
            raise StepFailed("server", f"it stopped with exit {server.returncode}", "read the lines above")
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/", timeout=2):
                return
        except OSError:
            time.sleep(0.2)
    raise StepFailed("server", "it did not answer within 30 seconds", "read the lines above")


def reset(arguments: list[str]) -> int:
    """Throw the demonstration's database and photographs away."""
    running = cluster.demo_cluster()
    cluster.stop(running, "immediate")
    for path in (running.home, cluster.data_home() / "photographs"):
        shutil.rmtree(path, ignore_errors=True)
    say(f"gone: {running.home}")
    return 0
