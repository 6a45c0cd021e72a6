"""What to look at next: characters that can be seen now, by expected fall in entropy per effort; harm is withheld."""

from __future__ import annotations

import bisect
import datetime
import itertools
import math
import operator
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.likelihood import FLOOR, INAPPLICABLE, SLIP_NEXT, misreadings
from jubark_core.naming.samples import split_variance
from jubark_core.naming.weigh import Weighed, entropy_bits

LIVE_MASS, MOST_LIVE = 0.999, 60
MOST_LOOKS = 8
LEAVES_PER_SAMPLE = 5
BINS, GRID = 12, 80
LEAST_GAIN = 0.005  # bits under which a look is not worth naming
WOUND_SHARE, TOUCH_SHARE = 0.01, 0.005
# Season in which fresh wounds on oaks and elms draw the beetles that carry oak wilt and Dutch elm disease, northern
# hemisphere, 'common practice' and wide on purpose; local rules decide. An area's own dates come with the area data.
VECTOR_SEASON = ((4, 1), (10, 31))
WOUND_GENERA = {"quercus": "oaks", "ulmus": "elms"}


def live_candidates(w: Weighed) -> tuple[dict[str, float], float]:
    """The smallest set holding 99.9 %, at most 60, renormalised; and the probability left out."""
    live: dict[str, float] = {}
    mass = 0.0
    for taxon in w.ranked():
        if mass >= LIVE_MASS or len(live) >= MOST_LIVE:
            break
        live[taxon] = w.probability[taxon]
        mass = math.fsum(live.values())
    return {t: p / mass for t, p in live.items()}, max(0.0, 1 - mass)


def next_looks(w: Weighed) -> tuple[list[dict[str, Any]], list[dict[str, Any]], float]:
    """(looks best first, withheld looks with their reason, probability pruned)."""
    live, pruned = live_candidates(w)
    taxa, odds = list(live), list(live.values())
    before = entropy_bits(odds)
    offered: list[dict[str, Any]] = []
    withheld: list[dict[str, Any]] = []
    for cid, c in w.flora.characters.items():
        if before < 1e-9 or w.looks_at(cid) or not _within_reach(w, c):
            continue
        shown = _chance_visible(w, c, live)
        if shown < 0.5:
            continue
        answers = _answers(w, cid, c, live)
        if not answers:
            continue
        weight = w.flora.weight_of_group(cid)
        rows = _after_each(answers, odds, weight)
        gain = shown * (before - math.fsum(chance * entropy_bits(after) for _, chance, after in rows))
        if gain < LEAST_GAIN:
            continue
        reason = _harm(w, c)
        if reason:
            withheld.append({"character": cid, "why": reason, "gain_bits": gain})
        else:
            offered.append(
                {
                    "character": cid,
                    "gain_bits": gain,
                    "effort_s": c.get("effort_s", 15),
                    "how": c.get("how", ""),
                    "outcomes": _said(rows, taxa),
                }
            )
    offered.sort(key=lambda item: (-item["gain_bits"] / item["effort_s"], item["character"]))
    withheld.sort(key=lambda item: (-item["gain_bits"], item["character"]))
    return offered[:MOST_LOOKS], [{"character": i["character"], "why": i["why"]} for i in withheld], pruned


def _within_reach(w: Weighed, c: dict[str, Any]) -> bool:
    case = w.case
    return (
        case.stage in c.get("stages", (case.stage,))
        and bool(set(c.get("reach", case.reach)) & set(case.reach))
        and set(c.get("tools", ())) <= set(case.tools) | {"eye"}
    )


def _chance_visible(w: Weighed, c: dict[str, Any], live: dict[str, float]) -> float:
    """Posterior-weighted chance that the character shows on the case's date; litter counts only within reach."""
    kinds = tuple(k for k in c.get("visible", ("always",)) if k != "litter" or "litter" in w.case.reach)
    listed = [(p, w.evidence.shows(t, kinds)) for t, p in live.items() if t in w.flora.taxa]
    total = math.fsum(p for p, _ in listed)
    return math.fsum(p * chance for p, chance in listed) / total if total else 0.0


