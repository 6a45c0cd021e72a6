"""Takes records made by an earlier version up to the current one: outbox items, drafts, files, stored bodies.

Only what was renamed or moved is touched; whatever is wrong with a record stays wrong, for the reader to
refuse.
Each step goes from one version to the next, so that no later change has to know more than the version before
it.
"""

from __future__ import annotations

import datetime
import uuid
from collections.abc import Callable, Iterator
from typing import Annotated, Any, Literal, TypedDict

from jubark_core.errors import InputError
from jubark_core.records.quantities import QUANTITIES

VERSION = 7
Raw = dict[str, Any]

_ENTRY_KINDS_2 = {"look": "observation"}
_BODY_FIELDS_2 = {
    "determination": {"looks": "observations", "not_told_from": "not_separated_from"},
    "measurement": {"shoots": "stems", "error": "error_m"},
    "risk": {"next_look": "next_inspection"},
    "voucher": {"kept_at": "where_kept"},
}
_PLANT_FORMS_2 = {"stem": "tree", "patch": "group"}
_CONDITIONS_2 = {"dying": "very_poor"}
_DEFECTS_2 = {"heave": "root_plate_movement", "old_topping": "topped"}
_ANGLES_2 = {"top_deg": "top", "base_deg": "base", "pole_deg": "pole"}


class UpgradeIn(TypedDict):
    """A record made with an earlier version."""

    thing: Literal["plant", "visit", "entry", "correction", "clock", "draft"]
    version: Annotated[int, "The record version it was made with."]
    record: dict[str, Any]


class UpgradeOut(TypedDict):
    """The record at the current version."""

    version: int
    record: dict[str, Any]


def upgraded(given: Any) -> UpgradeOut:
    """The operation: `UpgradeIn` in, `UpgradeOut` out. Raises InputError naming the field."""
    if not isinstance(given, dict) or set(given) != {"thing", "version", "record"}:
        raise InputError("body", given, "an object with thing, version and record")
    if not isinstance(given["record"], dict):
        raise InputError("record", given["record"], "an object")
    return {"version": VERSION, "record": upgrade(given["thing"], given["record"], given["version"])}


def upgrade(thing: str, raw: Any, version: Any) -> Any:
    """A record of `version` as the current version has it.

    thing: plant, visit, entry, correction, clock or draft. Raises InputError for another thing, or for a
    version that is not known (a newer one: the reader is older than the writer).
    """
    if not isinstance(thing, str) or thing not in _STEPS:
        raise InputError("thing", thing, "one of " + ", ".join(_STEPS))
    if isinstance(version, bool) or not isinstance(version, int) or not 1 <= version <= VERSION:
        raise InputError(
            "schema", version, f"1 to {VERSION}; what is newer was made by a newer app than this server"
        )
    for step in _STEPS[thing][version - 1 :]:
        raw = step(raw)
    return raw


def _renamed(raw: Any, names: dict[str, str]) -> Any:
    """An object with keys renamed; a key whose new name is there already stays, for the reader to refuse."""
    if not isinstance(raw, dict):
        return raw
    return {names[k] if k in names and names[k] not in raw else k: v for k, v in raw.items()}


def _reworded(raw: Any, key: str, words: dict[str, str]) -> Any:
    if isinstance(raw, dict) and isinstance(raw.get(key), str):
        return {**raw, key: words.get(raw[key], raw[key])}
    return raw


def _plant_2(raw: Any) -> Any:
    return _reworded(raw, "form", _PLANT_FORMS_2)


def _entry_2(raw: Any) -> Any:
    if not isinstance(raw, dict):
        return raw
    kind = raw.get("kind")
    found = _reworded(raw, "kind", _ENTRY_KINDS_2)
    if "body" not in raw or not isinstance(kind, str):
        return found
    return {**found, "body": _body_2(kind, raw["body"])}


def _body_2(kind: str, body: Any) -> Any:
    body = _renamed(body, _BODY_FIELDS_2.get(kind, {}))
    if kind == "measurement" and isinstance(body, dict) and isinstance(body.get("raw"), dict):
        body = {**body, "raw": _readings_2(body["raw"])}
    if kind == "condition":
        body = _reworded(body, "word", _CONDITIONS_2)
    if kind in ("defect", "photo"):
        body = _reworded(body, "defect", _DEFECTS_2)
    return body


def _readings_2(raw: Raw) -> Raw:
    found: Raw = _renamed(raw, {"girths_cm": "circumferences_cm"})
    return {k: _renamed(v, _ANGLES_2) if k in ("angles", "sine", "pole") else v for k, v in found.items()}


