"""Reads a case of plant health: the fixed JSON in, checked and frozen, out. Nothing is guessed."""

from __future__ import annotations

import datetime
import math
from dataclasses import dataclass
from typing import Any

from jubark_core.checks import (
    require_between,
    require_date,
    require_flag,
    require_known_keys,
    require_list,
    require_one_of,
    require_short_text,
    require_whole,
    require_words,
)
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.words import REACHES, TOOLS
from jubark_core.records.words import (
    CERTAINTIES,
    INSECT_STAGES,
    SETTINGS,
    SIDES,
    SIGN_EXTENTS,
    SIGN_PLACES,
    SIGN_SINCE,
    STAGES,
)
from jubark_core.season.place import Place
from jubark_core.signs.case_of_tree import with_recorded
from jubark_core.signs.hosts import known_taxa
from jubark_core.signs.load import health

CASE_KEYS = (
    *("on", "lat", "lon", "elevation_m", "areas", "stage", "setting", "host", "signs", "neighbours"),
    *("temperatures", "lab", "area_status", "reach", "tools", "in_leaf", "dbh_cm", "crown_loss_percent"),
    *("planted_on", "cultivar", "site", "treatments", "status"),
)
SIGN_KEYS = (
    *("sign", "id", "where", "extent", "size_mm", "none", "side", "since", "wipes_off", "certainty"),
    *("observer", "on", "circumference_share", "count", "stage", "scale_photo"),
)
SITE_KEYS = ("works", "salt", "irrigation", "drought", "frost_on", "herbicide", "soil_ph")
STATUSES = ("present", "absent", "unknown")
PROTECTED = ("protected", "quarantine")
LAB_RESULTS = ("positive", "negative")
MOST_SIGNS, MOST_HOSTS, MOST_OTHERS = 200, 60, 100
FEWEST_DAYS, MOST_DAYS = 1, 366


@dataclass(frozen=True)
class SeenSign:
    """One sign, seen or looked for and absent. extent: a word, or per cent of the crown as a word."""

    index: int
    sign: str
    none: bool
    on: datetime.date
    where: tuple[str, ...] = ()
    extent: str = ""
    percent: float | None = None
    size_mm: float | None = None
    side: str = ""
    since: str = "unknown"
    wipes_off: bool | None = None
    certainty: str = "likely"
    scale_photo: bool = False
    count: int | None = None
    observer: str = ""
    insect: str = ""
    share: float | None = None

    def said(self) -> tuple[str, ...]:
        """All but its place in the list, as words that can be compared."""
        return tuple(str(value) for key, value in sorted(vars(self).items()) if key != "index")


@dataclass(frozen=True)
class Neighbours:
    """Plants near by: of the same kind, how many of them have it, and how many of other kinds. None: not
    counted.
    """

    same_host: int | None = None
    same_affected: int | None = None
    others_affected: int | None = None


@dataclass(frozen=True)
class LabResult:
    """What a laboratory found on this tree."""

    cause: str
    positive: bool


@dataclass(frozen=True)
class AreaStatus:
    """Whether a cause is in the area. km: distance to where it is."""

    status: str
    km: float | None = None


@dataclass(frozen=True)
class HealthCase:
    """A plant that somebody looks at: where, when, which it is, and what was seen."""

    on: datetime.date
    place: Place
    hosts: tuple[tuple[str, float], ...]
    signs: tuple[SeenSign, ...]
    areas: tuple[str, ...] = ()
    stage: str = "mature"
    setting: str = "unknown"
    neighbours: Neighbours = Neighbours()
    lows: tuple[float, ...] = ()
    highs: tuple[float, ...] = ()
    lab: tuple[LabResult, ...] = ()
    area_status: tuple[tuple[str, AreaStatus], ...] = ()
    reach: tuple[str, ...] = REACHES
    tools: tuple[str, ...] = TOOLS
    in_leaf: bool | None = None
    dbh_cm: float | None = None
    crown_loss_percent: float | None = None
    planted_on: datetime.date | None = None
    cultivar: str = ""
    site: tuple[tuple[str, Any], ...] = ()
    treated: tuple[str, ...] = ()
    status: tuple[str, ...] = ()


