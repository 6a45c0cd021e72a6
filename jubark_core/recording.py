"""From what was entered to what is recorded: read by the description, then judged by the rooms."""

from __future__ import annotations

import dataclasses
import math
import re
from collections.abc import Callable, Sequence
from typing import Any

from jubark_core.condition import scores
from jubark_core.condition.veteran import veteran_needs
from jubark_core.errors import InputError
from jubark_core.flora.climbers import climbers
from jubark_core.flora.model import Flora, slug
from jubark_core.naming.case import read_case
from jubark_core.records import bodies as b
from jubark_core.records import words as w
from jubark_core.records.fields import write
from jubark_core.records.inspected import Inspection
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import Words
from jubark_core.records.things import Entry, Visit, read_entry, read_visit
from jubark_core.records.upgrade import VERSION
from jubark_core.records.words import BREAST_HEIGHTS_M, CONDITIONS
from jubark_core.records.working import Clearance
from jubark_core.risk.worksheet import HIGH_DAYS, RatedSheet, worksheet
from jubark_core.signs.load import health, signs
from jubark_core.size.compute import OF_ONE_STEM, compute
from jubark_core.size.where import stem_forms
from jubark_core.tree_file.holds import is_permit
from jubark_core.units import SYSTEMS, unit_of
from jubark_core.work.before.acts import acts
from jubark_core.work.case_of_tree import OF_THE_SIGNED_IN
from jubark_core.work.load import work_rules

SAME_HEIGHT_M = 0.002
NOT_VISIBLE = "not_visible"
HIDDEN = ("partly", NOT_VISIBLE)
SINCE_AGREEMENT = 6  # the record version from which on findings of a visit have to agree
SINCE_EVIDENCE = 7  # and from which on what closes a check is of a kind, somebody's, and complete
NOT_IN_LEAF = "a quantity that can be judged out of leaf, which the condition of this visit says it was"
# fields of a defect that fit some defects only
MEASURES = (
    "extent_percent",
    "lean_deg",
    "lean",
    "number",
    "break_cm",
    "over_target",
    "wall_cm",
    "opening_percent",
    "species",
)
_TYPED = re.compile(r"([+-]?(?:[0-9]{1,9}[.,]?[0-9]{0,9}|[.,][0-9]{1,9})) (\S{1,6})", re.ASCII)


def vocabularies(flora: Flora) -> Words:
    """The words that grow with the flora and the data files."""
    return {
        "characters": flora.characters,
        "defects": scores.defects(),
        "condition parts": scores.parts(),
        "stem forms": stem_forms(),
        "signs": signs(),
        "causes": health().causes,
        "work rules": work_rules().rules,
        "acts": acts(),
        "climbers": climbers(flora),
    }


def record_visit(raw: Any, flora: Flora, version: int = VERSION) -> Visit:
    """A visit as it is recorded: every entry read, judged and computed. version: the record version it was
    made with; no rule younger than that refuses it. Raises InputError naming entry and field.
    """
    found = read_visit(raw, vocabularies(flora))
    entries = tuple(_judged(e, flora, f"entries[{i}]") for i, e in enumerate(found.entries))
    _require_one_finding(entries)
    if version >= SINCE_AGREEMENT:
        for i, entry in enumerate(entries):
            require_agreement(entry, [e.body for e in entries], f"entries[{i}].{entry.kind}.")
    if version >= SINCE_EVIDENCE:
        for i, entry in enumerate(entries):
            require_evidence(entry, f"entries[{i}].{entry.kind}.")
    require_in_leaf([e.body for e in entries], "entries[{i}].measurement.quantity")
    return dataclasses.replace(found, entries=entries)


def _require_one_finding(entries: tuple[Entry, ...]) -> None:
    """A visit cannot both name a defect and say that none was found."""
    defect = next((i for i, e in enumerate(entries) if isinstance(e.body, Defect)), None)
    for i, e in enumerate(entries):
        if isinstance(e.body, Condition | Inspection) and e.body.no_defect and defect is not None:
            raise InputError(
                f"entries[{i}].{e.kind}.no_defect", True, f"false: entries[{defect}] names a defect"
            )


