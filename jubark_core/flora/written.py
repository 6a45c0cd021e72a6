"""A taxon written out: as TOML that the loader reads again, and as a page a person reads."""

from __future__ import annotations

import datetime
import json
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.notation import DOES_NOT_APPLY
from jubark_core.flora.words import FREQUENCY

PLAIN = (
    "rank", "common", "synonyms", "native", "introduced", "invasive", "habitat", "hardiness", "height_m", "spread_m", "longevity_y",
    "sexes", "cautions", "uses", "pests", "irritant", "parents", "rhythm", "inseparable_in", "shared_names", "winter_note", "protected_note",
)  # fmt: skip
TABLES = ("commonness", "stop_at", "reference")
WORD_OF = {weight: word for word, weight in FREQUENCY.items()}


def as_toml(flora: Flora, taxon: str) -> str:
    """The taxon as one genus file holds it, inherited characters written out. Raises KeyError for a taxon without description."""
    leaf = flora.taxa[taxon]
    genus = flora.genus_of[taxon] or ""
    parent = leaf["parent"]
    lines = ["[genus]", f"id = {_quoted(genus)}", ""]
    lines += ["[[taxon]]", f"id = {_quoted(taxon)}", f"name = {_quoted(leaf['name'])}"]
    if parent != genus:
        lines.append(f"section = {_quoted(parent)}")
    lines += [f"{key} = {_value(leaf[key])}" for key in PLAIN if leaf.get(key)]
    lines += [f"{key} = {_table(leaf[key])}" for key in TABLES if leaf.get(key)]
    lines.append("phenology = " + _table({event: _dates(value) for event, value in leaf["phenology"].items()}))
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
            lines.append("characters = { " + ", ".join(f"{cid} = {_shown(v)}" for cid, v in cultivar["states"].items()) + " }")
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


def _dates(value: int | list[int]) -> Any:
    """Day of the year (or a pair) as MM-DD of a common year."""
    if isinstance(value, list):
        return [_dates(v) for v in value]
    return (datetime.date(2025, 1, 1) + datetime.timedelta(days=value - 1)).strftime("%m-%d")


def _shown(variants: list[dict[str, Any]]) -> str:
    parts = {".".join(v[k] for k in ("stage", "season", "where") if k in v): _one(v) for v in variants}
    if set(parts) == {""}:
        return parts[""]
    return "{ " + ", ".join(f"{_quoted(key) if '.' in key else key} = {part}" for key, part in parts.items()) + " }"


def _one(variant: dict[str, Any]) -> str:
    if "low" in variant:
        return f"[{variant['low']:g}, {variant['high']:g}]"
    if "weights" not in variant:
        return _quoted(DOES_NOT_APPLY)
    return _table({state: WORD_OF.get(weight, _nearest(weight)) for state, weight in variant["weights"].items()})


def _nearest(weight: float) -> str:
    """The word nearest to a weight that a hybrid has from its parents."""
    return min(FREQUENCY, key=lambda word: abs(FREQUENCY[word] - weight))


def as_page(flora: Flora, taxon: str) -> str:
    """The taxon in lines a person reads: names, where, size, season, what it shows, what it is taken for."""
    leaf = flora.taxa[taxon]
    lines = [f"{leaf['name']} ({', '.join(leaf.get('common', ())) or leaf['rank']})"]
    lines.append(" > ".join(flora.taxa[a]["name"] for a in reversed(flora.ancestors(taxon)[1:])))
    for key, label in (
        ("synonyms", "also written"),
        ("cautions", "caution"),
        ("uses", "use"),
        ("pests", "troubled by"),
        ("winter_note", "in winter"),
    ):
        if leaf.get(key):
            lines.append(f"{label}: {'; '.join(leaf[key]) if isinstance(leaf[key], list) else leaf[key]}")
    if stop := leaf.get("stop_at"):
        lines.append(f"named no further than {stop['rank']}: {stop['why']}")
    lines.append("season: " + ", ".join(f"{event.replace('_', ' ')} {_said_dates(value)}" for event, value in leaf["phenology"].items()))
    for cid, variants in sorted(leaf["states"].items(), key=lambda item: list(flora.characters).index(item[0])):
        lines.append(f"  {flora.characters[cid]['label']}: {'; '.join(_said(flora, cid, v) for v in variants)}")
    for pair in leaf.get("look_alikes", ()):
        lines.append(
            f"told from {flora.taxa[pair['taxon']]['name']} by " + ", ".join(flora.characters[c]["label"].lower() for c in pair["by"])
        )
    return "\n".join(lines)


def _said_dates(value: int | list[int]) -> str:
    return " to ".join(_dates(v) for v in value) if isinstance(value, list) else str(_dates(value))


def _said(flora: Flora, cid: str, variant: dict[str, Any]) -> str:
    when = " ".join(variant[k] for k in ("stage", "season", "where") if k in variant)
    c = flora.characters[cid]
    if "low" in variant:
        text = f"{variant['low']:g} to {variant['high']:g} {c['unit']}"
    elif "weights" in variant:
        named = sorted(variant["weights"].items(), key=lambda item: -item[1])
        text = ", ".join(f"{c['labels'][s]} ({WORD_OF.get(w, _nearest(w))})" for s, w in named)
    else:
        text = "does not apply"
    return f"{when}: {text}" if when else text


def compared(flora: Flora, taxa: list[str], apart: list[str]) -> str:
    """A table of only what differs: one character a line, one taxon a column."""
    rows = [["", *[flora.taxa[t]["name"] for t in taxa]]]
    for cid in apart:
        rows.append(
            [
                flora.characters[cid]["label"],
                *["; ".join(_short(flora, cid, v) for v in flora.taxa[t]["states"].get(cid, ())) or "?" for t in taxa],
            ]
        )
    widths = [max(len(row[i]) for row in rows) for i in range(len(rows[0]))]
    return "\n".join("  ".join(cell.ljust(width) for cell, width in zip(row, widths, strict=True)).rstrip() for row in rows)


def _short(flora: Flora, cid: str, variant: dict[str, Any]) -> str:
    if "low" in variant:
        return f"{variant['low']:g}-{variant['high']:g} {flora.characters[cid]['unit']}"
    weights = variant.get("weights", {})
    most = [s for s, w in sorted(weights.items(), key=lambda item: -item[1]) if w >= 0.5] or list(weights)[:1]
    return ", ".join(flora.characters[cid]["labels"][s] for s in most) or "does not apply"
