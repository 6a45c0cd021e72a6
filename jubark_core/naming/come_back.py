"""For what cannot be settled now: when a separating character shows at this place, and which one."""

from __future__ import annotations

import datetime
import math
from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.weigh import Weighed
from jubark_core.season.windows import day_of_year, event_days, visible

STEP_DAYS = 5
MOST = 4
SHARE_LIVE = 0.02
CLEAR = 0.5  # total variation from which a character is said to separate two taxa


def separation(flora: Flora, a: str, b: str, character: str, stage: str, season_a: str, season_b: str) -> float:
    """How far two taxa differ in a character: total variation distance 0..1; 0 where either says nothing."""
    c = flora.characters[character]
    if min(flora.applies(a, character, stage, season_a), flora.applies(b, character, stage, season_b)) < 0.5:
        return 0.0
    if c["kind"] in ("count", "measure"):
        one, two = flora.spread(a, character, stage), flora.spread(b, character, stage)
        if one is None or two is None:
            return 0.0
        gap = abs(one[0] - two[0]) / math.sqrt((one[1] ** 2 + two[1] ** 2) / 2)
        return math.erf(gap / (2 * math.sqrt(2)))
    wa, wb = flora.weights(a, character, stage, season_a), flora.weights(b, character, stage, season_b)
    if wa is None or wb is None:
        return 0.0
    if c["kind"] == "many":
        return max(abs(wa[s] - wb[s]) for s in wa)
    return 0.5 * math.fsum(abs(wa[s] - wb[s]) for s in wa)


def separators(w: Weighed, a: str, b: str) -> list[str]:
    """Characters that part two taxa at this stage, the clearest first; the flora's own list leads."""
    stage, on = w.case.stage, w.case.on
    own = [cid for x, y in ((a, b), (b, a)) for pair in w.flora.taxa[x].get("look_alikes", ()) if pair["taxon"] == y for cid in pair["by"]]
    seasons = w.evidence.season(a, on), w.evidence.season(b, on)
    gaps = {cid: separation(w.flora, a, b, cid, stage, *seasons) for cid in w.flora.characters}
    clear = sorted((cid for cid, gap in gaps.items() if gap >= CLEAR), key=lambda cid: (-gaps[cid], cid))
    return list(dict.fromkeys(own + clear))


def come_back(w: Weighed) -> list[dict[str, Any]]:
    """Date windows within a year in which a character that parts the leader from a live rival can be seen."""
    ranked = [t for t in w.ranked() if t in w.flora.taxa]
    if not ranked:
        return []
    leader = ranked[0]
    rivals = [t for t in ranked[1:4] if w.probability[t] >= SHARE_LIVE]
    found: list[dict[str, Any]] = []
    for rival in rivals:
        for cid in separators(w, leader, rival)[:6]:
            if w.looks_at(cid) or w.case.stage not in w.flora.characters[cid].get("stages", (w.case.stage,)):
                continue
            window = next_window(w, cid, (leader, rival))
            if window is not None:
                found.append({"from": window[0].isoformat(), "to": window[1].isoformat(), "character": cid, "separates": [leader, rival]})
    found.sort(key=lambda item: (item["from"], item["character"], item["separates"]))
    return found[:MOST]


def next_window(w: Weighed, character: str, taxa: tuple[str, ...]) -> tuple[datetime.date, datetime.date] | None:
    """First window after the case's date, not open on it, in which all the taxa show the character."""
    kinds = [k for k in w.flora.characters[character].get("visible", ["always"]) if k != "litter"]
    tables = [(w.flora.taxa[t], event_days(w.flora.taxa[t], w.case.place)) for t in taxa]

    def open_on(date: datetime.date) -> bool:
        day = day_of_year(date)
        return all(max(visible(t, k, days, day) for k in kinds) >= 0.6 for t, days in tables)

    if not kinds or open_on(w.case.on):
        return None
    dates = [w.case.on + datetime.timedelta(days=d) for d in range(STEP_DAYS, 366, STEP_DAYS)]
    start = next((d for d in dates if open_on(d)), None)
    if start is None:
        return None
    end = start
    while (later := end + datetime.timedelta(days=STEP_DAYS)) <= dates[-1] and open_on(later):
        end = later
    return start, end
