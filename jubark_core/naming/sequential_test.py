"""Counts and measures of this plant: their mean against each rival's range, and whether more leaves would
settle it.

Wald (1945), Annals of Mathematical Statistics 16:117-186: go on until the likelihood ratio of two rivals
passes a bound; here on the ratio of the correlated sample, so that the plant's own share of the variation
sets a limit that no number of its leaves can pass.
"""

from __future__ import annotations

import math
from typing import Any

from jubark_core.flora.shows import Z90
from jubark_core.naming.samples import leaves_to_settle
from jubark_core.naming.weigh import Weighed

RIVALS = 4
LIVE = 0.01
SAME = 0.05  # of an sd: means closer than this are no difference to settle


def samples(w: Weighed) -> list[dict[str, Any]]:
    """One row per count or measure: observation, n, mean, sd, rivals with their ranges, and what more leaves
    would do.

    `settles`: a and b, the two leading rivals that differ in it; `more`: leaves still to look at until Wald's
    bound for errors of 5 % each (0: settled already; null: more leaves of this plant will not settle it), in
    words in `says`.
    """
    rows = []
    for i in sorted(w.logs):
        look, values = w.items[i].look, w.items[i].values
        if not values:
            continue
        n = len(values)
        mean = math.fsum(values) / n
        sd = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (n - 1)) if n > 1 else None
        view = w.evidence.view(look)
        live = [t for t in w.ranked_taxa if w.probability[t] >= LIVE and view.spread(t, look.character)][
            :RIVALS
        ]
        rivals = [{"taxon": t, "probability": w.probability[t], **_range(w, i, t)} for t in live]
        row = {
            "observation": w.called(i),
            "character": look.character,
            "n": n,
            "mean": mean,
            "sd": sd,
            "rivals": rivals,
        }
        rows.append({**row, "settles": _settles(w, i, live)})
    return rows


def _range(w: Weighed, i: int, taxon: str) -> dict[str, float]:
    """The central 90 % of single values, on the scale of the reading."""
    look = w.items[i].look
    mean, sd = w.evidence.view(look).spread(taxon, look.character) or (0.0, 0.0)
    low, high = mean - Z90 * sd, mean + Z90 * sd
    return {"low": math.exp(low), "high": math.exp(high)} if _log(w, i) else {"low": low, "high": high}


def _log(w: Weighed, i: int) -> bool:
    return bool(w.flora.characters[w.items[i].character].get("scale") == "log")


def _settles(w: Weighed, i: int, live: list[str]) -> dict[str, Any] | None:
    look, read = w.items[i].look, w.items[i].values
    view, c = w.evidence.view(look), w.flora.characters[look.character]
    if len(live) < 2:
        return None
    a = live[0]
    first = view.spread(a, look.character)
    for b in live[1:]:
        second = view.spread(b, look.character)
        if first is None or second is None:
            continue
        sd = math.sqrt((first[1] ** 2 + second[1] ** 2) / 2)
        if abs(first[0] - second[0]) < SAME * sd:
            continue
        values = [math.log(v) for v in read] if _log(w, i) else list(read)
        ratio = w.logs[i][a] - w.logs[i][b]
        average = math.fsum(values) / len(values)
        more = leaves_to_settle(first[0], second[0], sd, float(c["between"]), ratio, average, len(values))
        names = w.flora.taxa[a]["name"], w.flora.taxa[b]["name"]
        return {"a": a, "b": b, "more": more, "says": _says(more, *names)}
    return None


def _says(more: int | None, a: str, b: str) -> str:
    if more is None:
        return f"More leaves of this plant will not settle {a} against {b}."
    if more == 0:
        return f"This settles {a} against {b}."
    return f"About {more} more {'leaf' if more == 1 else 'leaves'} would settle {a} against {b}."
