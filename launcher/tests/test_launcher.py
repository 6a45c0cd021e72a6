"""The launcher's own decisions, without installing or starting anything."""

from __future__ import annotations

import contextlib
import fcntl
import io
import os
import socket
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from launcher import cluster, demo, place, serving
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
        for arguments in (["--port", "80"], ["--port", "x"], ["--port", "²²²²"], ["--port"], ["--host"]):
            with self.assertRaises(StepFailed):
                serving.wanted_port(arguments)

    def test_f17_help_is_no_error(self) -> None:
        for arguments in (["demo", "-h"], ["demo", "--help"], ["--help"], ["-h"]):
            with contextlib.redirect_stdout(io.StringIO()) as told:
                self.assertEqual(main(arguments), 0)
            self.assertIn("usage: ./jubark", told.getvalue())

    def test_f11_a_port_that_is_taken_is_said_before_anything_is_set_up(self) -> None:
        with (
            socket.socket() as other,
            patch.object(place, "ensure_packages", side_effect=AssertionError("set up too early")),
        ):
            other.bind(("127.0.0.1", 0))
            other.listen()
            port = other.getsockname()[1]
            with self.assertRaises(StepFailed) as caught:
                demo.demo(["--port", str(port)])
        self.assertIn(f"port {port} is taken", caught.exception.why)
        self.assertIn("--port N", caught.exception.remedy)

    def test_without_a_port_the_first_free_one_is_taken(self) -> None:
        with serving.listen(None) as first, serving.listen(None) as second:
            self.assertNotEqual(first.getsockname(), second.getsockname())


class Watching(unittest.TestCase):
    def setUp(self) -> None:
        self.listening = serving.listen(None)
        self.addCleanup(self.listening.close)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.python = Path(folder.name) / "python"
        quiet = contextlib.redirect_stderr(io.StringIO())
        quiet.__enter__()
        self.addCleanup(quiet.__exit__, None, None, None)

    def standing_in(self, script: str) -> serving.Watched:
        """Processes that do what the script says instead of serving."""
        self.python.write_text(f"#!/bin/sh\n{script}\n")
        self.python.chmod(0o755)
        watched = serving.Watched(self.listening, {})
        self.addCleanup(watched.stop)
        return watched

    def test_f10_a_process_that_dies_is_started_again(self) -> None:
        with patch.object(serving, "PYTHON", self.python), patch.object(serving, "WORKER_AGAIN_S", 0.0):
            watched = self.standing_in("exec sleep 60")
            watched.keep_up()
            first = list(watched.processes)
            self.assertEqual(len(first), serving.PROCESSES + 1, "and one that makes plans")
            for at in (0, -1):
                first[at].kill()
                first[at].wait()
            watched.keep_up()
            self.assertEqual(len([p for p in watched.processes if p.poll() is None]), len(first))
            self.assertIn(first[1], watched.processes)
            commands = [p.args for p in watched.processes]
            self.assertEqual(sum("worker" in c for c in commands if isinstance(c, list)), 1)

    def test_f10_a_worker_that_dies_with_the_database_waits_and_ends_nothing(self) -> None:
        script = 'case "$*" in *worker*) exit 1;; *) exec sleep 60;; esac'
        with patch.object(serving, "PYTHON", self.python), patch.object(serving, "WORKER_AGAIN_S", 0.0):
            watched = self.standing_in(script)
            for _ in range(serving.MOST_RESTARTS + 4):
                watched.keep_up()
                watched.processes[-1].wait()
        with patch.object(serving, "WORKER_AGAIN_S", 60.0):
            for _ in range(2):
                watched.keep_up()
        self.assertEqual(len(watched.processes), serving.PROCESSES, "the next one comes after a while")

    def test_f10_processes_that_die_at_once_end_the_demonstration_with_a_reason(self) -> None:
        with patch.object(serving, "PYTHON", self.python):
            watched = self.standing_in("exit 3")
            with self.assertRaises(StepFailed) as caught:
                for _ in range(serving.MOST_RESTARTS + 2):
                    watched.keep_up()
                    for process in watched.processes:
                        process.wait()
        self.assertIn("ended within a minute", caught.exception.why)


