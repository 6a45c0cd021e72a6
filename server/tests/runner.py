"""The runner of every test: Django's, with a database only where a test asks for one, copied from one whose
tables were made once; classes of tests shared out, the longest first; and how long each lane took.

A lane is told by where a test lives: core, launcher, server, browser.
"""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import time
from collections import Counter
from pathlib import Path
from typing import Any
from unittest import TestCase, TestResult, TestSuite

import psycopg
from django.conf import settings
from django.core.management import call_command
from django.db import connection, connections
from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestRunner

from jubark_core.cli.bench import yardstick_ms
from launcher.cluster import APPLICATION, BIN, MIGRATOR, ROLES_SQL

ROOT = Path(settings.ROOT)
LANES = ("core", "launcher", "server", "browser")
# before anything is known of how long a class takes, in seconds: what is slow to end begins first
GUESSED = {"core": 3.0, "launcher": 1.0, "server": 2.0, "browser": 30.0}
COPIES = "run_"


def lane_of(name: str) -> str:
    """The lane of a test by its dotted name."""
    first, *rest = name.split(".")
    return {"jubark_core": "core", "launcher": "launcher"}.get(
        first, "browser" if "browser" in rest else "server"
    )


def class_of(test: TestCase) -> str:
    """The dotted name of a test's class."""
    return f"{type(test).__module__}.{type(test).__qualname__}"


class Timed(RemoteTestRunner):
    """Runs the tests of a class and writes down how long each took, from the class's beginning to its end."""

    def run(self, test: TestSuite) -> TestResult:
        """The result, as the runner's process reads it."""
        began, first = time.monotonic(), next(iter(test), None)  # run, it holds them no more
        result = super().run(test)
        if isinstance(first, TestCase) and (file := os.environ.get("JUBARK_TIMES")):
            line = json.dumps({"class": class_of(first), "s": round(time.monotonic() - began, 2)})
            with open(file, "a", encoding="utf-8") as times:
                times.write(line + "\n")
        return result


class LongestFirst(ParallelTestSuite):
    """Classes in the order of how long they took the last time."""

    runner_class = Timed

    def __init__(self, subsuites: list[TestSuite], processes: int, *rest: Any, **more: Any) -> None:
        known = _known_times()
        super().__init__(sorted(subsuites, key=lambda s: -_expected(s, known)), processes, *rest, **more)


def _expected(suite: TestSuite, known: dict[str, float]) -> float:
    first = next(iter(suite), None)
    if not isinstance(first, TestCase):
        return 0
    name = class_of(first)
    return known.get(name, GUESSED[lane_of(name)])


def _times_file() -> Path | None:
    """Where times are written down between runs; nowhere without the launcher."""
    kept = os.environ.get("JUBARK_TESTS_KEPT")
    return Path(kept) / "times.json" if kept else None


def _known_times() -> dict[str, float]:
    file = _times_file()
    try:
        return dict(json.loads(file.read_text())) if file else {}
    except (OSError, ValueError):
        return {}


class LaneRunner(DiscoverRunner):
    """Django's runner. See the module."""

    parallel_test_suite = LongestFirst

    def __init__(self, *arguments: Any, **options: Any) -> None:
        super().__init__(*arguments, **options)
        self.copied_from = ""

    def setup_databases(self, **options: Any) -> list[Any]:
        """A copy for each process of a database with all tables and no row but what migrations made."""
        if "default" not in options.get("aliases", ()):
            return []
        began = time.monotonic()
        template = _template()
        self.copied_from = connection.settings_dict["NAME"]
        _drop_copies_of_the_dead()
        own = f"{COPIES}{os.getpid()}"
        _copy(template, own)
        connection.close()
        connection.settings_dict["NAME"] = own
        if self.parallel > 1:
            for i in range(self.parallel):
                _copy(template, f"{own}_{i + 1}")
        self.log(f"databases ready after {time.monotonic() - began:.1f} s")
        return [own]

    def teardown_databases(self, old_config: list[Any], **options: Any) -> None:
        """The copies go; what they were copied from stays for the next run."""
        if not old_config:
            return
        connections.close_all()
        connection.settings_dict["NAME"] = self.copied_from
        _drop([*old_config, *(f"{old_config[0]}_{i + 1}" for i in range(self.parallel))])

    def run_suite(self, suite: TestSuite, **options: Any) -> TestResult:
        """Runs them, then says how long each lane took."""
        file = _times_file()
        if file:
            os.environ["JUBARK_TIMES"] = str(file.with_suffix(".now"))
            file.with_suffix(".now").unlink(missing_ok=True)
        began = time.monotonic()
        result: TestResult = super().run_suite(suite, **options)
        if file and file.with_suffix(".now").exists():
            self._told(file, time.monotonic() - began)
        return result

    def _told(self, file: Path, wall_s: float) -> None:
        rows = [json.loads(line) for line in file.with_suffix(".now").read_text().splitlines()]
        took = {row["class"]: row["s"] for row in rows}
        file.write_text(json.dumps(_known_times() | took, indent=1, sort_keys=True))
        lanes: Counter[str] = Counter()
        for name, seconds in took.items():
            lanes[lane_of(name)] += seconds
        told = ", ".join(f"{lane} {lanes[lane]:.0f} s" for lane in LANES if lane in lanes)
        stick = yardstick_ms()
        print(
            f"lanes (summed over {self.parallel} processes, {wall_s:.0f} s by the clock, "
            f"{wall_s / stick:.0f} thousand yardsticks of {stick:.1f} ms): {told}",
            flush=True,
        )
        longest = sorted(took.items(), key=lambda pair: -pair[1])[:8]
        print("longest: " + ", ".join(f"{name} {seconds:.0f} s" for name, seconds in longest), flush=True)


