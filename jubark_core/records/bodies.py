"""One body per kind of entry: what was seen, named, measured, judged or found on a visit."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass
from typing import Any

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import Row, described, one_of_its_fields
from jubark_core.records.quantities import LARGEST_CM, QUANTITIES
from jubark_core.records.shapes import (
    Day,
    Digest,
    Flag,
    Grade,
    Id,
    Listed,
    Number,
    Several,
    Table,
    Text,
    Whole,
    Word,
)

CHARACTER_VALUE = Number(-1_000, 100_000)  # the character's own range is judged by naming
PERCENT = Whole(0, 100)
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


DIAMETER = Number(0.1, LARGEST_CM, "cm")
DISTANCE = Number(0.0, 1_000, "m")  # each method judges how near and how far it holds
ANGLE = Number(-10_000, 10_000)


@dataclass(frozen=True, kw_only=True)
class Angles:
    """Sightings to top and base from a known distance."""

    distance_m: float = described("Distance (m)", "From the eye to the stem.", DISTANCE)
    top: float = described("Top angle", "From the horizontal up to the top.", ANGLE)
    base: float = described("Base angle", "From the horizontal to the base; below the eye negative.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )
    slope_distance: bool = described(
        "Slope distance", "The distance was taken along the line of sight to the base.", Flag(), False
    )
    toward_m: float = described(
        "Lean toward (m)", "How far the top leans toward the observer.", Number(-100, 100, "m"), 0.0
    )


@dataclass(frozen=True, kw_only=True)
class Sine:
    """Sightings with a range finder: line of sight and angle to top and base."""

    top_distance_m: float = described("Distance to top (m)", "Along the line of sight.", DISTANCE)
    top: float = described("Top angle", "From the horizontal up to the top.", ANGLE)
    base_distance_m: float = described("Distance to base (m)", "Along the line of sight.", DISTANCE)
    base: float = described("Base angle", "From the horizontal to the base; below the eye negative.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )


@dataclass(frozen=True, kw_only=True)
class Stick:
    """Height by a stick held upright at arm's length."""

    distance_m: float = described("Distance (m)", "From the eye to the stem.", DISTANCE)
    stick_cm: float = described("Stick (cm)", "Length of stick that covers the tree.", Number(0, 1000, "cm"))
    arm_cm: float = described("Arm (cm)", "From the eye to the stick.", Number(0, 1000, "cm"))


@dataclass(frozen=True, kw_only=True)
class Pole:
    """Height by a pole of known length that stands at the stem."""

    pole_m: float = described("Pole (m)", "Length of the pole.", Number(0, 100, "m"))
    top: float = described("Top angle", "To the top of the tree.", ANGLE)
    pole: float = described("Pole angle", "To the top of the pole.", ANGLE)
    base: float = described("Base angle", "To the base of both.", ANGLE)
    angle_unit: str = described(
        "Angles in", "Degrees, per cent or topographic scale.", Word(w.ANGLE_UNITS), "degrees"
    )


@dataclass(frozen=True, kw_only=True)
class Core:
    """Rings counted on an increment core."""

    rings: int = described("Rings", "Number of rings counted.", Whole(0, 10_000))
    core_cm: float = described(
        "Core length (cm)", "Length on which they were counted.", Number(0, 1000, "cm")
    )


@one_of_its_fields
@dataclass(frozen=True, kw_only=True)
class Readings:
    """What was read off the instrument, by exactly one method."""

    value: float | None = described("Value", "The figure itself, read or estimated.", Number(0, 10_000), None)
    diameters_cm: tuple[float, ...] = described(
        "Diameters (cm)", "By diameter tape, one for each stem.", Several(DIAMETER, 50), ()
    )
    circumferences_cm: tuple[float, ...] = described(
        "Circumferences (cm)",
        "By plain tape, one for each stem.",
        Several(Number(0.1, 4712.4, "cm"), 50),
        (),
        since=2,
    )
    callipers_cm: tuple[tuple[float, float], ...] = described(
        "Callipers (cm)",
        "Two diameters at right angles for each stem.",
        Several(Several(DIAMETER, 2, 2), 50),
        (),
    )
    angles: Angles | None = described("Angles and distance", "To top and base.", Row(Angles), None)
    sine: Sine | None = described("Range finder", "Lines of sight to top and base.", Row(Sine), None)
    stick: Stick | None = described("Stick", "At arm's length.", Row(Stick), None)
    pole: Pole | None = described("Pole", "At the stem.", Row(Pole), None)
    radii_m: tuple[float, ...] = described(
        "Radii (m)", "From the stem to the crown's edge, at even angles.", Several(Number(0, 80, "m"), 50), ()
    )
    spreads_m: tuple[float, ...] = described(
        "Spreads (m)",
        "Through the crown: the longest, and the one square to it.",
        Several(Number(0, 80, "m"), 50),
        (),
    )
    core: Core | None = described("Core", "Rings on a length.", Row(Core), None)


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
        "Stems measured", "How many reached the least diameter.", Whole(1, 50), 1, since=2, computed=True
    )
    thinner: int = described("Thinner stems", "How many were counted only.", Whole(0, 1000), 0)
    stem_form: str = described("Stem form", "By which rule the place was found.", Listed("stem forms"), "")


