"""Lint, types, contracts, build and tests: what a developer and CI both run, in lanes side by side."""

from __future__ import annotations

import os
import secrets
import threading
import time
from pathlib import Path

from launcher import ROOT
from launcher.cluster import Cluster, database_for, test_cluster
from launcher.packages import TEST, ensure_packages
from launcher.python_env import PYTHON, VENV, ensure_python
from launcher.serving import MANAGE, SERVER
from launcher.steps import StepFailed, run, say
from launcher.web_build import ensure_build, ensure_modules, run_npm

TEST_ENV = {
    "DJANGO_SETTINGS_MODULE": "config.settings.test",
    "DJANGO_ALLOW_ASYNC_UNSAFE": "1",
    "JUBARK_TODAY": "2026-11-20",
}
PATHS = {"PYTHONPATH": f"{ROOT}:{SERVER}", "MYPYPATH": str(ROOT)}
BIN = VENV / "bin"
# What is in a lane, as Django's runner takes it. A browser waits more than it works: twice as many processes
# as a machine has cores keep it busy.
LANES = {
    "core": ["jubark_core.tests"],
    "launcher": ["launcher.tests"],
    "server": ["apps", "tests", "--exclude-tag", "browser"],
    "browser": ["tests.browser"],
}
EVERYTHING = ["jubark_core.tests", "apps", "tests", "launcher"]
PROCESSES_A_CORE = 2
HELP = """usage: ./jubark test [slow [--fresh[=SEED]]] [WHAT ...]
  without WHAT     everything that is not slow: lint, types, contracts, build, and every lane side by side
  slow             what takes longer: kill -9, upgrade and restore, every address in every light, many
  examples;
                   and the core's tests alone. --fresh draws its examples anew and prints the seed
  static, core, launcher, server, browser    one lane
  --changed        what the files changed since the last commit can reach by imports, and the contracts
  PATH or LABEL    one part, as server/tests/sites, apps.plants, tests.browser.test_round.FiveStems"""


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
    """The tests, by lane, by what has changed, or by name; see HELP."""
    if set(arguments) & {"-h", "--help"}:
        print(HELP)
        return 0
    started = time.monotonic()
    slow = arguments[:1] == ["slow"]
    wanted = arguments[1:] if slow else arguments
    seed = _seed([a for a in wanted if a.startswith("--fresh")])
    wanted = [a for a in wanted if not a.startswith("--fresh")]
    prepare()
    say(f"tests run on {_python_version()}")
    if wanted == ["static"]:
        _static()
    elif slow:
        _slow(wanted, seed)
    elif wanted:
        labels = _changed() if wanted == ["--changed"] else _labels(wanted)
        of_lanes = wanted == ["--changed"] or any(word in LANES for word in wanted)
        _django([*labels, *(["--exclude-tag", "slow"] if of_lanes else [])], {})
    else:
        _side_by_side()
    say(f"all green in {time.monotonic() - started:.0f} s")
    return 0


def _side_by_side() -> None:
    """What looks at the sources beside what runs them: the front end is built first, for both need it."""
    ensure_build()
    failed: list[StepFailed] = []

    def look() -> None:
        try:
            _static()
        except StepFailed as error:
            failed.append(error)

    looking = threading.Thread(target=look)
    looking.start()
    try:
        _django([*EVERYTHING, "--exclude-tag", "slow"], {})
    finally:
        looking.join()
    if failed:
        raise failed[0]


def _static() -> None:
    began = time.monotonic()
    lint([])
    types([])
    contracts()
    say(f"lane static: {time.monotonic() - began:.0f} s")


def _slow(wanted: list[str], seed: str) -> None:
    env = {"JUBARK_LANE": "slow", **({"JUBARK_SEED": seed} if seed else {})}
    if seed:
        say(f"examples drawn anew with seed {seed}; the same again: ./jubark test slow --fresh={seed}")
    if not wanted:
        command = [str(PYTHON), "-W", "error", "-m", "unittest", "discover", "-s", "jubark_core", "-t", "."]
        run(
            "the core's tests, alone and without the server",
            command,
            "mend what failed",
            quiet=False,
            env=env,
        )
    _django([*(_labels(wanted) or ["apps", "tests", "launcher"]), "--tag", "slow", "--tag", "property"], env)


def _seed(given: list[str]) -> str:
    """The seed of the examples: none where they are always the same."""
    if not given:
        return ""
    _, _, number = given[0].partition("=")
    if number and not (number.isascii() and number.isdigit()):
        raise StepFailed("options", f"{given[0]} is not understood", "./jubark test slow --fresh=12345")
    return number or str(secrets.randbelow(2**31))


def _labels(wanted: list[str]) -> list[str]:
    """What Django's runner takes: a lane by its name, a path as a dotted name, the rest as it is."""
    found: list[str] = []
    for word in wanted:
        path = Path(word).resolve()
        if word in LANES:
            found += LANES[word]
        elif path.exists() and path.is_relative_to(ROOT):
            inside = path.relative_to(SERVER if path.is_relative_to(SERVER) else ROOT)
            found.append(".".join(inside.with_suffix("").parts))
        else:
            found.append(word)
    return found


def _changed() -> list[str]:
    """Test modules that the changed files can reach, and those that hold contracts."""
    command = [str(PYTHON), "-m", "tests.reach", str(ROOT)]
    told = run(
        "what the changes can reach", command, "see above", env={**TEST_ENV, **PATHS}, cwd=SERVER
    ).split()
    say(f"{len(told)} test modules: " + " ".join(told))
    contracts()
    return told


def _django(arguments: list[str], env: dict[str, str]) -> None:
    """Django's runner in as many processes as keep the machine busy."""
    ensure_build()
    given = [] if "--parallel" in arguments else ["--parallel", str(PROCESSES_A_CORE * (os.cpu_count() or 1))]
    with test_cluster() as cluster:
        run(
            "tests",
            [*MANAGE, "test", *given, *arguments],
            "mend what failed",
            env={**_test_env(cluster), **env},
            cwd=SERVER,
            quiet=False,
        )


def _test_env(cluster: Cluster) -> dict[str, str]:
    return {**TEST_ENV, **cluster.environment(), **PATHS, "JUBARK_TESTS_KEPT": str(cluster.home)}


def _python_version() -> str:
    return run(
        "Python", [str(PYTHON), "-c", "import sys; print(sys.base_prefix, sys.version.split()[0])"], ""
    ).strip()


def bench(arguments: list[str]) -> int:
    """Naming, timed: the core alone, and from an answer in the browser to the new ranking on screen. With
    `--stems N`: the records, on a generated site of so many stems.
    """
    prepare()
    if arguments:
        with test_cluster() as cluster, database_for(cluster, "bench"):
            env = _test_env(cluster) | {"JUBARK_DB_NAME": "bench"}
            run("migrations", [*MANAGE, "migrate", "--no-input"], "see the message above", env=env)
            command = [*MANAGE, "measure_large_site", *arguments]
            run("records of a large site", command, "see the message above", env=env, cwd=SERVER, quiet=False)
        return 0
    run("naming", [str(PYTHON), "-m", "jubark_core", "bench"], "see the message above", quiet=False)
    ensure_build()
    with test_cluster() as cluster:
        env = _test_env(cluster)
        command = [*MANAGE, "measure_year_plan"]
        run("plan of a year", command, "see the message above", env=env, cwd=SERVER, quiet=False)
        command = [*MANAGE, "test", "--pattern", "measure_*.py", "tests.browser"]
        run("answer to ranking on screen", command, "see the message above", env=env, cwd=SERVER, quiet=False)
    return 0
