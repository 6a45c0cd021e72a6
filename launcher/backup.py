"""A backup of an installation, and what it is restored from: a folder with the database, the photographs, the
taxa of its own, and a list with their hashes.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import shutil
import subprocess
import tarfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from launcher import ROOT
from launcher.cluster import BIN, DATABASE, USER
from launcher.place import Place, own_place, prepared
from launcher.serving import MANAGE
from launcher.steps import StepFailed, run, say

DUMP, PHOTOGRAPHS, FLORA, LISTED = "database.dump", "photographs.tar", "flora.tar", "backup.json"
COUNTED = ("organisations_organisation", "organisations_member", "sites_site", "plants_plant", "plants_visit")
_EACH = ", ".join(f"'{table}', (SELECT count(*) FROM {table})" for table in COUNTED)
_COUNTS = f"SELECT json_build_object({_EACH})"
HELP = """usage: ./jubark backup FOLDER | ./jubark restore FOLDER
  backup   writes database, photographs and taxa of your own into FOLDER, which must not exist yet;
           it may run while Jubark is in use
  restore  reads such a folder into an installation that is empty; stop Jubark first
  $JUBARK_DATA and $JUBARK_DB_... name the installation, as for ./jubark start."""


def backup(arguments: list[str]) -> int:
    """./jubark backup FOLDER."""
    if (folder := _folder(arguments, "backup")) is None:
        return 0
    if folder.exists():
        raise StepFailed("backup", f"{folder} exists already", "name a folder that does not")
    place = own_place()
    with prepared(place) as env:
        write_backup(place, env, folder)
    return 0


def restore(arguments: list[str]) -> int:
    """./jubark restore FOLDER."""
    if (folder := _folder(arguments, "restore")) is None:
        return 0
    listed = checked(folder)
    place = own_place()
    with prepared(place) as env:
        read_backup(place, env, folder, listed)
    return 0


def _folder(arguments: list[str], command: str) -> Path | None:
    """The folder named; None where only help was asked for."""
    if set(arguments) & {"-h", "--help"}:
        print(HELP)
        return None
    if len(arguments) != 1 or arguments[0].startswith("-"):
        said = " ".join(arguments) or "nothing"
        raise StepFailed("options", f"{said} is not understood", f"./jubark {command} FOLDER")
    return Path(arguments[0]).resolve()


def write_backup(place: Place, env: dict[str, str], folder: Path) -> None:
    """The backup, whole or not at all. The database comes first: photographs are only ever added, so that
    every one it names is there when they follow.
    """
    partial = folder.with_name(folder.name + ".partial")
    shutil.rmtree(partial, ignore_errors=True)
    partial.mkdir(parents=True, mode=0o700)
    try:
        with _snapshot(env) as (snapshot, counts):
            wanted = ["--format=custom", f"--file={partial / DUMP}", f"--snapshot={snapshot}", _name(env)]
            run("database", [*_client("pg_dump", env), *wanted], "see the message above", env=_password(env))
        for name, source in ((PHOTOGRAPHS, place.photographs), (FLORA, place.flora)):
            with tarfile.open(partial / name, "w") as archive:
                if source.exists():
                    archive.add(source, arcname=".")
        files = {name: _sha256(partial / name) for name in (DUMP, PHOTOGRAPHS, FLORA)}
        told = {"made_at": _now(), "counts": counts, "files": files}
        (partial / LISTED).write_text(json.dumps(told, indent=2) + "\n")
        for path in partial.iterdir():
            path.chmod(0o600)
        partial.rename(folder)
    except OSError as error:
        raise StepFailed("backup", str(error), "make room, or name another folder") from None
    finally:
        shutil.rmtree(partial, ignore_errors=True)
    say(f"backup in {folder}: " + _in_words(counts))


def checked(folder: Path) -> dict[str, Any]:
    """What a backup lists, once every file of it is as it was written. Raises StepFailed naming the file."""
    remedy = "name a folder that ./jubark backup has written, whole"
    try:
        listed: dict[str, Any] = json.loads((folder / LISTED).read_text())
        for name, digest in listed["files"].items():
            if _sha256(folder / name) != digest:
                raise StepFailed("restore", f"{folder / name} is not as it was written", remedy)
    except (OSError, ValueError, KeyError) as error:
        raise StepFailed("restore", f"{folder}: {error}", remedy) from None
    return listed


def read_backup(place: Place, env: dict[str, str], folder: Path, listed: dict[str, Any]) -> None:
    """Restore into an empty installation, in one transaction. Raises StepFailed where anything is there."""
    if any(place.photographs.iterdir()) or _tables(env):
        raise StepFailed(
            "restore",
            "the installation is not empty",
            "restore into a new one ($JUBARK_DATA names another folder, $JUBARK_DB_NAME another database)",
        )
    read = ["--no-owner", "--exit-on-error", "--single-transaction", f"--dbname={_name(env)}"]
    run("database", [*_client("pg_restore", env), *read, str(folder / DUMP)], "see above", env=_password(env))
    for name, target in ((PHOTOGRAPHS, place.photographs), (FLORA, place.flora)):
        with tarfile.open(folder / name) as archive:
            if len(archive.getnames()) > 1:
                target.mkdir(exist_ok=True)
                archive.extractall(target, filter="data")
    place.photographs.chmod(0o700)
    if (counts := _counts(env)) != listed["counts"]:
        raise StepFailed(
            "restore", f"{counts} where the backup had {listed['counts']}", "tell the maintainers"
        )
    say("restored: " + _in_words(counts) + ". ./jubark start brings the tables up to this version")


def _client(tool: str, env: dict[str, str]) -> list[str]:
    given = {**os.environ, **env}
    where = ["-h", given.get("JUBARK_DB_HOST", "127.0.0.1"), "-p", given.get("JUBARK_DB_PORT", "5432")]
    return [str(BIN / tool), *where, "-U", given.get("JUBARK_DB_USER", USER)]


def _name(env: dict[str, str]) -> str:
    return {**os.environ, **env}.get("JUBARK_DB_NAME", DATABASE)


def _password(env: dict[str, str]) -> dict[str, str]:
    return {"PGPASSWORD": {**os.environ, **env}.get("JUBARK_DB_PASSWORD", "")}


def _asked(env: dict[str, str], sql: str) -> str:
    asked = [*_client("psql", env), "-d", _name(env), "-tAq", "-v", "ON_ERROR_STOP=1", "-c", sql]
    return run("database asked", asked, "see the message above", env=_password(env)).strip()


@contextlib.contextmanager
def _snapshot(env: dict[str, str]) -> Iterator[tuple[str, dict[str, int]]]:
    """(a snapshot of the database that lasts while it is held, what is counted in it): what is written
    meanwhile is neither in the dump nor in the counts.
    """
    counted = _COUNTS if _tables(env) else "SELECT '{}'::json"
    asked = [*_client("psql", env), "-d", _name(env), "-tAq", "-v", "ON_ERROR_STOP=1"]
    with subprocess.Popen(
        asked,
        env={**os.environ, **_password(env)},
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    ) as held:
        assert held.stdin is not None and held.stdout is not None and held.stderr is not None
        held.stdin.write("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY;\nSELECT pg_export_snapshot();\n")
        held.stdin.write(counted + ";\n")
        held.stdin.flush()
        snapshot, counts = (held.stdout.readline().strip() for _ in range(2))
        if not counts:
            raise StepFailed("database", held.stderr.read().strip(), "see the message above")
        try:
            yield snapshot, json.loads(counts)
        finally:
            held.stdin.close()


def _tables(env: dict[str, str]) -> bool:
    """Whether the application has tables there."""
    return _asked(env, "SELECT to_regclass('organisations_organisation') IS NOT NULL") == "t"


def _counts(env: dict[str, str]) -> dict[str, int]:
    if not _tables(env):
        return {}
    found: dict[str, int] = json.loads(_asked(env, _COUNTS))
    return found


def _in_words(counts: dict[str, int]) -> str:
    return ", ".join(f"{n} {table.split('_', 1)[1]}s" for table, n in counts.items()) or "no tables yet"


def _sha256(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _now() -> str:
    return time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime())


def waits_for_migrations(env: dict[str, str]) -> bool:
    """Whether the database is of an earlier version: its tables are there, and some step is not applied."""
    if not _tables(env):
        return False
    command = [*MANAGE, "migrate", "--check"]
    done = subprocess.run(command, env={**os.environ, **env}, cwd=ROOT, capture_output=True)
    return done.returncode != 0
