"""The command line as a person or a program meets it, and the promise of the standard library alone."""

from __future__ import annotations

import ast
import io
import json
import subprocess
import sys
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import mock

from jubark_core.cli.main import main
from jubark_core.door import OPERATIONS, run
from jubark_core.flora.load import shipped_flora
from jubark_core.tests.door_requests import SOUND

ROOT = Path(__file__).resolve().parents[2]
CASE = {"on": "2026-10-20", "observations": [{"character": "leaf.arrangement", "state": "opposite"}]}


def core(*arguments: str, given: str = "") -> subprocess.CompletedProcess[str]:
    """The command line in this process: the flora is read once, not for each command."""
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err), mock.patch("sys.stdin", io.StringIO(given)):
        try:
            code = main(list(arguments))
        except SystemExit as ended:  # argparse's own way out
            code = ended.code
    return subprocess.CompletedProcess(arguments, code, out.getvalue(), err.getvalue())


class CommandLine(unittest.TestCase):
    def test_it_is_a_process_of_its_own(self) -> None:
        command = [sys.executable, "-m", "jubark_core", "name", "-"]
        for given, code in ((json.dumps(CASE), 0), ("{", 2)):
            done = subprocess.run(command, cwd=ROOT, input=given, capture_output=True, text=True)
            self.assertEqual(done.returncode, code, done.stderr)
            self.assertEqual(done.stdout, core("name", "-", given=given).stdout)

    def test_a_case_gives_an_answer_and_a_list_a_list(self) -> None:
        answer = json.loads(core("name", "-", given=json.dumps(CASE)).stdout)
        self.assertLessEqual(
            {
                "candidates",
                "supported",
                "next_looks",
                "withheld",
                "come_back",
                "fit",
                "prior",
                "flora",
                "engine",
            },
            set(answer),
        )
        self.assertEqual(
            json.loads(core("name", "-", given=json.dumps([CASE, CASE])).stdout), [answer, answer]
        )

    def test_bad_input_exits_2_with_one_line(self) -> None:
        bad = {**CASE, "observations": [{"character": "leaf.leaflets", "values": [-1]}]}
        for given in (json.dumps(bad), "{", '{"on": NaN}', "[" * 100_000):
            done = core("name", "-", given=given)
            self.assertEqual(done.returncode, 2, done.stderr)
            self.assertEqual(len(done.stderr.strip().splitlines()), 1, done.stderr)
        self.assertIn("observations[0].values[0]: -1", core("name", "-", given=json.dumps(bad)).stderr)

    def test_every_operation_of_the_door_is_a_command_with_the_same_answer(self) -> None:
        listed = core("--help").stdout
        for operation in OPERATIONS:
            self.assertRegex(listed, rf"\n    {operation}\s")
        for operation in ("species-list", "check-visit", "upgrade"):
            answer = json.loads(core(operation, "-", given=json.dumps(SOUND[operation])).stdout)
            self.assertEqual(
                answer, json.loads(json.dumps(run(operation, SOUND[operation], shipped_flora())))
            )

    def test_explain_speaks_in_sentences(self) -> None:
        self.assertIn("Next:", core("explain", "-", given=json.dumps(CASE)).stdout)

    def test_a_compiled_flora_can_be_given(self) -> None:
        compiled = core("flora", "compile").stdout
        file = ROOT / "jubark_core" / "tests" / "no-such.json"
        self.assertEqual(core("name", "-", "--flora", str(file), given=json.dumps(CASE)).returncode, 2)
        self.assertEqual(json.loads(compiled)["schema"], 1)


class FloraOnTheCommandLine(unittest.TestCase):
    def test_find_tells_when_one_name_is_borne_by_several_kinds(self) -> None:
        said = core("flora", "find", "cedar").stdout
        self.assertIn("several kinds", said)
        for name in ("Juniperus virginiana", "Thuja occidentalis", "Calocedrus decurrens"):
            self.assertIn(name, said)
        self.assertNotIn("several kinds", core("flora", "find", "box-elder").stdout)

    def test_compare_shows_only_what_differs_and_show_knows_old_names(self) -> None:
        said = core("flora", "compare", "Fagus sylvatica", "fagus-grandifolia").stdout
        self.assertIn("Side veins", said)
        self.assertNotIn("Pith in a long cut", said)
        said = core("flora", "natives", "northern europe").stdout.splitlines()
        self.assertEqual(said[0], "Northern Europe: DEN FIN GRB IRE NOR SWE")
        self.assertIn("quercus-robur", said[1])
        self.assertIn("fagus-sylvatica (DEN GRB NOR SWE)", said[2])
        self.assertEqual(core("flora", "natives", "atlantis").returncode, 2)
        self.assertIn("Citrus trifoliata", core("flora", "show", "Poncirus trifoliata").stdout)
        done = core("flora", "show", "Fagus silvatica")
        self.assertEqual((done.returncode, "fagus-sylvatica" in done.stderr), (2, True))


class StandardLibraryOnly(unittest.TestCase):
    def test_the_core_imports_nothing_else(self) -> None:
        for path in (ROOT / "jubark_core").rglob("*.py"):
            if "tests" in path.parts:
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                names = (
                    [a.name for a in node.names]
                    if isinstance(node, ast.Import)
                    else [node.module or ""]
                    if isinstance(node, ast.ImportFrom)
                    else []
                )
                for name in names:
                    top = name.split(".")[0]
                    self.assertTrue(top == "jubark_core" or top in sys.stdlib_module_names, f"{path}: {name}")
