"""Reads signs, causes, what is normal and what is notifiable from their data files, once, and checks them."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.season.windows import Kind, read_window
from jubark_core.signs.model import (
    CLASSES,
    PATTERNS,
    Advice,
    Cause,
    CauseSign,
    Health,
    Normal,
    Notifiable,
    SignWord,
    WarmthEvent,
)
from jubark_core.signs.notation import read_sign

HERE = Path(__file__).parent
# How many of its worst hosts have it where it is at home: estimates, 'common practice'.
BASE = {"everyday": 0.30, "common": 0.10, "frequent": 0.05, "occasional": 0.02, "rare": 0.005}
SUSCEPTIBLE = {"severe": 1.0, "hit": 0.4, "light": 0.08, "resistant": 0.02, "never": 0.0}
REPORTS = ("", "yes", "where not yet present", "by local rule")
FACTS = ("hosts", "signs", "season", "spread", "response", "report")
ANIMALS = ("animal", "bird", "insect", "mite", "nematode", "insect and fungus", "bacteria and insect")
SEASONAL = "seasonal-shed"  # what is normal for the season, as a false friend
PARTS = ("bark", "crown", "leaf", "fruit", "base", "around")
SEASONAL_PARTS = ("leaf", "crown", "fruit", "around")  # signs on these take the time of the cause


@lru_cache(maxsize=1)
def health() -> Health:
    """All data of the room. Raises FloraError naming file and reason for the first broken rule."""
    words, alias = _signs(_read("signs.toml")["sign"])
    causes = {c.id: c for file in sorted((HERE / "causes").glob("*.toml")) for c in _causes(file, words)}
    called = {name: c.id for c in causes.values() for name in (*c.also, _slug(c.latin), _slug(c.name))}
    notifiable = _read("notifiable.toml")
    for area, rules in notifiable["area"].items():
        for named in rules["yes"]:
            if named not in causes:
                raise FloraError("notifiable.toml", 0, f"{area}: {named!r} is no cause")
    for cause in causes.values():
        for other in cause.friends:
            if other not in causes and other != SEASONAL:
                raise FloraError("causes", 0, f"{cause.id}: {other!r} is no cause")
    tell = notifiable["default"]["tell"]
    return Health(
        signs=words,
        alias=alias,
        causes=causes,
        called={name: cid for name, cid in called.items() if name} | {cid: cid for cid in causes},
        normals=_normals(_read("causes/normal.toml"), words),
        notifiable={
            area: Notifiable(rules.get("tell", ""), frozenset(rules["yes"]))
            for area, rules in notifiable["area"].items()
        }
        | {"": Notifiable(tell, frozenset())},
        holds=notifiable["default"]["holds"],
    )


def signs() -> dict[str, SignWord]:
    """Sign id -> the sign."""
    return health().signs


def called(cause: str) -> str:
    """The name of a cause, or of what is normal for the season, as a reader sees it."""
    return "Seasonal shed" if cause == SEASONAL else health().causes[cause].name


def _read(name: str) -> dict[str, Any]:
    path = HERE / name
    try:
        return tomllib.loads(path.read_text(encoding="utf-8"))
    except tomllib.TOMLDecodeError as error:
        raise FloraError(path.name, 0, str(error)) from None


def _slug(name: str) -> str:
    words = "".join(
        ch if ch.isascii() and ch.isalnum() else " " for ch in name.lower().replace("'", "")
    ).split()
    return "-".join(words)


def _signs(raw: dict[str, dict[str, Any]]) -> tuple[dict[str, SignWord], dict[str, str]]:
    words: dict[str, SignWord] = {}
    alias: dict[str, str] = {}
    for sid, told in raw.items():
        if told["part"] not in PARTS:
            raise FloraError("signs.toml", 0, f"{sid}: {told['part']!r} is not one of {', '.join(PARTS)}")
        size = told.get("size_mm")
        words[sid] = SignWord(
            id=sid,
            label=told["label"],
            part=told["part"],
            how=told["how"],
            mistake=told["mistake"],
            noise=told["noise"],
            group=told.get("group", sid),
            in_leaf=told.get("in_leaf", False),
            wounds=told.get("wounds", False),
            counted=told.get("counted", False),
            also=tuple(told.get("also", ())),
            size_mm=(size[0], size[1]) if size else None,
            confused=told.get("confused", {}),
        )
        alias |= dict.fromkeys(told.get("also", ()), sid)
    return words, alias


def _causes(path: Path, words: dict[str, SignWord]) -> list[Cause]:
    data = _read(f"causes/{path.name}")
    found = []
    for raw in data.get("cause", ()):
        try:
            found.append(_cause(raw, data, words))
        except (KeyError, ValueError, TypeError) as error:
            raise FloraError(path.name, 0, f"{raw.get('id')}: {error}") from None
    return found


def _cause(raw: dict[str, Any], file: dict[str, Any], words: dict[str, SignWord]) -> Cause:
    _require(raw["class"] in CLASSES, f"class {raw['class']!r}")
    _require(raw.get("report", "") in REPORTS, f"report {raw.get('report')!r}")
    _require(raw.get("pattern", "host") in PATTERNS, f"pattern {raw.get('pattern')!r}")
    kind: Kind = "animal" if raw["kind"] in ANIMALS else "plant"
    general = read_window(raw["when"], kind) if "when" in raw else None
    listed: dict[str, list[CauseSign]] = {}
    for text in raw["signs"]:
        sign = read_sign(text)
        _require(sign.sign in words, f"sign {sign.sign!r}")
        if sign.window is None and words[sign.sign].part in SEASONAL_PARTS:
            sign = CauseSign(**{**sign.__dict__, "window": general})
        listed.setdefault(sign.sign, []).append(sign)
    hosts = {host: SUSCEPTIBLE[level] for level, names in raw["hosts"].items() for host in names}
    return Cause(
        id=raw["id"],
        name=raw["name"],
        latin=raw["latin"],
        kind=raw["kind"],
        harm=raw["class"],
        report=raw.get("report", ""),
        base=BASE[raw["base"]],
        hosts=hosts,
        signs={sid: tuple(several) for sid, several in listed.items()},
        pattern=raw.get("pattern", "host"),
        season=read_window(raw["season"], kind) if "season" in raw else general,
        spread=tuple(raw["spread"]),
        next=raw["next"],
        friends=raw.get("friends", {}),
        response=tuple(_advice(r) for r in raw["response"]),
        cautions=tuple(raw.get("cautions", ())),
        sample=raw.get("sample", ""),
        source=raw.get("source", file["source"]),
        grade=raw.get("grade", file["grade"]),
        row=raw.get("row", 0),
        also=tuple(raw.get("also", ())),
        present=tuple(raw.get("present", ())),
        absent=tuple(raw.get("absent", ())),
        minor_on=frozenset(raw.get("minor_on", ())),
        site=raw.get("site", {}),
        settings=tuple(raw.get("setting", ())),
        newly_planted=raw.get("newly_planted", 1.0),
        alkaline=raw.get("alkaline", False),
        secondary=raw.get("secondary", False),
        lab=raw.get("lab", False),
        cuts=raw.get("cuts", ""),
        grades=_grades(raw, raw.get("grade", file["grade"])),
        ask_host=raw.get("ask_host", {}),
        warmth=tuple(_warmth(w) for w in raw.get("degree_days", ())),
    )


def _grades(raw: dict[str, Any], grade: str) -> dict[str, str]:
    """Group of facts -> grade: the file's own, C where the cause doubts it."""
    doubted = raw.get("doubt", ())
    _require(set(doubted) <= set(FACTS), f"doubt {doubted!r}")
    return {fact: "C" if fact in doubted else grade for fact in FACTS}


