"""One body per kind of entry: what was seen, named, measured, judged or found on a visit."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.ailing import Diagnosis, Sign
from jubark_core.records.fields import Row, described
from jubark_core.records.file import (
    FILE,
    Climber,
    Constraint,
    Enquiry,
    Habitat,
    Hardware,
    Headroom,
    Incident,
    NearbyWorks,
    PhotoPoint,
    Place,
    Planting,
    Sample,
    Status,
)
from jubark_core.records.inspected import INSPECTED, Inspection, StormLook
from jubark_core.records.judged import Condition, Defect, Risk
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.readings import Readings
from jubark_core.records.shapes import (
    Digest,
    Flag,
    Id,
    Listed,
    Number,
    Several,
    Text,
    Whole,
    Word,
)
from jubark_core.records.working import WORKING, Clearance, Work

CHARACTER_VALUE = Number(-1_000, 100_000)  # the character's own range is judged by naming
MOST_PHOTO_BYTES = 15 * 1024 * 1024


@dataclass(frozen=True, kw_only=True)
class Observation:
    """One observation of a character, in the form of the naming contract."""

    character: str = described("Character", "What was looked at.", Listed("characters"))
    states: tuple[str, ...] = described("Seen", "The states that were seen.", Several(Text(40), 40), ())
    absent: tuple[str, ...] = described(
        "Not there", "States that were looked for and are not there.", Several(Text(40), 40), ()
    )
    values: tuple[float, ...] = described(
        "Values",
        "Counts or measures, one for each leaf or fruit looked at.",
        Several(CHARACTER_VALUE, 200),
        (),
    )
    k: int | None = described("Showed it", "How many of n showed the state.", Whole(0, 1000), None)
    n: int | None = described("Looked at", "How many were looked at.", Whole(1, 1000), None)
    none: bool = described("Organ not there", "The organ was looked for and is not there.", Flag(), False)
    skipped: bool = described("Not looked", "It was not looked at.", Flag(), False)
    applies: bool = described(
        "Applies", "False: what is asked about makes no sense on this plant.", Flag(), True
    )
    certainty: str = described("Certainty", "How sure the observer is.", Word(w.CERTAINTIES), "likely")
    seen: str = described(
        "Seen on", "On the plant itself, in the litter, or known otherwise.", Word(w.SEEN), "plant"
    )
    specimen: str = described("Specimen", "Which of several twigs or leaves.", Text(100), "")
    where: str = described(
        "Height on the trunk", "Where on the trunk the bark was seen.", Word(w.BARK_HEIGHTS), ""
    )
    shoot: str = described("Shoot", "The kind of shoot it was seen on.", Word(w.SHOOTS), "")


@dataclass(frozen=True, kw_only=True)
class Determination:
    """A name as entered, the accepted taxon it stands for, and what it rests on."""

    entered: str = described("Name as entered", "The name as the observer wrote it.", Text(160, 1))
    taxon: str = described(
        "Taxon", "The accepted taxon of the flora; empty where the flora lacks it.", Text(80), ""
    )
    name: str = described("Name", "The accepted scientific name.", Text(160), "", computed=True)
    name_rank: str = described("Rank", "The rank of the name.", Word((*w.RANKS, "unknown")), "unknown")
    probability: float | None = described(
        "Probability", "How probable the evidence makes the name, 0 to 1.", Number(0, 1), None
    )
    observations: tuple[uuid.UUID, ...] = described(
        "Observations behind it",
        "The observations of this plant that the name rests on.",
        Several(Id(to="entry", same="plant"), 500),
        (),
        since=2,
    )
    not_separated_from: tuple[str, ...] = described(
        "Not yet separated from", "Taxa that remain possible.", Several(Text(80), 100), (), since=2
    )
    reason: str = described(
        "Reason", "Why this name, or why above or below the supported rank.", Text(300), ""
    )
    flora: str = described("Flora version", "The flora that was asked.", Text(40), "")
    engine: str = described("Engine version", "The engine that was asked.", Text(20), "")


@dataclass(frozen=True, kw_only=True)
class Measurement:
    """A figure with its raw readings, how it was taken and by which convention."""

    quantity: str = described("Quantity", "What was measured.", Word(tuple(QUANTITIES)))
    raw: Readings = described("Readings", "As they were read.", Row(Readings))
    value: float = described("Value", "Computed from the readings.", Number(0, 10_000), 0.0, computed=True)
    error_m: float | None = described(
        "Error (± m)", "From the error of the readings.", Number(0, 1_000, "m"), None, since=2, computed=True
    )
    unit_entered: str = described("Unit entered", "The unit it was typed in.", Word(w.UNITS_ENTERED), "")
    as_entered: str = described(
        "As entered", "What was typed, each reading with its unit: '12.4 in; 8.1 in'.", Text(200), "", since=3
    )
    method: str = described("Method", "By eye, paced, by tape or by instrument.", Word(w.METHODS), "taped")
    at_height_m: float | None = described(
        "Height of measurement (m)", "Where on the stem the tape was.", Number(0.05, 6, "m"), None
    )
    combine: str = described(
        "Several stems as one", "The rule of the site when it was taken.", Word(w.SEVERAL_STEMS), "squares"
    )
    least_cm: float = described(
        "Least diameter measured (cm)", "Thinner stems were counted only.", Number(0, 100, "cm"), 0.0
    )
    stems: int = described(
        "Stems measured",
        "How many reached the least diameter; none: there is no figure.",
        Whole(0, 50),
        1,
        since=2,
        computed=True,
    )
    thinner: int = described("Thinner stems", "How many were counted only.", Whole(0, 1000), 0)
    out_of_leaf: bool = described(
        "Judged out of leaf",
        "By an earlier version, which allowed it where the figure needs leaves; nothing follows from it.",
        Flag(),
        False,
        since=4,
    )
    stem_form: str = described("Stem form", "By which rule the place was found.", Listed("stem forms"), "")


@dataclass(frozen=True, kw_only=True)
class Photo:
    """That a photograph was taken, of what, and its hash; the file travels apart."""

    sha256: str = described("SHA-256", "Hash of the file.", Digest())
    bytes: int = described("Size (bytes)", "Size of the file.", Whole(1, MOST_PHOTO_BYTES))
    organ: str = described("Organ", "What it shows.", Text(20), "")
    defect: str = described("Defect", "The defect it shows.", Listed("defects"), "")
    shows: uuid.UUID | None = described(
        "Shows",
        "The very defect, photo point or job, of this plant.",
        Id(to="entry", same="plant"),
        None,
        since=4,
    )
    face: str = described("Face", "From which side.", Text(20), "")
    scale_in_frame: bool = described("Scale in frame", "A ruler or coin is in the picture.", Flag(), False)


@dataclass(frozen=True, kw_only=True)
class Voucher:
    """A pressed specimen: organ, number, where it is stored, by whose permission."""

    organ: str = described("Organ", "What was taken.", Text(20, 1))
    number: str = described("Number", "The collector's number.", Text(40, 1))
    where_kept: str = described("Where kept", "The collection that holds it.", Text(120, 1), since=2)
    permission: str = described("Permission", "Who allowed it.", Text(120), "")


@dataclass(frozen=True, kw_only=True)
class Note:
    """Plain words."""

    text: str = described("Note", "What the other fields do not say.", Text(4000, 1))


@dataclass(frozen=True, kw_only=True)
class Tag:
    """Something that happened to a tag: set, lost, retired, a second one found."""

    number: str = described("Tag", "The number on it.", Text(20, 1))
    material: str = described("Material", "What the tag is made of.", Text(30), "")
    position: str = described("Position", "Where on the tree it is.", Text(60), "")
    state: str = described("State", "What happened to it.", Word(w.TAG_STATES), "set")


@dataclass(frozen=True, kw_only=True)
class Life:
    """Alive, standing dead, fallen, stump, resprout, removed or not found."""

    state: str = described("Life state", "What the plant is now.", Word(w.LIFE_STATES))


@dataclass(frozen=True, kw_only=True)
class ClockConfirmed:
    """That the doubted date of a visit is right."""


Body = (
    Observation
    | Determination
    | Measurement
    | Condition
    | Defect
    | Risk
    | Sign
    | Diagnosis
    | Photo
    | Voucher
    | Note
    | Tag
    | Life
    | ClockConfirmed
    | Inspection
    | StormLook
    | Status
    | Constraint
    | Place
    | Planting
    | Habitat
    | Climber
    | Headroom
    | NearbyWorks
    | Hardware
    | PhotoPoint
    | Enquiry
    | Incident
    | Sample
    | Work
    | Clearance
)


@dataclass(frozen=True)
class Kind:
    """A kind of entry: its label, its body, and the field that says most of it in one word."""

    label: str
    body: type[Any]
    main: str = ""

    def entered(self) -> bool:
        """Whether people enter it on a visit."""
        return self.body is not ClockConfirmed


# In the order in which a visit is read: what it is, how big, how it does, then what the name rests on.
KINDS = {
    "tag": Kind("Tag", Tag, "number"),
    "determination": Kind("Name", Determination, "name"),
    "measurement": Kind("Measurement", Measurement, "value"),
    "condition": Kind("Condition", Condition, "word"),
    "life": Kind("Life state", Life, "state"),
    "sign": Kind("Sign or symptom", Sign, "sign"),
    "diagnosis": Kind("Diagnosis", Diagnosis, "verdict"),
    "defect": Kind("Defect", Defect, "defect"),
    "risk": Kind("Risk worksheet", Risk, "reads"),
    **{kind: Kind(*described_) for kind, described_ in (INSPECTED | FILE | WORKING).items()},
    "note": Kind("Note", Note, "text"),
    "photo": Kind("Photograph", Photo, "organ"),
    "voucher": Kind("Voucher", Voucher, "number"),
    "observation": Kind("Observation", Observation, "states"),
    "clock_confirmed": Kind("Date confirmed", ClockConfirmed),
}


def kind_of(body: Body) -> str:
    """The kind of a body."""
    return next(name for name, kind in KINDS.items() if kind.body is type(body))


def require_kind(place: str, raw: Any) -> str:
    """A kind of entry. Raises InputError."""
    if not isinstance(raw, str) or raw not in KINDS:
        raise InputError(place, raw, "one of " + ", ".join(sorted(KINDS)))
    return raw
