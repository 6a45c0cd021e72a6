"""From what was entered to what is recorded: read by the description, then judged by the rooms."""

from __future__ import annotations

import dataclasses
import datetime
import math
import re
from collections.abc import Callable
from typing import Any

from jubark_core.condition import scores
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora, slug
from jubark_core.naming.case import read_case
from jubark_core.records import bodies as b
from jubark_core.records.fields import write
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import Words
from jubark_core.records.things import Entry, Visit, read_entry, read_visit
from jubark_core.records.words import BREAST_HEIGHTS_M, CONDITIONS
from jubark_core.risk.worksheet import worksheet
from jubark_core.signs.load import signs
from jubark_core.size.compute import compute
from jubark_core.size.where import stem_forms
from jubark_core.units import SYSTEMS, unit_of

SAME_HEIGHT_M = 0.002
_TYPED = re.compile(r"([+-]?(?:[0-9]{1,9}[.,]?[0-9]{0,9}|[.,][0-9]{1,9})) (\S{1,6})", re.ASCII)


def vocabularies(flora: Flora) -> Words:
    """The words that grow with the flora and the data files."""
    return {
        "characters": flora.characters,
        "defects": scores.defects(),
        "condition parts": scores.parts(),
        "stem forms": stem_forms(),
        "signs": signs(),
    }


def record_visit(raw: Any, flora: Flora) -> Visit:
    """A visit as it is recorded: every entry read, judged and computed. Raises InputError naming entry and
    field.
    """
    found = read_visit(raw, vocabularies(flora))
    entries = tuple(_judged(e, flora, f"entries[{i}]") for i, e in enumerate(found.entries))
    _require_one_finding(entries)
    return dataclasses.replace(found, entries=entries)


def _require_one_finding(entries: tuple[Entry, ...]) -> None:
    """A visit cannot both name a defect and say that none was found."""
    defect = next((i for i, e in enumerate(entries) if isinstance(e.body, b.Defect)), None)
    for i, e in enumerate(entries):
        if isinstance(e.body, b.Condition) and e.body.no_defect and defect is not None:
            raise InputError(
                f"entries[{i}].condition.no_defect", True, f"false: entries[{defect}] names a defect"
            )


def record_entry(raw: Any, flora: Flora, place: str = "entry") -> Entry:
    """One entry as it is recorded. Raises InputError with `place` before the field."""
    return _judged(read_entry(raw, vocabularies(flora), place), flora, place)


def _judged(entry: Entry, flora: Flora, place: str) -> Entry:
    judge = JUDGES.get(entry.kind)
    if entry.body is None or judge is None:
        return entry
    try:
        return dataclasses.replace(entry, body=judge(entry.body, flora))
    except InputError as error:
        raise InputError(f"{place}.{entry.kind}.{error.place}", error.value, error.allowed) from None


def observation_for_naming(look: b.Observation, flora: Flora) -> dict[str, Any]:
    """An observation as the naming contract has it: `state` for a character that shows one."""
    found = write(look)
    if len(look.states) == 1 and flora.characters[look.character]["kind"] != "many":
        found["state"] = found.pop("states")[0]
    return found


def _observation(look: b.Observation, flora: Flora) -> b.Observation:
    try:
        read_case({"on": "2026-01-01", "observations": [observation_for_naming(look, flora)]}, flora)
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
    found = compute(m.quantity, write(m.raw), m.combine, m.least_cm)
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


def _condition(c: b.Condition, flora: Flora) -> b.Condition:
    """Where parts were graded, the word follows from them, and one sent along must agree."""
    if not c.parts:
        if not c.word:
            raise InputError("word", "nothing", "one of " + ", ".join(CONDITIONS) + ", or graded parts")
        return dataclasses.replace(c, health=None, structure=None)
    found = scores.condition(c.parts, c.leafless)
    if c.word and c.word != found["whole"]:
        raise InputError("word", c.word, f"{found['whole']}, which follows from the parts")
    return dataclasses.replace(c, word=found["whole"], health=found["health"], structure=found["structure"])


def _risk(sheet: b.Risk, flora: Flora) -> b.Risk:
    """The ratings follow from the matrices; what is sent along of them is not believed."""
    found = worksheet(
        [write(row) for row in sheet.rows],
        years=sheet.years,
        level=sheet.level,
        base_seen=sheet.base_seen,
        crown_seen=sheet.crown_seen,
        on=datetime.date(2000, 1, 1),
    )
    rows = tuple(
        dataclasses.replace(row, rating=judged["rating"], residual=judged["residual"])
        for row, judged in zip(sheet.rows, found["rows"], strict=True)
    )
    return dataclasses.replace(
        sheet, rows=rows, rating=found["rating"] or "", residual=found["residual"] or ""
    )


def _tag(tag: b.Tag, flora: Flora) -> b.Tag:
    return dataclasses.replace(tag, number=tag.number.strip())


JUDGES: dict[str, Callable[[Any, Flora], Any]] = {
    "observation": _observation,
    "determination": _determination,
    "measurement": _measurement,
    "condition": _condition,
    "risk": _risk,
    "tag": _tag,
}