def _advice(raw: dict[str, Any]) -> Advice:
    loss = raw.get("if_loss")
    window = read_window(raw["when"]) if "when" in raw else None
    return Advice(raw["do"], raw.get("by", ""), window, (loss[0], loss[1]) if loss else None)


def _warmth(raw: dict[str, Any]) -> WarmthEvent:
    low, high = (raw["at"], raw["at"]) if "at" in raw else (raw["from"], raw["to"])
    return WarmthEvent(raw["event"], float(low), float(high), raw["grade"])


def _normals(data: dict[str, Any], words: dict[str, SignWord]) -> tuple[Normal, ...]:
    found = []
    for raw in data["normal"]:
        signs = dict(zip(raw["signs"], raw["shares"], strict=True))
        if unknown := set(signs) - set(words):
            raise FloraError("normal.toml", 0, f"{raw['id']}: {sorted(unknown)[0]!r} is no sign")
        found.append(
            Normal(
                id=raw["id"],
                hosts=frozenset(raw["hosts"]),
                signs=signs,
                window=read_window(raw["when"]),
                text=raw["text"],
                stages=tuple(raw.get("stages", ())),
                caution=raw.get("caution", ""),
                deciduous=raw.get("deciduous", False),
            )
        )
    return tuple(found)


def _require(holds: bool, what: str) -> None:
    if not holds:
        raise ValueError(f"{what} is not allowed")
