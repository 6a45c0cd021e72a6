"""Where to measure a stem: breast height is a set of rules, not a number."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Annotated, Any, NotRequired, TypedDict

from jubark_core.checks import require_between, require_one_of
from jubark_core.records.words import (
    BREAST_HEIGHTS_M,
    FORK_BY,
    LIMBS_AS,
    LOW_FORK,
    SLOPE_FROM,
    SWELLING,
    shown_word,
)
from jubark_core.units import shown

FORMS_FILE = Path(__file__).with_name("where.toml")
SAME_M = 0.02  # heights nearer than this are the same point of measurement
# Where schools differ: the setting of a site -> its words, the usual one first.
RULES: dict[str, tuple[str, ...]] = {
    "fork_by": FORK_BY[::-1],
    "low_fork": LOW_FORK,
    "limbs_as": LIMBS_AS[::-1],
    "slope_from": SLOPE_FROM,
    "swelling": SWELLING,
}
_USUAL = {setting: words[0] for setting, words in RULES.items()}
LENGTH = re.compile(r"\{([0-9.]+) m\}")
NO_RULES: Mapping[str, str] = {}


class WhereIn(TypedDict):
    """A form of the stem, breast height by the convention of the site, and its rules."""

    form: str
    breast_height_m: float
    painted_m: NotRequired[Annotated[float | None, "Height of a painted point of an earlier visit."]]
    rules: NotRequired[Annotated[dict[str, str], "Setting of the site -> its word."]]


class WhereOut(TypedDict):
    """The place of the tape."""

    form: str
    label: str
    says: str
    height_m: Annotated[float | None, "Null where it is found on the stem."]
    quantity: str
    several: bool
    method: Annotated[str | None, "By eye where the stem must not be touched."]


@lru_cache(maxsize=1)
def stem_forms() -> dict[str, dict[str, Any]]:
    """Form of the stem -> label, sentence with H for breast height, height, and where it applies: several,
    quantity, method.
    """
    return tomllib.loads(FORMS_FILE.read_text(encoding="utf-8"))


def sentence(
    form: str, breast_height: str, rules: Mapping[str, str] = NO_RULES, units: str = "metric"
) -> str:
    """The sentence of a form by the rules of a site, with breast height in the words given ('1.37 m').

    rules: setting of the site -> its word, where it is not the usual one. In the file breast height stands
    as the single letter H, a setting in braces for the words of what was chosen, and a length in braces for
    that length in units.
    """
    guide, chosen = stem_forms()[form], {**_USUAL, **rules}
    text = guide["rules"][chosen[guide["by"]]] if "by" in guide else guide["says"]
    for setting, word in chosen.items():
        text = text.replace(f"{{{setting}}}", shown_word(word))
    text = LENGTH.sub(lambda found: shown(float(found[1]), "m", units, 2), str(text))
    return re.sub(r"\bH\b", breast_height, text)


def where_to_measure(
    form: str, breast_height_m: float, painted_m: float | None = None, rules: Mapping[str, str] = NO_RULES
) -> WhereOut:
    """The place of the tape for a stem form, in one sentence.

    form: a word of `stem_forms`. breast_height_m: the convention of the site. painted_m: height of a
    painted point of an earlier visit; it is used again whatever the form. rules: as for `sentence`. Returns
    form, label, says, height_m (None where it is found on the stem), quantity, several, method (None, or
    `estimated` where the stem must not be touched). Raises InputError.
    """
    require_one_of("form", form, stem_forms())
    require_between("breast_height_m", breast_height_m, 1.0, 2.0, "m")
    for setting, word in rules.items():
        require_one_of("rules", setting, RULES)
        require_one_of(f"rules.{setting}", word, RULES[setting])
    guide = stem_forms()[form]
    says, height = (
        sentence(form, f"{breast_height_m:.2f} m", rules),
        breast_height_m if guide["height"] == "H" else None,
    )
    if painted_m is not None and guide.get("method") != "estimated":
        height = require_between("painted_m", painted_m, 0.05, 6, "m")
        says = f"At the painted point, {height:.2f} m, as at the last visit. {says}"
    own = form == "fork_below" and {**_USUAL, **rules}["limbs_as"] == "own_stems"
    return {
        "form": form,
        "label": guide["label"],
        "says": says,
        "height_m": height,
        "quantity": guide.get("quantity", "dbh_cm"),
        "several": guide.get("several", False) and not own,
        "method": guide.get("method"),
    }


def comparable(height_a_m: float | None, height_b_m: float | None, units: str = "metric") -> str:
    """Empty where two diameters were taken at one height, else why they cannot be compared as they stand."""
    if height_a_m is None or height_b_m is None:
        return "The height of one of the two measurements is not known."
    if abs(height_a_m - height_b_m) < SAME_M:
        return ""
    conventions = all(any(abs(h - c) < SAME_M for c in BREAST_HEIGHTS_M) for h in (height_a_m, height_b_m))
    kind = "by two conventions of breast height" if conventions else "at two heights of the stem"
    one, two = (shown(h, "m", units, 2) for h in (height_a_m, height_b_m))
    return f"Taken {kind}: {one} and {two}. A stem tapers; the difference is not growth."
