"""`python -m tests.reach`: the test modules that the files changed since the last commit can reach, one a
line.

By imports, also through other modules; within an app also what is reached through an address instead of an
import; and always what holds contracts. A change to the front end reaches its own tests and the browser's;
one to what every test stands on (requirements, settings, this runner) reaches everything.
"""

from __future__ import annotations

import subprocess
from pathlib import Path

import grimp
from django.conf import settings

ROOT = Path(settings.ROOT)
SERVER = ROOT / "server"
PACKAGES = ("jubark_core", "launcher", "apps", "config", "tests")
ALWAYS = ("tests.contract",)
EVERYTHING = ("jubark_core.tests", "apps", "tests", "launcher")
UNDER_ALL = (
    "requirements/",
    "server/config/settings/",
    "server/tests/runner.py",
    "pyproject.toml",
    "launcher/roles.sql",
)


def changed_files() -> list[str]:
    """Paths from the root, of what differs from the last commit or is new."""
    told = [
        subprocess.run(["git", *asked], cwd=ROOT, capture_output=True, text=True, check=True).stdout
        for asked in (["diff", "--name-only", "HEAD"], ["ls-files", "--others", "--exclude-standard"])
    ]
    return sorted({line for text in told for line in text.splitlines() if line})


def modules_of(path: str, known: set[str]) -> set[str]:
    """The modules a file is part of: itself, or for data those of its folder and of the nearest one that
    has any.
    """
    inside = Path(path).relative_to("server") if path.startswith("server/") else Path(path)
    parts = list(inside.with_suffix("").parts)
    if inside.suffix == ".py":
        name = ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
        return {name} & known
    while parts := parts[:-1]:
        folder = ".".join(parts)
        if folder in known:
            return {m for m in known if m == folder or m.startswith(folder + ".")}
    return set()


def reached_by(paths: list[str]) -> list[str]:
    """Labels of Django's runner for what a change of these files can reach."""
    if any(path.startswith(UNDER_ALL) for path in paths):
        return list(EVERYTHING)
    graph = grimp.build_graph(*PACKAGES, cache_dir=None)
    known = set(graph.modules)
    found: set[str] = set(ALWAYS)
    for path in paths:
        if path.startswith("web/"):
            found |= {"tests.browser", "tests.contract.test_web_units"}
            continue
        for module in modules_of(path, known):
            reach = {module} | graph.find_downstream_modules(module)
            if module.startswith("apps."):  # its views are reached by their addresses
                app = ".".join(module.split(".")[:2])
                reach |= {m for m in known if m.startswith(f"{app}.tests.")}
            found |= {m for m in reach if m.rsplit(".", 1)[-1].startswith("test_")}
    return sorted(m for m in found if not any(m.startswith(other + ".") for other in found))


if __name__ == "__main__":
    print("\n".join(reached_by(changed_files())))
