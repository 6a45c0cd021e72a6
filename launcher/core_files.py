"""The core for the browser: the Python runtime and the core's own files under addresses that carry their
hash, and the list of them that the app is built with.
"""

from __future__ import annotations

import gzip
import hashlib
import io
import json
import shutil
import zipfile
from pathlib import Path

from launcher import ROOT
from launcher.steps import StepFailed, say

CORE = ROOT / "jubark_core"
WEB = ROOT / "web"
RUNTIME = WEB / "node_modules" / "pyodide"
# what runs: no consoles, no maps of the source
RUNTIME_FILES = (
    "pyodide.mjs",
    "pyodide.asm.mjs",
    "pyodide.asm.wasm",
    "python_stdlib.zip",
    "pyodide-lock.json",
)
LEFT_OUT = {"tests", "cli", "taxa"}  # rooms of the core that the browser has no use for
COMPILED_FROM = {
    "jubark_core/flora/areas.toml",
    "jubark_core/flora/characters.toml",
    "jubark_core/flora/families.toml",
    "jubark_core/naming/group_correlations.json",
}  # the flora has them
FIXED_DATE = (2020, 1, 1, 0, 0, 0)  # so that the same files make the same archive


def ensure_core_files(web: Path = WEB, runtime: Path = RUNTIME) -> str:
    """web/public/core/ and the list of its files, as the core and the runtime stand. Returns the version."""
    missing = [name for name in RUNTIME_FILES if not (runtime / name).exists()]
    if missing:
        raise StepFailed(
            "core for the browser",
            f"{runtime} lacks {', '.join(missing)}",
            "remove web/node_modules and try again",
        )
    parts = {name: (runtime / name).read_bytes() for name in RUNTIME_FILES}
    parts["pyodide-lock.json"] = _bare_lock(parts["pyodide-lock.json"])
    archive = core_archive()
    runtime_hash, core_hash = digest(*parts.values()), digest(archive)
    files = {f"runtime-{runtime_hash}/{name}": data for name, data in parts.items()}
    files[f"core-{core_hash}.zip"] = archive
    version = digest(runtime_hash.encode(), core_hash.encode())
    told = {
        "version": version,
        "runtime": f"/core/runtime-{runtime_hash}/",
        "core": f"/core/core-{core_hash}.zip",
        "files": [
            {"path": f"/core/{path}", "bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()}
            for path, data in files.items()
        ],
    }
    listed = web / "src" / "core" / "files.json"
    text = json.dumps(told, indent=2) + "\n"
    folder = web / "public" / "core"
    if listed.exists() and listed.read_text() == text and all((folder / path).exists() for path in files):
        return version
    say("core for the browser")
    shutil.rmtree(folder, ignore_errors=True)
    for path, data in files.items():
        target = folder / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(data)
        # served beside it to whoever takes it compressed
        target.with_name(target.name + ".gz").write_bytes(gzip.compress(data, 9, mtime=0))
    listed.write_text(text)
    return version


def core_archive() -> bytes:
    """The core as one archive: code and data, without tests, command line and the sources of the flora."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive:
        for path in sorted(CORE.rglob("*")):
            inside = path.relative_to(ROOT)
            if path.suffix not in (".py", ".toml", ".json") or LEFT_OUT & set(inside.parts):
                continue
            if inside.as_posix() in COMPILED_FROM or path.name == "__main__.py":
                continue
            entry = zipfile.ZipInfo(str(inside), FIXED_DATE)
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, path.read_bytes())
    return held.getvalue()


def digest(*parts: bytes) -> str:
    """Twelve hex digits over the parts."""
    found = hashlib.sha256()
    for part in parts:
        found.update(hashlib.sha256(part).digest())
    return found.hexdigest()[:12]


def _bare_lock(lock: bytes) -> bytes:
    """The runtime's lock file without the packages that could be loaded with it: none is."""
    told = json.loads(lock)
    return json.dumps({**told, "packages": {}}, separators=(",", ":")).encode()
