"""Risk worksheet: one row for each part that may fail and each target it may hit; the tree takes its highest
row.

Matrices: ISA Best Management Practices: Tree Risk Assessment (Smiley, Matheny & Lilly 2011; 2nd edition
2017), companion to ANSI A300 Part 9, from memory. A worksheet records what was seen and computes by the
published tables; a qualified assessor decides.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.records.words import CONSEQUENCE, FAILURE, IMPACT, LEVELS, RATINGS

LIKELIHOOD = ("unlikely", "somewhat_likely", "likely", "very_likely")
DECIDES = "A qualified assessor decides; local rules take precedence."

# row: likelihood of failure; column: likelihood of impact -> likelihood of both
_BOTH = {
    "imminent": ("unlikely", "somewhat_likely", "likely", "very_likely"),
    "probable": ("unlikely", "unlikely", "somewhat_likely", "likely"),
    "possible": ("unlikely", "unlikely", "unlikely", "somewhat_likely"),
    "improbable": ("unlikely", "unlikely", "unlikely", "unlikely"),
}
# row: likelihood of failure and impact; column: consequence -> rating
_RATING = {
    "very_likely": ("low", "moderate", "high", "extreme"),
    "likely": ("low", "moderate", "high", "high"),
    "somewhat_likely": ("low", "low", "moderate", "moderate"),
    "unlikely": ("low", "low", "low", "low"),
}


def rating(failure: str, impact: str, consequence: str) -> str:
    """The rating of one row: low, moderate, high or extreme. Raises InputError naming the field."""
    require_one_of("failure", failure, FAILURE)
    require_one_of("impact", impact, IMPACT)
    require_one_of("consequence", consequence, CONSEQUENCE)
    likelihood = _BOTH[failure][IMPACT.index(impact)]
    return _RATING[likelihood][CONSEQUENCE.index(consequence)]


def worksheet(
    rows: Sequence[dict[str, Any]],
    *,
    years: float | None,
    level: str,
    base_seen: bool,
    crown_seen: bool,
    on: datetime.date,
    next_inspection_months: int | None = None,
) -> dict[str, Any]:
    """The worksheet of a tree.

    rows: {part, target, failure, impact, consequence, work?, failure_after?}: a part that may fail, what it
    may hit, the three likelihoods, and, where work is proposed, how likely failure stays after it. years: the
    time frame the likelihoods are meant for, mandatory, 0.1 to 10. level: limited_visual or basic.
    next_inspection_months: 1 to 120. Returns rows with `rating` and `residual`, the tree's `rating` and
    `residual`
    (its highest rows; None with `why` where base or crown was not seen), years, level, next_inspection (a
    date or
    None) and `says`. Raises InputError naming the field and row.
    """
    if years is None:
        raise InputError(
            "years", "nothing", "the time frame in years, without which a likelihood says nothing"
        )
    require_between("years", years, 0.1, 10, "years")
    require_one_of("level", level, LEVELS)
    if not rows:
        raise InputError("rows", "none", "one row or more: a part that may fail and what it may hit")
    judged = [_row(i, row) for i, row in enumerate(rows)]
    missing = [name for name, seen in (("base", base_seen), ("crown", crown_seen)) if not seen]
    next_inspection = None
    if next_inspection_months is not None:
        months = (
            on.month
            - 1
            + int(require_between("next_inspection_months", next_inspection_months, 1, 120, "months"))
        )
        next_inspection = datetime.date(on.year + months // 12, months % 12 + 1, min(on.day, 28)).isoformat()
    highest = {key: max((r[key] for r in judged), key=RATINGS.index) for key in ("rating", "residual")}
    return {
        "rows": judged,
        "rating": None if missing else highest["rating"],
        "residual": None if missing else highest["residual"],
        "why": f"No rating: the {' and the '.join(missing)} could not be seen." if missing else "",
        "years": years,
        "level": level,
        "next_inspection": next_inspection,
        "says": DECIDES,
    }


def _row(i: int, row: dict[str, Any]) -> dict[str, Any]:
    for key in ("part", "target"):
        if not isinstance(row.get(key), str) or not row[key].strip() or len(row[key]) > 80:
            raise InputError(f"rows[{i}].{key}", row.get(key), "a few words, at most 80 characters")
    try:
        found = rating(*(row.get(k, "") for k in ("failure", "impact", "consequence")))
        after = row.get("failure_after") or row["failure"]
        residual = rating(after, row["impact"], row["consequence"])
    except InputError as error:
        raise InputError(f"rows[{i}].{error.place}", error.value, error.allowed) from None
    if RATINGS.index(residual) > RATINGS.index(found):
        raise InputError(
            f"rows[{i}].failure_after", after, f"no likelier than before the work ({row['failure']})"
        )
    return {**row, "rating": found, "residual": residual}
