"""What holds entries and is no entry itself: the plant, the visit, the entry's own head, the conventions."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass
from typing import Any

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.bodies import KINDS, Body, require_kind
from jubark_core.records.fields import Described, described, fields_of, load, read_as, write
from jubark_core.records.shapes import (
    Day,
    Flag,
    Id,
    Moment,
    Number,
    OneNumber,
    Outline,
    Schema,
    Several,
    Text,
    Whole,
    Word,
    Words,
)

MOST_ENTRIES = 400
ENTRY_REF = "#/components/schemas/EntryIn"


@dataclass(frozen=True, kw_only=True)
class Plant:
    """A tree or shrub with a place, or a group of plants with an outline."""

    id: uuid.UUID = described("Id", "Made where the plant was recorded.", Id())
    block: uuid.UUID = described("Block", "The block it is in.", Id(to="block"))
    form: str = described(
        "Form",
        "One tree; a group, as a hedge or a thicket; or a place where a tree may be planted.",
        Word(w.PLANT_FORMS),
        "tree",
    )
    lon: float | None = described("Longitude", "WGS 84.", Number(-180, 180, "degrees"), None)
    lat: float | None = described("Latitude", "WGS 84.", Number(-90, 90, "degrees"), None)
    outline: dict[str, Any] | None = described(
        "Outline", "Of a group.", Outline(("Polygon", "MultiPolygon", "LineString")), None
    )
    accuracy_m: float | None = described("Accuracy (± m)", "Of its place.", Number(0, 10_000, "m"), None)
    how_taken: str = described("Place taken by", "How its place was found.", Word(w.HOW_TAKEN), "")
    from_plant: uuid.UUID | None = described(
        "Sighted from", "The plant it was sighted from.", Id(to="plant"), None
    )
    bearing_deg: float | None = described("Bearing", "True bearing.", Number(0, 360, "degrees"), None)
    distance_m: float | None = described("Distance (m)", "Horizontal.", Number(0.05, 500, "m"), None)
    origin: str = described("Origin", "Wild, planted or unknown.", Word(w.ORIGINS), "unknown")
    row_name: str = described("Row", "The row or avenue it stands in.", Text(60), "")
    row_position: int | None = described(
        "Place in the row", "Counted from its start.", Whole(1, 100_000), None
    )
    merged_into: uuid.UUID | None = described(
        "Duplicate of",
        "The plant it is a second record of, as a steward said; files carry it, no device sends it.",
        Id(to="plant"),
        None,
        since=6,
    )
    recorded_at: datetime.datetime = described("Recorded at", "By the device's clock.", Moment())

    def check(self, before: str) -> None:
        """A tree or a vacant place has a place or is sighted from another plant; a group has an outline."""
        if (self.lon is None) != (self.lat is None):
            missing = "lon" if self.lon is None else "lat"
            raise InputError(before + missing, "nothing", "lon and lat together, in degrees")
        if self.from_plant is not None:
            for name in ("bearing_deg", "distance_m"):
                if getattr(self, name) is None:
                    raise InputError(before + name, "nothing", fields_of(Plant)[name].holds.allowed())
        elif self.form != "group" and self.lon is None:
            raise InputError(
                before + "lon", "nothing", "lon and lat, or from_plant with bearing_deg and distance_m"
            )
        if self.form == "group" and self.outline is None:
            raise InputError(before + "outline", "nothing", fields_of(Plant)["outline"].holds.allowed())

    @property
    def place(self) -> tuple[float, float] | None:
        """(lon, lat), or None where it follows from a bearing."""
        return None if self.lon is None or self.lat is None else (self.lon, self.lat)


@dataclass(frozen=True, kw_only=True)
class EntryHead:
    """What every entry carries beside its body."""

    id: uuid.UUID = described("Id", "Made where the entry was recorded.", Id())
    recorded_at: datetime.datetime | None = described(
        "Recorded at", "Where that was not when the visit was made.", Moment(), None
    )
    observer: str = described("Observer", "Where that is not the observer of the visit.", Text(80), "")
    replaces: uuid.UUID | None = described(
        "Corrects", "The entry this one takes the place of.", Id(to="entry", same="plant"), None
    )
    retracts: uuid.UUID | None = described(
        "Withdraws", "The entry this one withdraws.", Id(to="entry", same="plant"), None
    )
    reason: str = described("Reason", "Why it was corrected or withdrawn.", Text(300), "")


@dataclass(frozen=True)
class Entry:
    """One thing recorded on a visit. Its body is None where it only withdraws another."""

    kind: str
    body: Body | None
    head: EntryHead

    @property
    def id(self) -> uuid.UUID:
        """The entry's id."""
        return self.head.id