def read_health_case(raw: Any, flora: Flora) -> HealthCase:
    """The case, checked. Raises InputError naming the place, the value and what is allowed."""
    if not isinstance(raw, dict):
        raise InputError("case", raw, "an object with on, host and signs")
    if "entries" in raw:
        raw = with_recorded(raw)
    require_known_keys("", raw, CASE_KEYS)
    for key in ("on", "host", "signs"):
        if key not in raw:
            raise InputError(key, "nothing", "it is required")
    on = require_date("on", raw["on"])
    lows, highs = _temperatures(raw.get("temperatures"))
    return HealthCase(
        on=on,
        place=Place(
            _number(raw, "lat", -90, 90),
            _number(raw, "lon", -180, 180),
            _number(raw, "elevation_m", -430, 6000),
        ),
        hosts=_hosts(raw["host"], flora),
        signs=tuple(
            _sign(i, one, on) for i, one in enumerate(require_list("signs", raw["signs"], MOST_SIGNS))
        ),
        areas=_areas(raw["areas"], flora) if "areas" in raw else (),
        stage=require_one_of("stage", raw.get("stage", "mature"), STAGES),
        setting=require_one_of("setting", raw.get("setting", "unknown"), SETTINGS),
        neighbours=_neighbours(raw.get("neighbours", {})),
        lows=lows,
        highs=highs,
        lab=tuple(_lab(i, one) for i, one in enumerate(require_list("lab", raw.get("lab", []), MOST_OTHERS))),
        area_status=_area_status(raw.get("area_status", {})),
        reach=require_words("reach", raw["reach"], REACHES) if "reach" in raw else REACHES,
        tools=require_words("tools", raw["tools"], TOOLS) if "tools" in raw else TOOLS,
        in_leaf=require_flag("in_leaf", raw["in_leaf"]) if raw.get("in_leaf") is not None else None,
        dbh_cm=_number(raw, "dbh_cm", 0.1, 2000),
        crown_loss_percent=_number(raw, "crown_loss_percent", 0, 100),
        planted_on=require_date("planted_on", raw["planted_on"]) if raw.get("planted_on") else None,
        cultivar=require_short_text("cultivar", raw.get("cultivar", "")),
        site=_site(raw.get("site", {})),
        treated=_treatments(raw.get("treatments", [])),
        status=require_words("status", raw["status"], PROTECTED) if "status" in raw else (),
    )


def cause_id(at: str, raw: Any) -> str:
    """A cause by its id, another name or its Latin name. Raises InputError."""
    called = health().called
    slug = raw.lower().replace(" ", "-") if isinstance(raw, str) else None
    if slug not in called:
        raise InputError(at, raw, "the id of a cause, e.g. emerald-ash-borer")
    return called[slug]


def sign_id(at: str, raw: Any) -> str:
    """A sign by its id or an earlier one. Raises InputError."""
    known = health()
    if isinstance(raw, str) and (raw in known.signs or raw in known.alias):
        return known.alias.get(raw, raw)
    raise InputError(at, raw, "a sign of the vocabulary, e.g. exit_hole_d")


def _hosts(raw: Any, flora: Flora) -> tuple[tuple[str, float], ...]:
    known = known_taxa(flora)
    found: dict[str, float] = {}
    rows = require_list("host", raw, MOST_HOSTS)
    if not rows:
        raise InputError("host", raw, "at least one taxon with its probability")
    for i, one in enumerate(rows):
        at = f"host[{i}]"
        if not isinstance(one, dict):
            raise InputError(at, one, "an object with taxon and probability")
        require_known_keys(at + ".", one, ("taxon", "probability"))
        taxon = one.get("taxon")
        if isinstance(taxon, str):
            taxon = flora.resolve.get(taxon, taxon)
        if not isinstance(taxon, str) or taxon not in known:
            raise InputError(f"{at}.taxon", one.get("taxon"), "the id of a taxon, e.g. fraxinus-americana")
        if taxon in found:
            raise InputError(f"{at}.taxon", taxon, "each taxon once")
        found[taxon] = require_between(f"{at}.probability", one.get("probability", 1.0), 0, 1)
    total = math.fsum(found.values())
    if total > 1 + 1e-6 or total <= 0:
        raise InputError("host", round(total, 6), "probabilities that sum to more than 0 and at most 1")
    scale = 1 / total if total > 1 else 1.0
    return tuple(sorted((taxon, p * scale) for taxon, p in found.items() if p > 0))


