"""How far apart the descriptions of two taxa lie, character by character."""

from __future__ import annotations

import math

from jubark_core.flora.shows import Shows

CLEAR = 0.5  # distance from which a character is said to separate two taxa


def separation(view: Shows, a: str, b: str, character: str, season_a: str, season_b: str) -> float:
    """How far two taxa differ in a character: total variation distance 0..1; 0 where either says nothing."""
    c = view.flora.characters[character]
    if min(view.applies(a, character, season_a), view.applies(b, character, season_b)) < 0.5:
        return 0.0
    if c["kind"] in ("count", "measure"):
        one, two = view.spread(a, character), view.spread(b, character)
        if one is None or two is None:
            return 0.0
        gap = abs(one[0] - two[0]) / math.sqrt((one[1] ** 2 + two[1] ** 2) / 2)
        return math.erf(gap / (2 * math.sqrt(2)))
    wa, wb = view.weights(a, character, season_a), view.weights(b, character, season_b)
    if wa is None or wb is None:
        return 0.0
    if c["kind"] == "many":
        return max(abs(wa[s] - wb[s]) for s in wa)
    return 0.5 * math.fsum(abs(wa[s] - wb[s]) for s in wa)


def clear_separators(view: Shows, a: str, b: str, season_a: str, season_b: str) -> list[str]:
    """Characters in which the two lie at least CLEAR apart, the clearest first; kept with the view, as pairs
    come up again and again.
    """
    key = (a, b, season_a + season_b)
    if key not in view.apart:
        gaps = {cid: separation(view, a, b, cid, season_a, season_b) for cid in view.flora.characters}
        view.apart[key] = sorted(
            (cid for cid, gap in gaps.items() if gap >= CLEAR), key=lambda cid: (-gaps[cid], cid)
        )
    return view.apart[key]
