"""The vocabulary as the sheets need it."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from jubark_core.condition import scores
from jubark_core.condition.words import CONDITION_WORDS
from jubark_core.flora.load import local_notes, shipped_flora
from jubark_core.plates.measuring import measuring_drawings
from jubark_core.plates.states import state_drawings
from jubark_core.records import words
from jubark_core.records.in_words import described_records
from jubark_core.records.terms import terms
from jubark_core.records.words import shown_word
from jubark_core.signs.load import signs
from jubark_core.size.where import stem_forms


@lru_cache(maxsize=1)
def vocabulary() -> dict[str, Any]:
    """Organs, characters, taxa and fixed words with their labels. The same for every organisation."""
    flora = shipped_flora()
    return {
        "version": flora.version,
        "organs": [{"id": k, "label": v["label"]} for k, v in flora.compiled["organs"].items()],
        "characters": [_character(cid, c) for cid, c in flora.characters.items()],
        "taxa": [
            {
                "id": tid,
                "name": t["name"],
                "common": (t.get("common") or [""])[0],
                "rank": t["rank"],
                "parent": t.get("parent"),
            }
            for tid, t in flora.taxa.items()
        ],
        "stages": _labelled(words.STAGES),
        "settings": _labelled(words.SETTINGS),
        "signs": [{"id": k, "label": v["label"], "help": v["often"]} for k, v in signs().items()],
        "stem_forms": [
            {
                "id": k,
                "label": v["label"],
                "help": v["says"],
                "several": v.get("several", False),
                "quantity": v.get("quantity", "dbh_cm"),
                "method": v.get("method", ""),
                "height": v["height"],
            }
            for k, v in stem_forms().items()
        ],
        "condition_parts": [
            {"id": k, "label": v["label"], "grades": v["grades"], "leafless": v.get("leafless", "")}
            for k, v in scores.parts().items()
        ],
        "defects": [
            {"id": k, "label": v["label"], "parts": v["parts"], "extent": v["extent"]}
            for k, v in scores.defects().items()
        ],
        "judged": {
            "base_visible": _labelled(words.BASE_VISIBLE),
            "flare": _labelled(words.FLARE),
            "crown_class": _labelled(words.CROWN_CLASSES),
            "crown_light": _labelled(words.CROWN_LIGHT),
            "failure": _labelled(words.FAILURE),
            "impact": _labelled(words.IMPACT),
            "consequence": _labelled(words.CONSEQUENCE),
            "level": _labelled(words.LEVELS),
            "life": _labelled(words.LIFE_STATES),
        },
        "conditions": [{"id": k, "label": shown_word(k), "help": v} for k, v in CONDITION_WORDS.items()],
        "records": described_records(),
        "terms": terms(),
    }


@lru_cache(maxsize=1)
def drawings() -> dict[str, dict[str, str]]:
    """Answer tiles as SVG by character and state; under `stem_form` where to measure."""
    return {**state_drawings(shipped_flora()), "stem_form": measuring_drawings()}


@lru_cache(maxsize=1)
def notes() -> dict[str, str]:
    """Taxon -> this installation's own note."""
    return local_notes(shipped_flora())


def _labelled(fixed: tuple[str, ...]) -> list[dict[str, str]]:
    return [{"id": word, "label": shown_word(word)} for word in fixed]


def _character(cid: str, c: dict[str, Any]) -> dict[str, Any]:
    return {
        "id": cid,
        "organ": c["organ"],
        "kind": c["kind"],
        "label": c["label"],
        "term": c["term"],
        "how": c["how"],
        "mistake": c["mistake"],
        "states": [{"id": k, "label": v} for k, v in c.get("labels", {}).items()],
        "unit": c.get("unit", ""),
        "range": c.get("range", []),
        "rests_on": sorted(c.get("requires", {})),
        "wounds": c["wounds"],
        "touch": c["touch"],
        "tools": c["tools"],
        "effort_s": c["effort_s"],
    }
