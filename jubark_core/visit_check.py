"""A visit while it is being written: what follows from each entry, and what speaks against it.

Nothing is refused as a whole: an entry that cannot be judged yet says why, and the others are judged all the
same.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated, Any, Literal, NotRequired, TypedDict, cast

from jubark_core.checks import require_date
from jubark_core.condition.leaf_state import in_season, leaf_state
from jubark_core.condition.scores import condition
from jubark_core.condition.veteran import veteran_needs
from jubark_core.errors import InputError, shown
from jubark_core.flora.model import Flora
from jubark_core.recording import NOT_IN_LEAF, needs_leaves, rated, vocabularies
from jubark_core.records import bodies as b
from jubark_core.records.fields import write
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.things import read_entry
from jubark_core.records.typed_schema import Between, Recorded
from jubark_core.risk.asked_again import AskedAgain, asked_of_defect, asked_of_sheet
from jubark_core.risk.worksheet import HIGH_DAYS, RatedSheet
from jubark_core.season.contract import PlaceIn
from jubark_core.season.days import add_months
from jubark_core.season.place import Place
from jubark_core.size.compute import compute
from jubark_core.size.plausibility import JUDGED, plausibility

MOST_ENTRIES = 500
INPUTS = ["entries", "last figures", "neighbours", "settings", "calendar"]


class FigureBefore(TypedDict):
    """The last visit's figure."""

    value: float
    on: str
    at_height_m: float | None
    method: str
    stem_form: str


class KnownOfPlant(TypedDict):
    """What earlier visits and the neighbours say: what a new figure is held against."""

    taxon: Annotated[str, "The name now; empty: none."]
    before: Annotated[dict[str, FigureBefore], "By quantity, the newest before the day."]
    neighbours: Annotated[dict[str, list[float]], "By quantity, figures of the same taxon nearby."]


class CheckVisitIn(TypedDict):
    """The entries of a visit as far as they are written, with the conventions of the site in them."""

    on: str
    entries: list[Annotated[dict[str, Any], Recorded("EntryIn")]]
    taxon: NotRequired[Annotated[str, "The name the plant has, where the visit gives none."]]
    known: NotRequired[KnownOfPlant]
    units: NotRequired[Annotated[Literal["metric", "us_customary"], "In which warnings are worded."]]
    stage: NotRequired[Annotated[str, "Of the plant, for what is likely of its figures."]]
    high_days: NotRequired[Annotated[int, Between(1, 365), "Within which the owner deals with a high risk."]]
    place: NotRequired[Annotated[PlaceIn, "With the name it says whether the tree is in leaf."]]
    inspection_months: NotRequired[
        Annotated[int | None, Between(1, 240), "Between two inspections, by the owner's table."]
    ]


class Meant(TypedDict):
    """The figure that was perhaps meant, and by which slip."""

    value: float
    why: str


class CheckedFigure(TypedDict):
    """What a measurement comes to, and what speaks against it."""

    quantity: str
    value: float
    unit: str
    stems: int
    thinner: NotRequired[Annotated[int, "Stems thinner than the least that is measured."]]
    error_m: NotRequired[float]
    warning: NotRequired[Annotated[str, "Of how it was taken."]]
    warnings: Annotated[list[str], "What speaks against it; empty where nothing does."]
    meant: list[Meant]
    before: FigureBefore | None


class CheckedCondition(TypedDict):
    """Health, structure and the whole, from the grades of the parts; a veteran's needs from its scales."""

    health: int | None
    structure: int | None
    whole: str
    at_most: Annotated[bool, "What was not seen could only make it worse."]
    winter_view: Annotated[bool, "Judged out of leaf."]
    held_by: str | None
    not_seen: list[str]
    veteran_needs: Annotated[str, "Empty where the scales were not used."]


class Refused(TypedDict):
    """Why an entry cannot be judged as it stands."""

    field: str
    value: str
    allowed: str
    message: str


class CheckedEntry(TypedDict):
    """One entry; what it is not, is null."""

    id: str
    refused: Refused | None
    figure: CheckedFigure | None
    condition: CheckedCondition | None
    risk: RatedSheet | None
    asks: Annotated[list[AskedAgain], "What is hardly meant as it stands."]


class CheckedVisit(TypedDict):
    """The measurements, condition, defects and risk of the visit, in the order of its entries."""

    entries: list[CheckedEntry]
    leaf_state: Annotated[str, "in_leaf, out_of_leaf, or empty where the calendar does not say."]
    holds_until: Annotated[str, "Empty: the day of the visit is an input, and no other day changes it."]
    inputs: Annotated[list[str], "What it was judged by."]


