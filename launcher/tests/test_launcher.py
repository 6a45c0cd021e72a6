"""The launcher's own decisions, without installing or starting anything."""

from __future__ import annotations

import contextlib
import io
import os
import socket
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from launcher import cluster, demo
from launcher.__main__ import main
from launcher.steps import StepFailed, run
from launcher.web_build import node_is_new_enough


class Launcher(unittest.TestCase):
    def test_node_versions_vite_runs_on(self) -> None:
        for version, fits in (
            ("v18.20.4", False),
            ("v20.18.0", False),
            ("v20.19.0", True),
            ("v21.7.0", False),
            ("v22.11.0", False),
            ("v22.12.0", True),
            ("v24.1.0", True),
            ("", False),
        ):
            self.assertEqual(node_is_new_enough(version), fits, version)

    def test_a_failing_step_says_which_why_and_what_to_do(self) -> None:
        with self.assertRaises(StepFailed) as caught, contextlib.redirect_stderr(io.StringIO()):
            run("a step", ["sh", "-c", "echo the reason; exit 3"], "do this")
        self.assertEqual((caught.exception.step, caught.exception.remedy), ("a step", "do this"))
        self.assertIn("exit 3: the reason", caught.exception.why)

    def test_unknown_commands_and_ports_are_refused(self) -> None:
        with contextlib.redirect_stdout(io.StringIO()) as told:
            self.assertEqual(main(["fly"]), 2)
        self.assertIn("demo", told.getvalue())
        for arguments in (["--port", "80"], ["--port", "x"], ["--host"]):
            with self.assertRaises(StepFailed):
                demo._wanted_port(arguments)


class Clusters(unittest.TestCase):
    def setUp(self) -> None:
        home = tempfile.TemporaryDirectory()
        self.addCleanup(home.cleanup)
        self.cluster = cluster.Cluster(Path(home.name), Path(home.name) / "s")
        self.cluster.data.mkdir()
        quiet = contextlib.redirect_stderr(io.StringIO())
        quiet.__enter__()
        self.addCleanup(quiet.__exit__, None, None, None)

    def test_a_pid_file_of_a_dead_or_another_process_is_stale_and_removed(self) -> None:
        for pid in ("999999999", str(os.getpid()), "", "nonsense"):
            file = self.cluster.data / "postmaster.pid"
            file.write_text(pid)
            self.assertFalse(cluster._running(self.cluster), pid)
            self.assertFalse(file.exists())

    def test_the_port_is_kept_while_it_is_free(self) -> None:
        with patch.object(cluster, "_share"):
            cluster._choose_port(self.cluster)
            kept = self.cluster.port
            cluster._choose_port(self.cluster)
            self.assertEqual(self.cluster.port, kept)
            with socket.socket() as other:
                other.bind(("127.0.0.1", kept))
                cluster._choose_port(self.cluster)
            self.assertNotEqual(self.cluster.port, kept)
