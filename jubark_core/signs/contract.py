"""The contract of plant health as types: what a case may hold, and the answers (docs/plant-health.md)."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.records.typed_schema import Between
from jubark_core.season.calendars import Origin
from jubark_core.signs.model import Harm

Standing = Literal["possible", "suspicion", "probable", "confirmed"]
Probability = Annotated[float, Between(0, 1)]


class HostOfCase(TypedDict):
    """A taxon the plant may be: species, section, genus or family."""

    taxon: str
    probability: NotRequired[Probability]


class SignOfCase(TypedDict):
    """A sign, seen, or looked for and absent (`none`)."""

    sign: str
    id: NotRequired[str]
    none: NotRequired[bool]
    where: NotRequired[str | list[str]]
    extent: NotRequired[Annotated[str | float, "one, few, some, many, or per cent of the crown."]]
    size_mm: NotRequired[float]
    side: NotRequired[str]
    since: NotRequired[str]
    wipes_off: NotRequired[bool]
    certainty: NotRequired[str]
    observer: NotRequired[str]
    on: NotRequired[str]
    circumference_share: NotRequired[float]
    count: NotRequired[int]
    stage: NotRequired[Annotated[str, "Of an insect: egg, larva, pupa or adult."]]
    scale_photo: NotRequired[Annotated[bool, "A photograph shows it beside a scale."]]


class NeighboursOfCase(TypedDict):
    """Plants near by: of the same kind, how many of them have it, how many of other kinds."""

    same_host: NotRequired[int | None]
    same_host_affected: NotRequired[int | None]
    others_affected: NotRequired[int | None]


class HealthCaseIn(TypedDict):
    """A plant that may be ill: where, when, which it is, and what was seen."""

    on: str
    host: list[HostOfCase]
    signs: NotRequired[list[SignOfCase]]
    entries: NotRequired[
        Annotated[list[Any], "What is recorded on the visit: name, signs and leaf state are taken from it."]
    ]
    lat: NotRequired[float | None]
    lon: NotRequired[float | None]
    elevation_m: NotRequired[float | None]
    areas: NotRequired[list[str]]
    stage: NotRequired[str]
    setting: NotRequired[str]
    neighbours: NotRequired[NeighboursOfCase]
    temperatures: NotRequired[Annotated[Any, "min_c and max_c: one number a day from 1 January (1 July) on."]]
    lab: NotRequired[list[Any]]
    area_status: NotRequired[dict[str, Any]]
    reach: NotRequired[list[str]]
    tools: NotRequired[list[str]]
    in_leaf: NotRequired[bool | None]
    dbh_cm: NotRequired[float | None]
    crown_loss_percent: NotRequired[float | None]
    planted_on: NotRequired[str | None]
    cultivar: NotRequired[str]
    site: NotRequired[dict[str, Any]]
    treatments: NotRequired[list[Any]]
    status: NotRequired[list[str]]


class SignBits(TypedDict):
    """What one sign gives, in bits. sign: its place in the case's list."""

    sign: int
    bits: float


CauseCandidate = TypedDict(
    "CauseCandidate",
    {
        "agent": str,
        "name": str,
        "latin": str,
        "probability": float,
        "class": Harm,
        "must_report": str | None,
        "standing": Standing,
        "rival": str,
        "for": list[SignBits],
        "against": list[SignBits],
        "friends": list[str],
    },
)
CauseCandidate.__doc__ = "A cause that fits; `for` and `against` are relative to `rival`."


class Together(TypedDict):
    """Several causes at once, and how probable that is."""

    agents: list[str]
    probability: float


class EitherCause(TypedDict):
    """Two causes that no look at this plant can part now, and what can."""

    agents: list[str]
    by: str


class FittingHost(TypedDict):
    """A taxon on which the sign is at home, and its share of plants here among those."""

    taxon: str
    name: str
    causes: list[str]


class DecidingLook(TypedDict):
    """A look that parts the name from the other reading."""

    character: str
    label: str
    how: str


class HostQuestioned(TypedDict):
    """A sign that does not occur on the host: the name, or the sign?"""

    sign: int
    host: str
    if_the_name_is_wrong: str
    if_the_sign_is_wrong: str
    taxa: list[FittingHost]
    looks: list[DecidingLook]


class HostNow(TypedDict):
    """A host as the case named it, before and after the signs. Offered, never written."""

    taxon: str
    before: float
    probability: float


class OutcomeOfLook(TypedDict):
    """What seeing or not seeing it would make of the answer."""

    seen: bool
    probability: float
    leader: str


class NextSign(TypedDict):
    """What to look for next. sign is empty where the question is which plant it is."""

    sign: str
    label: str
    part: str
    gain_bits: float
    effort_s: int
    how: str
    mistake: str
    wounds: bool
    outcomes: list[OutcomeOfLook]
    host: NotRequired[str]
    character: NotRequired[str]


class WithheldSign(TypedDict):
    """A look that would harm, and why."""

    sign: str
    why: str


class Response(TypedDict):
    """What is usually done, when, and who may do it."""

    do: str
    by: str
    window: dict[str, str] | None
    plus_minus_days: int
    rough: Annotated[bool, "No calendar of the region is held: a person who knows the place sets the dates."]
    origin: Annotated[Origin | Literal[""], "Whether the dates are the region's own or carried; empty: none."]
    source: str


class SampleToSend(TypedDict):
    """What to take, and who tells what it is."""

    agent: str
    what: str


class SuspicionToReport(TypedDict):
    """A notifiable cause that is suspected: who is told, and what is held."""

    agent: str
    name: str
    standing: str
    must_report: str
    now: bool
    tell: str
    hold: str


class SeasonOfCause(TypedDict):
    """When the cause is active here, by the table or by warmth."""

    agent: str
    window: dict[str, str] | None
    plus_minus_days: int
    rough: bool
    origin: Origin | Literal[""]
    degree_days: dict[str, Any] | None


class HealthAnswer(TypedDict):
    """What is wrong, whether it is serious, and what to look at and to do next."""

    summary: str
    candidates: list[CauseCandidate]
    normal: float
    normal_because: list[str]
    nothing_wrong: float
    unknown: float
    either: EitherCause | None
    together: list[Together]
    host: list[HostNow]
    host_questioned: HostQuestioned | None
    next_looks: list[NextSign]
    withheld: list[WithheldSign]
    response: list[Response]
    report: list[SuspicionToReport]
    sample: SampleToSend | None
    cautions: list[str]
    spread: list[str]
    season: SeasonOfCause | None
    engine: str
    holds_until: Annotated[str, "The day after: what is normal and what shows goes by the day."]
    inputs: Annotated[list[str], "What it was judged by."]


class SignsToLookFor(TypedDict):
    """What can be seen on this plant now, by what it would tell; and what is withheld."""

    signs: list[NextSign]
    withheld: list[WithheldSign]
    normal_now: list[str]
