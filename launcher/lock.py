"""Resolve requirements/*.in to locked, hashed *.txt files that carry no index address."""

from __future__ import annotations

import tempfile
import venv
from pathlib import Path

from launcher import ROOT
from launcher.steps import run

OPTIONS = [
    "--generate-hashes",
    "--no-emit-index-url",
    "--no-emit-find-links",
    "--no-emit-trusted-host",
    "--strip-extras",
    "--allow-unsafe",
    "-q",
]


def lock(arguments: list[str]) -> int:
    """./jubark lock [--upgrade]."""
    with tempfile.TemporaryDirectory() as folder:
        venv.create(folder, with_pip=True)
        python = str(Path(folder) / "bin" / "python")
        run(
            "pip-tools",
            [python, "-m", "pip", "install", "-q", "pip-tools"],
            "see whether the package index is reached",
        )
        for name in ("app", "dev", "node", "wasm"):
            command = [
                python,
                "-m",
                "piptools",
                "compile",
                *OPTIONS,
                *arguments,
                f"{name}.in",
                "-o",
                f"{name}.txt",
            ]
            run(f"requirements/{name}.txt", command, "see the message above", cwd=ROOT / "requirements")
    return 0
