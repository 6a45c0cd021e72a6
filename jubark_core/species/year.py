"""The year of a site: what each of its taxa shows in a month, and how to tell it then from what it is taken
for.
"""

from __future__ import annotations

import datetime
from typing import Annotated, TypedDict

from jubark_core.checks import require_between
from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible
from jubark_core.species.calendar import organ_calendar
from jubark_core.species.side_by_side import side_by_side


class Lane(TypedDict):
    """An organ through 24 half-months, 0 to 1."""

    organ: str
    label: str
    year: list[float]


class SeparatedBy(TypedDict):
    """A look-alike and the observations that separate the two in that month."""

    name: str
    by: list[str]


class MonthRow(TypedDict):
    """A taxon of the site in a month."""

    taxon: str
    name: str
    common: str
    plants: int
    shows: Annotated[list[str], "What it shows, in words."]
    lanes: list[Lane]
    separated: list[SeparatedBy]


LANES = ("leaf", "flower", "fruit")
# visibility class -> what is said of it on the sheet, in the order it is said
SHOWS = {
    "leaf_fall": "bare: twig, bud and bark",
    "leaf_on": "in leaf",
    "autumn_colour": "autumn colour",
    "flowering": "flowers",
    "fruit_forming": "fruit forming",
    "fruit_ripe": "fruit ripe",
    "fruit_hanging": "fruit hangs",
}
THIRDS = {"early": 5, "in the middle": 15, "late": 25}  # a day that stands for each third of the month
MOST_ALIKE, MOST_LOOKS = 2, 3


def month_sheet(flora: Flora, place: Place, counts: dict[str, int], year: int, month: int) -> list[MonthRow]:
    """One row for each described taxon of `counts` (taxon -> plants), by name.

    taxon, name, common, plants; `shows`: what it shows in the month, in words, with the third of the month
    where it is not all of it; `lanes`: organ, label and its 24 half-months for leaf, flower and fruit;
    `separated`: look-alikes with the looks on the plant that separate the two in that month. Raises
    InputError for a month or year that is none.
    """
    on = datetime.date(
        int(require_between("year", year, 1900, 2200)), int(require_between("month", month, 1, 12)), 15
    )
    rows = [
        _row(flora, place, taxon, plants, on) for taxon, plants in counts.items() if taxon in flora.evergreen
    ]
    return sorted(rows, key=lambda row: row["name"])


def _row(flora: Flora, place: Place, taxon: str, plants: int, on: datetime.date) -> MonthRow:
    t, days, evergreen = flora.taxa[taxon], days_of(flora, taxon, place), flora.evergreen[taxon]
    shown = {
        words: _when(kind, days, evergreen, on)
        for kind, words in SHOWS.items()
        if not (evergreen and kind in ("leaf_fall", "autumn_colour"))
    }
    calendar = organ_calendar(flora, place, on, {taxon: 1})
    return {
        "taxon": taxon,
        "name": t["name"],
        "common": (t.get("common") or [""])[0],
        "plants": plants,
        "shows": [
            "evergreen" if evergreen and words == "in leaf" else words + when
            for words, when in shown.items()
            if when is not None
        ],
        "lanes": [
            {"organ": r["organ"], "label": r["label"], "year": r["year"]}
            for r in calendar
            if r["organ"] in LANES
        ],
        "separated": [
            _separated(flora, place, taxon, pair["taxon"], on)
            for pair in t.get("look_alikes", ())[:MOST_ALIKE]
        ],
    }


def _when(kind: str, days: dict[str, float], evergreen: bool, on: datetime.date) -> str | None:
    """Empty where it shows all month, ' (early)' and the like where it shows in a part of it, None where it
    does not.
    """
    parts = [
        word
        for word, day in THIRDS.items()
        if visible(kind, days, day_of_year(on.replace(day=day)), evergreen) > 0.5
    ]
    if not parts:
        return None
    return "" if len(parts) == len(THIRDS) else f" ({' and '.join(parts)})"


def _separated(flora: Flora, place: Place, taxon: str, other: str, on: datetime.date) -> SeparatedBy:
    rows = [r for r in side_by_side(flora, [taxon, other], on, place)["rows"] if r["where"] == "plant"]
    rows.sort(
        key=lambda r: any(";" in says for says in r["says"])
    )  # what changes with age takes more words than a sheet has
    return {
        "name": flora.taxa[other]["name"],
        "by": [f"{r['label'].lower()}: {r['says'][0]}, not {r['says'][1]}" for r in rows[:MOST_LOOKS]],
    }