class Clusters(unittest.TestCase):
    def setUp(self) -> None:
        home = tempfile.TemporaryDirectory()
        self.addCleanup(home.cleanup)
        self.cluster = cluster.Cluster(Path(home.name), Path(home.name) / "s")
        self.cluster.data.mkdir()
        quiet = contextlib.redirect_stderr(io.StringIO())
        quiet.__enter__()
        self.addCleanup(quiet.__exit__, None, None, None)

    def test_f10_a_stale_pid_file_is_left_to_postgresql(self) -> None:
        """Removed from under a living server it would cost the data; PostgreSQL itself knows whether it is
        stale.
        """
        for pid in ("999999999", str(os.getpid()), "", "nonsense"):
            file = self.cluster.data / "postmaster.pid"
            file.write_text(pid)
            with patch.object(cluster, "answers", return_value=False):
                self.assertFalse(cluster._running(self.cluster), pid)
            self.assertEqual(file.read_text(), pid)

    def test_f10_the_last_of_several_users_stops_the_cluster(self) -> None:
        did: list[str] = []
        note = {
            name: patch.object(cluster, name, side_effect=lambda *_, name=name, **__: did.append(name))
            for name in ("start_patiently", "stop")
        }
        with note["start_patiently"], note["stop"], patch.object(cluster, "_share"):
            with cluster.in_use(self.cluster):
                with cluster.in_use(self.cluster):
                    self.assertTrue(cluster.used(self.cluster))
                self.assertEqual(did, ["start_patiently"] * 2)
                self.assertTrue(cluster.used(self.cluster))
            self.assertEqual(did, ["start_patiently", "start_patiently", "stop"])
            self.assertFalse(cluster.used(self.cluster))

    def test_f10_a_database_that_does_not_come_at_once_is_given_time_and_then_said(self) -> None:
        failed = StepFailed(
            "database cluster", "pre-existing shared memory block is still in use", "read the log"
        )
        with (
            patch.object(cluster.time, "sleep"),
            patch.object(cluster, "start", side_effect=[failed, failed, None]) as start,
        ):
            cluster.start_patiently(self.cluster)
            self.assertEqual(start.call_count, 3)
        with patch.object(cluster.time, "sleep"), patch.object(cluster, "start", side_effect=failed):
            with self.assertRaises(StepFailed) as caught:
                cluster.start_patiently(self.cluster)
            self.assertIn("MB are free on the disk", caught.exception.remedy)

    def test_a_database_of_an_earlier_version_is_set_aside_by_name_and_never_dropped(self) -> None:
        (self.cluster.home / "password").write_text("x")
        (self.cluster.home / "port").write_text("1")
        for earlier, steps in ((True, ["database", "set aside", "new database"]), (False, ["database"])):
            ran: list[list[str]] = []

            def note(
                step: str, command: list[str], *_: object, ran: list[list[str]] = ran, **__: object
            ) -> str:
                ran.append([step, command[-1]])
                return "1"

            was = patch.object(cluster, "_is_of_an_earlier_version", return_value=earlier)
            with was, patch.object(cluster, "run", side_effect=note):
                cluster.ensure_database(self.cluster)
            self.assertEqual(len(ran), len(steps))
            self.assertTrue(all(said in step for (step, _), said in zip(ran, steps, strict=True)), ran)
            self.assertFalse(any("DROP" in sql for _, sql in ran))
            if earlier:
                self.assertRegex(ran[1][1], r"RENAME TO jubark_before_\d{8}_\d{6}$")

    def test_f10_a_user_that_was_killed_is_no_user(self) -> None:
        users = self.cluster.home / "users"
        hold = (
            "import fcntl, sys, time; f = open(sys.argv[1], 'a'); fcntl.flock(f, fcntl.LOCK_SH); "
            "print('held', flush=True); time.sleep(60)"
        )
        with subprocess.Popen([sys.executable, "-c", hold, str(users)], stdout=subprocess.PIPE) as holder:
            assert holder.stdout is not None
            holder.stdout.readline()
            self.assertTrue(cluster.used(self.cluster))
            holder.kill()
            holder.wait()
            self.assertFalse(cluster.used(self.cluster))

    def test_f17_reset_asks_and_never_wipes_under_a_running_demonstration(self) -> None:
        kept = self.cluster.home / "data" / "PG_VERSION"
        kept.write_text("15")
        with (
            patch.object(cluster, "demo_cluster", return_value=self.cluster),
            patch.object(cluster, "data_home", return_value=self.cluster.home),
            patch.object(cluster, "stop"),
        ):
            with self.assertRaises(StepFailed), (self.cluster.home / "users").open("a") as users:
                fcntl.flock(users, fcntl.LOCK_SH)
                demo.reset(["--yes"])
            with self.assertRaises(StepFailed), patch.object(sys, "stdin", io.StringIO("yes\n")):
                demo.reset([])  # nobody at a terminal: nobody agreed
            with (
                patch.object(demo.sys.stdin, "isatty", return_value=True),
                patch("builtins.input", return_value="no"),
            ):
                self.assertRaises(StepFailed, demo.reset, [])
            self.assertTrue(kept.exists())
            self.assertRaises(StepFailed, demo.reset, ["--all"])
            self.assertEqual(demo.reset(["--yes"]), 0)
            self.assertFalse(kept.exists())

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
