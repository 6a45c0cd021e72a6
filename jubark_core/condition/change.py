"""How a stem does against its kind on this site, and what changed since the last visit, in words."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from jubark_core.condition.scores import NOT_SEEN, WORDS
from jubark_core.condition.words import qualified
from jubark_core.units import shown

FEWEST_PEERS = 5


def vigour(growth_cm_a_year: float, peers: Sequence[float], units: str = "metric") -> dict[str, Any]:
    """Where a stem's diameter growth lies among the same kind on this site.

    peers: growth of the others, cm a year. Returns share (of peers that grow slower or as much, 0..1; None
    for fewer than five), n, says. Comparison only: age and place are not taken out.
    """
    n = len(peers)
    if n < FEWEST_PEERS:
        return {"share": None, "n": n, "says": f"Too few of its kind measured twice here to compare ({n})."}
    share = (sum(p < growth_cm_a_year for p in peers) + 0.5 * sum(p == growth_cm_a_year for p in peers)) / n
    word = (
        "slower than most"
        if share < 0.2
        else "faster than most"
        if share > 0.8
        else "about as its kind does here"
    )
    said = shown(growth_cm_a_year, "cm", units, 2)
    return {"share": share, "n": n, "says": f"{said} a year: {word} ({n} others)."}


def change_in_words(before: dict[str, Any], now: dict[str, Any], units: str = "metric") -> list[str]:
    """What changed between two visits, a sentence each; empty where nothing did.

    before, now: condition (a word), condition_at_most, condition_in_winter (how it is qualified), dbh_cm,
    height_m, crown_spread_m, signs (list of labels), life; errors: figure -> its error, None where it was
    judged by eye. Missing values are not compared, and a change within the error of both figures is none.
    units: in which it is worded.
    """
    said = []
    a, b = before.get("condition"), now.get("condition")
    if a and b and NOT_SEEN not in (a, b) and a != b:
        better = WORDS.index(b) > WORDS.index(a)
        then, since = (
            qualified(known["condition"], known.get("condition_at_most"), known.get("condition_in_winter"))
            for known in (before, now)
        )
        said.append(f"Condition {'better' if better else 'worse'}: {then} then, {since} now.")
    if before.get("life") and now.get("life") and before["life"] != now["life"]:
        said.append(
            f"{before['life'].replace('_', ' ').capitalize()} then, {now['life'].replace('_', ' ')} now."
        )
    for key, name, unit, least in (
        ("dbh_cm", "Diameter", "cm", 0.3),
        ("height_m", "Height", "m", 0.5),
        ("crown_spread_m", "Crown spread", "m", 0.5),
    ):
        x, y = before.get(key), now.get(key)
        if x and y and abs(y - x) >= max(least, _band(key, before, now)):
            then, since = (shown(v, unit, units).split()[0] for v in (x, y))
            more = "more" if y > x else "less"
            said.append(f"{name} {shown(abs(y - x), unit, units)} {more}: {then} then, {since} now.")
    old, new = set(before.get("signs") or ()), set(now.get("signs") or ())
    if now.get("signs") is not None and before.get("signs") is not None:
        said += [f"New sign: {s}." for s in sorted(new - old)] + [
            f"No longer seen: {s}." for s in sorted(old - new)
        ]
    return said


def _band(key: str, before: dict[str, Any], now: dict[str, Any]) -> float:
    """Within so much two figures do not differ; everything is within it where one was judged by eye."""
    errors = [known.get("errors", {}).get(key, 0.0) for known in (before, now)]
    return math.inf if None in errors else math.hypot(*errors)
