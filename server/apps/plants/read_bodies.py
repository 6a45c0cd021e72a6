"""What an entry says, kind by kind: checked by the core, typed, nothing guessed."""

from __future__ import annotations

import datetime
import math
import re
from collections.abc import Callable
from typing import Any

from apps.plants.models import words
from apps.plants.read_fields import (
    only_keys,
    read_flag,
    read_id,
    read_list,
    read_maybe,
    read_text,
    read_whole,
    words_of,
)
from jubark_core.checks import require_between, require_date, require_one_of
from jubark_core.condition import scores
from jubark_core.condition.risk import worksheet
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import slug
from jubark_core.flora.words import RANKS
from jubark_core.naming.case import read_case
from jubark_core.signs.load import signs
from jubark_core.size.compute import compute
from jubark_core.size.diameter import BREAST_HEIGHTS_M
from jubark_core.size.where import stem_forms

SHA256 = re.compile(r"^[0-9a-f]{64}$")


def look(body: dict[str, Any]) -> dict[str, Any]:
    """A look in the engine's form, judged by the engine's own reader."""
    keys = {
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
        "seen",
        "specimen",
        "where",
        "shoot",
    }
    only_keys(body, "look", keys)
    given = {k: v for k, v in body.items() if v not in (None, [], "", False) and (k, v) != ("applies", True)}
    if body.get("applies") is False:
        given["applies"] = False
    character = given.get("character")
    one = isinstance(character, str) and shipped_flora().characters.get(character, {}).get("kind") == "one"
    if one and isinstance(given.get("states"), list) and len(given["states"]) == 1:
        given["state"] = given.pop("states")[0]
    try:
        read = read_case({"on": "2026-01-01", "observations": [given]}, shipped_flora()).looks[0]
    except InputError as error:
        raise InputError(
            error.place.removeprefix("observations[0]").lstrip(".") or "look", error.value, error.allowed
        ) from None
    return {
        "character": read.character,
        "states": list(read.states),
        "absent": list(read.absent),
        "values": list(read.values),
        "k": read.k,
        "n": read.n,
        "none": read.none,
        "skipped": read.skipped,
        "applies": read.applies,
        "certainty": given.get("certainty", "likely"),
        "seen": read.seen,
        "specimen": read.specimen,
        "where": given.get("where", ""),
        "shoot": given.get("shoot", ""),
    }


def determination(body: dict[str, Any]) -> dict[str, Any]:
    """A name. Known names resolve to the accepted id; a name the flora does not hold is kept as entered."""
    only_keys(
        body,
        "determination",
        {
            "entered",
            "taxon",
            "name",
            "name_rank",
            "probability",
            "looks",
            "not_told_from",
            "reason",
            "flora",
            "engine",
        },
    )
    flora = shipped_flora()
    entered = read_text("entered", body.get("entered") or body.get("name") or "", 160)
    if not entered:
        raise InputError("entered", "nothing", "the name as you would write it")
    wanted = body.get("taxon") or slug(entered)
    taxon = flora.resolve.get(wanted, "") if isinstance(wanted, str) else ""
    if body.get("taxon") and not taxon:
        raise InputError("taxon", body["taxon"], "the id of a taxon of the flora, or leave it out")
    node = flora.taxa.get(taxon, {})
    rank = node.get("rank") or body.get("name_rank") or "unknown"
    return {
        "entered": entered,
        "taxon": taxon,
        "name": node.get("name") or entered,
        "name_rank": require_one_of("name_rank", rank, (*RANKS, "unknown")),
        "probability": read_maybe("probability", body.get("probability"), 0, 1),
        "looks": [
            read_id(f"looks[{i}]", v) for i, v in enumerate(read_list("looks", body.get("looks", []), 500))
        ],
        "not_told_from": [
            read_text(f"not_told_from[{i}]", v, 80)
            for i, v in enumerate(read_list("not_told_from", body.get("not_told_from", []), 100))
        ],
        "reason": read_text("reason", body.get("reason", ""), 300),
        "flora": read_text("flora", body.get("flora", ""), 40),
        "engine": read_text("engine", body.get("engine", ""), 20),
    }