def require_agreement(entry: Entry, beside: Sequence[b.Body | None], before: str) -> None:
    """What a finding leaves no room for. beside: the other bodies of the visit; before: put before the field.
    Raises InputError naming both.
    """
    body = entry.body
    if isinstance(body, Condition | Inspection) and body.no_defect:
        if body.base_visible == NOT_VISIBLE:
            raise InputError(f"{before}no_defect", True, "false: the base was not seen")
        for other in beside:
            if isinstance(other, Risk) and other.rating != "low":
                allowed = f"false: the risk worksheet of this visit reads {other.reads!r}"
                raise InputError(f"{before}no_defect", True, allowed)
            if isinstance(other, Condition | Inspection) and other.base_visible == NOT_VISIBLE:
                raise InputError(f"{before}no_defect", True, "false: this visit says the base was not seen")
    if isinstance(body, Clearance) and is_permit(body) and body.until is None:
        allowed = "the day on which the operator's permit ends; or what: line_clear, where the line is gone"
        raise InputError(f"{before}until", "nothing", allowed)


LOOKS = {
    "nest_look": ("none", "in_use"),
    "hollow_look": ("none", "feature", "hidden_parts", "in_use"),
    "roost_look": ("none", "feature", "hidden_parts", "in_use"),
    "roost_assessment": ("none", "in_use"),
    "line_look": ("none", "line"),
    "look_up": ("none", "applies"),
    "owner_look_up": ("own", "not_own"),
}
REFERRED = (
    *("second_person", "roost_assessment", "permission", "notice", "exemption", "services_located"),
    *(
        "agreement",
        "right",
        "officer_permission",
        "climb_finding",
        "names_given",
        "closure_plan",
        "cordon",
    ),
)
ENDING = ("roost_assessment", "permission", "isolation", "standing_authorisation", "services_located")
FOR_ACTS = ("permission", "notice", "exemption")


def evidence_asks(kind: str) -> list[str]:
    """The fields that a kind of evidence is given with."""
    who = [] if kind in OF_THE_SIGNED_IN else ["member", "contact", "by"]
    return [
        *(["result"] if kind in LOOKS else []),
        *who,
        *(["reference"] if kind in REFERRED or kind in ENDING or kind == "line_clear" else []),
        *(["acts", "conditions", "asked_on"] if kind in FOR_ACTS else []),
        *(["answered"] if kind == "applicator" else []),
        *(["begins"] if kind in ENDING else []),
        *(["until"] if kind in ENDING or kind in ("agreement", "right") else []),
        "remark",
    ]


def require_evidence(entry: Entry, before: str) -> None:
    """What closes a check is of a kind that can, says what was found, for which acts, under which reference
    and until when. Raises InputError naming the field.
    """
    if isinstance(entry.body, Clearance):
        require_evidence_of(entry.body, before)


def require_evidence_of(body: Clearance, before: str) -> None:
    """The same of one piece. Raises InputError naming the field."""
    kinds = w.EVIDENCE.get(body.check_closed, ())
    if not kinds:
        allowed = ", ".join(w.EVIDENCE)
        raise InputError(f"{before}check_closed", body.check_closed, f"one of {allowed}")
    if body.what not in kinds:
        raise InputError(f"{before}what", body.what or "nothing", "one of " + ", ".join(kinds))
    if (found := LOOKS.get(body.what)) and body.result not in found:
        raise InputError(f"{before}result", body.result or "nothing", "one of " + ", ".join(found))
    if body.what in REFERRED and not body.reference.strip():
        raise InputError(
            f"{before}reference", "nothing", "the number of the letter, permit, call or photograph"
        )
    if body.what in ENDING and body.until is None:
        raise InputError(f"{before}until", "nothing", "the day on which it ends")
    if body.what in FOR_ACTS and not body.acts:
        raise InputError(f"{before}acts", "nothing", "the acts it covers")


def require_in_leaf(bodies: Sequence[b.Body | None], place: str) -> None:
    """What is judged in leaf cannot stand beside a condition that was judged out of leaf.

    A figure that says itself that it was is let through: an earlier version allowed it. Raises InputError;
    `{i}` in place stands for the number of the body.
    """
    bare = any(isinstance(body, Condition) and body.leafless for body in bodies)
    for i, body in enumerate(bodies):
        if bare and isinstance(body, b.Measurement) and needs_leaves(body):
            raise InputError(place.format(i=i), body.quantity, NOT_IN_LEAF)


