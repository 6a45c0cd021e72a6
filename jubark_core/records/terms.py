"""The glossary: terms of the trade with meaning and unit, by region where they differ."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path
from typing import NotRequired, TypedDict

from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import fields_of
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.things import CONVENTIONS
from jubark_core.records.words import REGIONS, shown_word

TERMS_FILE = Path(__file__).with_name("terms.toml")
HEAD = """# Glossary

Made from `jubark_core/records/` by `./jubark schema`; do not edit. What a term means on every screen, in the
files and in the API. Where the term differs by country, the region of the site chooses.
"""


class TermShown(TypedDict):
    """A term with its meaning; `regions` where the label differs there."""

    id: str
    label: str
    meaning: str
    unit: NotRequired[str]
    regions: NotRequired[dict[str, str]]


@lru_cache(maxsize=1)
def terms() -> list[TermShown]:
    """Every term: those of the file, the quantities, and the conventions of a site."""
    text = tomllib.loads(TERMS_FILE.read_text(encoding="utf-8"))
    found = [_term(name, term) for name, term in text.items()]
    known = {term["label"] for term in found}
    found += [
        {"id": name, "label": q.label, "meaning": q.meaning, "unit": q.unit} for name, q in QUANTITIES.items()
    ]
    found += [
        {"id": name, "label": what.label, "meaning": what.meaning}
        for name, what in CONVENTIONS.items()
        if what.label not in known
    ]
    return sorted(found, key=lambda term: (term["label"].lower(), term["id"]))


def _term(name: str, raw: dict[str, str]) -> TermShown:
    term: TermShown = {"id": name, "label": raw["label"], "meaning": raw["meaning"]}
    if "unit" in raw:
        term["unit"] = raw["unit"]
    if regions := {region: raw[region] for region in REGIONS if region in raw}:
        term["regions"] = regions
    return term


def in_region(term: TermShown, region: str) -> str:
    """The label of a term in a region."""
    return term.get("regions", {}).get(region, term["label"])


def glossary() -> str:
    """docs/glossary.md."""
    return "\n".join([HEAD, *_lines()]).rstrip() + "\n"


def _lines() -> Iterator[str]:
    yield "## Terms"
    yield ""
    yield "| term | meaning | unit | where it differs |"
    yield "|---|---|---|---|"
    for term in terms():
        other = ", ".join(
            f"{shown_word(region)}: {label}" for region, label in term.get("regions", {}).items()
        )
        yield f"| {term['label']} | {term['meaning']} | {term.get('unit', '')} | {other} |"
    yield ""
    yield "## What is recorded"
    for what in KINDS.values():
        if not fields_of(what.body):
            continue
        yield ""
        yield f"**{what.label}.** {' '.join((what.body.__doc__ or '').split())}"
        yield ""
        for name, field in fields_of(what.body).items():
            yield f"- {field.label} (`{name}`): {field.meaning}"
