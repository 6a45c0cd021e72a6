"""Word lists of the core as choices of a Django field."""

from collections.abc import Iterable

from jubark_core.records.words import shown_word


def choices(words: Iterable[str]) -> list[tuple[str, str]]:
    """Word and how it is shown."""
    return [(word, shown_word(word)) for word in words]