class EntryList:
    """The entries of a visit, each with its own id."""

    def read(self, place: str, raw: Any, words: Words) -> tuple[Entry, ...]:
        """Entries from raw JSON."""
        if not isinstance(raw, list) or len(raw) > MOST_ENTRIES:
            raise InputError(place, raw, self.allowed())
        found = tuple(read_entry(e, words, f"{place}[{i}]") for i, e in enumerate(raw))
        if len({e.id for e in found}) != len(found):
            raise InputError(place, "an id given twice", "each entry its own id")
        return found

    def write(self, value: tuple[Entry, ...]) -> list[dict[str, Any]]:
        """As each is written."""
        return [write_entry(e) for e in value]

    def load(self, stored: list[dict[str, Any]]) -> tuple[Entry, ...]:
        """As each was written."""
        return tuple(load_entry(e) for e in stored)

    def schema(self) -> Schema:
        """A list of the union of all kinds."""
        return {"type": "array", "maxItems": MOST_ENTRIES, "items": {"$ref": ENTRY_REF}}

    def allowed(self) -> str:
        """How many."""
        return f"a list of at most {MOST_ENTRIES} entries"


@dataclass(frozen=True, kw_only=True)
class Visit:
    """One person at one plant at one time."""

    id: uuid.UUID = described("Id", "Made where the visit was recorded.", Id())
    plant: uuid.UUID = described("Plant", "The plant that was visited.", Id(to="plant"))
    mode: str = described(
        "Mode", "In the field, at the desk, in bulk or from a file.", Word(w.MODES), "field"
    )
    local_date: datetime.date = described("Date", "The day there.", Day())
    observed_at: datetime.datetime = described("Time", "By the device's clock.", Moment())
    utc_offset_min: int = described("UTC offset (min)", "Of the local time.", Whole(-720, 840), 0)
    observer: str = described("Observer", "Who was there.", Text(80), "")
    stage: str = described("Stage", "The plant's stage of life.", Word(w.STAGES), "mature")
    setting: str = described("Setting", "What kind of place it grows in.", Word(w.SETTINGS), "unknown")
    origin: str = described("Origin", "Wild, planted or unknown.", Word(w.ORIGINS), "unknown")
    light: str = described("Light", "Whether it grows in sun or shade.", Word(w.LIGHTS), "unknown")
    sex: str = described("Sex", "Of the plant.", Word(w.SEXES), "unknown")
    entries: tuple[Entry, ...] = described("Entries", "What was recorded on it.", EntryList(), ())


@dataclass(frozen=True, kw_only=True)
class ClockConfirmation:
    """That the doubted date of a visit is right."""

    id: uuid.UUID = described("Id", "Made where it was confirmed.", Id())
    visit: uuid.UUID = described("Visit", "The visit whose date is right.", Id(to="visit"))
    recorded_at: datetime.datetime = described("Recorded at", "By the device's clock.", Moment())
    reason: str = described("Reason", "How it is known.", Text(300), "")


