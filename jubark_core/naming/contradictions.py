"""What does not fit: observations that contradict the best match or each other."""

from __future__ import annotations

import math
from typing import Any

from jubark_core.naming.absence import none_is_a_state
from jubark_core.naming.weigh import LN2, Weighed

BADLY = -4.0  # bits against the flora-wide marginal from which a look is said to fit badly
NO_TAXON = 6.0  # bits by which every taxon loses from which two looks are said to fit no listed one together
SELDOM = 0.02  # weight of a state in a description under which a report of it asks for a second look


def contradictions(w: Weighed) -> list[dict[str, Any]]:
    """Looks that fit the leader badly, pairs no listed taxon fits, and an organ both seen and said to be
    missing.
    """
    if not w.ranked_taxa or not w.logs:
        return []
    leader = w.ranked_taxa[0]
    found = _organ_both_ways(w)
    bad = [i for i in sorted(w.logs) if _fits_badly(w, i, leader)]
    for i in bad:
        c = w.flora.characters[w.items[i].look.character]
        mistake = _lower(c.get("mistake", "a slip"))
        why = (
            f"{c.get('label', w.items[i].look.character)} does not fit {w.flora.taxa[leader]['name']}. Look "
            f"again; the usual mistake: {mistake}"
        )
        found.append({"observations": [w.called(i)], "why": why})
    return found + _pairs_no_taxon_fits(w, bad)


def _fits_badly(w: Weighed, i: int, taxon: str) -> bool:
    """Whether the taxon's own description hardly ever shows what was reported, or the look is far below the
    flora's average.
    """
    item = w.items[i]
    weights = w.evidence.view(item.look).weights(
        taxon, item.character, w.evidence.season(taxon, item.on), item.look.where
    )
    if weights is not None and item.kind in ("state", "many") and item.states:
        if item.kind == "state":  # several states of one reading: one of them
            told = [r.states for r in item.readings if not r.senseless]
            return min(math.fsum(weights[s] for s in states) for states in told) < SELDOM
        return min(weights[s] for s in item.states) < SELDOM
    return _against_marginal(w, i, taxon) <= BADLY


def _against_marginal(w: Weighed, look: int, taxon: str) -> float:
    """Bits of a look for the taxon against the mean over all listed taxa."""
    logs = w.logs[look]
    listed = [logs[t] for t in w.flora.leaves]
    top = max(listed)
    mean = top + math.log(math.fsum(math.exp(v - top) for v in listed) / len(listed))
    return (logs[taxon] - mean) / LN2


def _pairs_no_taxon_fits(w: Weighed, bad: list[int]) -> list[dict[str, Any]]:
    """Pairs with a badly fitting look where each look has a taxon that fits, and none fits both."""
    best = {i: max(w.logs[i][t] for t in w.flora.leaves) for i in w.logs} if bad else {}
    pairs = []
    for i in bad:
        for j in sorted(w.logs):
            if j == i or (j in bad and j < i):
                continue
            loss = min((best[i] - w.logs[i][t] + best[j] - w.logs[j][t]) / LN2 for t in w.flora.leaves)
            if loss >= NO_TAXON:
                one, two = (w.flora.characters[w.items[k].look.character].get("label", "") for k in (i, j))
                pairs.append(
                    {
                        "observations": [w.called(k) for k in sorted((i, j))],
                        "why": f"No listed taxon fits both: {one}, and {_lower(two)}. Recheck both.",
                    }
                )
    return pairs


def _organ_both_ways(w: Weighed) -> list[dict[str, Any]]:
    found = []
    for absent in (k for k in w.case.looks if k.none and not none_is_a_state(k, w.flora)):
        organ = w.flora.characters[absent.character]["organ"]
        for seen in w.case.looks:
            there = seen.shows_organ and seen.on == absent.on and seen.seen == "plant"
            if there and w.flora.characters[seen.character]["organ"] == organ:
                why = f"The {organ} is said to be missing and is described on the same day."
                both = sorted((absent.index, seen.index))
                found.append({"observations": [w.case.called(k) for k in both], "why": why})
    return found


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]