def needs_leaves(m: b.Measurement) -> bool:
    """Whether a figure can be judged in leaf only, and does not say itself that it was judged without."""
    return QUANTITIES[m.quantity].in_leaf and not m.out_of_leaf


def record_entry(raw: Any, flora: Flora, place: str = "entry", version: int = VERSION) -> Entry:
    """One entry as it is recorded. Raises InputError with `place` before the field."""
    found = _judged(read_entry(raw, vocabularies(flora), place), flora, place)
    if version >= SINCE_AGREEMENT:
        require_agreement(found, (), f"{place}.{found.kind}.")
    if version >= SINCE_EVIDENCE:
        require_evidence(found, f"{place}.{found.kind}.")
    return found


def _judged(entry: Entry, flora: Flora, place: str) -> Entry:
    judge = JUDGES.get(entry.kind)
    if entry.body is None or judge is None:
        return entry
    try:
        return dataclasses.replace(entry, body=judge(entry.body, flora))
    except InputError as error:
        raise InputError(f"{place}.{entry.kind}.{error.place}", error.value, error.allowed) from None


def _observation(look: b.Observation, flora: Flora) -> b.Observation:
    try:
        read_case({"on": "2026-01-01", "observations": [write(look)]}, flora)
    except InputError as error:
        place = error.place.removeprefix("observations[0]").lstrip(".") or "states"
        raise InputError(place, error.value, error.allowed) from None
    return look


def _determination(name: b.Determination, flora: Flora) -> b.Determination:
    """Known names resolve to the accepted id; a name the flora does not hold is recorded as entered."""
    taxon = flora.resolve.get(name.taxon or slug(name.entered), "")
    if name.taxon and not taxon:
        raise InputError("taxon", name.taxon, "the id of a taxon of the flora, or leave it out")
    node = flora.taxa.get(taxon, {})
    return dataclasses.replace(
        name,
        taxon=taxon,
        name=node.get("name") or name.entered,
        name_rank=node.get("rank") or name.name_rank,
    )


def _measurement(m: b.Measurement, flora: Flora) -> b.Measurement:
    """Computed from the readings; a value sent along must agree with them."""
    found = compute(m.quantity, write(m.raw), m.combine, m.least_cm, method=m.method)
    if m.value and not math.isclose(m.value, found["value"], rel_tol=1e-6):
        raise InputError("value", m.value, f"{found['value']:.4f} follows from the readings")
    _require_as_entered(m)
    needed = stem_forms()[m.stem_form].get("method") if m.stem_form else None
    if needed not in (None, m.method):
        label = stem_forms()[m.stem_form]["label"]
        raise InputError("method", m.method, f"{needed}: a stem {label} is not touched")
    return dataclasses.replace(
        m,
        value=found["value"],
        error_m=found.get("error_m"),
        stems=found["stems"],
        thinner=m.thinner or found.get("thinner", 0),
        at_height_m=_height(m.at_height_m),
        unit_entered=m.unit_entered or found["unit"],
    )


def _require_as_entered(m: b.Measurement) -> None:
    """What was typed must be what was read: plain readings, one for one, to the decimals that were typed."""
    typed = [_TYPED.fullmatch(part.strip()) for part in m.as_entered.split(";")] if m.as_entered else []
    raw = m.raw
    plain = [
        *(() if raw.value is None else (raw.value,)),
        *raw.diameters_cm,
        *raw.circumferences_cm,
        *raw.radii_m,
        *raw.spreads_m,
    ]
    if not plain or len(typed) != len(plain):
        return  # pairs and sights are typed in more words than can be held against them
    si = QUANTITIES[m.quantity].unit
    units = {unit_of(si, system).label: unit_of(si, system) for system in SYSTEMS}
    for number, reading in zip(typed, plain, strict=True):
        unit = units.get(number[2]) if number else None
        figure = float(number[1].replace(",", ".")) * unit.per if number and unit else None
        if figure is None or not math.isclose(figure, reading, rel_tol=1e-6, abs_tol=1e-9):
            raise InputError(
                "as_entered", m.as_entered, f"each reading with its unit, {' or '.join(units)}, as in raw"
            )


