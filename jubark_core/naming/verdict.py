"""What is said of the case: candidates, the rank supported, what is not yet told apart, contradictions and fit."""

from __future__ import annotations

import math
from statistics import NormalDist
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.come_back import separators
from jubark_core.naming.weigh import LN2, Weighed

SHOWN, LIVE = 0.001, 0.01
BADLY = -4.0  # bits against the flora-wide marginal from which a look is said to fit badly
RULED_OUT = -6.0
SELDOM = 0.02  # weight of a state in a description under which a report of it asks for a second look


def node_probabilities(w: Weighed) -> dict[str, float]:
    """Probability of every node of the tree of taxa: the sum over the hypotheses below it."""
    below: dict[str, list[float]] = {}
    for leaf, p in w.probability.items():
        for node in w.flora.ancestors(leaf.removesuffix("-unlisted")):
            below.setdefault(node, []).append(p)
    return {node: math.fsum(ps) for node, ps in below.items()}


def describe(flora: Flora, taxon: str) -> dict[str, Any]:
    """Id, name, common name and rank of a hypothesis or node."""
    if taxon == "unlisted":
        return {"taxon": taxon, "name": "not in this list", "common": "a plant the flora does not hold", "rank": "unlisted"}
    if taxon not in flora.taxa:
        genus = flora.taxa[taxon.removesuffix("-unlisted")]
        return {
            "taxon": taxon,
            "name": f"{genus['name']}, another species",
            "common": f"one of the {genus['common'][0]} the flora does not hold" if genus.get("common") else "",
            "rank": "unlisted",
        }
    node = flora.taxa[taxon]
    return {"taxon": taxon, "name": node["name"], "common": (node.get("common") or [""])[0], "rank": node.get("rank", "species")}


def candidates(w: Weighed) -> tuple[list[dict[str, Any]], float]:
    """Every hypothesis of 0.001 or more with the bits each look gives against the runner-up; and the rest."""
    ranked = w.ranked()
    shown = []
    for taxon in ranked:
        p = w.probability[taxon]
        if p < SHOWN:
            continue
        rival = ranked[0] if taxon != ranked[0] else ranked[1] if len(ranked) > 1 else ranked[0]
        rows: list[dict[str, Any]] = [
            {"observation": i, "character": w.case.looks[i].character, "bits": w.bits(i, taxon, rival)} for i in sorted(w.logs)
        ]
        shown.append({
            **describe(w.flora, taxon), "probability": p, "rival": rival,
            "for": sorted((r for r in rows if r["bits"] >= 0.05), key=lambda r: -r["bits"]),
            "against": sorted((r for r in rows if r["bits"] <= -0.05), key=lambda r: r["bits"]),
        })  # fmt: skip
    return shown, max(0.0, 1.0 - math.fsum(c["probability"] for c in shown))


def supported(w: Weighed) -> dict[str, Any] | None:
    """The lowest node whose probability reaches the threshold, with the organs it rests on; None when none does."""
    nodes = node_probabilities(w)
    reached = [n for n, p in nodes.items() if p >= w.case.threshold]
    if not reached:
        return None
    lowest = max(reached, key=lambda n: (len(w.flora.ancestors(n)), nodes[n], n))
    organs = list(dict.fromkeys(w.flora.characters[w.case.looks[i].character]["organ"] for i in sorted(w.logs)))
    answer = {**describe(w.flora, lowest), "probability": nodes[lowest], "organs": organs, "one_organ": len(organs) == 1}
    if stop := w.flora.taxa[lowest].get("stop_at"):
        answer["stop_at"] = stop
    return answer


