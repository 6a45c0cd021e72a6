"""One step of set-up: said, run, and when it fails, told with the reason and what to do."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from launcher import ROOT


class StepFailed(Exception):
    """A step that did not work."""

    def __init__(self, step: str, why: str, remedy: str) -> None:
        self.step, self.why, self.remedy = step, why, remedy
        super().__init__(f"{step}: {why}")


def say(text: str) -> None:
    """A line of progress on standard error."""
    print(f"jubark: {text}", file=sys.stderr, flush=True)


def run(
    step: str,
    command: list[str],
    remedy: str,
    *,
    env: dict[str, str] | None = None,
    cwd: Path = ROOT,
    quiet: bool = True,
    input_text: str | None = None,
) -> str:
    """Run a command of a step. Quiet: its output is kept and shown only when it fails. Returns its output."""
    say(step)
    try:
        done = subprocess.run(
            command,
            cwd=cwd,
            env={**os.environ, **(env or {})},
            text=True,
            input=input_text,
            stdout=subprocess.PIPE if quiet else None,
            stderr=subprocess.STDOUT if quiet else None,
        )
    except OSError as error:
        raise StepFailed(step, str(error), remedy) from None
    if done.returncode != 0:
        raise StepFailed(step, f"exit {done.returncode}: {_excerpt(done.stdout or 'see above')}", remedy)
    return done.stdout or ""


def _excerpt(output: str) -> str:
    """The first and the last lines of a long output: the reason stands at one of its ends."""
    lines = output.strip().splitlines()
    shown = (
        lines if len(lines) <= 40 else [*lines[:12], f"... {len(lines) - 37} lines more ...", *lines[-25:]]
    )
    return "\n       ".join(shown)
