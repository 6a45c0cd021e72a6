"""Risk worksheet: one row for each part that may fail and each target it may hit; the tree takes its highest
row, and says what was not seen.

Matrices: ISA Best Management Practices: Tree Risk Assessment (Smiley, Matheny & Lilly 2011; 2nd edition
2017), companion to ANSI A300 Part 9, from memory. A worksheet records what was seen and computes by the
published tables; a qualified assessor decides.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal, TypedDict

from jubark_core.checks import require_between, require_one_of
from jubark_core.errors import InputError
from jubark_core.records.words import (
    BASE_VISIBLE,
    CONSEQUENCE,
    CROWN_VISIBLE,
    FAILURE,
    IMPACT,
    LEVELS,
    RATINGS,
)

LIKELIHOOD = ("unlikely", "somewhat_likely", "likely", "very_likely")
DECIDES = "A qualified assessor decides; local rules take precedence."
HIGH_DAYS = 28  # days within which a high risk is dealt with, where the owner has set none
SEEN = {"base": BASE_VISIBLE, "crown": CROWN_VISIBLE}  # the first word of each: the whole of it was seen

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
FACTORS = {"failure": FAILURE, "impact": IMPACT, "consequence": CONSEQUENCE}

Urgency = Literal["now", "within_days", "warn", "none"]
_URGENT: tuple[Urgency, ...] = ("none", "warn", "within_days", "now")
NOW = (
    "Keep people out of where it would fall, now, and stay out from under it yourself. Then call whoever "
    "must act. Only the road authority or the police close a road."
)
WARN = (
    "Failure is imminent, though hardly anybody is there: warn whoever comes, keep out, and stay out from "
    "under it yourself."
)


class Act(TypedDict):
    """What has to be done, and how soon, before anything else is written down."""

    urgency: Annotated[Urgency, "now: keep people out; within_days: restrict the target; warn; none."]
    says: str


class RatedRow(TypedDict):
    """A rated row of the worksheet."""

    likelihood: Annotated[str, "Of failure and impact together, by the first matrix."]
    rating: str
    residual: str
    act: Act


class RatedSheet(TypedDict):
    """A rated worksheet. rating: the highest row; what was not seen makes it a least, never a lower one."""

    rows: list[RatedRow]
    rating: str
    residual: str
    complete: Annotated[bool, "Base and crown were both seen whole."]
    reads: Annotated[str, "The rating as it is printed: 'Low', 'At least extreme: base not seen'."]
    residual_reads: Annotated[str, "The same after the work."]
    act: Act
    proposed: Annotated[list[str], "What to look at before it can be called rated."]
    years: float
    says: str


def likelihood_of_both(failure: str, impact: str) -> str:
    """How likely failure and impact are together: a word of LIKELIHOOD. Raises InputError by field."""
    require_one_of("failure", failure, FAILURE)
    require_one_of("impact", impact, IMPACT)
    return _BOTH[failure][IMPACT.index(impact)]


def rating(failure: str, impact: str, consequence: str) -> str:
    """The rating of one row: low, moderate, high or extreme. Raises InputError naming the field."""
    both = likelihood_of_both(failure, impact)
    require_one_of("consequence", consequence, CONSEQUENCE)
    return _RATING[both][CONSEQUENCE.index(consequence)]


def worksheet(
    rows: Sequence[dict[str, Any]],
    *,
    years: float | None,
    level: str,
    base_seen: str,
    crown_seen: str,
    high_days: int = HIGH_DAYS,
) -> RatedSheet:
    """The worksheet of a tree.

    rows: {part, target, failure, impact, consequence, failure_after?, impact_after?, consequence_after?}: a
    part that may fail, what it may hit, the three factors, and what stays of each once the work is done.
    years: the time frame the likelihoods are meant for, mandatory, 0.1 to 10. level: limited_visual or basic.
    base_seen, crown_seen: how much of each was seen. high_days: within which the owner deals with a high
    risk. Raises InputError naming the field and row.
    """
    if years is None:
        raise InputError(
            "years", "nothing", "the time frame in years, without which a likelihood says nothing"
        )
    require_between("years", years, 0.1, 10, "years")
    require_one_of("level", level, LEVELS)
    seen = {"base": base_seen, "crown": crown_seen}
    for part, words in SEEN.items():
        require_one_of(f"{part}_seen", seen[part], words)
    if not rows:
        raise InputError("rows", "none", "one row or more: a part that may fail and what it may hit")
    judged = [_row(i, row, high_days) for i, row in enumerate(rows)]
    highest, residual = (max((r[key] for r in judged), key=RATINGS.index) for key in ("rating", "residual"))
    return {
        "rows": judged,
        "rating": highest,
        "residual": residual,
        "complete": not _unseen(seen),
        "reads": reads(highest, seen),
        "residual_reads": reads(residual, seen),
        "act": max((r["act"] for r in judged), key=lambda act: _URGENT.index(act["urgency"])),
        "proposed": [
            f"Look at the {part} {'all round' if part == 'base' else 'from every side'}; until then this is "
            "a least."
            for part, _ in _unseen(seen)
        ],
        "years": years,
        "says": DECIDES,
    }


def order(rated: str, complete: bool) -> int:
    """Where a rating stands among others, 0 to 7: by class, the incomplete above the complete of a class."""
    return 2 * RATINGS.index(rated) + (not complete)


def is_complete(base_seen: str, crown_seen: str) -> bool:
    """Whether both were seen whole: what is seen in part is not seen."""
    return not _unseen({"base": base_seen, "crown": crown_seen})


def reads(rated: str, seen: dict[str, str]) -> str:
    """A rating as it is printed, with what was not seen. seen: base and crown -> how much of it was."""
    unseen = _unseen(seen)
    hidden = [part for part, how in unseen if how == "not_visible"]
    if not unseen:
        return rated.capitalize()
    if not hidden:
        return f"Incomplete: at least {rated}"
    in_part = [part for part, how in unseen if how == "partly"]
    more = f", {in_part[0]} seen in part" if in_part else ""
    return f"At least {rated}: {' and '.join(hidden)} not seen{more}"


def _unseen(seen: dict[str, str]) -> list[tuple[str, str]]:
    return [(part, seen[part]) for part, words in SEEN.items() if seen[part] != words[0]]


def _row(i: int, row: dict[str, Any], high_days: int) -> RatedRow:
    for key in ("part", "target"):
        if not isinstance(row.get(key), str) or not row[key].strip() or len(row[key]) > 80:
            raise InputError(f"rows[{i}].{key}", row.get(key), "a few words, at most 80 characters")
    now = {name: row.get(name, "") for name in FACTORS}
    after = {name: row.get(f"{name}_after") or now[name] for name in FACTORS}
    try:
        found, residual = rating(**now), rating(**after)
    except InputError as error:
        stays = "_after" if now.get(error.place) in FACTORS.get(error.place, ()) else ""
        raise InputError(f"rows[{i}].{error.place}{stays}", error.value, error.allowed) from None
    for name, words in FACTORS.items():
        if words.index(after[name]) > words.index(now[name]):
            raise InputError(
                f"rows[{i}].{name}_after", after[name], f"no more than before the work ({now[name]})"
            )
    return {
        "likelihood": likelihood_of_both(now["failure"], now["impact"]),
        "rating": found,
        "residual": residual,
        "act": _act(now["failure"], now["impact"], found, high_days),
    }


def _act(failure: str, impact: str, rated: str, high_days: int) -> Act:
    imminent = failure == "imminent"
    if rated == "extreme" or (imminent and IMPACT.index(impact) >= IMPACT.index("medium")):
        return {"urgency": "now", "says": NOW}
    if rated == "high":
        return {
            "urgency": "within_days",
            "says": f"Restrict the target until the work is done, within {high_days} days.",
        }
    return {"urgency": "warn", "says": WARN} if imminent else {"urgency": "none", "says": ""}