def not_yet_told_from(w: Weighed) -> list[dict[str, Any]]:
    """Rivals of the leader with over 1 %, and look-alikes for which no separating character has been looked at."""
    listed = [t for t in w.ranked() if t in w.flora.taxa]
    if not listed:
        return []
    leader = listed[0]
    alike = {p["taxon"]: p["by"] for p in w.flora.taxa[leader].get("look_alikes", ())}
    open_rivals = []
    for taxon in listed[1:]:
        p = w.probability[taxon]
        if p > LIVE or (taxon in alike and not any(w.looks_at(cid) for cid in alike[taxon])):
            looks = [cid for cid in separators(w, leader, taxon) if not w.looks_at(cid)][:6]
            open_rivals.append({"taxon": taxon, "name": w.flora.taxa[taxon]["name"], "probability": p, "looks": looks})
    return open_rivals


def ruled_out(w: Weighed) -> list[dict[str, Any]]:
    """Genera under 0.1 % that one look alone sets 6 bits or more behind the leader, with that look."""
    if not w.logs:
        return []
    leader = w.ranked()[0]
    nodes = node_probabilities(w)
    out = []
    for node, p in nodes.items():
        if w.flora.taxa[node].get("rank") not in ("genus",) or p >= SHOWN:
            continue
        below = [t for t in w.flora.leaves if node in w.flora.ancestors(t)]
        best_of_look = {i: max(w.bits(i, t, leader) for t in below) for i in w.logs}
        look = min(best_of_look, key=lambda i: (best_of_look[i], i))
        if best_of_look[look] <= RULED_OUT:
            out.append({"taxon": node, "name": w.flora.taxa[node]["name"], "observation": look, "bits": best_of_look[look]})
    return sorted(out, key=lambda r: (r["bits"], r["taxon"]))


def _against_marginal(w: Weighed, look: int, taxon: str) -> float:
    """Bits of a look for the taxon against the mean over all listed taxa."""
    logs = w.logs[look]
    listed = [logs[t] for t in w.flora.leaves]
    top = max(listed)
    mean = top + math.log(math.fsum(math.exp(v - top) for v in listed) / len(listed))
    return (logs[taxon] - mean) / LN2


def _fits_badly(w: Weighed, i: int, taxon: str) -> bool:
    """Whether the taxon's own description hardly ever shows what was reported, or the look is far below the flora's average."""
    look = w.case.looks[i]
    weights = w.flora.weights(taxon, look.character, look.stage, w.evidence.season(taxon, look.on))
    if weights is not None and look.states and look.k is None:
        return min(weights[s] for s in look.states) < SELDOM
    return _against_marginal(w, i, taxon) <= BADLY


def contradictions(w: Weighed) -> list[dict[str, Any]]:
    """Looks that fit the leader badly, pairs no listed taxon fits, and an organ both seen and said to be missing."""
    listed = [t for t in w.ranked() if t in w.flora.taxa]
    if not listed or not w.logs:
        return []
    found = _organ_both_ways(w)
    bad = [i for i in sorted(w.logs) if _fits_badly(w, i, listed[0])]
    for i in bad:
        cid = w.case.looks[i].character
        c = w.flora.characters[cid]
        found.append(
            {
                "observations": [i],
                "why": f"{c.get('label', cid)} does not fit {w.flora.taxa[listed[0]]['name']}. Look again; the usual mistake: {_lower(c.get('mistake', 'a slip'))}",
            }
        )
    return found + _pairs_no_taxon_fits(w, bad)


def _pairs_no_taxon_fits(w: Weighed, bad: list[int]) -> list[dict[str, Any]]:
    """Pairs with a badly fitting look where each look has a taxon that fits, and none fits both."""
    best = {i: max(w.logs[i][t] for t in w.flora.leaves) for i in w.logs}
    pairs = []
    for i in bad:
        for j in sorted(w.logs):
            if j == i or (j in bad and j < i):
                continue
            loss = min((best[i] - w.logs[i][t] + best[j] - w.logs[j][t]) / LN2 for t in w.flora.leaves)
            if loss >= -RULED_OUT:
                names = [w.flora.characters[w.case.looks[k].character].get("label", "") for k in (i, j)]
                pairs.append(
                    {"observations": sorted((i, j)), "why": f"No listed taxon fits both: {names[0]}, and {_lower(names[1])}. Recheck both."}
                )
    return pairs