def _harm(w: Weighed, c: dict[str, Any]) -> str | None:
    """Why the look is withheld, or None."""
    if c.get("wounds"):
        if w.case.stage == "veteran":
            return "It wounds the plant, and this is a veteran."
        if w.case.status:
            return f"It wounds the plant, and this stem is {' and '.join(w.case.status)}."
        if in_vector_season(w.case.on, w.case.place.lat):
            for genus, plural in WOUND_GENERA.items():
                share = math.fsum(p for t, p in w.probability.items() if w.flora.genus_of.get(t) == genus or t == f"{genus}-unlisted")
                if share > WOUND_SHARE:
                    return f"It wounds the plant; {plural} are still possible ({share:.0%}), and a fresh wound in the beetle season can carry disease."
    if c.get("touch"):
        for taxon, p in w.probability.items():
            if p > TOUCH_SHARE and w.flora.taxa.get(taxon, {}).get("irritant"):
                return f"{w.flora.taxa[taxon]['name']} is still possible and its sap burns skin: rule it out by eye first."
    return None


def in_vector_season(on: datetime.date, lat: float | None) -> bool:
    """Whether wounds on oaks and elms draw disease-carrying beetles then (half a year later in the south)."""
    month = on.month if lat is None or lat >= 0 else (on.month + 5) % 12 + 1
    return VECTOR_SEASON[0][0] <= month <= VECTOR_SEASON[1][0]


Table = dict[str, list[float]]  # taxon -> P(answer), in the order of the answers


def _answers(w: Weighed, cid: str, c: dict[str, Any], live: dict[str, float]) -> list[tuple[str, list[float]]]:
    """Each answer with its P' by live candidate, in their order (untempered); empty when nothing is known."""
    listed = [t for t in live if t in w.flora.taxa]
    if c["kind"] == "count":
        names, table = _count_answers(w.flora, cid, c, listed, w.case.stage)
    elif c["kind"] == "measure":
        names, table = _measure_answers(w.flora, cid, c, live, listed, w.case.stage)
    else:
        names, table = _state_answers(w, cid, c, live, listed)
    if not table:
        return []
    applies = {t: w.flora.applies(t, cid, w.case.stage, w.evidence.season(t, w.case.on)) for t in listed}
    n = len(names)
    for t, row in table.items():
        table[t] = [applies[t] * p + (1 - applies[t]) * INAPPLICABLE / n for p in row]
    if min(applies.values()) < 0.99:
        names = [*names, "does not apply"]
        table = {t: [*row, (1 - applies[t]) * (1 - INAPPLICABLE)] for t, row in table.items()}
        table |= {t: [*[INAPPLICABLE / n] * n, 1 - INAPPLICABLE] for t in listed if t not in table and applies[t] < 0.5}
    return list(zip(names, _filled(w, live, table), strict=True))


def _filled(w: Weighed, live: dict[str, float], table: Table) -> list[list[float]]:
    """By answer: P' of every live candidate, unknown ones from their genus, then the marginal; with the floor."""
    columns = list(zip(*table.values(), strict=True))
    marginal = [math.fsum(column) / len(column) for column in columns]
    means: dict[str, list[float]] = {}
    filled = []
    for t in live:
        row = table.get(t)
        if row is None:
            genus = t.removesuffix("-unlisted") if t.endswith("-unlisted") else w.flora.genus_of.get(t)
            if genus is not None and genus not in means:
                known = [r for s, r in table.items() if w.flora.genus_of[s] == genus]
                means[genus] = [math.fsum(column) / len(known) for column in zip(*known, strict=True)] if known else marginal
            row = marginal if genus is None else means[genus]
        filled.append(row)
    return [[(1 - FLOOR) * row[i] + FLOOR * marginal[i] for row in filled] for i in range(len(marginal))]


def _state_answers(w: Weighed, cid: str, c: dict[str, Any], live: dict[str, float], listed: list[str]) -> tuple[list[str], Table]:
    tables: dict[str, dict[str, float]] = {}
    for t in listed:
        if weights := w.flora.weights(t, cid, w.case.stage, w.evidence.season(t, w.case.on)):
            tables[t] = weights
    if not tables:
        return [], {}
    if c["kind"] == "one":
        reading = misreadings(w.flora, cid, SLIP_NEXT)
        return c["states"], {
            t: [math.fsum(p * reading[s][r] for s, p in table.items()) for r in c["states"]] for t, table in tables.items()
        }
    # many-state: the best single state, present or absent
    best = max(c["states"], key=lambda s: (_divided(tables, s, live), s))
    present = {t: (1 - SLIP_NEXT) * table[best] + SLIP_NEXT / len(table) for t, table in tables.items()}
    return [best, "not " + best], {t: [p, 1 - p] for t, p in present.items()}


def _divided(tables: dict[str, dict[str, float]], state: str, live: dict[str, float]) -> float:
    """Variance of a state's presence over the live candidates."""
    total = math.fsum(live[t] for t in tables)
    mean = math.fsum(live[t] * tables[t][state] for t in tables) / total
    return math.fsum(live[t] * (tables[t][state] - mean) ** 2 for t in tables)


