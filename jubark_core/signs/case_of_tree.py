"""From what was recorded of a plant to the case that is diagnosed: its name, its signs, its leaf state."""

from __future__ import annotations

from typing import Any

from jubark_core.checks import require_list
from jubark_core.errors import InputError
from jubark_core.records.ailing import Sign
from jubark_core.records.bodies import KINDS, Determination
from jubark_core.records.fields import load
from jubark_core.records.judged import Condition
from jubark_core.tree_file.now import NAME_BY_A_PERSON

MOST_ENTRIES = 500
TOLD = ("determination", "sign", "condition")  # kinds of which a diagnosis takes account


def with_recorded(raw: dict[str, Any]) -> dict[str, Any]:
    """A case in which the entries of the visit, as they are being recorded, stand as name, signs and leaf
    state. A name that was given before stands where the visit gives none; one without a probability is a
    person's. Raises InputError naming the entry.
    """
    hosts = [_sure(host) for host in raw.get("host", [])] if isinstance(raw.get("host"), list) else None
    found = {key: value for key, value in raw.items() if key != "entries"}
    found |= {"host": hosts} if hosts is not None else {}
    signs: list[Any] = list(found.get("signs", []))
    for i, entry in enumerate(require_list("entries", raw["entries"], MOST_ENTRIES)):
        match _body(f"entries[{i}]", entry):
            case Determination(taxon=taxon, probability=probability) if taxon:
                found["host"] = [_sure({"taxon": taxon, "probability": probability})]
            case Sign() as sign:
                signs.append(_sign(entry["id"], sign))
            case Condition(leafless=True):
                found["in_leaf"] = False
    return {**found, "signs": signs}


def _body(place: str, entry: Any) -> Any:
    if not isinstance(entry, dict) or not isinstance(entry.get("id"), str):
        raise InputError(place, entry, "an entry with id, kind and body")
    if entry.get("kind") not in TOLD:
        return None
    try:
        return load(KINDS[entry["kind"]].body, entry.get("body", {}))
    except (AttributeError, KeyError, TypeError, ValueError):
        raise InputError(f"{place}.body", entry.get("body"), f"a body of the kind {entry['kind']}") from None


def _sure(host: Any) -> Any:
    """A name without a probability was given by a person; people err."""
    if not isinstance(host, dict) or host.get("probability") is not None:
        return host
    return {**host, "probability": NAME_BY_A_PERSON}


def _sign(entry: str, sign: Sign) -> dict[str, Any]:
    """A recorded sign as a case has it; what was not said is left out."""
    extent = sign.extent if sign.extent_percent is None else sign.extent_percent
    said: dict[str, Any] = {
        "none": not sign.present,
        "extent": extent,
        "where": list(sign.where),
        "side": sign.side,
        "since": sign.first_seen,
        "size_mm": sign.size_mm,
        "scale_photo": sign.scale_photo,
        "count": sign.number,
        "stage": sign.insect_stage,
        "certainty": sign.certainty,
    }
    found = {name: value for name, value in said.items() if value}
    if extent == 0:
        found["extent"] = 0
    if sign.wipes_off is not None:
        found["wipes_off"] = sign.wipes_off
    return {"id": entry, "sign": sign.sign, **found}
