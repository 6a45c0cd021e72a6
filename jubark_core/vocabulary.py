"""The vocabulary as the sheets need it."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.condition import scores
from jubark_core.condition.words import CONDITION_WORDS
from jubark_core.flora.climbers import climbers
from jubark_core.flora.model import Flora
from jubark_core.plates.defects import defect_drawings
from jubark_core.plates.measuring import measuring_drawings
from jubark_core.plates.signs import sign_drawings
from jubark_core.plates.states import state_drawings
from jubark_core.recording import LOOKS, evidence_asks
from jubark_core.records import words
from jubark_core.records.in_words import RecordsShown, described_records
from jubark_core.records.terms import TermShown, terms
from jubark_core.records.words import EVIDENCE, WIDE_EVIDENCE, shown_word
from jubark_core.signs.load import health, signs
from jubark_core.size.space import asked_of, near_things
from jubark_core.size.where import stem_forms
from jubark_core.tree_file.jobs import ASKS, EMERGENCY_ASKS, NEXT, OF_THE_HELD
from jubark_core.work.before.acts import acts
from jubark_core.work.before.checks import TITLES
from jubark_core.work.load import work_rules


class WordOfList(TypedDict):
    """A word of a fixed list with its label."""

    id: str
    label: str
    help: NotRequired[str]


class StateWord(WordOfList):
    """A state of a character; `help` says what it is where the label does not."""

    retired: NotRequired[Annotated[bool, "No longer offered; older records still have it."]]


class Character(TypedDict):
    """A character of the vocabulary, as the sheets need it."""

    id: str
    organ: str
    kind: Literal["one", "many", "count", "measure"]
    label: str
    term: str
    how: str
    mistake: str
    states: list[StateWord]
    unit: str
    range: list[float]
    rests_on: Annotated[list[str], "Characters that decide whether this one makes sense."]
    wounds: bool
    touch: bool
    tools: list[str]
    effort_s: float


class TaxonNode(TypedDict):
    """A node of the tree of taxa."""

    id: str
    name: str
    common: str
    rank: str
    parent: str | None


class StemForm(WordOfList):
    """A form of the stem and where it is measured. In a sentence H is breast height by the site's convention;
    the name of a convention in braces stands for the words of what the site has chosen.
    """

    by: Annotated[str, "The convention that decides between `rules`; empty: there is one sentence, `help`."]
    rules: Annotated[dict[str, str], "Word of that convention -> sentence."]
    several: bool
    quantity: str
    method: str
    height: str


class ConditionPart(TypedDict):
    """A part that is graded, with what earns each grade, worst first."""

    id: str
    label: str
    grades: list[str]
    leafless: str
    unseen: Annotated[str, "When it counts as not seen."]


class DefectWord(TypedDict):
    """A defect: what it is, where it is looked for, and the measures that fit it."""

    id: str
    label: str
    help: str
    parts: list[str]
    measures: Annotated[list[str], "Fields of the record that fit it, in the order in which they are asked."]
    extent: Annotated[str, "What its extent is a share of; empty where none fits."]
    caution: Annotated[str, "What to do at once; empty where nothing is."]


class SignShown(WordOfList):
    """A sign: the part it is on and its usual mistake; whether it has a size, is counted over a known
    ground, and whether the look wounds.
    """

    part: str
    mistake: str
    sized: bool
    counted: bool
    wounds: bool
    in_leaf: bool


class CauseShown(WordOfList):
    """A cause: its Latin name and how much harm it does."""

    latin: str
    harm: str


class NearThing(WordOfList):
    """A thing near a place; `asks`: what must be known of it."""

    asks: list[str]


class JobStep(TypedDict):
    """A step of a job: what it is called as something to do, after which steps, the fields it asks for."""

    id: str
    label: str
    after: list[str]
    asks: list[str]


class EvidenceKind(TypedDict):
    """A kind of evidence: what it is given with, what it can find, whether it can cover many trees."""

    id: str
    label: str
    asks: list[str]
    results: list[str]
    wide: bool


class EvidenceOfCheck(TypedDict):
    """A check, and the kinds of evidence for it."""

    check: str
    title: str
    kinds: list[EvidenceKind]


class Vocabulary(TypedDict):
    """Everything the sheets need to work offline."""

    version: str
    organs: list[WordOfList]
    characters: list[Character]
    taxa: list[TaxonNode]
    stages: list[WordOfList]
    settings: list[WordOfList]
    signs: list[SignShown]
    causes: list[CauseShown]
    work_rules: list[WordOfList]
    acts: list[WordOfList]
    evidence: Annotated[list[EvidenceOfCheck], "Check -> what can close it."]
    job_steps: list[JobStep]
    emergency_asks: Annotated[list[str], "Fields of a step that is taken in an emergency."]
    asked_of_the_held: Annotated[list[str], "Fields asked for on a tree that wires hold, and on no other."]
    climbers: list[WordOfList]
    sign_words: Annotated[dict[str, list[WordOfList]], "Where a sign is, how many, since when."]
    conditions: list[WordOfList]
    stem_forms: list[StemForm]
    condition_parts: list[ConditionPart]
    defects: list[DefectWord]
    judged: dict[str, list[WordOfList]]
    near_things: Annotated[list[NearThing], "What a grown plant has to keep clear of."]
    records: RecordsShown
    terms: list[TermShown]
    areas: list[WordOfList]


class Tiles(TypedDict):
    """Answer tiles as SVG by character and state; under `stem_form` where to measure,
    under `defect` each defect.
    """

    version: str
    drawings: dict[str, dict[str, str]]


@lru_cache(maxsize=2)
def vocabulary(flora: Flora) -> Vocabulary:
    """Organs, characters, taxa and fixed words with their labels. The same for every organisation."""
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
        "signs": [
            {
                "id": s.id,
                "label": s.label,
                "help": s.how,
                "part": s.part,
                "mistake": s.mistake,
                "sized": s.size_mm is not None,
                "counted": s.counted,
                "wounds": s.wounds,
                "in_leaf": s.in_leaf,
            }
            for s in signs().values()
        ],
        "causes": [
            {"id": c.id, "label": c.name, "help": c.next, "latin": c.latin, "harm": c.harm}
            for c in health().causes.values()
        ],
        "acts": [
            {"id": a.id, "label": a.label, "help": ", ".join(TITLES[c] for c in a.checks)}
            for a in acts().values()
        ],
        "evidence": [
            {
                "check": check,
                "title": TITLES[check],
                "kinds": [
                    {
                        "id": kind,
                        "label": shown_word(kind),
                        "asks": evidence_asks(kind),
                        "results": list(LOOKS.get(kind, ())),
                        "wide": kind in WIDE_EVIDENCE,
                    }
                    for kind in kinds
                ],
            }
            for check, kinds in EVIDENCE.items()
        ],
        "work_rules": [{"id": r.id, "label": r.title, "help": r.do} for r in work_rules().rules.values()],
        "climbers": [{"id": taxon, "label": name} for taxon, name in climbers(flora).items()],
        "sign_words": {
            "where": _labelled(words.SIGN_PLACES),
            "extent": _labelled(words.SIGN_EXTENTS),
            "since": _labelled(words.SIGN_SINCE),
            "side": _labelled(words.SIDES),
            "insect": _labelled(words.INSECT_STAGES),
            "standing": _labelled(words.STANDINGS),
            "verdict": _labelled(words.VERDICTS),
        },
        "stem_forms": [
            {
                "id": k,
                "label": v["label"],
                "help": v.get("says", ""),
                "by": v.get("by", ""),
                "rules": v.get("rules", {}),
                "several": v.get("several", False),
                "quantity": v.get("quantity", "dbh_cm"),
                "method": v.get("method", ""),
                "height": v["height"],
            }
            for k, v in stem_forms().items()
        ],
        "condition_parts": [
            {
                "id": k,
                "label": v["label"],
                "grades": v["grades"],
                "leafless": v.get("leafless", ""),
                "unseen": v["unseen"],
            }
            for k, v in scores.parts().items()
        ],
        "defects": [
            {
                "id": k,
                "label": v["label"],
                "help": v["means"],
                "parts": v["parts"],
                "measures": v["measures"],
                "extent": v.get("extent", ""),
                "caution": v.get("caution", ""),
            }
            for k, v in scores.defects().items()
        ],
        "judged": {
            "base_visible": _labelled(words.BASE_VISIBLE),
            "crown_visible": _labelled(words.CROWN_VISIBLE),
            "flare": _labelled(words.FLARE),
            "crown_class": _labelled(words.CROWN_CLASSES),
            "crown_light": _labelled(words.CROWN_LIGHT),
            "vitality": _labelled(words.VITALITY),
            "stability": _labelled(words.STABILITY),
            "risk_part": _labelled(words.RISK_PARTS),
            "risk_target": _labelled(words.RISK_TARGETS),
            "occupancy": _labelled(words.OCCUPANCY),
            "can_move": _labelled(words.MOVABLE),
            "kept_out": _labelled(words.KEPT_OUT),
            "failure": _labelled(words.FAILURE),
            "impact": _labelled(words.IMPACT),
            "consequence": _labelled(words.CONSEQUENCE),
            "level": _labelled(words.LEVELS),
            "life": _labelled(words.LIFE_STATES),
        },
        "conditions": [{"id": k, "label": shown_word(k), "help": v} for k, v in CONDITION_WORDS.items()],
        "near_things": [
            {"id": kind, "label": thing["label"], "asks": asked_of(kind)}
            for kind, thing in near_things().items()
        ],
        "job_steps": [
            {
                "id": step,
                "label": label,
                "after": [before for before, then in NEXT.items() if then == step],
                "asks": list(asks),
            }
            for step, (label, asks) in ASKS.items()
        ],
        "emergency_asks": list(EMERGENCY_ASKS),
        "asked_of_the_held": list(OF_THE_HELD),
        "records": described_records(),
        "terms": terms(),
        "areas": sorted(
            ({"id": code, "label": area["name"]} for code, area in flora.area.items()),
            key=lambda area: area["label"],
        ),
    }


@lru_cache(maxsize=2)
def tiles(flora: Flora) -> Tiles:
    """A drawing for every state that can be drawn honestly; under `stem_form` where to measure."""
    drawings = {
        **state_drawings(flora),
        "stem_form": measuring_drawings(),
        "defect": defect_drawings(),
        "sign": sign_drawings(),
    }
    return {"version": flora.version, "drawings": drawings}


def _labelled(fixed: tuple[str, ...]) -> list[WordOfList]:
    return [{"id": word, "label": shown_word(word)} for word in fixed]


def _character(cid: str, c: dict[str, Any]) -> Character:
    return {
        "id": cid,
        "organ": c["organ"],
        "kind": c["kind"],
        "label": c["label"],
        "term": c["term"],
        "how": c["how"],
        "mistake": c["mistake"],
        "states": [_state(c, k, v) for k, v in c.get("labels", {}).items()],
        "unit": c.get("unit", ""),
        "range": c.get("range", []),
        "rests_on": sorted(c.get("requires", {})),
        "wounds": c["wounds"],
        "touch": c["touch"],
        "tools": c["tools"],
        "effort_s": c["effort_s"],
    }


def _state(c: dict[str, Any], state: str, label: str) -> StateWord:
    word: StateWord = {"id": state, "label": label}
    if help_ := c.get("means", {}).get(state):
        word["help"] = help_
    if state in c.get("retired", {}):
        word["retired"] = True
    return word