@dataclass(frozen=True, kw_only=True)
class Condition:
    """Condition of the whole plant in one word and, where it was graded part by part, the grades."""

    word: str = described("Condition", "The whole plant in one word.", Word(w.CONDITIONS), "")
    leafless: bool = described("Out of leaf", "Judged without leaves.", Flag(), False)
    parts: dict[str, Any] = described(
        "Parts",
        "Grade of each part, 0 (worst) to 4, or not seen.",
        Table(Listed("condition parts"), Grade()),
        {},
    )
    health: float | None = described("Health", "From the parts, 0 to 4.", Number(0, 4), None, computed=True)
    structure: float | None = described(
        "Structure", "From the parts, 0 to 4.", Number(0, 4), None, computed=True
    )
    base_visible: str = described(
        "Base visible",
        "How much of the base was seen: all round, partly, or not at all.",
        Word(w.BASE_VISIBLE),
        "",
    )
    crown_visible: str = described(
        "Crown visible",
        "How much of the crown was seen: the whole, partly, or not at all.",
        Word(w.CROWN_VISIBLE),
        "",
        since=3,
    )
    no_defect: bool = described(
        "No defect found",
        "Looked for on the parts that were seen, and none was found.",
        Flag(),
        False,
        since=3,
    )
    flare: str = described(
        "Root flare",
        "Whether the trunk is seen to widen at the soil; a buried flare hides decay and girdling roots.",
        Word(w.FLARE),
        "",
    )
    crown_class: str = described(
        "Crown class",
        "The position of the crown among its neighbours, from open-grown to overtopped.",
        Word(w.CROWN_CLASSES),
        "",
    )
    crown_light: str = described(
        "Crown light", "How much direct light reaches the crown.", Word(w.CROWN_LIGHT), ""
    )


@dataclass(frozen=True, kw_only=True)
class Defect:
    """A defect, where it is, and how far it reaches."""

    defect: str = described("Defect", "What is wrong.", Listed("defects"))
    part: str = described("Part", "Where it is.", Word(w.PARTS))
    extent_percent: int | None = described("Extent (%)", "How far it reaches.", PERCENT, None)


@dataclass(frozen=True, kw_only=True)
class RiskRow:
    """A part that may fail and what it may hit."""

    part: str = described("Part", "What may fail.", Text(80, 1))
    target: str = described("Target", "What it may hit.", Text(80, 1))
    failure: str = described(
        "Likelihood of failure", "How likely the part is to fail within the time frame.", Word(w.FAILURE)
    )
    impact: str = described(
        "Likelihood of impact", "How likely the part is to reach the target if it fails.", Word(w.IMPACT)
    )
    consequence: str = described(
        "Consequences of failure", "How severe the harm to the target would be.", Word(w.CONSEQUENCE)
    )
    work: str = described("Work", "What would lower it.", Text(200), "")
    failure_after: str = described(
        "Failure after the work", "How likely failure remains once the work is done.", Word(w.FAILURE), ""
    )
    rating: str = described("Rating", "By the published matrices.", Word(w.RATINGS), "", computed=True)
    residual: str = described("Residual risk", "After the work.", Word(w.RATINGS), "", computed=True)


@dataclass(frozen=True, kw_only=True)
class Risk:
    """A risk worksheet: what may fail and what it may hit, by published matrices. An assessor decides."""

    rows: tuple[RiskRow, ...] = described(
        "Rows", "One for each part and target.", Several(Row(RiskRow), 30, 1)
    )
    years: float = described(
        "Time frame (years)", "What the likelihoods are meant for.", Number(0.1, 10, "years")
    )
    level: str = described("Level of assessment", "Limited visual or basic.", Word(w.LEVELS))
    base_seen: bool = described("Base seen", "Without it there is no rating.", Flag())
    crown_seen: bool = described("Crown seen", "Without it there is no rating.", Flag())
    rating: str = described(
        "Rating",
        "The highest row; none where base or crown was not seen.",
        Word(w.RATINGS),
        "",
        computed=True,
    )
    residual: str = described(
        "Residual risk", "The highest row after the work.", Word(w.RATINGS), "", computed=True
    )
    next_inspection: datetime.date | None = described(
        "Next inspection", "To be inspected again by then.", Day(), None, since=2
    )


@dataclass(frozen=True, kw_only=True)
class Sign:
    """A sign or symptom of a pest or disease, seen or looked for and not there."""

    sign: str = described("Sign or symptom", "What was seen or looked for.", Listed("signs"))
    present: bool = described("Present", "False: looked for and not there.", Flag(), True)
    extent_percent: int | None = described("Extent (%)", "How far it reaches.", PERCENT, None)


@dataclass(frozen=True, kw_only=True)
class Photo:
    """That a photograph was taken, of what, and its hash; the file travels apart."""

    sha256: str = described("SHA-256", "Hash of the file.", Digest())
    bytes: int = described("Size (bytes)", "Size of the file.", Whole(1, MOST_PHOTO_BYTES))
    organ: str = described("Organ", "What it shows.", Text(20), "")
    defect: str = described("Defect", "The defect it shows.", Listed("defects"), "")
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
    | Photo
    | Voucher
    | Note
    | Tag
    | Life
    | ClockConfirmed
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
    "defect": Kind("Defect", Defect, "defect"),
    "risk": Kind("Risk worksheet", Risk, "rating"),
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
