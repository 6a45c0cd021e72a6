"""Reads a case: the fixed JSON in, checked and frozen, out. Nothing is guessed; nothing is dropped
silently.
"""

from __future__ import annotations

import datetime
import math
import re
from dataclasses import dataclass, field
from typing import Any

from jubark_core.checks import (
    require_between,
    require_date,
    require_known_keys,
    require_one_of,
    require_short_text,
    require_whole,
    require_words,
)
from jubark_core.errors import InputError
from jubark_core.flora.areas import WORLD, said
from jubark_core.flora.model import Flora
from jubark_core.flora.words import CONFUSED, REACHES, SLIP, TOOLS
from jubark_core.records.words import BARK_HEIGHTS, LIGHTS, ORIGINS, SEEN, SETTINGS, SEXES, SHOOTS, STAGES
from jubark_core.season.degree_days import chill_met, spring_dates
from jubark_core.season.place import Place
from jubark_core.season.showing import SpringDate

CASE_KEYS = {
    "on",
    "lat",
    "lon",
    "elevation_m",
    "areas",
    "zone",
    "setting",
    "origin",
    "stage",
    "light",
    "sex",
    "reach",
    "tools",
    "tally",
    "observations",
    "observers",
    "prior",
    "threshold",
    "status",
    "purpose",
    "temperatures",
}
LOOK_KEYS = {
    "id",
    "character",
    "state",
    "states",
    "absent",
    "values",
    "k",
    "n",
    "none",
    "skipped",
    "applies",
    "certainty",
    "slip",
    "seen",
    "on",
    "stage",
    "specimen",
    "observer",
    "where",
    "shoot",
}
FORMS = ("state", "states", "values", "none", "skipped", "applies")
PRIOR_FACTORS = ("area", "commonness", "habitat", "zone", "origin", "tally", "floor")
ZONE = re.compile(r"^(1[0-3]|[1-9])[ab]?$")
STATUSES = ("protected", "quarantine")
PURPOSES = ("name", "recheck", "practice")
TOLD_ORIGIN = {"planted": 0.97, "wild": 0.03}  # people err: never 1 or 0
MOST_LOOKS, MOST_VALUES = 500, 200
FEWEST_DAYS = 60  # a shorter record says too little of a spring


@dataclass(frozen=True)
class Look:
    """One observation. Exactly one of states, values, none, skipped or applies=False carries what was seen.

    id: what the case calls it, empty where it does not. slip: chance that it names what is not there;
    confused: how much of the usual confusions is left or added, by certainty and observer.
    """

    index: int
    character: str
    id: str = ""
    states: tuple[str, ...] = ()
    absent: tuple[str, ...] = ()
    values: tuple[float, ...] = ()
    k: int | None = None
    n: int | None = None
    none: bool = False
    skipped: bool = False
    applies: bool = True
    slip: float = SLIP["likely"]
    confused: float = CONFUSED["likely"]
    seen: str = "plant"
    on: datetime.date = datetime.date(2000, 1, 1)
    stage: str = "mature"
    specimen: str = ""
    observer: str = ""
    where: str = ""
    shoot: str = "normal"

    @property
    def shows_organ(self) -> bool:
        """Whether the look says that its organ was there."""
        return self.applies and not self.none and not self.skipped


@dataclass(frozen=True)
class Case:
    """A plant to be named: where, when, and what was seen."""

    on: datetime.date
    place: Place
    areas: tuple[str, ...]
    setting: str
    origin: str
    stage: str
    light: str
    sex: str
    reach: tuple[str, ...]
    tools: tuple[str, ...]
    tally: dict[str, int]
    looks: tuple[Look, ...]
    prior_off: frozenset[str] = field(default_factory=frozenset)
    threshold: float = 0.9
    status: tuple[str, ...] = ()
    purpose: str = "name"
    spring: SpringDate | None = None
    zone: int | None = None
    planted: float = 0.5  # chance that somebody planted it: told, or by the setting

    fallen_at_hand: bool = False  # fallen leaves were said to be there: by reach, or by a look at them

    def called(self, look: int) -> str | int:
        """What the answer calls the look at a place in the list: its id, or that place where it has none."""
        return self.looks[look].id or look


