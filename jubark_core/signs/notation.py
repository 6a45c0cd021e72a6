"""The short notation of the cause files: "exit_hole_d usual 11-01..04-30 @trunk,limbs 3-4mm on:fraxinus"."""

from __future__ import annotations

import re

from jubark_core.records.words import SIGN_PLACES
from jubark_core.season.windows import is_window, read_window
from jubark_core.signs.model import CauseSign

OFTEN = {"always": 0.92, "usual": 0.7, "often": 0.45, "sometimes": 0.2, "seldom": 0.06}
_SIZE = re.compile(r"(\d+(?:\.\d+)?)-(\d+(?:\.\d+)?)mm", re.ASCII)


def read_sign(text: str) -> CauseSign:
    """A sign of a cause. Raises ValueError naming the word that is not understood."""
    sign, often, *more = text.split()
    if often not in OFTEN:
        raise ValueError(f"{text!r}: {often!r} is not one of {', '.join(OFTEN)}")
    windows: list[str] = []
    size = None
    where, on, not_on = frozenset[str](), frozenset[str](), frozenset[str]()
    again = False
    for word in more:
        if is_window(word):
            windows.append(word)
        elif measured := _SIZE.fullmatch(word):
            size = float(measured[1]), float(measured[2])
        elif word.startswith("@") and set(word[1:].split(",")) <= set(SIGN_PLACES):
            where = frozenset(word[1:].split(","))
        elif word.startswith("on:"):
            on = frozenset(word[3:].split(","))
        elif word.startswith("not:"):
            not_on = frozenset(word[4:].split(","))
        elif word == "again":
            again = True
        else:
            raise ValueError(f"{text!r}: {word!r} is not understood")
    window = read_window(" ".join(windows)) if windows else None
    return CauseSign(sign, OFTEN[often], window, where, size, on, not_on, again)