@dataclass(frozen=True, kw_only=True)
class Conventions:
    """How the figures of a site are taken from now on. What was measured keeps its own."""

    region: str = described(
        "Region", "The country whose terms of the trade are shown.", Word(w.REGIONS), "us", since=2
    )
    units: str = described("Units", "Units in which figures are entered and shown.", Word(w.UNITS), "metric")
    breast_height_m: float = described(
        "Breast height",
        "Height above the ground at which diameters are taken.",
        OneNumber(w.BREAST_HEIGHTS_M),
        1.37,
    )
    several_stems: str = described(
        "Several stems as one",
        "The rule that makes one diameter of several stems.",
        Word(w.SEVERAL_STEMS),
        "squares",
        since=2,
    )
    fork_by: str = described(
        "A fork is where",
        "The point that decides whether a fork is above or below breast height.",
        Word(w.FORK_BY),
        "crotch",
        since=4,
    )
    low_fork: str = described(
        "A low fork is measured at",
        "Where limbs of a fork between 0.3 m and breast height are measured.",
        Word(w.LOW_FORK),
        "above_fork",
        since=4,
    )
    limbs_as: str = described(
        "Limbs of a low fork are",
        "Stems counted each by itself, or shoots of one plant made one diameter. Never both.",
        Word(w.LIMBS_AS),
        "shoots_of_one",
        since=4,
    )
    slope_from: str = described(
        "On a slope from",
        "The ground from which breast height is taken on a slope.",
        Word(w.SLOPE_FROM),
        "uphill",
        since=4,
    )
    swelling: str = described(
        "A swelling is measured",
        "Where the tape goes at a swelling, burr or whorl at breast height.",
        Word(w.SWELLING),
        "above",
        since=4,
    )
    high_days: int = described(
        "High risk within (days)",
        "Within which the owner deals with a high risk; until then the target is restricted.",
        Whole(1, 365),
        28,
        since=4,
    )
    open_grown: bool = described(
        "Open-grown trees",
        "Carbon of trees that grow in the open is taken times 0.8, for they carry less wood.",
        Flag(),
        False,
        since=4,
    )
    smallest_cm: float = described(
        "Least diameter measured (cm)", "Thinner stems are counted, not measured.", Number(0, 50, "cm"), 0.0
    )
    protection: str = described(
        "Root protection area",
        "The rule for the radius around a tree that is kept clear of work.",
        Word(w.PROTECTION_STANDARDS),
        "bs5837",
    )
    condition_scale: str = described(
        "Condition is shown as",
        "How grades of condition are shown: words, five points or per cent.",
        Word(w.CONDITION_SCALES),
        "words",
    )
    sections: tuple[str, ...] = described(
        "The tree's file holds",
        "What is kept of a tree besides; each chosen one is asked for in the survey.",
        Several(Word(w.SECTIONS), len(w.SECTIONS)),
        (),
        since=4,
    )
    survey_steps: tuple[str, ...] = described(
        "Order of the survey",
        "Its steps; empty: all, in the usual order.",
        Several(Word(w.SURVEY_STEPS), 9),
        (),
        since=2,
    )

    def check(self, before: str) -> None:
        """Each step at most once."""
        if len(set(self.survey_steps)) != len(self.survey_steps):
            raise InputError(before + "survey_steps", ", ".join(self.survey_steps), "each step at most once")


CONVENTIONS: dict[str, Described] = dict(fields_of(Conventions))


def read_plant(raw: Any) -> Plant:
    """A plant. Raises InputError naming the field."""
    found = read_as(Plant, "", raw, {})
    if found.form != "group" and found.outline is not None:
        raise InputError("outline", "an outline", "left out for a tree; form: group has one")
    return found


def read_entry(raw: Any, words: Words, place: str = "entry") -> Entry:
    """One entry with its body. Raises InputError with `place` before the field."""
    if not isinstance(raw, dict):
        raise InputError(place, raw, "an object")
    kind = require_kind(f"{place}.kind", raw.get("kind"))
    own = {key: value for key, value in raw.items() if key not in ("kind", "body")}
    known = (*fields_of(EntryHead), "kind", "body")
    for key in own:
        if key not in known:
            named = f"{place}.{key or 'an empty key'}"
            raise InputError(named, "an unknown key", "one of " + ", ".join(sorted(known)))
    head = read_as(EntryHead, place, own, words)
    if head.retracts is not None:
        return Entry(kind, None, head)
    return Entry(kind, read_as(KINDS[kind].body, f"{place}.{kind}", raw.get("body", {}), words), head)


def read_visit(raw: Any, words: Words) -> Visit:
    """A visit with its entries. Raises InputError naming entry and field."""
    return read_as(Visit, "", raw, words)


def read_clock(raw: Any) -> ClockConfirmation:
    """The confirmation of a doubted date. Raises InputError naming the field."""
    return read_as(ClockConfirmation, "", raw, {})


def write_entry(entry: Entry) -> dict[str, Any]:
    """The canonical JSON of an entry."""
    body = {} if entry.body is None else {"body": write(entry.body)}
    return {"kind": entry.kind, **write(entry.head), **body}


def load_entry(stored: dict[str, Any]) -> Entry:
    """An entry from its own `write_entry`, unchecked."""
    body = load(KINDS[stored["kind"]].body, stored["body"]) if "body" in stored else None
    head = {key: value for key, value in stored.items() if key not in ("kind", "body")}
    return Entry(stored["kind"], body, load(EntryHead, head))