def read_case(data: Any, flora: Flora) -> Case:
    """The case, checked. Raises InputError naming the place, the value and what is allowed."""
    if not isinstance(data, dict):
        raise InputError("case", data, "an object with on and observations")
    require_known_keys("", data, CASE_KEYS)
    for key in ("on", "observations"):
        if key not in data:
            raise InputError(key, "nothing", "it is required")
    on = require_date("on", data["on"])
    stage = require_one_of("stage", data.get("stage", "mature"), STAGES)
    if not isinstance(data["observations"], list):
        raise InputError("observations", data["observations"], "a list, which may be empty")
    if len(data["observations"]) > MOST_LOOKS:
        raise InputError("observations", len(data["observations"]), f"at most {MOST_LOOKS} looks")
    observers = _observers(data.get("observers", {}))
    looks = tuple(_look(i, raw, flora, on, stage, observers) for i, raw in enumerate(data["observations"]))
    _require_own_ids(looks)
    areas = _areas(data.get("areas"), flora) if "areas" in data else ()
    setting = require_one_of("setting", data.get("setting", "unknown"), SETTINGS)
    origin = require_one_of("origin", data.get("origin", "unknown"), ORIGINS)
    return Case(
        on=on,
        place=Place(
            _optional(data, "lat", -90, 90),
            _optional(data, "lon", -180, 180),
            _optional(data, "elevation_m", -430, 6000),
        ),
        areas=areas,
        setting=setting,
        origin=origin,
        stage=stage,
        light=require_one_of("light", data.get("light", "unknown"), LIGHTS),
        sex=require_one_of("sex", data.get("sex", "unknown"), SEXES),
        reach=require_words("reach", data["reach"], REACHES) if "reach" in data else REACHES,
        tools=require_words("tools", data["tools"], TOOLS) if "tools" in data else TOOLS,
        tally=_tally(data.get("tally", {}), flora),
        looks=looks,
        prior_off=_prior_off(data.get("prior", {})),
        threshold=require_between("threshold", data.get("threshold", 0.9), 0.5, 0.999),
        status=require_words("status", data["status"], STATUSES) if "status" in data else (),
        purpose=require_one_of("purpose", data.get("purpose", "name"), PURPOSES),
        spring=spring_of_record(data["temperatures"]) if "temperatures" in data else None,
        fallen_at_hand="litter" in data.get("reach", ()) or any(look.seen == "litter" for look in looks),
        zone=_zone(data["zone"]) if "zone" in data else None,
        planted=TOLD_ORIGIN.get(origin) or planted_share(setting, areas, flora),
    )


def planted_share(setting: str, areas: tuple[str, ...], flora: Flora) -> float:
    """Chance that somebody planted a plant met in such a setting, where nobody says; of several areas their
    mean.
    """
    shares = flora.planted_share.get(setting, {})
    places = [flora.area[area]["planted_under"] for area in areas] or [[WORLD]]
    found = [0.5 if (share := said(shares, under)) is None else share for under in places]
    return math.fsum(found) / len(found)


def _zone(raw: Any) -> int:
    """A hardiness zone as gardeners write it: "6", "6a" or "6b"."""
    found = ZONE.match(raw) if isinstance(raw, str) else None
    if found is None:
        raise InputError("zone", raw, 'a hardiness zone from "1" to "13", with a or b or without')
    return int(found[1])


