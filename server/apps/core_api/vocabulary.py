"""The vocabulary as the sheets need it."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from apps.plants.models.words import LIFE_STATES
from jubark_core.condition import risk, scores
from jubark_core.condition.words import CONDITION_WORDS
from jubark_core.flora.load import local_notes, shipped_flora
from jubark_core.flora.words import SETTINGS, STAGES
from jubark_core.plates.measuring import measuring_drawings
from jubark_core.plates.states import state_drawings
from jubark_core.signs.load import signs
from jubark_core.size.where import stem_forms

STAGE_LABELS = {"resprout": "resprout (cut back)", "clipped": "clipped (hedge, topiary)"}


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
        "stages": [{"id": w, "label": STAGE_LABELS.get(w, w)} for w in STAGES],
        "settings": [{"id": w, "label": w.replace("_", " ")} for w in SETTINGS],
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
            key: [{"id": w, "label": w.replace("_", " ")} for w in allowed]
            for key, allowed in (
                ("base_visible", scores.BASE_VISIBLE),
                ("flare", scores.FLARE),
                ("crown_class", scores.CROWN_CLASSES),
                ("crown_light", scores.LIGHT),
                ("failure", risk.FAILURE),
                ("impact", risk.IMPACT),
                ("consequence", risk.CONSEQUENCE),
                ("level", risk.LEVELS),
                ("life", [word for word, _ in LIFE_STATES]),
            )
        },
        "conditions": [
            {"id": k, "label": k.replace("_", " "), "help": v} for k, v in CONDITION_WORDS.items()
        ],
    }


@lru_cache(maxsize=1)
def drawings() -> dict[str, dict[str, str]]:
    """Answer tiles as SVG by character and state; under `stem_form` where to measure."""
    return {**state_drawings(shipped_flora()), "stem_form": measuring_drawings()}


@lru_cache(maxsize=1)
def notes() -> dict[str, str]:
    """Taxon -> this installation's own note."""
    return local_notes(shipped_flora())


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
