"""Reads rules, areas and standards from their data files, once, and checks them."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.season.windows import Window, read_window
from jubark_core.signs.load import health
from jubark_core.work.before.acts import acts
from jubark_core.work.model import ACTS, OPS, Condition, HeldBack, LaterPart, Rule, WorkRules

HERE = Path(__file__).parent
# facts of a cause: "agent oak-wilt at_least 0.9", "near oak-wilt 25", "host_of oak-wilt 0.4"
WITH_CAUSE = ("agent", "about", "near", "host_of")
FOLLOW_UP_FROM = ("work", "planting")  # what the years of a programme are counted from
PLAIN = (
    *("or_on_wires", "after_bloom_days", "standard", "method", "equipment", "note", "emergency", "seals"),
    *("traffic", "assessor_above", "cure_days", "sooner", "follow_up_from", "live_cuts", "sets_season"),
    *("by_hand", "in_any_season", "due_days", "instead"),
)


@lru_cache(maxsize=1)
def work_rules() -> WorkRules:
    """All data of the room. Raises FloraError naming file, rule and reason."""
    rules: dict[str, Rule] = {}
    for raw in _read("rules.toml")["rule"]:
        try:
            rules[raw["id"]] = _rule(raw)
        except (KeyError, ValueError, TypeError) as error:
            raise FloraError("rules.toml", 0, f"{raw.get('id')}: {error}") from None
    return WorkRules(
        rules, {name: told for name, told in _read("standards.toml").items() if name != "version"}
    )


@lru_cache(maxsize=1)
def flowering_wood() -> dict[str, str]:
    """Taxon -> last_year or this_year: the wood on which it flowers."""
    raw = _read("flowering_wood.toml")
    return {taxon: wood for wood in ("last_year", "this_year") for taxon in raw[wood]}


@lru_cache(maxsize=1)
def headroom() -> dict[str, dict[str, Any]]:
    """Way -> least_m, the free height or distance it asks for, and by_region where a region differs."""
    return {way: row for way, row in _read("headroom.toml").items() if way != "version"}


def _read(name: str) -> dict[str, Any]:
    return tomllib.loads((HERE / name).read_text(encoding="utf-8"))


def _rule(raw: dict[str, Any]) -> Rule:
    _require_known(raw["act"], raw["acts"])
    more: dict[str, Any] = {key: raw[key] for key in PLAIN if key in raw}
    more |= {key: read_window(raw[key]) for key in ("caution_window", "never") if key in raw}
    more["windows"] = _windows(raw)
    more |= {
        key: tuple(raw[key]) for key in ("refuses", "overrides", "follow_up_years", "cautions") if key in raw
    }
    if more.get("follow_up_from", "work") not in FOLLOW_UP_FROM:
        raise ValueError(f"follow_up_from is one of {', '.join(FOLLOW_UP_FROM)}")
    more["unless"] = tuple(
        HeldBack(tuple(_group(group) for group in held["if"]), held["why"]) for held in raw.get("unless", ())
    )
    if then := raw.get("then"):
        more["then"] = _later_part(then)
    return Rule(
        id=raw["id"],
        title=raw["title"],
        act=raw["act"],
        when=tuple(_group(group) for group in raw["if"]),
        do=raw["do"],
        acts=tuple(raw["acts"]),
        priority=raw["priority"],
        source=raw["source"],
        **more,
    )


def _later_part(raw: dict[str, Any]) -> LaterPart:
    _require_known(raw["act"], raw["acts"])
    return LaterPart(raw["part"], raw["act"], tuple(raw["acts"]), raw["do"], raw["after_days"], _windows(raw))


def _require_known(act: str, done: list[str]) -> None:
    for word, allowed in ((act, ACTS), *((one, acts()) for one in done)):
        if word not in allowed:
            raise ValueError(f"{word!r} is not one of {', '.join(allowed)}")


def _windows(raw: dict[str, Any]) -> tuple[Window, ...]:
    """`window`: none, one, or several in a list."""
    given = raw.get("window", [])
    return tuple(read_window(text) for text in ([given] if isinstance(given, str) else given))


def _group(raw: str | list[str]) -> tuple[Condition, ...]:
    return tuple(read_condition(text) for text in ([raw] if isinstance(raw, str) else raw))


def read_condition(text: str) -> Condition:
    """A condition of the data file. Raises ValueError for what is not understood."""
    words = text.split()
    about = ""
    if words and words[0] in WITH_CAUSE and len(words) > 1:  # "agent CAUSE at_least 0.5", "near CAUSE 25"
        about = words.pop(1)
        if words[0] in ("near", "host_of"):
            words.insert(1, "at_most" if words[0] == "near" else "at_least")
    if words == ["about"]:
        words += ["is", "true"]
    if words[:1] == ["area_has"] and len(words) == 2:
        words.insert(1, "is")
    if about and about not in health().causes:
        raise ValueError(f"{text!r}: {about!r} is no cause")
    if len(words) != 3 or words[1] not in OPS:
        raise ValueError(f"{text!r} is not understood")
    return Condition(words[0], words[1], words[2], about)