def _template() -> str:
    """The name of the database with the tables of these migrations; made where it is not there yet."""
    digest = hashlib.sha256(ROLES_SQL.read_bytes())
    for path in sorted((ROOT / "server").glob("apps/*/migrations/*.py")):
        digest.update(path.read_bytes())
    digest.update((ROOT / "requirements" / "dev.txt").read_bytes())
    name = f"tables_{digest.hexdigest()[:16]}"
    with _server() as server:
        server.execute("SELECT pg_advisory_lock(417)")  # of two runs at once the second finds it made
        if server.execute("SELECT 1 FROM pg_database WHERE datname = %s", [name]).fetchone():
            return name
        for (old,) in server.execute(
            "SELECT datname FROM pg_database WHERE datname LIKE 'tables_%'"
        ).fetchall():
            server.execute(f'DROP DATABASE "{old}" WITH (FORCE)')
        making = f"{name}_making"
        server.execute(f'CREATE DATABASE "{making}"')
        before = connection.settings_dict["NAME"]
        connection.close()
        connection.settings_dict["NAME"] = making
        try:
            call_command("migrate", verbosity=0, interactive=False)
            _let_the_application_in(making)
        finally:
            connection.close()
            connection.settings_dict["NAME"] = before
        server.execute(f'ALTER DATABASE "{making}" RENAME TO "{name}"')
    return name


def _let_the_application_in(database: str) -> None:
    """The roles of an installation, so that requests are answered with no more than the application may."""
    told = connection.settings_dict
    given = {"migrator": MIGRATOR, "application": APPLICATION}
    given |= {f"{role}_password": "tests only" for role in given}
    at = ["-h", told["HOST"], "-p", str(told["PORT"]), "-U", told["USER"], "-d", database]
    variables = [part for name, value in given.items() for part in ("-v", f"{name}={value}")]
    command = [str(BIN / "psql"), *at, "-qX", *variables, "-f", str(ROLES_SQL)]
    subprocess.run(command, check=True, env={**os.environ, "PGPASSWORD": told["PASSWORD"]})


def _server() -> psycopg.Connection[Any]:
    told = connection.settings_dict
    where = {"host": told["HOST"], "port": told["PORT"], "user": told["USER"], "password": told["PASSWORD"]}
    return psycopg.connect(dbname="postgres", autocommit=True, **where)


def _copy(template: str, name: str) -> None:
    with _server() as server:
        server.execute("SELECT pg_advisory_lock(418)")  # a template is copied by one at a time
        server.execute(f'CREATE DATABASE "{name}" TEMPLATE "{template}"')


def _drop(names: list[str]) -> None:
    with _server() as server:
        for name in names:
            server.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


def _drop_copies_of_the_dead() -> None:
    """Copies that a run which was killed has left."""
    with _server() as server:
        rows = server.execute(r"SELECT datname FROM pg_database WHERE datname LIKE 'run\_%'").fetchall()
    _drop([name for (name,) in rows if not Path("/proc", name.split("_")[1]).exists()])