def check_visit(given: CheckVisitIn, flora: Flora) -> CheckedVisit:
    """Judges what is written of a visit. Raises InputError for a bad day, or for what is no entry at all."""
    on = require_date("on", given["on"])
    if len(given["entries"]) > MOST_ENTRIES:
        raise InputError("entries", len(given["entries"]), f"at most {MOST_ENTRIES} entries")
    names = vocabularies(flora)
    read = [_read(i, raw, names) for i, raw in enumerate(given["entries"])]
    figures = {id: (body.quantity, _figure(body)) for id, body in read if isinstance(body, b.Measurement)}
    bare = any(isinstance(body, Condition) and body.leafless for _, body in read)
    units = given.get("units", "metric")
    dbh_cm = _dbh_cm(figures, given)
    months = given.get("inspection_months")
    latest = add_months(on, months) if months else None
    state = _leaf_state(read, given, on, flora)
    checked = []
    for id, body in read:
        found = CheckedEntry(id=id, refused=None, figure=None, condition=None, risk=None, asks=[])
        try:
            if isinstance(body, InputError):
                raise body
            if isinstance(body, b.Measurement):
                if bare and needs_leaves(body):
                    raise InputError("quantity", body.quantity, NOT_IN_LEAF)
                found["figure"] = _checked_figure(id, body, figures, _taxon(read, given), given, on, flora)
            elif isinstance(body, Condition) and (body.parts or body.vitality or body.stability):
                found["condition"] = _checked_condition(in_season(body, state))
            elif isinstance(body, Risk):
                found["risk"] = of_rows = rated(body, given.get("high_days", HIGH_DAYS))
                sheet = replace(body, rating=of_rows["rating"])
                found["asks"] = asked_of_sheet(sheet, on, latest, units)
            elif isinstance(body, Defect):
                found["asks"] = asked_of_defect(body, dbh_cm, units)
            else:
                continue
        except InputError as error:
            found["refused"] = Refused(
                field=error.place, value=shown(error.value), allowed=error.allowed, message=str(error)
            )
        checked.append(found)
    return {"entries": checked, "leaf_state": state, "holds_until": "", "inputs": INPUTS}


Judged = tuple[str, Any]  # the id of an entry, and its body or why it cannot be read


def _read(i: int, raw: Any, names: Any) -> Judged:
    """One entry by the description of records; a bad body is kept as its refusal, a bad entry refuses all."""
    at = f"entries[{i}]"
    if not isinstance(raw, dict) or not isinstance(raw.get("id"), str):
        raise InputError(at, raw, "an entry with id, kind and body")
    try:
        return raw["id"], read_entry(raw, names, at).body
    except InputError as error:
        place = error.place.removeprefix(f"{at}.").removeprefix(f"{raw.get('kind')}.").removeprefix("body.")
        return raw["id"], InputError(place, error.value, error.allowed)


def _figure(m: b.Measurement) -> float | None:
    try:
        return float(compute(m.quantity, write(m.raw), m.combine, m.least_cm)["value"])
    except InputError:
        return None


def _dbh_cm(figures: dict[str, tuple[str, float | None]], given: CheckVisitIn) -> float | None:
    own = [value for quantity, value in figures.values() if quantity == "dbh_cm" and value]
    return own[-1] if own else _value(given["known"], "dbh_cm") if "known" in given else None


def _leaf_state(read: Sequence[Judged], given: CheckVisitIn, on: datetime.date, flora: Flora) -> str:
    at = given.get("place")
    if at is None:
        return ""
    place = Place(at["lat"], at["lon"], at.get("elevation_m"))
    return leaf_state(_taxon(read, given), on, place, flora)


def _taxon(read: Sequence[Judged], given: CheckVisitIn) -> str:
    names = [body.taxon for _, body in read if isinstance(body, b.Determination)]
    before = given["known"]["taxon"] if "known" in given else ""
    return names[-1] if names else given.get("taxon") or before


def _checked_figure(
    id: str,
    m: b.Measurement,
    figures: dict[str, tuple[str, float | None]],
    taxon: str,
    given: CheckVisitIn,
    on: datetime.date,
    flora: Flora,
) -> CheckedFigure:
    found = compute(m.quantity, write(m.raw), m.combine, m.least_cm, method=m.method)
    known = given.get("known") or KnownOfPlant(taxon="", before={}, neighbours={})
    before = known["before"].get(m.quantity)
    against: dict[str, Any] = {"warnings": [], "meant": []}
    if m.quantity in JUDGED and found["stems"]:
        node = flora.taxa.get(taxon, {})
        others = {q: value for i, (q, value) in figures.items() if i != id}
        against = plausibility(
            m.quantity,
            found["value"],
            dbh_cm=others.get("dbh_cm") or _value(known, "dbh_cm"),
            height_m=others.get("height_m") or _value(known, "height_m"),
            grown_height_m=node.get("height_m"),
            before=before["value"] if before else None,
            years=(on - require_date("known.before.on", before["on"])).days / 365.25 if before else None,
            before_at_m=before["at_height_m"] if before else None,
            now_at_m=m.at_height_m,
            neighbours=known["neighbours"].get(m.quantity, []) if taxon == known["taxon"] else [],
            stage=given.get("stage", "mature"),
            form=_form(node),
            units=given.get("units", "metric"),
        )
    return cast(CheckedFigure, {"quantity": m.quantity, **found, **against, "before": before})


def _value(known: KnownOfPlant, quantity: str) -> float | None:
    return known["before"][quantity]["value"] if quantity in known["before"] else None


def _form(node: dict[str, Any]) -> str:
    """The usual form of a taxon; a tree where the flora does not say."""
    found: dict[str, float] = (node.get("states", {}).get("habit.form") or [{}])[0].get("weights", {})
    return max(found, key=lambda form: found[form]) if found else "tree"


def _checked_condition(body: Condition) -> CheckedCondition:
    found = condition(body.parts, body.leafless, body.buds_seen)
    needs = veteran_needs(body.vitality, body.stability) if body.vitality and body.stability else ""
    return cast(CheckedCondition, {**found, "veteran_needs": needs})
