"""What is said of the case: candidates, the rank supported, what is not yet told apart, what was
ruled out.
"""

from __future__ import annotations

import math
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.prior import is_harmful
from jubark_core.naming.separate import separators
from jubark_core.naming.weigh import Weighed

SHOWN, LIVE, HAZARD_SHARE = 0.001, 0.01, 0.002
RULED_OUT = (
    -4.5
)  # bits of one look from which it is said to have ruled a genus out, once the genus is under 0.1 %
LEAST_BITS = 0.05  # under this a look says nothing between two rivals


def describe(flora: Flora, taxon: str) -> dict[str, Any]:
    """Id, name, common name and rank of a hypothesis or node."""
    if taxon == "unlisted":
        return {
            "taxon": taxon,
            "name": "not in this list",
            "common": "a plant the flora does not hold",
            "rank": "unlisted",
        }
    if taxon not in flora.taxa:
        genus = flora.taxa[flora.genus_of_unlisted[taxon]]
        return {
            "taxon": taxon,
            "name": f"{genus['name']}, another species",
            "common": f"one of the {genus['common'][0]} the flora does not hold"
            if genus.get("common")
            else "",
            "rank": "unlisted",
        }
    node = flora.taxa[taxon]
    return {
        "taxon": taxon,
        "name": node["name"],
        "common": (node.get("common") or [""])[0],
        "rank": node.get("rank", "species"),
    }


def candidates(w: Weighed) -> tuple[list[dict[str, Any]], float]:
    """Every hypothesis of 0.001 or more with the bits each look gives against the runner-up; and the rest.

    `both_have`: looks that say nothing between the two, because both have what was seen.
    """
    shown = []
    for taxon in w.ranked:
        p = w.probability[taxon]
        if p < SHOWN:
            break
        rival = w.ranked[0] if taxon != w.ranked[0] else w.ranked[min(1, len(w.ranked) - 1)]
        rows: list[dict[str, Any]] = [
            {
                "observation": w.called(i),
                "character": w.items[i].look.character,
                "bits": w.bits(i, taxon, rival),
            }
            for i in sorted(w.logs)
        ]
        shown.append(
            {
                **describe(w.flora, taxon),
                "probability": p,
                "rival": rival,
                "for": sorted((r for r in rows if r["bits"] >= LEAST_BITS), key=lambda r: -r["bits"]),
                "against": sorted((r for r in rows if r["bits"] <= -LEAST_BITS), key=lambda r: r["bits"]),
                "both_have": [r["observation"] for r in rows if abs(r["bits"]) < LEAST_BITS],
            }
        )
    return shown, max(0.0, 1.0 - math.fsum(c["probability"] for c in shown))


def supported(w: Weighed) -> dict[str, Any] | None:
    """The lowest node whose probability reaches the threshold, with the organs it rests on; None when none
    does.

    Where the flora says that a taxon cannot be told in the field beyond a rank (`stop_at`), the name stops
    there and says why, and which taxon was meant.
    """
    reached = [n for n, p in w.nodes.items() if p >= w.case.threshold]
    if not reached:
        return None
    lowest = max(reached, key=lambda n: (len(w.flora.ancestors(n)), w.nodes[n], n))
    node, stop = lowest, w.flora.taxa[lowest].get("stop_at")
    if stop:
        node = next(
            (a for a in w.flora.ancestors(lowest) if w.flora.taxa[a].get("rank") == stop["rank"]), lowest
        )
    organs = list(
        dict.fromkeys(w.flora.characters[w.items[i].look.character]["organ"] for i in sorted(w.logs))
    )
    answer = {
        **describe(w.flora, node),
        "probability": w.nodes[node],
        "organs": organs,
        "one_organ": len(organs) == 1,
    }
    if stop:
        answer |= {"stop_at": stop["why"], "would_be": lowest}
    return answer


def either_of_two(w: Weighed) -> dict[str, Any] | None:
    """Two listed taxa that hold the threshold together where neither does alone: 'this or its parent', or
    either of a pair.
    """
    pair = w.ranked_taxa[:2]
    if len(pair) < 2 or w.probability[pair[0]] >= w.case.threshold:
        return None
    together = math.fsum(w.probability[t] for t in pair)
    if together < w.case.threshold:
        return None
    parents = any(a in w.flora.taxa[b].get("parents", ()) for a, b in (pair, pair[::-1]))
    return {
        "taxa": [describe(w.flora, t) for t in pair],
        "probability": together,
        "why": "a hybrid and one of its parents"
        if parents
        else "the looks so far part these two from all others, not from each other",
    }


def not_yet_told_from(w: Weighed) -> list[dict[str, Any]]:
    """Rivals of the leader with over 1 %, and look-alikes for which no separating character has been looked
    at.
    """
    return open_rivals(w, w.ranked_taxa[0], LIVE) if w.ranked_taxa else []


