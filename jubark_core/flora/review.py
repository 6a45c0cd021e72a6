"""Is the flora fit for its work? What `flora check` proves beyond the form of the files.

Completeness by organ, look-alikes that can be told apart in leaf and in winter, phenology in order, no two
taxa alike, no state of the vocabulary that no taxon shows.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from statistics import median
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.flora.separation import CLEAR, separation
from jubark_core.flora.views import shows
from jubark_core.season.days import YEAR

MOST_ALIKE = 0.7  # overlap from which a separator separates nothing
IN_LEAF, IN_WINTER = 3, 2  # separating characters every pair of look-alikes must have
LEAFY = ("leaf_on", "always", "bud_set", "flowering", "fruit_forming", "fruit_ripe")
BARE = ("always", "leaf_fall", "bud_set", "fruit_hanging", "litter")
SOFT = (
    "colour",
    "smell",
    "_cm",
    "_mm",
    "_m",
)  # endings of characters that fade, vary or need a ruler: weak alone
ORDER = ("bud_burst", "leaf_out", "fall")
ORGANS = ("habit", "bark", "twig", "bud", "leaf", "needle", "spray", "flower", "fruit", "cone")


def look_alikes(flora: Flora) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Each pair of look-alikes once, with what the flora says of it."""
    for taxon in flora.leaves:
        for pair in flora.taxa[taxon].get("look_alikes", ()):
            if taxon < pair["taxon"]:
                yield taxon, pair["taxon"], pair


def separating(flora: Flora, a: str, b: str, season: str) -> list[str]:
    """Characters that part two grown plants in `summer` or `winter`, clearest first."""
    view = shows(flora, "mature")
    kinds = LEAFY if season == "summer" else BARE
    evergreen = flora.evergreen[a] and flora.evergreen[b]
    found = []
    for cid, c in flora.characters.items():
        visible = c.get("visible", ["always"])
        if not set(visible) & set(kinds) and not (season == "winter" and evergreen and "leaf_on" in visible):
            continue
        if (
            season == "winter"
            and not evergreen
            and visible == ["leaf_on", "litter"]
            and "litter" not in kinds
        ):
            continue
        gap = separation(view, a, b, cid, season, season)
        if gap >= CLEAR:
            found.append((-gap, cid))
    return [cid for _, cid in sorted(found)]


def separating_any(flora: Flora, taxa: list[str], season: str) -> list[str]:
    """Characters that part any two of several taxa in a season, each once."""
    pairs = itertools.combinations(taxa, 2)
    return list(dict.fromkeys(cid for a, b in pairs for cid in separating(flora, a, b, season)))


def faults(flora: Flora) -> list[str]:
    """What breaks a promise of the flora, one line each."""
    found = [
        *_unfit_pairs(flora),
        *_idle_separators(flora),
        *_phenology_out_of_order(flora),
        *_alike(flora),
    ]
    unused = sorted(f"{cid} = {s}" for cid, states in unused_states(flora).items() for s in states)
    return found + [f"no taxon shows {state}" for state in unused]


def _unfit_pairs(flora: Flora) -> Iterator[str]:
    for a, b, _ in look_alikes(flora):
        given_up = {*flora.taxa[a].get("inseparable_in", ()), *flora.taxa[b].get("inseparable_in", ())}
        if "leaf_on" not in given_up and len(by := separating(flora, a, b, "summer")) < IN_LEAF:
            yield (
                f"{a} and {b}: {len(by)} separating characters in leaf, {IN_LEAF} are needed "
                f"({', '.join(by)})"
            )
        if "winter" not in given_up:
            by = separating(flora, a, b, "winter")
            if len(by) < IN_WINTER or all(flora.characters[cid]["wounds"] for cid in by):
                yield (
                    f"{a} and {b}: {len(by)} separating characters in winter, {IN_WINTER} are needed, "
                    f"one without a wound ({', '.join(by)})"
                )


