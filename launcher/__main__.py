"""`python3 -m launcher COMMAND`."""

from __future__ import annotations

import signal
import sys
from collections.abc import Callable

from launcher import backup, checks, demo, lock, place, start
from launcher.steps import StepFailed

COMMANDS: dict[str, tuple[Callable[[list[str]], int], str]] = {
    "demo": (demo.demo, "set everything up, serve the demonstration site on loopback, stop with Ctrl-C"),
    "start": (
        start.start,
        "set everything up and serve an installation of your own; the first run is printed",
    ),
    "token": (start.token, "print the address of the first run again"),
    "manage": (start.manage, "a command of server/manage.py in your installation, as create_organisation"),
    "backup": (backup.backup, "write an installation's database and photographs into a folder"),
    "restore": (backup.restore, "read such a folder into an empty installation"),
    "test": (checks.test, "set everything up, then lint, types, import contracts, build and every test"),
    "lint": (checks.lint, "format and lint checks; --fix mends what can be mended"),
    "types": (checks.types, "mypy and tsc"),
    "schema": (checks.schema, "write openapi/schema.yaml and the TypeScript types made from it"),
    "bench": (checks.bench, "time naming, printed as ratios in one run"),
    "build": (place.build, "everything an image needs: Python packages and the front end, no database"),
    "lock": (lock.lock, "resolve and hash the requirements anew"),
    "reset": (demo.reset, "throw the demonstration's database and files away"),
}


def main(arguments: list[str]) -> int:
    """Run one command."""
    if not arguments or arguments[0] not in COMMANDS:
        print(
            "usage: ./jubark COMMAND\n"
            + "\n".join(f"  {name:8} {text}" for name, (_, text) in COMMANDS.items())
        )
        return 0 if arguments in ([], ["--help"], ["-h"]) else 2
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(143))  # so that clean-up runs
    try:
        return COMMANDS[arguments[0]][0](arguments[1:])
    except StepFailed as failed:
        print(
            f"\njubark: the step '{failed.step}' failed.\n  Why: {failed.why}\n  What to do: {failed.remedy}",
            file=sys.stderr,
        )
        return 1
    except KeyboardInterrupt:
        print("\njubark: stopped.", file=sys.stderr)
        return 130


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
