"""A PostgreSQL cluster of Jubark's own, on loopback, outside the checkout. Debian's own cluster is left
alone.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
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
from typing import IO

from launcher.steps import StepFailed, run, say

BIN = Path("/usr/lib/postgresql/15/bin")
# Who may what: launcher/roles.sql. The owner has had its name since the first version.
OWNER, MIGRATOR, APPLICATION = "jubark", "jubark_migrator", "jubark_app"
PASSWORDS = {OWNER: "password", MIGRATOR: "password-migrator", APPLICATION: "password-application"}
ROLES_SQL = Path(__file__).parent / "roles.sql"
DATABASE = "jubark"
EARLIER_TABLES = ("crews_crew", "plants_look")  # of the first version, and of that with a table for each kind
FAST = {
    "fsync": "off",
    "full_page_writes": "off",
    "synchronous_commit": "off",
    "max_connections": "200",  # of every browser's every line
}


@dataclass(frozen=True)
class Cluster:
    """Where a cluster lives. As root it belongs to the user postgres, for the server refuses to run
    as root.
    """

    home: Path
    sockets: Path

    @property
    def data(self) -> Path:
        """The cluster's data folder."""
        return self.home / "data"

    def password(self, role: str) -> str:
        """Made by `new_password`, readable by the account alone."""
        return (self.home / PASSWORDS[role]).read_text().strip()

    def new_password(self, role: str) -> None:
        """Make the password of a role that has none."""
        secret = self.home / PASSWORDS[role]
        if not secret.exists():
            secret.touch(mode=0o600)
            secret.write_text(secrets.token_urlsafe(24) + "\n")
            _share(secret)

    @property
    def has_roles(self) -> bool:
        """Whether `ensure_roles` has been here: a cluster of an earlier version knows the owner alone."""
        return (self.home / PASSWORDS[APPLICATION]).exists()

    @property
    def port(self) -> int:
        """Kept between runs while it is free."""
        return int((self.home / "port").read_text())

    def environment(self, role: str = APPLICATION) -> dict[str, str]:
        """What a process needs to reach it as a role; as the owner where there are no roles yet."""
        role = role if self.has_roles else OWNER
        return {
            "JUBARK_DB_HOST": "127.0.0.1",
            "JUBARK_DB_PORT": str(self.port),
            "JUBARK_DB_USER": role,
            "JUBARK_DB_PASSWORD": self.password(role),
            "JUBARK_DB_NAME": DATABASE,
        }


def as_root() -> bool:
    """Whether this process is root."""
    return os.geteuid() == 0


def data_home() -> Path:
    """Folder for everything that outlives a run: never inside the checkout. $JUBARK_DATA names another."""
    if own := os.environ.get("JUBARK_DATA"):
        return Path(own)
    if as_root():
        return Path("/var/lib/jubark")
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "jubark"


def demo_cluster() -> Cluster:
    """The demonstration's cluster, kept between runs."""
    return cluster_in(data_home() / "demo")


def cluster_in(home: Path) -> Cluster:
    """The cluster of a folder."""
    # a socket's path may be 107 bytes long, so that it does not lie below the home
    mark = hashlib.sha256(str(home).encode()).hexdigest()[:8]
    return Cluster(home, Path(tempfile.gettempdir()) / f"jubark-{os.geteuid()}-{mark}")


@contextlib.contextmanager
def in_use(cluster: Cluster) -> Iterator[None]:
    """The cluster running while anyone uses it: the first user starts it, the last one stops it, also after a
    kill -9 of others.

    The users are counted by a shared lock on a file, which the system lets go with the process that holds it.
    """
    _make_folders(cluster)
    with (cluster.home / "users").open("a") as users:
        fcntl.flock(users, fcntl.LOCK_SH)
        try:
            start_patiently(cluster)
            yield
        finally:
            if _alone(users):
                stop(cluster)


def used(cluster: Cluster) -> bool:
    """Whether somebody uses the cluster just now."""
    if not (cluster.home / "users").exists():
        return False
    with (cluster.home / "users").open("a") as users:
        return not _alone(users)