def _organ_both_ways(w: Weighed) -> list[dict[str, Any]]:
    looks = w.case.looks
    found = []
    for absent in (k for k in looks if k.none and "none" not in w.flora.characters[k.character].get("states", ())):
        organ = w.flora.characters[absent.character]["organ"]
        for seen in looks:
            if (
                not seen.none
                and not seen.skipped
                and seen.on == absent.on
                and seen.seen == "plant"
                and w.flora.characters[seen.character]["organ"] == organ
            ):
                found.append(
                    {
                        "observations": sorted((absent.index, seen.index)),
                        "why": f"The {organ} is said to be missing and is described on the same day.",
                    }
                )
    return found


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def fit(w: Weighed) -> dict[str, Any]:
    """The leader's percentile: how often its own description would produce looks as odd as these.

    Sum of log-probabilities against its mean and variance under the description (normal approximation).
    """
    listed = [t for t in w.ranked() if t in w.flora.taxa]
    if not listed or not w.logs:
        return {"percentile": None, "fits": None}
    leader, total, mean, variance = listed[0], [], [], []
    for i in sorted(w.logs):
        look = w.case.looks[i]
        c = w.flora.characters[look.character]
        if c["kind"] in ("count", "measure") and look.values:
            expected = _sample_expectation(w, i, leader)
        else:
            expected = _state_expectation(w, i, leader)
        if expected is not None:
            total.append(expected[0])
            mean.append(expected[1])
            variance.append(expected[2])
    if not variance or math.fsum(variance) <= 0:
        return {"percentile": None, "fits": None}
    z = (math.fsum(total) - math.fsum(mean)) / math.sqrt(math.fsum(variance))
    percentile = 100 * NormalDist().cdf(z)
    return {"percentile": percentile, "fits": percentile >= 1}


def _state_expectation(w: Weighed, i: int, taxon: str) -> tuple[float, float, float] | None:
    """(log-probability, its mean, its variance) of a one-state look under the taxon's description."""
    look = w.case.looks[i]
    c = w.flora.characters[look.character]
    if c["kind"] != "one" or look.none or look.n is not None:
        return None
    season = w.evidence.season(taxon, look.on)
    chances = [w.evidence.state_probability(taxon, _as(look, s), c, season) for s in c["states"]]
    if any(p is None for p in chances):
        return None
    ps = [max(p, 1e-12) for p in chances if p is not None]
    total = math.fsum(ps)
    ps = [p / total for p in ps]
    mean = math.fsum(p * math.log(p) for p in ps)
    variance = math.fsum(p * (math.log(p) - mean) ** 2 for p in ps)
    return math.log(ps[c["states"].index(look.states[0])]), mean, variance


def _as(look: Any, state: str) -> Any:
    return type(look)(**{**{f: getattr(look, f) for f in look.__dataclass_fields__}, "states": (state,)})


def _sample_expectation(w: Weighed, i: int, taxon: str) -> tuple[float, float, float] | None:
    """The average of a sample as a chi-square of one degree: mean −1/2, variance 1/2 on the log scale."""
    look = w.case.looks[i]
    c = w.flora.characters[look.character]
    spread = w.flora.spread(taxon, look.character, look.stage)
    if spread is None or c.get("bound_from_below"):
        return None
    values = [math.log(v) for v in look.values] if c.get("scale") == "log" else list(look.values)
    sd = spread[1] * math.sqrt(c["between"] + (1 - c["between"]) / len(values))
    z = (math.fsum(values) / len(values) - spread[0]) / sd
    return -0.5 * z * z, -0.5, 0.5


def cautions(w: Weighed) -> list[dict[str, Any]]:
    """Cautions of every candidate with at least 1 %; nothing is ever declared safe."""
    return [
        {"taxon": t, "text": text} for t in w.ranked() if w.probability[t] >= LIVE for text in w.flora.taxa.get(t, {}).get("cautions", ())
    ]