def measurement(body: dict[str, Any]) -> dict[str, Any]:
    """A figure, computed by the core from its raw readings. A value sent along must agree with them."""
    only_keys(
        body,
        "measurement",
        {
            "quantity",
            "raw",
            "value",
            "error",
            "unit_entered",
            "method",
            "at_height_m",
            "combine",
            "shoots",
            "thinner",
            "least_cm",
            "stem_form",
        },
    )
    combine = body.get("combine", "squares")
    found = compute(body.get("quantity", ""), body.get("raw", {}), combine, body.get("least_cm", 0))
    sent = body.get("value")
    if sent is not None and not math.isclose(
        require_between("value", sent, 0, 10_000), found["value"], rel_tol=1e-6
    ):
        raise InputError("value", sent, f"{found['value']:.4f} follows from the readings")
    height = body.get("at_height_m")
    if height is not None and not any(
        math.isclose(require_between("at_height_m", height, 0, 6, "m"), h, abs_tol=0.002)
        for h in BREAST_HEIGHTS_M
    ):
        require_between("at_height_m", height, 0.05, 6, "m")
    form = body.get("stem_form", "")
    method = require_one_of("method", body.get("method", "taped"), words_of(words.METHODS))
    if form and stem_forms()[require_one_of("stem_form", form, stem_forms())].get("method") not in (
        None,
        method,
    ):
        raise InputError("method", method, f"estimated: a stem {stem_forms()[form]['label']} is not touched")
    return {
        "quantity": body["quantity"],
        "value": found["value"],
        "error": found.get("error_m"),
        "raw": body["raw"],
        "unit_entered": require_one_of(
            "unit_entered", body.get("unit_entered", found["unit"]), ("cm", "in", "m", "ft", "%", "/cm")
        ),
        "method": method,
        "at_height_m": None if height is None else round(float(height), 2),
        "combine": combine,
        "shoots": found["shoots"],
        "least_cm": float(body.get("least_cm", 0)),
        "thinner": read_whole("thinner", body.get("thinner", found.get("thinner", 0)), 0, 1000),
        "stem_form": form,
    }


def condition(body: dict[str, Any]) -> dict[str, Any]:
    """Condition in one word; where parts were graded, the word follows from them and one sent along must
    agree.
    """
    only_keys(
        body,
        "condition",
        {
            "word",
            "leafless",
            "parts",
            "health",
            "structure",
            "base_visible",
            "flare",
            "crown_class",
            "crown_light",
        },
    )
    leafless = read_flag("leafless", body.get("leafless", False))
    parts = body.get("parts") or {}
    if not isinstance(parts, dict):
        raise InputError("parts", parts, "an object of part and grade")
    found = (
        scores.condition(parts, leafless)
        if parts
        else {"whole": body.get("word"), "health": None, "structure": None}
    )
    word = require_one_of("word", body.get("word") or found["whole"], words_of(words.CONDITIONS))
    if parts and word != found["whole"]:
        raise InputError("word", word, f"{found['whole']}, which follows from the parts")
    return {
        "word": word,
        "leafless": leafless,
        "parts": parts,
        "health": found["health"],
        "structure": found["structure"],
        **{
            key: require_one_of(key, body[key], allowed) if body.get(key) else ""
            for key, allowed in (
                ("base_visible", scores.BASE_VISIBLE),
                ("flare", scores.FLARE),
                ("crown_class", scores.CROWN_CLASSES),
                ("crown_light", scores.LIGHT),
            )
        },
    }


def risk(body: dict[str, Any]) -> dict[str, Any]:
    """A risk worksheet; the ratings follow from the matrices, and what is sent along of them is not
    believed.
    """
    only_keys(
        body, "risk", {"rows", "years", "level", "base_seen", "crown_seen", "rating", "residual", "next_look"}
    )
    rows = read_list("rows", body.get("rows", []), 30)
    if not all(isinstance(row, dict) for row in rows):
        raise InputError("rows", rows, "objects with part, target, failure, impact and consequence")
    seen = {key: read_flag(key, body.get(key)) for key in ("base_seen", "crown_seen")}
    sheet = worksheet(
        rows, years=body.get("years"), level=body.get("level", ""), on=datetime.date(2000, 1, 1), **seen
    )
    next_look = body.get("next_look")
    return {
        "rows": sheet["rows"],
        "years": sheet["years"],
        "level": sheet["level"],
        **seen,
        "rating": sheet["rating"] or "",
        "residual": sheet["residual"] or "",
        "next_look": None if next_look is None else require_date("next_look", next_look),
    }