def _alone(users: IO[str]) -> bool:
    try:
        fcntl.flock(users, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True


def answers(cluster: Cluster) -> bool:
    """Whether the cluster takes connections."""
    asked = [str(BIN / "pg_isready"), "-q", "-h", "127.0.0.1", "-p", str(cluster.port), "-t", "3"]
    return subprocess.run(asked, capture_output=True).returncode == 0


def start_patiently(cluster: Cluster, keep_port: bool = False) -> None:
    """Start a cluster that may have been killed a moment ago. Raises StepFailed with what to do when it does
    not come.
    """
    for last in (False, False, False, False, True):
        try:
            start(cluster, keep_port=keep_port)
            return
        except StepFailed as failed:
            if last:
                free_mb = shutil.disk_usage(cluster.home).free // 2**20
                remedy = (
                    f"{free_mb} MB are free on the disk of {cluster.home}; make room if that is "
                    f"little. {failed.remedy}"
                )
                raise StepFailed("database", failed.why, remedy) from None
            say("the database did not start; trying again in a moment")
            time.sleep(3)  # after a kill -9 its children need a moment to notice


@contextlib.contextmanager
def test_cluster() -> Iterator[Cluster]:
    """The cluster of test runs: fast rather than safe. It is kept, so that its tables are made once; one that
    does not start any more is made anew.
    """
    cluster = cluster_in(data_home() / "tests")
    _make_folders(cluster)
    with (cluster.home / "users").open("a") as users:
        fcntl.flock(users, fcntl.LOCK_SH)
        try:
            try:
                start(cluster, FAST)
            except StepFailed:
                stop(cluster, "immediate")
                shutil.rmtree(cluster.data, ignore_errors=True)
                start(cluster, FAST)
            yield cluster
        finally:
            if _alone(users):
                stop(cluster, "fast")


def start(cluster: Cluster, settings: dict[str, str] | None = None, keep_port: bool = False) -> None:
    """Start the cluster, made first where it is new; leave it alone where it runs. keep_port: its users know
    the port.
    """
    _make_folders(cluster)
    with (cluster.home / "starting").open("a") as starting:
        fcntl.flock(starting, fcntl.LOCK_EX)  # of two that start at once, the second finds it running
        if not (cluster.data / "PG_VERSION").exists():
            _make(cluster)
        if _running(cluster):
            say(f"database cluster runs already on port {cluster.port}")
            return
        if not keep_port:
            _choose_port(cluster)
        options = {
            "listen_addresses": "127.0.0.1",
            "port": str(cluster.port),
            "unix_socket_directories": str(cluster.sockets),
            "max_connections": "60",
            **(settings or {}),
        }
        told = " ".join(f"-c {k}={v}" for k, v in options.items())
        log = cluster.home / "log"
        command = [
            str(BIN / "pg_ctl"),
            "-D",
            str(cluster.data),
            "-w",
            "-t",
            "60",
            "-l",
            str(log),
            "-o",
            told,
            "start",
        ]
        try:
            _postgres(
                "database cluster",
                command,
                f"read {log}; ./jubark reset throws the demonstration's database away",
            )
        except StepFailed as failed:
            words = log.read_text(errors="replace").splitlines()[-5:] if log.exists() else []
            raise StepFailed(failed.step, "\n       ".join([failed.why, *words]), failed.remedy) from None


def _make_folders(cluster: Cluster) -> None:
    for folder in (cluster.home, cluster.sockets):
        folder.mkdir(parents=True, exist_ok=True)
        _share(folder)
        folder.chmod(0o700)
    if as_root():
        _share(cluster.home.parent)


def _make(cluster: Cluster) -> None:
    shutil.rmtree(cluster.data, ignore_errors=True)
    for secret in PASSWORDS.values():
        (cluster.home / secret).unlink(missing_ok=True)
    cluster.new_password(OWNER)
    _postgres(
        "new database cluster",
        [
            str(BIN / "initdb"),
            "-D",
            str(cluster.data),
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            f"--username={OWNER}",
            f"--pwfile={cluster.home / PASSWORDS[OWNER]}",
            "--auth=scram-sha-256",
        ],
        "see the message above; the disk may be full",
    )


def psql(cluster: Cluster, database: str = DATABASE) -> tuple[list[str], dict[str, str]]:
    """(command, environment) of psql as the owner, which prints bare rows."""
    at = ["-h", "127.0.0.1", "-p", str(cluster.port), "-U", OWNER, "-d", database]
    return [str(BIN / "psql"), *at, "-tAqX"], {"PGPASSWORD": cluster.password(OWNER)}


def ensure_roles(cluster: Cluster, database: str = DATABASE) -> None:
    """The three roles with what each may, also over tables that an earlier version made as the owner."""
    command, env = psql(cluster, database)
    for role in (MIGRATOR, APPLICATION):
        cluster.new_password(role)
    given = {
        "migrator": MIGRATOR,
        "application": APPLICATION,
        "migrator_password": cluster.password(MIGRATOR),
        "application_password": cluster.password(APPLICATION),
    }
    told = "".join(f"\\set {name} '{value}'\n" for name, value in given.items())  # not where `ps` shows it
    run(
        "roles of the database",
        [*command, "-f", "-"],
        "see the cluster's log",
        env=env,
        input_text=told + ROLES_SQL.read_text(),
    )


@contextlib.contextmanager
def database_for(cluster: Cluster, name: str) -> Iterator[None]:
    """An empty database while it is needed."""
    command, env = psql(cluster, "postgres")
    gone = [*command, "-c", f"DROP DATABASE IF EXISTS {name} WITH (FORCE)"]
    run(f"database {name}", [*gone, "-c", f"CREATE DATABASE {name}"], "see the cluster's log", env=env)
    try:
        yield
    finally:
        run(f"database {name} gone", gone, "see the cluster's log", env=env)


def ensure_database(cluster: Cluster) -> None:
    """The application's database in the cluster."""
    command, env = psql(cluster, "postgres")
    base = [*command, "-c"]
    found = run(
        "database",
        [*base, f"SELECT 1 FROM pg_database WHERE datname = '{DATABASE}'"],
        "see the cluster's log",
        env=env,
    )
    if found.strip() == "1" and _is_of_an_earlier_version(cluster):
        aside = f"{DATABASE}_before_{time.strftime('%Y%m%d_%H%M%S')}"
        rename = f"ALTER DATABASE {DATABASE} RENAME TO {aside}"
        run("database of an earlier version set aside", [*base, rename], "see the cluster's log", env=env)
        say(f"the database was made by an earlier version: it is kept as {aside}, and a new one is made")
        found = ""
    if found.strip() != "1":
        run("new database", [*base, f"CREATE DATABASE {DATABASE}"], "see the cluster's log", env=env)


def _is_of_an_earlier_version(cluster: Cluster) -> bool:
    """Whether the database holds a table that the present first migration no longer makes."""
    asked = ", ".join(f"to_regclass('{table}')" for table in EARLIER_TABLES)
    command, env = psql(cluster)
    done = subprocess.run(
        [*command, "-c", f"SELECT coalesce({asked})"],
        capture_output=True,
        text=True,
        env={**os.environ, **env},
    )
    return done.stdout.strip() in EARLIER_TABLES


def stop(cluster: Cluster, mode: str = "fast") -> None:
    """Stop the cluster; no error when it does not run."""
    if (cluster.data / "postmaster.pid").exists():
        subprocess.run(
            _as_postgres([str(BIN / "pg_ctl"), "-D", str(cluster.data), "-m", mode, "-w", "stop"]),
            capture_output=True,
            cwd="/",
        )


def _running(cluster: Cluster) -> bool:
    """Whether the cluster's own server lives. A postmaster.pid left by a power cut is judged by PostgreSQL's
    own tools, never removed here: removed from under a living server it would cost the data.
    """
    if not (cluster.data / "postmaster.pid").exists():
        return False
    asked = subprocess.run(
        _as_postgres([str(BIN / "pg_ctl"), "-D", str(cluster.data), "status"]), capture_output=True, cwd="/"
    )
    return asked.returncode == 0 and answers(cluster)


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
