"""A taxon written out as TOML that the loader reads again."""

from __future__ import annotations

import datetime
import json
from typing import Any

from jubark_core.flora.areas import by_class
from jubark_core.flora.model import Flora
from jubark_core.flora.notation import DOES_NOT_APPLY
from jubark_core.flora.words import FREQUENCY

PLAIN = (
    "rank",
    "common",
    "synonyms",
    "native",
    "introduced",
    "invasive",
    "habitat",
    "hardiness",
    "height_m",
    "spread_m",
    "longevity_y",
    "sexes",
    "cautions",
    "uses",
    "pests",
    "irritant",
    "trade",
    "deadly_double_of",
    "parents",
    "rhythm",
    "inseparable_in",
    "shared_names",
    "winter_note",
    "protected_note",
)
TABLES = ("poison", "stop_at", "reference")


def as_toml(flora: Flora, taxon: str) -> str:
    """The taxon as one genus file holds it, inherited characters written out. Raises KeyError for a taxon
    without description.
    """
    leaf = flora.taxa[taxon]
    genus = flora.genus_of[taxon] or ""
    parent = leaf["parent"]
    lines = ["[genus]", f"id = {_quoted(genus)}", ""]
    lines += ["[[taxon]]", f"id = {_quoted(taxon)}", f"name = {_quoted(leaf['name'])}"]
    if parent != genus:
        lines.append(f"section = {_quoted(parent)}")
    lines += [f"{key} = {_value(leaf[key])}" for key in PLAIN if leaf.get(key)]
    lines += [f"{side} = {_table(by_class(leaf['commonness'][side]))}" for side in ("wild", "planted")]
    lines += [f"{key} = {_table(leaf[key])}" for key in TABLES if leaf.get(key)]
    lines.append(
        "phenology = " + _table({event: _dates(value) for event, value in leaf["phenology"].items()})
    )
    lines += [
        f"phenology_at.{anchor} = " + _table({event: _dates(value) for event, value in own.items()})
        for anchor, own in leaf.get("phenology_at", {}).items()
    ]
    pairs = ", ".join(_table(pair) for pair in leaf.get("look_alikes", ()))
    lines += [f"look_alikes = [{pairs}]", "", "[taxon.characters]"]
    lines += [f"{cid} = {_shown(variants)}" for cid, variants in sorted(leaf["states"].items())]
    for cultivar in leaf.get("cultivars", ()):
        lines += [
            "",
            "[[taxon.cultivar]]",
            f"kind = {_quoted(cultivar['kind'])}",
            f"share = {cultivar['share']}",
            f"bears = {cultivar['bears']}",
        ]
        if cultivar["states"]:
            lines.append(
                "characters = { "
                + ", ".join(f"{cid} = {_shown(v)}" for cid, v in cultivar["states"].items())
                + " }"
            )
    return "\n".join(lines) + "\n"


def _quoted(text: str) -> str:
    return json.dumps(text, ensure_ascii=False)


def _value(value: Any) -> str:
    if isinstance(value, dict):
        return _table(value)
    if isinstance(value, list):
        return "[" + ", ".join(_value(v) for v in value) + "]"
    return json.dumps(value, ensure_ascii=False)


def _table(table: dict[str, Any]) -> str:
    return "{ " + ", ".join(f"{key} = {_value(v)}" for key, v in table.items()) + " }"


def _dates(value: int | list[int]) -> str | list[str]:
    return [month_days(v) for v in value] if isinstance(value, list) else month_days(value)


def month_days(value: int) -> str:
    """Day of the year as MM-DD of a common year."""
    return (datetime.date(2025, 1, 1) + datetime.timedelta(days=value - 1)).strftime("%m-%d")


def _shown(variants: list[dict[str, Any]]) -> str:
    parts = {".".join(v[k] for k in ("stage", "season", "where") if k in v): _one(v) for v in variants}
    if set(parts) == {""}:
        return parts[""]
    return (
        "{ "
        + ", ".join(f"{_quoted(key) if '.' in key else key} = {part}" for key, part in parts.items())
        + " }"
    )


def _one(variant: dict[str, Any]) -> str:
    if "low" in variant:
        return f"[{variant['low']:g}, {variant['high']:g}]"
    if "weights" not in variant:
        return _quoted(DOES_NOT_APPLY)
    return _table({state: word_of(weight) for state, weight in variant["weights"].items()})


def word_of(weight: float) -> str:
    """The word of a weight, or the nearest one to what a hybrid has from its parents."""
    return min(FREQUENCY, key=lambda word: abs(FREQUENCY[word] - weight))
