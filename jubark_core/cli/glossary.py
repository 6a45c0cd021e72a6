"""docs/glossary.md: the terms of the records, and the words of every vocabulary with their meaning."""

from __future__ import annotations

from collections.abc import Iterator

from jubark_core.condition import scores
from jubark_core.condition.words import CONDITION_WORDS
from jubark_core.flora.load import shipped_flora
from jubark_core.records.terms import glossary
from jubark_core.records.words import shown_word
from jubark_core.signs.load import health, signs
from jubark_core.size.where import sentence, stem_forms


def whole_glossary() -> str:
    """The glossary with the words of every vocabulary."""
    return glossary() + "\n" + "\n".join(_sections()).rstrip() + "\n"


def _sections() -> Iterator[str]:
    yield from _list("Condition", ((shown_word(w), meaning) for w, meaning in CONDITION_WORDS.items()))
    yield from _list("Defects", ((d["label"], d["means"]) for d in scores.defects().values()))
    yield from _list("Signs and symptoms", ((s.label, s.how) for s in signs().values()))
    yield from _list("Causes", ((c.name, c.latin or c.kind) for c in health().causes.values()))
    forms = ((f["label"], sentence(name, "breast height")) for name, f in stem_forms().items())
    yield from _list("Forms of the stem", forms)
    flora = shipped_flora()
    for organ, of in flora.compiled["organs"].items():
        own = [c for c in flora.characters.values() if c["organ"] == organ]
        rows = ((c["label"], f"*{c['term']}*{_unit(c.get('unit', ''))}. {c['how']}") for c in own)
        yield from _list(f"Characters: {of['label'].lower()}", rows)


def _unit(unit: str) -> str:
    return f", in {unit}" if unit else ""


def _list(title: str, rows: Iterator[tuple[str, str]]) -> Iterator[str]:
    yield f"## {title}"
    yield ""
    for label, meaning in rows:
        yield f"- **{label}**: {meaning}"
    yield ""
