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
from pathlib import Path, PurePosixPath
from typing import Any, cast

from launcher import ROOT, cluster
from launcher.cluster import BIN, DATABASE, OWNER
from launcher.place import Place, own_place, prepared
from launcher.serving import MANAGE
from launcher.steps import StepFailed, run, say

DUMP, PHOTOGRAPHS, FLORA, LISTED = "database.dump", "photographs.tar", "flora.tar", "backup.json"
HASHES = "photographs.sha256"  # as sha256sum writes and checks them
IN_WORDS = (
    "organisations_organisation",
    "organisations_member",
    "sites_site",
    "plants_plant",
    "plants_visit",
)
# (table, rows) of every table that no extension brought
COUNTS = """
SELECT coalesce(json_object_agg(c.relname, (pg_catalog.xpath('/row/n/text()', pg_catalog.query_to_xml(
    pg_catalog.format('SELECT count(*) AS n FROM public.%I', c.relname), false, true, '')))[1]::text::bigint
    ORDER BY c.relname), '{}')
  FROM pg_catalog.pg_class c
 WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND NOT EXISTS (
       SELECT 1 FROM pg_catalog.pg_depend d WHERE d.objid = c.oid AND d.deptype = 'e')
"""
# each photograph with the hash of what is stored, also in tables of an earlier version
STORED = """
SELECT coalesce(json_object_agg(p.path, coalesce(nullif(to_jsonb(p)->>'stored_sha256', ''), p.sha256)), '{}')
  FROM plants_photofile p
"""
CHECK = """
DO $check$ BEGIN
  IF (%s)::jsonb <> %s::jsonb THEN
    RAISE EXCEPTION 'other counts than the backup has';
  END IF;
END $check$;
"""
MOST_NAMED = 20
HELP = """usage: ./jubark backup FOLDER | ./jubark restore FOLDER
  backup   writes database, photographs and taxa of your own into FOLDER, which must not exist yet;
           it may run while Jubark is in use
  restore  reads such a folder into an installation that is empty; stop Jubark first. All of it or nothing:
  one that
           was broken off is taken up by the same command
  $JUBARK_DATA and $JUBARK_DB_... name the installation, as for ./jubark start."""


def backup(arguments: list[str]) -> int:
    """./jubark backup FOLDER."""
    if (folder := _folder(arguments, "backup")) is None:
        return 0
    if folder.exists():
        raise StepFailed("backup", f"{folder} exists already", "name a folder that does not")
    place = own_place()
    with prepared(place):
        write_backup(place, folder)
    return 0


def restore(arguments: list[str]) -> int:
    """./jubark restore FOLDER."""
    if (folder := _folder(arguments, "restore")) is None:
        return 0
    listed = checked(folder)
    place = own_place()
    with prepared(place):
        read_backup(place, folder, listed)
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


def write_backup(place: Place, folder: Path) -> None:
    """The backup, whole or not at all. The database comes first: photographs are only ever added, so that
    every one it names is there when they follow. One that is missing or damaged is said, and listed.
    """
    env = place.environment(OWNER)
    partial = folder.with_name(folder.name + ".partial")
    shutil.rmtree(partial, ignore_errors=True)
    partial.mkdir(parents=True, mode=0o700)
    try:
        with _snapshot(env) as (snapshot, counts, stored):
            wanted = ["--format=custom", f"--file={partial / DUMP}", f"--snapshot={snapshot}", _name(env)]
            run("database", [*_client("pg_dump", env), *wanted], "see the message above", env=_password(env))
        written = _pack(place.photographs, partial / PHOTOGRAPHS)
        _pack(place.flora, partial / FLORA)
        lines = [f"{digest}  {name}\n" for name, digest in sorted(written.items())]
        (partial / HASHES).write_text("".join(lines))
        missing = sorted(name for name in stored if name not in written)
        damaged = sorted(name for name, digest in stored.items() if written.get(name, digest) != digest)
        files = {name: _sha256(partial / name) for name in (DUMP, PHOTOGRAPHS, FLORA, HASHES)}
        told = {"made_at": _now(), "counts": counts, "files": files, "missing": missing, "damaged": damaged}
        (partial / LISTED).write_text(json.dumps(told, indent=2) + "\n")
        for path in partial.iterdir():
            path.chmod(0o600)
            _to_disk(path)
        partial.rename(folder)
        _to_disk(folder.parent)
    except OSError as error:
        raise StepFailed("backup", str(error), "make room, or name another folder") from None
    finally:
        shutil.rmtree(partial, ignore_errors=True)
    say(f"backup in {folder}: " + _in_words(counts) + f", {len(written)} photographs")
    for what, names in (("missing", missing), ("not as they were stored", damaged)):
        if names:
            more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
            say(f"{len(names)} photographs are {what}: {', '.join(names[:MOST_NAMED])}{more}")


