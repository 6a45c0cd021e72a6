"""The contract of work as types: what is known of a tree, and what is proposed (docs/work.md)."""

from __future__ import annotations

from typing import Annotated, Literal, NotRequired, TypedDict

from jubark_core.records.typed_schema import Between

Percent = Annotated[float, Between(0, 100)]


class HostOfWork(TypedDict):
    """A taxon the tree may be."""

    taxon: str
    probability: NotRequired[Annotated[float, Between(0, 1)]]


class DefectOfTree(TypedDict):
    """A defect on record."""

    defect: str
    part: NotRequired[str]
    break_cm: NotRequired[Annotated[float, Between(0, 500)] | None]
    over_target: NotRequired[bool]
    fresh: NotRequired[bool]


class RiskOfTree(TypedDict):
    """The newest risk worksheet in short."""

    rating: NotRequired[str]
    imminent: NotRequired[Annotated[bool, "A row is imminent with consequences of minor or more."]]
    base_seen: NotRequired[str]
    crown_seen: NotRequired[str]


class DiagnosisOfTree(TypedDict):
    """What is held to be wrong."""

    agent: str
    probability: Annotated[float, Between(0, 1)]
    standing: NotRequired[str]
    years: NotRequired[Annotated[list[int], "In which it was found."]]


class CrownLossThen(TypedDict):
    """The crown that was missing on a day."""

    on: str
    percent: Percent


class EggMassPlot(TypedDict):
    """Egg masses counted on a piece of ground, on everything that stands and lies on it."""

    on: str
    masses: Annotated[int, Between(0, 100_000)]
    over_m2: Annotated[float, Between(1, 100_000)]


class TargetOfTree(TypedDict):
    """Something near, and how far it is."""

    kind: str
    distance_m: Annotated[float, Between(0, 10_000)]
    occupancy: NotRequired[str]


class HeadroomOfTree(TypedDict):
    """How far its crown stays clear of a way, a sign or a lamp."""

    over: str
    clear_m: Annotated[float, Between(0, 130)]


class ClimberOnTree(TypedDict):
    """What climbs on it. hides: it covers base or trunk."""

    climber: str
    hides: NotRequired[bool]


class WorksNear(TypedDict):
    """Ground works, and how near to the stem they come."""

    works: str
    distance_m: Annotated[float, Between(0, 1000)]
    begins: NotRequired[str | None]
    ends: NotRequired[str | None]
    fenced: NotRequired[bool]


class DeadOfTree(TypedDict):
    """A tree that is gone, and what was held to be wrong with it."""

    taxon: str
    agent: str


class DiameterOfTree(TypedDict):
    """A diameter as it was taken. at_m: height of the tape."""

    on: str
    cm: Annotated[float, Between(0.1, 2000)]
    at_m: NotRequired[Annotated[float, Between(0.05, 6)] | None]


class EvidenceIn(TypedDict):
    """Evidence for a check: of which kind, whose, from when, until when, and what it found."""

    entry: NotRequired[Annotated[str, "Its record."]]
    check: Literal["C1", "C2a", "C2b", "C3", "C4", "C4b", "C5", "C6", "C7", "C8", "C9"]
    kind: Annotated[str, "A word of EVIDENCE for the check."]
    result: NotRequired[Annotated[str, "A word of FOUND."]]
    person: NotRequired[Annotated[str, "The member or contact whose it is; '': an office's."]]
    by: NotRequired[str]
    at: Annotated[str, "The moment, with its offset: checks grow old by the hour."]
    on: Annotated[str, "The day there."]
    reference: NotRequired[str]
    acts: NotRequired[list[str]]
    answered: NotRequired[list[str]]
    asked_on: NotRequired[str | None]
    begins: NotRequired[str | None]
    until: NotRequired[str | None]
    job: NotRequired[Annotated[str, "Of one job alone; '': of any."]]


class PaperIn(TypedDict):
    """What a paper of a person shows, and when it is valid."""

    skill: str
    begins: NotRequired[str | None]
    until: NotRequired[Annotated[str | None, "Its last day."]]


class PermitIn(TypedDict):
    """That the operator of a line permits work near it: up to the day before another."""

    begins: str
    until: str


