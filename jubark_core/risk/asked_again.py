"""What is hardly meant as it stands in a worksheet or a defect: a sentence with two ways out, no refusal."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from typing import Annotated, TypedDict

from jubark_core.records.judged import Defect, Risk
from jubark_core.units import shown

LONG_FRAME_YEARS = 5.0  # likelihoods are meant for one to five years (common practice)
TWIG_CM = 2.0  # what is thinner seldom harms severely (common practice)


class AskedAgain(TypedDict):
    """A sentence about one field, and the two ways out of it."""

    field: str
    says: str
    ways: Annotated[list[str], "To mend it, and to keep it as it is."]


def asked_of_sheet(sheet: Risk, on: date, latest: date | None, units: str) -> list[AskedAgain]:
    """Of a worksheet of a day. latest: the day by which the owner's table asks for the next inspection."""
    return list(_of_sheet(sheet, on, latest, units))


def asked_of_defect(defect: Defect, dbh_cm: float | None, units: str) -> list[AskedAgain]:
    """Of a defect on a stem of so many centimetres."""
    if defect.wall_cm is None or dbh_cm is None or defect.wall_cm <= dbh_cm / 2:
        return []
    wall, half = shown(defect.wall_cm, "cm", units), shown(dbh_cm / 2, "cm", units)
    return [_asked("wall_cm", f"The sound wall of {wall} is thicker than half the stem, {half}.")]


def _of_sheet(sheet: Risk, on: date, latest: date | None, units: str) -> Iterator[AskedAgain]:
    due = sheet.next_inspection
    if due is not None and due <= on:
        yield _asked("next_inspection", f"The next inspection, {due}, is not after this visit of {on}.")
    if due is not None and latest is not None and due > latest:
        yield _asked(
            "next_inspection", f"The owner's table asks for the next inspection by {latest}, not {due}."
        )
    if sheet.rating == "extreme" and sheet.kept_out != "done" and due is None:
        yield _asked("kept_out", "Extreme, with nobody kept out and no next look.")
    if sheet.years > LONG_FRAME_YEARS:
        yield _asked("years", f"A likelihood over {sheet.years:g} years says little; one to five are usual.")
    for i, row in enumerate(sheet.rows):
        if row.consequence == "severe" and row.part_cm is not None and row.part_cm <= TWIG_CM:
            thick = shown(row.part_cm, "cm", units)
            yield _asked(f"rows[{i}].consequence", f"{row.part} of {thick} with severe consequences.")


def _asked(field: str, says: str) -> AskedAgain:
    return {"field": field, "says": says, "ways": ["Mend it", "It is so"]}
