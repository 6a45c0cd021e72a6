"""Condition in one word, for the whole stem, and how the word is qualified wherever it is printed."""

from __future__ import annotations

# Word -> what earns it ('common practice', plain words; a limited visual look, a qualified assessor decides
# on risk).
CONDITION_WORDS = {
    "good": "full crown for its kind and place, no more than small dead twigs, sound bark and base",
    "fair": "some dead twigs or branch ends, small wounds or a thin crown, nothing that spreads fast",
    "poor": "large dead limbs, much of the crown thin or dead, decay, cavities or loose bark",
    "very_poor": "most of the crown dead or leafless in the growing season",
    "dead": "no live bud or leaf; in winter only with dry twigs and buds looked at",
    "not_seen": "could not be judged on this visit",
}


def qualified(word: str, at_most: bool | None, winter_view: bool | None) -> str:
    """The word as it is printed: what was hidden makes it 'at most', and out of leaf it is a 'winter view'.

    >>> qualified("very_poor", True, True)
    'at most very poor, winter view'
    """
    if word in ("", "not_seen"):
        return word.replace("_", " ")
    return f"{'at most ' if at_most else ''}{word.replace('_', ' ')}{', winter view' if winter_view else ''}"