def _visit_2(raw: Any) -> Any:
    if not isinstance(raw, dict) or not isinstance(raw.get("entries"), list):
        return raw
    return {**raw, "entries": [_entry_2(entry) for entry in raw["entries"]]}


def _draft_2(raw: Any) -> Any:
    """A draft of version 1 held each kind in a place of its own; since version 2 it holds entries, as a visit
    does.
    """
    if not isinstance(raw, dict):
        raise InputError("record", raw, "an object")
    kept = (
        "id",
        "plant",
        "block",
        "local_date",
        "stage",
        "setting",
        "origin",
        "step",
        "confirmed",
        "stem_form",
    )
    found: Raw = {key: raw[key] for key in kept if key in raw}
    if earlier := raw.get("earlier"):
        found["earlier"] = earlier
    try:
        old = [{"kind": kind, **entry} for kind, entry in _entries_of_draft(raw)]
    except (AttributeError, KeyError, TypeError, ValueError):
        raise InputError("record", raw, "a draft as an app of version 1 wrote it") from None
    return {**found, "entries": [_entry_2(entry) for entry in old]}


def _entries_of_draft(raw: Raw) -> Iterator[tuple[str, Raw]]:
    """(kind, id and body) of what a draft of version 1 held. What had no id gets one that follows from the
    draft's.
    """

    def made(kind: str, body: Raw) -> tuple[str, Raw]:
        return kind, {"id": str(uuid.uuid5(uuid.NAMESPACE_URL, f"{raw.get('id')} {kind}")), "body": body}

    def own(kind: str, thing: Raw, *left: str) -> tuple[str, Raw]:
        body = {key: value for key, value in thing.items() if key not in ("id", *left)}
        return kind, {"id": thing.get("id"), "body": body}

    if raw.get("tag"):
        yield made("tag", {"number": raw["tag"]})
    for look in raw.get("looks") or ():
        yield own("look", look)
    if name := raw.get("name"):
        rank = {} if name.get("taxon") or not name.get("rank") else {"name_rank": name["rank"]}
        kind, entry = own("determination", name, "rank")
        yield kind, {**entry, "body": {**entry["body"], **rank}}
    for measurement in raw.get("measurements") or ():
        yield own("measurement", measurement)
    parts = raw.get("condition_parts") or {}
    judged = {**(raw.get("judged") or {}), **({"leafless": True} if raw.get("leafless") else {})}
    if parts or raw.get("condition") or judged:
        word = {"parts": parts} if parts else {"word": raw["condition"]} if raw.get("condition") else {}
        yield made("condition", {**word, **judged})
    if raw.get("life"):
        yield made("life", {"state": raw["life"]})
    for defect in raw.get("defects") or ():
        yield own("defect", defect)
    if risk := raw.get("risk"):
        kind, entry = own("risk", risk, "next_look_months")
        yield kind, {**entry, "body": {**entry["body"], **_next_look(raw, risk)}}
    for sign in raw.get("signs") or ():
        yield own("sign", sign)
    if raw.get("note"):
        yield made("note", {"text": raw["note"]})
    for photo in raw.get("photos") or ():
        shows = {"defect": photo["defect"]} if photo.get("defect") else {"organ": photo.get("organ", "")}
        kind, entry = own("photo", photo, "organ", "defect", "blob")
        yield kind, {**entry, "body": {**entry["body"], **shows}}


