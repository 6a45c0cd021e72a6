"""A taxon as it is described to a person: names, season, what it shows organ by organ, what it is taken for;
and several side by side.
"""

from __future__ import annotations

from typing import Annotated, Any, TypedDict, cast

from jubark_core.errors import InputError
from jubark_core.flora.areas import regions_said
from jubark_core.flora.model import Flora
from jubark_core.flora.toml_writer import month_days, word_of
from jubark_core.flora.words import MEMORY


class ShownCharacter(TypedDict):
    """What a taxon shows of a character, in words."""

    character: str
    label: str
    says: str
    source: Annotated[str, "A work, a plant that was observed, or `memory`: not read against any work yet."]
    said_of: Annotated[str, "The genus, section, family or parents of which it is said; empty: the taxon."]


class ShownOrgan(TypedDict):
    """What a taxon shows of an organ."""

    organ: str
    label: str
    rows: list[ShownCharacter]


class Separating(TypedDict):
    """A character that separates two look-alikes: this one's words beside the other's."""

    character: str
    label: str
    this: str
    other: str


class LookAlike(TypedDict):
    """A taxon it is taken for."""

    taxon: str
    name: str
    common: str
    rows: list[Separating]


class StopAt(TypedDict):
    """Where naming ends in the field."""

    rank: str
    why: str


class Species(TypedDict):
    """A taxon as it is described."""

    taxon: str
    name: str
    rank: str
    line: Annotated[list[str], "Family first."]
    common: list[str]
    synonyms: list[str]
    cautions: list[str]
    harm: Annotated[list[str], "Its poison, and the harmful plants taken for it, a sentence each."]
    uses: str
    pests: list[str]
    winter_note: str
    local_note: Annotated[str, "This installation's own note."]
    native: list[str]
    introduced: list[str]
    invasive: list[str]
    height_m: list[float] | None
    spread_m: list[float] | None
    longevity_y: list[float] | None
    hardiness: list[float] | None
    protected_note: str
    stop_at: StopAt | None
    organs: list[ShownOrgan]
    against: Annotated[list[str], "Works to read what comes from memory against."]
    read_by: Annotated[str, "Who did, and when; empty: nobody yet."]
    look_alikes: list[LookAlike]


WHERE = ("native", "introduced", "invasive")
GROWN = ("height_m", "spread_m", "longevity_y", "hardiness")
FACTS = ("common", "synonyms", "cautions", "uses", "pests", "winter_note")


def portrait(flora: Flora, taxon: str) -> Species:
    """The portrait of a described taxon: `facts`, `line` (family down), `stop_at`, `organs` with
    rows of label and words, `look_alikes` with rows of what parts the two. Raises InputError for a taxon the
    flora does not
    describe."""
    if taxon not in flora.taxa or "states" not in flora.taxa[taxon]:
        raise InputError("taxon", taxon, "a taxon the flora describes")
    leaf = flora.taxa[taxon]
    rows: dict[str, list[dict[str, str]]] = {}
    origin = _origin(flora, taxon)
    for cid, c in flora.characters.items():
        if variants := leaf["states"].get(cid):
            rows.setdefault(c["organ"], []).append(
                {
                    "character": cid,
                    "label": c["label"],
                    "says": "; ".join(_said(flora, cid, v) for v in variants),
                    "source": leaf.get("sources", {}).get(cid, origin["from"]),
                    "said_of": _said_of(flora, leaf, cid),
                }
            )
    found = {
        "taxon": taxon,
        "name": leaf["name"],
        "rank": leaf["rank"],
        "line": [flora.taxa[a]["name"] for a in reversed(flora.ancestors(taxon)[1:])],
        **{
            key: leaf.get(key) or ([] if key in ("common", "synonyms", "cautions", "pests") else "")
            for key in FACTS
        },
        "harm": _harm(flora, taxon),
        "local_note": flora.notes.get(taxon, ""),
        **{key: regions_said(leaf.get(key, []), flora.compiled.get("regions", [])) for key in WHERE},
        **{key: leaf.get(key) for key in GROWN},
        "protected_note": leaf.get("protected_note", ""),
        "stop_at": leaf.get("stop_at"),
        "organs": [
            {"organ": organ, "label": flora.compiled["organs"][organ]["label"], "rows": found}
            for organ, found in rows.items()
        ],
        "against": origin["against"],
        "read_by": origin["read_by"],
        "look_alikes": [_look_alike(flora, taxon, pair) for pair in leaf.get("look_alikes", ())],
    }
    return cast(Species, found)


def _origin(flora: Flora, taxon: str) -> dict[str, Any]:
    """Where the values of the taxon's file come from; those of one's own flora may not say."""
    said = [o for a in flora.ancestors(taxon) if (o := flora.compiled.get("origins", {}).get(a))]
    return said[0] if said else {"from": MEMORY, "against": [], "read_by": ""}


def _said_of(flora: Flora, leaf: dict[str, Any], cid: str) -> str:
    if cid in leaf.get("from_parents", ()):
        return " and ".join(flora.taxa[p]["name"] for p in leaf["parents"] if p in flora.taxa)
    of = next((node for node, cids in leaf.get("inherited", {}).items() if cid in cids), None)
    return flora.taxa[of]["name"] if of else ""