def _pack(source: Path, target: Path) -> dict[str, str]:
    """A folder as an archive; path -> SHA-256 of what went into it. Half-written files stay out."""
    written = {}
    with tarfile.open(target, "w") as archive:
        for path in sorted(source.rglob("*")) if source.exists() else ():
            if not path.is_file() or path.is_symlink() or path.name.startswith("."):
                continue
            name = path.relative_to(source).as_posix()
            with path.open("rb") as file:
                info = archive.gettarinfo(arcname=name, fileobj=file)
                info.uid = info.gid = 0
                info.uname = info.gname = ""
                archive.addfile(info, file)
            written[name] = _sha256(path)
    return written


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


def read_backup(place: Place, folder: Path, listed: dict[str, Any]) -> None:
    """Restore into an empty installation: files beside their places, the database in one transaction that
    ends with its counts compared, and only then the files into their places. A restore that was broken off is
    taken up where it stood. Raises StepFailed where anything else is there.
    """
    env = place.environment(OWNER)
    begun, own = place.home / "restoring.json", {"backup": _sha256(folder / LISTED)}
    again = begun.exists() and json.loads(begun.read_text()) == own
    if not again and (any(place.photographs.iterdir()) or _tables(env)):
        raise StepFailed(
            "restore",
            "the installation is not empty",
            "restore into a new one ($JUBARK_DATA names another folder, $JUBARK_DB_NAME another database)",
        )
    beside = place.home / "restoring"
    begun.write_text(json.dumps(own))
    _to_disk(begun)
    if not (again and _tables(env)):
        shutil.rmtree(beside, ignore_errors=True)
        say("photographs and taxa of its own")
        _unpack(folder / PHOTOGRAPHS, beside / "photographs")
        _unpack(folder / FLORA, beside / "flora")
        _compare(beside / "photographs", folder / HASHES)
        _read_database(env, folder / DUMP, listed["counts"])
    for name, target in (("photographs", place.photographs), ("flora", place.flora)):
        _into_place(beside / name, target)
    if place.cluster is not None:
        cluster.ensure_roles(place.cluster)
    shutil.rmtree(beside, ignore_errors=True)
    begun.unlink()
    say("restored: " + _in_words(listed["counts"]) + ". ./jubark start brings the tables up to this version")