def _look(i: int, raw: Any, flora: Flora, on: datetime.date, stage: str, observers: dict[str, float]) -> Look:
    at = f"observations[{i}]"
    if not isinstance(raw, dict):
        raise InputError(at, raw, "an object with a character and what was seen")
    require_known_keys(at + ".", raw, LOOK_KEYS)
    character = raw.get("character")
    if not isinstance(character, str) or character not in flora.characters:
        raise InputError(f"{at}.character", character, "a character of the vocabulary, e.g. leaf.arrangement")
    forms = [form for form in FORMS if form in raw]
    if len(forms) != 1:
        raise InputError(
            at, forms or "nothing seen", "exactly one of state, states, values, none, skipped or applies"
        )
    for flag in ("none", "skipped"):
        if flag in raw and raw[flag] is not True:
            raise InputError(f"{at}.{flag}", raw[flag], "true, or leave it out")
    seen = _what_was_seen(at, raw, forms[0], flora.characters[character])
    for key, words in (("where", BARK_HEIGHTS), ("shoot", SHOOTS)):
        if key in raw:
            seen[key] = require_one_of(f"{at}.{key}", raw[key], words)
    own_stage = require_one_of(f"{at}.stage", raw.get("stage", stage), STAGES)
    observer = require_short_text(f"{at}.observer", raw.get("observer", ""))
    trusted = own_stage in flora.characters[character].get("stages", STAGES)
    slip, confused = _certainty(at, raw, observers.get(observer, 1.0), trusted)
    return Look(
        index=i,
        character=character,
        id=require_short_text(f"{at}.id", raw.get("id", "")),
        slip=slip,
        confused=confused,
        seen=require_one_of(f"{at}.seen", raw.get("seen", "plant"), SEEN),
        on=require_date(f"{at}.on", raw["on"]) if "on" in raw else on,
        stage=own_stage,
        specimen=require_short_text(f"{at}.specimen", raw.get("specimen", "")),
        observer=observer,
        **seen,
    )


def _certainty(at: str, raw: dict[str, Any], factor: float, trusted: bool) -> tuple[float, float]:
    """(slip, share of the confusions) of a look by an observer who errs `factor` times as often as others.

    A character that cannot be trusted at the plant's age is never better than unsure.
    """
    certainty = require_one_of(f"{at}.certainty", raw.get("certainty", "likely"), SLIP)
    slip, confused = SLIP[certainty], CONFUSED[certainty]
    if "slip" in raw:
        slip, confused = require_between(f"{at}.slip", raw["slip"], 0, 0.5), 1.0
    if not trusted:
        slip, confused = max(slip, SLIP["unsure"]), max(confused, CONFUSED["unsure"])
    return min(0.5, slip * factor), confused * factor


def _observers(raw: Any) -> dict[str, float]:
    if not isinstance(raw, dict):
        raise InputError("observers", raw, "an object of observer: how often this one errs against others")
    return {
        require_short_text(f"observers.{name}", name): require_between(f"observers.{name}", factor, 0.1, 10)
        for name, factor in raw.items()
    }


def _require_own_ids(looks: tuple[Look, ...]) -> None:
    seen: set[str] = set()
    for look in looks:
        if look.id and look.id in seen:
            raise InputError(f"observations[{look.index}].id", look.id, "an id of its own")
        seen.add(look.id)


def _what_was_seen(at: str, raw: dict[str, Any], form: str, c: dict[str, Any]) -> dict[str, Any]:
    kind = c["kind"]
    if form in ("none", "skipped"):
        return {form: True}
    if form == "applies":
        if raw["applies"] is not False:
            raise InputError(f"{at}.applies", raw["applies"], "false, or leave it out")
        if not c.get("requires"):
            raise InputError(
                f"{at}.applies", False, f"left out: {raw['character']} makes sense on every plant"
            )
        return {"applies": False}
    if form == "values":
        if kind not in ("count", "measure"):
            raise InputError(
                f"{at}.values",
                raw["values"],
                f"{raw['character']} takes a state: one of {', '.join(c['states'])}",
            )
        return {"values": _values(f"{at}.values", raw["values"], c)}
    if kind in ("count", "measure"):
        raise InputError(f"{at}.{form}", raw[form], f"{raw['character']} takes values in {c['unit']}")
    allowed = c["states"]
    if form == "states":
        states = require_words(f"{at}.states", raw["states"], allowed)
        if kind != "many" and len(states) != 1:
            raise InputError(f"{at}.states", raw["states"], f"{raw['character']} takes one state")
    else:
        states = (require_one_of(f"{at}.state", raw["state"], allowed),)
    seen: dict[str, Any] = {"states": states}
    if "absent" in raw:
        if kind != "many":
            raise InputError(
                f"{at}.absent", raw["absent"], "only characters that can show several states take it"
            )
        seen["absent"] = require_words(f"{at}.absent", raw["absent"], allowed)
        if both := set(states) & set(seen["absent"]):
            raise InputError(f"{at}.absent", sorted(both)[0], "a state is either seen or absent")
    if "k" in raw or "n" in raw:
        n = require_whole(f"{at}.n", raw.get("n"), 1, 1000)
        seen |= {"n": n, "k": require_whole(f"{at}.k", raw.get("k"), 0, n)}
        if len(states) != 1:
            raise InputError(f"{at}.states", raw.get("states"), "k of n takes one state")
    return seen