def _harm(flora: Flora, taxon: str) -> list[str]:
    own = flora.taxa[taxon].get("poison")
    said = [f"{_poison_said(own)}."] if own else []
    for node in (flora.taxa[t] for t in flora.leaves):
        if taxon in node.get("deadly_double_of", ()):
            said.append(
                f"Taken for it: {node['name']} ({node['common'][0]}). {_poison_said(node['poison'])}."
            )
    return said


def _poison_said(poison: dict[str, Any]) -> str:
    """'Deadly poison for people and dogs: all parts', never that a part is harmless."""
    *others, last = poison["harms"]
    harmed = f"{', '.join(others)} and {last}" if others else last
    return f"{poison['level'].capitalize()} poison for {harmed}: {poison['parts']}"


def _look_alike(flora: Flora, taxon: str, pair: dict[str, Any]) -> LookAlike:
    other = pair["taxon"]
    return {
        "taxon": other,
        "name": flora.taxa[other]["name"],
        "common": (flora.taxa[other].get("common") or [""])[0],
        "rows": [
            {
                "character": cid,
                "label": flora.characters[cid]["label"],
                "this": in_short(flora, taxon, cid),
                "other": in_short(flora, other, cid),
            }
            for cid in pair["by"]
        ],
    }


def as_page(flora: Flora, taxon: str) -> str:
    """The portrait in lines of text."""
    p = cast(dict[str, Any], portrait(flora, taxon))
    lines = [f"{p['name']} ({', '.join(p['common']) or p['rank']})", " > ".join(p["line"])]
    for key, label in (
        ("synonyms", "also written"),
        ("cautions", "caution"),
        ("harm", "harm"),
        ("uses", "use"),
        ("pests", "troubled by"),
        ("winter_note", "in winter"),
        ("local_note", "here"),
    ):
        if p[key]:
            lines.append(f"{label}: {'; '.join(p[key]) if isinstance(p[key], list) else p[key]}")
    for key in WHERE:
        if p[key]:
            lines.append(f"{key}: {'; '.join(p[key])}")
    for key, label, unit in (
        ("height_m", "grown height", "m"),
        ("spread_m", "grown spread", "m"),
        ("longevity_y", "lives", "years"),
    ):
        if p[key]:
            lines.append(f"{label}: {p[key][0]:g} to {p[key][1]:g} {unit}")
    if stop := p["stop_at"]:
        lines.append(f"named no further than {stop['rank']}: {stop['why']}")
    dated = flora.taxa[taxon]["phenology"].items()
    lines.append(
        "where written for: " + ", ".join(f"{e.replace('_', ' ')} {_said_dates(v)}" for e, v in dated)
    )
    lines += [f"  {row['label']}: {row['says']}" for organ in p["organs"] for row in organ["rows"]]
    lines += [
        f"told from {pair['name']} by " + ", ".join(row["label"].lower() for row in pair["rows"])
        for pair in p["look_alikes"]
    ]
    return "\n".join(lines)


def compared(flora: Flora, taxa: list[str], apart: list[str]) -> str:
    """A table of only what differs: one character a line, one taxon a column."""
    rows = [["", *[flora.taxa[t]["name"] for t in taxa]]]
    rows += [[flora.characters[cid]["label"], *[in_short(flora, t, cid) for t in taxa]] for cid in apart]
    widths = [max(len(row[i]) for row in rows) for i in range(len(rows[0]))]
    return "\n".join(
        "  ".join(cell.ljust(width) for cell, width in zip(row, widths, strict=True)).rstrip() for row in rows
    )


def in_short(flora: Flora, taxon: str, character: str) -> str:
    """What a taxon mostly shows of a character, in a few words; '?' where nothing is known."""
    return (
        "; ".join(_short(flora, character, v) for v in flora.taxa[taxon]["states"].get(character, ())) or "?"
    )


def _said_dates(value: int | list[int]) -> str:
    return " to ".join(month_days(v) for v in value) if isinstance(value, list) else month_days(value)


def _said(flora: Flora, cid: str, variant: dict[str, Any]) -> str:
    when = " ".join(variant[k] for k in ("stage", "season", "where") if k in variant)
    c = flora.characters[cid]
    if "low" in variant:
        text = f"{variant['low']:g} to {variant['high']:g} {c['unit']}"
    elif "weights" in variant:
        named = sorted(variant["weights"].items(), key=lambda item: -item[1])
        text = ", ".join(f"{c['labels'][s]} ({word_of(w)})" for s, w in named)
    else:
        text = "does not apply"
    return f"{when}: {text}" if when else text


def _short(flora: Flora, cid: str, variant: dict[str, Any]) -> str:
    if "low" in variant:
        return f"{variant['low']:g}-{variant['high']:g} {flora.characters[cid]['unit']}"
    weights = variant.get("weights", {})
    most = [s for s, w in sorted(weights.items(), key=lambda item: -item[1]) if w >= 0.5] or list(weights)[:1]
    joint = " and " if flora.characters[cid]["kind"] == "many" else " or "
    return joint.join(flora.characters[cid]["labels"][s] for s in most) or "does not apply"
