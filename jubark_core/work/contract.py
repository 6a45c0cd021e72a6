"""The contract of work as types: what is known of a tree, and what is proposed (docs/work.md)."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

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


class TargetOfTree(TypedDict):
    """Something near, and how far it is."""

    kind: str
    distance_m: Annotated[float, Between(0, 10_000)]
    occupancy: NotRequired[str]


class ClearanceIn(TypedDict):
    """That a check was closed: by whom, when, with which reference, and until when where it ends."""

    check: Literal["C1", "C2", "C3", "C4", "C5", "C6", "C7"]
    what: NotRequired[
        Annotated[
            str, "nests, roosts, consent, operator, services, owner, route, authorised, assessor, name."
        ]
    ]
    by: str
    on: str
    reference: NotRequired[str]
    until: NotRequired[str | None]


class WorkCaseIn(TypedDict):
    """What the file of a tree holds, as far as rules of work ask for it."""

    on: str
    lat: NotRequired[Annotated[float, Between(-90, 90)] | None]
    lon: NotRequired[Annotated[float, Between(-180, 180)] | None]
    elevation_m: NotRequired[Annotated[float, Between(-430, 6000)] | None]
    areas: NotRequired[list[str]]
    region: NotRequired[Literal["us", "uk", "au"]]
    host: list[HostOfWork]
    separators_seen: NotRequired[
        Annotated[bool, "A separator was seen against each native or protected look-alike."]
    ]
    second_person: NotRequired[bool]
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
    on_wires: NotRequired[bool]
    clearance_short: NotRequired[bool]
    wanted: NotRequired[Annotated[list[str], "live_pruning, size_pruning, removal, block_treatment."]]
    habitats: NotRequired[list[str]]
    nest_in_use_on: NotRequired[Annotated[str | None, "When a nest or roost in use was last seen."]]
    protected: NotRequired[Annotated[list[str], "protected, conservation_area, heritage, street."]]
    flowers_on: NotRequired[Literal["", "last_year", "this_year"]]
    works_in_zone: NotRequired[bool]
    climber_introduced: NotRequired[bool]
    fits: NotRequired[bool]
    inspection_due: NotRequired[bool]
    last_visit_on: NotRequired[str | None]
    after_storm: NotRequired[bool]
    name_provisional: NotRequired[bool]
    diameters_doubtful: NotRequired[bool]
    soil_borne_about: NotRequired[bool]
    held_wood: NotRequired[bool]
    disposal_route: NotRequired[str]
    assessor_agrees: NotRequired[bool]
    authorised: NotRequired[
        Annotated[list[str], "Methods the site's area authorises beside the shipped ones."]
    ]
    clearances: NotRequired[list[ClearanceIn]]
    refused: NotRequired[Annotated[dict[str, str], "Rule -> digest of the facts it was refused on."]]


class CheckState(TypedDict):
    """A check before the work: open until somebody closed it. later: it is asked when the day comes."""

    check: str
    title: str
    open: bool
    later: bool
    why: str
    who: str
    until: str
    lead_weeks: int


class SeasonOfWork(TypedDict):
    """When it may be done: the next window, and when never."""

    begins: str
    ends: str
    now: bool
    caution: bool
    never_from: str
    never_to: str


class LighterWork(TypedDict):
    """A lighter answer that was considered, and why it is not enough or that it may be."""

    act: str
    says: str


class Proposal(TypedDict):
    """Work that a rule proposes. People accept, change or refuse it."""

    rule: str
    title: str
    act: str
    do: str
    priority: int
    season: SeasonOfWork | None
    within_days: int | None
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


class JobIn(TypedDict):
    """A job and the step it is to take."""

    case: WorkCaseIn
    rule: str
    part: NotRequired[Annotated[str, "The later part of the rule's job; none: the first."]]
    first_part_on: NotRequired[Annotated[str | None, "When the part before it was completed."]]
    step: Literal["accepted", "planned", "started", "completed"]
    on: str
    emergency: NotRequired[
        Annotated[
            dict[str, Any] | None, "by, role, reason; the statement that it is not known to be protected."
        ]
    ]
    equipment: NotRequired[str]
    sealed_minutes: NotRequired[Annotated[float, Between(0, 10_000)] | None]
    photographed: NotRequired[bool]


class JobAnswer(TypedDict):
    """Whether the job may take the step, and what stands against it."""

    allowed: bool
    refusals: list[str]
    checks: list[CheckState]
