"""The container files run what the launcher runs: they are read here, not run."""

from __future__ import annotations

import json
import re
import unittest
from typing import Any

import yaml

from launcher import ROOT
from launcher.__main__ import COMMANDS
from launcher.cluster import APPLICATION, MIGRATOR
from launcher.packages import DEMO
from launcher.serving import MIGRATE, SERVE, WORK

IMAGE = (ROOT / "Containerfile").read_text(encoding="utf-8")
COMPOSE: dict[str, Any] = yaml.safe_load((ROOT / "compose.yaml").read_text(encoding="utf-8"))
DEPLOY = (ROOT / "docs" / "deploy.md").read_text(encoding="utf-8")
PYTHON = "../.venv/bin/python"
SETTINGS = "".join(p.read_text() for p in (ROOT / "server" / "config").rglob("*.py"))


def stages() -> list[str]:
    return re.split(r"^FROM ", IMAGE, flags=re.MULTILINE)[1:]


def variables(text: str) -> set[str]:
    return set(re.findall(r"JUBARK_[A-Z_]+", text))


class ContainerFiles(unittest.TestCase):
    def test_the_image_serves_as_the_launcher_does(self) -> None:
        command = re.search(r"^CMD (\[.+\])$", IMAGE, re.MULTILINE)
        assert command is not None
        self.assertEqual(json.loads(command[1]), [PYTHON, *SERVE])
        self.assertIn("WORKDIR /srv/jubark/server", stages()[-1])
        self.assertIn("/api/ready/", IMAGE)

    def test_what_it_builds_is_a_command_of_the_launcher(self) -> None:
        for command in re.findall(r"python3 -m launcher (\w+)", IMAGE):
            self.assertIn(command, COMMANDS)

    def test_it_has_debians_libraries_the_launcher_would_install_and_not_its_database(self) -> None:
        [run] = re.findall(r"--no-install-recommends \\\n(.+?) && rm", stages()[-1], re.DOTALL)
        libraries = {p for p in DEMO if not p.startswith("postgresql")}
        self.assertLessEqual(libraries, set(run.split()))
        self.assertFalse([p for p in run.split() if p.startswith("postgresql")])

    def test_it_runs_under_an_account_of_its_own(self) -> None:
        self.assertRegex(stages()[-1], r"(?m)^USER jubark$")

    def test_the_services_run_the_launchers_commands_in_its_order(self) -> None:
        services = COMPOSE["services"]
        self.assertEqual(services["migrate"]["command"], [PYTHON, "manage.py", *MIGRATE])
        self.assertEqual(services["serve"]["command"], [PYTHON, *SERVE])
        self.assertEqual(services["work"]["command"], [PYTHON, "manage.py", *WORK])
        waits = services["serve"]["depends_on"]["migrate"]["condition"]
        self.assertEqual(waits, "service_completed_successfully")
        self.assertEqual(services["migrate"]["depends_on"]["roles"]["condition"], waits)
        self.assertEqual(services["roles"]["depends_on"]["database"]["condition"], "service_healthy")
        self.assertIn("./launcher/roles.sql:/roles.sql:ro", services["roles"]["volumes"])
        served, migrated = (services[name]["environment"]["JUBARK_DB_USER"] for name in ("serve", "migrate"))
        self.assertEqual((served, migrated), (APPLICATION, MIGRATOR))

    def test_the_database_is_the_version_the_launcher_installs(self) -> None:
        [installed] = {p.split("-")[1] for p in DEMO if p.startswith("postgresql")}
        self.assertIn(f":{installed}-", COMPOSE["services"]["database"]["image"])

    def test_only_loopback_is_opened_and_photographs_outlive_a_container(self) -> None:
        serve = COMPOSE["services"]["serve"]
        self.assertTrue(all(port.startswith("127.0.0.1:") for port in serve["ports"]))
        [mounted] = serve["volumes"]
        media = re.search(r"JUBARK_MEDIA=(\S+)", IMAGE)
        assert media is not None
        self.assertEqual(mounted.split(":")[1], media[1])
        self.assertIn(mounted.split(":")[0], COMPOSE["volumes"])

    def test_every_variable_is_one_the_settings_read_and_the_page_explains(self) -> None:
        used = variables(IMAGE) | variables(json.dumps(COMPOSE["services"]))
        self.assertEqual(used - variables(SETTINGS), set(), "set, and read by nobody")
        self.assertEqual(used - variables(DEPLOY), set(), "not explained")
        read = variables(SETTINGS) - {"JUBARK_TODAY"}  # of the demonstration
        self.assertEqual(read - variables(DEPLOY), set(), "read, and not explained")


class EveryCommand(unittest.TestCase):
    def test_is_named_where_the_launcher_is_called(self) -> None:
        named = set(re.findall(r"\b[a-z]+\b", (ROOT / "jubark").read_text().splitlines()[1]))
        self.assertLessEqual(set(COMMANDS), named)
