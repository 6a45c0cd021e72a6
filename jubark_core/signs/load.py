"""The sign vocabulary, read once from its data file."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path


@lru_cache(maxsize=1)
def signs() -> dict[str, dict[str, str]]:
    """Sign id -> label, part of the plant, what often makes it."""
    text = (Path(__file__).parent / "signs.toml").read_text(encoding="utf-8")
    found: dict[str, dict[str, str]] = tomllib.loads(text)["sign"]
    return found
