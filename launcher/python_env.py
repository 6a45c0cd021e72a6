"""The virtual environment, from locked and hashed requirements."""

from __future__ import annotations

import hashlib
import sys
from pathlib import Path

from launcher import ROOT
from launcher.steps import run

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


def ensure_python(requirements: str) -> None:
    """Make .venv hold requirements/<requirements>.txt exactly enough to run; a stamp makes repeats quick."""
    locked = ROOT / "requirements" / f"{requirements}.txt"
    stamp = VENV / f".installed-{requirements}"
    digest = hashlib.sha256(locked.read_bytes() + sys.version.encode()).hexdigest()
    if PYTHON.exists() and stamp.exists() and stamp.read_text() == digest:
        return
    if not _made_with_this_python():
        run(
            "virtual environment",
            [sys.executable, "-m", "venv", "--clear", str(VENV)],
            "install Debian's python3-venv, then try again",
        )
    pip_install(locked)
    stamp.write_text(digest)


def _made_with_this_python() -> bool:
    """Whether .venv is there and of the Python that runs this."""
    said = VENV / "pyvenv.cfg"
    if not (PYTHON.exists() and said.exists()):
        return False
    executable = f"executable = {Path(sys.executable).resolve()}"
    return executable in said.read_text().splitlines()


def pip_install(locked: Path) -> None:
    """Install a locked file, hashes checked."""
    run(
        f"Python packages of {locked.relative_to(ROOT)}",
        [
            str(PYTHON),
            "-m",
            "pip",
            "install",
            "--disable-pip-version-check",
            "--require-hashes",
            "-q",
            "-r",
            str(locked),
        ],
        "see whether the package index is reached; remove .venv and try again when a download broke off",
    )