def _next_look(raw: Raw, risk: Raw) -> Raw:
    """The date so many months after the visit; the last days of a month become the 28th."""
    months, on = risk.get("next_look_months"), raw.get("local_date")
    if not isinstance(months, int) or not months or not isinstance(on, str):
        return {}
    day = datetime.date.fromisoformat(on)
    later = day.month - 1 + months
    return {"next_look": datetime.date(day.year + later // 12, later % 12 + 1, min(day.day, 28)).isoformat()}


_SEEN_4 = {
    "base_seen": {True: "all_round", False: "not_visible"},
    "crown_seen": {True: "whole", False: "not_visible"},
}

_EXTENT_4 = {"lean": {"extent_percent": "lean_deg"}, "cavity": {"extent_percent": "opening_percent"}}


def _entry_4(raw: Any) -> Any:
    """Since version 4 a worksheet says how much was seen, and lean and opening have their own fields."""
    if not isinstance(raw, dict) or not isinstance(raw.get("body"), dict):
        return raw
    body = raw["body"]
    if raw.get("kind") == "risk":
        for key, words in _SEEN_4.items():
            if isinstance(body.get(key), bool):
                body = {**body, key: words[body[key]]}
        if not body.get("next_inspection"):
            body = {**body, "no_next": True}
    if raw.get("kind") == "defect" and isinstance(body.get("defect"), str):
        body = _renamed(body, _EXTENT_4.get(body["defect"], {}))
    return raw if body is raw["body"] else {**raw, "body": body}


def _visit_4(raw: Any) -> Any:
    if not isinstance(raw, dict) or not isinstance(raw.get("entries"), list):
        return raw
    return {**raw, "entries": said_out_of_leaf([_entry_4(entry) for entry in raw["entries"]])}


# What signs were called up to version 4.
_SIGNS_5 = {
    "crown_thinning": "thinning_from_top",
    "dieback": "dieback_tips",
    "galleries": "galleries_other",
    "bleeding": "canker_bleeding",
    "canker": "canker_sunken",
    "bark_scale": "wool_on_bark",
    "conks": "bracket_stem",
    "dark_bands": "bands_dark_between_veins",
    "leaf_galls": "galls_other",
    "leaf_mines": "mines_other",
    "leaf_scorch": "margin_scorch",
    "leaf_spots": "spots_other",
    "defoliation": "eaten",
    "browse": "browsed_tips",
}


def _entry_5(raw: Any) -> Any:
    """Since version 5 the vocabulary of signs is larger, and some have other names."""
    if not isinstance(raw, dict) or raw.get("kind") != "sign" or not isinstance(raw.get("body"), dict):
        return raw
    return {**raw, "body": _reworded(raw["body"], "sign", _SIGNS_5)}


def _visit_5(raw: Any) -> Any:
    if not isinstance(raw, dict) or not isinstance(raw.get("entries"), list):
        return raw
    return {**raw, "entries": [_entry_5(entry) for entry in raw["entries"]]}


def _entry_6(raw: Any) -> Any:
    """Since version 6 a look after a storm may answer several at once: wires and a person."""
    if not isinstance(raw, dict) or raw.get("kind") != "storm" or not isinstance(raw.get("body"), dict):
        return raw
    under = raw["body"].get("under_it")
    return {**raw, "body": {**raw["body"], "under_it": [under]}} if isinstance(under, str) else raw


def _visit_6(raw: Any) -> Any:
    if not isinstance(raw, dict) or not isinstance(raw.get("entries"), list):
        return raw
    return {**raw, "entries": [_entry_6(entry) for entry in raw["entries"]]}


def said_out_of_leaf(entries: list[Any]) -> list[Any]:
    """The entries of a visit; a figure that needs leaves says that there were none, where the condition of
    the visit says so. Up to version 3 that was allowed.
    """
    bodies = [(e, e["body"]) for e in entries if isinstance(e, dict) and isinstance(e.get("body"), dict)]
    if not any(e.get("kind") == "condition" and body.get("leafless") is True for e, body in bodies):
        return entries
    bare = {
        id(e)
        for e, body in bodies
        if e.get("kind") == "measurement"
        and isinstance(body.get("quantity"), str)
        and body["quantity"] in QUANTITIES
        and QUANTITIES[body["quantity"]].in_leaf
    }
    return [{**e, "body": {**e["body"], "out_of_leaf": True}} if id(e) in bare else e for e in entries]


def _draft_4(raw: Any) -> Any:
    """The app of version 3 answered some of the worksheet beforehand: a draft asks for that anew."""
    found = _visit_4(raw)
    if not isinstance(found, dict) or not isinstance(found.get("entries"), list):
        return found
    return {**found, "entries": [_asked_anew_4(entry) for entry in found["entries"]]}


def _asked_anew_4(entry: Any) -> Any:
    if not isinstance(entry, dict) or entry.get("kind") != "risk" or not isinstance(entry.get("body"), dict):
        return entry
    beforehand = {"base_seen": "all_round", "crown_seen": "whole", "no_next": True}
    return {**entry, "body": {k: v for k, v in entry["body"].items() if beforehand.get(k) != v}}


def _as_it_is(raw: Any) -> Any:
    """A version that only added fields: what came before is valid as it is."""
    return raw


# Thing -> its steps: the first goes from version 1 to 2, and so on.
_STEPS: dict[str, tuple[Callable[[Any], Any], ...]] = {
    "plant": (_plant_2, _as_it_is, _as_it_is, _as_it_is, _as_it_is, _as_it_is),
    "visit": (_visit_2, _as_it_is, _visit_4, _visit_5, _visit_6, _as_it_is),
    "entry": (_entry_2, _as_it_is, _entry_4, _entry_5, _entry_6, _as_it_is),
    "correction": (_entry_2, _as_it_is, _entry_4, _entry_5, _entry_6, _as_it_is),
    "clock": (_as_it_is, _as_it_is, _as_it_is, _as_it_is, _as_it_is, _as_it_is),
    "draft": (_draft_2, _as_it_is, _draft_4, _visit_5, _visit_6, _as_it_is),
}
