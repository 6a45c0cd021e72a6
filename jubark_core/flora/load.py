"""Reads the shipped TOML files, checks them, and compiles them to the one JSON the engine uses.

The compiled flora is kept beside the user's cache, keyed by the hash of the files: reading hundreds of
TOML files at each call would be too slow. Only this module and the command line touch files.
"""

from __future__ import annotations

import hashlib
import json
import os
import tempfile
import tomllib
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.flora.checks import check_sources
from jubark_core.flora.compile import compile_flora
from jubark_core.flora.model import Flora
from jubark_core.flora.notation import flat

FLORA_DIR = Path(__file__).parent
MADE_WITH = (FLORA_DIR, FLORA_DIR.parent / "season", FLORA_DIR.parent)  # a test holds it against the imports
RECORD_WORDS = FLORA_DIR.parent / "records" / "words.py"  # stages and settings
CALENDARS = FLORA_DIR.parent / "season" / "calendars.toml"  # where dates were written for
GROUP_CORRELATIONS = FLORA_DIR.parent / "naming" / "group_correlations.json"


def source_files(folder: Path = FLORA_DIR) -> list[Path]:
    """Every file the compiled flora is made of and made with, in a fixed order: data, and the code of every
    room it runs through.
    """
    names = ("characters.toml", "areas.toml", "families.toml")
    fixed = [*(folder / name for name in names), GROUP_CORRELATIONS, CALENDARS]
    code = [path for room in MADE_WITH for path in sorted(room.glob("*.py"))]
    code.append(RECORD_WORDS)
    return fixed + code + sorted((folder / "taxa").glob("*.toml")) + own_files()


def read_toml(path: Path) -> dict[str, Any]:
    """One TOML file, its characters as `organ.name`; raises FloraError with file and line when it does not
    parse.
    """
    text = path.read_text(encoding="utf-8")
    try:
        flat: dict[str, Any] = with_flat_characters(tomllib.loads(text))
        return flat
    except tomllib.TOMLDecodeError as error:
        line = next((int(w) for w in str(error).replace(",", " ").split() if w.isdigit()), 0)
        raise FloraError(path.name, line, str(error)) from None


def with_flat_characters(data: Any) -> Any:
    """Every table called `characters`, however deep, with its dotted keys as one."""
    if isinstance(data, list):
        return [with_flat_characters(part) for part in data]
    if not isinstance(data, dict):
        return data
    return {
        key: flat(part) if key == "characters" and isinstance(part, dict) else with_flat_characters(part)
        for key, part in data.items()
    }


def compile_sources(folder: Path = FLORA_DIR) -> dict[str, Any]:
    """Read, check and compile. Raises FloraError naming file and line for the first broken rule."""
    digest = fingerprint(folder)
    taxa_files = {
        p.name: (read_toml(p), p.read_text(encoding="utf-8"))
        for p in sorted((folder / "taxa").glob("*.toml"))
    }
    shipped = {data["genus"]["id"]: data for data, _ in taxa_files.values()}
    for path in own_files():
        data = read_toml(path)
        taxa_files[f"own/{path.name}"] = (_extending(data, shipped), path.read_text(encoding="utf-8"))
    vocabulary = read_toml(folder / "characters.toml")
    areas = read_toml(folder / "areas.toml")
    families = read_toml(folder / "families.toml")
    check_sources(vocabulary, areas, families, taxa_files)
    correlations = json.loads(GROUP_CORRELATIONS.read_text(encoding="utf-8"))["correlations"]
    return compile_flora(
        vocabulary, areas, families, [data for data, _ in taxa_files.values()], correlations, digest
    )


def own_files() -> list[Path]:
    """Genus files of this installation's own, in the folder `taxa` of $JUBARK_FLORA; none where it is not
    set.
    """
    own = os.environ.get("JUBARK_FLORA")
    return sorted((Path(own) / "taxa").glob("*.toml")) if own else []


def _extending(data: dict[str, Any], shipped: dict[str, Any]) -> dict[str, Any]:
    """A file of one's own that adds to a shipped genus needs to say only the genus's id."""
    known = shipped.get(data.get("genus", {}).get("id"))
    if known is None:
        return data
    return {
        **data,
        "genus": {**known["genus"], **data["genus"]},
        "section": [*known.get("section", []), *data.get("section", [])],
    }


def local_notes(taxa: Mapping[str, Any]) -> dict[str, str]:
    """Taxon -> note of this installation, from notes.toml in $JUBARK_FLORA. Raises FloraError for a taxon the
    flora does not hold.
    """
    own = os.environ.get("JUBARK_FLORA")
    path = Path(own) / "notes.toml" if own else None
    if path is None or not path.exists():
        return {}
    notes: dict[str, str] = read_toml(path)
    for taxon, note in notes.items():
        if taxon not in taxa or not isinstance(note, str):
            line = (
                path.read_text(encoding="utf-8").count("\n", 0, path.read_text(encoding="utf-8").find(taxon))
                + 1
            )
            raise FloraError(
                path.name, line, f'{taxon!r}: a note is `taxon-id = "text"` with a taxon of the flora'
            )
    return notes


def fingerprint(folder: Path = FLORA_DIR) -> str:
    """Twelve hex digits over every source file: the version of the flora."""
    digest = hashlib.sha256()
    for path in source_files(folder):
        digest.update(f"{path.parent.name}/{path.name}".encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()[:12]


@lru_cache(maxsize=1)
def shipped_flora() -> Flora:
    """The flora this version ships, compiled once and kept in the user's cache folder."""
    cache = Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "jubark"
    kept = cache / f"flora-{fingerprint()}.json"
    try:
        compiled = json.loads(kept.read_text(encoding="utf-8"))
    except (OSError, ValueError):
        compiled = compile_sources()
        _keep(kept, compiled)
    return Flora(compiled, local_notes(compiled["taxa"]))


def _keep(path: Path, compiled: dict[str, Any]) -> None:
    """Write beside and rename, so that two processes never read half a file. A read-only home is no error."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile("w", dir=path.parent, delete=False, encoding="utf-8") as handle:
            json.dump(compiled, handle)
        os.replace(handle.name, path)
    except OSError:
        return


def flora_from_file(path: str | Path) -> Flora:
    """A compiled flora from one JSON file. Raises FloraError when it is not one."""
    try:
        compiled = json.loads(Path(path).read_text(encoding="utf-8"))
    except (OSError, ValueError) as error:
        raise FloraError(str(path), 0, f"not readable as a compiled flora: {error}") from None
    if not isinstance(compiled, dict) or not {"characters", "taxa"} <= compiled.keys():
        raise FloraError(
            str(path), 0, "a compiled flora has the keys characters, taxa, group_correlations, version"
        )
    return Flora(compiled)
