"""A PostgreSQL cluster of Jubark's own, on loopback, outside the checkout. Debian's own cluster is left alone."""

from __future__ import annotations

import contextlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from launcher.steps import StepFailed, run, say

BIN = Path("/usr/lib/postgresql/15/bin")
USER = "jubark"
DATABASE = "jubark"
FAST = {"fsync": "off", "full_page_writes": "off", "synchronous_commit": "off"}


@dataclass(frozen=True)
class Cluster:
    """Where a cluster lives. As root it belongs to the user postgres, for the server refuses to run as root."""

    home: Path
    sockets: Path

    @property
    def data(self) -> Path:
        """The cluster's data folder."""
        return self.home / "data"

    @property
    def password(self) -> str:
        """Made at first start, readable by the owner alone."""
        return (self.home / "password").read_text().strip()

    @property
    def port(self) -> int:
        """Kept between runs while it is free."""
        return int((self.home / "port").read_text())

    def environment(self) -> dict[str, str]:
        """What the application needs to reach it."""
        return {"JUBARK_DB_PORT": str(self.port), "JUBARK_DB_USER": USER, "JUBARK_DB_PASSWORD": self.password, "JUBARK_DB_NAME": DATABASE}


def as_root() -> bool:
    """Whether this process is root."""
    return os.geteuid() == 0


def data_home() -> Path:
    """Folder for everything that outlives a run: never inside the checkout."""
    if as_root():
        return Path("/var/lib/jubark")
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "jubark"


def demo_cluster() -> Cluster:
    """The demonstration's cluster, kept between runs."""
    sockets = Path(tempfile.gettempdir()) / f"jubark-{os.geteuid()}"
    return Cluster(data_home() / "demo", sockets)


@contextlib.contextmanager
def throw_away_cluster() -> Iterator[Cluster]:
    """A cluster for one test run: fast, and gone at the end, on failure and on Ctrl-C."""
    data_home().mkdir(parents=True, exist_ok=True)
    _share(data_home())
    home = Path(tempfile.mkdtemp(prefix="test-", dir=data_home()))
    cluster = Cluster(home, Path(tempfile.mkdtemp(prefix="jubark-")))
    try:
        start(cluster, FAST)
        yield cluster
    finally:
        stop(cluster, "immediate")
        shutil.rmtree(cluster.home, ignore_errors=True)
        shutil.rmtree(cluster.sockets, ignore_errors=True)


def start(cluster: Cluster, settings: dict[str, str] | None = None) -> bool:
    """Start the cluster, made first where it is new. False where it ran already: whoever started it stops it."""
    for folder in (cluster.home, cluster.sockets):
        folder.mkdir(parents=True, exist_ok=True)
        _share(folder)
        folder.chmod(0o700)
    if as_root():
        _share(cluster.home.parent)
    if not (cluster.data / "PG_VERSION").exists():
        _make(cluster)
    if _running(cluster):
        say(f"database cluster runs already on port {cluster.port}")
        return False
    _choose_port(cluster)
    options = {
        "listen_addresses": "127.0.0.1",
        "port": str(cluster.port),
        "unix_socket_directories": str(cluster.sockets),
        "max_connections": "60",
        **(settings or {}),
    }
    _postgres(
        "database cluster",
        [
            str(BIN / "pg_ctl"),
            "-D",
            str(cluster.data),
            "-w",
            "-t",
            "60",
            "-l",
            str(cluster.home / "log"),
            "-o",
            " ".join(f"-c {k}={v}" for k, v in options.items()),
            "start",
        ],
        f"read {cluster.home}/log; ./jubark reset throws the demonstration's database away",
    )
    return True


def _make(cluster: Cluster) -> None:
    shutil.rmtree(cluster.data, ignore_errors=True)
    secret = cluster.home / "password"
    secret.touch(mode=0o600)
    secret.write_text(secrets.token_urlsafe(24) + "\n")
    _share(secret)
    _postgres(
        "new database cluster",
        [
            str(BIN / "initdb"),
            "-D",
            str(cluster.data),
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            f"--username={USER}",
            f"--pwfile={secret}",
            "--auth=scram-sha-256",
        ],
        "see the message above; the disk may be full",
    )


def ensure_database(cluster: Cluster) -> None:
    """The application's database in the cluster."""
    env = {"PGPASSWORD": cluster.password}
    base = [str(BIN / "psql"), "-h", "127.0.0.1", "-p", str(cluster.port), "-U", USER, "-d", "postgres", "-tA", "-c"]
    found = run("database", [*base, f"SELECT 1 FROM pg_database WHERE datname = '{DATABASE}'"], "see the cluster's log", env=env)
    if found.strip() != "1":
        run("new database", [*base, f"CREATE DATABASE {DATABASE}"], "see the cluster's log", env=env)


def stop(cluster: Cluster, mode: str = "fast") -> None:
    """Stop the cluster; no error when it does not run."""
    if (cluster.data / "postmaster.pid").exists():
        subprocess.run(_as_postgres([str(BIN / "pg_ctl"), "-D", str(cluster.data), "-m", mode, "-w", "stop"]), capture_output=True, cwd="/")


def _running(cluster: Cluster) -> bool:
    """Whether the cluster's own server lives. A postmaster.pid left by a power cut is removed."""
    pid_file = cluster.data / "postmaster.pid"
    if not pid_file.exists():
        return False
    lines = pid_file.read_text().split()
    pid = int(lines[0]) if lines and lines[0].isdigit() else 0
    try:
        command = Path(f"/proc/{pid}/cmdline").read_bytes().decode(errors="replace") if pid else ""
    except OSError:
        command = ""
    if "postgres" in command and str(cluster.data) in command:
        return True
    say("a stale postmaster.pid is removed")
    pid_file.unlink()
    return False


def _choose_port(cluster: Cluster) -> None:
    """Keep the port of last time while it is free; else take another."""
    kept = cluster.home / "port"
    if not kept.exists() or not _free(int(kept.read_text())):
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            kept.write_text(str(probe.getsockname()[1]))
        _share(kept)


def _free(port: int) -> bool:
    with socket.socket() as probe:
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _share(path: Path) -> None:
    """As root, give a path to the user postgres."""
    if as_root():
        owner = pwd.getpwnam("postgres")
        os.chown(path, owner.pw_uid, owner.pw_gid)


def _as_postgres(command: list[str]) -> list[str]:
    return ["runuser", "-u", "postgres", "--", *command] if as_root() else command


def _postgres(step: str, command: list[str], remedy: str) -> None:
    # output to a file, not a pipe: the server would inherit the pipe and hold it open
    say(step)
    with tempfile.TemporaryFile() as out:
        done = subprocess.run(_as_postgres(command), stdout=out, stderr=subprocess.STDOUT, cwd="/")
        if done.returncode != 0:
            time.sleep(0.1)
            out.seek(0)
            raise StepFailed(step, out.read().decode(errors="replace").strip()[-2000:], remedy)
