"""The web's own tests, on the vocabulary of this server and the committed samples."""

from __future__ import annotations

import json
import os
import subprocess
from pathlib import Path
from tempfile import TemporaryDirectory

from django.conf import settings
from django.test import SimpleTestCase

from jubark_core.door import run
from jubark_core.flora.load import shipped_flora
from launcher.web_build import npm

LONGEST_S = 300


class WebUnits(SimpleTestCase):
    def test_all_of_them_pass(self) -> None:
        command, env = npm()
        with TemporaryDirectory() as folder:
            file = Path(folder) / "vocabulary.json"
            file.write_text(json.dumps(run("vocabulary", {}, shipped_flora())))
            done = subprocess.run(
                [*command, "run", "--silent", "test"],
                cwd=Path(settings.ROOT) / "web",
                env={**os.environ, **env, "JUBARK_VOCABULARY": str(file), "CI": "1", "NO_COLOR": "1"},
                capture_output=True,
                text=True,
                timeout=LONGEST_S,
            )
        self.assertEqual(done.returncode, 0, f"{done.stdout[-6000:]}\n{done.stderr[-3000:]}")
        self.assertRegex(done.stdout, r"Tests +\d+ passed")