def _idle_separators(flora: Flora) -> Iterator[str]:
    """Characters that a pair is said to differ in and does not: unscored on one side, or too much alike."""
    view = shows(flora, "mature")
    for a, b, pair in look_alikes(flora):
        for cid in pair["by"]:
            silent = [t for t in (a, b) if not flora.taxa[t]["states"].get(cid)]
            makes_sense = min(view.applies(t, cid, "summer") for t in (a, b)) > 0.5
            if silent and makes_sense and "ordinary" not in flora.characters[cid]:
                yield f"{a} and {b} by {cid}: {silent[0]} says nothing of it"
            elif not silent and makes_sense:
                apart = max(separation(view, a, b, cid, season, season) for season in ("summer", "winter"))
                if apart < 1 - MOST_ALIKE:
                    yield f"{a} and {b} by {cid}: {1 - apart:.0%} alike"


def weak_pairs(flora: Flora) -> list[str]:
    """Pairs that rest on colour, smell or size alone: to be named with care."""
    found = []
    for a, b, _ in look_alikes(flora):
        by = separating(flora, a, b, "summer")
        if by and all(cid.endswith(SOFT) for cid in by):
            found.append(f"{a} and {b}: {', '.join(by)}")
    return found


def _phenology_out_of_order(flora: Flora) -> Iterator[str]:
    for taxon in flora.leaves:
        days = flora.taxa[taxon]["phenology"]
        first, out, fall = (days.get(event) for event in ORDER)
        # counted from bud burst on: in the south the year of a tree runs over New Year
        if None not in (first, out, fall) and (out - first) % YEAR > (fall - first) % YEAR:
            yield f"{taxon}: bud burst, leaf out and fall are out of order"
        if (
            "ripe" in days
            and "fruit_hangs_until" in days
            and (days["fruit_hangs_until"] - days["ripe"][0]) % YEAR > 330
        ):
            yield f"{taxon}: fruit hangs until before it is ripe"


def _alike(flora: Flora) -> Iterator[str]:
    seen: dict[str, str] = {}
    for taxon in flora.leaves:
        key = repr(sorted((cid, repr(v)) for cid, v in flora.taxa[taxon]["states"].items()))
        if key in seen:
            yield f"{taxon} and {seen[key]} are described alike"
        seen[key] = taxon


def natives_by_region(flora: Flora) -> Iterator[tuple[str, list[str], list[str], dict[str, list[str]]]]:
    """Name of a region, the codes its shorthand stands for, the taxa native in all of them, and those native
    in some, with the codes: for an eye that knows the region.
    """
    for region in flora.compiled["regions"]:
        whole, part = [], {}
        for taxon in flora.leaves:
            here = [code for code in region["codes"] if code in flora.taxa[taxon]["native"]]
            if here and set(region["mainland"]) <= set(here):
                whole.append(taxon)
            elif here:
                part[taxon] = here
        yield region["name"], region["mainland"], whole, part


def unused_states(flora: Flora) -> dict[str, list[str]]:
    """Character -> states of the vocabulary that no taxon names; `none` is what an absence is called, and
    needs no taxon.
    """
    used: dict[str, set[str]] = {}
    for taxon in flora.leaves:
        node = flora.taxa[taxon]
        for states in (node["states"], *[c["states"] for c in node.get("cultivars", ())]):
            for cid, variants in states.items():
                used.setdefault(cid, set()).update(s for v in variants for s in v.get("weights", ()))
    return {
        cid: left
        for cid, c in flora.characters.items()
        if (
            left := [
                s for s in c.get("states", ()) if s not in ("none", *used.get(cid, ()), *c.get("retired", ()))
            ]
        )
    }


def completeness(flora: Flora) -> list[tuple[str, int, float, int, str]]:
    """(organ, taxa that say something of it, median and least number of characters scored, the taxon with the
    least).
    """
    rows = []
    for organ in ORGANS:
        scored = {
            t: sum(cid.startswith(organ + ".") for cid in flora.taxa[t]["states"]) for t in flora.leaves
        }
        known = {t: n for t, n in scored.items() if n}
        if known:
            least = min(known, key=lambda t: (known[t], t))
            rows.append((organ, len(known), median(known.values()), known[least], least))
    return rows
