"""The year of a ground: what each of its taxa shows in a month, and how to tell it then from what it is taken
for.
"""

from __future__ import annotations

import datetime
from typing import Any

from jubark_core.checks import require_between
from jubark_core.flora.model import Flora
from jubark_core.flora.side_by_side import side_by_side
from jubark_core.season.calendar import organ_calendar
from jubark_core.season.windows import Place, day_of_year, visible

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


def month_sheet(
    flora: Flora, place: Place, counts: dict[str, int], year: int, month: int
) -> list[dict[str, Any]]:
    """One row for each described taxon of `counts` (taxon -> stems), by name.

    taxon, name, common, stems; `shows`: what it shows in the month, in words, with the third of the month
    where it is not all of it; `lanes`: organ, label and its 24 half-months for leaf, flower and fruit;
    `told`: look-alikes with the looks on the plant that part the two in that month. Raises InputError for a
    month or year that is none.
    """
    on = datetime.date(
        int(require_between("year", year, 1900, 2200)), int(require_between("month", month, 1, 12)), 15
    )
    rows = [
        _row(flora, place, taxon, stems, on) for taxon, stems in counts.items() if taxon in flora.evergreen
    ]
    return sorted(rows, key=lambda row: row["name"])


def _row(flora: Flora, place: Place, taxon: str, stems: int, on: datetime.date) -> dict[str, Any]:
    t, days, evergreen = flora.taxa[taxon], flora.days(taxon, place), flora.evergreen[taxon]
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
        "stems": stems,
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
        "told": [
            _told(flora, place, taxon, pair["taxon"], on) for pair in t.get("look_alikes", ())[:MOST_ALIKE]
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


def _told(flora: Flora, place: Place, taxon: str, other: str, on: datetime.date) -> dict[str, Any]:
    rows = [r for r in side_by_side(flora, [taxon, other], on, place)["rows"] if r["where"] == "plant"]
    rows.sort(
        key=lambda r: any(";" in says for says in r["says"])
    )  # what changes with age takes more words than a sheet has
    return {
        "name": flora.taxa[other]["name"],
        "by": [f"{r['label'].lower()}: {r['says'][0]}, not {r['says'][1]}" for r in rows[:MOST_LOOKS]],
    }