def _sign(i: int, raw: Any, on: datetime.date) -> SeenSign:
    at = f"signs[{i}]"
    if not isinstance(raw, dict):
        raise InputError(at, raw, "an object with a sign")
    require_known_keys(at + ".", raw, SIGN_KEYS)
    sid = sign_id(f"{at}.sign", raw.get("sign"))
    if "none" in raw and raw["none"] is not True:
        raise InputError(f"{at}.none", raw["none"], "true, or leave it out")
    size = raw.get("size_mm")
    if size is not None:
        if health().signs[sid].size_mm is None:
            raise InputError(f"{at}.size_mm", size, f"left out: {sid} has no size")
        size = require_between(f"{at}.size_mm", size, 0.1, 1000, "mm")
    extent, percent = _extent(f"{at}.extent", raw.get("extent"))
    share = raw.get("circumference_share")
    count = raw.get("count")
    return SeenSign(
        index=i,
        sign=sid,
        none="none" in raw,
        on=require_date(f"{at}.on", raw["on"]) if "on" in raw else on,
        where=_where(f"{at}.where", raw.get("where", [])),
        extent=extent,
        percent=percent,
        size_mm=size,
        side=require_one_of(
            f"{at}.side", raw["side"].lower() if isinstance(raw["side"], str) else raw["side"], SIDES
        )
        if "side" in raw
        else "",
        since=require_one_of(f"{at}.since", raw.get("since", "unknown"), SIGN_SINCE),
        wipes_off=require_flag(f"{at}.wipes_off", raw["wipes_off"]) if "wipes_off" in raw else None,
        certainty=require_one_of(f"{at}.certainty", raw.get("certainty", "likely"), CERTAINTIES),
        scale_photo=require_flag(f"{at}.scale_photo", raw.get("scale_photo", False)),
        count=require_whole(f"{at}.count", count, 0, 100_000) if count is not None else None,
        observer=require_short_text(f"{at}.observer", raw.get("observer", "")),
        insect=require_one_of(f"{at}.stage", raw["stage"], INSECT_STAGES) if "stage" in raw else "",
        share=require_between(f"{at}.circumference_share", share, 0, 1) if share is not None else None,
    )


def _extent(at: str, raw: Any) -> tuple[str, float | None]:
    """few: 2 to 5, or under 10 % of the crown; some: 6 to 20, or 10 to 30 %; many: more."""
    if raw is None:
        return "", None
    if isinstance(raw, str):
        return require_one_of(at, raw, SIGN_EXTENTS), None
    percent = require_between(at, raw, 0, 100, "% of the crown")
    return ("few" if percent < 10 else "some" if percent <= 30 else "many"), percent


def _where(at: str, raw: Any) -> tuple[str, ...]:
    if isinstance(raw, str):
        return (require_one_of(at, raw, SIGN_PLACES),)
    rows = require_list(at, raw, len(SIGN_PLACES))
    return tuple(sorted({require_one_of(f"{at}[{i}]", one, SIGN_PLACES) for i, one in enumerate(rows)}))


def _neighbours(raw: Any) -> Neighbours:
    if not isinstance(raw, dict):
        raise InputError("neighbours", raw, "an object with same_host, same_host_affected, others_affected")
    require_known_keys("neighbours.", raw, ("same_host", "same_host_affected", "others_affected"))
    counts = {
        key: require_whole(f"neighbours.{key}", value, 0, 1_000_000)
        for key, value in raw.items()
        if value is not None
    }
    same, affected = counts.get("same_host"), counts.get("same_host_affected")
    if same is not None and affected is not None and affected > same:
        raise InputError("neighbours.same_host_affected", affected, f"at most same_host, {same}")
    return Neighbours(same, affected, counts.get("others_affected"))


