"""What is known of a plant now, and was on any day, from its entries alone. No database here."""

from __future__ import annotations

import datetime
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import groupby
from typing import Any, Generic, TypeVar
from uuid import UUID

from apps.plants.stored import AnyEntry, body_of
from jubark_core.records.ailing import Diagnosis, Sign
from jubark_core.records.bodies import Body, Determination, Life, Measurement, Tag
from jubark_core.records.inspected import Inspection
from jubark_core.records.judged import Condition, Risk
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.words import CONDITIONS
from jubark_core.risk.worksheet import is_complete, order

E = TypeVar("E", bound=AnyEntry)
IN_LEAF_DAYS = 365  # so long a word given in leaf stands against a view without leaves
QUANTITY_FIELDS = {name: q.current for name, q in QUANTITIES.items() if q.current}
SEEN_WHOLE_BY = ("risk", "inspection", "clock_confirmed")
SPAN_FIELDS = ("taxon", "dbh_cm", "height_m", "condition", "life", "cause")
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


@dataclass
class Standing(Generic[E]):
    """Entries that count, and which of them are disputed."""

    live: list[E] = field(default_factory=list)
    contested: set[UUID] = field(default_factory=set)


def standing_entries(entries: Sequence[E]) -> Standing[E]:
    """The newest of each chain of corrections, without what was withdrawn or waits for its clock to be
    confirmed.

    Where two corrections name the same entry, the later received wins and the chain is contested.
    """
    by_id = {e.id: e for e in entries}
    chains: dict[UUID, list[E]] = {}
    retracted: set[UUID] = set()
    for entry in entries:
        if entry.retracts_id is not None:
            retracted.add(_root(entry.retracts_id, by_id))
        else:
            chains.setdefault(_root(entry.id, by_id), []).append(entry)
    confirmed = confirmed_visits(entries)
    found: Standing[E] = Standing()
    for root, chain in chains.items():
        replaced = {e.replaces_id for e in chain}
        heads = sorted((e for e in chain if e.id not in replaced), key=lambda e: (e.received_at, e.id))
        if len(heads) > 1:
            found.contested.update(e.id for e in heads)
        head = heads[-1]
        if root not in retracted and (not head.visit.clock_doubtful or head.visit_id in confirmed):
            found.live.append(head)
    found.live.sort(key=_order)
    return found


def bodies_of(entries: Sequence[E]) -> list[tuple[datetime.date, Body]]:
    """What stands of entries, the oldest first, each with the day of its visit."""
    live = standing_entries(entries).live
    return [(e.visit.local_date, body) for e in live if (body := body_of(e)) is not None]


def confirmed_visits(entries: Sequence[AnyEntry]) -> set[UUID]:
    """Visits whose doubted date somebody confirmed."""
    return {e.visit_id for e in entries if e.kind == "clock_confirmed"}


def _root(entry_id: UUID, by_id: Mapping[UUID, AnyEntry]) -> UUID:
    while (
        (entry := by_id.get(entry_id)) is not None
        and entry.replaces_id is not None
        and entry.replaces_id in by_id
    ):
        entry_id = entry.replaces_id
    return entry_id


def _order(entry: AnyEntry) -> tuple[Any, ...]:
    return (entry.visit.local_date, entry.visit.observed_at, entry.received_at, entry.id)


def projected(entries: Sequence[AnyEntry]) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """(fields of Current, rows of PlantSpan): what is known now, and what was known from day to day.

    Now: per quantity the greatest by (local date, observed at, received at, id). From day to day: consecutive
    ranges [from_day, to_day) in which nothing changed.
    """
    standing = standing_entries(entries)
    values: dict[str, Any] = {**EMPTY, "signs": []}
    rows: list[dict[str, Any]] = []
    for day, of_day in groupby(standing.live, key=lambda e: e.visit.local_date):
        for entry in of_day:
            _apply(values, entry, body_of(entry))
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


def projected_with(
    own: Sequence[AnyEntry],
    of_duplicates: Sequence[Sequence[AnyEntry]],
    merged_on: datetime.date | None = None,
) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """As `projected`, of a tree with what was recorded of it under other ids; it goes by its own tag.

    of_duplicates: the entries of each other record. Of the newest rating and condition of each record the
    gravest leads, until somebody has seen the whole tree since the day on which they were merged.
    """
    if not any(of_duplicates):
        return projected(own)
    records = [own, *of_duplicates]
    joined = [entry for record in records for entry in record]
    values, spans = projected(joined)
    tag = projected(own)[0]["tag"]
    if not seen_whole_since(joined, merged_on):
        values |= _gravest([projected(record)[0] for record in records if record])
    return {**values, "tag": tag or values["tag"]}, spans


def seen_whole_since(entries: Sequence[AnyEntry], day: datetime.date | None) -> bool:
    """Whether base and crown were both seen, by a worksheet or an inspection, on the day or later."""
    if day is None:
        return False
    return any(
        is_complete(body.base_seen, body.crown_seen)
        if isinstance(body, Risk)
        else is_complete(body.base_visible, body.crown_visible)
        for on, body in bodies_of([e for e in entries if e.kind in SEEN_WHOLE_BY or e.retracts_id])
        if isinstance(body, Risk | Inspection) and on >= day
    )


def _gravest(records: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """The gravest rating and condition of several records of one tree, and the earliest date set for a
    look.
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
    return found


def current_values(entries: Sequence[AnyEntry]) -> dict[str, Any]:
    """Field -> value of Current."""
    return projected(entries)[0]


def _apply(values: dict[str, Any], entry: AnyEntry, body: Body | None) -> None:
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
                "risk_order": order(body.rating, is_complete(body.base_seen, body.crown_seen)),
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
