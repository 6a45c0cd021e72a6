"""What a genus or section says for certain, each of its species must show: certainty is not inherited by
those that differ.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from jubark_core.flora.notation import DOES_NOT_APPLY, flat, frequencies, is_by_time

SILENT = ("-", DOES_NOT_APPLY)
HELD = ("always", "usually")


def uncertain_inheritance(data: dict[str, Any]) -> Iterator[tuple[str, str, str, str]]:
    """(genus or section, character, state said to be always there, species that says otherwise) of a file."""
    genus = data["genus"]
    says = {node["id"]: flat(node.get("characters", {})) for node in (genus, *data.get("section", ()))}
    parent = {s["id"]: s.get("parent", genus["id"]) for s in data.get("section", ())}
    for taxon in data.get("taxon", ()):
        nearer = [flat(taxon["characters"])]
        node: str | None = taxon.get("section", genus["id"])
        while node is not None:
            for cid, value in says[node].items():
                other = next((level[cid] for level in nearer if cid in level), None)
                for state in _always(value):
                    if other is not None and not _shows(other, state):
                        yield node, cid, state, taxon["id"]
            nearer.append(says[node])
            node = parent.get(node)


def _always(value: Any) -> list[str]:
    if isinstance(value, list) or value in SILENT or is_by_time(value):
        return []
    return [state for state, often in frequencies(value).items() if often == "always"]


def _shows(value: Any, state: str) -> bool:
    """Whether a species' own words leave the state at least usual; silence contradicts nothing."""
    if isinstance(value, list) or value in SILENT:
        return True
    parts = value.values() if is_by_time(value) else [value]
    return all(part in SILENT or frequencies(part).get(state) in HELD for part in parts)