class WorkCaseIn(TypedDict):
    """What the file of a tree holds, as far as rules of work ask for it."""

    on: str
    lat: NotRequired[Annotated[float, Between(-90, 90)] | None]
    lon: NotRequired[Annotated[float, Between(-180, 180)] | None]
    elevation_m: NotRequired[Annotated[float, Between(-430, 6000)] | None]
    areas: NotRequired[list[str]]
    region: NotRequired[Literal["us", "uk", "au"]]
    units: NotRequired[Annotated[Literal["metric", "us_customary"], "In which figures are worded."]]
    host: list[HostOfWork]
    separators_seen: NotRequired[
        Annotated[bool, "A separator was seen against each native or protected look-alike."]
    ]
    named_by_person: NotRequired[Annotated[bool, "The name was given by a person, without a probability."]]
    form: NotRequired[str]
    life: NotRequired[str]
    stage: NotRequired[str]
    setting: NotRequired[str]
    dbh_cm: NotRequired[Annotated[float, Between(0, 2000)] | None]
    height_m: NotRequired[Annotated[float, Between(0, 130)] | None]
    crown_loss_percent: NotRequired[Percent | None]
    planted_on: NotRequired[str | None]
    defects: NotRequired[list[DefectOfTree]]
    risk: NotRequired[RiskOfTree | None]
    diagnoses: NotRequired[list[DiagnosisOfTree]]
    causes_km: NotRequired[
        Annotated[dict[str, Annotated[float, Between(0, 20_000)]], "Cause -> how near it is."]
    ]
    targets: NotRequired[list[TargetOfTree]]
    wires_m: NotRequired[Annotated[float, Between(0, 1000)] | None]
    on_wires: NotRequired[Annotated[bool, "Held: a look saw wires, and the operator has not said clear."]]
    line_near: NotRequired[Annotated[bool, "The newest look after a storm saw a line near it."]]
    storm_asks: NotRequired[Annotated[str, "What the newest look after a storm asks for at once."]]
    headroom: NotRequired[list[HeadroomOfTree]]
    climbers: NotRequired[list[ClimberOnTree]]
    works: NotRequired[list[WorksNear]]
    protection_radius_m: NotRequired[
        Annotated[float | None, Between(0, 100), "By the standard in force, from its diameter."]
    ]
    died_here: NotRequired[Annotated[list[DeadOfTree], "What stood where one is to be planted, and died of."]]
    boundary: NotRequired[bool]
    owner: NotRequired[str]
    rooting_m3: NotRequired[
        Annotated[float | None, Between(0, 10_000), "Soil that roots can use, of a vacant site."]
    ]
    wanted: NotRequired[Annotated[list[str], "live_pruning, size_pruning."]]
    habitats: NotRequired[list[str]]
    nest_in_use_at: NotRequired[
        Annotated[str | None, "The moment at which a nest or roost in use was last seen."]
    ]
    protected: NotRequired[Annotated[list[str], "protected, conservation_area, heritage, street."]]
    flowers_on: NotRequired[Literal["", "last_year", "this_year"]]
    base_seen: NotRequired[Annotated[str, "How much of the base the newest look saw."]]
    flare: NotRequired[Annotated[str, "seen, buried, not_seen."]]
    condition: NotRequired[Annotated[str, "The whole plant in one word."]]
    next_inspection_on: NotRequired[str | None]
    last_inspected_on: NotRequired[str | None]
    inspection_months: NotRequired[
        Annotated[int | None, Between(1, 240), "Between two inspections, by the owner's table."]
    ]
    last_visit_on: NotRequired[str | None]
    storms_on: NotRequired[Annotated[list[str], "Days of wind over 90 km/h, ice or wet snow."]]
    name_shows_now: NotRequired[
        Annotated[list[str], "Characters that can be seen now and separate the name from others."]
    ]
    diameters: NotRequired[Annotated[list[DiameterOfTree], "As they were taken, in any order."]]
    worth: NotRequired[Annotated[str, "What it is worth keeping for: high, usual, low."]]
    crown_losses: NotRequired[Annotated[list[CrownLossThen], "Each judgement of it, in any order."]]
    egg_masses_seen_on: NotRequired[Annotated[str | None, "Of spongy moth, on this tree."]]
    egg_mass_plots: NotRequired[Annotated[list[EggMassPlot], "Of its block, in any order."]]
    egg_masses_limit_per_ha: NotRequired[
        Annotated[float | None, Between(1, 100_000), "The owner's threshold for treating the block."]
    ]
    fungus_seen_on: NotRequired[Annotated[str | None, "When a fungus on it was last seen."]]
    soil_borne_about: NotRequired[bool]
    held_wood: NotRequired[bool]
    disposal_route: NotRequired[str]
    authorised: NotRequired[
        Annotated[list[str], "Methods the site's area authorises beside the shipped ones."]
    ]
    evidence: NotRequired[list[EvidenceIn]]
    people: NotRequired[Annotated[dict[str, list[PaperIn]], "Member or contact -> what their papers show."]]
    crews: NotRequired[Annotated[dict[str, list[str]], "Crew of the site -> its members."]]
    namer: NotRequired[Annotated[str, "The member who gave the name."]]
    wire_permits: NotRequired[list[PermitIn]]
    confirmed_on: NotRequired[Annotated[str | None, "When a laboratory confirmed what is wrong."]]
    refused: NotRequired[Annotated[dict[str, str], "Rule -> digest of the facts it was refused on."]]


class CheckState(TypedDict):
    """A check before the work: open until somebody closed it. later: it is asked when the day comes."""

    check: str
    title: str
    open: bool
    later: bool
    why: str
    who: str
    how: Annotated[list[str], "Kinds of evidence that can close it."]
    until: str
    lead_weeks: int