def _lab(i: int, raw: Any) -> LabResult:
    at = f"lab[{i}]"
    if not isinstance(raw, dict):
        raise InputError(at, raw, "an object with agent and result")
    require_known_keys(at + ".", raw, ("agent", "result", "from"))
    if "from" in raw:
        require_one_of(f"{at}.from", raw["from"], ("this tree",))
    result = require_one_of(f"{at}.result", raw.get("result"), LAB_RESULTS)
    return LabResult(cause_id(f"{at}.agent", raw.get("agent")), result == "positive")


def _area_status(raw: Any) -> tuple[tuple[str, AreaStatus], ...]:
    if not isinstance(raw, dict):
        raise InputError("area_status", raw, "an object of cause: status and km")
    if len(raw) > MOST_OTHERS:
        raise InputError("area_status", len(raw), f"at most {MOST_OTHERS} causes")
    found: dict[str, AreaStatus] = {}
    for name, told in raw.items():
        at = f"area_status.{name}"
        if not isinstance(told, dict):
            raise InputError(at, told, "an object with status and km")
        require_known_keys(at + ".", told, ("status", "km"))
        km = told.get("km")
        found[cause_id(at, name)] = AreaStatus(
            require_one_of(f"{at}.status", told.get("status"), STATUSES),
            require_between(f"{at}.km", km, 0, 20_000, "km") if km is not None else None,
        )
    return tuple(sorted(found.items()))


def _site(raw: Any) -> tuple[tuple[str, Any], ...]:
    if not isinstance(raw, dict):
        raise InputError("site", raw, "an object with some of " + ", ".join(SITE_KEYS))
    require_known_keys("site.", raw, SITE_KEYS)
    found: dict[str, Any] = {}
    for key, value in raw.items():
        if value is None:
            continue
        if key == "soil_ph":
            found[key] = require_between("site.soil_ph", value, 2, 11)
        elif key == "frost_on":
            found[key] = require_date("site.frost_on", value)
        else:
            found[key] = require_flag(f"site.{key}", value)
    return tuple(sorted(found.items()))


def _treatments(raw: Any) -> tuple[str, ...]:
    found = []
    for i, one in enumerate(require_list("treatments", raw, MOST_OTHERS)):
        at = f"treatments[{i}]"
        if isinstance(one, str):
            found.append(cause_id(at, one))
            continue
        if not isinstance(one, dict):
            raise InputError(at, one, "an object with the agent it was against, and on")
        require_known_keys(at + ".", one, ("agent", "on"))
        if "on" in one:
            require_date(f"{at}.on", one["on"])
        found.append(cause_id(f"{at}.agent", one.get("agent")))
    return tuple(sorted(set(found)))


def _temperatures(raw: Any) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Daily minima and maxima in °C from 1 January on (1 July in the south); empty where none is given."""
    if raw is None:
        return (), ()
    if not isinstance(raw, dict) or set(raw) != {"min_c", "max_c"}:
        raise InputError(
            "temperatures", raw, "an object with min_c and max_c: one number a day from 1 January on"
        )
    days: dict[str, tuple[float, ...]] = {}
    for key in ("min_c", "max_c"):
        values = require_list(f"temperatures.{key}", raw[key], MOST_DAYS)
        days[key] = tuple(
            require_between(f"temperatures.{key}[{i}]", v, -80, 60, "°C") for i, v in enumerate(values)
        )
    if len(days["min_c"]) != len(days["max_c"]):
        raise InputError(
            "temperatures.max_c", len(days["max_c"]), f"as many days as min_c: {len(days['min_c'])}"
        )
    for i, (low, high) in enumerate(zip(days["min_c"], days["max_c"], strict=True)):
        if low > high:
            raise InputError(f"temperatures.min_c[{i}]", low, f"at most the day's maximum, {high:g} °C")
    return days["min_c"], days["max_c"]


def _areas(raw: Any, flora: Flora) -> tuple[str, ...]:
    rows = require_list("areas", raw, MOST_OTHERS)
    for i, code in enumerate(rows):
        if not isinstance(code, str) or code not in flora.areas:
            raise InputError(f"areas[{i}]", code, "a TDWG level 3 code, e.g. PEN")
    return tuple(sorted(set(rows)))


def _number(raw: dict[str, Any], key: str, low: float, high: float) -> float | None:
    return require_between(key, raw[key], low, high) if raw.get(key) is not None else None