def _values(at: str, raw: Any, c: dict[str, Any]) -> tuple[float, ...]:
    if not isinstance(raw, list) or not raw:
        raise InputError(at, raw, "a list of at least one value")
    if len(raw) > MOST_VALUES:
        raise InputError(at, len(raw), f"at most {MOST_VALUES} values")
    low, high = c["range"]
    numbers = tuple(require_between(f"{at}[{i}]", v, low, high, c["unit"]) for i, v in enumerate(raw))
    if c["kind"] == "count":
        for i, number in enumerate(numbers):
            if number != int(number):
                raise InputError(f"{at}[{i}]", raw[i], "a whole number")
    return numbers


def _optional(data: dict[str, Any], key: str, low: float, high: float) -> float | None:
    return require_between(key, data[key], low, high) if key in data else None


def _areas(raw: Any, flora: Flora) -> tuple[str, ...]:
    if not isinstance(raw, list) or not raw:
        raise InputError("areas", raw, "a list of at least one TDWG level 3 code, e.g. PEN")
    for i, code in enumerate(raw):
        if not isinstance(code, str) or code not in flora.areas:
            raise InputError(f"areas[{i}]", code, "a TDWG level 3 code, e.g. PEN")
    return tuple(raw)


def _tally(raw: Any, flora: Flora) -> dict[str, int]:
    if not isinstance(raw, dict):
        raise InputError("tally", raw, "an object of taxon: number of stems")
    counts: dict[str, int] = {}
    for name, number in raw.items():
        accepted = flora.resolve.get(name)
        if accepted is None:
            raise InputError(f"tally.{name}", name, "the id of a taxon of the flora, e.g. acer-saccharum")
        counts[accepted] = counts.get(accepted, 0) + require_whole(f"tally.{name}", number, 0, 10_000_000)
    return counts


def spring_of_record(raw: Any) -> SpringDate | None:
    """{"min_c": [...], "max_c": [...]}: a station's days from 1 January on (1 July in the south), at least 60
    of them. None where its winter was too mild for warmth alone to date the spring: then the calendar does.
    """
    if not isinstance(raw, dict) or set(raw) != {"min_c", "max_c"}:
        raise InputError(
            "temperatures", raw, "an object with min_c and max_c: one number a day from 1 January on"
        )
    days = {}
    for key in ("min_c", "max_c"):
        if not isinstance(raw[key], list) or not FEWEST_DAYS <= len(raw[key]) <= 366:
            raise InputError(
                f"temperatures.{key}", raw[key], f"a list of {FEWEST_DAYS} to 366 daily values in °C"
            )
        days[key] = [
            require_between(f"temperatures.{key}[{i}]", v, -80, 60, "°C") for i, v in enumerate(raw[key])
        ]
    if len(days["min_c"]) != len(days["max_c"]):
        raise InputError(
            "temperatures.max_c", len(days["max_c"]), f"as many days as min_c: {len(days['min_c'])}"
        )
    for i, (low, high) in enumerate(zip(days["min_c"], days["max_c"], strict=True)):
        if low > high:
            raise InputError(f"temperatures.min_c[{i}]", low, f"at most the day's maximum, {high:g} °C")
    if not chill_met(days["min_c"], days["max_c"]):
        return None
    return spring_dates(days["min_c"], days["max_c"])


def _prior_off(raw: Any) -> frozenset[str]:
    if raw == "flat":
        return frozenset(PRIOR_FACTORS)
    if isinstance(raw, dict) and set(raw) <= {"off"}:
        return (
            frozenset(require_words("prior.off", raw["off"], PRIOR_FACTORS)) if "off" in raw else frozenset()
        )
    raise InputError("prior", raw, 'either "flat" or {"off": [' + ", ".join(PRIOR_FACTORS) + "]}")
