"""Names as people write them: synonyms, common names, slips of spelling."""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated, Any, Literal, TypedDict, cast

from jubark_core.flora.model import Flora


class NameFound(TypedDict):
    """A name that fits what was typed."""

    taxon: str
    name: str
    common: str
    rank: str
    matched: Annotated[str, "The wording that fitted."]
    how: Literal["accepted", "synonym", "common", "spelling"]
    shared: Annotated[bool, "What was typed is a common name in more than one genus, and of this taxon too."]


def names_found(
    query: str, flora: Flora, counts: Mapping[str, int] = MappingProxyType({})
) -> list[NameFound]:
    """The names that fit, each with whether several genera share what was typed. counts: taxon -> plants; of
    names that fit equally well those that are there come first.
    """
    sharing = set(kinds_sharing(query, flora))
    found = find_names(query, flora, counts=counts)
    return [cast(NameFound, {**row, "shared": row["taxon"] in sharing}) for row in found]


def find_names(
    query: str, flora: Flora, most: int = 12, counts: Mapping[str, int] = MappingProxyType({})
) -> list[dict[str, Any]]:
    """Taxa whose accepted name, synonym or common name fits what was typed, best first.

    Each: taxon, name, common, rank, matched (the wording that fitted), how (accepted, synonym, common,
    spelling).
    """
    wanted = " ".join(query.lower().split())
    if not wanted:
        return []
    found: list[tuple[float, int, str, dict[str, Any]]] = []
    for tid, node in flora.taxa.items():
        if best := max(
            (
                (score, how, label)
                for label, how in _labels(node)
                if (score := _score(wanted, label.lower())) > 0
            ),
            default=None,
        ):
            score, how, label = best
            found.append(
                (
                    -score,
                    -sum(counts.get(t, 0) for t in {tid, *flora.below.get(tid, ())}),
                    tid,
                    {
                        "taxon": tid,
                        "name": node["name"],
                        "common": (node.get("common") or [""])[0],
                        "rank": node["rank"],
                        "matched": label,
                        "how": how if score >= 1 else "spelling",
                    },
                )
            )
    return [row for *_, row in sorted(found, key=lambda item: item[:3])[:most]]


def kinds_sharing(common: str, flora: Flora) -> list[str]:
    """Taxa that bear a common name, or a word of theirs that ends in it, in more than one genus; empty where
    one genus has it alone.

    'cedar' is borne by five genera, none of them a cedar; 'sycamore' by a plane and a maple.
    """
    wanted = common.lower().strip()
    bearers = [
        tid
        for tid in flora.leaves
        if wanted in (name.lower() for name in flora.taxa[tid].get("shared_names", ()))
        or any(
            name.lower() == wanted or name.lower().replace("-", " ").endswith(" " + wanted)
            for name in flora.taxa[tid].get("common", ())
        )
    ]
    return bearers if len({flora.genus_of[t] for t in bearers}) > 1 else []


def _labels(node: dict[str, Any]) -> list[tuple[str, str]]:
    return [
        (node["name"], "accepted"),
        *((s, "synonym") for s in node.get("synonyms", ())),
        *((c, "common") for c in (*node.get("common", ()), *node.get("shared_names", ()))),
    ]


def _score(wanted: str, label: str) -> float:
    """4 equal, 3 starts so, 2 a word starts so, 1 contains it, below 1 a likely slip of spelling, 0
    no fit.
    """
    if label == wanted:
        return 4
    if label.startswith(wanted):
        return 3
    if any(word.startswith(wanted) for word in label.replace("-", " ").split()):
        return 2
    if wanted in label:
        return 1
    likeness = difflib.SequenceMatcher(None, wanted, label).ratio()
    return likeness if likeness >= 0.78 else 0
