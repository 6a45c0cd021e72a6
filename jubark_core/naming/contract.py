"""The naming contract as types: what a case may say and what the answer holds (docs/naming.md)."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

LookRef = Annotated[str | int, "The id of the observation; its place in the list where the case gave none."]


class ObservationOfCase(TypedDict):
    """What was seen: exactly one of state, states, values, none, skipped or applies."""

    character: str
    id: NotRequired[Annotated[str, "What the answer calls it."]]
    state: NotRequired[str]
    states: NotRequired[list[str]]
    absent: NotRequired[list[str]]
    values: NotRequired[list[float]]
    k: NotRequired[int | None]
    n: NotRequired[int | None]
    none: NotRequired[bool]
    skipped: NotRequired[bool]
    applies: NotRequired[bool]
    certainty: NotRequired[str]
    slip: NotRequired[float]
    seen: NotRequired[str]
    on: NotRequired[str]
    stage: NotRequired[str]
    specimen: NotRequired[str]
    observer: NotRequired[str]
    where: NotRequired[str]
    shoot: NotRequired[str]


class CaseIn(TypedDict):
    """A plant to be named: where, when, and what was seen."""

    on: str
    observations: list[ObservationOfCase]
    lat: NotRequired[float]
    lon: NotRequired[float]
    elevation_m: NotRequired[float]
    areas: NotRequired[list[str]]
    zone: NotRequired[Annotated[str, 'Hardiness zone, "6" or "6b".']]
    setting: NotRequired[str]
    origin: NotRequired[str]
    stage: NotRequired[str]
    light: NotRequired[str]
    sex: NotRequired[str]
    reach: NotRequired[list[str]]
    tools: NotRequired[list[str]]
    tally: NotRequired[dict[str, int]]
    observers: NotRequired[Annotated[dict[str, float], "How often each errs against others."]]
    prior: NotRequired[Any]
    threshold: NotRequired[float]
    status: NotRequired[list[str]]
    purpose: NotRequired[str]
    temperatures: NotRequired[Any]


class ClaimIn(TypedDict):
    """A case and the taxon the plant is held to be."""

    case: CaseIn
    taxon: str


class Named(TypedDict):
    """A taxon by its names."""

    taxon: str
    name: str
    common: str
    rank: str


class Bits(TypedDict):
    """What one observation gives."""

    observation: LookRef
    character: str
    bits: float


Candidate = TypedDict(
    "Candidate",
    {
        "taxon": str,
        "name": str,
        "common": str,
        "rank": str,
        "probability": float,
        "rival": str,
        "for": list[Bits],
        "against": list[Bits],
        "both_have": list[LookRef],
    },
)
Candidate.__doc__ = "A name the plant may bear; `for` and `against` are relative to `rival`."


class RuledOut(TypedDict):
    """A genus that one observation ruled out."""

    taxon: str
    name: str
    observation: LookRef
    bits: float
    only_listed: bool


class Supported(Named):
    """The lowest name the observations support."""

    probability: float
    organs: list[str]
    one_organ: bool
    stop_at: NotRequired[str]
    would_be: NotRequired[str]


class Either(TypedDict):
    """Two taxa that hold the threshold together."""

    taxa: list[Named]
    probability: float
    why: str


class Rival(TypedDict):
    """A taxon that remains possible, and the characters that separate it."""

    taxon: str
    name: str
    probability: float
    looks: list[str]


class Outcome(TypedDict):
    """What an answer would do."""

    state: str
    probability: float
    leader: str
    leader_probability: float


class NextLook(TypedDict):
    """An observation worth making."""

    character: str
    gain_bits: float
    effort_s: float
    how: str
    outcomes: list[Outcome]


class Withheld(TypedDict):
    """An observation that would harm."""

    character: str
    why: str


class RangeOfRival(TypedDict):
    """A rival's central 90 % of single values."""

    taxon: str
    probability: float
    low: float
    high: float


class Settles(TypedDict):
    """What more leaves would do between two rivals; `more` is null where they will not settle it."""

    a: str
    b: str
    more: int | None
    says: str


class SampleRow(TypedDict):
    """A count or measure against the ranges of the rivals."""

    observation: LookRef
    character: str
    n: int
    mean: float
    sd: float | None
    rivals: list[RangeOfRival]
    settles: Settles | None


class Contradiction(TypedDict):
    """Observations that do not fit."""

    observations: list[LookRef]
    why: str


class Fit(TypedDict):
    """How well the best match's own description would produce these observations."""

    percentile: float | None
    fits: bool | None


ComeBack = TypedDict("ComeBack", {"from": str, "to": str, "character": str, "separates": list[str]})
ComeBack.__doc__ = "When a separating character shows."


class Caution(TypedDict):
    """A usual caution; hazard: of a plant that does serious harm by its sap or its poison."""

    taxon: str
    text: str
    hazard: bool


class PriorOf(TypedDict):
    """The factors of a candidate's prior."""

    taxon: str
    factors: dict[str, float]


class Leading(TypedDict):
    """Who would lead."""

    taxon: str
    name: str
    probability: float


class ByOrigin(TypedDict):
    """The best match had the plant been wild, and had it been planted."""

    wild: Leading
    planted: Leading
    differ: bool


class SeasonRule(TypedDict):
    """By which rule the season was set."""

    rule: Literal["degree_days", "calendar", "reference", "none"]
    region: str
    anchor: Annotated[str, "Whose calendar dates the place."]
    days: Annotated[float, "Days by which spring is later than at the anchor."]
    rough: bool
    error_days: int
    note: str


class Ranking(TypedDict):
    """Everything of the answer but what to look at next."""

    candidates: list[Candidate]
    rest: float
    ruled_out: list[RuledOut]
    supported: Supported | None
    either: Either | None
    not_yet_told_from: list[Rival]
    samples: list[SampleRow]
    contradictions: list[Contradiction]
    fit: Fit
    come_back: list[ComeBack]
    cautions: list[Caution]
    prior: list[PriorOf]
    by_origin: ByOrigin | None
    season: SeasonRule
    flora: str
    engine: str


class NextObservations(TypedDict):
    """What to look at next: null where it was not asked for, empty where nothing is worth an observation."""

    next_looks: list[NextLook] | None
    withheld: list[Withheld] | None
    live_pruned: float | None


class NamingAnswer(Ranking, NextObservations):
    """The answer of the naming contract."""


class Explanation(TypedDict):
    """The balance of a case in plain words."""

    text: str
