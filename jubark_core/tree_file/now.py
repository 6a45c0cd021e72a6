"""What is known of a tree now, and was from day to day: one walk over what stands, the oldest first."""

from __future__ import annotations

import datetime
from collections.abc import Mapping, Sequence
from itertools import groupby
from typing import Any

from jubark_core.records.ailing import Diagnosis, Sign
from jubark_core.records.bodies import Body, Determination, Life, Measurement, Tag
from jubark_core.records.judged import Condition, Risk
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.words import CONDITIONS
from jubark_core.risk.worksheet import is_complete, order
from jubark_core.tree_file.filed import Filed, Standing, confirmed_visits

IN_LEAF_DAYS = 365  # so long a word given in leaf stands against a view without leaves
QUANTITY_FIELDS = {name: q.current for name, q in QUANTITIES.items() if q.current}
SPAN_FIELDS = ("taxon", "dbh_cm", "height_m", "condition", "life", "cause")
HELD_TO_BE = ("suspicion", "probable", "confirmed")  # the graver, the later
NAME_BY_A_PERSON = 0.97  # a name without a probability: people err
EMPTY: dict[str, Any] = {
    "tag": "",
    "taxon": "",
    "name": "",
    "name_rank": "",
    "name_probability": None,
    "dbh_height_m": None,
    "condition": "",
    "condition_at_most": False,
    "condition_in_winter": False,
    "risk_order": None,
    "risk_reads": "",
    "next_inspection": None,
    "life": "alive",
    "verdict": "",
    "cause": "",
    "cause_standing": "",
    "diagnosed_on": None,
    **dict.fromkeys(QUANTITY_FIELDS.values()),
}


def now_and_spans(
    entries: Sequence[Filed], standing: Standing[Filed]
) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """(field -> value now, consecutive ranges [from_day, to_day) in which nothing of SPAN_FIELDS changed).

    Now: per quantity the greatest by (local date, observed at, received at, id).
    """
    values: dict[str, Any] = {**EMPTY, "signs": []}
    rows: list[dict[str, Any]] = []
    for day, of_day in groupby(standing.live, key=lambda e: e.visit.local_date):
        for entry in of_day:
            _apply(values, entry, entry.body)
        row = {key: values[key] for key in SPAN_FIELDS}
        if rows and {k: rows[-1][k] for k in SPAN_FIELDS} == row:
            continue
        if rows:
            rows[-1]["to_day"] = day
        rows.append({"from_day": day, "to_day": None, **row})
    confirmed = confirmed_visits(entries)
    seen = {
        e.visit_id: e.visit.local_date
        for e in entries
        if e.visit.mode == "field" and (not e.visit.clock_doubtful or e.visit_id in confirmed)
    }
    values.pop("_sign_visit", None)
    values.pop("_in_leaf_on", None)
    contested = bool(standing.contested)
    last_seen = max(seen.values(), default=None)
    return {**values, "visits": len(seen), "last_seen": last_seen, "contested": contested}, rows


def gravity(sheet: Risk) -> int:
    """Where the rating of a worksheet stands among others."""
    return order(sheet.rating, is_complete(sheet.base_seen, sheet.crown_seen))


def gravest(records: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """The gravest rating, condition and diagnosis of several records of one tree, and the earliest date set
    for a look.
    """
    found: dict[str, Any] = {}
    if rated := [r for r in records if r["risk_order"] is not None]:
        worst = max(rated, key=lambda r: r["risk_order"])
        dates = [r["next_inspection"] for r in rated if r["next_inspection"]]
        found |= {key: worst[key] for key in ("risk_order", "risk_reads")}
        found["next_inspection"] = min(dates, default=None)
    if judged := [r for r in records if r["condition"] in CONDITIONS]:
        worst = max(judged, key=lambda r: CONDITIONS.index(r["condition"]))
        found |= {key: worst[key] for key in ("condition", "condition_at_most", "condition_in_winter")}
    if ill := [r for r in records if r["cause_standing"] in HELD_TO_BE]:
        worst = max(ill, key=lambda r: (HELD_TO_BE.index(r["cause_standing"]), r["diagnosed_on"]))
        found |= {key: worst[key] for key in ("verdict", "cause", "cause_standing", "diagnosed_on")}
    return found


def _apply(values: dict[str, Any], entry: Filed, body: Body | None) -> None:
    match body:
        case Determination():
            values |= {
                "taxon": body.taxon,
                "name": body.name,
                "name_rank": body.name_rank,
                "name_probability": body.probability,
            }
        case Measurement():
            if body.quantity in QUANTITY_FIELDS and body.stems:  # thinner shoots are counted, not measured
                values[QUANTITY_FIELDS[body.quantity]] = body.value
            if body.quantity == "dbh_cm" and body.stems:
                values["dbh_height_m"] = body.at_height_m
        case Condition():
            _judge(values, body, entry.visit.local_date)
        case Risk():
            values |= {
                "risk_order": gravity(body),
                "risk_reads": body.reads,
                "next_inspection": body.next_inspection,
            }
        case Life():
            values["life"] = body.state
        case Tag():
            values["tag"] = (
                body.number if body.state == "set" else "" if values["tag"] == body.number else values["tag"]
            )
        case Diagnosis():
            held = body.standing != "ruled_out"
            values |= {
                "verdict": body.verdict if held else "",
                "cause": body.cause if held else "",
                "cause_standing": body.standing if held else "",
                "diagnosed_on": entry.visit.local_date,
            }
        case Sign():
            if values.get("_sign_visit") != entry.visit_id:  # the newest visit that looked for signs counts
                values |= {"signs": [], "_sign_visit": entry.visit_id}
            if body.present:
                values["signs"] = [*values["signs"], body.sign]


def _judge(values: dict[str, Any], body: Condition, on: datetime.date) -> None:
    """The newest word; but a winter view takes no place of a word given in leaf within the year before."""
    if body.word in ("", "not_seen"):
        return
    in_leaf_on = values.get("_in_leaf_on")
    if (
        body.leafless
        and body.word != "dead"
        and in_leaf_on is not None
        and (on - in_leaf_on).days < IN_LEAF_DAYS
    ):
        return
    if not body.leafless:
        values["_in_leaf_on"] = on
    values |= {
        "condition": body.word,
        "condition_at_most": body.at_most,
        "condition_in_winter": body.leafless,
    }