class SpanOfYear(TypedDict):
    """Days of the year, the next of their kind: done then, with caution, never, the area's nesting season."""

    kind: Literal["done", "caution", "never", "nesting"]
    begins: str
    ends: str


class SeasonOfWork(TypedDict):
    """When it may be done: the next window, and when never; spans: the year as a ring shows it."""

    begins: str
    ends: str
    now: bool
    caution: bool
    never_from: str
    never_to: str
    spans: list[SpanOfYear]
    plus_minus_days: int
    carried: Annotated[bool, "From where the rule was written for; else the region's own dates."]
    rough: Annotated[bool, "No calendar of the region is held: a person who knows the place sets the dates."]


class LighterWork(TypedDict):
    """A lighter answer that was considered, and why it is not enough or that it may be."""

    act: str
    says: str


class Proposal(TypedDict):
    """Work that a rule proposes. People accept, change or refuse it."""

    rule: str
    title: str
    act: str
    acts: Annotated[list[str], "What is done: the checks hang on it."]
    do: str
    priority: int
    season: SeasonOfWork | None
    within_days: int | None
    latest_on: Annotated[str, "The last day of every part; '': none is set."]
    why: list[str]
    checks: list[CheckState]
    blocked_by: list[str]
    ask: list[str]
    cautions: list[str]
    lighter: list[LighterWork]
    equipment: str
    refuses: list[str]
    seals: bool
    emergency: str
    standard: str
    traffic: bool
    follow_up_years: list[int]
    cure_days: int | None
    note: str
    source: str
    facts: Annotated[str, "Digest of the facts it rests on: a refusal holds while it is the same."]


class NotProposed(TypedDict):
    """What a rule would ask for and why it does not."""

    rule: str
    title: str
    why: str


class Proposals(TypedDict):
    """What is proposed for a tree, the most urgent first, and what is held back."""

    proposals: list[Proposal]
    held_back: list[NotProposed]
    only: Annotated[list[str], "Where a tree is on a line: the only acts until the operator has cleared it."]
    holds_until: Annotated[str, "The first day on which the same inputs may be judged otherwise."]
    inputs: Annotated[list[str], "What it was judged by."]


class EmergencyIn(TypedDict):
    """Why a step cannot wait, and who answers for it."""

    lead: NotRequired[Annotated[str, "The member who answers for it."]]
    reason: NotRequired[str]
    danger: NotRequired[Annotated[str, "on_record, seen_here, ordered."]]
    ordered_by: NotRequired[str]
    least_work: NotRequired[bool]
    photographed: NotRequired[bool]
    no_photograph: NotRequired[str]
    nests_looked_for: NotRequired[bool]
    roost_possible: NotRequired[bool]
    nobody_to_be_had: NotRequired[bool]
    not_known_protected: NotRequired[bool]


class StepIn(TypedDict):
    """A step, and what the job says by then: under the names of its record."""

    rule: str
    part: NotRequired[Annotated[str, "The later part of the rule's job; none: the first."]]
    first_part_on: NotRequired[Annotated[str | None, "When the part before it was completed."]]
    step: Literal["accepted", "changed", "planned", "started", "stopped", "completed"]
    stage: NotRequired[Annotated[str | None, "Where the job stands before it; '': nobody accepted it yet."]]
    on: str
    unplanned: NotRequired[Annotated[bool, "No day is set: what is looked at on the day comes later."]]
    at: NotRequired[Annotated[str | None, "The moment; none: noon."]]
    begun_at: NotRequired[Annotated[str | None, "When work began on the day of a completion."]]
    job: NotRequired[str]
    acts: NotRequired[Annotated[list[str], "Empty: those of the rule."]]
    do: NotRequired[str]
    equipment: NotRequired[str]
    crew: NotRequired[str]
    contractor: NotRequired[str]
    route: NotRequired[str]
    earliest_on: NotRequired[str | None]
    latest_on: NotRequired[str | None]
    sealed_minutes: NotRequired[Annotated[float, Between(0, 10_000)] | None]
    line_clearance: NotRequired[Annotated[bool, "The crew is qualified for line clearance."]]
    emergency: NotRequired[EmergencyIn | None]
    happened: NotRequired[Annotated[bool, "A person says that it was done."]]
    late: NotRequired[Annotated[bool, "It was recorded before it could be refused."]]
    though_held_by: NotRequired[Annotated[str, "By whom it was done all the same."]]
    though_why: NotRequired[str]


class JobIn(StepIn):
    """A job and the step it is to take."""

    case: WorkCaseIn


class JobAnswer(TypedDict):
    """Whether the job may take the step, and what stands against it."""

    allowed: bool
    refusals: list[str]
    flagged: Annotated[list[str], "What was done all the same, to be looked into; it is recorded."]
    acts: list[str]
    asks: Annotated[list[str], "What is asked about: wording that names an act the job has not."]
    checks: list[CheckState]
    holds_until: Annotated[str, "The first day on which the same inputs may be judged otherwise."]
    inputs: Annotated[list[str], "What it was judged by."]
