"""Lint, types, contracts, build and tests: what a developer and CI both run."""

from __future__ import annotations

import time

from launcher import ROOT
from launcher.cluster import throw_away_cluster
from launcher.packages import TEST, ensure_packages
from launcher.python_env import PYTHON, VENV, ensure_python
from launcher.serving import MANAGE, SERVER
from launcher.steps import run, say
from launcher.web_build import ensure_build, ensure_modules, run_npm

TEST_ENV = {
    "DJANGO_SETTINGS_MODULE": "config.settings.test",
    "DJANGO_ALLOW_ASYNC_UNSAFE": "1",
    "JUBARK_TODAY": "2026-11-20",
}
PATHS = {"PYTHONPATH": f"{ROOT}:{SERVER}", "MYPYPATH": str(ROOT)}
BIN = VENV / "bin"


def prepare() -> None:
    """Everything the checks need."""
    ensure_packages(TEST)
    ensure_python("dev")
    ensure_modules()


def lint(arguments: list[str]) -> int:
    """Ruff and Biome."""
    prepare()
    fix = "--fix" in arguments
    run(
        "ruff format",
        [str(BIN / "ruff"), "format", *([] if fix else ["--check"]), "."],
        "./jubark lint --fix",
    )
    run("ruff check", [str(BIN / "ruff"), "check", *(["--fix"] if fix else []), "."], "mend the lines named")
    run_npm("biome", ["run", "format" if fix else "lint"])
    return 0


def types(arguments: list[str]) -> int:
    """mypy over core, launcher and server; tsc over the web."""
    prepare()
    run(
        "mypy (core, launcher)",
        [str(BIN / "mypy"), "jubark_core", "launcher"],
        "mend the lines named",
        env={**TEST_ENV, **PATHS},
    )
    run(
        "mypy (server)",
        [str(BIN / "mypy"), "--config-file", "../pyproject.toml", "apps", "config"],
        "mend the lines named",
        cwd=SERVER,
        env={**TEST_ENV, **PATHS},
    )
    run_npm("TypeScript types made from the API description", ["run", "schema:check"])
    run_npm("tsc", ["run", "types"])
    made = [*MANAGE, "makemigrations", "--check", "--dry-run"]
    run("migrations that are missing", made, "python3 server/manage.py makemigrations", env=TEST_ENV)
    return 0


def contracts() -> None:
    """Which room may import which."""
    run(
        "import contracts",
        [str(BIN / "lint-imports"), "--no-cache"],
        "an import crosses a wall; see docs/architecture.md",
        env={**TEST_ENV, **PATHS},
    )


def schema(arguments: list[str]) -> int:
    """What is made from the description of the records: two documents, the API description, and its types."""
    prepare()
    for name in ("records", "glossary"):
        made = run(f"docs/{name}.md", [str(PYTHON), "-m", "jubark_core", name], "see above", cwd=ROOT)
        (ROOT / "docs" / f"{name}.md").write_text(made, encoding="utf-8")
    run(
        "API description",
        [
            *MANAGE,
            "spectacular",
            "--validate",
            "--fail-on-warn",
            "--file",
            str(ROOT / "openapi" / "schema.yaml"),
        ],
        "mend the views named",
        env=TEST_ENV,
    )
    run_npm("TypeScript types", ["run", "schema"])
    return 0


def test(arguments: list[str]) -> int:
    """All that is not tagged slow; `slow`: what is, and the core's tests alone. Other arguments are handed
    to Django's test runner and skip the checks before it.
    """
    started = time.monotonic()
    slow = arguments[:1] == ["slow"]
    wanted = arguments[1:] if slow else arguments
    prepare()
    if not arguments:
        lint([])
        types([])
        contracts()
    ensure_build()
    with throw_away_cluster() as cluster:
        env = {**TEST_ENV, **cluster.environment(), **PATHS}
        if slow and not wanted:
            command = [
                str(PYTHON),
                "-W",
                "error",
                "-m",
                "unittest",
                "discover",
                "-s",
                "jubark_core",
                "-t",
                ".",
            ]
            run("jubark_core tests, alone and without the server", command, "mend what failed", quiet=False)
        tags = ["--tag", "slow"] if slow else [] if wanted else ["--exclude-tag", "slow"]
        run(
            "slow tests" if slow else "core, server, launcher and browser tests",
            [
                *MANAGE,
                "test",
                "--timing",
                "--parallel",
                "2",
                *tags,
                *(wanted or ["jubark_core.tests", "apps", "tests", "launcher"]),
            ],
            "mend what failed",
            env=env,
            cwd=SERVER,
            quiet=False,
        )
    say(f"all green in {time.monotonic() - started:.0f} s")
    return 0


def bench(arguments: list[str]) -> int:
    """Naming, timed: the core alone, and from an answer in the browser to the new ranking on screen. With
    `--stems N`: the records, on a generated site of so many stems.
    """
    prepare()
    if arguments:
        with throw_away_cluster() as cluster:
            env = {**TEST_ENV, **cluster.environment(), **PATHS, "JUBARK_DB_NAME": "postgres"}
            run("migrations", [*MANAGE, "migrate", "--no-input"], "see the message above", env=env)
            command = [*MANAGE, "measure_large_site", *arguments]
            run("records of a large site", command, "see the message above", env=env, cwd=SERVER, quiet=False)
        return 0
    run("naming", [str(PYTHON), "-m", "jubark_core", "bench"], "see the message above", quiet=False)
    ensure_build()
    with throw_away_cluster() as cluster:
        env = {**TEST_ENV, **cluster.environment(), **PATHS}
        command = [*MANAGE, "measure_year_plan"]
        run("plan of a year", command, "see the message above", env=env, cwd=SERVER, quiet=False)
        command = [*MANAGE, "test", "--pattern", "measure_*.py", "tests.browser"]
        env = {**TEST_ENV, **cluster.environment(), **PATHS}
        run("answer to ranking on screen", command, "see the message above", env=env, cwd=SERVER, quiet=False)
    return 0
