"""The description as the screens need it: kinds with fields, quantities, conventions, with labels."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import Described, Row, fields_of
from jubark_core.records.office import OFFICE, USUAL_CONVENTIONS, office_fields
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import (
    Day,
    Flag,
    Grade,
    Id,
    Listed,
    Moment,
    Number,
    OneNumber,
    Several,
    Shape,
    Table,
    Whole,
    Word,
)
from jubark_core.records.things import CONVENTIONS
from jubark_core.records.upgrade import VERSION
from jubark_core.records.words import shown_word
from jubark_core.units import CUSTOMARY, METRIC

_TYPES: dict[type, Any] = {
    Day: "day",
    Flag: "flag",
    Grade: "grade",
    Id: "id",
    Listed: "listed",
    Moment: "moment",
    Number: "number",
    OneNumber: "one_number",
    Row: "row",
    Several: "several",
    Table: "table",
    Whole: "whole",
    Word: "word",
}


class WordShown(TypedDict):
    """A word of a list and how it is shown."""

    id: str
    label: str


class ShapeShown(TypedDict):
    """The type of a value and what limits it."""

    type: Literal[
        "day",
        "flag",
        "grade",
        "id",
        "listed",
        "moment",
        "number",
        "one_number",
        "row",
        "several",
        "table",
        "text",
        "whole",
        "word",
    ]
    words: NotRequired[list[WordShown]]
    vocabulary: NotRequired[Annotated[str, "The vocabulary a listed word is of."]]
    to: NotRequired[Annotated[str, "What an id names."]]
    numbers: NotRequired[list[float]]
    unit: NotRequired[Annotated[str, "The SI unit it is stored in."]]
    low: NotRequired[float]
    high: NotRequired[float]
    most: NotRequired[int]
    of: NotRequired[ShapeShown]
    fields: NotRequired[list[FieldShown]]
    exactly_one: NotRequired[Annotated[bool, "Exactly one of the fields is given."]]


class FieldShown(ShapeShown):
    """A field of a record: its label, its meaning, and what it holds."""

    id: str
    label: str
    meaning: str
    computed: Annotated[bool, "Follows from other fields."]
    required: bool
    default: NotRequired[Annotated[Any, "What it is where it is not given."]]


class KindShown(TypedDict):
    """A kind of entry with its fields, in the order in which a visit is read."""

    id: str
    label: str
    meaning: str
    main: Annotated[str, "The field that says most of it."]
    fields: list[FieldShown]


class QuantityShown(TypedDict):
    """A measured quantity."""

    id: str
    label: str
    meaning: str
    unit: str
    customary: str
    low: float
    high: float
    readings: Annotated[list[str], "Fields of the readings it can be computed from."]
    step: Annotated[str, "The step of the survey that asks for it."]
    in_leaf: Annotated[bool, "Judged in leaf only."]


class UnitShown(TypedDict):
    """A unit of entry and display."""

    label: str
    per: Annotated[float, "SI units in one of it."]
    places: Annotated[int, "Decimals shown."]


class UsualShown(TypedDict):
    """Conventions that are usual in a region."""

    units: str
    breast_height_m: float
    protection: str


class RecordsShown(TypedDict):
    """Every kind of entry, every quantity and every convention, described."""

    version: int
    units: Annotated[dict[str, dict[str, UnitShown]], "By system, then by the SI unit that is stored."]
    kinds: list[KindShown]
    quantities: list[QuantityShown]
    conventions: list[FieldShown]
    office: Annotated[dict[str, list[FieldShown]], "Fields of site, block, contact and competence."]
    usual_conventions: Annotated[dict[str, UsualShown], "By region, offered for a new site."]


def described_records() -> RecordsShown:
    """Version, kinds, quantities and conventions, ready for JSON."""
    return {
        "version": VERSION,
        "units": {
            system: {si: {"label": u.label, "per": u.per, "places": u.places} for si, u in units.items()}
            for system, units in (("metric", METRIC), ("us_customary", CUSTOMARY))
        },
        "kinds": [
            {
                "id": kind,
                "label": what.label,
                "meaning": " ".join((what.body.__doc__ or "").split()),
                "main": what.main,
                "fields": [field_in_words(name, d) for name, d in fields_of(what.body).items()],
            }
            for kind, what in KINDS.items()
        ],
        "quantities": [
            {
                "id": name,
                "label": q.label,
                "meaning": q.meaning,
                "unit": q.unit,
                "customary": q.customary,
                "low": q.low,
                "high": q.high,
                "readings": list(q.readings),
                "step": q.step,
                "in_leaf": q.in_leaf,
            }
            for name, q in QUANTITIES.items()
        ],
        "conventions": [field_in_words(name, d) for name, d in CONVENTIONS.items()],
        "office": {
            thing: [field_in_words(name, d) for name, d in office_fields(thing).items()] for thing in OFFICE
        },
        "usual_conventions": {
            region: {
                "units": usual["units"],
                "breast_height_m": usual["breast_height_m"],
                "protection": usual["protection"],
            }
            for region, usual in USUAL_CONVENTIONS.items()
        },
    }


def field_in_words(name: str, what: Described) -> FieldShown:
    """One field for a form or a list: id, label, meaning, type and what limits it."""
    found = FieldShown(
        id=name,
        label=what.label,
        meaning=what.meaning,
        computed=what.computed,
        required=what.required,
        **shape_in_words(what.holds),  # type: ignore[typeddict-item]  # its optional keys stay optional
    )
    if what.default not in (None, "", (), {}) and not what.required and not isinstance(what.holds, Row):
        found["default"] = what.default
    return found


def shape_in_words(shape: Shape) -> ShapeShown:
    """The type of a field and its limits."""
    found: ShapeShown = {"type": _TYPES.get(type(shape), "text")}
    if isinstance(shape, Word):
        found["words"] = [{"id": word, "label": shown_word(word)} for word in shape.words]
    if isinstance(shape, Listed):
        found["vocabulary"] = shape.vocabulary
    if isinstance(shape, Id) and shape.to:
        found["to"] = shape.to
    if isinstance(shape, OneNumber):
        found["numbers"] = list(shape.numbers)
    if isinstance(shape, Number) and shape.unit:
        found["unit"] = shape.unit
    if isinstance(shape, OneNumber):
        found["unit"] = "m"  # heights of measurement: the one list of numbers there is
    if isinstance(shape, Number | Whole):
        found["low"], found["high"] = shape.low, shape.high
    if isinstance(shape, Several):
        found["of"], found["most"] = shape_in_words(shape.of), shape.most
    if isinstance(shape, Table):
        found["vocabulary"], found["of"] = shape.keys.vocabulary, shape_in_words(shape.of)
    if isinstance(shape, Row):
        found["fields"] = [field_in_words(n, d) for n, d in fields_of(shape.of).items()]
        found["exactly_one"] = bool(getattr(shape.of, "exactly_one", False))
    return found