def _sample_moments(flora: Flora, cid: str, c: dict[str, Any], listed: list[str], stage: str) -> dict[str, tuple[float, float]]:
    """Mean and sd of the average of five leaves of one plant, by taxon with data."""
    found = {}
    for t in listed:
        if spread := flora.spread(t, cid, stage):
            mean, sd = spread
            plant, leaf = split_variance(sd, float(c["between"]), c["kind"], c.get("scale") == "log", mean)
            found[t] = (mean, math.sqrt(plant**2 + leaf**2 / LEAVES_PER_SAMPLE))
    return found


def _between(moments: dict[str, tuple[float, float]], edges: list[float]) -> Table:
    """Mass of each normal between consecutive edges, the tails with the first and the last."""
    table = {}
    for t, (mean, sd) in moments.items():
        cdf = [0.0, *[_cdf(e, mean, sd) for e in edges], 1.0]
        table[t] = [max(0.0, b - a) for a, b in itertools.pairwise(cdf)]
    return table


def _cdf(x: float, mean: float, sd: float) -> float:
    return 0.5 * math.erfc((mean - x) / (sd * math.sqrt(2)))


def _count_answers(flora: Flora, cid: str, c: dict[str, Any], listed: list[str], stage: str) -> tuple[list[str], Table]:
    """Whole numbers, tails pooled."""
    moments = _sample_moments(flora, cid, c, listed, stage)
    if not moments:
        return [], {}
    low = max(int(c["range"][0]), math.floor(min(m - 2 * s for m, s in moments.values())))
    high = min(int(c["range"][1]), low + 40, math.ceil(max(m + 2 * s for m, s in moments.values())))
    high = max(high, low + 1)
    names = [f"{low} or fewer", *[str(k) for k in range(low + 1, high)], f"{high} or more"]
    return names, _between(moments, [k + 0.5 for k in range(low, high)])


def _measure_answers(
    flora: Flora, cid: str, c: dict[str, Any], live: dict[str, float], listed: list[str], stage: str
) -> tuple[list[str], Table]:
    """The mean of five leaves in 12 bins of equal predictive mass."""
    moments = _sample_moments(flora, cid, c, listed, stage)
    if not moments:
        return [], {}
    total = math.fsum(live[t] for t in moments)
    low, high = min(m - 4 * s for m, s in moments.values()), max(m + 4 * s for m, s in moments.values())
    grid = [low + (high - low) * i / GRID for i in range(GRID + 1)]
    mass = [math.fsum(live[t] / total * _cdf(x, m, s) for t, (m, s) in moments.items()) for x in grid]
    edges = [_crossing(grid, mass, i / BINS) for i in range(1, BINS)]
    read = [math.exp(e) if c.get("scale") == "log" else e for e in edges]
    names = [f"under {read[0]:.3g}", *[f"{a:.3g} to {b:.3g}" for a, b in itertools.pairwise(read)], f"over {read[-1]:.3g}"]
    return names, _between(moments, edges)


def _crossing(grid: list[float], mass: list[float], p: float) -> float:
    """Where the cumulative mass reaches p, by linear interpolation on the grid."""
    i = min(max(bisect.bisect_left(mass, p), 1), len(grid) - 1)
    rise = mass[i] - mass[i - 1]
    return grid[i - 1] + (grid[i] - grid[i - 1]) * ((p - mass[i - 1]) / rise if rise > 0 else 0.5)


def _after_each(answers: list[tuple[str, list[float]]], odds: list[float], weight: float) -> list[tuple[str, float, list[float]]]:
    """Each answer with its chance and the belief after it (the update is tempered, the chance is not)."""
    chances = [math.fsum(map(operator.mul, odds, row)) for _, row in answers]
    scale = math.fsum(chances)
    rows = []
    for (answer, row), chance in zip(answers, chances, strict=True):
        raised = [p * q for p, q in zip(odds, row, strict=True)] if weight == 1 else [p * q**weight for p, q in zip(odds, row, strict=True)]
        total = math.fsum(raised)
        if total > 0:
            rows.append((answer, chance / scale, [r / total for r in raised]))
    return rows


def _said(rows: list[tuple[str, float, list[float]]], taxa: list[str]) -> list[dict[str, Any]]:
    """Each answer with its chance and who would lead after it."""
    said = []
    for answer, chance, after in rows:
        best = min(range(len(taxa)), key=lambda i: (-after[i], taxa[i]))
        said.append({"state": answer, "probability": chance, "leader": taxa[best], "leader_probability": after[best]})
    return said