def _read_database(env: dict[str, str], dump: Path, counts: dict[str, int]) -> None:
    """The dump, in one transaction: where the counts afterwards are not those of the backup, nothing of it.
    What is counted in a backup of an earlier version are a few tables only.
    """
    say("database")
    read = [str(BIN / "pg_restore"), "--no-owner", "--no-privileges", "--no-comments", "--file=-", str(dump)]
    write = [*_client("psql", env), "-d", _name(env), "-qX", "-v", "ON_ERROR_STOP=1", "--single-transaction"]
    named = "{" + ",".join(counts) + "}"
    of_these = f"SELECT json_object_agg(key, value) FROM json_each(({COUNTS})) WHERE key = ANY('{named}')"
    check = CHECK % (of_these if counts else "SELECT '{}'::json", "'" + json.dumps(counts) + "'")
    given = {**os.environ, **_password(env)}
    with (
        subprocess.Popen(read, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as dumped,
        subprocess.Popen(
            [*write, "-f", "-"],
            stdin=subprocess.PIPE,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            env=given,
        ) as taken,
    ):
        assert dumped.stdout and dumped.stderr and taken.stdin and taken.stderr
        with contextlib.suppress(BrokenPipeError):  # psql has said why
            shutil.copyfileobj(dumped.stdout, taken.stdin)
            # one that could not be read to its end must not be kept
            taken.stdin.write(
                check.encode() if dumped.wait() == 0 else b"\nSELECT 'the dump broke off'::int;\n"
            )
        with contextlib.suppress(BrokenPipeError):
            taken.stdin.close()
        why = (dumped.stderr.read() + taken.stderr.read()).decode(errors="replace").strip()[-2000:]
    if dumped.returncode or taken.returncode:
        raise StepFailed("database", why, "nothing of it was kept; see the message, then run the same again")


def _unpack(archive: Path, target: Path) -> None:
    """The files of an archive: nothing but plain files, at paths below the target, for their owner alone.
    (The filters of `tarfile` are younger than Debian 12's Python.)
    """
    target.mkdir(parents=True, mode=0o700)
    with tarfile.open(archive) as members:
        for member in members:
            path = PurePosixPath(member.name)
            if member.isdir():
                continue
            if not member.isfile() or path.is_absolute() or ".." in path.parts:
                raise StepFailed(
                    "restore", f"{archive}: {member.name} is no plain file of it", "do not trust it"
                )
            to = target / path
            to.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
            held = cast(Any, members.extractfile(member))
            with to.open("wb") as file:
                os.fchmod(file.fileno(), 0o600)
                shutil.copyfileobj(held, file)
                file.flush()
                os.fsync(file.fileno())


def _compare(folder: Path, hashes: Path) -> None:
    """Every photograph as it was packed. A backup of the first versions has no such list."""
    for line in hashes.read_text().splitlines() if hashes.exists() else ():
        digest, _, name = line.partition("  ")
        if not (folder / name).is_file() or _sha256(folder / name) != digest:
            raise StepFailed("restore", f"{name} is not as it was packed", "see whether the disk is sound")


def _into_place(beside: Path, target: Path) -> None:
    """What was unpacked, under its name; where it stands there already, nothing."""
    if not beside.exists():
        return
    if any(beside.iterdir()) or not target.exists():
        if target.exists():
            target.rmdir()
        beside.rename(target)
    target.chmod(0o700)


def _to_disk(path: Path) -> None:
    descriptor = os.open(path, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def _client(tool: str, env: dict[str, str]) -> list[str]:
    given = {**os.environ, **env}
    where = ["-h", given.get("JUBARK_DB_HOST", "127.0.0.1"), "-p", given.get("JUBARK_DB_PORT", "5432")]
    return [str(BIN / tool), *where, "-U", given.get("JUBARK_DB_USER", OWNER)]


def _name(env: dict[str, str]) -> str:
    return {**os.environ, **env}.get("JUBARK_DB_NAME", DATABASE)


def _password(env: dict[str, str]) -> dict[str, str]:
    return {"PGPASSWORD": {**os.environ, **env}.get("JUBARK_DB_PASSWORD", "")}


def _asked(env: dict[str, str], sql: str) -> str:
    asked = [*_client("psql", env), "-d", _name(env), "-tAq", "-v", "ON_ERROR_STOP=1", "-c", sql]
    return run("database asked", asked, "see the message above", env=_password(env)).strip()


@contextlib.contextmanager
def _snapshot(env: dict[str, str]) -> Iterator[tuple[str, dict[str, int], dict[str, str]]]:
    """(a snapshot of the database that lasts while it is held, what is counted in it, the hash of each
    photograph it names): what is written meanwhile is in none of them.
    """
    counted, stored = (COUNTS, STORED) if _tables(env) else ("SELECT '{}'", "SELECT '{}'")
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
        held.stdin.write(f"{_in_a_line(counted)};\n{_in_a_line(stored)};\n")
        held.stdin.flush()
        snapshot, counts, photographs = (held.stdout.readline().strip() for _ in range(3))
        if not photographs:
            raise StepFailed("database", held.stderr.read().strip(), "see the message above")
        try:
            yield snapshot, json.loads(counts), json.loads(photographs)
        finally:
            held.stdin.close()


def _tables(env: dict[str, str]) -> bool:
    """Whether the application has tables there."""
    return _asked(env, "SELECT to_regclass('organisations_organisation') IS NOT NULL") == "t"


def _in_a_line(sql: str) -> str:
    return " ".join(sql.split())


def _in_words(counts: dict[str, int]) -> str:
    told = [f"{counts[table]} {table.split('_', 1)[1]}s" for table in IN_WORDS if table in counts]
    return ", ".join(told) or "no tables yet"


def _sha256(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _now() -> str:
    return time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime())


def is_of_an_earlier_version(place: Place) -> bool:
    """Whether the database is of an earlier version: its tables are there, and some step is not applied, or
    all of it still belongs to one role.
    """
    env = place.environment(OWNER)
    if not _tables(env):
        return False
    if place.cluster is not None and not place.cluster.has_roles:
        return True
    command = [*MANAGE, "migrate", "--check"]
    done = subprocess.run(command, env={**os.environ, **env}, cwd=ROOT, capture_output=True)
    return done.returncode != 0
