"""The demonstration: everything set up, served on one loopback address, stopped cleanly."""

from __future__ import annotations

import shutil
import sys

from launcher import cluster
from launcher.place import demo_place, migrate, prepared
from launcher.serving import MANAGE, listen, serve, wanted_port
from launcher.steps import StepFailed, run, say

HELP = """usage: ./jubark demo [--port N]
  Sets up what is missing, makes the invented site Brindle Fold, and serves it on 127.0.0.1 until Ctrl-C.
  --port N   1024 to 65535; without it the first free port from 8417 on
  $JUBARK_DATA names the folder for database and photographs,
  $JUBARK_TODAY (YYYY-MM-DD) fixes the demonstration's date."""


def demo(arguments: list[str]) -> int:
    """./jubark demo [--port N]: serves until Ctrl-C."""
    if set(arguments) & {"-h", "--help"}:
        print(HELP)
        return 0
    remedy = "./jubark reset, then try again"
    # first of all: a port that is taken is said before anything is set up
    place = demo_place()
    with listen(wanted_port(arguments)) as listening, prepared(place):
        migrate(place, remedy)
        # its rows are written as a file is read in: by the owner, past triggers that look at one row at a
        # time
        made = place.environment(cluster.OWNER)
        told = run("demonstration site", [*MANAGE, "demo_site"], remedy, env=made)
        return serve(listening, place.cluster, place.environment(), lambda _: told.strip().splitlines()[-1])


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
