"""An installation of one's own: set up, brought up to this version, served."""

from __future__ import annotations

import os
import subprocess
import time

from launcher import cluster
from launcher.backup import is_of_an_earlier_version, write_backup
from launcher.place import Place, migrate, own_place, prepared
from launcher.serving import MANAGE, listen, serve, wanted_port
from launcher.steps import run, say

HELP = """usage: ./jubark start [--port N]
  Sets up what is missing, brings the tables up to this version (after a backup, where they are of an earlier
  one), and serves on 127.0.0.1 until Ctrl-C. The first time it prints the address of the first run.
  --port N         1024 to 65535; without it the first free port from 8417 on
  $JUBARK_DATA     folder for database, photographs, backups (docs/deploy.md names the rest)
  $JUBARK_DB_HOST  a PostgreSQL elsewhere, with $JUBARK_DB_PORT, _NAME, _USER, _PASSWORD, and for its tables
                   $JUBARK_DB_MIGRATOR, _MIGRATOR_PASSWORD
  $JUBARK_ORIGINS  https:// addresses of a proxy in front: then TLS is asked for"""


def start(arguments: list[str]) -> int:
    """./jubark start [--port N]: serves until Ctrl-C."""
    if set(arguments) & {"-h", "--help"}:
        print(HELP)
        return 0
    place = own_place()
    with listen(wanted_port(arguments, "start")) as listening, prepared(place):
        upgrade(place)
        env = place.environment()
        return serve(listening, place.cluster, env, lambda address: first_run(env, address))


def upgrade(place: Place) -> None:
    """The tables and the roles of this version; a database of an earlier one is backed up before."""
    if is_of_an_earlier_version(place):
        say("the database was made by an earlier version; a backup first")
        write_backup(place, place.home / "backups" / time.strftime("before-%Y%m%d-%H%M%S"))
    migrate(place, "see the message above; nothing was changed, and the backup holds what was there")
    # photographs that an earlier version took as they came
    run("photographs", [*MANAGE, "bare_photographs"], "see the message above", env=place.environment())


def first_run(env: dict[str, str], address: str) -> str:
    """What is said at start: how to make the organisation while there is none."""
    told = run("first run", [*MANAGE, "first_run", address], "see the message above", env=env).strip()
    if not told:
        return "Sign in there."
    return f"Nobody is here yet. Open this address once, and keep it to yourself until then:\n  {told}"


def token(arguments: list[str]) -> int:
    """./jubark token [ADDRESS]: the address of the first run again."""
    with prepared(own_place()) as env:
        told = run("first run", [*MANAGE, "first_run", *arguments], "run ./jubark start first", env=env)
    print(told.strip() or "There is an organisation already; an owner of it invites people.")
    return 0


def manage(arguments: list[str]) -> int:
    """./jubark manage COMMAND ...: a command of manage.py in the installation's own environment."""
    place = own_place()
    with prepared(place):
        role = cluster.MIGRATOR if arguments[:1] == ["migrate"] else cluster.APPLICATION
        return subprocess.run([*MANAGE, *arguments], env={**os.environ, **place.environment(role)}).returncode
