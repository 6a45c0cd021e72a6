"""What goes to the browser: only what runs, under addresses that change with the content, the same each
time.
"""

from __future__ import annotations

import gzip
import hashlib
import io
import json
import tempfile
import unittest
import zipfile
from pathlib import Path

from launcher import ROOT
from launcher.core_files import (
    COMPILED_FROM,
    CORE,
    LEFT_OUT,
    RUNTIME_FILES,
    core_archive,
    ensure_core_files,
)
from launcher.steps import StepFailed


class CoreFiles(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.web, self.runtime = Path(folder.name) / "web", Path(folder.name) / "runtime"
        (self.web / "src" / "core").mkdir(parents=True)
        self.runtime.mkdir()
        for name in RUNTIME_FILES:
            (self.runtime / name).write_text(json.dumps({"packages": {"numpy": {}}, "name": name}))

    def listed(self) -> dict[str, object]:
        found: dict[str, object] = json.loads((self.web / "src" / "core" / "files.json").read_text())
        return found

    def test_every_file_listed_is_there_with_its_hash_and_compressed_beside_it(self) -> None:
        version = ensure_core_files(self.web, self.runtime)
        told = self.listed()
        self.assertEqual(told["version"], version)
        files = told["files"]
        assert isinstance(files, list)
        self.assertEqual(len(files), len(RUNTIME_FILES) + 1)
        for file in files:
            data = (self.web / "public" / file["path"].lstrip("/")).read_bytes()
            self.assertEqual((len(data), hashlib.sha256(data).hexdigest()), (file["bytes"], file["sha256"]))
            packed = self.web / "public" / (file["path"].lstrip("/") + ".gz")
            self.assertEqual(gzip.decompress(packed.read_bytes()), data)

    def test_the_same_content_has_the_same_address_and_another_another(self) -> None:
        first = ensure_core_files(self.web, self.runtime)
        runtime, core = self.listed()["runtime"], self.listed()["core"]
        self.assertEqual(ensure_core_files(self.web, self.runtime), first)
        (self.runtime / "pyodide.mjs").write_text("another")
        self.assertNotEqual(ensure_core_files(self.web, self.runtime), first)
        self.assertNotEqual(self.listed()["runtime"], runtime)
        self.assertEqual(self.listed()["core"], core)  # a new runtime leaves the core where it is
        shown = sorted(p.name for p in (self.web / "public" / "core").iterdir() if p.is_dir())
        self.assertEqual(len(shown), 1, "what is not listed any more is gone")

    def test_only_what_runs_is_in_the_archive(self) -> None:
        with zipfile.ZipFile(io.BytesIO(core_archive())) as archive:
            names = set(archive.namelist())
        self.assertLessEqual(
            {"jubark_core/desk.py", "jubark_core/door.py", "jubark_core/records/terms.toml"}, names
        )
        unwanted = [
            n
            for n in names
            if "/tests/" in n or "/cli/" in n or "/taxa/" in n or n.endswith("characters.toml")
        ]
        self.assertEqual(unwanted, [])

    def test_every_data_file_is_in_the_archive_but_the_sources_of_the_flora(self) -> None:
        """Two rooms may hold files of one name: what is left out goes by its whole path."""
        with zipfile.ZipFile(io.BytesIO(core_archive())) as archive:
            names = set(archive.namelist())
        data = {
            path.relative_to(ROOT).as_posix()
            for kind in ("*.toml", "*.json")
            for path in CORE.rglob(kind)
            if not LEFT_OUT & set(path.relative_to(ROOT).parts)
        }
        self.assertEqual(data - names, COMPILED_FROM)

    def test_a_runtime_that_lacks_a_file_is_told(self) -> None:
        (self.runtime / "pyodide.asm.wasm").unlink()
        with self.assertRaisesRegex(StepFailed, "lacks pyodide.asm.wasm"):
            ensure_core_files(self.web, self.runtime)
