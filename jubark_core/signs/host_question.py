"""A sign that does not occur on the host: the name, or the sign? Both readings, and the look that decides."""

from __future__ import annotations

from jubark_core.flora.model import Flora
from jubark_core.naming.case import read_case
from jubark_core.naming.separate import separators
from jubark_core.naming.weigh import weigh as weigh_name
from jubark_core.signs.case import HealthCase, SeenSign
from jubark_core.signs.contract import DecidingLook, FittingHost, HostQuestioned
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.hypotheses import normals_here
from jubark_core.signs.likelihood import COUNTED, shown
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause
from jubark_core.signs.weigh import Belief

TELLING_NOISE = 0.006  # a sign commoner than this where nothing makes it questions no name
TYPICAL = 0.4  # a cause that makes it this often is one it stands for
LIGHTLY = 0.08
MOST_TAXA, MOST_LOOKS = 3, 5


def host_questioned(belief: Belief) -> HostQuestioned | None:
    """The first seen sign that nothing makes on the likeliest host and that is typical elsewhere; None where
    every sign can be.
    """
    node = min(belief.case.hosts, key=lambda pair: (-pair[1], pair[0]))[0]
    taxa = [t for t in belief.taxa if belief.on_host[t].host.node == node]
    if not taxa:
        return None
    for seen in sorted((s for s in belief.case.signs if not s.none), key=lambda s: s.index):
        word = health().signs[seen.sign]
        if seen.sign in COUNTED or word.noise > TELLING_NOISE or seen.certainty == "unsure":
            continue
        if any(_can_be(seen, taxon, belief) for taxon in taxa):
            continue
        makers = [
            c for c in health().causes.values() if any(s.often >= TYPICAL for s in c.signs.get(seen.sign, ()))
        ]
        fitting = _fitting(makers, seen, node, belief)
        if fitting:
            return _question(seen, node, fitting, belief)
    return None


def _can_be(seen: SeenSign, taxon: str, belief: Belief) -> bool:
    normals = normals_here(taxon, belief.case, belief.flora)
    if any(seen.sign in n.signs for n in normals):
        return True
    return any(
        susceptibility(cause, taxon, belief.flora) > 0
        and any(shown(s, taxon, belief.flora) for s in cause.signs.get(seen.sign, ()))
        for cause in health().causes.values()
    )


def _fitting(makers: list[Cause], seen: SeenSign, node: str, belief: Belief) -> list[FittingHost]:
    """Taxa on which the sign is at home: look-alikes of the name first, then by how common they are here."""
    flora = belief.flora
    found: dict[str, list[str]] = {}
    for leaf in flora.leaves:
        causes = [
            c.id
            for c in makers
            if susceptibility(c, leaf, flora) >= LIGHTLY
            and any(shown(s, leaf, flora) for s in c.signs.get(seen.sign, ()))
        ]
        if causes:
            found[leaf] = causes
    alike = _look_alikes(node, flora)
    order = {t: i for i, t in enumerate(alike)}
    prior = _common(belief.case, flora)
    worst = {
        leaf: max(susceptibility(health().causes[c], leaf, flora) for c in found[leaf]) for leaf in found
    }
    ranked = sorted(found, key=lambda t: (order.get(t, len(order)), -worst[t] * prior.get(t, 0.0), t))[
        :MOST_TAXA
    ]
    return [{"taxon": t, "name": flora.taxa[t]["name"], "causes": found[t]} for t in ranked]


def _look_alikes(node: str, flora: Flora) -> list[str]:
    if node not in flora.taxa:
        return []
    own = [p["taxon"] for leaf in flora.below.get(node, ()) for p in flora.taxa[leaf].get("look_alikes", ())]
    others = [
        leaf
        for leaf in flora.leaves
        for p in flora.taxa[leaf].get("look_alikes", ())
        if p["taxon"] in flora.below.get(node, ())
    ]
    return list(dict.fromkeys([*own, *others]))


def _common(case: HealthCase, flora: Flora) -> dict[str, float]:
    raw = {"on": case.on.isoformat(), "observations": []}
    return weigh_name(
        read_case(raw | ({"areas": list(case.areas)} if case.areas else {}), flora), flora
    ).probability


def _question(seen: SeenSign, node: str, fitting: list[FittingHost], belief: Belief) -> HostQuestioned:
    word = health().signs[seen.sign]
    flora = belief.flora
    name = flora.taxa[node]["name"] if node in flora.taxa else node
    others = " or ".join(f["name"] for f in fitting)
    return {
        "sign": seen.index,
        "host": node,
        "if_the_name_is_wrong": f"The sign is right and the plant is no {name}: it is at home on {others}.",
        "if_the_sign_is_wrong": f"The name is right and the sign is another. {word.mistake} {word.how}",
        "taxa": fitting,
        "looks": _deciding(node, fitting[0]["taxon"], belief),
    }


def _deciding(node: str, other: str, belief: Belief) -> list[DecidingLook]:
    flora = belief.flora
    own = next((t for t in belief.taxa if t in flora.leaves and node in flora.ancestors(t)), None)
    if own is None:
        return []
    raw = {"on": belief.case.on.isoformat(), "observations": []}
    named = weigh_name(read_case(raw, flora), flora)
    return [
        {
            "character": cid,
            "label": flora.characters[cid]["label"],
            "how": flora.characters[cid].get("how", flora.characters[cid].get("help", "")),
        }
        for cid in separators(named, own, other)[:MOST_LOOKS]
    ]
