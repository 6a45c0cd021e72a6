"""Records as devices and files sent them, one folder for each record version. Written once, never changed."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
VERSIONS = (1, 2, 3, 4, 5, 6, 7)
BLOCK = "00000000-0000-4000-8000-00000000b10c"  # stands in every sample for the block they belong to


def outbox_items(version: int, block: str = BLOCK) -> list[dict[str, Any]]:
    """The items of a device of that version, in the order in which it sent them: every kind, every method."""
    text = (HERE / f"v{version}" / "outbox.json").read_text(encoding="utf-8")
    items: list[dict[str, Any]] = json.loads(text.replace(BLOCK, block))
    return items


def clock_items(version: int) -> list[dict[str, Any]]:
    """A visit of a far year to the first plant of `outbox_items`, and that its date was confirmed."""
    text = (HERE / f"v{version}" / "clock.json").read_text(encoding="utf-8")
    items: list[dict[str, Any]] = json.loads(text)
    return items


def draft(version: int) -> dict[str, Any]:
    """A visit that is being written, as the app of that version has it on the device."""
    found: dict[str, Any] = json.loads((HERE / f"v{version}" / "draft.json").read_text(encoding="utf-8"))
    return found


def block_file(version: int, ending: str) -> bytes:
    """The export of the block those items made."""
    return (HERE / f"v{version}" / f"block.{ending}").read_bytes()


def entries(version: int) -> list[dict[str, Any]]:
    """Every entry of the visits."""
    return [
        e
        for item in outbox_items(version)
        if item["kind"] == "visit"
        for e in item["body"].get("entries", [])
    ]
