"""What is judged on a visit: condition, defects, risk, signs."""

from __future__ import annotations

import datetime
from dataclasses import dataclass
from typing import Any

from jubark_core.records import words as w
from jubark_core.records.fields import Row, described
from jubark_core.records.quantities import LARGEST_CM, TALLEST_M
from jubark_core.records.shapes import (
    Day,
    Flag,
    Grade,
    Listed,
    Number,
    Several,
    Table,
    Text,
    Whole,
    Word,
)

PERCENT = Whole(0, 100)


@dataclass(frozen=True, kw_only=True)
class Condition:
    """Condition of the whole plant in one word and, where it was graded part by part, the grades."""

    word: str = described("Condition", "The whole plant in one word.", Word(w.CONDITIONS), "")
    leafless: bool = described("Out of leaf", "Judged without leaves.", Flag(), False)
    leaf_reason: str = described(
        "Why it is in leaf, or out of it",
        "Where the tree is not as its kind is on that day and at that place.",
        Text(200),
        "",
        since=6,
    )
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
    at_most: bool = described(
        "At most",
        "A part of it was hidden: the plant may be worse than the word, not better.",
        Flag(),
        False,
        since=4,
        computed=True,
    )
    buds_seen: bool = described(
        "Buds and cambium seen",
        "Out of leaf, live buds and cambium were looked for; without it no plant is called dead.",
        Flag(),
        False,
        since=4,
    )
    vitality: str = described(
        "Vitality",
        "How much of a veteran lives, from its full crown to a remnant.",
        Word(w.VITALITY),
        "",
        since=4,
    )
    stability: str = described(
        "Stability",
        "What holds a veteran up needs nothing, watching, a prop, or has given way.",
        Word(w.STABILITY),
        "",
        since=4,
    )
    veteran_needs: str = described(
        "A veteran's needs",
        "From vitality and stability; people and targets are moved before the tree is.",
        Word(w.VETERAN_NEEDS),
        "",
        since=4,
        computed=True,
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
    """A defect, where it is, since when, and the measure that fits it."""

    defect: str = described("Defect", "What is wrong.", Listed("defects"))
    part: str = described("Part", "Where it is.", Word(w.PARTS))
    height_m: float | None = described(
        "Height of it (m)", "Above the ground, of its middle.", Number(0, TALLEST_M, "m"), None, since=4
    )
    side: str = described("Side", "The side of the tree it faces.", Word(w.SIDES), "", since=4)
    since_year: int | None = described(
        "Since", "The year it came or was first seen.", Whole(1700, 2200), None, since=4
    )
    extent_percent: int | None = described("Extent (%)", "How far it reaches.", PERCENT, None)
    lean_deg: float | None = described("Lean (°)", "From upright.", Number(0, 90, "degrees"), None, since=4)
    lean: str = described(
        "Kind of lean",
        "Corrected: the top has grown upright again. Recent: it has not.",
        Word(w.LEANS),
        "",
        since=4,
    )
    number: int | None = described("Number", "How many there are.", Whole(1, 500), None, since=4)
    break_cm: float | None = described(
        "Diameter at the break (cm)",
        "Of the largest, where it broke or would break.",
        Number(0.1, 500, "cm"),
        None,
        since=4,
    )
    over_target: str = described(
        "Over a target", "Whether it would hit one as it falls.", Word(w.OVER_TARGET), "", since=4
    )
    wall_cm: float | None = described(
        "Sound wall left (cm)", "At its thinnest, by sounding or probe.", Number(0, 500, "cm"), None, since=4
    )
    opening_percent: int | None = described(
        "Opening (%)", "Share of the way round that is open.", PERCENT, None, since=4
    )
    species: str = described("Fungus or insect", "By name, as far as it is known.", Text(120), "", since=4)


@dataclass(frozen=True, kw_only=True)
class RiskRow:
    """A part that may fail and what it may hit."""

    part: str = described("Part", "What may fail.", Text(80, 1))
    part_cm: float | None = described(
        "Size of the part (cm)",
        "Its diameter where it would break.",
        Number(0.1, LARGEST_CM, "cm"),
        None,
        since=4,
    )
    fall_m: float | None = described(
        "Fall distance (m)", "How far it falls before it hits.", Number(0, TALLEST_M, "m"), None, since=4
    )
    target: str = described("Target", "What it may hit.", Text(80, 1))
    occupancy: str = described(
        "Occupancy",
        "How often somebody is there: rare, occasional, frequent, or constant.",
        Word(w.OCCUPANCY),
        "",
        since=4,
    )
    can_move: str = described(
        "Can be moved", "Whether the target, or the way to it, can be moved.", Word(w.MOVABLE), "", since=4
    )
    failure: str = described(
        "Likelihood of failure",
        "How likely the part is to fail within the time frame; imminent needs no unusual wind.",
        Word(w.FAILURE),
    )
    impact: str = described(
        "Likelihood of impact", "How likely the part is to reach the target if it fails.", Word(w.IMPACT)
    )
    consequence: str = described(
        "Consequences of failure", "How severe the harm to the target would be.", Word(w.CONSEQUENCE)
    )
    work: str = described(
        "Work", "What would lower it: on the tree, the way to it, or the target.", Text(200), ""
    )
    failure_after: str = described(
        "Failure after the work", "How likely failure remains once the work is done.", Word(w.FAILURE), ""
    )
    impact_after: str = described(
        "Impact after the work",
        "How likely impact remains once the work is done.",
        Word(w.IMPACT),
        "",
        since=4,
    )
    consequence_after: str = described(
        "Consequences after the work",
        "How severe the harm remains once the work is done.",
        Word(w.CONSEQUENCE),
        "",
        since=4,
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
    base_seen: str = described(
        "Base seen", "How much of it; less than all round makes the rating a least.", Word(w.BASE_VISIBLE)
    )
    crown_seen: str = described(
        "Crown seen", "How much of it; less than the whole makes the rating a least.", Word(w.CROWN_VISIBLE)
    )
    kept_out: str = described(
        "People kept out",
        "Whether it was done where the sheet asked for it at once.",
        Word(w.KEPT_OUT),
        "",
        since=4,
    )
    called: str = described("Called", "Who was called, and when.", Text(120), "", since=4)
    rating: str = described(
        "Rating",
        "The highest row; at least that where base or crown was not seen whole.",
        Word(w.RATINGS),
        "",
        computed=True,
    )
    residual: str = described(
        "Residual risk", "The highest row after the work.", Word(w.RATINGS), "", computed=True
    )
    reads: str = described(
        "Reads", "The rating as it is printed, with what was not seen.", Text(80), "", since=4, computed=True
    )
    next_inspection: datetime.date | None = described(
        "Next inspection", "To be inspected again by then.", Day(), None, since=2
    )
    no_next: bool = described("No next inspection", "No date was set for one.", Flag(), False, since=4)
