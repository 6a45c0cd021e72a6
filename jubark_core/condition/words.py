"""Condition in one word, for the whole stem. The graded sheet by parts comes with the condition issue."""

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
