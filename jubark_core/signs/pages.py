"""What is told of a cause: its page, and the list of all."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.checks import require_date
from jubark_core.flora.model import Flora
from jubark_core.records.typed_schema import Between
from jubark_core.season.calendars import Origin
from jubark_core.season.contract import PlaceIn
from jubark_core.season.place import Place
from jubark_core.season.windows import dates
from jubark_core.signs.advice import response_of, season_here
from jubark_core.signs.case import HealthCase, cause_id
from jubark_core.signs.clock import area_case, counted_by_taxon
from jubark_core.signs.contract import Response
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.load import SUSCEPTIBLE, health
from jubark_core.signs.model import Cause
from jubark_core.signs.prior import notifiable_here, status_here

OFTEN_WORDS = ((0.9, "always"), (0.6, "usually"), (0.4, "often"), (0.15, "sometimes"), (0.0, "seldom"))
HOST_WORDS = {
    "severe": "badly hit",
    "hit": "hit",
    "light": "seldom or lightly hit",
    "resistant": "resistant or tolerant",
    "never": "never",
}


class CausesIn(TypedDict):
    """The day, the place and its areas, and how many plants of each taxon there are."""

    on: str
    place: NotRequired[PlaceIn]
    areas: NotRequired[list[str]]
    counts: NotRequired[dict[str, Annotated[int, Between(0, 10**9)]]]


class CauseIn(CausesIn):
    """A cause by its id, another name or its Latin name."""

    agent: str


class ListedCause(TypedDict):
    """A cause in short. here: present, absent or unknown in the areas; plants: hosts there."""

    agent: str
    name: str
    latin: str
    kind: str
    harm: str
    here: str
    must_report: str
    plants: int
    active: bool


class SignOfCause(TypedDict):
    """A sign as the cause makes it."""

    sign: str
    label: str
    part: str
    often: str
    size_mm: list[float]
    on: list[str]


class HostsOfCause(TypedDict):
    """Hosts that are hit alike: names as they are written."""

    level: str
    label: str
    taxa: list[str]
    names: list[str]
    plants: int


class FriendOfCause(TypedDict):
    """What it is taken for, or what is taken for it, and how to tell."""

    agent: str
    name: str
    how: str


class CausePage(ListedCause):
    """All that is told of a cause at a place on a day."""

    signs: list[SignOfCause]
    hosts: list[HostsOfCause]
    friends: list[FriendOfCause]
    spread: list[str]
    response: list[Response]
    cautions: list[str]
    next: str
    sample: str
    season: dict[str, str] | None
    plus_minus_days: int
    rough: bool
    origin: Origin | Literal[""]
    tell: str
    hold: str
    source: str
    grade: str
    grades: Annotated[
        dict[str, str], "Group of facts -> grade: B consistent in several works, C one or unsure."
    ]


def causes_listed(given: Any, flora: Flora) -> list[ListedCause]:
    """Every cause, those with hosts here first, then by harm and name."""
    case = _case(given, flora)
    counts = counted_by_taxon(given.get("counts", {}), flora)
    rows = [_listed(c, case, counts, flora) for c in health().causes.values()]
    worst = ("kills", "serious", "minor", "harmless")
    return sorted(rows, key=lambda r: (r["plants"] == 0, worst.index(r["harm"]), r["name"]))


def cause_page(given: Any, flora: Flora) -> CausePage:
    """The page of one cause. Raises InputError for an unknown one."""
    cause = health().causes[cause_id("agent", given["agent"])]
    case = _case(given, flora)
    counts = counted_by_taxon(given.get("counts", {}), flora)
    season = season_here(cause, case)
    return {
        **_listed(cause, case, counts, flora),
        "signs": [
            _sign(sid, cause, flora) for sid in sorted(cause.signs, key=lambda s: (-_often(s, cause), s))
        ],
        "hosts": [row for level in HOST_WORDS if (row := _hosts(level, cause, counts, flora))["taxa"]],
        "friends": _friends(cause),
        "spread": list(cause.spread),
        "response": response_of(cause, case),
        "cautions": list(cause.cautions),
        "next": cause.next,
        "sample": cause.sample,
        "season": season["window"],
        "plus_minus_days": season["plus_minus_days"],
        "rough": season["rough"],
        "origin": season["origin"],
        "tell": notifiable_here(cause, case, flora)[1],
        "hold": health().holds,
        "source": cause.source,
        "grade": cause.grade,
        "grades": cause.grades,
    }


def _case(given: Any, flora: Flora) -> HealthCase:
    at = given.get("place")
    place = Place(at["lat"], at["lon"], at.get("elevation_m")) if at else Place()
    return area_case(given, require_date("on", given["on"]), place, flora)


def _listed(cause: Cause, case: HealthCase, counts: dict[str, int], flora: Flora) -> ListedCause:
    active = False
    if cause.season is not None:
        first, last, _ = dates(cause.season, case.place, case.on, "forbidden")
        active = first <= case.on <= last
    return {
        "agent": cause.id,
        "name": cause.name,
        "latin": cause.latin,
        "kind": cause.kind,
        "harm": cause.harm,
        "here": status_here(cause, case, flora),
        "must_report": notifiable_here(cause, case, flora)[0],
        "plants": sum(n for t, n in counts.items() if susceptibility(cause, t, flora) > 0.05),
        "active": active,
    }


def _often(sign: str, cause: Cause) -> float:
    return max(s.often for s in cause.signs[sign])


def _sign(sid: str, cause: Cause, flora: Flora) -> SignOfCause:
    word = health().signs[sid]
    first = cause.signs[sid][0]
    often = _often(sid, cause)
    return {
        "sign": sid,
        "label": word.label,
        "part": word.part,
        "often": next(text for least, text in OFTEN_WORDS if often >= least),
        "size_mm": list(first.size_mm or ()),
        "on": [_name(t, flora) for s in cause.signs[sid] for t in sorted(s.on)],
    }


def _hosts(level: str, cause: Cause, counts: dict[str, int], flora: Flora) -> HostsOfCause:
    taxa = sorted(h for h, s in cause.hosts.items() if abs(s - SUSCEPTIBLE[level]) < 1e-9)
    plants = sum(
        n
        for t, n in counts.items()
        if taxa and abs(susceptibility(cause, t, flora) - SUSCEPTIBLE[level]) < 1e-9
    )
    return {
        "level": level,
        "label": HOST_WORDS[level],
        "taxa": taxa,
        "names": [_name(t, flora) for t in taxa],
        "plants": plants if level != "never" else 0,
    }


def _name(taxon: str, flora: Flora) -> str:
    if taxon in flora.taxa:
        return str(flora.taxa[taxon]["name"])
    return (
        taxon.replace("-", " ")
        if taxon in ("any", "conifers", "broadleaves")
        else taxon.replace("-", " ").capitalize()
    )


def _friends(cause: Cause) -> list[FriendOfCause]:
    causes = health().causes
    own = {f: how for f, how in cause.friends.items() if f in causes}
    others = {c.id: c.friends[cause.id] for c in causes.values() if cause.id in c.friends and c.id not in own}
    rows = list(own.items())
    rows += [(f, f"here: {how}") for f, how in others.items()]
    return [{"agent": f, "name": causes[f].name, "how": how} for f, how in sorted(rows)]