def open_rivals(w: Weighed, leader: str, least: float) -> list[dict[str, Any]]:
    """Taxa not yet told from `leader`: those of a probability over `least`, and its look-alikes with no
    separating look made.
    """
    alike = {p["taxon"]: p["by"] for p in w.flora.taxa[leader].get("look_alikes", ())}
    found = []
    for taxon in w.ranked_taxa:
        p = w.probability[taxon]
        if taxon != leader and (
            p > least or (taxon in alike and not any(w.looks_at(cid) for cid in alike[taxon]))
        ):
            looks = [cid for cid in separators(w, leader, taxon) if not w.looks_at(cid)][:6]
            found.append(
                {"taxon": taxon, "name": w.flora.taxa[taxon]["name"], "probability": p, "looks": looks}
            )
    return found


def ruled_out(w: Weighed) -> list[dict[str, Any]]:
    """Genera under 0.1 % that one look alone sets well behind the leader, with that look.

    `only_listed`: the look is as hard as that only for the species the flora holds; the genus has others.
    """
    if not w.logs:
        return []
    leader = w.ranked[0]
    out = []
    # on the scale of the logs, what a look must set behind the leader; most looks rule out nothing at all
    bound = {i: logs[leader] + RULED_OUT * math.log(2) / w.weight[i] for i, logs in w.logs.items()}
    hard = [i for i, logs in w.logs.items() if min(logs.values()) <= bound[i]]
    for node, below in w.flora.below.items():
        if w.flora.taxa[node].get("rank") != "genus" or w.node(node) >= SHOWN:
            continue
        best_of_look = {
            i: w.weight[i] * (max(map(w.logs[i].__getitem__, below)) - w.logs[i][leader]) / math.log(2)
            for i in hard
        }
        look = min(best_of_look, key=lambda i: (best_of_look[i], i), default=None)
        if look is not None and best_of_look[look] <= RULED_OUT:
            missing = any(w.flora.missing(node).values())
            out.append(
                {
                    "taxon": node,
                    "name": w.flora.taxa[node]["name"],
                    "observation": w.called(look),
                    "bits": best_of_look[look],
                    "only_listed": missing,
                }
            )
    return sorted(out, key=lambda r: (r["bits"], r["taxon"]))


def by_origin(w: Weighed) -> dict[str, Any] | None:
    """For a plant of unknown origin: the leader had it been wild, had it been planted, and whether they
    differ.
    """
    if w.case.origin != "unknown" or "origin" in w.case.prior_off:
        return None
    answer: dict[str, Any] = {}
    for word, planted in (("wild", 0.0), ("planted", 1.0)):
        belief = w.if_planted(planted)
        leader = min(belief, key=lambda t: (-belief[t], t))
        answer[word] = {
            "taxon": leader,
            "name": describe(w.flora, leader)["name"],
            "probability": belief[leader],
        }
    return {**answer, "differ": answer["wild"]["taxon"] != answer["planted"]["taxon"]}


def cautions(w: Weighed) -> list[dict[str, Any]]:
    """Cautions of every candidate with at least 1 %, of every hazard with over 0.2 %, and of the dangerous
    doubles of what leads; nothing is ever declared safe.

    hazard: the taxon does serious harm by its sap or its poison.
    """
    found = [
        {"taxon": t, "text": text, "hazard": is_harmful(node)}
        for t in w.ranked_taxa
        if w.probability[t] >= (HAZARD_SHARE if is_harmful(node := w.flora.taxa[t]) else LIVE)
        for text in node.get("cautions", ())
    ]
    told = {caution["taxon"] for caution in found}
    found += [double for double in _doubles(w) if double["taxon"] not in told]
    found.sort(key=lambda caution: _urgency(w.flora, caution["taxon"]))  # the likelier first among equals
    return found


def _urgency(flora: Flora, taxon: str) -> int:
    """What burns at a touch comes first, then what kills, then what poisons."""
    node = flora.taxa[taxon]
    if node.get("irritant"):
        return 0
    return 3 if not is_harmful(node) else 1 if node["poison"]["level"] == "deadly" else 2


def _doubles(w: Weighed) -> list[dict[str, Any]]:
    """Dangerous plants that are taken for a candidate of 1 % or more."""
    live = {t for t in w.ranked_taxa if w.probability[t] >= LIVE}
    return [
        {
            "taxon": t,
            "text": f"Taken for it: {node['name']} ({node['common'][0]}). {text}",
            "hazard": True,
        }
        for t in w.flora.leaves
        if not live.isdisjoint((node := w.flora.taxa[t]).get("deadly_double_of", ()))
        for text in node.get("cautions", ())[:1]
    ]
