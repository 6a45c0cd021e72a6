"""Where to measure a stem: breast height is a set of rules, not a number."""

from __future__ import annotations

import math
import re
import tomllib
from functools import lru_cache
from pathlib import Path
from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.records.words import BREAST_HEIGHTS_M
from jubark_core.units import shown

FORMS_FILE = Path(__file__).with_name("where.toml")
SAME_M = 0.02  # heights nearer than this are the same point of measurement


@lru_cache(maxsize=1)
def stem_forms() -> dict[str, dict[str, Any]]:
    """Form of the stem -> label, sentence with H for breast height, height, and where it applies: several,
    quantity, method.
    """
    return tomllib.loads(FORMS_FILE.read_text(encoding="utf-8"))


def sentence(form: str, breast_height: str) -> str:
    """The sentence of a form, with breast height in the words given ('1.37 m'). In the file it stands as the
    single letter H.
    """
    return re.sub(r"\bH\b", breast_height, str(stem_forms()[form]["says"]))


def where_to_measure(form: str, breast_height_m: float, painted_m: float | None = None) -> dict[str, Any]:
    """The place of the tape for a stem form, in one sentence.

    form: a word of `stem_forms`. breast_height_m: the convention of the site. painted_m: height of a
    painted point of an earlier visit; it is used again whatever the form. Returns form, label, says, height_m
    (None where it is found on the stem), quantity, several, method (None, or `estimated` where the stem must
    not be touched). Raises InputError.
    """
    require_one_of("form", form, stem_forms())
    require_between("breast_height_m", breast_height_m, 1.0, 2.0, "m")
    guide = stem_forms()[form]
    says, height = (
        sentence(form, f"{breast_height_m:.2f} m"),
        breast_height_m if guide["height"] == "H" else None,
    )
    if painted_m is not None and guide.get("method") != "estimated":
        height = require_between("painted_m", painted_m, 0.05, 6, "m")
        says = f"At the painted point, {height:.2f} m, as at the last visit. {says}"
    return {
        "form": form,
        "label": guide["label"],
        "says": says,
        "height_m": height,
        "quantity": guide.get("quantity", "dbh_cm"),
        "several": guide.get("several", False),
        "method": guide.get("method"),
    }


def stems_at_fork(fork_height_m: float, breast_height_m: float) -> int:
    """One stem or two: a fork below breast height makes two, at or above it one. Heights in m of the crotch
    and the convention.
    """
    require_between("fork_height_m", fork_height_m, 0, 60, "m")
    return 2 if fork_height_m < breast_height_m else 1


def axis_height_m(vertical_m: float, lean_deg: float) -> float:
    """How far up a leaning stem a vertical height lies, along its axis: vertical / cos(lean). lean_deg: 0 to
    60 from upright.
    """
    return require_between("vertical_m", vertical_m, 0, 6, "m") / math.cos(
        math.radians(require_between("lean_deg", lean_deg, 0, 60, "degrees"))
    )


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
