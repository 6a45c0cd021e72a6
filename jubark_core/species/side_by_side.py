"""Two to four taxa side by side: only what differs, first what can be seen on the day."""

from __future__ import annotations

import datetime
from functools import lru_cache
from typing import Annotated, Literal, TypedDict

from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.review import separating_any
from jubark_core.flora.views import days_of
from jubark_core.season.days import YEAR, day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible
from jubark_core.species.portrait import in_short

Where = Literal["plant", "ground", "later"]


class TaxonSide(TypedDict):
    """One of the taxa."""

    taxon: str
    name: str
    common: str
    rank: str


Difference = TypedDict(
    "Difference",
    {
        "character": str,
        "label": str,
        "says": Annotated[list[str], "One for each taxon."],
        "where": Where,
        "from": Annotated[str | None, "For later ones, the date from which all show it."],
    },
)
Difference.__doc__ = "A character in which the taxa differ."


class SideBySide(TypedDict):
    """Two to four taxa and what differs."""

    taxa: list[TaxonSide]
    rows: list[Difference]


FEWEST, MOST = 2, 4
STEP_DAYS = 5
MOST_SHOWN = 3


def side_by_side(flora: Flora, taxa: list[str], on: datetime.date, place: Place) -> SideBySide:
    """`taxa`: id, name, common; `rows`: character, label, says (one per taxon), where ('plant', 'ground' or
    'later') and, for later ones, the date from which all of them show it (null: no day of the year). Clearest
    first within each.
    Raises InputError."""
    if not FEWEST <= len(set(taxa)) <= MOST or len(set(taxa)) < len(taxa):
        raise InputError("taxa", ", ".join(taxa), f"{FEWEST} to {MOST} different taxa")
    for taxon in taxa:
        if taxon not in flora.taxa or "states" not in flora.taxa[taxon]:
            raise InputError("taxa", taxon, "taxa the flora describes")
    apart = list(
        dict.fromkeys(cid for season in ("summer", "winter") for cid in separating_any(flora, taxa, season))
    )
    rows = [_difference(flora, taxa, cid, on, place) for cid in apart]
    rows.sort(key=lambda row: (("plant", "ground", "later").index(row["where"]), row["from"] or "9999"))
    return {
        "taxa": [
            {
                "taxon": t,
                "name": flora.taxa[t]["name"],
                "common": (flora.taxa[t].get("common") or [""])[0],
                "rank": flora.taxa[t]["rank"],
            }
            for t in taxa
        ],
        "rows": rows,
    }


def _difference(flora: Flora, taxa: list[str], character: str, on: datetime.date, place: Place) -> Difference:
    where, since = _shown(flora, taxa, character, on, place)
    return {
        "character": character,
        "label": flora.characters[character]["label"],
        "says": [in_short(flora, t, character) for t in taxa],
        "where": where,
        "from": since,
    }


def _shown(
    flora: Flora, taxa: list[str], character: str, on: datetime.date, place: Place
) -> tuple[Where, str | None]:
    kinds = flora.characters[character].get("visible", ["always"])
    on_plant = [k for k in kinds if k != "litter"]

    def all_show(day: int) -> bool:
        return all(
            max(
                (visible(k, days_of(flora, t, place), day, flora.evergreen[t]) for k in on_plant), default=0.0
            )
            >= 0.5
            for t in taxa
        )

    if all_show(day_of_year(on)):
        return "plant", None
    if "litter" in kinds:
        return "ground", None
    later = (on + datetime.timedelta(days=d) for d in range(STEP_DAYS, YEAR, STEP_DAYS))
    return "later", next((d.isoformat() for d in later if all_show(day_of_year(d))), None)


@lru_cache(maxsize=512)
def shows_now(flora: Flora, taxa: tuple[str, ...], on: datetime.date, place: Place) -> list[str]:
    """The first characters in which taxa differ and that can be seen on the plant on the day, the clearest
    first; none where the flora describes no plant of one of them, as of a name above the species.
    """
    if len(set(taxa)) < FEWEST or any("states" not in flora.taxa.get(t, {}) for t in taxa[:MOST]):
        return []
    rows = side_by_side(flora, list(taxa[:MOST]), on, place)["rows"]
    return [row["label"].lower() for row in rows if row["where"] == "plant"][:MOST_SHOWN]