def defect(body: dict[str, Any]) -> dict[str, Any]:
    """A defect with part and extent."""
    only_keys(body, "defect", {"defect", "part", "extent_percent"})
    extent = body.get("extent_percent")
    return {
        "defect": require_one_of("defect", body.get("defect"), words_of(words.DEFECTS)),
        "part": require_one_of("part", body.get("part"), words_of(words.PARTS)),
        "extent_percent": None if extent is None else read_whole("extent_percent", extent, 0, 100),
    }


def sign(body: dict[str, Any]) -> dict[str, Any]:
    """A sign, present or looked for and not there."""
    only_keys(body, "sign", {"sign", "present", "extent_percent"})
    extent = body.get("extent_percent")
    return {
        "sign": require_one_of("sign", body.get("sign"), signs()),
        "present": read_flag("present", body.get("present", True)),
        "extent_percent": None if extent is None else read_whole("extent_percent", extent, 0, 100),
    }


def photo(body: dict[str, Any]) -> dict[str, Any]:
    """That a photograph exists, with its hash."""
    only_keys(body, "photo", {"sha256", "bytes", "organ", "defect", "face", "scale_in_frame"})
    digest = body.get("sha256")
    if not isinstance(digest, str) or not SHA256.match(digest):
        raise InputError("sha256", digest, "64 hexadecimal digits in lower case")
    return {
        "sha256": digest,
        "bytes": read_whole("bytes", body.get("bytes"), 1, 15 * 1024 * 1024),
        "organ": read_text("organ", body.get("organ", ""), 20),
        "defect": require_one_of("defect", body["defect"], words_of(words.DEFECTS))
        if body.get("defect")
        else "",
        "face": read_text("face", body.get("face", ""), 20),
        "scale_in_frame": read_flag("scale_in_frame", body.get("scale_in_frame", False)),
    }


def voucher(body: dict[str, Any]) -> dict[str, Any]:
    """A pressed specimen."""
    only_keys(body, "voucher", {"organ", "number", "kept_at", "permission"})
    return {
        key: read_text(key, body.get(key, ""), size, least)
        for key, size, least in (
            ("organ", 20, 1),
            ("number", 40, 1),
            ("kept_at", 120, 1),
            ("permission", 120, 0),
        )
    }


def note(body: dict[str, Any]) -> dict[str, Any]:
    """Plain words."""
    only_keys(body, "note", {"text"})
    return {"text": read_text("text", body.get("text"), 4000, 1)}


def tag(body: dict[str, Any]) -> dict[str, Any]:
    """Something that happened to a tag."""
    only_keys(body, "tag", {"number", "material", "position", "state"})
    return {
        "number": read_text("number", body.get("number"), 20, 1).strip(),
        "material": read_text("material", body.get("material", ""), 30),
        "position": read_text("position", body.get("position", ""), 60),
        "state": require_one_of("state", body.get("state", "set"), words_of(words.TAG_STATES)),
    }


def life(body: dict[str, Any]) -> dict[str, Any]:
    """A life state."""
    only_keys(body, "life", {"state"})
    return {"state": require_one_of("state", body.get("state"), words_of(words.LIFE_STATES))}


READERS: dict[str, Callable[[dict[str, Any]], dict[str, Any]]] = {
    "look": look,
    "determination": determination,
    "measurement": measurement,
    "condition": condition,
    "defect": defect,
    "risk": risk,
    "sign": sign,
    "photo": photo,
    "voucher": voucher,
    "note": note,
    "tag": tag,
    "life": life,
    "clock_confirmed": lambda body: {},
}