def _height(at_m: float | None) -> float | None:
    """A height of measurement to the centimetre; one within 2 mm of a convention is that convention."""
    near = (h for h in BREAST_HEIGHTS_M if at_m is not None and abs(h - at_m) < SAME_HEIGHT_M)
    return None if at_m is None else next(near, round(at_m, 2))


def _condition(c: Condition, flora: Flora) -> Condition:
    """Where parts were graded, the word follows from them, and a veteran's needs from its two scales."""
    if not (c.parts or c.word or c.vitality or c.stability):
        allowed = "one of " + ", ".join(CONDITIONS) + ", or graded parts, or a scale of a veteran"
        raise InputError("word", "nothing", allowed)
    return _condition_again(c)


def _condition_again(c: Condition) -> Condition:
    needs = veteran_needs(c.vitality, c.stability) if c.vitality and c.stability else ""
    hidden = c.base_visible in HIDDEN or c.crown_visible in HIDDEN
    if not c.parts:
        at_most = hidden and c.word not in ("", "dead", scores.NOT_SEEN)
        return dataclasses.replace(c, health=None, structure=None, at_most=at_most, veteran_needs=needs)
    found = scores.condition(c.parts, c.leafless, c.buds_seen)
    return dataclasses.replace(
        c,
        word=found["whole"],
        health=found["health"],
        structure=found["structure"],
        at_most=found["at_most"] or (hidden and found["whole"] not in ("dead", scores.NOT_SEEN)),
        veteran_needs=needs,
    )


def _risk(sheet: Risk, flora: Flora) -> Risk:
    """The ratings follow from the matrices; what is sent along of them is not believed."""
    if sheet.next_inspection is None and not sheet.no_next:
        raise InputError("next_inspection", "nothing", "a date, or no_next: that none was set")
    if sheet.next_inspection is not None and sheet.no_next:
        raise InputError("no_next", True, "false: next_inspection gives a date")
    return _risk_again(sheet)


def _risk_again(sheet: Risk) -> Risk:
    found = rated(sheet)
    rows = tuple(
        dataclasses.replace(row, rating=judged["rating"], residual=judged["residual"])
        for row, judged in zip(sheet.rows, found["rows"], strict=True)
    )
    return dataclasses.replace(
        sheet, rows=rows, rating=found["rating"], residual=found["residual"], reads=found["reads"]
    )


def rated(sheet: Risk, high_days: int = HIGH_DAYS) -> RatedSheet:
    """A worksheet by the matrices. Raises InputError naming row and field."""
    return worksheet(
        [write(row) for row in sheet.rows],
        years=sheet.years,
        level=sheet.level,
        base_seen=sheet.base_seen,
        crown_seen=sheet.crown_seen,
        high_days=high_days,
    )


def judged_again(body: b.Body) -> b.Body:
    """A body an earlier version stored, with what follows from it by the rules of today; readings stay."""
    match body:
        case Condition():
            return _condition_again(body)
        case Risk():
            return _risk_again(body)
        case b.Measurement() if body.least_cm and body.quantity in OF_ONE_STEM:
            found = compute(body.quantity, write(body.raw), body.combine, body.least_cm)
            return dataclasses.replace(body, value=found["value"], stems=found["stems"])
        case _:
            return body


def _defect(found: Defect, flora: Flora) -> Defect:
    """The measures must be those that fit the defect, and the part one it is looked for on."""
    known = scores.defects()[found.defect]
    if found.part not in known["parts"]:
        raise InputError("part", found.part, "one of " + ", ".join(known["parts"]))
    given = write(found)
    for measure in MEASURES:
        if measure in given and measure not in known["measures"]:
            fits = ", ".join(known["measures"]) or "none"
            raise InputError(measure, given[measure], f"a measure that fits a {known['label']}: {fits}")
    return found


def _tag(tag: b.Tag, flora: Flora) -> b.Tag:
    return dataclasses.replace(tag, number=tag.number.strip())


JUDGES: dict[str, Callable[[Any, Flora], Any]] = {
    "observation": _observation,
    "determination": _determination,
    "measurement": _measurement,
    "condition": _condition,
    "defect": _defect,
    "risk": _risk,
    "tag": _tag,
}
