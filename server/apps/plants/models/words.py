"""Fixed words of the records, as choices."""

from jubark_core.condition import risk, scores
from jubark_core.condition.words import CONDITION_WORDS
from jubark_core.flora.words import ORIGINS as CORE_ORIGINS
from jubark_core.flora.words import SEEN as CORE_SEEN
from jubark_core.flora.words import SEXES as CORE_SEXES
from jubark_core.flora.words import STAGES as CORE_STAGES
from jubark_core.size.compute import QUANTITIES as CORE_QUANTITIES
from jubark_core.size.where import stem_forms


def choices(words: object) -> list[tuple[str, str]]:
    """Word -> word with spaces, for a Django field."""
    return [(w, w.replace("_", " ")) for w in words]  # type: ignore[attr-defined]


STAGES = choices(CORE_STAGES)
ORIGINS = choices(CORE_ORIGINS)
SEXES = choices(CORE_SEXES)
SEEN = choices(CORE_SEEN)
QUANTITIES = choices(CORE_QUANTITIES)
CONDITIONS = choices(CONDITION_WORDS)
CERTAINTIES = choices(("sure", "likely", "unsure"))
HOW_TAKEN = choices(("tapped", "typed", "bearing", "satellite", "surveyed", "imported"))
MODES = choices(("field", "desk", "bulk", "import"))
METHODS = choices(("estimated", "paced", "taped", "instrument"))
LIFE_STATES = choices(("alive", "standing_dead", "fallen", "stump", "resprout", "removed", "not_found"))
TAG_STATES = choices(("set", "lost", "retired", "second"))
RANKS = choices(
    ("family", "genus", "section", "group", "species", "variety", "hybrid", "cultivar", "unknown")
)
PARTS = choices(("roots", "base", "trunk", "limb", "twig", "leaf", "crown"))
DEFECTS = choices(scores.defects())
BASE_VISIBLE = choices(scores.BASE_VISIBLE)
FLARE = choices(scores.FLARE)
CROWN_CLASSES = choices(scores.CROWN_CLASSES)
CROWN_LIGHT = choices(scores.LIGHT)
STEM_FORMS = choices(stem_forms())
RISK_LEVELS = choices(risk.LEVELS)
RATINGS = choices(risk.RATING)
KINDS = choices(
    (
        "look",
        "determination",
        "measurement",
        "condition",
        "defect",
        "risk",
        "sign",
        "photo",
        "voucher",
        "note",
        "tag",
        "life",
        "clock_confirmed",
    )
)
